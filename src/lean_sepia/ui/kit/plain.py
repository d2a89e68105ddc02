"""Text that may hold a name, a note or a path is shown as it is written: Qt would read tags in it, and open what they name."""

from __future__ import annotations

import html

from PySide6.QtWidgets import QWidget

_LONGEST = 2000


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
