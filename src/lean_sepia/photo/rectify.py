"""Straightening a flat side by four points, and millimetres from a known length."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.errors import SampleError
from lean_sepia.photo.read import Pixels

Point = tuple[float, float]
_LEAST_AREA_PX = 100.0
_MOST_PIXELS = 40_000_000
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
        raise SampleError(f"Straightening needs four corners; found {len(corners)}.")
    points = np.array(corners, dtype=np.float32)
    turns = [_turn(points[i], points[(i + 1) % 4], points[(i + 2) % 4]) for i in range(4)]
    area = abs(float(cv2.contourArea(points)))
    if area < _LEAST_AREA_PX or not (all(turn > 0 for turn in turns) or all(turn < 0 for turn in turns)):
        raise SampleError(
            "The four corners lie on a line, cross over, or are too close together. Go round the rectangle: upper left, "
            "upper right, lower right, lower left."
        )
    target = np.array([[0, 0], [width, 0], [width, height], [0, height]], dtype=np.float32)
    return np.asarray(cv2.getPerspectiveTransform(points, target), dtype=float)


def _turn(a: FloatArray, b: FloatArray, c: FloatArray) -> float:
    (x1, y1), (x2, y2) = b - a, c - b
    return float(x1 * y2 - y1 * x2)


def straighten(
    pixels: Pixels, corners: Sequence[Point], width_mm: float | None = None, height_mm: float | None = None
) -> Straightened:
    """Straighten the rectangle with these corners; with its true width (and height) the picture has a scale.

    Without a height the sides of the photo decide the proportion; without either there is no scale.

    Raises
    ------
    SampleError
        As for `plane_matrix`, or a size that is not positive.
    """
    if any(value is not None and not value > 0 for value in (width_mm, height_mm)):
        raise SampleError("A true width or height is a number of millimetres above zero.")
    ul, ur, lr, ll = np.array(corners, dtype=float) if len(corners) == 4 else np.zeros((4, 2))
    across = max(np.hypot(*(ur - ul)), np.hypot(*(lr - ll)), 1.0)
    down = max(np.hypot(*(ll - ul)), np.hypot(*(lr - ur)), 1.0)
    if width_mm is not None and height_mm is not None:
        down = across * height_mm / width_mm
    shrink = min(1.0, float(np.sqrt(_MOST_PIXELS / (across * down))))
    width, height = max(1, round(across * shrink)), max(1, round(down * shrink))
    matrix = plane_matrix(corners, width, height)
    out = cv2.warpPerspective(pixels, matrix, (width, height), flags=cv2.INTER_AREA)
    return Straightened(np.asarray(out), None if width_mm is None else width_mm / width, matrix)


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
            "A known length needs two points at least a pixel apart and a number of millimetres above zero."
        )
    return length_mm / pixels


def scale_bar_mm(visible_mm: float) -> float:
    """A round length of 1, 2 or 5 times a power of ten that fills about a quarter of what is visible."""
    wanted = visible_mm / 4
    power = 10.0 ** np.floor(np.log10(wanted))
    return float(max(step * power for step in _NICE if step * power <= wanted))
