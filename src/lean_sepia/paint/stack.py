"""Coats laid one on another over a zone: patches of the area, each with its internal reflectance and surface.

The rules of what covers what are in `docs/science.md`, "Stacks". Films over films: Kubelka, J. Opt. Soc. Am. 38 (1948).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal, Self

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.lab import lab_from_reflectance, lab_from_xyz
from lean_sepia.colour.lights import xyz_from_reflectance
from lean_sepia.paint.handling.keep import usual_keep
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.kubelka_munk import layer, opaque_reflectance, over_film
from lean_sepia.paint.laying import Laying, Matter
from lean_sepia.paint.profile import PANELS, Place, amount_at
from lean_sepia.paint.saunderson import SHEEN, Surface

Lab = tuple[float, float, float]
Covers = Literal["film", "tint", "spots", "loose", "varnish", "resist", "unresist", "taken", "nothing"]
"""How a coat lies: a film that sets the sheen; a tint that keeps it; spots on a share of the largest patch; loose powder, which is
spots of which the first varnish leaves a part; a varnish, which only sets the sheen of the whole; a resist, under which nothing
lies until it is rubbed off; taken: on a share what was laid since a named coat is gone; or not at all."""

UNCOLOURED: frozenset[Covers] = frozenset({"varnish", "resist", "unresist", "taken"})
"""What has no colour of its own, and what it does to what lies there."""
_WORTH_AT_ONCE = 4
_MOST_PATCHES = 64  # coats on a share of everything double them; the smallest beyond these are averaged


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

    X : thickness in film units; share : of the area, 0–1, or one of each variant (n,), all of them small; finish : of a varnish
    mark : by which a later coat can name this one; down_to : of what takes away, the mark of what shows then, the lowest where
        it is empty; keep : of loose powder, what the first varnish leaves of it where that was learnt
    profile, far : how it runs out over the zone, and how many times as much of it lies at the other end
    start : of a coat on panels, where its own begin among all, as a share of the area
    """

    covers: Covers
    body: Matter | Opaque | None = None
    X: float = 1.0
    share: float = 1.0
    finish: str = "flat"
    mark: str = ""
    down_to: str = ""
    keep: float | None = None
    profile: str | None = None
    far: float = 0.0
    start: float = 0.0

    @cached_property
    def film(self) -> tuple[FloatArray, FloatArray]:
        """Reflectance R_0 and transmittance T of it alone, (31,) or (n, 31); only of what lies as a film."""
        assert self.body is not None
        assert not isinstance(self.body, Opaque)
        return layer(self.body.K, self.body.S, self.X)

    @property
    def covers_all(self) -> bool:
        """Whether it lies on all of the area; of several variants none does, as their shares are small."""
        return np.ndim(self.share) == 0 and self.share >= 1

    @property
    def covers_nothing(self) -> bool:
        """Whether it lies nowhere."""
        return self.covers == "nothing" or (np.ndim(self.share) == 0 and self.share <= 0)

    def at(self, place: Place) -> Coating:
        """What of it lies at a place: less film of a coat over everything, else less of its share."""
        if self.profile is None:
            return self
        if self.profile == PANELS:
            inside = self.start <= place.get("panel", 1.0) < self.start + self.share
            return replace(self, share=1.0 if inside else self.far, profile=None)
        much = amount_at(self.profile, self.far, place)
        if self.covers in ("film", "tint") and self.covers_all:
            return replace(self, X=self.X * much)
        return replace(self, share=self.share * much)


@dataclass(frozen=True, eq=False)
class Patch:
    """A share of the area with one internal reflectance (31,), or one of each of many variants (n, 31), and the surface on top there.

    below : what shows where the topmost coat is taken away; since : which coat, counted from the lowest, lies on top
    """

    share: float
    R_i: FloatArray
    surface: Surface
    out_of_reach: bool = False  # under a resist
    loose: bool = False
    keep: float | None = None
    below: Patch | None = None
    since: int = 0

    def of_share(self, share: float) -> Patch:
        """The same on another share of the area."""
        return Patch(
            share, self.R_i, self.surface, self.out_of_reach, self.loose, self.keep, self.below, self.since
        )

    def down_to(self, coat: int) -> Patch:
        """What it was when that coat had been laid; the lowest there is where it had not."""
        patch = self
        while patch.since > coat and patch.below is not None:
            patch = patch.below
        return patch

    @property
    def kept(self) -> float:
        """What the first varnish leaves of loose powder."""
        if self.keep is not None:
            return self.keep
        return usual_keep(float(lab_from_reflectance(self.R_i)[0]))


@dataclass(frozen=True, eq=False)
class Stack:
    """What has been laid so far. `sheen` is that of the topmost coat that sets it, for the whole zone.

    marks : of the coats laid, the lowest first
    """

    patches: tuple[Patch, ...] = ()
    sheen: FloatArray | float = SHEEN["flat"]
    marks: tuple[str, ...] = ()

    @property
    def main(self) -> Patch | None:
        """The largest patch that can be reached, the earlier of equals; None where nothing has been laid."""
        reached = [patch for patch in self.patches if not patch.out_of_reach] or self.patches
        return max(reached, key=_size) if reached else None

    def laying(self, coating: Coating, varnish: str | None = None, on: Patch | None = None) -> Laying:
        """How a coat would be laid on the largest patch, or on another."""
        below = on or self.main
        if below is None:
            return Laying(None, coating.X, varnish)
        kept = self._surface(below) if coating.covers == "tint" else None
        return Laying(below.R_i, coating.X, varnish, kept)

    def lay(self, coating: Coating) -> Stack:
        """The stack with one more coat on it."""
        return self.lay_patch(coating)[0]

    def lay_patch(self, coating: Coating) -> tuple[Stack, Patch | None]:
        """The stack with one more coat on it, and the patch on which it lies on what was the largest; None of what has no colour."""
        laid, patch = self._laid(coating)
        patches = laid.patches if len(laid.patches) <= _MOST_PATCHES else _fewer(laid.patches)
        return Stack(patches, laid.sheen, (*self.marks, coating.mark)), patch

    def _laid(self, coating: Coating) -> tuple[Stack, Patch | None]:
        body, main = coating.body, self.main
        if coating.covers in UNCOLOURED:
            shown = {"varnish": main, "taken": main and self._uncovered(main, coating.down_to)}
            return Stack(tuple(self._treated(coating)), self.sheen), shown.get(coating.covers)
        if body is None or coating.covers_nothing:
            return self, None
        if main is None:
            first = self._covered(coating, None, 1.0)
            return Stack((first,), body.surface.g if coating.covers != "tint" else self.sheen), first
        apart = tuple(patch for patch in self.patches if patch.out_of_reach)
        reached = tuple(patch for patch in self.patches if not patch.out_of_reach)
        left = (
            ()
            if coating.covers_all
            else tuple(patch.of_share(patch.share * (1 - coating.share)) for patch in reached)
        )
        if coating.covers in ("spots", "loose"):
            spots = self._covered(coating, main, coating.share * sum(patch.share for patch in reached))
            spots = replace(spots, loose=coating.covers == "loose", keep=coating.keep)
            return Stack((*left, spots, *apart), self.sheen), spots
        covered = self._all_covered(coating, reached)
        sheen = body.surface.g if coating.covers == "film" else self.sheen
        stack = Stack((*covered, *left, *apart), sheen)
        return stack, covered[reached.index(main)] if main in reached else None

    def _treated(self, coating: Coating) -> Iterator[Patch]:
        """The patches after a varnish, a resist or its removal, or after something was taken away."""
        for patch in self.patches:
            if coating.covers == "unresist":
                yield replace(patch, out_of_reach=False)
            elif patch.out_of_reach:
                yield patch
            elif coating.covers == "resist":
                yield from _divided(patch, replace(patch, out_of_reach=True), coating.share)
            elif coating.covers == "taken":
                yield from _divided(patch, self._uncovered(patch, coating.down_to), coating.share)
            elif patch.loose and patch.below is not None:
                yield from _divided(replace(patch, loose=False), patch.below, 1 - patch.kept)
            else:
                yield patch

    def _uncovered(self, patch: Patch, mark: str) -> Patch:
        return patch.down_to(self.marks.index(mark) if mark in self.marks else 0)

    def _all_covered(self, coating: Coating, reached: tuple[Patch, ...]) -> tuple[Patch, ...]:
        """A share of each patch under a film, computed for all of them at once."""
        body = coating.body
        shares = [patch.share * coating.share for patch in reached]
        if body is None or isinstance(body, Opaque) or len(reached) < _WORTH_AT_ONCE:
            return tuple(
                self._covered(coating, patch, share) for patch, share in zip(reached, shares, strict=True)
            )
        R_0, T = coating.film
        rows = over_film(R_0, T, _side_by_side([patch.R_i for patch in reached], many=R_0.ndim > 1))
        here, tint = len(self.marks), coating.covers == "tint"
        return tuple(
            Patch(share, row, patch.surface if tint else body.surface, below=patch, since=here)
            for patch, share, row in zip(reached, shares, rows, strict=True)
        )

    def _covered(self, coating: Coating, below: Patch | None, share: float) -> Patch:
        body = coating.body
        here = len(self.marks)
        if isinstance(body, Opaque):
            return Patch(share, body.R_i, body.surface, below=below, since=here)
        assert body is not None
        if below is None:
            return Patch(share, opaque_reflectance(body.K, body.S), body.surface, since=here)
        surface = below.surface if coating.covers == "tint" else body.surface
        return Patch(share, over_film(*coating.film, below.R_i), surface, below=below, since=here)

    def _surface(self, patch: Patch) -> Surface:
        """The surface of a patch, with the sheen that rules the zone."""
        return Surface(self.sheen, patch.surface.k1, patch.surface.k2)

    def xyz(self, varnish: str | None, patch: Patch) -> FloatArray:
        """XYZ (..., 3) of a patch under a final varnish."""
        return xyz_from_reflectance(self._surface(patch).under(varnish).seen(patch.R_i))

    def lab(self, varnish: str | None = None, patch: Patch | None = None) -> Lab | None:
        """L*a*b* of the largest patch, or of another, under a final varnish; None where nothing lies there."""
        shown = patch or self.main
        if shown is None:
            return None
        return triple(lab_from_reflectance(self._surface(shown).under(varnish).seen(shown.R_i)))

    def coat_lab(self, coating: Coating, varnish: str | None = None) -> Lab | None:
        """L*a*b* of a coat where it lies on the largest patch, as finally varnished; of a varnish, what it covers."""
        after, patch = self.lay_patch(coating)
        return after.lab(varnish, patch) if patch is not None else None

    def seen_xyz(self, varnish: str | None = None) -> FloatArray | None:
        """XYZ (..., 3) of the whole: the mean by area, under a final varnish."""
        if not self.patches:
            return None
        surfaces = [self._surface(patch).under(varnish).seen(patch.R_i) for patch in self.patches]
        return _mean([patch.share for patch in self.patches], xyz_from_reflectance(_side_by_side(surfaces)))

    def seen(self, varnish: str | None = None) -> Lab | None:
        """L*a*b* of the whole: the mean in linear XYZ by area, under a final varnish."""
        xyz = self.seen_xyz(varnish)
        return None if xyz is None else triple(lab_from_xyz(xyz))


def _size(patch: Patch) -> float:
    """How large a patch is, of many variants in the mean."""
    share = patch.share
    return float(np.mean(share)) if np.ndim(share) else share


def _mean(shares: Sequence[FloatArray | float], values: FloatArray) -> FloatArray:
    """The sum of values (k, ..., n) by shares, each one number or (...)."""
    weights = np.stack(np.broadcast_arrays(*shares))
    if weights.ndim == 1:
        return np.asarray(np.tensordot(weights, values, axes=1))
    wide = values if values.ndim > 2 else values[:, None]
    return np.asarray((weights[..., None] * wide).sum(axis=0))


def _side_by_side(rows: Sequence[FloatArray], *, many: bool = False) -> FloatArray:
    """Reflectances (31,) or (n, 31), of one variant or of many, one behind the other (k, 31) or (k, n, 31)."""
    stacked = np.stack(np.broadcast_arrays(*rows))
    return stacked[:, None] if many and stacked.ndim == 2 else stacked


def _divided(patch: Patch, other: Patch, share: float) -> Iterator[Patch]:
    """A patch of which a share becomes another; whole where it is all or none of it."""
    if other is patch or share <= 0:
        yield patch
    elif share >= 1:
        yield other.of_share(patch.share)
    else:
        yield patch.of_share(patch.share * (1 - share))
        yield other.of_share(patch.share * share)


def _fewer(patches: tuple[Patch, ...]) -> tuple[Patch, ...]:
    """The largest patches; the smallest beyond become one that reflects what they do together."""
    by_size = sorted(patches, key=_size, reverse=True)
    kept, rest = by_size[: _MOST_PATCHES - 1], by_size[_MOST_PATCHES - 1 :]
    shares = [patch.share for patch in rest]
    share = sum(shares)
    surface = rest[0].surface
    internal = _side_by_side([patch.R_i for patch in rest], many=np.ndim(surface.g) > 0)
    measured = _mean(shares, surface.seen(internal)) / np.maximum(share, 1e-300)
    mean = surface.inwards(measured)
    return (*kept, replace(rest[0], share=share, R_i=mean))
