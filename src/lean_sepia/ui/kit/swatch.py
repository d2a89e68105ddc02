"""Colours on the well: single fields, pairs that touch, ramps, and drops that can be counted."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from lean_sepia.arrays import triple
from lean_sepia.colour.srgb import screen_rgb
from lean_sepia.colour.words import colour_name, difference
from lean_sepia.language import _, ngettext, plain
from lean_sepia.paint.paint import Paint
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.theme import SECOND, TEXT, WELL, WELL_TEXT, font

Lab = tuple[float, float, float]
COUNTED_DROPS = 10


def qcolor(lab: Sequence[float]) -> tuple[QColor, bool]:
    """The nearest screen colour of L*a*b*, and whether the screen shows it truly."""
    L, a, b = lab
    (red, green, blue), exact = _screen(L, a, b)
    return QColor(red, green, blue), exact


@lru_cache(maxsize=4096)
def _screen(L: float, a: float, b: float) -> tuple[tuple[int, int, int], bool]:
    """`screen_rgb`, remembered: the same few colours are painted again and again."""
    return screen_rgb((L, a, b))


def bottle_lab(paint: Paint) -> Lab | None:
    """The colour a bottle is shown by: its masstone, or None for a clear medium."""
    return None if paint.clear else triple(paint.masstone_lab())


def paint_field(painter: QPainter, rect: QRectF, lab: Lab | None, ink: QColor) -> None:
    """One field: plain colour, hatched where it is unknown, a notch in the corner where the screen cannot show it."""
    if lab is None:
        painter.save()
        painter.setClipRect(rect)
        painter.setPen(QPen(ink, 1))
        step = 7.0
        x = rect.left() - rect.height()
        while x < rect.right():
            painter.drawLine(QPointF(x, rect.bottom()), QPointF(x + rect.height(), rect.top()))
            x += step
        painter.restore()
        return
    colour, exact = qcolor(lab)
    painter.fillRect(rect, colour)
    if not exact:
        notch = QPainterPath(rect.topRight())
        notch.lineTo(rect.topRight() - QPointF(9, 0))
        notch.lineTo(rect.topRight() + QPointF(0, 9))
        painter.fillPath(notch, QColor("white") if lab[0] < 50 else QColor("black"))


_MARK_PX, _MARK_LONGER = 7.0, 1.4
_PLASTIC = 1.32471795724474617  # its inverse powers spread points evenly over a plane


def paint_marks(painter: QPainter, rect: QRectF, lab: Lab | None, share: float) -> None:
    """Marks strewn over a field, so many and so large that they cover their share of it."""
    if lab is None or share <= 0:
        return
    area = share * rect.width() * rect.height()
    count = max(3, min(400, round(area / (_MARK_PX**2 * _MARK_LONGER))))
    width = (area / count / _MARK_LONGER) ** 0.5
    tall, colour = width * _MARK_LONGER, qcolor(lab)[0]
    painter.save()
    painter.setClipRect(rect)
    for number in range(count):
        x, y = ((0.5 + (number + 1) / _PLASTIC**power) % 1.0 for power in (1, 2))
        left, top = rect.left() + x * (rect.width() - width), rect.top() + y * (rect.height() - tall)
        painter.fillRect(QRectF(left, top, width, tall), colour)
    painter.restore()


@guarded
class Fields(QWidget):
    """Fields of colour edge to edge on the well, with a margin of well round them."""

    def __init__(self, margin: int = 8, height: int = 56) -> None:
        super().__init__()
        self._labs: list[Lab | None] = []
        self._marks: list[tuple[Lab | None, float]] = []  # on each field, and the share of it they cover
        self._margin = margin
        self._height = height
        self.setMinimumHeight(height)

    def sizeHint(self) -> QSize:
        return QSize(120, self._height)

    def show_labs(self, labs: Sequence[Lab | None], spoken: str = "", names: Sequence[str] = ()) -> None:
        """Show these colours, left to right; `names` says what each of them is to who hears them."""
        self._labs, self._marks = list(labs), []
        self.setAccessibleName(spoken or ", ".join(map(_name_of, self._labs)))
        self.setAccessibleDescription(spoken_colours(self._labs, names))
        hint(self, "\n".join(lab_words(lab) for lab in self._labs if lab))
        self.update()

    def show_marks(self, marks: Sequence[tuple[Lab | None, Lab | None, float]], spoken: str) -> None:
        """Show grounds left to right, each with marks of a colour on a share of it."""
        self.show_labs([ground for ground, _lab, _share in marks], spoken)
        self._marks = [(lab, share) for _ground, lab, share in marks]
        self.setAccessibleDescription(spoken_colours([lab for _ground, lab, _share in marks], ()))

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        inner = QRectF(self.rect()).adjusted(self._margin, self._margin, -self._margin, -self._margin)
        count = max(1, len(self._labs))
        ink = self.palette().color(WELL_TEXT)
        edges = [round(inner.left() + inner.width() * index / count) for index in range(count + 1)]
        for index, lab in enumerate(self._labs or [None]):
            paint_field(
                painter,
                QRectF(edges[index], inner.top(), edges[index + 1] - edges[index], inner.height()),
                lab,
                ink,
            )
            if index < len(self._marks):
                box = QRectF(edges[index], inner.top(), edges[index + 1] - edges[index], inner.height())
                paint_marks(painter, box, *self._marks[index])


@guarded
class Chip(QWidget):
    """One small field of colour beside a name."""

    def __init__(self, lab: Lab | None, width: int = 26, height: int = 20) -> None:
        super().__init__()
        self.setFixedSize(width, height)
        self.show_lab(lab)

    def show_lab(self, lab: Lab | None) -> None:
        """Show a colour; hatched where it is not known."""
        self._lab = lab
        self.setAccessibleName(colour_name(lab) if lab else _("colour not known"))
        hint(self, lab_words(lab) if lab else "")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        paint_field(painter, QRectF(self.rect()), self._lab, self.palette().color(SECOND))
        painter.setPen(QPen(self.palette().color(WELL), 1))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))


@guarded
class Drops(QWidget):
    """Parts as drops to count, up to ten; beyond that the figure beside them says it."""

    def __init__(self, lab: Lab | None, count: int) -> None:
        super().__init__()
        self._lab, self._count = lab, count
        self.setFixedHeight(13)
        self.setMinimumWidth(14 * min(count, COUNTED_DROPS) + 2)
        self.setAccessibleName(ngettext("{0} drop", "{0} drops", count).format(count))

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.palette().color(TEXT), 0.8))
        if self._lab is not None:
            painter.setBrush(QBrush(qcolor(self._lab)[0]))
        shown = self._count if self._count <= COUNTED_DROPS else 1
        for index in range(shown):
            painter.drawPath(_drop(QPointF(6 + 14 * index, 7)))
        if self._count > COUNTED_DROPS:
            painter.setFont(font(11))
            painter.setPen(self.palette().color(SECOND))
            painter.drawText(QRectF(16, 0, 60, 13), Qt.AlignmentFlag.AlignVCenter, f"× {self._count}")


def _drop(centre: QPointF) -> QPainterPath:
    """A drop as it hangs from a pipette: round below, drawn to a point above."""
    path = QPainterPath(centre + QPointF(0, -6))
    path.cubicTo(centre + QPointF(1.2, -3), centre + QPointF(4.6, -1.4), centre + QPointF(4.6, 1.6))
    path.cubicTo(centre + QPointF(4.6, 4.2), centre + QPointF(2.4, 5.4), centre + QPointF(0, 5.4))
    path.cubicTo(centre + QPointF(-2.4, 5.4), centre + QPointF(-4.6, 4.2), centre + QPointF(-4.6, 1.6))
    path.cubicTo(centre + QPointF(-4.6, -1.4), centre + QPointF(-1.2, -3), centre + QPointF(0, -6))
    return path


def _name_of(lab: Lab | None) -> str:
    return colour_name(lab) if lab else _("not known")


def spoken_colours(labs: Sequence[Lab | None], names: Sequence[str] = ()) -> str:
    """Colours as one hears them: the first by its name and lightness, the others by how they differ from it.

    names : what each of them is, where that is known
    """
    said, first = [], next(iter(labs), None)
    for place, lab in enumerate(labs):
        words = _("{0}, L* {1}").format(_name_of(lab), f"{lab[0]:.0f}") if lab else _("not known")
        if place and lab and first:
            words = difference(first, lab).words
        named = names[place] if place < len(names) else ""
        said.append(_("{0}: {1}").format(named, words) if named else words)
    return "; ".join(said)


def lab_words(lab: Sequence[float]) -> str:
    """A colour in figures and words."""
    return f"L* {plain(lab[0], 1)}  a* {plain(lab[1], 1)}  b* {plain(lab[2], 1)} · {colour_name(lab)}"
