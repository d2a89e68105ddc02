"""A shelf as JSON: the only form that keeps everything."""

from __future__ import annotations

import json
from pathlib import Path

from lean_sepia.errors import ShelfError
from lean_sepia.files.gate import parse_json
from lean_sepia.language import N_, _
from lean_sepia.shelf.content import ShelfContent, tidied
from lean_sepia.shelf.forms.form import Form


def readable(text: str) -> bool:
    """Whether a text looks like JSON."""
    return text.lstrip()[:1] in ("{", "[")


def read(text: str, file: Path) -> ShelfContent:
    """The records of a JSON text; what it says beside them is kept.

    Raises
    ------
    ShelfError
        It is no JSON, or not a shelf.
    """
    data = parse_json(text, file, _("The shelf"), ShelfError)
    if not isinstance(data, dict) or not isinstance(data.get("paints"), list):
        raise ShelfError(
            _('The shelf {0} has no list "paints". A shelf file is {{"paints": [...]}}.').format(file)
        )
    for position, record in enumerate(data["paints"]):
        if not isinstance(record, dict):
            raise ShelfError(
                _("Entry {0} of the shelf {1} is not a paint: {2!r}.").format(position + 1, file, record)
            )
    extra = {key: value for key, value in data.items() if key != "paints"}
    return ShelfContent(tuple(tidied(record) for record in data["paints"]), extra)


def write(content: ShelfContent) -> str:
    """Everything that is known of a shelf."""
    return json.dumps({**content.extra, "paints": list(content.records)}, ensure_ascii=False, indent=1) + "\n"


FORM = Form(label=N_("Shelf"), endings=(".json",), readable=readable, read=read, write=write)
