"""How a paint is laid: opaque or as a film over a ground, under which final varnish.

Every predictor lays a coat through `Laying`: mix, fade, glaze, predict, the strata, the bench and the card.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.paint.kubelka_munk import layer, opaque_reflectance, over_film, over_ground
from lean_sepia.paint.saunderson import Surface


class Matter(Protocol):
    """Something with K and S (..., 31) and a surface: a paint or a mixture."""

    @property
    def K(self) -> FloatArray:  # noqa: N802
        """Absorption per film unit."""

    @property
    def S(self) -> FloatArray:  # noqa: N802
        """Scattering per film unit."""

    @property
    def surface(self) -> Surface:
        """What it dries to."""


@dataclass(frozen=True, eq=False)
class Later:
    """A film that will lie on a coat once it is laid.

    R_0, T : reflectance and transmittance (31,) of the film alone, of one that does not depend on the coat's mix
    K, S, X, own : of a film that is mixed from the coat's own cup: what is stirred in, by its share, its thickness, and the share of the
        cup in it; 0 of any other
    surface : what it dries to, stirred in by its share; None of a tint, which keeps the surface below it
    """

    R_0: FloatArray
    T: FloatArray
    surface: Surface | None = None
    K: FloatArray | float = 0.0
    S: FloatArray | float = 0.0
    X: float = 0.0
    own: float = 0.0

    @classmethod
    def of(cls, matter: Matter, X: float, *, tint: bool) -> Later:
        """A film of something that is mixed already."""
        R_0, T = layer(matter.K, matter.S, X)
        return cls(R_0, T, None if tint else matter.surface)

    @classmethod
    def hiding(cls, R_i: FloatArray, surface: Surface) -> Later:
        """What lets nothing through: its internal reflectance (31,)."""
        return cls(R_i, np.zeros_like(R_i), surface)

    @classmethod
    def of_cup(cls, own: float, stirred_in: Matter | None, X: float, *, tint: bool) -> Later:
        """A film of which a share `own` is the coat's own mix and the rest something else."""
        K, S = (0.0, 0.0) if stirred_in is None else ((1 - own) * stirred_in.K, (1 - own) * stirred_in.S)
        rest = stirred_in.surface if stirred_in is not None else Surface(0.0, 0.0, 0.0)
        part = Surface(*(np.asarray(value) * (1 - own) for value in (rest.g, rest.k1, rest.k2)))
        return cls(np.zeros(1), np.ones(1), None if tint else part, K, S, X, own)

    def over(self, R: FloatArray, matter: Matter) -> FloatArray:
        """Internal reflectance (..., 31) of coats of reflectance R (..., 31), made of some matter, under it."""
        if self.own:
            return over_ground(self.own * matter.K + self.K, self.own * matter.S + self.S, self.X, R)
        return over_film(self.R_0, self.T, R)

    def surface_of(self, below: Surface, mix: Surface) -> Surface:
        """The surface on top of it: its own, of which the mix is a share where it is of the coat's cup, or that below."""
        if self.surface is None or not self.own:
            return self.surface or below
        mine = (
            np.asarray(rest) + self.own * np.asarray(own)
            for rest, own in zip(_parts(self.surface), _parts(mix), strict=True)
        )
        return Surface(*mine)


def _rounded(values: npt.ArrayLike | None) -> tuple[float, ...] | None:
    return None if values is None else tuple(np.round(np.ravel(values), 5).tolist())


def _parts(surface: Surface) -> tuple[FloatArray | float, ...]:
    return surface.g, surface.k1, surface.k2


@dataclass(frozen=True, eq=False)
class Laying:
    """Opaque unless a ground is given; the paint's own sheen unless a varnish is.

    ground : internal reflectance (31,) or (..., 31) of what lies below, or None for an opaque layer
    X : film thickness in film units, used only over a ground; one number or (..., 1)
    varnish : "flat", "satin", "gloss" or None
    kept : the surface of what lies below, where the film is so thin a tint that it keeps it; None for the paint's own
    later : what will lie on it, the lowest first; beside : other places of the zone, each with its weight, where other things lie below
        or above; what is seen is the mean over them and this one, which has the weight that is left
    """

    ground: FloatArray | None = None
    X: npt.ArrayLike = 1.0
    varnish: str | None = None
    kept: Surface | None = None
    later: tuple[Later, ...] = ()
    beside: tuple[tuple[float, Laying], ...] = ()

    def everywhere(self) -> list[tuple[float, Laying]]:
        """Each place with its weight; the weights sum to 1. X is that of the first at all of them."""
        here = replace(self, beside=()) if self.beside else self
        others = [(weight, replace(one, X=self.X)) for weight, one in self.beside]
        return [(1 - sum(weight for weight, _one in others), here), *others]

    @property
    def key(self) -> tuple[object, ...]:
        """What tells it from other ways to lie: numbers, rounded where they are many."""
        films = tuple(
            (*map(_rounded, (film.R_0, film.T, film.K, film.S)), film.X, film.own) for film in self.later
        )
        places = tuple((weight, one.key) for weight, one in self.beside)
        return _rounded(self.ground), _rounded(self.X), self.varnish, self.kept, films, places

    @property
    def alone(self) -> Laying:
        """The same as if nothing were to lie on it, at the first place."""
        return replace(self, later=(), beside=())

    def internal(self, matter: Matter) -> FloatArray:
        """Internal reflectance (..., 31) of paints laid so, before anything lies on them."""
        if self.ground is None:
            return opaque_reflectance(matter.K, matter.S)
        return over_ground(matter.K, matter.S, self.X, self.ground)

    def surface(self, own: Surface) -> Surface:
        """The surface that is seen, in the end, of paints whose own surface is this."""
        top = self.kept or own
        for film in self.later:
            top = film.surface_of(top, own)
        return top.under(self.varnish)

    def measured(self, matter: Matter) -> FloatArray:
        """Measured reflectance (..., 31) of paints laid so, under what will lie on them."""
        if self.beside:
            return np.asarray(sum(weight * one.measured(matter) for weight, one in self.everywhere()))
        R = self.internal(matter)
        for film in self.later:
            R = film.over(R, matter)
        return self.surface(matter.surface).seen(R)

    def lab(self, matter: Matter) -> FloatArray:
        """L*a*b* (..., 3) of paints laid so, under what will lie on them."""
        return lab_from_reflectance(self.measured(matter))


OPAQUE = Laying()
