"""Names for the arrays that functions take and return; shapes and scales are in the docstrings."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.floating[Any]]
IntArray = npt.NDArray[np.integer[Any]]
BoolArray = npt.NDArray[np.bool_]
Image8 = npt.NDArray[np.uint8]


def triple(values: npt.ArrayLike) -> tuple[float, float, float]:
    """Three numbers, such as an L*a*b* (3,), as the plain tuple that documents keep."""
    first, second, third = np.asarray(values, dtype=float)
    return float(first), float(second), float(third)
