"""The wear of a zone as it is planned, with a photo or without one: its face, where it wears, each kind, and stop marks."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.answers.preview.texture import Frame
from lean_sepia.answers.strata import Inputs, same_inputs
from lean_sepia.answers.wearing.places import SOURCE_WORDS
from lean_sepia.answers.wearing.planning import planned_share, veiled_share, with_heaviness
from lean_sepia.answers.wearing.simulating import STOP_SHARES, simulate, stop_marks
from lean_sepia.answers.wearing.surveying import measured_region
from lean_sepia.document.entities.worn import WearPlan
from lean_sepia.document.model import Zone
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.exporting import export_button
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import button, holder, label, row, scrolled
from lean_sepia.ui.kit.theme import SECOND, WELL, font
from lean_sepia.ui.kit.true_size import px_per_mm
from lean_sepia.ui.photo.screen_image import to_image
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.wear.heaviness import Heaviness
from lean_sepia.ui.wear.planned import Planned
from lean_sepia.ui.wear.planning.how_panel import HowPanel
from lean_sepia.ui.wear.planning.planned_rows import PlannedRows
from lean_sepia.ui.wear.planning.traffic_map import TrafficMap
from lean_sepia.ui.wear.planning.vehicle_map import VehiclePanel

_USUAL_CM2, _LEAST_PX_PER_MM = 80.0, 1.5
_MARKS_TALL, _GAP, _FOOT = 40, 8, 16


@guarded
class StopMarks(QWidget):
    """This ground with its own marks at a few shares, as large as on the model, to hold the model beside."""

    def __init__(self) -> None:
        super().__init__()
        self._shown: tuple[tuple[float, QImage], ...] = ()
        self.setFixedHeight(_MARKS_TALL + _FOOT)

    def sizeHint(self) -> QSize:
        return QSize(600, _MARKS_TALL + _FOOT)

    @property
    def patch_size(self) -> tuple[int, int]:
        """Breadth and height of one patch in pixels."""
        count = len(STOP_SHARES)
        return max(24, (self.width() - _GAP * (count - 1)) // count), _MARKS_TALL

    def show_marks(self, shown: tuple[tuple[float, QImage], ...]) -> None:
        """Show patches with the share each has."""
        self._shown = shown
        self.setAccessibleName(
            _("Stop marks: {0}").format(", ".join(f"{100 * share:g} %" for share, _i in shown))
        )
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter, (wide, tall) = QPainter(self), self.patch_size
        painter.setFont(font(11))
        painter.setPen(self.palette().color(SECOND))
        for number, (share, image) in enumerate(self._shown):
            x = number * (wide + _GAP)
            painter.fillRect(x, 0, wide, tall, self.palette().color(WELL))
            painter.drawImage(x, 0, image)
            painter.drawText(x, tall + 2, wide, _FOOT - 2, Qt.AlignmentFlag.AlignLeft, f"{100 * share:g} %")


class PlanPage(QWidget):
    """`said` carries a statement and a remark; `panels_wanted` leads to where whole members are repaired."""

    said = Signal(str, str)
    panels_wanted = Signal()

    def __init__(self, session: Session, planned: Planned) -> None:
        super().__init__()
        self._session, self._planned = session, planned
        self._marks_of: tuple[tuple[WearPlan, Frame], Inputs] | None = None
        self.side = QVBoxLayout()
        self.side.setSpacing(12)
        self.map = TrafficMap()
        self.map.changed.connect(self._keep_sources)
        self.map.refused.connect(session.refused)
        self.what = ChoiceBox(
            _("What a click on the zone puts there"),
            [(_(words), name) for name, words in SOURCE_WORDS.items()],
            150,
        )
        self.what.activated.connect(self._take_what)
        self.remove = button(_("Take it away"), "tool", _("Take away the place that is chosen"))
        self.remove.clicked.connect(self.map.remove)
        self.heaviness = Heaviness()
        self.heaviness.moved.connect(planned.preview)
        self.heaviness.chosen.connect(planned.keep_heaviness)
        self.marks = StopMarks()
        self.chart = export_button("stop-marks", session.jobs, planned.leaving)
        self.rows = PlannedRows()
        self.rows.changed.connect(
            lambda kinds, words: planned.keep(planned.plan.model_copy(update={"kinds": kinds}), words)
        )
        self.how, self.vehicle = HowPanel(), VehiclePanel(session)
        self.how.changed.connect(lambda plan: planned.keep(plan, _("How the zone wore")))
        self.how.panels_wanted.connect(self.panels_wanted)
        planned.previewed.connect(self._draw)
        self._build()

    def _build(self) -> None:
        body = QVBoxLayout(self)
        body.setContentsMargins(0, 0, 0, 0)
        body.setSpacing(8)
        words = label(_("A click on the zone puts a"), "second")
        body.addLayout(row(words, self.what, None, self.remove, spacing=6))
        body.addWidget(self.map, 3)
        body.addWidget(self.heaviness)
        inner = QVBoxLayout()
        inner.setSpacing(8)
        inner.addWidget(self.rows)
        self._marks_head = holder(
            row(label(_("Stop marks, as large as on the model"), "second"), None, self.chart)
        )
        inner.addWidget(self._marks_head)
        inner.addWidget(self.marks)
        inner.addStretch(1)
        body.addWidget(scrolled(inner), 4)
        self.side.addWidget(self.how)
        self.side.addWidget(self.vehicle)

    def _take_what(self) -> None:
        self.map.putting = str(self.what.value)

    def _keep_sources(self, sources: object) -> None:
        plan = self._planned.plan.model_copy(update={"sources": sources})
        self._planned.keep(plan, _("Where the zone wears"))

    def refresh(self) -> None:
        """Show the plan of the chosen zone."""
        session, planned = self._session, self._planned
        if not session.zone:
            self.said.emit(
                _("No zone yet."), _("Add a zone at the left first: wear is planned zone by zone.")
            )
            return
        zone, project = session.project.zone(session.zone), session.project
        measured = measured_region(project, zone.id)
        self.heaviness.show_heaviness(planned.plan.heaviness, measured=bool(measured and measured.wear))
        self.heaviness.setEnabled(bool(planned.plan.kinds))
        for part in (self._marks_head, self.marks):
            part.setVisible(bool(planned.plan.kinds))
        self.map.show_sources(planned.plan.sources)
        plan = planned.plan
        planned.when_known(lambda rows: self.rows.show_plan(plan, rows))
        self.how.show_plan(planned.plan, project, zone.id)
        self.vehicle.refresh(planned.bottles)
        self._say(zone)
        self._draw()

    def _say(self, zone: Zone) -> None:
        plan, known = (
            self._planned.plan,
            [one.words for one in self._session.project.features if one.zone == zone.id],
        )
        worn = f"{100 * planned_share(plan):.1f}"
        statement = (
            _("{0} % of {1} is to be worn.").format(worn, zone.name)
            if plan.kinds
            else _("No wear is planned yet.")
        )
        remarks = []
        if veiled := veiled_share(plan):
            remarks.append(_("Besides, dust or soot lies on {0} % as a veil.").format(f"{100 * veiled:.0f}"))
        if plan.larger > 1:
            remarks.append(
                _("Marks {0} times larger than life, as you like them.").format(f"{plan.larger:g}")
            )
        if known:
            remarks.append(
                _("What people know it by lies here: {0}. Spend the care there.").format(", ".join(known))
            )
        if not remarks:
            remarks.append(
                _("Where a thing is trodden, gripped or wet it wears most: put such places on the zone.")
            )
        self.said.emit(statement, " ".join(remarks))

    def _draw(self) -> None:
        session, plan, bottles = self._session, self._planned.plan, self._planned.bottles
        project, zone = session.project, session.zone
        if not zone or not self.isVisible():
            return
        face = face_frame(project.zone(zone), max(120, self.map.width()), max(80, self.map.height()))
        words = _("Give this zone its colour first: sample it, state it, or lay its base.")

        def draw() -> QImage | None:
            shown = simulate(project, zone, plan, bottles, face)
            return to_image(shown.pixels) if shown else None

        session.jobs.start(
            "wear face", lambda _progress: draw(), lambda image: self.map.show_face(image, words)
        )
        self._draw_marks()

    def _draw_marks(self) -> None:
        """Draw the stop marks anew where something they follow from has changed."""
        session, bottles = self._session, self._planned.bottles
        project, zone = session.project, session.zone
        plan = with_heaviness(self._planned.plan, 1.0).model_copy(update={"sources": ()})
        wide, tall = self.marks.patch_size
        patch = Frame(wide, tall, px_per_mm(self), 3)
        asked, inputs = (plan, patch), (session.cut(zone), bottles)
        if (
            self._marks_of is not None
            and self._marks_of[0] == asked
            and same_inputs(self._marks_of[1], inputs)
        ):
            return
        self._marks_of = asked, inputs

        def draw() -> tuple[tuple[float, QImage], ...]:
            marks = stop_marks(project, zone, bottles, patch, plan)
            return tuple((share, to_image(one.pixels)) for share, one in marks)

        session.jobs.start("stop marks shown", lambda _progress: draw(), self.marks.show_marks)


def face_frame(zone: Zone, width: int, height: int) -> Frame:
    """A frame of a zone's whole face: as many pixels a millimetre as its area asks for."""
    area_mm2 = 100 * (zone.area_cm2 or _USUAL_CM2)
    return Frame(width, height, max(_LEAST_PX_PER_MM, float((width * height / area_mm2) ** 0.5)), 2)
