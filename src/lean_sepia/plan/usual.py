"""What usually comes next on a coat, and a usual plan, as the schools have them: here kinds are meant themselves."""

from __future__ import annotations

from collections.abc import Mapping

from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.placing import phase
from lean_sepia.plan.step import PlanStep


def first_kind(above: str | None) -> str:
    """The kind of coat that comes under all others of a zone, of which the lowest is named; None where nothing lies there."""
    if above is None:
        return "base"
    return "primer" if KINDS[above].is_found else "found"


def next_kind(kind: str, schools: Mapping[str, str]) -> str:
    """The kind of coat that usually comes next on one, as the schools have it."""
    nature, chosen = KINDS[kind], schools.get
    if nature.is_primer and chosen("light") == "pre-shade":
        return "preshade"
    if nature.is_full_coat and not nature.is_primer and chosen("light") in ("pre-shade", "none"):
        return "filter" if chosen("decals") in ("smooth", "on-matte") else "gloss-coat"
    if nature.is_decal and chosen("varnish") == "rarely":
        return "filter"
    if nature.is_filter and chosen("chips") == "after-wash":
        return "wash"
    return nature.next


def usual_kinds(schools: Mapping[str, str]) -> tuple[str, ...]:
    """The steps of a usual plan in their order, as the schools have it."""
    found = {
        name: kind.usually.phase or phase(PlanStep(id=name, kind=name), schools)
        for name, kind in KINDS.items()
        if kind.usually and schools.get(kind.usually.question, "") in kind.usually.choices
    }
    return tuple(sorted(found, key=lambda name: found[name]))
