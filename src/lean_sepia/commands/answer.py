"""How every command answers: JSON with --json, plain words otherwise."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from typing import Any

import click

_DECIMALS = 4

json_option = click.option("--json", "as_json", is_flag=True, help="Print JSON instead of words.")


def _rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, _DECIMALS) + 0.0
    if isinstance(value, Mapping):
        return {key: _rounded(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [_rounded(item) for item in value]
    return value


def print_answer(answer: dict[str, Any], as_json: bool, words: Callable[[], str]) -> None:
    """Print an answer, rounded, as JSON or in the words that `words` makes."""
    click.echo(json.dumps(_rounded(answer), ensure_ascii=False) if as_json else words())
