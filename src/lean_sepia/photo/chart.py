"""A standard 24-patch chart in the picture, found by the centres of its four corner patches."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from importlib.resources import files

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.errors import SampleError
from lean_sepia.photo.cast import Anchor


@cache
def _chart_labs() -> FloatArray:
    with (files("lean_sepia.photo") / "data" / "chart_24.csv").open(encoding="ascii") as file:
        file.readline()
        return np.array([[float(cell) for cell in line.split(",")] for line in file])


def chart_anchors(corners: Sequence[float]) -> list[Anchor]:
    """Anchors of a 24-patch chart from the centres of its four corner patches.

    Parameters
    ----------
    corners : x,y of the dark brown patch, the end of its row, the black patch, the white patch

    Raises
    ------
    SampleError
        Not eight numbers, or the corners do not span an area.
    """
    if len(corners) != 8:
        raise SampleError(f"A chart is given by four corners, eight numbers; found {len(corners)}.")
    brown, row_end, black, white_patch = np.array(corners, dtype=float).reshape(4, 2)
    area = 0.5 * abs(float(np.cross(_3d(black - brown), _3d(white_patch - row_end))[2]))
    if area < 100:
        raise SampleError(
            "The four corners of the chart lie on a line or too close together. Give the centres of the corner patches."
        )
    # Projective map from the unit square: brown (0,0), row end (1,0), black (1,1), white (0,1).
    unit = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], dtype=float)
    rows, right = [], []
    for (u, v), (x, y) in zip(unit, (brown, row_end, black, white_patch), strict=True):
        rows += [[u, v, 1, 0, 0, 0, -u * x, -v * x], [0, 0, 0, u, v, 1, -u * y, -v * y]]
        right += [x, y]
    h = np.append(np.linalg.solve(np.array(rows), np.array(right)), 1).reshape(3, 3)
    step = min(np.hypot(*(row_end - brown)), np.hypot(*(black - white_patch))) / 5
    anchors = []
    for index, (L, a, b) in enumerate(_chart_labs()):
        x, y, w = h @ [index % 6 / 5, index // 6 / 3, 1]
        anchors.append(
            Anchor(float(x / w), float(y / w), max(1.0, 0.28 * step), float(L), float(a), float(b))
        )
    return anchors


def _3d(vector: FloatArray) -> FloatArray:
    return np.append(vector, 0.0)
