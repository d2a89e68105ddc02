"""Coats that run out over a zone: more of them below, above, at the edges or in recesses.

A zone is then not one stack but one at each place of it; its mean is that over places.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise, product

import numpy as np

from lean_sepia.language import N_

RECESSES = 0.2
"""Share of a surface that counts as recess rather than open (practice)."""


def _evenly(count: int) -> tuple[tuple[float, float], ...]:
    """Gauss–Legendre places on 0–1 with their weights."""
    nodes, weights = np.polynomial.legendre.leggauss(count)
    return tuple(
        (float(node + 1) / 2, float(weight) / 2) for node, weight in zip(nodes, weights, strict=True)
    )


_ALONE, _CROSSED = _evenly(5), _evenly(3)  # along one direction, and along several at once
_STEPPED = ("recess", "panel")
_RECESS = ((0.0, RECESSES), (1.0, 1 - RECESSES))


@dataclass(frozen=True)
class Run:
    """One way to run out: its words, along which direction, whether from its other end, and what the two ends are called.

    lines : whether most of it lies in lines, such as seams and edges, which are seen as such
    """

    words: str
    along: str
    turned: bool
    near: str
    far: str
    lines: bool = False


PANELS = "panels"
"""Whole panels are covered, each by one coat of this profile: they take the area one after another, in the order they are laid."""

RUNS: dict[str, Run] = {
    "below": Run(N_("from below"), "height", False, N_("foot"), N_("top")),
    "above": Run(N_("from above"), "height", True, N_("top"), N_("foot")),
    "edges": Run(N_("from the edges"), "edge", False, N_("edges"), N_("middle"), lines=True),
    "recess": Run(N_("in recesses"), "recess", False, N_("recesses"), N_("open surface"), lines=True),
    "open": Run(N_("on open surface"), "recess", True, N_("open surface"), N_("recesses")),
    PANELS: Run(N_("on panels of its own"), "panel", False, N_("its panels"), N_("the others")),
}

Place = dict[str, float]
"""How far a place lies along each direction, 0–1: up from the foot, in from the edge, out of the recesses."""


def amount_at(profile: str | None, far: float, place: Place) -> float:
    """How much of a coat lies at a place, 1 where it is full; straight from one end to the other."""
    if profile is None:
        return 1.0
    run = RUNS[profile]
    away = place.get(run.along, 0.0)
    return 1 + (far - 1) * (1 - away if run.turned else away)


def places(profiles: Iterable[str | None], breaks: Iterable[float] = ()) -> list[tuple[Place, float]]:
    """Places that stand for a whole zone, with weights that sum to 1; a single one where nothing runs out.

    breaks : where panels of one coat end and those of the next begin, as shares of the area
    """
    along = sorted({RUNS[profile].along for profile in profiles if profile})
    straight = [direction for direction in along if direction not in _STEPPED]
    evenly = _ALONE if len(straight) == 1 else _CROSSED
    edges = sorted({0.0, 1.0, *(min(1.0, max(0.0, share)) for share in breaks)})
    panels = tuple(((low + high) / 2, high - low) for low, high in pairwise(edges))
    nodes = [{"recess": _RECESS, "panel": panels}.get(direction, evenly) for direction in along]
    answer = []
    for chosen in product(*nodes):
        place = {direction: where for direction, (where, _weight) in zip(along, chosen, strict=True)}
        answer.append((place, float(np.prod([weight for _where, weight in chosen]))))
    return answer


MIDDLE: Place = {"height": 0.5, "edge": 0.5, "recess": 1.0, "panel": 1.0}
"""The place that stands for a zone where one must."""


def ends(profile: str) -> tuple[Place, Place]:
    """The places where a coat of a profile is full, and where there is least of it; half way along everything else."""
    run = RUNS[profile]
    near, far = (1.0, 0.0) if run.turned else (0.0, 1.0)
    return {**MIDDLE, run.along: near}, {**MIDDLE, run.along: far}
