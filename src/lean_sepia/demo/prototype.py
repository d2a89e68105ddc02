"""The invented ships' true paints: spectra fresh and after a hard season, and what wear shows."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.spectrum import WAVELENGTHS_NM
from lean_sepia.demo.pigments import pigment_mixture
from lean_sepia.paint.kubelka_munk import opaque_reflectance
from lean_sepia.paint.saunderson import through_surface

_SHEEN_AFLOAT = 0.6  # between satin and flat, as seen from a distance


@dataclass(frozen=True)
class TruePaint:
    """Pigments by volume, and what a season did: white added by chalking, the share of K bleached away."""

    pigments: Mapping[str, float]
    chalk: float = 0.0
    bleach: float = 0.0

    def reflectance(self, exposed: bool = False) -> FloatArray:
        """Measured reflectance (31,), fresh or exposed."""
        K, S = pigment_mixture(self.pigments)
        if exposed:
            white_K, white_S = pigment_mixture({"titanium white": 1})
            K = K * (1 - self.bleach) * (1 - self.chalk) + white_K * self.chalk
            S = S * (1 - self.chalk) + white_S * self.chalk
        return through_surface(opaque_reflectance(K, S), _SHEEN_AFLOAT)


PAINTS: Mapping[str, TruePaint] = {
    "hull": TruePaint({"phthalo green": 6.5, "phthalo blue": 5.0, "bone black": 2.0, "titanium white": 6.2, "yellow ochre": 1.0}, 0.075, 0.12),
    "boot": TruePaint({"red oxide": 50, "violet oxide": 10, "titanium white": 1.0, "bone black": 0.6}, 0.25, 0.05),
    "house": TruePaint({"titanium white": 60, "yellow ochre": 11, "hansa yellow": 0.8, "raw umber": 0.7}, 0.10, 0.10),
    "funnel": TruePaint({"titanium white": 20, "yellow ochre": 44, "cadmium orange": 3.0, "raw umber": 1.2}, 0.05, 0.08),
    "band": TruePaint({"iron black": 40, "titanium white": 1.0, "burnt umber": 3}, 0.02, 0.0),
    "gear": TruePaint({"titanium white": 12, "raw umber": 12, "yellow ochre": 8, "bone black": 1}, 0.04, 0.04),
    "locker": TruePaint({"titanium white": 26, "bone black": 3.3, "yellow ochre": 0.9}),
    "lettering": TruePaint({"titanium white": 60, "yellow ochre": 1.2, "bone black": 0.10}),
    "old lettering": TruePaint({"titanium white": 60, "yellow ochre": 7, "bone black": 1.4}),
    "rust": TruePaint({"red oxide": 18, "burnt umber": 26, "raw sienna": 18}),
    "light rust": TruePaint({"raw sienna": 40, "red oxide": 12, "cadmium orange": 3}),
    "scratch": TruePaint({"titanium white": 24, "yellow ochre": 6, "raw umber": 2}),
    "grime": TruePaint({"raw umber": 30, "bone black": 6, "titanium white": 10}),
    "wood": TruePaint({"burnt umber": 20, "raw sienna": 14, "titanium white": 1.6}),
    "glass": TruePaint({"lamp black": 30, "ultramarine": 10, "titanium white": 1.2}),
    "stone": TruePaint({"titanium white": 18, "bone black": 4.5, "raw umber": 4}),
    "shed": TruePaint({"violet oxide": 10, "titanium white": 12, "raw umber": 6}),
    "hill": TruePaint({"chrome oxide": 8, "titanium white": 16, "ultramarine": 5, "raw umber": 3}),
    "water": TruePaint({"phthalo green": 2.4, "ultramarine": 6, "bone black": 9, "titanium white": 6, "raw umber": 5}),
    "model hull": TruePaint({"phthalo green": 7.0, "phthalo blue": 5.6, "bone black": 2.6, "titanium white": 8.4, "yellow ochre": 1.0}),
    "model boot": TruePaint({"red oxide": 50, "naphthol red": 6, "titanium white": 3.0, "bone black": 1.0}),
    "model house": TruePaint({"titanium white": 60, "yellow ochre": 9, "raw umber": 1.0}),
    "model funnel": TruePaint({"titanium white": 22, "yellow ochre": 44, "cadmium orange": 1.6}),
    "card": TruePaint({"card grey": 1}),
    "bench": TruePaint({"raw sienna": 12, "burnt umber": 4, "titanium white": 14}),
    "wall": TruePaint({"titanium white": 40, "raw umber": 3, "ultramarine": 1.4}),
    "old hull": TruePaint({"titanium white": 14, "bone black": 5.6, "ultramarine": 3}),
    "old house": TruePaint({"titanium white": 60, "yellow ochre": 0.8}),
}  # fmt: skip
"""Every paint in the pictures; “model …” is what the modeller painted; the last two belong to the first livery."""

ZONES = ("hull", "boot", "house", "funnel", "band", "gear")
SEASONED = frozenset(ZONES)


def sky_reflectance() -> FloatArray:
    """The sky as a surface of reflectance (31,): pale, a little blue."""
    return np.interp(WAVELENGTHS_NM, [400, 700], [0.86, 0.64])


def true_labs() -> dict[str, dict[str, list[float]]]:
    """Lab, D65/2°, of every paint, fresh and exposed."""
    return {
        name: {
            "fresh": np.round(lab_from_reflectance(paint.reflectance()), 3).tolist(),
            "exposed": np.round(lab_from_reflectance(paint.reflectance(exposed=True)), 3).tolist(),
        }
        for name, paint in PAINTS.items()
    }
