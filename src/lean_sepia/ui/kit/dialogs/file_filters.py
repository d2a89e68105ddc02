"""Kinds of files, as file dialogs list them; made from the tables of what can be read and written."""

from __future__ import annotations

from collections.abc import Iterable

from lean_sepia.language import _


def pictures() -> str:
    """Pictures first, then everything."""
    from lean_sepia.photo.formats import PICTURE_ENDINGS  # decoders, which the start page does without

    return _and_all(_("Pictures"), PICTURE_ENDINGS)


def projects() -> str:
    """Projects only."""
    return "Lean Sepia (*.sepia)"


def shelves() -> str:
    """Shelf files in any form, then everything."""
    from lean_sepia.shelf.forms.table import FORMS  # the paints, which the start page does without

    return _and_all(_("Shelf"), (ending for form in FORMS.values() for ending in form.endings))


def shelf_forms() -> str:
    """Each form in which a shelf can be written, with the ending it is written with."""
    from lean_sepia.shelf.forms.table import FORMS

    return ";;".join(f"{_(form.label)} (*{form.endings[0]})" for form in FORMS.values())


def _and_all(label: str, endings: Iterable[str]) -> str:
    return f"{label} ({' '.join(f'*{ending}' for ending in endings)});;{_('All files')} (*)"
