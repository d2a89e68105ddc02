"""Straightening a flat side by four points, and millimetres from a known length."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.errors import SampleError
from lean_sepia.language import _
from lean_sepia.photo.read import Pixels

Point = tuple[float, float]
_LEAST_AREA_PX = 100.0
_MOST_PIXELS = 40_000_000
_SURROUND = 160  # the grey of the viewer, where the photo shows nothing
_NICE = (1.0, 2.0, 5.0)


@dataclass(frozen=True, eq=False)
class Straightened:
    """A straightened picture (h, w, 3) and its scale; `matrix` takes pixels of the photo to pixels of it."""

    pixels: Pixels
    mm_per_px: float | None
    matrix: FloatArray


def plane_matrix(corners: Sequence[Point], width: float, height: float) -> FloatArray:
    """Matrix (3, 3) from photo to a rectangle of width × height.

    corners : upper left, upper right, lower right, lower left of what is a rectangle in truth

    Raises
    ------
    SampleError
        Not four corners, or they do not span a convex area.
    """
    if len(corners) != 4:
        raise SampleError(_("Straightening needs four corners; found {0}.").format(len(corners)))
    points = np.array(corners, dtype=np.float32)
    turns = [_turn(points[i], points[(i + 1) % 4], points[(i + 2) % 4]) for i in range(4)]
    area = abs(float(cv2.contourArea(points)))
    if area < _LEAST_AREA_PX or not (all(turn > 0 for turn in turns) or all(turn < 0 for turn in turns)):
        raise SampleError(
            _(
                "The four corners lie on a line, cross over, or are too close together. Go round the rectangle: upper left, upper right, lower right, lower left."
            )
        )
    target = np.array([[0, 0], [width, 0], [width, height], [0, height]], dtype=np.float32)
    return np.asarray(cv2.getPerspectiveTransform(points, target), dtype=float)


def _turn(a: FloatArray, b: FloatArray, c: FloatArray) -> float:
    (x1, y1), (x2, y2) = b - a, c - b
    return float(x1 * y2 - y1 * x2)


def straighten(
    pixels: Pixels,
    corners: Sequence[Point],
    width_mm: float | None = None,
    height_mm: float | None = None,
    around: float = 0.0,
) -> Straightened:
    """Straighten the rectangle with these corners; with its true width (and height) the picture has a scale.

    Without a height the sides of the photo decide the proportion; without either there is no scale. `around` is how much
    of its surroundings to keep on each side, in shares of its size, where the photo shows them.

    Raises
    ------
    SampleError
        As for `plane_matrix`, or a size that is not positive.
    """
    if any(value is not None and not value > 0 for value in (width_mm, height_mm)):
        raise SampleError(_("A true width or height is a number of millimetres above zero."))
    ul, ur, lr, ll = np.array(corners, dtype=float) if len(corners) == 4 else np.zeros((4, 2))
    across = max(np.hypot(*(ur - ul)), np.hypot(*(lr - ll)), 1.0)
    down = max(np.hypot(*(ll - ul)), np.hypot(*(lr - ur)), 1.0)
    if width_mm is not None and height_mm is not None:
        down = across * height_mm / width_mm
    left, top, right, bottom = _reach(pixels, plane_matrix(corners, across, down), across, down, around)
    shrink = min(1.0, float(np.sqrt(_MOST_PIXELS / ((right - left) * (bottom - top)))))
    # The rectangle is a whole number of pixels, so that its sides are exact in the copy.
    wide, high = max(1, round(across * shrink)), max(1, round(down * shrink))
    before_x, before_y = (round(-left * wide / across), round(-top * high / down))
    width, height = before_x + round(right * wide / across), before_y + round(bottom * high / down)
    moved = np.array([[1.0, 0.0, before_x], [0.0, 1.0, before_y], [0.0, 0.0, 1.0]])
    matrix = moved @ plane_matrix(corners, wide, high)
    grey = (_SURROUND * (257 if pixels.dtype == np.uint16 else 1),) * 3
    out = cv2.warpPerspective(pixels, matrix, (width, height), flags=cv2.INTER_AREA, borderValue=grey)
    return Straightened(np.asarray(out), None if width_mm is None else width_mm / wide, matrix)


def _reach(
    pixels: Pixels, matrix: FloatArray, across: float, down: float, around: float
) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of what is kept, in the rectangle's pixels."""
    height, width = pixels.shape[:2]
    photo = np.array([[0, 0, 1], [width, 0, 1], [width, height, 1], [0, height, 1]], dtype=float) @ matrix.T
    wide, high = around * across, around * down
    if np.all(photo[:, 2] > 0):  # else the horizon is in the picture, and what lies behind it is nowhere
        x, y = photo[:, 0] / photo[:, 2], photo[:, 1] / photo[:, 2]
        left, right = max(-wide, min(0.0, x.min())), min(across + wide, max(across, x.max()))
        top, bottom = max(-high, min(0.0, y.min())), min(down + high, max(down, y.max()))
        return left, top, right, bottom
    return -wide, -high, across + wide, down + high


def mapped(matrix: FloatArray, x: float, y: float) -> tuple[float, float, float]:
    """Where a point goes under a projective map (3, 3): x, y, and how much lengths grow there in the mean."""
    u, v, w = matrix @ [x, y, 1.0]
    slopes = (matrix[:2, :2] - np.outer([u / w, v / w], matrix[2, :2])) / w
    return float(u / w), float(v / w), float(np.sqrt(abs(np.linalg.det(slopes))))


def mm_per_px(start: Point, end: Point, length_mm: float) -> float:
    """Scale from a known length between two points.

    Raises
    ------
    SampleError
        The points coincide or the length is not positive.
    """
    pixels = float(np.hypot(end[0] - start[0], end[1] - start[1]))
    if pixels < 1 or not length_mm > 0:
        raise SampleError(
            _(
                "A known length needs two points at least a pixel apart and a number of millimetres above zero."
            )
        )
    return length_mm / pixels


def scale_bar_mm(visible_mm: float) -> float:
    """A round length of 1, 2 or 5 times a power of ten that fills about a quarter of what is visible."""
    wanted = visible_mm / 4
    power = 10.0 ** np.floor(np.log10(wanted))
    return float(max(step * power for step in _NICE if step * power <= wanted))
