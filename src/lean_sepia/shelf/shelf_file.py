"""Shelf files, in any form of the table of forms. Unknown fields are kept."""

from __future__ import annotations

from pathlib import Path

from lean_sepia.errors import ShelfError
from lean_sepia.files.gate import read_text, shown, write_export
from lean_sepia.language import _
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.forms.table import form_for, form_of

_MOST_PAINTS = 10_000


def read_shelf(path: str | Path) -> ShelfContent:
    """Read a shelf file by its content.

    Raises
    ------
    ShelfError
        The file is missing, not UTF-8, in none of the forms, or has no paints.
    """
    file = Path(path)
    text = read_text(file, _("The shelf"), ShelfError)
    if not text.strip():
        raise ShelfError(_("The shelf {0} is empty.").format(file))
    content = form_of(text).read(text, file)
    if not content.records:
        raise ShelfError(_("The shelf {0} lists no paints.").format(file))
    if len(content.records) > _MOST_PAINTS:
        words = _("The shelf {0} lists {1} paints; at most {2} are read. Divide it.")
        raise ShelfError(words.format(shown(file), len(content.records), _MOST_PAINTS))
    return content


def write_shelf(path: str | Path, content: ShelfContent) -> None:
    """Write a shelf in the form its ending names. Only JSON keeps everything.

    Raises
    ------
    ShelfError
        The place cannot be written to, or a paint breaks a rule.
    """
    write_export(path, form_for(path).write(content).encode(), ShelfError)
