"""A standard 24-patch chart in the picture, found by the centres of its four corner patches."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from importlib.resources import files

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.srgb import lab_from_srgb
from lean_sepia.errors import SampleError
from lean_sepia.language import _
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.patch import encoded_unit
from lean_sepia.photo.read import Pixels
from lean_sepia.photo.rectify import plane_matrix

_ORDERS = [[(first + step * way) % 4 for step in range(4)] for way in (1, -1) for first in range(4)]
_LIKE, _LIKER = 1.8, 0.4  # of three correlations: how like a chart, and how much more so than as given


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


def as_it_lies(pixels: Pixels, corners: Sequence[float]) -> list[float]:
    """The corners of a chart in the order that `chart_anchors` takes, where they were given from another corner or the other way round.

    They stay as given where no other order makes the picture far more like a chart.

    Raises
    ------
    SampleError
        As `chart_anchors`.
    """
    given = chart_anchors(corners)
    points = np.array(corners, dtype=float).reshape(4, 2)
    likeness = [_likeness(pixels, given)]
    likeness += [_likeness(pixels, chart_anchors(points[order].ravel().tolist())) for order in _ORDERS[1:]]
    best = int(np.argmax(likeness))
    turned = likeness[best] > max(_LIKE, likeness[0] + _LIKER)
    return [float(value) for value in points[_ORDERS[best if turned else 0]].ravel()]


def _likeness(pixels: Pixels, anchors: Sequence[Anchor]) -> float:
    """How alike a picture and its anchors are: the sum of the correlations of L*, a* and b*; -3 where they lie outside."""
    height, width = pixels.shape[:2]
    seen = []
    for one in anchors:
        left, top = round(one.x - one.radius / 2), round(one.y - one.radius / 2)
        across = max(1, round(one.radius))
        if left < 0 or top < 0 or left + across > width or top + across > height:
            return -3.0
        seen.append(encoded_unit(pixels[top : top + across, left : left + across]).mean(axis=(0, 1)))
    found, stated = lab_from_srgb(np.array(seen)), np.array([one.lab for one in anchors])
    with np.errstate(invalid="ignore", divide="ignore"):
        each = [np.corrcoef(found[:, i], stated[:, i])[0, 1] for i in range(3)]
    return float(np.nan_to_num(each, nan=-1.0).sum())
