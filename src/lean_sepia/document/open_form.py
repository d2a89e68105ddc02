"""The document as open JSON, by a published schema, and back without loss."""

from __future__ import annotations

import json
from typing import Any

from lean_sepia.document.migrate import parse_document
from lean_sepia.document.model import FORMAT, Project
from lean_sepia.errors import BadInputError, ProjectFileError
from lean_sepia.files.gate import parse_json
from lean_sepia.language import _

_FORM = "lean-sepia-project"


def schema() -> dict[str, Any]:
    """The JSON Schema of the open form, made from the model."""
    made = Project.model_json_schema()
    made["title"] = "Lean Sepia project"
    made["properties"] = {
        "form": {"const": _FORM}, "sequences": {
            "type": "object", "description": "The coats of every zone by their ids, bottom first; told, and worked out from the steps.",
            "additionalProperties": {"type": "array", "items": {"type": "string"}},
        }, **made["properties"],
    }  # fmt: skip
    return made


def open_text(project: Project) -> str:
    """A document as open JSON; the sequence of the coats of every zone is told with it."""
    data = json.loads(project.model_dump_json())
    sequences = {zone.id: [coat.id for coat in project.coats_of(zone.id)] for zone in project.zones}
    return json.dumps({"form": _FORM, "sequences": sequences, **data}, ensure_ascii=False, indent=1)


def parse_open(text: str, file: str = "") -> Project:
    """A document from its open JSON, of this form or an earlier one.

    Raises
    ------
    BadInputError
        It is none, is from a newer version, or breaks a rule.
    """
    data = parse_json(text, file, _("The project"), BadInputError)
    if not isinstance(data, dict) or data.get("form") != _FORM:
        words = _("A project as open JSON says {0} in “form”; `project show` writes such files.")
        raise BadInputError(words.format(f'"{_FORM}"'))
    told = data.pop("sequences", None)
    data.pop("form")
    data.setdefault("format", FORMAT)
    try:
        project = parse_document(json.dumps(data))
    except ProjectFileError as error:
        raise BadInputError(_("The project cannot be read: {0}").format(error)) from None
    _check_sequences(project, told)
    return project


def _check_sequences(project: Project, told: object) -> None:
    """What the file tells of the order of coats is what its steps say."""
    if not isinstance(told, dict):
        return
    for zone in project.zones:
        mine = [coat.id for coat in project.coats_of(zone.id)]
        if zone.id in told and told[zone.id] != mine:
            words = _(
                "The coats of {0} lie otherwise in “sequences” than the steps lay them. Put the steps in that order, or leave “sequences” out."
            )
            raise BadInputError(words.format(zone.name))
