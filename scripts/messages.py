"""Collect every sentence of the program into `src/lean_sepia/locale/lean_sepia.pot`, the template translators start from.

    python -m scripts.messages

Beside what `_`, `N_` and `ngettext` mark, the docstrings and the option help of the commands are collected.
"""

from __future__ import annotations

import ast
import inspect
from collections.abc import Iterator
from datetime import UTC, datetime
from io import BytesIO
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.pofile import write_po

SOURCE = Path(__file__).parent.parent / "src" / "lean_sepia"
TEMPLATE = SOURCE / "locale" / "lean_sepia.pot"
_KEYWORDS = {"_": None, "N_": None, "ngettext": (1, 2)}


def command_help() -> Iterator[tuple[str, int, str]]:
    """File, line and text of every command's docstring and every option's help."""
    for path in (SOURCE / "cli.py", *sorted((SOURCE / "commands").glob("*.py"))):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.FunctionDef) and _is_command(node):
                yield path.name, node.lineno, inspect.cleandoc(ast.get_docstring(node) or "")
            if isinstance(node, ast.keyword) and node.arg == "help" and isinstance(node.value, ast.Constant):
                yield path.name, node.value.lineno, str(node.value.value)


def _is_command(node: ast.FunctionDef) -> bool:
    calls = [decorator.func for decorator in node.decorator_list if isinstance(decorator, ast.Call)]
    return any(isinstance(call, ast.Attribute) and call.attr in ("command", "group") for call in calls)


def template() -> bytes:
    """The template as it should be now; the same sentences give the same bytes."""
    catalog = Catalog(
        project="Lean Sepia",
        copyright_holder="the founders of Lean Sepia",
        creation_date=datetime(2026, 11, 26, tzinfo=UTC),
    )
    found = extract_from_dir(SOURCE, [("**.py", "python")], keywords=_KEYWORDS, strip_comment_tags=False)
    for name, _line, message, _comments, _context in found:
        catalog.add(message, locations=[(name, 0)])
    for name, _line, message in command_help():
        catalog.add(message, locations=[(name, 0)])
    out = BytesIO()
    write_po(out, catalog, sort_output=True, include_lineno=False, omit_header=True)
    return out.getvalue()


def main() -> None:
    """Write the template."""
    TEMPLATE.parent.mkdir(exist_ok=True)
    TEMPLATE.write_bytes(template())
    print(f"Wrote {TEMPLATE}.")


if __name__ == "__main__":
    main()
