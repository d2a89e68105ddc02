"""The photo with what was traced and pointed at on it: the part to be measured, the ground, each kind, and corrections by stroke."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.answers.wearing.kinds import WEAR_KINDS, wear_words
from lean_sepia.answers.wearing.surveying import Ground, Point, Pointed, box_of
from lean_sepia.document.entities.worn import WearStroke
from lean_sepia.document.model import Region
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.photo.patch import corners_of, disc_patch
from lean_sepia.photo.rectify import mm_per_px
from lean_sepia.ui.kit.dialogs.ask import ask_number, ask_text
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.fields.flow import Flow
from lean_sepia.ui.kit.panel import button, holder, label, measure_box, row
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.photo.marks import Mark
from lean_sepia.ui.photo.seen_photo import Seen
from lean_sepia.ui.photo.tool_row import ToolRow
from lean_sepia.ui.photo.tools import Tool
from lean_sepia.ui.photo.viewer import PhotoViewer
from lean_sepia.ui.wear.planning.planned_rows import OWN
from lean_sepia.wear.segment import WORN

GROUND = ""
_RADIUS = 3.0


def _offered_tools() -> tuple[tuple[Tool, str, str], ...]:
    """Each tool, its words, and a hint."""
    return (
        ("look", _("Look"), ""),
        ("region", _("Box"), _("Drag a box over the part to measure")),
        (
            "area",
            _("Trace"),
            _("Click the corners of the part to measure; a click on the first closes it"),
        ),
        ("sample", _("Point at"), _("Click a place that plainly shows what stands beside")),
        (
            "brush",
            _("Correct"),
            _("Stroke over what was taken for something else; it becomes what stands beside"),
        ),
        ("length", _("Known length"), _("Drag along something whose true length you know")),
    )


class Pointing(QWidget):
    """Keeps what was traced and pointed at until it is measured; `pointed` says that some of it changed."""

    pointed = Signal()
    length_known = Signal(float)
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.seen: Seen | None = None
        self.corners: tuple[Point, ...] = ()
        self.ground: Ground | None = None
        self.kinds: dict[str, Pointed] = {}
        self.strokes: tuple[WearStroke, ...] = ()
        self.hidden: set[str] = set()
        self.taken_up: object = None
        self._length = (_("Its length on the prototype, in millimetres"), 1000.0)
        self._outlines: Mapping[str, Sequence[Sequence[Point]]] = {}
        self.viewer = PhotoViewer()
        self.viewer.tools = frozenset({"look", "sample", "region", "area", "brush", "length"})
        self.viewer.empty_words = _("Add a photo of the prototype in Evidence first.")
        self.viewer.radius = _RADIUS
        self.viewer.placed.connect(self._placed)
        self.viewer.region_drawn.connect(self._region_drawn)
        self.viewer.outlined.connect(self._outlined)
        self.viewer.length_drawn.connect(self._ask_length)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(8)
        self._build_tools(layout)
        layout.addWidget(self.viewer, 1)

    def _build_tools(self, layout: QVBoxLayout) -> None:
        self.kind = ChoiceBox(_("What is pointed at"), (), 118)
        self._offer_kinds()
        self.kind.activated.connect(self._kind_chosen)
        self.photos = ChoiceBox(_("Which photo"), (), 170)
        name = _("Millimetres on the prototype in a pixel")
        self.mm = measure_box(0.0, 1000, 0, "mm", name, decimals=2, width=92)
        self.mm.setSpecialValueText(_("not known"))
        hint(self.mm, _("A known length on the prototype divided by its length in pixels"))
        self.mm.valueChanged.connect(self._show_scale)
        self._of_what = label(_("on the prototype"), "second")
        self.measure_button = button(_("Measure"), "main")
        *pointing, length = _offered_tools()
        first = row(spacing=5)
        first.addWidget(ToolRow(self.viewer, pointing, self.kind), 1)
        first.addWidget(self.measure_button, 0, Qt.AlignmentFlag.AlignTop)
        layout.addLayout(first)
        pixel = holder(row(label(_("a pixel is"), "second"), self.mm, self._of_what, spacing=6))
        layout.addLayout(Flow(pixel, ToolRow(self.viewer, [length]), self.photos))

    @property
    def traced(self) -> bool:
        """Whether a part of a photo was traced."""
        return bool(self.corners) and self.seen is not None

    # What is shown

    def name_length(self, of_what: str, question: str, usual: float) -> None:
        """Say what a pixel's size and a known length are of."""
        self._of_what.setText(of_what)
        self._length = (question, usual)

    def take_up(self, region: Region | None, whose: object = None) -> None:
        """Start from what was measured before; `whose` says of what it is taken up."""
        self.taken_up = whose
        self.corners = region.corners if region else ()
        record = region.wear if region else None
        self.kinds = (
            {c.name: Pointed(c.name, c.lab, c.spot) for c in record.classes if c.name != WORN}
            if record
            else {}
        )
        self.ground = (
            Ground(record.ground, record.ground_spot)
            if record and record.ground and record.ground_spot
            else None
        )
        self.strokes = record.strokes if record else ()
        self.hidden = set()
        self._offer_kinds()
        if record is not None:
            self.mm.setValue(record.mm_per_px or 0.0)
        self.show_outlines({})

    def show_seen(self, seen: Seen | None) -> None:
        """Show a photo, or none."""
        self.seen = seen
        self.viewer.show_picture(seen.pyramid if seen else None, seen.correction if seen else None)
        self.show_marks()

    def show_outlines(self, outlines: Mapping[str, Sequence[Sequence[Point]]]) -> None:
        """Show what was found of each kind, as outlines that can be hidden."""
        self._outlines = outlines
        self.viewer.show_outlines(
            [line for name, lines in outlines.items() if name not in self.hidden for line in lines]
        )

    def toggle(self, name: str, shown: bool) -> None:
        """Show or hide the outlines of a kind."""
        self.hidden = self.hidden - {name} if shown else self.hidden | {name}
        self.show_outlines(self._outlines)

    def show_marks(self) -> None:
        """Draw what was traced and pointed at."""
        spots = [
            one.spot for one in (*self.kinds.values(), *((self.ground,) if self.ground else ())) if one.spot
        ]
        marks = [Mark("circle", *spot) for spot in spots]
        if self.corners:
            marks.append(Mark.outline(list(self.corners)))
        self.viewer.show_marks(marks)
        self.measure_button.setEnabled(self.traced)

    def _show_scale(self, value: float) -> None:
        self.viewer.mm_per_px = value or None
        self.viewer.update()

    # What the hand does

    def _region_drawn(self, x0: float, y0: float, x1: float, y1: float) -> None:
        self._traced(corners_of(x0, y0, x1, y1))

    def _outlined(self, tool: str, path: list[Point]) -> None:
        if tool == "brush":
            kind = str(self.kind.value)
            self.strokes = (*self.strokes, WearStroke(kind=kind, path=tuple(path), radius=self.viewer.radius))
            self.pointed.emit()
        else:
            self._traced(path)

    def _traced(self, path: Sequence[Point]) -> None:
        self.corners, self.strokes = tuple(path), ()
        self.show_outlines({})
        self.show_marks()
        self.pointed.emit()

    def _placed(self, _tool: str, x: float, y: float, radius: float) -> None:
        if self.seen is None:
            return
        found = self.seen.cast.lab(disc_patch(self.seen.picture.pixels, x, y, radius).mean)
        lab, name = (float(found[0]), float(found[1]), float(found[2])), str(self.kind.value)
        if name == GROUND:
            self.ground = Ground(lab, (x, y, radius))
        else:
            self.kinds[name] = Pointed(name, lab, (x, y, radius))
        self.show_marks()
        self.pointed.emit()

    def propose(self, found: Sequence[Pointed]) -> None:
        """Take kinds that were found in the picture; those that were pointed at by hand stay."""
        self.kinds = {**{one.name: one for one in found}, **self.kinds}
        self._offer_kinds()
        self.show_marks()
        self.pointed.emit()

    def rename(self, name: str, other: str) -> None:
        """Call what was pointed at otherwise; what had that name before gets this one."""
        if other == OWN:
            other = self._ask_name() or name
        if other == name or name not in self.kinds:
            return
        swapped = {name: other, other: name}
        named = (replace(one, name=swapped.get(one.name, one.name)) for one in self.kinds.values())
        self.kinds = {one.name: one for one in named}
        self._offer_kinds()
        self.pointed.emit()

    def _ask_name(self) -> str:
        asked = ask_text(self, _("A kind of your own"), _("What is it called?"), _("Take it"))
        return (asked or "").strip()[:60]

    def _kind_chosen(self) -> None:
        if self.kind.value == OWN:
            self._offer_kinds(self._ask_name())
        if self.viewer.tool not in ("sample", "brush"):  # who says what it is wants to point at it
            self.viewer.set_tool("sample")

    def _offer_kinds(self, chosen: str | None = None) -> None:
        own = [name for name in (*self.kinds, chosen or "") if name and name not in WEAR_KINDS]
        names = [*WEAR_KINDS, *dict.fromkeys(own)]
        offered = [(_("the ground"), GROUND), *((wear_words(name), name) for name in names)]
        self.kind.offer([*offered, (_("another name…"), OWN)], keep=chosen)

    def forget(self, name: str) -> None:
        """Take back a kind, or the ground, that was pointed at."""
        if name == GROUND:
            self.ground = None
        self.kinds.pop(name, None)
        self.show_marks()
        self.pointed.emit()

    def _ask_length(self, x0: float, y0: float, x1: float, y1: float) -> None:
        words, usual = self._length
        length = ask_number(
            self, _("Known length"), words, _("Take it"), value=usual, low=1, high=1e6, unit="mm"
        )
        if length is not None:
            self.set_length((x0, y0), (x1, y1), length)

    def set_length(self, start: Point, end: Point, length_mm: float) -> None:
        """Take the scale of the photo from a known length."""
        self.viewer.set_tool("look")
        if self.seen is None:
            return
        try:
            scale = mm_per_px(start, end, length_mm)
        except SepiaError as error:
            self.refused.emit(str(error))
            return
        self.mm.setValue(scale)
        self.length_known.emit(scale)

    def look_at_region(self) -> None:
        """Bring what was traced into view, where it is still there: this may be called late."""
        if self.corners:
            self.viewer.fit_to(*box_of(self.corners))
