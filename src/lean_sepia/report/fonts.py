"""The program's own face on paper."""

from __future__ import annotations

import io
from importlib.resources import files

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

REGULAR, BOLD = "B612", "B612-Bold"


def register_fonts() -> None:
    """Make both faces known to the PDF library, once."""
    if REGULAR in pdfmetrics.getRegisteredFontNames():
        return
    folder = files("lean_sepia") / "fonts"
    for name, file in ((REGULAR, "B612-Regular.ttf"), (BOLD, "B612-Bold.ttf")):
        pdfmetrics.registerFont(TTFont(name, io.BytesIO((folder / file).read_bytes())))
