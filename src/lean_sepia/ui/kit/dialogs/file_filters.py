"""Kinds of files, as file dialogs list them."""

from __future__ import annotations

from lean_sepia.language import _

_PICTURES = "*.jpg *.jpeg *.png *.tif *.tiff *.webp *.bmp *.gif *.heic *.heif *.dng *.nef *.cr2 *.cr3 *.arw *.raf *.orf *.rw2"


def pictures() -> str:
    """Pictures first, then everything."""
    return f"{_('Pictures')} ({_PICTURES});;{_('All files')} (*)"


def projects() -> str:
    """Projects only."""
    return "Lean Sepia (*.sepia)"
