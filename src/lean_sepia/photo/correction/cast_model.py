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
from lean_sepia.colour.lab import lab_from_xyz, lab_slopes
from lean_sepia.colour.lights import white
from lean_sepia.colour.srgb import rgb_to_xyz_matrix

PARAMETERS = 21
"""Log exposure; log of the first and third cone against the second; three exponents less 1; fifteen mixing terms."""

CAST, CURVE, MIXING = slice(1, 3), slice(3, 6), slice(6, PARAMETERS)
_SMALLEST_RESPONSE = 1e-4
_CAST_OF_CONES = np.array([[1.0, 0.0, 0.0], [0.0, 0.0, 1.0]])
_ROOT_PRODUCTS = np.array([[1, 0, 0, 0.5, 0, 0.5], [0, 1, 0, 0.5, 0.5, 0], [0, 0, 1, 0, 0.5, 0.5]])
"""Logs of the cones to logs of the features: the cones, and the roots of the products of two of them."""

_OTHERS = np.array([[i for i in range(6) if i != cone] for cone in range(3)])


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


def _logs(cones: FloatArray) -> FloatArray:
    return np.asarray(np.log(np.maximum(cones.reshape(-1, 3), _SMALLEST_RESPONSE)))


def _features(logs: FloatArray, theta: FloatArray) -> FloatArray:
    """Bent cones and the roots of their products (t, n, 6), from logs (n, 3)."""
    # In place: for a whole lattice the memory, not the arithmetic, is what takes time.
    bent = (1 + theta[:, None, CURVE]) * logs
    bent += (theta[:, :1] + theta[:, 1:3] @ _CAST_OF_CONES)[:, None]
    features = bent @ _ROOT_PRODUCTS
    return np.asarray(np.exp(features, out=features))


def _features_to_xyz(theta: FloatArray) -> FloatArray:
    """Matrices (t, 6, 3)."""
    weights = np.zeros((len(theta), 6, 3))
    mixing = theta[:, MIXING].reshape(-1, 3, 5)
    for cone in range(3):
        weights[:, _OTHERS[cone], cone] = mixing[:, cone]
        weights[:, cone, cone] = 1 - mixing[:, cone].sum(axis=1)
    return weights @ _from_cones().T


def corrected_xyz(cones: FloatArray, theta: FloatArray) -> FloatArray:
    """XYZ (t, ..., 3), D65, of cone responses (..., 3) under each of the parameter sets (t, 21)."""
    xyz = _features(_logs(cones), theta) @ _features_to_xyz(theta)
    return xyz.reshape(len(theta), *cones.shape)


def corrected_lab(cones: FloatArray, theta: FloatArray) -> FloatArray:
    """L*a*b* (t, ..., 3) of cone responses (..., 3) under each of the parameter sets (t, 21)."""
    return lab_from_xyz(corrected_xyz(cones, theta))


def lab_and_slopes(cones: FloatArray, theta: FloatArray) -> tuple[FloatArray, FloatArray]:
    """L*a*b* (t, ..., 3) under each of the parameter sets (t, 21), and its slopes (t, ..., 3, 21) in the parameters."""
    logs = _logs(cones)
    features, to_xyz = _features(logs, theta), _features_to_xyz(theta)
    xyz = features @ to_xyz
    by_bent = ((features[:, :, None] * _ROOT_PRODUCTS) @ to_xyz[:, None]).swapaxes(-1, -2)
    slopes = np.empty((*xyz.shape, PARAMETERS))
    slopes[..., 0] = by_bent.sum(axis=-1)
    slopes[..., CAST] = by_bent @ _CAST_OF_CONES.T
    slopes[..., CURVE] = by_bent * logs[:, None]
    away = features[..., _OTHERS] - features[..., :3, None]
    slopes[..., MIXING] = (_from_cones()[:, :, None] * away[..., None, :, :]).reshape(*xyz.shape, 15)
    slopes = lab_slopes(xyz) @ slopes
    shape = (len(theta), *cones.shape)
    return lab_from_xyz(xyz).reshape(shape), slopes.reshape(*shape, PARAMETERS)
