"""A mixture as people write it down: "8 Deep sea, 1 Chrome green", "deep-sea=8 chrome-green=1", "8:1 Deep sea : Chalk"."""

from __future__ import annotations

import re
from collections.abc import Mapping

from lean_sepia.errors import ShelfError
from lean_sepia.language import _

_SEPARATED = re.compile(r"[,;+\n]| : ")
_SPACES, _LONGEST = re.compile(r"[^\S\n]+"), 2000
_COUNTED = re.compile(
    r"(?P<first>[0-9]{1,6})\s*(?:parts?|drops?|×|x)?\s+(?P<named>.+)|(?P<name>.+?)\s*(?:[=×]|\s)\s*(?P<last>[0-9]{1,6})"
)


def read_mixture(text: str, names: Mapping[str, str]) -> list[tuple[str, int]]:
    """Whole parts by paint id; paints are named by id or by name, in any case.

    names : the name of every paint on the shelf, by id

    >>> read_mixture("8 Deep sea, 1 chalk", {"deep-sea": "Deep sea", "chalk": "Chalk"})
    [('deep-sea', 8), ('chalk', 1)]

    Raises
    ------
    ShelfError
        Nothing is written, a piece has no count, or names no paint or several.
    """
    if len(text) > _LONGEST:
        raise ShelfError(
            _('A mixture is a line such as "8 Deep sea, 1 Chalk"; found {0} letters.').format(len(text))
        )
    squeezed = _SPACES.sub(" ", text)
    pieces = [piece.strip() for piece in _SEPARATED.split(squeezed) if piece.strip()]
    if len(pieces) == 1 and pieces[0].count("=") > 1:
        pieces = pieces[0].split()
    if not pieces:
        raise ShelfError(_('Say what was mixed, such as "8 Deep sea, 1 Chalk".'))
    parts: dict[str, int] = {}
    for piece in pieces:
        found = _COUNTED.fullmatch(piece)
        if found is None and len(pieces) > 1:
            raise ShelfError(_('{0!r} has no number of parts. Write it as "8 Deep sea".').format(piece))
        name = piece if found is None else (found["named"] or found["name"])
        count = 1 if found is None else int(found["first"] or found["last"])
        if count < 1:
            raise ShelfError(_("Parts are whole numbers of at least 1; found {0!r}.").format(piece))
        paint = find_paint(name, names)
        parts[paint] = parts.get(paint, 0) + count
    return list(parts.items())


def find_paint(name: str, names: Mapping[str, str]) -> str:
    """The id of the one paint that a name stands for: its own, else the one that begins with it, else that holds all its words.

    Raises
    ------
    ShelfError
        It is none, or several.
    """
    found = matching(name, names)
    if len(found) != 1:
        known = "no paint" if not found else f"{len(found)} paints ({', '.join(sorted(found)[:4])})"
        raise ShelfError(
            _("{0!r} names {1} on this shelf. Write the whole name or the id.").format(name.strip(), known)
        )
    return found[0]


def matching(name: str, names: Mapping[str, str]) -> list[str]:
    """The ids a name may stand for, by the closest way in which any does."""
    wanted = name.strip().casefold()
    if not wanted:
        return []
    called = {key: (key.casefold(), words.casefold()) for key, words in names.items()}
    same = [key for key, forms in called.items() if wanted in forms]
    begin = [key for key, forms in called.items() if any(form.startswith(wanted) for form in forms)]
    asked = set(re.findall(r"\w+", wanted))
    hold = [key for key, forms in called.items() if asked <= set(re.findall(r"\w+", forms[1]))]
    return same or begin or (hold if asked else [])
