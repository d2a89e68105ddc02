"""Text that may hold a name, a note or a path is shown as it is written: Qt would read tags in it, and open what they name."""

from __future__ import annotations

import html
import re

from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetrics
from PySide6.QtWidgets import QWidget

_LONGEST = 2000
_CLAUSE = re.compile(r", | · |; ")


def plain_hint(text: str) -> str:
    """A text for a tool tip; where it could be taken for rich text it is rich text that shows it as it is."""
    short = text if len(text) <= _LONGEST else f"{text[:_LONGEST]}…"
    if "<" not in short and "&" not in short:
        return short
    return f"<qt>{html.escape(short).replace(chr(10), '<br>')}</qt>"


def hint(widget: QWidget, text: str) -> None:
    """Set a widget's tool tip."""
    widget.setToolTip(plain_hint(text))


def menu_words(text: str) -> str:
    """Words for a menu or button in which a name stands: an ampersand is one, not a key to press."""
    return text.replace("&", "&&")


def fitting(metrics: QFontMetrics, words: str, width: float) -> str:
    """As many clauses of some words as fit into a width; of the first, where even that does not, its beginning."""
    ends = [place.start() for place in _CLAUSE.finditer(words)]
    whole = (words[:end] for end in (len(words), *reversed(ends)))
    found = next((said for said in whole if metrics.horizontalAdvance(said) <= width), None)
    first = words[: ends[0]] if ends else words
    return found if found is not None else metrics.elidedText(first, Qt.TextElideMode.ElideRight, int(width))
