"""What a surface in a picture is besides one even colour: a printed screen of dots, two colours or lights that meet, a rough texture.

A screen is found by its peak in the spectrum of a window (Hann window; any text on spectral estimation), and averaged over whole
cells by weights that fall to nothing at the rim, so that a cell cut by the rim shifts nothing.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, IntArray

Evenness = Literal["screen", "two", "rough"]
"""A screen of dots; two colours, or light and shade, that meet in it; a texture or coarse grain."""

SCREEN_CELLS = 3.5
"""How many cells of a screen a radius must hold for their mean to be that of the print."""

_WINDOW, _LEAST_WINDOW = 64, 20
_SHORTEST, _LONGEST = 2.2, 13.0  # pixels from dot to dot: a 150-line screen scanned at 600 dpi has 4
_PEAKS, _NOTHING = 0.45, 0.03  # share of the fine structure in peaks; contrast below which there is none
_ABOVE = 14.0  # times the usual power of a frequency
_ASIDE, _OTHER_WAY = (
    0.96,
    0.03,
)  # cosine to the strongest peak; how much of all peaks lies in other directions
_STRONG = 0.1
_BLOCK, _ON_AXIS = 8.0, 0.012  # what the blocks of a stored picture repeat in, along its rows and columns
_APART, _LEAST_PART = 4.5, 0.12  # of their own scatter; the smaller of two colours
_TOGETHER = 0.75  # how much of each lies on its own side of a line
_UNEVEN, _CELLS_ACROSS = 0.5, 5.0  # a few bars that cross are no screen yet
_INNER, _ALIKE = 7, 0.7  # pixels round the middle, and how much of the structure lies there too
_ROUGH = 0.09  # encoded scatter


@dataclass(frozen=True)
class Screen:
    """A screen of dots: pixels from dot to dot."""

    period: float


def shows_structure(encoded: FloatArray) -> bool:
    """Whether pixels (..., 3) of encoded values differ so much that dots may lie there."""
    return bool(float(encoded.reshape(-1, 3).std(axis=0).max()) >= _NOTHING)


def find_screen(encoded: FloatArray) -> Screen | None:
    """The screen of dots of a window (h, w, 3) of encoded values; None where there is none, or the window is too small to say."""
    side = min(encoded.shape[0], encoded.shape[1], _WINDOW)
    if side < _LEAST_WINDOW:
        return None
    top, left = (encoded.shape[0] - side) // 2, (encoded.shape[1] - side) // 2
    window = encoded[top : top + side, left : left + side].astype(np.float32)
    half = side // 2
    quarters = [
        window[r : r + half, c : c + half].mean(axis=(0, 1))
        for r in (0, side - half)
        for c in (0, side - half)
    ]
    if float(np.ptp(quarters, axis=0).max()) > _UNEVEN * float(window.std(axis=(0, 1)).max()):
        return None  # something else begins in the window
    fine = window - cv2.GaussianBlur(window, (0, 0), _LONGEST / 2)
    strongest = int(fine.std(axis=(0, 1)).argmax())
    scatter, inner = fine[..., strongest], slice(side // 2 - _INNER, side // 2 + _INNER + 1)
    if float(scatter.std()) < _NOTHING or float(scatter[inner, inner].std()) < _ALIKE * float(scatter.std()):
        return None  # what repeats lies beside the middle, not in it
    hann = np.hanning(side + 2)[1:-1]
    spectrum = np.abs(np.fft.rfft2(fine * (hann[:, None] * hann)[..., None], axes=(0, 1))) ** 2
    power = spectrum.sum(axis=-1)
    down, across = np.fft.fftfreq(side)[:, None], np.fft.rfftfreq(side)[None]
    frequency = np.hypot(down, across)
    allowed = (frequency > max(1 / _LONGEST, _CELLS_ACROSS / side)) & (frequency < 1 / _SHORTEST)
    if float(scatter.std()) < _STRONG:  # as weak as what the blocks of a stored picture leave
        on_axis = np.minimum(np.abs(down), across) < _ON_AXIS
        allowed &= ~(
            on_axis & (np.abs(frequency * _BLOCK - np.round(frequency * _BLOCK)) < _BLOCK * 0.75 / side)
        )
    usual = _of_rings(power, frequency, side)
    peaks = allowed & (power > _ABOVE * usual)
    whole = float(power[frequency > 1 / _LONGEST].sum())
    if not peaks.any() or float(power[peaks].sum()) < _PEAKS * whole:
        return None
    row, column = np.unravel_index(int(np.where(peaks, power, 0).argmax()), power.shape)
    if not _two_ways(power, peaks, int(row), int(column)):
        return None
    return Screen(1 / float(frequency[row, column]))


def _two_ways(power: FloatArray, peaks: BoolArray, row: int, column: int) -> bool:
    """Whether something repeats in another direction than the strongest peak, as dots do and stripes and planks do not."""
    rows, columns = np.nonzero(peaks)
    side = power.shape[0]
    down = np.where(rows <= side // 2, rows, rows - side)
    own = row if row <= side // 2 else row - side
    along = (down * own + columns * column) / np.maximum(
        np.hypot(down, columns) * np.hypot(own, column), 1e-9
    )
    aside = power[rows, columns][np.abs(along) < _ASIDE].sum()
    return bool(aside > _OTHER_WAY * power[rows, columns].sum())


def _of_rings(power: FloatArray, frequency: FloatArray, side: int) -> FloatArray:
    """The usual power of each frequency, whatever its direction, at every place (h, w) of a spectrum: its geometric mean."""
    ring = np.round(frequency * side / 2).astype(int).ravel()
    logs = np.log(np.maximum(power.ravel(), 1e-12))
    return np.asarray(
        np.exp(np.bincount(ring, logs) / np.maximum(np.bincount(ring), 1))[ring].reshape(power.shape)
    )


def whole_cells(places: IntArray, x: float, y: float, radius: float) -> FloatArray:
    """Weights (n,) of pixels at x and y (n, 2) that fall smoothly to nothing at a radius, one in sum."""
    away = np.hypot(places[:, 0] - x, places[:, 1] - y) / (radius + 0.5)
    weight = np.where(away < 1, 0.5 + 0.5 * np.cos(np.pi * np.minimum(away, 1)), 0.0)
    return np.asarray(weight / max(float(weight.sum()), 1e-12))


def parts_of(encoded: FloatArray, places: IntArray) -> BoolArray | None:
    """Which pixels (n,) are the lighter of two colours that meet along a line; None where there is one colour."""
    if len(encoded) < 24:
        return None
    grey = encoded.mean(axis=1)
    order = np.sort(grey)
    sums, n = np.cumsum(order), np.arange(1, len(order) + 1)
    below = sums[:-1] / n[:-1]
    above = (sums[-1] - sums[:-1]) / (len(order) - n[:-1])
    share = n[:-1] / len(order)
    between = share * (1 - share) * (above - below) ** 2  # Otsu's choice of a limit
    between[(share < _LEAST_PART) | (share > 1 - _LEAST_PART)] = 0
    at = int(between.argmax())
    light = grey > (order[at] + order[at + 1]) / 2
    if not _LEAST_PART <= float(light.mean()) <= 1 - _LEAST_PART:
        return None
    scatter = max(float(np.median(np.abs(grey[part] - np.median(grey[part])))) for part in (light, ~light))
    if abs(float(grey[light].mean() - grey[~light].mean())) < _APART * (1.4826 * scatter + 2 / 255):
        return None
    way = places[light].mean(axis=0) - places[~light].mean(axis=0)
    along = places @ way
    order_along = np.argsort(np.argsort(along))
    beyond = order_along >= len(along) - int(light.sum())
    return light if float((beyond == light).mean()) > (1 + _TOGETHER) / 2 else None


def is_rough(encoded: FloatArray) -> bool:
    """Whether pixels (n, 3) scatter more than grain does."""
    return bool(float(encoded.std(axis=0).max()) > _ROUGH)
