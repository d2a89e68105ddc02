"""Ids of bottles, made of their names."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable

_NOT_IN_IDS = re.compile(r"[^a-z0-9._-]+")
_LONGEST = 60


def is_id(text: str) -> bool:
    """Whether a text can be an id as it is."""
    return bool(text) and not _NOT_IN_IDS.search(text)


class Ids:
    """Ids that are taken; each fresh one is taken too.

    >>> ids = Ids(["sea-green"])
    >>> ids.fresh("Sea green!"), ids.fresh("Sea green"), ids.fresh("☂")
    ('sea-green-2', 'sea-green-3', 'paint')
    """

    def __init__(self, taken: Iterable[str] = ()) -> None:
        self._taken = set(taken)
        self._wanted: Counter[str] = Counter()

    def fresh(self, name: str) -> str:
        """An id made of a name, with a number behind it where another bottle has it."""
        stem = _NOT_IN_IDS.sub("-", name.casefold()).strip("-.")[:_LONGEST] or "paint"
        found = stem
        while found in self._taken:
            self._wanted[stem] += 1
            found = f"{stem}-{self._wanted[stem] + 1}"
        self._taken.add(found)
        return found
