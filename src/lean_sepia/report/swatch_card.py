"""The swatch card on A4 paper, to be printed at true size, painted and photographed."""

from __future__ import annotations

import io
import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from lean_sepia.errors import BadInputError
from lean_sepia.files.gate import write_export
from lean_sepia.language import N_, _, ngettext
from lean_sepia.photo.swatch_card import (
    PAGE_MM,
    VERSION,
    Box,
    CardLayout,
    FieldLayout,
    card_layout,
    mark_bits,
)
from lean_sepia.report.fonts import BOLD, REGULAR, register_fonts

_SECOND, _HAIR = 0.33, 0.62
_ADVICE = (
    N_(
        "Print at 100 % on a laser printer: inkjet black bleeds under water paint. In every field spray the same film over white and black at once,"
    ),
    N_(
        "the same passes for every paint, and fill the masstone patch until it hides. Leave the strips above the film bare. Lay a grey card"
    ),
    N_(
        "in the frame. Photograph the whole page from above in even daylight, without flash, without glare, sharp on the marks."
    ),
)


def swatch_card(fields: int = 12, film_coats: float = 1.0, thinner_share: float = 0.0) -> bytes:
    """The card as a PDF; the film it is meant for is printed on it.

    Raises
    ------
    SampleError
        Not between 1 and 24 fields.
    """
    layout = card_layout(fields)
    register_fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4, invariant=True)
    canvas.setTitle(_("Swatch card"))
    page = _Card(canvas)
    _draw_marks(page, layout)
    thinned = _("{0:.0f} % thinner").format(100 * thinner_share) if thinner_share else _("unthinned")
    coats = ngettext("{0} coat", "{0} coats", 1 if film_coats == 1 else 2).format(f"{film_coats:g}")
    title = ngettext(
        "Swatch card {0} · {1} field · one film of {2}, {3}",
        "Swatch card {0} · {1} fields · one film of {2}, {3}",
        fields,
    )
    page.words(30, 15, title.format(VERSION, fields, coats, thinned), 11, bold=True)
    for line, words in enumerate(_(said) for said in _ADVICE):
        page.words(30, 20.5 + 3.2 * line, words, 5.4, second=True)
    for field in layout.fields:
        _draw_field(page, field)
    page.frame(layout.grey_frame)
    page.words(layout.grey_frame[0], layout.grey_frame[1] - 1.4, _("grey card here"), 7, second=True)
    x, y = 60.0, PAGE_MM[1] - 8.5
    page.line(x, y, x + 50)
    page.words(x + 52, y + 0.8, _("50 mm: if a ruler disagrees, print without scaling"), 6, second=True)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _draw_marks(page: _Card, layout: CardLayout) -> None:
    """The marks by which a photo of the card is straightened."""
    for number, (x0, y0, x1, _unused) in layout.marks:
        step = (x1 - x0) / 6
        for row, bits in enumerate(mark_bits(number)):
            for column in (place for place, black in enumerate(bits) if black):
                left, top = x0 + column * step, y0 + row * step
                # A hair wider than a square, so that no white line shows between two.
                page.fill((left, top, left + step + 0.02, top + step + 0.02))


def _draw_field(page: _Card, field: FieldLayout) -> None:
    """Where one paint goes: its name, a film over white and black, and its masstone."""
    x0, y0 = field.bare_white[:2]
    page.words(x0, y0 - 1.6, f"{field.field}", 9, bold=True)
    page.words(x0 + 7, y0 - 1.6, _("paint:"), 6, second=True)
    page.line(x0 + 15, y0 - 1.6, field.masstone[2])
    black = field.over_black
    page.fill((black[0], field.bare_black[1], black[2], black[3]))
    page.frame(field.over_white)
    page.frame(field.masstone)
    page.words(field.masstone[0], field.masstone[3] + 2.6, _("masstone"), 5.4, second=True)
    page.words(x0, field.over_white[3] + 2.6, _("film over white and black"), 5.4, second=True)


def write_swatch_card(
    path: str | Path, layout_path: str | Path | None = None, fields: int = 12, film_coats: float = 1.0,
    thinner_share: float = 0.0,
) -> None:  # fmt: skip
    """Write the card, and its layout as JSON where a place for it is given.

    Raises
    ------
    BadInputError
        A place cannot be written to, or the number of fields cannot be.
    """
    data = swatch_card(fields, film_coats, thinner_share)
    pairs: list[tuple[str | Path, bytes]] = [(path, data)]
    if layout_path is not None:
        pairs.append((layout_path, (json.dumps(layout_json(card_layout(fields)), indent=1) + "\n").encode()))
    for place, content in pairs:
        write_export(place, content, BadInputError)


def layout_json(layout: CardLayout) -> dict[str, Any]:
    """The layout as other programs may read it: millimetres on the page, y down."""
    return {
        "page_mm": list(PAGE_MM),
        "grey_frame": list(layout.grey_frame),
        "marks": [{"id": number, "box": list(box)} for number, box in layout.marks],
        "fields": [
            {key: list(value) if isinstance(value, tuple) else value for key, value in asdict(field).items()}
            for field in layout.fields
        ],
    }


class _Card:
    """Drawing in millimetres from the upper left corner."""

    def __init__(self, canvas: Canvas) -> None:
        self._canvas = canvas

    def _y(self, y: float) -> float:
        return float((PAGE_MM[1] - y) * mm)

    def fill(self, box: Box) -> None:
        """A black rectangle."""
        x0, y0, x1, y1 = box
        self._canvas.setFillGray(0)
        self._canvas.rect(x0 * mm, self._y(y1), (x1 - x0) * mm, (y1 - y0) * mm, stroke=0, fill=1)

    def frame(self, box: Box) -> None:
        """A dotted outline."""
        x0, y0, x1, y1 = box
        self._canvas.setStrokeGray(_HAIR)
        self._canvas.setLineWidth(0.3)
        self._canvas.setDash(1, 2)
        self._canvas.rect(x0 * mm, self._y(y1), (x1 - x0) * mm, (y1 - y0) * mm, stroke=1, fill=0)
        self._canvas.setDash()

    def line(self, x0: float, y: float, x1: float) -> None:
        """A thin level line."""
        self._canvas.setStrokeGray(_HAIR)
        self._canvas.setLineWidth(0.4)
        self._canvas.line(x0 * mm, self._y(y), x1 * mm, self._y(y))

    def words(
        self, x: float, y: float, text: str, size: float, *, bold: bool = False, second: bool = False
    ) -> None:
        """One line of text whose base line lies at y."""
        self._canvas.setFont(BOLD if bold else REGULAR, size)
        self._canvas.setFillGray(_SECOND if second else 0)
        self._canvas.drawString(x * mm, self._y(y), text)
