"""Finding things in the document's lists: looked up once for each list, however often they are asked for."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, TypeVar

Found = TypeVar("Found")
_KEPT = 32
_WORTH_IT = 32  # shorter lists are gone through as fast

_turn = threading.Lock()
_Key = tuple[object, ...]
_known: OrderedDict[_Key, tuple[tuple[Any, ...], Any]] = OrderedDict()


def looked_up(what: str, parts: tuple[Any, ...], make: Callable[[], Found]) -> Found:
    """What `make` makes of some parts of a document; the same answer for the very same parts, of which only the last few are remembered.

    Parts of a document, lists above all, are never changed, so that they are known by their identity; they are held as long as they
    are remembered.
    """
    key: _Key = (what, *map(id, parts))
    with _turn:
        if (known := _known.get(key)) is not None:
            _known.move_to_end(key)
            answer: Found = known[1]
            return answer
    answer = make()
    with _turn:
        _known[key] = parts, answer
        while len(_known) > _KEPT:
            _known.popitem(last=False)
    return answer


def item_of(items: tuple[Any, ...], identity: str) -> Any:
    """The item with this id; None where there is none."""
    if len(items) < _WORTH_IT:
        return next((item for item in items if item.id == identity), None)
    return looked_up("id", (items,), lambda: {item.id: item for item in reversed(items)}).get(identity)
