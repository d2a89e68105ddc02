"""Turn Debian's B612 (package fonts-b612, PostScript outlines) into the TrueType files that ship.

Both Qt and the PDF writer read TrueType; the PDF writer reads nothing else. Needs `pip install fonttools`.
"""

from pathlib import Path

from fontTools.pens.cu2quPen import Cu2QuPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont, newTable

SOURCE = Path("/usr/share/fonts/opentype/b612")
OUT = Path(__file__).parent.parent / "src/lean_sepia/fonts"


def convert(name: str) -> None:
    """Write one face as TrueType, curves within 1 unit of 1000."""
    font = TTFont(SOURCE / f"{name}.otf")
    glyphs = font.getGlyphSet()
    order = font.getGlyphOrder()
    outlines = {}
    for glyph in order:
        pen = TTGlyphPen(glyphs)
        glyphs[glyph].draw(Cu2QuPen(pen, max_err=1.0, reverse_direction=True))
        outlines[glyph] = pen.glyph()
    font["loca"] = newTable("loca")
    font["glyf"] = glyf = newTable("glyf")
    glyf.glyphOrder, glyf.glyphs = order, outlines
    glyf.compile(font)
    font["maxp"].tableVersion = 0x00010000
    maxp = font["maxp"]
    maxp.maxZones, maxp.maxTwilightPoints, maxp.maxStorage = 1, 0, 0
    maxp.maxFunctionDefs = maxp.maxInstructionDefs = maxp.maxStackElements = maxp.maxSizeOfInstructions = 0
    maxp.maxComponentElements = 0
    for table in ("CFF ", "VORG", "DSIG"):
        if table in font:
            del font[table]
    font["post"].formatType = 2.0
    font["post"].extraNames, font["post"].mapping = [], {}
    font["post"].glyphOrder = order
    font.sfntVersion = "\x00\x01\x00\x00"
    font.save(OUT / f"{name}.ttf")


if __name__ == "__main__":
    for face in ("B612-Regular", "B612-Bold"):
        convert(face)
