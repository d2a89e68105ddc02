"""The columns of a typed shelf: what they are called in everyday words, and how their cells are read."""

from __future__ import annotations

import re

from lean_sepia.files.typed import to_number

LABS = ("lab", "lab_over_white", "lab_over_black", "lab_tint")
_SAID: dict[str, tuple[str, ...]] = {
    "id": ("id", "code", "number", "no", "nr"),
    "name": ("name", "colour name", "color name", "paint", "bottle", "title"),
    "line": ("line", "range", "series", "maker"),
    "medium": ("medium", "type", "kind of paint", "binder"),
    "finish": ("finish", "sheen", "dries", "surface"),
    "hex": ("hex", "colour", "color", "rgb", "screen colour", "screen color"),
    "use": ("use", "for", "purpose", "what it is"),
    "body": ("body", "opacity", "cover", "covers", "coverage"),
    "opaque_coats": ("opaque coats", "hides in", "coats to hide", "coats", "hides in coats"),
    "thinner_share": ("thinner share", "sold thinned", "thinned"),
    "stock_ml": ("stock ml", "left", "left ml", "ml left", "stock", "remaining"),
    "drops_per_ml": ("drops per ml", "drops a ml", "drops"),
    "opened": ("opened", "opened on", "date opened"),
    "note": ("note", "notes", "remark", "remarks", "comment"),
    "can": ("can", "spray can", "spray"),
    "retired": ("retired", "not used"),
    "keep": ("keep", "keeps"),
    "k1": ("k1",),
    "k2": ("k2",),
    "film_coats": ("film coats",),
    "tint_white": ("tint white",),
    "tint_parts_white": ("tint parts white",),
}  # fmt: skip
_FIELDS = {word: field for field, words in _SAID.items() for word in words}
_FIELDS |= {f"{lab} {axis}".replace("_", " ").casefold(): f"{lab}_{axis}" for lab in LABS for axis in "Lab"}
_FIELDS |= {"l*": "lab_L", "a*": "lab_a", "b*": "lab_b", "l": "lab_L", "a": "lab_a", "b": "lab_b"}
NUMBERS = (
    "film_coats",
    "tint_parts_white",
    "k1",
    "k2",
    "stock_ml",
    "drops_per_ml",
    "opaque_coats",
    "thinner_share",
    "keep",
)
KNOWN = frozenset(_FIELDS.values())
"""The fields that columns may be called."""
YES_OR_NO = ("can", "retired")
_SHARES = ("thinner_share", "keep")
_UNIT = re.compile(r"\s*(coats?|ml|millilitres?|drops?|thinner|%)\s*$", re.IGNORECASE)


def field_of(header: str) -> str:
    """The field that a column is called; its own name where none is."""
    said = " ".join(header.replace("_", " ").split()).casefold()
    return _FIELDS.get(said, header)


def number_in(field: str, written: str) -> float:
    """The figure of a cell such as "2 coats", "60 %" or "12,5 ml"; of a share in per cent, the share.

    Raises
    ------
    ValueError
        There is none.
    """
    figure = to_number(_UNIT.sub("", written))
    return figure / 100 if field in _SHARES and "%" in written else figure
