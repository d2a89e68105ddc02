"""Writes docs/project.schema.json: the JSON Schema of a project as open JSON, made from the model."""

from __future__ import annotations

import json
from pathlib import Path

from lean_sepia.document.open_form import schema

PAGE = Path(__file__).parent.parent / "docs" / "project.schema.json"


def page() -> str:
    """The schema as it stands in docs/."""
    return json.dumps(schema(), ensure_ascii=False, indent=1) + "\n"


if __name__ == "__main__":
    PAGE.write_text(page(), encoding="utf-8")
