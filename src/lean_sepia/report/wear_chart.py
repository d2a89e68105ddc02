"""The comparison chart on paper at true size: this zone's own marks at rising shares, to hold beside the model."""

from __future__ import annotations

import io
from collections.abc import Sequence
from pathlib import Path

from PIL import Image
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from lean_sepia.answers.preview.texture import Frame
from lean_sepia.answers.wearing.bottles import Bottles
from lean_sepia.answers.wearing.simulating import stop_marks
from lean_sepia.arrays import Image8
from lean_sepia.errors import BadInputError
from lean_sepia.files.gate import write_export
from lean_sepia.language import _
from lean_sepia.report.export import Leaving
from lean_sepia.report.fonts import BOLD, REGULAR, register_fonts

PATCH_MM = (80.0, 34.0)
PX_PER_MM = 16.0
_LEFT, _TOP, _ACROSS, _DOWN = 18.0, 52.0, 90.0, 52.0
_RULER_MM = 100.0


def wear_chart(title: str, scale: float, patches: Sequence[tuple[float, Image8]]) -> bytes:
    """The chart as a PDF; patches : share and picture of each, drawn at `PX_PER_MM` for `PATCH_MM`."""
    register_fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4, invariant=True)
    canvas.setTitle(_("Stop marks"))
    _width, height = A4
    canvas.setFont(BOLD, 15)
    canvas.drawString(_LEFT * mm, height - 22 * mm, _("Stop marks: {0}, 1:{1}").format(title, f"{scale:g}"))
    canvas.setFont(REGULAR, 9)
    words = _("Print at 100 % on matte paper, check the ruler, and hold it beside the model at 30 cm. The printer's colours are not the model's: compare how much, not which.")  # fmt: skip
    _lines(canvas, words, height - 28 * mm)
    for number, (share, pixels) in enumerate(patches):
        x = (_LEFT + _ACROSS * (number % 2)) * mm
        y = height - (_TOP + _DOWN * (number // 2) + PATCH_MM[1]) * mm
        canvas.drawImage(ImageReader(Image.fromarray(pixels)), x, y, PATCH_MM[0] * mm, PATCH_MM[1] * mm)
        canvas.setFont(BOLD, 11)
        canvas.drawString(x, y + (PATCH_MM[1] + 2) * mm, _("{0} %").format(f"{100 * share:g}"))
    _ruler(canvas)
    canvas.save()
    return out.getvalue()


def _lines(canvas: Canvas, words: str, y: float) -> None:
    line = ""
    for word in words.split():
        if canvas.stringWidth(f"{line} {word}", REGULAR, 9) > 172 * mm:
            canvas.drawString(_LEFT * mm, y, line)
            line, y = "", y - 4.4 * mm
        line = f"{line} {word}".strip()
    canvas.drawString(_LEFT * mm, y, line)


def _ruler(canvas: Canvas) -> None:
    y = 16 * mm
    canvas.setLineWidth(0.4)
    canvas.line(_LEFT * mm, y, (_LEFT + _RULER_MM) * mm, y)
    for tick in range(int(_RULER_MM) + 1):
        tall = 3 if tick % 10 == 0 else 1.5
        canvas.line((_LEFT + tick) * mm, y, (_LEFT + tick) * mm, y + tall * mm)
    canvas.setFont(REGULAR, 8)
    canvas.drawString((_LEFT + _RULER_MM + 3) * mm, y, _("100 mm when printed at true size"))


def write_wear_chart(path: Path, title: str, scale: float, patches: Sequence[tuple[float, Image8]]) -> None:
    """Write the chart to a file, whole or not at all.

    Raises
    ------
    BadInputError
        The place cannot be written to.
    """
    write_export(path, wear_chart(title, scale, patches), BadInputError)


def write_stop_marks(leaving: Leaving, path: str | Path) -> None:
    """Write the marks of a zone's planned wear at true size, by which one stops.

    Raises
    ------
    BadInputError
        No wear is planned there, or the place cannot be written to.
    """
    project, zone = leaving.project, leaving.project.zone(leaving.zone)
    frame = Frame(round(PATCH_MM[0] * PX_PER_MM), round(PATCH_MM[1] * PX_PER_MM), PX_PER_MM)
    marks = stop_marks(project, zone.id, Bottles(leaving.paints), frame)
    if not marks:
        raise BadInputError(
            _("No wear is planned on {0} yet. Choose kinds of it in Wear first.").format(zone.name)
        )
    scale = project.subject_of(zone).scale
    write_wear_chart(Path(path), zone.name, scale, [(share, shown.pixels) for share, shown in marks])
