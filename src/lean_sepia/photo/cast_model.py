"""From a picture's light to true colour: cones scaled, bent a little, and mixed a little.

The cast is a scaling of the cone responses (von Kries); film and camera curves raise them to exponents near 1; what
remains, because a sensor or a dye does not see as the eye does, is a mixture of the cones and of their root
products. The root products follow Finlayson, Mackiewicz & Hurlbert, "Color correction using root-polynomial
regression", IEEE Trans. Image Process. 24 (2015): a change of exposure changes nothing else. Every mixing term vanishes on
neutrals, so a grey stays grey whatever the mixing.
"""

from __future__ import annotations

from functools import cache

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.adaptation import BRADFORD
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.lights import white
from lean_sepia.colour.srgb import rgb_to_xyz_matrix

PARAMETERS = 21
"""Log exposure; log of the first and third cone against the second; three exponents less 1; fifteen mixing terms."""

CAST, CURVE, MIXING = slice(1, 3), slice(3, 6), slice(6, PARAMETERS)
_SMALLEST_RESPONSE = 1e-4
_OTHERS = tuple(tuple(i for i in range(6) if i != cone) for cone in range(3))


@cache
def _to_cones() -> FloatArray:
    """Linear sRGB to cone responses that are 1 for white."""
    cones = BRADFORD @ rgb_to_xyz_matrix()
    return cones / (BRADFORD @ white())[:, None]


@cache
def _from_cones() -> FloatArray:
    return np.linalg.inv(BRADFORD / (BRADFORD @ white())[:, None])


def cones_of(linear_rgb: npt.ArrayLike) -> FloatArray:
    """Bradford cone responses (..., 3), 1 for white, of linear sRGB (..., 3)."""
    return np.asarray(linear_rgb, dtype=float) @ _to_cones().T


def corrected_xyz(cones: FloatArray, theta: FloatArray) -> FloatArray:
    """XYZ (t, ..., 3), D65, of cone responses (..., 3) under each of the parameter sets (t, 21)."""
    lead = (slice(None), *[None] * (cones.ndim - 1))
    shift = np.stack([theta[:, 1], np.zeros(len(theta)), theta[:, 2]], axis=1) + theta[:, :1]
    logs = np.log(np.maximum(cones, _SMALLEST_RESPONSE))
    bent = np.exp(shift[lead] + (1 + theta[:, CURVE])[lead] * logs)
    first, second, third = bent[..., 0], bent[..., 1], bent[..., 2]
    features = np.stack(
        [first, second, third, np.sqrt(first * second), np.sqrt(second * third), np.sqrt(first * third)],
        axis=-1,
    )
    mixing = theta[:, MIXING].reshape(-1, 3, 5)
    out = np.empty_like(bent)
    for cone in range(3):
        own = bent[..., cone]
        off = features[..., _OTHERS[cone]] - own[..., None]
        out[..., cone] = own + np.einsum("t...i,ti->t...", off, mixing[:, cone])
    return np.maximum(out, _SMALLEST_RESPONSE / 10) @ _from_cones().T


def corrected_lab(cones: FloatArray, theta: FloatArray) -> FloatArray:
    """L*a*b* (t, ..., 3) of cone responses (..., 3) under each of the parameter sets (t, 21)."""
    return lab_from_xyz(corrected_xyz(cones, theta))


def lab_and_slopes(cones: FloatArray, theta: FloatArray) -> tuple[FloatArray, FloatArray]:
    """L*a*b* (..., 3) under one parameter set (21,), and its slopes (..., 3, 21) in the parameters."""
    step = 1e-4
    trials = np.concatenate([theta[None], theta[None] + step * np.eye(PARAMETERS)])
    labs = corrected_lab(cones, trials)
    return labs[0], np.moveaxis((labs[1:] - labs[0]) / step, 0, -1)
