"""What a coat is made of where nobody says: a varnish or a primer from the shelf."""

from __future__ import annotations

from collections.abc import Sequence

from lean_sepia.document.edits.mixes import Mix
from lean_sepia.paint.handling.bodies import USES
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.kinds import KINDS

_BLACK_L, _WHITE_L = 30.0, 75.0
_SCHOOL = {"black": (0.0, _BLACK_L), "white": (_WHITE_L, 100.0)}
"""Between which L* the primer of a school lies; any other has none."""


def varnish_of(
    kind: str, bottles: Sequence[Paint], tool: str | None = None, medium: str | None = None
) -> Mix:
    """The shelf's varnish of a kind's sheen: from a can for the can and from a bottle for all else, of a medium where one is said."""
    found = [
        paint for paint in bottles
        if USES[paint.use].seals and paint.finish == KINDS[kind].finish and not (paint.retired or paint.empty)
        and (medium is None or paint.medium == medium)
    ]  # fmt: skip
    return _one(found, tool) or Mix(medium=medium)


def primer_of(bottles: Sequence[Paint], tool: str | None = None, school: str = "") -> Mix | None:
    """The shelf's primer, as light as the school of it asks; None where there is none."""
    found = [paint for paint in bottles if USES[paint.use].primes and not (paint.retired or paint.empty)]
    low, high = _SCHOOL.get(school, (0.0, 100.0))
    found.sort(key=lambda paint: not low <= float(paint.masstone_lab()[0]) <= high)
    return _one(found, tool)


def _one(found: Sequence[Paint], tool: str | None) -> Mix | None:
    """The first that a tool lays: a can sprays itself, and nothing else sprays from one."""
    can = tool is not None and TOOLS[tool].from_can
    fitting = next((paint for paint in found if paint.can == can), None)
    chosen = fitting or (next(iter(found), None) if tool is None else None)
    return None if chosen is None else Mix.of([chosen], [(chosen.id, 1)])
