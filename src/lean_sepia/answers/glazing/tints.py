"""Which kinds of tint there are to choose among, as the table of kinds has them."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.plan.kinds import KINDS


@dataclass(frozen=True)
class Tints:
    """Names of kinds: filters; washes, those that stand in seams alone first; dots."""

    filters: tuple[str, ...]
    washes: tuple[str, ...]
    dots: tuple[str, ...]


def tints() -> Tints:
    """The kinds of tint there are."""
    washes = [name for name, kind in KINDS.items() if kind.runs]
    return Tints(
        tuple(name for name, kind in KINDS.items() if kind.is_filter),
        tuple(sorted(washes, key=lambda name: not KINDS[name].along_seams)),
        tuple(name for name, kind in KINDS.items() if kind.is_dots),
    )
