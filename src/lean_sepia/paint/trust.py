"""How far to trust a predicted colour: the ΔE00 within which the user's own bottles will come out 9 times in 10.

The bottles may differ from what the shelf says of them by smooth curves in K and S, as much as its kind of knowledge leaves
open. The prediction is repeated for many such bottles; what is printed is the radius that holds nine tenths of them, times a
scale per kind, measured on simulated bottles that differ from the shelf by up to 15 % (`benchmarks/trust.py`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.paint.fit import Doubt, curves
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Knowledge, Paint, Palette

_DRAWS = 240
_READING = 0.25
_SPREAD = {
    Knowledge.SPECTRAL: Doubt(0.09, 0.09, 0.0, reach=10.0, together=False),
    Knowledge.TWO_CONSTANT: Doubt(0.14, 0.2, 0.2, reach=8.0, together=True),
    Knowledge.ONE_CONSTANT: Doubt(0.16, 0.25, 0.6, reach=8.0, together=True),
}
_SCALE = {Knowledge.SPECTRAL: 1.06, Knowledge.TWO_CONSTANT: 0.87, Knowledge.ONE_CONSTANT: 0.98}


@dataclass(frozen=True)
class Prediction:
    """A predicted colour, the ΔE00 radius that holds the truth 9 times in 10, and how well its weakest paint is known."""

    lab: tuple[float, float, float]
    de00_90: float
    knowledge: Knowledge


def predict(paints: Sequence[Paint], parts: Sequence[float], laying: Laying = OPAQUE) -> Prediction:
    """The colour of a mixture, by relative volume, and how far to trust it."""
    counts = np.asarray(parts, dtype=float)
    shares = counts / counts.sum()
    palette = Palette.of(paints)
    lab = laying.lab(*palette.mixture(shares))
    knowledge = min(paint.knowledge for paint in paints)
    return Prediction(triple(lab), _radius(paints, shares, laying, lab, knowledge), knowledge)


def _radius(
    paints: Sequence[Paint], shares: FloatArray, laying: Laying, lab: FloatArray, knowledge: Knowledge
) -> float:
    rng = np.random.default_rng(90)
    K, S = np.zeros((_DRAWS, 31)), np.zeros((_DRAWS, 31))
    for paint, share in zip(paints, shares, strict=True):
        basis = curves(_SPREAD[paint.knowledge])
        stray = np.einsum("cbm,dm->cdb", basis, rng.normal(size=(_DRAWS, basis.shape[-1])))
        K += share * paint.K * np.exp(stray[0])
        S += share * paint.S * np.exp(stray[1])
    g = np.full(_DRAWS, float(shares @ [paint.g for paint in paints]))
    labs = lab_from_reflectance(laying.measured(K, S, g)) + rng.normal(0, _READING, (_DRAWS, 3))
    return float(np.quantile(delta_e00(labs, lab), 0.9)) * _SCALE[knowledge]
