"""The whole model as its zones, each as broad as its area, with the wear that is planned for it, and what that comes to."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from lean_sepia.answers.preview.texture import Frame
from lean_sepia.answers.strata import same_inputs, strata_inputs
from lean_sepia.answers.wearing.bottles import Bottles
from lean_sepia.answers.wearing.planning import WornZone, plan_of, vehicle_total, vehicle_zones
from lean_sepia.answers.wearing.simulating import simulate
from lean_sepia.document.entities.worn import WearPlan
from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import Panel, label
from lean_sepia.ui.kit.theme import SECOND, TEXT, WELL, font
from lean_sepia.ui.photo.screen_image import to_image
from lean_sepia.ui.shell.session import Session

_TALL, _FOOT, _LEAST = 54, 32, 38
_PX_PER_MM = 3.0


@guarded
class ZoneFields(QWidget):
    """One field a zone; a click chooses it."""

    picked = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._zones: tuple[WornZone, ...] = ()
        self.images: dict[str, QImage] = {}
        self._chosen = ""
        self.setFixedHeight(_TALL + _FOOT)

    def sizeHint(self) -> QSize:
        return QSize(240, _TALL + _FOOT)

    def show_zones(self, zones: tuple[WornZone, ...], images: dict[str, QImage], chosen: str) -> None:
        """Show zones with how they will look."""
        self._zones, self.images, self._chosen = zones, images, chosen
        self.setAccessibleName(", ".join(f"{one.zone.name} {100 * one.worn:.1f} %" for one in zones))
        self.update()

    def boxes(self) -> list[QRectF]:
        """Where each zone's field lies."""
        least = min(_LEAST, self.width() / max(1, len(self._zones)))
        spare = self.width() - least * len(self._zones)
        found, x = [], 0.0
        for one in self._zones:
            wide = least + spare * one.weight
            found.append(QRectF(round(x), 0, round(x + wide) - round(x), _TALL))
            x += wide
        return found

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for box, one in zip(self.boxes(), self._zones, strict=True):
            if box.left() <= event.position().x() < box.right():
                self.picked.emit(one.zone.id)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter, colours = QPainter(self), self.palette()
        for box, one in zip(self.boxes(), self._zones, strict=True):
            image = self.images.get(one.zone.id)
            if image is None:
                painter.fillRect(box, colours.color(WELL))
            else:
                painter.drawImage(box, image, QRectF(0, 0, min(box.width(), image.width()), image.height()))
            chosen = one.zone.id == self._chosen
            if chosen:
                painter.setPen(QPen(colours.color(TEXT), 2))
                painter.drawRect(box.adjusted(1, 1, -1, -1))
            painter.setPen(colours.color(TEXT if chosen else SECOND))
            painter.setFont(font(11, chosen))
            name = painter.fontMetrics().elidedText(
                one.zone.short, Qt.TextElideMode.ElideRight, int(box.width()) - 2
            )
            centre = Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop
            painter.drawText(QRectF(box.left(), _TALL + 2, box.width(), 15), centre, name)
            painter.drawText(QRectF(box.left(), _TALL + 16, box.width(), 15), centre, _percent(one.worn))


def _percent(share: float) -> str:
    return f"{100 * share:.1f}" if share < 0.095 else f"{100 * share:.0f}"


class VehiclePanel(Panel):
    """The zones of a model with their wear in per cent, and the total."""

    def __init__(self, session: Session) -> None:
        super().__init__(_("Whole model"), _("% worn"))
        self._session = session
        self._known: dict[str, tuple[tuple[WearPlan, Frame], tuple[object, ...], QImage | None]] = {}
        self.fields = ZoneFields()
        self.fields.picked.connect(session.choose_zone)
        self.total = label("", "second", wrap=True)
        self.add(self.fields)
        self.add(self.total)
        self.hide()

    def refresh(self, bottles: Bottles) -> None:
        """Show the chosen zone's model, drawn in the background."""
        session = self._session
        project, zone = session.project, session.zone
        self.setVisible(bool(zone))
        if not zone:
            return
        subject = project.zone(zone).subject
        total, zones = vehicle_total(project, subject), vehicle_zones(project, subject)
        words = _("{0} % of the model is planned to be worn.").format(f"{100 * total:.1f}") if total else ""
        self.total.setText(words or _("No wear is planned yet."))
        self.fields.show_zones(zones, self.fields.images, zone)
        width = max(240, self.fields.width())

        def done(images: dict[str, QImage]) -> None:
            self.fields.show_zones(zones, images, session.zone)

        session.jobs.start("vehicle", lambda _progress: self._drawn(project, zones, bottles, width), done)

    def _drawn(
        self, project: Project, zones: tuple[WornZone, ...], bottles: Bottles, width: int
    ) -> dict[str, QImage]:
        """A picture of each zone whose colour is known; those of zones that did not change are kept."""
        found = {}
        for number, one in enumerate(zones):
            frame = Frame(max(_LEAST, round(width * one.weight)), _TALL, _PX_PER_MM, number + 1)
            plan = plan_of(project, one.zone)
            inputs = (*strata_inputs(project, one.zone.id)[1:], bottles)
            known = self._known.get(one.zone.id)
            if known is None or known[0] != (plan, frame) or not same_inputs(known[1], inputs):
                shown = simulate(project, one.zone.id, plan, bottles, frame)
                known = (plan, frame), inputs, None if shown is None else to_image(shown.pixels)
                self._known[one.zone.id] = known
            if known[2] is not None:
                found[one.zone.id] = known[2]
        return found
