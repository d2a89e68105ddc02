"""What usually comes next on a coat, and a usual plan, as the schools have them: here kinds are meant themselves."""

from __future__ import annotations

from collections.abc import Mapping

from lean_sepia.plan.kinds import KINDS


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


_PLAN: tuple[tuple[str, str, tuple[str, ...]], ...] = (
    ("wash-model", "", ("",)),
    ("primer", "", ("",)),
    ("preshade", "light", ("pre-shade",)),
    ("resist", "chips", ("resist",)),
    ("base", "", ("",)),
    ("remove-resist", "chips", ("resist",)),
    ("tone", "light", ("post-shade", "")),
    ("gloss-coat", "decals", ("gloss-first", "")),
    ("marking", "", ("",)),
    ("satin-coat", "varnish", ("often",)),
    ("chips", "chips", ("before-wash", "")),
    ("pin-wash", "", ("",)),
    ("chips", "chips", ("after-wash",)),
    ("matte-coat", "", ("",)),
    ("powder", "", ("",)),
)
"""A usual plan: the kind, the question it hangs on, and the answers with which it is done; "" where nothing was chosen."""


def usual_kinds(schools: Mapping[str, str]) -> tuple[str, ...]:
    """The steps of a usual plan, as the schools have it."""
    return tuple(kind for kind, question, choices in _PLAN if schools.get(question, "") in choices)
