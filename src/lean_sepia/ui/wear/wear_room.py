"""Wear: how worn a region of a photo is, kind by kind, and what of it the model can show."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

import numpy as np
from PySide6.QtWidgets import QButtonGroup, QComboBox, QVBoxLayout, QWidget

from lean_sepia.answers.wearing import surveying
from lean_sepia.answers.wearing.kinds import WEAR_KINDS, wear_words
from lean_sepia.answers.wearing.surveying import Pointed, WearAnswer, marks_of, measured_region
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.words import difference
from lean_sepia.document.edits.coats import lay_wear
from lean_sepia.document.edits.photos import place_region, set_scale
from lean_sepia.document.model import Photo, Region
from lean_sepia.document.worn import WearRecord
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.rectify import mm_per_px
from lean_sepia.ui.kit.dialogs.ask import ask_number
from lean_sepia.ui.kit.panel import Panel, button, holder, label, measure_box, row, rule
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip, Lab
from lean_sepia.ui.photo.marks import Mark
from lean_sepia.ui.photo.seen_photo import Seen, prepare
from lean_sepia.ui.photo.tools import Tool
from lean_sepia.ui.photo.viewer import PhotoViewer
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.wear.by_hand_panel import ByHandPanel, WornSoFar
from lean_sepia.ui.wear.measured import Measured


class WearRoom(RoomPage):
    """Draw a region, point at one disc of each kind, measure; lay what was found as coats."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.seen: Seen | None = None
        self.classes: dict[str, Lab] = {}
        self._spots: dict[str, tuple[float, float, float]] = {}
        self.box: tuple[float, float, float, float] | None = None
        self._zone = ""
        self._sizes: FloatArray = np.array([])
        self.viewer = PhotoViewer()
        self.viewer.tools = frozenset({"look", "sample", "region", "length"})
        self.viewer.empty_words = _("Add a photo of the prototype in Evidence first.")
        self.viewer.radius = 3.0
        self.viewer.placed.connect(self._placed)
        self.viewer.region_drawn.connect(self._region_drawn)
        self.viewer.tool_changed.connect(self._tool_changed)
        self.viewer.length_drawn.connect(self._ask_length)
        self._build_centre()
        self._build_side()

    def _build_centre(self) -> None:
        self._statement, self._remark = self.headline()
        tools = holder(self._tool_row())
        self.centre.addWidget(tools)
        self.centre.addWidget(self.viewer, 1)
        self.by_hand_panel = ByHandPanel(self.session)
        self.by_hand_panel.draft_wanted.connect(self.draft_wanted)
        self.centre.addWidget(self.by_hand_panel, 1)
        self.measured = Measured()
        self.centre.addWidget(self.measured)
        self._with_photo: tuple[QWidget, ...] = (tools, self.viewer, self.measured)

    def _tool_row(self) -> QVBoxLayout:
        self._tools = QButtonGroup(self)
        self._tools.setExclusive(True)
        buttons = []
        tool: Tool
        for tool, words in (
            ("look", _("Look")),
            ("region", _("Draw the region")),
            ("sample", _("Point at a kind")),
        ):
            choice = button(words, "tool")
            choice.setCheckable(True)
            choice.setChecked(tool == "look")
            choice.setProperty("tool", tool)
            choice.clicked.connect(partial(self.viewer.set_tool, tool))
            self._tools.addButton(choice)
            buttons.append(choice)
        self.kind = QComboBox()
        for name in WEAR_KINDS:
            self.kind.addItem(wear_words(name), name)
        self.kind.setFixedWidth(96)
        self.kind.setAccessibleName(_("Kind of wear pointed at"))
        name = _("Millimetres on the prototype in a pixel")
        self.mm = measure_box(0.01, 1000, 10, "mm", name, decimals=2, width=90)
        hint(self.mm, _("A known length on the prototype divided by its length in pixels"))
        self.length = button(_("Known length"), "tool", _("Drag along something whose true length you know"))
        self.length.setCheckable(True)
        self.length.setProperty("tool", "length")
        self.length.clicked.connect(partial(self.viewer.set_tool, "length"))
        self._tools.addButton(self.length)
        self.mm.valueChanged.connect(self._show_scale)
        self.measure_button = button(_("Measure"), "main")
        self.measure_button.clicked.connect(self.measure)
        both = QVBoxLayout()
        both.setSpacing(12)
        both.addLayout(row(*buttons, self.kind, None, spacing=6))
        both.addLayout(
            row(
                label(_("a pixel is"), "second"), self.mm, label(_("on the prototype"), "second"), 6,
                self.length, None,
                self.measure_button, spacing=6,
            )
        )  # fmt: skip
        return both

    def _build_side(self) -> None:
        much = Panel(_("How much"))
        self._much = label("", "figure")
        self._grade = label("", "second", wrap=True)
        self._table = Rows(spacing=4)
        for item in (self._much, self._grade, self._table):
            much.add(item)
        self.side.addWidget(much)
        seen = Panel(_("On the model"))
        self._model = label("", "", wrap=True)
        self._tint = label("", "second", wrap=True)
        seen.add(self._model)
        seen.add(self._tint)
        self.side.addWidget(seen)
        kinds = Panel(_("Kinds pointed at"))
        self._kinds = Rows(spacing=4)
        kinds.add(self._kinds)
        self.side.addWidget(kinds)
        self._with_photo += (much, seen, kinds)
        self.worn_so_far = WornSoFar()
        self.side.addWidget(self.worn_so_far)
        self.side.addStretch(1)
        self.lay = button(_("Lay this wear"), "main", _("Each kind becomes a coat on its share of the area"))
        self.lay.clicked.connect(self.lay_measured)
        self._with_photo += (self.lay,)
        self.side.addLayout(row(self.by_hand("chips"), None, self.lay, spacing=6))

    # What the document says

    def _region(self) -> Region | None:
        return measured_region(self.session.project, self.session.zone)

    def refresh(self) -> None:
        zone = self.session.zone
        region = self._region()
        if zone != self._zone:
            self._zone = zone
            self._take_up(region)
        photo, pictures = self._photo(region), self.session.pictures
        for widget in self._with_photo:
            widget.setVisible(photo is not None)
        self.by_hand_panel.setVisible(photo is None)
        self.by_hand_panel.refresh()
        self.worn_so_far.setVisible(photo is None)
        if zone:
            self.worn_so_far.show_cut(self.session.cut(zone))
        if photo is None:
            self.seen = None
            self.viewer.show_picture(None)
        elif self.seen is None or self.seen.photo != photo:
            self.session.jobs.start("wear photo", lambda _progress: prepare(pictures, photo), self._show_seen)
        self._show_marks()
        self._show_record(region.wear if region else None)

    def _take_up(self, region: Region | None) -> None:
        """Start from what was measured in this zone before."""
        self.classes, self._spots, self.box = {}, {}, None
        self._sizes = np.array([])
        self.viewer.show_outlines([])
        photo = self._photo(region)
        if photo is not None and photo.mm_per_px:
            self.mm.setValue(photo.mm_per_px)
        if region is None:
            return
        xs, ys = zip(*region.corners, strict=True)
        self.box = (min(xs), min(ys), max(xs), max(ys))
        if region.wear:
            self.classes = {c.name: c.lab for c in region.wear.classes if c.name in WEAR_KINDS}
            self.mm.setValue(region.wear.mm_per_px or 1.0)

    def _photo(self, region: Region | None) -> Photo | None:
        project = self.session.project
        if region is not None:
            return project.photo(region.photo)
        sampled = [s.photo for s in project.samples if s.zone == self.session.zone]
        candidates = [photo for photo in project.photos if not photo.of_model]
        return next(
            (photo for photo in candidates if photo.id in sampled), candidates[0] if candidates else None
        )

    def _show_seen(self, seen: Seen) -> None:
        self.seen = seen
        self.viewer.show_picture(seen.pyramid, seen.correction)
        region = self._region()
        if self.box and not self._sizes.size and region is not None and region.wear:
            self.measure(store=False)

    def _show_marks(self) -> None:
        marks = [Mark("circle", *spot) for spot in self._spots.values()]
        if self.box:
            x0, y0, x1, y1 = self.box
            marks.append(Mark.outline([(x0, y0), (x1, y0), (x1, y1), (x0, y1)]))
        self.viewer.show_marks(marks)
        self._kinds.fill(self._kind_rows())
        self.measure_button.setEnabled(self.box is not None and self.seen is not None)

    def _kind_rows(self) -> Iterator[Item]:
        for name, lab in self.classes.items():
            drop = button("×", "step", _("Forget this kind"))
            drop.setAccessibleName(_("Forget {0}").format(wear_words(name)))
            drop.clicked.connect(lambda _c=False, n=name: self._forget(n))
            yield row(Chip(lab), label(wear_words(name)), None, drop)
        if not self.classes:
            yield label(_("None: everything unlike the base counts as worn."), "second", wrap=True)

    def _show_record(self, record: WearRecord | None) -> None:
        self.lay.setEnabled(record is not None)
        if record is None:
            if self._photo(None) is None:
                self._statement.setText(_("Chosen, not measured."))
                self._remark.setText(
                    _("There is no photo of this prototype: say what is worn, and how much of it.")
                )
            else:
                self._statement.setText(_("Not measured yet."))
                words = _(
                    "Draw a region of this zone on the photo, point at one disc of each kind of wear, and measure."
                )
                self._remark.setText(words)
            self._much.setText("–")
            for blank in (self._grade, self._model, self._tint):
                blank.setText("")
            self.measured.show_nothing()
            self._table.fill(())
            return
        zone = self.session.project.zone(self.session.zone)
        subject = self.session.project.subject_of(zone)
        self._statement.setText(_("{0} % of this region is worn.").format(f"{record.coverage_percent:.1f}"))
        self._remark.setText(_("{0}, measured at {1} mm a pixel.").format(zone.name, f"{record.mm_per_px:g}"))
        self._much.setText(f"{record.coverage_percent:.1f} %")
        self._grade.setText(
            _("Rust: {0} to ISO 4628-3, grade {1} to ASTM D610.").format(record.iso_4628_3, record.astm_d610)
        )
        self._table.fill(self._class_rows(record))
        self._model.setText(
            _("At 1:{0} and 30 cm a mark below {1} mm cannot be seen. {2} % can.").format(
                f"{subject.scale:g}",
                f"{record.smallest_visible_mm:.1f}",
                f"{record.visible_coverage_percent:.1f}",
            )
        )
        self._tint.setText(self._tint_words(record))
        self.measured.show_record(record, self._sizes, self.session.project.signature)

    @staticmethod
    def _class_rows(record: WearRecord) -> Iterator[Item]:
        for found in record.classes:
            size, figure = (
                label(_("{0} mm").format(f"{found.median_mm:.0f}"), "second"),
                f"{found.coverage_percent:.1f} %",
            )
            yield rule()
            yield row(Chip(found.lab, 14, 14), label(wear_words(found.name)), None, label(figure), 6, size)

    def _tint_words(self, record: WearRecord) -> str:
        shift = np.array(record.tint_lab_shift)
        if float(np.linalg.norm(shift)) < 0.1:
            return _("Nothing in it is too small to be painted.")
        cut = self.session.cut(self.session.zone)
        base = np.array(cut.fresh or (50, 0, 0))
        return _("The smaller ones together make the paint {0}; that goes to Glaze.").format(
            difference(base, base + shift).words
        )

    def _tool_changed(self, tool: str) -> None:
        for choice in self._tools.buttons():
            choice.setChecked(choice.property("tool") == tool)

    def _region_drawn(self, x0: float, y0: float, x1: float, y1: float) -> None:
        self.box = (x0, y0, x1, y1)
        self._show_marks()

    def _placed(self, _tool: str, x: float, y: float, radius: float) -> None:
        if self.seen is None:
            return
        name = self.kind.currentData()
        lab = self.seen.cast.lab(disc_patch(self.seen.picture.pixels, x, y, radius).mean)
        self.classes[name] = (float(lab[0]), float(lab[1]), float(lab[2]))
        self._spots[name] = (x, y, radius)
        self._show_marks()

    def _show_scale(self, value: float) -> None:
        self.viewer.mm_per_px = value
        self.viewer.update()

    def _ask_length(self, x0: float, y0: float, x1: float, y1: float) -> None:
        words = _("Its length on the prototype, in millimetres")
        length = ask_number(
            self, _("Known length"), words, _("Take it"), value=1000, low=1, high=1e6, unit="mm"
        )
        if length is not None:
            self.set_length((x0, y0), (x1, y1), length)

    def set_length(self, start: tuple[float, float], end: tuple[float, float], length_mm: float) -> None:
        """Take the scale of the photo from a known length."""
        self.viewer.set_tool("look")
        if self.seen is None:
            return
        photo_id = self.seen.photo.id
        try:
            scale = mm_per_px(start, end, length_mm)
        except SepiaError as error:
            self.session.refused.emit(str(error))
            return
        self.mm.setValue(scale)
        self.session.edit(
            _("Scale of the photo"),
            lambda p: set_scale(p, photo_id, scale),
        )

    def _forget(self, name: str) -> None:
        self.classes.pop(name, None)
        self._spots.pop(name, None)
        self._show_marks()

    def measure(self, _checked: bool = False, store: bool = True) -> None:
        """Survey the region in the background; keep the result as an edit unless it is only shown again."""
        if self.seen is None or self.box is None or not self.session.zone:
            return
        project, zone = self.session.project, self.session.zone
        x0, y0, x1, y1 = self.box
        corners = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
        question = surveying.ask(
            project,
            self.session.cut(zone),
            self.seen.photo,
            corners,
            [Pointed(name, lab, self._spots.get(name)) for name, lab in self.classes.items()],
            self.mm.value(),
        )
        if question is None:
            self.session.refused.emit(
                _(
                    "This zone has no sound colour yet: sample it in Evidence, or state its target. Wear is what differs from it."
                )
            )
            return
        seen = self.seen

        def done(answer: WearAnswer) -> None:
            self._sizes = answer.sizes_mm
            self.viewer.show_outlines([line for lines in answer.outlines.values() for line in lines])
            self.viewer.fit_to(x0, y0, x1, y1)
            if store:
                name = _("Measure wear of {0}").format(project.zone(zone).name)
                if not self.session.edit(name, lambda p: place_region(p, answer.region)):
                    self._show_record(answer.record)
            else:
                self._show_record(answer.record)

        self.session.jobs.start(
            "wear", lambda _progress: surveying.answer(question, seen.picture.pixels, seen.cast), done
        )

    def lay_measured(self) -> None:
        """Each measured kind becomes a coat on its share of the zone's area."""
        region, zone = self._region(), self.session.zone
        if region is None or region.wear is None:
            return
        found, finish = marks_of(region.wear), self.session.cut(zone).varnish or "flat"
        self.session.edit(
            _("Lay the wear of {0}").format(self.session.project.zone(zone).name),
            lambda p: lay_wear(p, zone, found, finish),
        )
