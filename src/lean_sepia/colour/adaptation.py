"""Chromatic adaptation in a cone space (von Kries), with the CAT16 and Bradford matrices."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray

CAT16 = np.array(
    [[0.401288, 0.650173, -0.051461], [-0.250268, 1.204414, 0.045854], [-0.002079, 0.048952, 0.953127]]
)
"""XYZ to cone responses: Li et al., "Comprehensive color solutions: CAM16…", Color Res. Appl. 42 (2017)."""

BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])
"""XYZ to cone responses: Lam (1985), as given in ICC.1 Annex E."""


def adaptation_matrix(
    white_from: npt.ArrayLike, white_to: npt.ArrayLike, cone: FloatArray = CAT16
) -> FloatArray:
    """Matrix (3, 3) that takes XYZ seen under one white to the match under another, full adaptation."""
    source = cone @ np.asarray(white_from, dtype=float)
    destination = cone @ np.asarray(white_to, dtype=float)
    return np.linalg.inv(cone) @ np.diag(destination / source) @ cone
