"""Where on a zone wear is likely: where it is trodden and gripped, where water and soot start, where dust lies."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from lean_sepia.answers.toning.panels import is_other_side
from lean_sepia.answers.wearing.kinds import kind_of
from lean_sepia.arrays import FloatArray
from lean_sepia.document.entities.worn import Source, WearPlan
from lean_sepia.document.model import Project, Zone
from lean_sepia.language import N_

SOURCE_WORDS = {
    "step": N_("step"), "hatch": N_("hatch"), "rail": N_("rail"), "cargo": N_("cargo gear"), "door": N_("door"),
    "hinge": N_("hinge"), "bolt": N_("bolt"), "seam": N_("seam"), "exhaust": N_("exhaust"),
    "runoff": N_("run-off from above"),
}  # fmt: skip
_TRODDEN, _WET, _HOT = (
    {"step", "hatch", "rail", "cargo", "door", "hinge"},
    {"hinge", "bolt", "seam", "hatch", "door", "runoff"},
    {"exhaust"},
)
_EDGE = 0.03  # of the zone's breadth, how far in from an edge it wears (practice)
_CARRIED = 1.5
_BEGINS = 2.0  # how soon below its source, in reaches of it, a streak has begun (practice)
_UNFED = 0.004  # of what begins at a source, elsewhere: streaks are fed by something
_EVERYWHERE = 0.05  # of what is likely at a source, elsewhere


def sources_of(project: Project, zone: Zone, plan: WearPlan) -> tuple[Source, ...]:
    """The sources of a zone, with those of the zones above it whose water runs on over it, which start at its upper edge."""
    found, seen, above = list(plan.sources), {zone.id}, plan.water_from
    while above is not None and above not in seen:
        seen.add(above)
        upper = project.zone(above).wear
        if upper is None:
            break
        found += [
            Source(what="runoff", x=one.x, y=0.0, reach=one.reach)
            for one in upper.sources
            if one.what in _WET
        ]
        above = upper.water_from
    return tuple(found)


def likely_places(
    plan: WearPlan,
    name: str,
    shape: tuple[int, int],
    sources: Sequence[Source] = (),
    *,
    other_side: bool = False,
) -> FloatArray | None:
    """How likely marks of a kind are at each place (h, w) of a zone; None where nothing is said of it.

    Trodden and gripped places and edges wear, water starts at hinges, bolts and seams and where it runs on from above, soot at
    exhausts, dust lies low; soot and dust are carried to one side. The other side of a thing has all of that mirrored.
    """
    spreads = kind_of(name).spreads
    y, x = np.mgrid[: shape[0], : shape[1]]
    across, down = (x + 0.5) / shape[1], (y + 0.5) / shape[0]
    lee = across if (plan.drift == "right") != other_side else 1 - across
    if spreads == "low":
        return np.asarray(np.exp(2.5 * (down - 1) + (_CARRIED * (lee - 1) if plan.drift else 0.0)))
    chosen = {"down": _WET, "lee": _HOT}.get(spreads, _TRODDEN)
    mine = [source for source in sources if source.what in chosen]
    worn_edges = plan.edges and spreads == "worn"
    if not mine and not worn_edges:
        return None
    tall = shape[0] / shape[1]
    found = np.full(shape, _UNFED if spreads == "down" else _EVERYWHERE)
    if worn_edges:
        inwards = np.minimum(np.minimum(across, 1 - across), np.minimum(down, 1 - down) * tall)
        found += 4 * np.exp(-inwards / _EDGE)
    for source in mine:
        at = 1 - source.x if other_side else source.x
        aside, below = (across - at) / source.reach, (down - source.y) * tall / source.reach
        if spreads == "down":  # it begins at the source and runs down from there
            found += np.where(below >= 0, np.exp(-(aside**2) * 2 - _BEGINS * below), 0.0) * 4
        elif spreads == "lee" and plan.drift:  # a plume to the lee, widening
            away = aside if (plan.drift == "right") != other_side else -aside
            wide = 0.7 + 0.25 * np.maximum(away, 0)
            behind, ahead = np.maximum(-away, 0), np.maximum(away, 0)
            found += np.exp(-(behind**2) * 2 - ahead / 5 - (below / wide) ** 2 / 2) * 4
        else:
            found += np.exp(-(aside**2 + below**2) / 2) * 4
    return found


def weights_of(
    project: Project, zone: Zone, plan: WearPlan, kinds: Iterable[str], shape: tuple[int, int]
) -> Mapping[str, FloatArray]:
    """The likely places (h, w) of each kind that has any."""
    sources, other = sources_of(project, zone, plan), is_other_side(zone)
    found = {name: likely_places(plan, name, shape, sources, other_side=other) for name in kinds}
    return {name: field for name, field in found.items() if field is not None}
