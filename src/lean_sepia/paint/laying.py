"""How a paint is laid: opaque or as a film over a ground, under which final varnish.

Every predictor lays a coat through `Laying`: mix, fade, glaze, predict, the strata, the bench and the card.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.paint.kubelka_munk import opaque_reflectance, over_ground
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
class Laying:
    """Opaque unless a ground is given; the paint's own sheen unless a varnish is.

    ground : internal reflectance (31,) or (..., 31) of what lies below, or None for an opaque layer
    X : film thickness in film units, used only over a ground; one number or (..., 1)
    varnish : "flat", "satin", "gloss" or None
    kept : the surface of what lies below, where the film is so thin a tint that it keeps it; None for the paint's own
    """

    ground: FloatArray | None = None
    X: npt.ArrayLike = 1.0
    varnish: str | None = None
    kept: Surface | None = None

    def internal(self, matter: Matter) -> FloatArray:
        """Internal reflectance (..., 31) of paints laid so."""
        if self.ground is None:
            return opaque_reflectance(matter.K, matter.S)
        return over_ground(matter.K, matter.S, self.X, self.ground)

    def surface(self, own: Surface) -> Surface:
        """The surface that is seen of paints whose own surface is this."""
        return (self.kept or own).under(self.varnish)

    def measured(self, matter: Matter) -> FloatArray:
        """Measured reflectance (..., 31) of paints laid so."""
        return self.surface(matter.surface).seen(self.internal(matter))

    def lab(self, matter: Matter) -> FloatArray:
        """L*a*b* (..., 3) of paints laid so."""
        return lab_from_reflectance(self.measured(matter))


OPAQUE = Laying()
