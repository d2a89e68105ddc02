"""Invented K and S curves with the character of common pigments, per unit of pigment volume."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.spectrum import WAVELENGTHS_NM

_NM = WAVELENGTHS_NM.astype(float)


def _edge(at_nm: float, width_nm: float) -> FloatArray:
    """1 on the blue side of a wavelength, falling to 0 on the red side."""
    return 1 / (1 + np.exp((_NM - at_nm) / width_nm))


def _hump(at_nm: float, width_nm: float) -> FloatArray:
    return np.exp(-0.5 * ((_NM - at_nm) / width_nm) ** 2)


def _slope(blue: float, red: float) -> FloatArray:
    return np.interp(_NM, [400, 700], [blue, red])


PIGMENTS: Mapping[str, tuple[FloatArray, FloatArray]] = {
    "titanium white": (0.004 + 0.35 * _edge(405, 6), _slope(6.6, 5.4)),
    "zinc white": (0.006 + 0.5 * _edge(398, 6), _slope(2.3, 1.8)),
    "bone black": (_slope(9.0, 8.2), _slope(0.25, 0.35)),
    "lamp black": (_slope(11.0, 12.0), _slope(0.22, 0.20)),
    "iron black": (_slope(8.0, 6.6), _slope(0.40, 0.62)),
    "card grey": (np.full(_NM.shape, 1.9), np.full(_NM.shape, 1.0)),
    "red oxide": (6.0 * _edge(578, 10) + 0.20 + 0.26 * _hump(650, 30), _slope(0.7, 1.5)),
    "violet oxide": (4.6 * _edge(592, 16) + 1.1, _slope(0.7, 1.2)),
    "yellow ochre": (3.0 * _edge(512, 15) + 0.12 + 0.12 * _hump(650, 40), _slope(0.8, 1.6)),
    "raw sienna": (3.4 * _edge(530, 18) + 0.30 + 0.15 * _hump(650, 40), _slope(0.7, 1.3)),
    "raw umber": (4.4 * _edge(540, 38) + 1.25, _slope(0.6, 0.9)),
    "burnt umber": (5.4 * _edge(575, 30) + 1.35, _slope(0.6, 0.9)),
    "hansa yellow": (4.2 * _edge(487, 9) + 0.035, _slope(0.7, 1.2)),
    "cadmium orange": (5.2 * _edge(563, 8) + 0.05, _slope(0.8, 1.6)),
    "naphthol red": (5.4 * _edge(596, 9) + 0.10, _slope(0.6, 1.1)),
    "quinacridone": (4.2 * _hump(535, 38) + 1.5 * _edge(450, 25) + 0.08, _slope(0.5, 0.7)),
    "ultramarine": (
        3.9 * _hump(595, 46) + 0.35 + 0.7 * _hump(540, 30) + 0.7 * _hump(660, 35),
        _slope(0.9, 0.45),
    ),
    "phthalo blue": (
        8.2 * _hump(615, 36) + 5.2 * _hump(685, 38) + 1.3 * _edge(425, 12) + 0.22,
        _slope(0.7, 0.4),
    ),
    "phthalo green": (
        7.4 * _hump(648, 40) + 4.2 * _edge(452, 16) + 0.7 * _hump(580, 22) + 0.20,
        _slope(0.6, 0.45),
    ),
    "chrome oxide": (
        2.9 * _hump(605, 42) + 3.0 * _edge(470, 22) + 0.9 * _hump(460, 22) + 0.32,
        _slope(1.2, 1.3),
    ),
}
"""Absorption and scattering (31,) of each pigment at full strength."""


def pigment_mixture(parts: Mapping[str, float]) -> tuple[FloatArray, FloatArray]:
    """K and S (31,) of pigments by relative volume, additive."""
    total = sum(parts.values())
    K = sum((PIGMENTS[name][0] * (share / total) for name, share in parts.items()), np.zeros_like(_NM))
    S = sum((PIGMENTS[name][1] * (share / total) for name, share in parts.items()), np.zeros_like(_NM))
    return K, S
