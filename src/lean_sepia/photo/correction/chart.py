"""A standard 24-patch chart in the picture, found by the centres of its four corner patches."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from importlib.resources import files

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.errors import SampleError
from lean_sepia.language import _
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.rectify import plane_matrix


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
        raise SampleError(
            _("A chart is given by four corners, eight numbers; found {0}.").format(len(corners))
        )
    points = np.array(corners, dtype=float).reshape(4, 2)
    # From patch counts, five across and three down between the corner patches, to the photo.
    h = np.linalg.inv(plane_matrix([(float(x), float(y)) for x, y in points], 5, 3))
    brown, row_end, black, white_patch = points
    step = min(np.hypot(*(row_end - brown)), np.hypot(*(black - white_patch))) / 5
    anchors = []
    for index, (L, a, b) in enumerate(_chart_labs()):
        x, y, w = h @ [index % 6, index // 6, 1]
        anchors.append(
            Anchor(float(x / w), float(y / w), max(1.0, 0.28 * step), float(L), float(a), float(b))
        )
    return anchors
