"""How a paint is laid: opaque or as a film over a ground, under which final varnish."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.paint.kubelka_munk import opaque_reflectance, over_ground
from lean_sepia.paint.paint import sheen_of
from lean_sepia.paint.saunderson import K1, K2


@dataclass(frozen=True, eq=False)
class Laying:
    """Opaque unless a ground is given; the paint's own sheen unless a varnish is.

    ground : internal reflectance (31,) of what lies below, or None for an opaque layer
    X : film thickness in film units, used only over a ground
    varnish : "flat", "satin", "gloss" or None
    """

    ground: FloatArray | None = None
    X: float = 1.0
    varnish: str | None = None

    def internal(self, K: FloatArray, S: FloatArray) -> FloatArray:
        """Internal reflectance (..., 31) of paints K, S (..., 31) laid so."""
        if self.ground is None:
            return opaque_reflectance(K, S)
        return over_ground(K, S, self.X, self.ground)

    def measured(self, K: FloatArray, S: FloatArray, g: FloatArray) -> FloatArray:
        """Measured reflectance (..., 31) of paints K, S (..., 31) with sheen g (...)."""
        R_i = self.internal(K, S)
        sheen = sheen_of(self.varnish, g)[..., None]
        return sheen * K1 + (1 - K1) * (1 - K2) * R_i / (1 - K2 * R_i)

    def lab(self, K: FloatArray, S: FloatArray, g: FloatArray) -> FloatArray:
        """L*a*b* (..., 3) of paints laid so."""
        return lab_from_reflectance(self.measured(K, S, g))


OPAQUE = Laying()
