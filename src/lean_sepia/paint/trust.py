"""How far to trust a predicted colour: the ΔE00 within which the user's own bottles will come out 9 times in 10.

The bottles may differ from what the shelf says of them by smooth curves in K and S, as much as its kind of knowledge leaves
open. The prediction is repeated for many such bottles; what is printed is the radius that holds nine tenths of them, times a
scale per kind, measured on simulated bottles that differ from the shelf by up to 15 % (`benchmarks/trust.py`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.fit import Doubt, curves
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Knowledge, Mixture, Paint, Palette

_DRAWS = 240
_READING = 0.25
_SPREAD = {
    Knowledge.SPECTRAL: Doubt(0.09, 0.09, 0.0, reach=10.0, together=False),
    Knowledge.TWO_CONSTANT: Doubt(0.14, 0.2, 0.2, reach=8.0, together=True),
    Knowledge.ONE_CONSTANT: Doubt(0.3, 0.15, 0.02, reach=8.0, together=True),
}
_COVER_SAID = (
    0.55  # of what is open of a paint known by one colour, where its owner said in how many coats it hides
)
_SCALE = {Knowledge.SPECTRAL: 1.06, Knowledge.TWO_CONSTANT: 0.87, Knowledge.ONE_CONSTANT: 1.26}


@dataclass(frozen=True)
class Prediction:
    """A predicted colour, the ΔE00 radius that holds the truth 9 times in 10, and how well its weakest paint is known."""

    lab: tuple[float, float, float]
    de00_90: float
    knowledge: Knowledge


@dataclass(frozen=True, eq=False)
class Film:
    """A film of a mixture, by relative volume, of thickness X in film units."""

    paints: tuple[Paint, ...]
    parts: tuple[float, ...]
    X: float


def predict(
    paints: Sequence[Paint], parts: Sequence[float], laying: Laying = OPAQUE, below: Sequence[Film] = ()
) -> Prediction:
    """The colour of a mixture, by relative volume, and how far to trust it.

    below : films between the laying's ground and the mixture, the lowest first; what is not known of them counts too
    """
    mixtures = [_Stirred.of(film.paints, film.parts) for film in below]
    top = _Stirred.of(paints, parts)
    lab = _seen(top.known, [mixture.known for mixture in mixtures], laying, below)
    knowledge = min(paint.knowledge for mixture in (top, *mixtures) for paint in mixture.paints)
    rng = np.random.default_rng(90)
    strayed = [mixture.strayed(rng) for mixture in (top, *mixtures)]
    labs = _seen(strayed[0], strayed[1:], laying, below)
    labs = labs + rng.normal(0, _READING, labs.shape)
    radius = float(np.quantile(delta_e00(labs, lab), 0.9)) * _SCALE[knowledge]
    return Prediction(triple(lab), radius, knowledge)


@dataclass(frozen=True, eq=False)
class _Stirred:
    """Paints with their shares (n,), and the mixture as the shelf has it."""

    paints: tuple[Paint, ...]
    shares: FloatArray
    known: Mixture

    @classmethod
    def of(cls, paints: Sequence[Paint], parts: Sequence[float]) -> _Stirred:
        shares = np.asarray(parts, dtype=float) / sum(parts)
        return cls(tuple(paints), shares, Palette.of(paints).mixture(shares))

    def strayed(self, rng: np.random.Generator) -> Mixture:
        """The mixture (draws, 31) of bottles that differ from the shelf as their kind of knowledge leaves open."""
        K, S = np.zeros((_DRAWS, 31)), np.zeros((_DRAWS, 31))
        for paint, share in zip(self.paints, self.shares, strict=True):
            basis = curves(_SPREAD[paint.knowledge])
            stray = np.einsum("cbm,dm->cdb", basis, rng.normal(size=(_DRAWS, basis.shape[-1])))
            if paint.knowledge is Knowledge.ONE_CONSTANT and paint.cover_said:
                stray *= _COVER_SAID
            K += share * paint.K * np.exp(stray[0])
            S += share * paint.S * np.exp(stray[1])
        return Mixture(K, S, self.known.surface)


def _seen(
    top: Mixture,
    lower: Sequence[Mixture],
    laying: Laying,
    below: Sequence[Film],
) -> FloatArray:
    """L*a*b* (..., 3) of the uppermost film over the others."""
    ground = laying.ground
    for mixture, film in zip(lower, below, strict=True):
        ground = Laying(ground, film.X).internal(mixture)
    return replace(laying, ground=ground).lab(top)
