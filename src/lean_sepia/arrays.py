"""Names for the arrays that functions take and return; shapes and scales are in the docstrings."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.floating[Any]]
IntArray = npt.NDArray[np.integer[Any]]
BoolArray = npt.NDArray[np.bool_]
Image8 = npt.NDArray[np.uint8]
