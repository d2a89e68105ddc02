"""A correction applied to the pixels of a picture that are asked for: each colour that they hold is corrected once."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from functools import cached_property
from threading import Lock

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, Image8, IntArray
from lean_sepia.colour.lights import white
from lean_sepia.colour.srgb import linear_from_srgb
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.patch import encoded_unit
from lean_sepia.photo.read import Pixels

_COLOURS = 1 << 24
_FEW, _SMALL = 1 << 16, 2_000_000
_SMOOTHED = 0.7
_STEPS, _STEP = 6, 0.004
_SURELY = 3.7  # deviations within which a pixel surely is of a colour
_ROWS_AT_ONCE, _THREADS = 256, 2


def smoothed(picture: FloatArray) -> FloatArray:
    """Linear pixels (h, w, 3) smoothed a little against grain."""
    return np.asarray(cv2.GaussianBlur(picture, (0, 0), _SMOOTHED), dtype=np.float32)


class CorrectedPicture:
    """A part of a picture seen through a correction; places are numbers of pixels, row by row."""

    def __init__(self, cast: Cast, pixels: Pixels) -> None:
        self._cast, self._pixels = cast, pixels
        self.shape = (pixels.shape[0], pixels.shape[1])
        self._known: FloatArray = np.zeros((0, 3), np.float32)
        self._lock = Lock()

    def single(self, places: IntArray) -> FloatArray:
        """XYZ (n, 3), D65, of pixels."""
        chosen = self._pixels.reshape(-1, 3)[places]
        return self._corrected(chosen) if chosen.dtype == np.uint8 else self._xyz(encoded_unit(chosen))

    def smooth(self, places: IntArray) -> FloatArray:
        """XYZ (n, 3), D65, of pixels that were smoothed a little against grain.

        A small part is smoothed in light; a large one as it is stored, which is quicker and a little less true in the dark.
        """
        if self._small:
            return np.asarray(self._in_light.reshape(-1, 3)[places])
        return self._corrected(self._smooth.reshape(-1, 3)[places])

    @property
    def _small(self) -> bool:
        return self.shape[0] * self.shape[1] <= _SMALL

    @cached_property
    def _in_light(self) -> FloatArray:
        whole = self.single(np.arange(self.shape[0] * self.shape[1])).reshape(*self.shape, 3)
        return smoothed(whole)

    @cached_property
    def _smooth(self) -> Image8:
        whole = self._pixels if self._pixels.dtype == np.uint8 else (self._pixels >> 8).astype(np.uint8)
        return np.asarray(cv2.GaussianBlur(np.ascontiguousarray(whole), (0, 0), _SMOOTHED), dtype=np.uint8)

    def _xyz(self, encoded: FloatArray) -> FloatArray:
        return self._cast.xyz(linear_from_srgb(encoded)).astype(np.float32)

    def _corrected(self, colours: Image8) -> FloatArray:
        if len(colours) < _FEW:
            return self._xyz(encoded_unit(colours))
        packed = _packed(colours)
        with self._lock:
            self._learn(packed)
        return np.asarray(self._known[self._number[packed]])

    @cached_property
    def _number(self) -> IntArray:
        return np.full(_COLOURS, -1, dtype=np.int32)

    def _learn(self, packed: IntArray) -> None:
        """Correct the colours that were not asked for before."""
        new = packed[self._number[packed] < 0]
        if not len(new):
            return
        held = np.zeros(_COLOURS, dtype=bool)
        held[new] = True
        colours = np.flatnonzero(held)
        channels = np.column_stack([colours >> 16, colours >> 8 & 255, colours & 255]).astype(np.uint8)
        corrected = self._xyz(encoded_unit(channels))
        self._number[colours] = len(self._known) + np.arange(len(colours), dtype=np.int32)
        self._known = np.concatenate([self._known, corrected])

    def surely(self, expected: FloatArray, spread: FloatArray) -> BoolArray:
        """Pixels (h, w) that, smoothed, surely have an expected colour; some that have it are left out.

        expected : (rows, columns, 3) XYZ at nodes spread evenly over the part
        spread : (3, 3) covariance of the cube roots of XYZ over the white's
        """
        if self._small:
            return np.zeros(self.shape, dtype=bool)
        rows, columns, _channels = expected.shape
        nodes = self._seen_as(expected.reshape(-1, 3))
        turn = self._units(nodes, spread)
        centre = cv2.resize((255 * nodes).reshape(rows, columns, 3).astype(np.float32), self.shape[::-1])
        found = np.empty(self.shape, dtype=bool)

        def band(start: int) -> None:
            part = slice(start, start + _ROWS_AT_ONCE)
            away = cv2.transform(cv2.subtract(self._smooth[part], centre[part], dtype=cv2.CV_32F), turn)
            found[part] = cv2.transform(cv2.multiply(away, away), np.ones((1, 3), np.float32)) < 1

        with ThreadPoolExecutor(_THREADS) as pool:
            list(pool.map(band, range(0, self.shape[0], _ROWS_AT_ONCE)))
        return found

    def _seen_as(self, xyz: FloatArray) -> FloatArray:
        """Encoded colours (n, 3), 0–1, of the picture that are corrected to XYZ (n, 3), by Newton's method."""
        found = np.full(xyz.shape, 0.5)
        goal = np.cbrt(np.maximum(xyz / white(), 1e-4))
        for _step in range(_STEPS):
            now, slopes = self._roots(found)
            found = np.clip(found + np.linalg.solve(slopes, (goal - now)[..., None])[..., 0], 0.0, 1.0)
        return found

    def _roots(self, encoded: FloatArray) -> tuple[FloatArray, FloatArray]:
        """Cube roots (n, 3) of corrected XYZ over the white's, and their slopes (n, 3, 3) in the encoded colour."""

        def roots(values: FloatArray) -> FloatArray:
            return np.cbrt(np.maximum(self._cast.xyz(linear_from_srgb(values)) / white(), 1e-6))

        step = _STEP * np.eye(3)
        ahead, back = (roots(encoded[:, None] + sign * step) for sign in (1, -1))
        return roots(encoded), np.asarray((ahead - back).swapaxes(-1, -2) / (2 * _STEP))

    def _units(self, encoded: FloatArray, spread: FloatArray) -> FloatArray:
        """What (3, 3) a step of a stored colour, of 255, is multiplied by to be 1 where it is at the limit of what is surely the same."""
        _now, slopes = self._roots(encoded[:: max(1, len(encoded) // 12)])
        whiten = np.linalg.inv(np.linalg.cholesky(spread))
        steps = whiten @ slopes / 255
        middle = steps[len(steps) // 2]
        # Elsewhere a step may count for more: the limit is drawn in by as much.
        more = max(float(np.linalg.norm(one @ np.linalg.inv(middle), 2)) for one in steps)
        return np.asarray(middle * max(1.0, more) / _SURELY, dtype=np.float32)


def _packed(colours: Image8) -> IntArray:
    """Stored colours (n, 3) as numbers below 2²⁴."""
    wide = colours.astype(np.int32)
    return np.asarray(wide[:, 0] << 16 | wide[:, 1] << 8 | wide[:, 2])
