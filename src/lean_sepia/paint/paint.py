"""A paint as the solvers see it, and mixtures of paints."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import IntEnum

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.paint.kubelka_munk import layer, opaque_reflectance
from lean_sepia.paint.saunderson import SHEEN, through_surface

MEDIA = ("acrylic-water", "acrylic-alcohol", "lacquer", "enamel", "oil", "pigment", "pastel")
FINISHES = ("flat", "satin", "gloss", "metallic")
SURFACE_ONLY_MEDIA = ("pigment", "pastel")
"""Media that lie on a surface as powder and are never solved as part of a wet mixture."""

_CLEAR_TRANSMITTANCE = 0.9
_MIXING_GROUPS = (
    frozenset({"acrylic-water", "acrylic-alcohol"}),
    frozenset({"enamel", "oil"}),
    frozenset({"lacquer"}),
)


def media_mix(one: str, other: str) -> bool:
    """Whether paints of two media can be stirred into one mixture (common practice, no source)."""
    return any(one in group and other in group for group in _MIXING_GROUPS)


class Knowledge(IntEnum):
    """How well a paint is known, weakest first; a mixture is known as well as its weakest paint."""

    ONE_CONSTANT = 1
    TWO_CONSTANT = 2
    SPECTRAL = 3

    def __str__(self) -> str:
        return self.name.lower().replace("_", "-")


@dataclass(frozen=True, eq=False)
class Paint:
    """One paint: absorption K and scattering S (31,) per film unit, and its surface.

    `g` is the share of the surface reflection that reaches the eye; `notes` says what was assumed.
    """

    id: str
    name: str
    medium: str
    finish: str
    K: FloatArray
    S: FloatArray
    g: float
    knowledge: Knowledge
    line: str = ""
    k1: float = 0.04
    k2: float = 0.6
    notes: tuple[str, ...] = ()

    @property
    def mixes(self) -> bool:
        """Whether the paint may be part of a wet mixture (no metallics, no loose powder)."""
        return self.finish != "metallic" and self.medium not in SURFACE_ONLY_MEDIA

    @property
    def clear(self) -> bool:
        """Whether it is a medium, such as a gloss medium or flat base: one film of it lets nearly all light through."""
        return self.mixes and bool(layer(self.K, self.S, 1.0)[1].min() > _CLEAR_TRANSMITTANCE)

    def masstone_lab(self) -> FloatArray:
        """L*a*b* (3,) of the opaque paint at its own sheen."""
        return lab_from_reflectance(self.masstone_reflectance())

    def masstone_reflectance(self) -> FloatArray:
        """Measured reflectance (31,) of the opaque paint at its own sheen."""
        return through_surface(opaque_reflectance(self.K, self.S), self.g, self.k1, self.k2)


@dataclass(frozen=True, eq=False)
class Palette:
    """Several paints as arrays, in a fixed order: K and S (n, 31), g (n,)."""

    paints: tuple[Paint, ...]
    K: FloatArray
    S: FloatArray
    g: FloatArray

    @classmethod
    def of(cls, paints: Sequence[Paint]) -> Palette:
        """Stack paints; at least one."""
        return cls(
            tuple(paints),
            np.stack([paint.K for paint in paints]),
            np.stack([paint.S for paint in paints]),
            np.array([paint.g for paint in paints]),
        )

    def mixture(self, shares: FloatArray) -> tuple[FloatArray, FloatArray, FloatArray]:
        """K, S (..., 31) and g (...) of mixtures by volume shares (..., n) that sum to 1.

        Additivity by volume: Duncan, Proc. Phys. Soc. 52 (1940). The sheen of a mixture is the volume mean.
        """
        return shares @ self.K, shares @ self.S, shares @ self.g


def mixed(paints: Sequence[Paint], parts: npt.ArrayLike) -> tuple[FloatArray, FloatArray, FloatArray]:
    """K, S (31,) and g of one mixture of paints, parts (n,) by relative volume."""
    counts = np.asarray(parts, dtype=float)
    return Palette.of(paints).mixture(counts / counts.sum())


def sheen_of(varnish: str | None, own: npt.ArrayLike) -> FloatArray:
    """The share g under a final varnish, or the paint's own where none is laid."""
    return np.asarray(own, dtype=float) if varnish is None else np.full(np.shape(own), SHEEN[varnish])
