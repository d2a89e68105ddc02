"""What the demo's picture is drawn with: its size, its outlines, layers of paint and a soft brush."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass, field
from importlib.resources import files
from typing import Literal

import cv2
import numpy as np
from PIL import Image, ImageDraw, ImageFont

from lean_sepia.arrays import FloatArray

WIDTH, HEIGHT = 1500, 1000
_FINE = 2  # drawn at twice the size, then averaged: soft true edges
MM_PER_PX = 38.0
"""The tender is 44 m long and 1160 pixels wide in the picture."""

Point = tuple[float, float]

HULL = [(172, 528), (430, 566), (700, 578), (960, 560), (1180, 508), (1352, 436), (1338, 520), (1312, 622), (1282, 690), (226, 690), (196, 610)]  # fmt: skip
BOOT = [(226, 690), (1282, 690), (1264, 742), (238, 742)]
WATERLINE, QUAY = 742, 905
SCUPPERS = ((505, 586), (668, 592), (842, 586), (1010, 570))

Kind = Literal["second livery", "first livery", "model"]


@dataclass(frozen=True, eq=False)
class Layer:
    """Paint over what lies below: coverage (h, w) in 0–1, the paint, and whether the season has worked on it."""

    paint: str
    mask: FloatArray
    seasoned: bool = True
    wear: bool = False

    def window(self) -> tuple[slice, slice]:
        """Rows and columns outside which the layer covers nothing."""
        rows, columns = np.flatnonzero(self.mask.any(axis=1)), np.flatnonzero(self.mask.any(axis=0))
        if rows.size == 0:
            return slice(0, 0), slice(0, 0)
        return slice(int(rows[0]), int(rows[-1]) + 1), slice(int(columns[0]), int(columns[-1]) + 1)


@dataclass(eq=False)
class Scene:
    """Layers from back to front, the light on them (h, w), and places with known paint."""

    layers: list[Layer] = field(default_factory=list)
    light: FloatArray = field(default_factory=lambda: np.ones((HEIGHT, WIDTH), dtype=np.float32))
    water: FloatArray = field(default_factory=lambda: np.zeros((HEIGHT, WIDTH), dtype=np.float32))
    ripples: FloatArray = field(default_factory=lambda: np.zeros((HEIGHT, WIDTH), dtype=np.float32))
    spots: dict[str, list[tuple[float, float, float]]] = field(default_factory=dict)

    def wear_coverage(self, x0: int, y0: int, x1: int, y1: int) -> dict[str, float]:
        """Per cent of a rectangle that each worn paint covers."""
        cover: dict[str, float] = {}
        for layer in self.layers:
            if layer.wear:
                share = 100 * float(layer.mask[y0:y1, x0:x1].mean())
                cover[layer.paint] = cover.get(layer.paint, 0.0) + share
        return cover


class Brush:
    """Draws shapes at double size and hands them out as soft masks."""

    def __init__(self) -> None:
        self._canvas = np.zeros((HEIGHT * _FINE, WIDTH * _FINE), dtype=np.uint8)

    @staticmethod
    def _points(points: Sequence[Point]) -> list[np.ndarray]:
        return [np.round(np.array(points) * _FINE * 16).astype(np.int32)]

    def fill(self, points: Sequence[Point]) -> Brush:
        """Fill a polygon."""
        cv2.fillPoly(self._canvas, self._points(points), (255,), cv2.LINE_AA, 4)
        return self

    def line(self, points: Sequence[Point], width: float) -> Brush:
        """Draw an open line."""
        cv2.polylines(
            self._canvas, self._points(points), False, (255,), max(1, round(width * _FINE)), cv2.LINE_AA, 4
        )
        return self

    def disc(self, x: float, y: float, rx: float, ry: float | None = None, angle: float = 0.0) -> Brush:
        """Fill an ellipse."""
        centre = (round(x * _FINE * 16), round(y * _FINE * 16))
        axes = (max(8, round(rx * _FINE * 16)), max(8, round((ry or rx) * _FINE * 16)))
        cv2.ellipse(self._canvas, centre, axes, angle, 0, 360, (255,), -1, cv2.LINE_AA, 4)
        return self

    def text(self, x: float, y: float, words: str, size: float, spacing: float, slope: float) -> Brush:
        """Write letters a spacing apart along a sloping line."""
        font_file = files("lean_sepia") / "fonts" / "B612-Bold.ttf"
        font = ImageFont.truetype(io.BytesIO(font_file.read_bytes()), round(size * _FINE))
        sheet = Image.fromarray(self._canvas)
        draw = ImageDraw.Draw(sheet)
        for index, letter in enumerate(words):
            place = ((x + index * spacing) * _FINE, (y + index * spacing * slope) * _FINE)
            draw.text(place, letter, font=font, fill=255, anchor="mm")
        self._canvas = np.array(sheet)
        return self

    def mask(self, strength: float = 1.0) -> FloatArray:
        """What was drawn, as coverage (h, w)."""
        small = cv2.resize(self._canvas, (WIDTH, HEIGHT), interpolation=cv2.INTER_AREA)
        return np.asarray(small, dtype=np.float32) * np.float32(strength / 255)


def soft_noise(rng: np.random.Generator, shape: tuple[int, int], size: float) -> FloatArray:
    """Smooth random field (h, w) of unit deviation with features of about `size` pixels."""
    small = (max(4, int(shape[0] / size) + 3), max(4, int(shape[1] / size) + 3))
    coarse = rng.standard_normal(small).astype(np.float32)
    field_ = cv2.resize(coarse, (shape[1], shape[0]), interpolation=cv2.INTER_CUBIC)
    return np.asarray(field_ / max(float(field_.std()), 1e-6), dtype=np.float32)
