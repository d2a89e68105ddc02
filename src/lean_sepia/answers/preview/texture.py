"""Where each coat lies in a patch: for each way of lying a field over the patch, whose lowest values are covered first.

Sizes are millimetres on the model; all figures are common practice without a source.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.ndimage import gaussian_filter
from scipy.spatial import KDTree

from lean_sepia.arrays import FloatArray
from lean_sepia.document.model import Coat
from lean_sepia.paint.tools import TOOLS

_DOT_MM, _CHIP_MM, _STREAK_MM, _CLOUD_MM, _GRAIN_MM, _SEAM_MM = 3.2, 1.1, 2.6, 2.5, 0.5, 9.0
_SPECKS, _SPECK_MM = 0.45, 0.25
_FEWEST, _CLOSEST_MM, _FLUNG = 0.002, 0.3, 0.8
_LONG = 7.0  # how much longer than broad a streak is


@dataclass(frozen=True)
class Frame:
    """A patch: its breadth and height in pixels, how many of them make a millimetre on the model, and the seed of its chance."""

    breadth: int
    height: int
    px_per_mm: float
    seed: int = 1

    def rng(self, name: str) -> np.random.Generator:
        """Chance of its own for one thing in it, the same at every drawing."""
        return np.random.default_rng([self.seed, *name.encode()])

    @property
    def places(self) -> FloatArray:
        """x and y (height · breadth, 2) of every pixel, in millimetres."""
        y, x = np.mgrid[: self.height, : self.breadth]
        return np.column_stack([x.ravel(), y.ravel()]) / self.px_per_mm


def clouds(frame: Frame, name: str, size_mm: float = _CLOUD_MM) -> FloatArray:
    """Smooth noise (height, breadth) of mean 0 and deviation 1, of clouds of a size."""
    noise = frame.rng(name).standard_normal((frame.height, frame.breadth))
    smooth = gaussian_filter(noise, max(0.6, size_mm * frame.px_per_mm / 2), mode="wrap")
    return np.asarray((smooth - smooth.mean()) / max(float(smooth.std()), 1e-9))


def spots(
    frame: Frame, name: str, apart_mm: float, *, longer: float = 1.0, uneven: float = 0.6
) -> FloatArray:
    """Distance (height, breadth) from the nearest of scattered marks, in units of that mark's own size."""
    rng = frame.rng(name)
    breadth, height = frame.breadth / frame.px_per_mm, frame.height / frame.px_per_mm
    stretch = np.array([1.0, 1 / longer])
    count = max(3, round((breadth + 2 * apart_mm) * (height / longer + 2 * apart_mm) / apart_mm**2))
    centres = rng.uniform(
        (-apart_mm, -apart_mm), (breadth + apart_mm, height / longer + apart_mm), (count, 2)
    )
    sizes = np.exp(rng.normal(0, uneven, count))
    tree = KDTree(centres)
    away, which = tree.query(frame.places * stretch, k=min(4, count))
    own = (np.atleast_2d(away) / sizes[which]).min(axis=1)
    return np.asarray(
        own.reshape(frame.height, frame.breadth) + 0.05 * clouds(frame, name + "edge", _GRAIN_MM)
    )


def seams(frame: Frame) -> FloatArray:
    """Distance (height, breadth) from the nearest of the lines along which a surface is joined."""
    y, x = np.mgrid[: frame.height, : frame.breadth] / frame.px_per_mm

    def to_line(values: FloatArray) -> FloatArray:
        return np.abs((values + _SEAM_MM / 2) % _SEAM_MM - _SEAM_MM / 2)

    return np.minimum(to_line(x - _SEAM_MM / 2), to_line(y - _SEAM_MM / 2))


def _letters(frame: Frame) -> FloatArray:
    """A band of upright bars, as lettering is seen from afar."""
    y, x = np.mgrid[: frame.height, : frame.breadth]
    band = np.abs(y / frame.height - 0.4)
    bars = np.abs((x / max(4.0, frame.breadth / 14)) % 1 - 0.5)
    return np.asarray(np.maximum(4 * band, bars) + 0.02 * clouds(frame, "letters", _GRAIN_MM))


def field_of(frame: Frame, coat: Coat) -> FloatArray:
    """Where a coat on a share of the area lies: its lowest values are covered first."""
    nature = coat.nature
    if nature.is_dots:
        return spots(frame, coat.id, _DOT_MM, longer=3.0, uneven=0.3)
    if nature.is_streaks:
        return spots(frame, coat.id, _STREAK_MM, longer=_LONG)
    if coat.speck_mm is not None:
        apart = coat.speck_mm / np.sqrt(max(coat.area_share, _FEWEST))
        return spots(frame, coat.id, float(np.clip(apart, _CLOSEST_MM, _CHIP_MM * 8)), uneven=_FLUNG)
    if nature.is_marking:
        return _letters(frame)
    if nature.along_seams:
        return seams(frame) + 0.05 * clouds(frame, coat.id, _GRAIN_MM)
    if nature.is_powder:
        return clouds(frame, coat.id) + 0.5 * clouds(frame, coat.id + "grain", _GRAIN_MM)
    if nature.in_spots:
        return spots(frame, coat.id, _CHIP_MM)
    field = clouds(frame, coat.id, 2 * _CLOUD_MM)
    # What is sprayed has no edge: it thins out in specks.
    return (
        field + _SPECKS * clouds(frame, coat.id + "specks", _SPECK_MM) if TOOLS[coat.tool].sprayed else field
    )
