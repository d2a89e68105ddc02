"""What the cards are laid out of: paragraphs, fields of colour, drops, and the warning's diamond."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

from reportlab.lib.colors import Color
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, Table, TableStyle

from lean_sepia.colour.srgb import screen_rgb
from lean_sepia.report.fonts import BOLD, REGULAR

Lab = tuple[float, float, float]
INK, SECOND, HAIR = (Color(grey, grey, grey) for grey in (0.11, 0.33, 0.72))
_DROP = 2.7 * mm


def words(
    text: str, size: float = 9, *, bold: bool = False, second: bool = False, right: bool = False
) -> Paragraph:
    """A paragraph of plain text; nothing in it is read as markup."""
    style = ParagraphStyle(
        "words", fontName=BOLD if bold else REGULAR, fontSize=size, leading=size * 1.32,
        textColor=SECOND if second else INK, alignment=2 if right else 0, splitLongWords=1,
    )  # fmt: skip
    return Paragraph(escape(text, quote=False), style)


def grid(
    rows: Sequence[Sequence[object]], widths: Sequence[float], *, padding: float = 0, heights: object = None, top: bool = True
) -> Table:  # fmt: skip
    """A table without lines; cells hold text or flowables and grow with them."""
    table = Table(
        [list(row) for row in rows], colWidths=list(widths), rowHeights=heights, hAlign="LEFT", splitInRow=1
    )
    table.setStyle(
        TableStyle([
            ("VALIGN", (0, 0), (-1, -1), "TOP" if top else "MIDDLE"), ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ("RIGHTPADDING", (0, 0), (-1, -1), 0), ("TOPPADDING", (0, 0), (-1, -1), padding),
            ("BOTTOMPADDING", (0, 0), (-1, -1), padding),
        ])
    )  # fmt: skip
    return table


class Field(Flowable):  # type: ignore[misc]
    """One or more colours edge to edge; crossed where one is not known."""

    def __init__(self, labs: Sequence[Lab | None], width: float, height: float) -> None:
        super().__init__()
        self.labs, self.width, self.height = tuple(labs), width, height

    def wrap(self, _available_width: float, _available_height: float) -> tuple[float, float]:
        """The room it takes."""
        return self.width, self.height

    def draw(self) -> None:
        """Draw the fields."""
        each = self.width / len(self.labs)
        for index, lab in enumerate(self.labs):
            x = index * each
            if lab is None:
                self.canv.setStrokeColor(SECOND)
                self.canv.setLineWidth(0.4)
                self.canv.rect(x, 0, each, self.height, fill=0)
                self.canv.line(x, 0, x + each, self.height)
                continue
            (red, green, blue), _shown = screen_rgb(lab)
            self.canv.setFillColorRGB(red / 255, green / 255, blue / 255)
            self.canv.rect(x, 0, each, self.height, stroke=0, fill=1)


class Drops(Flowable):  # type: ignore[misc]
    """Parts as dots to count by eye."""

    def __init__(self, count: int) -> None:
        super().__init__()
        self.count, self.width, self.height = count, count * _DROP, 3.4 * mm

    def wrap(self, _available_width: float, _available_height: float) -> tuple[float, float]:
        """The room they take."""
        return self.width, self.height

    def draw(self) -> None:
        """Draw the dots."""
        self.canv.setFillColor(SECOND)
        for index in range(self.count):
            self.canv.circle((index + 0.5) * _DROP, 1.5 * mm, 0.95 * mm, stroke=0, fill=1)


class Sign(Flowable):  # type: ignore[misc]
    """A warning's diamond, filled for what stops the work; or a box to tick."""

    def __init__(self, filled: bool = False, *, box: bool = False) -> None:
        super().__init__()
        self.filled, self.box, self.width, self.height = filled, box, 3 * mm, 3.2 * mm

    def wrap(self, _available_width: float, _available_height: float) -> tuple[float, float]:
        """The room it takes."""
        return self.width, self.height

    def draw(self) -> None:
        """Draw the sign; the font has no diamond, so it is drawn as on screen."""
        self.canv.setStrokeColor(INK)
        self.canv.setFillColor(INK)
        self.canv.setLineWidth(0.5)
        if self.box:
            self.canv.rect(0, 0, 2.8 * mm, 2.8 * mm, fill=0)
            return
        x, y, reach = 1.3 * mm, 1.4 * mm, 1.1 * mm
        path = self.canv.beginPath()
        path.moveTo(x, y + reach)
        for dx, dy in ((reach, 0), (0, -reach), (-reach, 0)):
            path.lineTo(x + dx, y + dy)
        path.close()
        self.canv.drawPath(path, stroke=1, fill=int(self.filled))
