"""Coats laid one on another over a zone: patches of the area, each with its internal reflectance and surface.

The rules of what covers what are in `docs/science.md`, "Stacks". Films over films: Kubelka, J. Opt. Soc. Am. 38 (1948).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal, Self

import numpy.typing as npt

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.lab import lab_from_reflectance, lab_from_xyz
from lean_sepia.colour.lights import xyz_from_reflectance
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.laying import Laying, Matter
from lean_sepia.paint.saunderson import SHEEN, Surface

Lab = tuple[float, float, float]
Covers = Literal["film", "tint", "spots", "loose", "varnish", "resist", "unresist", "nothing"]
"""How a coat lies: a film that sets the sheen; a tint that keeps it; spots on a share of the largest patch; loose powder, which is
spots of which the first varnish leaves a part; a varnish, which only sets the sheen of the whole; a resist, under which nothing
lies until it is rubbed off; or not at all."""

PALE_L, KEPT_DARK, KEPT_PALE = 50.0, 0.8, 0.5
"""From which L* a powder is pale, and what the first varnish over it leaves of dark and of pale powder (practice)."""


@dataclass(frozen=True, eq=False)
class Opaque:
    """A coat known by one colour only: its internal reflectance (31,) and the surface it was measured with."""

    R_i: FloatArray
    surface: Surface

    @classmethod
    def of_lab(cls, lab: npt.ArrayLike, finish: str = "flat") -> Self:
        """The coat whose colour L*a*b* (3,) was measured at a finish."""
        found = internal_from_lab(lab, SHEEN[finish])
        return cls(found.R_i, Surface(found.g))


@dataclass(frozen=True, eq=False)
class Coating:
    """One coat to lay. Without a `body` its colour is not known, and it changes nothing.

    X : thickness in film units; share : of the area, 0–1; finish : of a varnish
    """

    covers: Covers
    body: Matter | Opaque | None = None
    X: float = 1.0
    share: float = 1.0
    finish: str = "flat"


@dataclass(frozen=True, eq=False)
class Patch:
    """A share of the area with one internal reflectance (31,) and the surface of what lies on top there."""

    share: float
    R_i: FloatArray
    surface: Surface
    out_of_reach: bool = False  # under a resist
    loose_on: Patch | None = None  # of loose powder: what shows where a varnish takes it away


@dataclass(frozen=True, eq=False)
class Stack:
    """What has been laid so far. `sheen` is that of the topmost coat that sets it, for the whole zone."""

    patches: tuple[Patch, ...] = ()
    sheen: FloatArray | float = SHEEN["flat"]

    @property
    def main(self) -> Patch | None:
        """The largest patch that can be reached, the earlier of equals; None where nothing has been laid."""
        reached = [patch for patch in self.patches if not patch.out_of_reach] or self.patches
        return max(reached, key=lambda patch: patch.share) if reached else None

    def laying(self, coating: Coating, varnish: str | None = None, on: Patch | None = None) -> Laying:
        """How a coat would be laid on the largest patch, or on another."""
        below = on or self.main
        if below is None:
            return Laying(None, coating.X, varnish)
        kept = self._surface(below) if coating.covers == "tint" else None
        return Laying(below.R_i, coating.X, varnish, kept)

    def lay(self, coating: Coating) -> Stack:
        """The stack with one more coat on it."""
        body = coating.body
        if coating.covers in ("varnish", "resist", "unresist"):
            return replace(self, patches=tuple(self._treated(coating)))
        if body is None or coating.covers == "nothing":
            return self
        if not self.patches:
            first = self._covered(coating, None, 1.0)
            return Stack((first,), body.surface.g if coating.covers != "tint" else self.sheen)
        apart = tuple(patch for patch in self.patches if patch.out_of_reach)
        reached = tuple(patch for patch in self.patches if not patch.out_of_reach)
        left = tuple(replace(patch, share=patch.share * (1 - coating.share)) for patch in reached)
        if coating.covers in ("spots", "loose"):
            spots = self._covered(coating, self.main, coating.share * sum(patch.share for patch in reached))
            spots = replace(spots, loose_on=self.main if coating.covers == "loose" else None)
            return replace(self, patches=(*left, spots, *apart))
        covered = tuple(self._covered(coating, patch, patch.share * coating.share) for patch in reached)
        sheen = body.surface.g if coating.covers == "film" else self.sheen
        return Stack((*covered, *(left if coating.share < 1 else ()), *apart), sheen)

    def _treated(self, coating: Coating) -> Iterator[Patch]:
        """The patches after a varnish, a resist or its removal."""
        for patch in self.patches:
            if coating.covers == "unresist":
                yield replace(patch, out_of_reach=False)
            elif coating.covers == "resist" and not patch.out_of_reach and 0 < coating.share < 1:
                yield replace(patch, share=patch.share * (1 - coating.share))
                yield replace(patch, share=patch.share * coating.share, out_of_reach=True)
            elif coating.covers == "resist" and coating.share >= 1:
                yield replace(patch, out_of_reach=True)
            elif coating.covers == "varnish" and patch.loose_on is not None and not patch.out_of_reach:
                kept = KEPT_PALE if float(lab_from_reflectance(patch.R_i)[0]) >= PALE_L else KEPT_DARK
                yield replace(patch, share=patch.share * kept, loose_on=None)
                yield replace(patch.loose_on, share=patch.share * (1 - kept))
            else:
                yield patch

    def _covered(self, coating: Coating, below: Patch | None, share: float) -> Patch:
        body = coating.body
        if isinstance(body, Opaque):
            return Patch(share, body.R_i, body.surface)
        assert body is not None
        laying = Laying(None) if below is None else self.laying(coating, on=below)
        surface = below.surface if below is not None and coating.covers == "tint" else body.surface
        return Patch(share, laying.internal(body), surface)

    def _surface(self, patch: Patch) -> Surface:
        """The surface of a patch, with the sheen that rules the zone."""
        return replace(patch.surface, g=self.sheen)

    def lab(self, varnish: str | None = None, patch: Patch | None = None) -> Lab | None:
        """L*a*b* of the largest patch, or of another, under a final varnish; None where nothing lies there."""
        shown = patch or self.main
        if shown is None:
            return None
        return triple(lab_from_reflectance(self._surface(shown).under(varnish).seen(shown.R_i)))

    def coat_lab(self, coating: Coating, varnish: str | None = None) -> Lab | None:
        """L*a*b* of a coat where it lies on the largest patch, as finally varnished; of a varnish, what it covers."""
        if coating.covers in ("nothing", "resist", "unresist") or (
            coating.body is None and coating.covers != "varnish"
        ):
            return None
        after = self.lay(coating)
        if coating.body is None or coating.covers == "varnish":
            return after.lab(varnish)
        return after.lab(varnish, self._covered(coating, self.main, 1.0))

    def seen(self, varnish: str | None = None) -> Lab | None:
        """L*a*b* of the whole: the mean in linear XYZ by area, under a final varnish."""
        if not self.patches:
            return None
        mean = sum(
            patch.share * xyz_from_reflectance(self._surface(patch).under(varnish).seen(patch.R_i))
            for patch in self.patches
        )
        return triple(lab_from_xyz(mean))
