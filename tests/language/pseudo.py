"""A language in which every translated sentence stands in brackets, and a way to find words that do not."""

from __future__ import annotations

import gettext
import re

_BRACKETED = re.compile(r"«[^«»]*»")
_WORD = re.compile(r"[^\W\d_]{3,}")


class Pseudo(gettext.NullTranslations):
    """Puts each sentence into brackets; what is filled in afterwards lies inside them."""

    def gettext(self, message: str) -> str:
        return f"«{message}»"

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return f"«{msgid1 if n == 1 else msgid2}»"


def untranslated(text: str, known: frozenset[str]) -> list[str]:
    """Words of a text that no translation gave: outside brackets, and not among the known names."""
    left = text.replace("&", "")
    before = None
    while before != left:
        before, left = left, _BRACKETED.sub(" ", left)
    return [word for word in _WORD.findall(left) if word.casefold() not in known]


NEVER_TRANSLATED = frozenset(
    word.casefold()
    for word in [
        "lean",
        "sepia",
        "ISO",
        "ASTM",
        "CIE",
        "LED",
        "FL11",
        "Lab",
        "sRGB",
        "PDF",
        "JSON",
        "CSV",
        "CGATS",
        "GPL",
        "json",
        "csv",
        "pdf",
        "sepia",
        "txt",
        "cgats",
        "gpl",
        "gif",
        "tif",
        "tiff",
        "jpg",
        "jpeg",
        "png",
        "webp",
        "bmp",
        "heic",
        "heif",
        "dng",
        "nef",
        "arw",
        "Ctrl",
        "Shift",
        "Space",
        "Alt",
        "mon",
        "fri",
        "sat",
        "sun",
        "tue",
        "wed",
        "thu",
        "daily",
    ]
)
"""Names of standards, forms and keys, and what is typed rather than read."""


def words_of(*texts: str) -> frozenset[str]:
    """The words of names that come from the document or the shelf, not from the program."""
    return frozenset(word.casefold() for text in texts for word in _WORD.findall(text))
