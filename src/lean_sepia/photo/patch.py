"""Discs, rectangles and polygons on a picture, and the robust mean of the paint in them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, IntArray
from lean_sepia.colour.srgb import linear_from_srgb
from lean_sepia.errors import SampleError
from lean_sepia.language import _
from lean_sepia.photo.read import Pixels
from lean_sepia.photo.surface import (
    SCREEN_CELLS,
    Evenness,
    Screen,
    find_screen,
    is_rough,
    parts_of,
    shows_structure,
    whole_cells,
)

_SECTORS = 8
_LEAST_ABOUT = (32.0, 20.0)  # pixels round a small disc, in which a printed screen is looked for
CLIPPED_LOW, CLIPPED_HIGH = 2, 253
"""8-bit values at and beyond which a channel tells nothing."""


@dataclass(frozen=True, eq=False)
class Patch:
    """What a disc, polygon or brush stroke on the picture holds, before any correction.

    mean : linear sRGB (3,) of the paint, specks and highlights left out
    cov_of_mean : (3, 3) covariance of that mean, from how much parts of the disc differ
    spread : (3,) standard deviation of the kept pixels
    kept : (n,) mask over the pixels read
    places : (n, 2) x and y of the pixels read
    clipping : (2, 3) share of the kept pixels in which a channel lies at its lower, at its upper end
    clipping_read : the same (2, 3) of all the pixels read
    all_clipped : share of the pixels read in which all three channels lie at an end
    uneven : what it is besides one even colour, `""` where it is one
    bright : (n,) pixels that were left out because they are brighter in every channel, as highlights and scratches are
    """

    mean: FloatArray
    cov_of_mean: FloatArray
    spread: FloatArray
    kept: BoolArray
    clipped_share: float
    places: IntArray
    clipping: FloatArray
    clipping_read: FloatArray
    all_clipped: float
    uneven: Evenness | Literal[""] = ""
    bright: BoolArray | None = None

    @property
    def held(self) -> tuple[float, float, float, float]:
        """Shares of the pixels read: kept, left out as highlights, left out as specks, and clipped in a channel, whether kept or not."""
        kept = float(self.kept.mean())
        bright = 0.0 if self.bright is None else float(self.bright.mean())
        return kept, bright, max(0.0, 1 - kept - bright), self.clipped_share

    @property
    def pixels(self) -> int:
        """How many pixels the mean rests on."""
        return int(self.kept.sum())

    @property
    def left_out(self) -> IntArray:
        """x and y (n, 2) of the pixels that were left out as specks or highlights."""
        return self.places[~self.kept]


@dataclass(frozen=True, eq=False)
class Area:
    """Part of a picture: the rows and columns of its box, and which pixels of the box (h, w) belong to it."""

    rows: slice
    columns: slice
    mask: BoolArray

    @classmethod
    def of_polygon(
        cls, shape: tuple[int, int], corners: Sequence[tuple[float, float]], margin: float = 0
    ) -> Area:
        """The inside of a polygon of at least three corners (x, y) on a picture of shape (h, w).

        margin : pixels by which the box reaches beyond the polygon, where the picture does

        Raises
        ------
        SampleError
            Fewer than three corners, or no pixel lies inside.
        """
        if len(corners) < 3:
            raise SampleError(_("A region needs at least three corners; found {0}.").format(len(corners)))
        points = np.array(corners, dtype=np.float64).round().astype(np.int32)
        rows, columns = _box_about(points, shape, margin)
        mask = np.zeros((rows.stop - rows.start, columns.stop - columns.start), dtype=np.uint8)
        if mask.size:
            cv2.fillPoly(mask, [points - [columns.start, rows.start]], (1,))
        if not mask.any():
            raise SampleError(_("The region lies outside the picture."))
        return cls(rows, columns, mask.astype(bool))

    def of(self, pixels: Pixels) -> Pixels:
        """The box (h, w, 3) of a picture."""
        return pixels[self.rows, self.columns]


def _box_about(points: IntArray, shape: tuple[int, int], margin: float) -> tuple[slice, slice]:
    """Rows and columns round points (n, 2), no further than a picture of shape (h, w)."""
    low, high = points.min(axis=0) - int(np.ceil(margin)), points.max(axis=0) + int(np.ceil(margin)) + 1
    spans = []
    for axis, length in ((1, shape[0]), (0, shape[1])):
        start = min(max(0, int(low[axis])), length)
        spans.append(slice(start, max(start, min(length, int(high[axis])))))
    return spans[0], spans[1]


def encoded_unit(pixels: Pixels) -> FloatArray:
    """Pixels of any depth as encoded values in 0–1."""
    return np.asarray(pixels, dtype=np.float64) / (65535 if pixels.dtype == np.uint16 else 255)


def disc_patch(pixels: Pixels, x: float, y: float, radius: float) -> Patch:
    """Read a disc: robust mean in linear light, with specks and highlights left out.

    Raises
    ------
    SampleError
        The disc is not on the picture, or its radius is not positive.
    """
    height, width = pixels.shape[:2]
    _check_radius(radius)
    if not (0 <= x < width and 0 <= y < height):
        raise SampleError(
            _("The point {0:g}, {1:g} lies outside the picture of {2} × {3} pixels.").format(
                x, y, width, height
            )
        )
    screen = _screen_about(pixels, x, y, radius)
    if screen is not None:
        return _screened(pixels, x, y, max(radius, SCREEN_CELLS * screen.period), screen)
    x0, x1 = max(0, int(np.floor(x - radius))), min(width, int(np.ceil(x + radius)) + 1)
    y0, y1 = max(0, int(np.floor(y - radius))), min(height, int(np.ceil(y + radius)) + 1)
    rows, columns = np.mgrid[y0:y1, x0:x1]
    inside = np.hypot(columns - x, rows - y) <= max(radius, 0.5)
    if not inside.any():
        inside[np.clip(round(y) - y0, 0, y1 - y0 - 1), np.clip(round(x) - x0, 0, x1 - x0 - 1)] = True
    places = np.stack([columns[inside], rows[inside]], axis=1)
    angle = np.arctan2(places[:, 1] - y, places[:, 0] - x)
    sector = np.minimum(((angle + np.pi) / (2 * np.pi) * _SECTORS).astype(int), _SECTORS - 1)
    return _robust(encoded_unit(pixels[y0:y1, x0:x1][inside]), sector, places)


def polygon_patch(pixels: Pixels, corners: Sequence[tuple[float, float]]) -> Patch:
    """Read a polygon of at least three corners (x, y) as `disc_patch` reads a disc.

    Raises
    ------
    SampleError
        Fewer than three corners, or no pixel of the picture lies inside.
    """
    return _mask_patch(pixels, Area.of_polygon((pixels.shape[0], pixels.shape[1]), corners))


def brush_patch(pixels: Pixels, path: Sequence[tuple[float, float]], radius: float) -> Patch:
    """Read what a round brush passes over on its path (x, y), as `disc_patch` reads a disc.

    Raises
    ------
    SampleError
        The path is empty or wholly outside the picture, or the radius is not positive.
    """
    _check_radius(radius)
    if not path:
        raise SampleError(_("A brush stroke needs at least one point."))
    points = np.array(path, dtype=float).round().astype(np.int32)
    box = _box_about(points, (pixels.shape[0], pixels.shape[1]), radius + 1)
    mask = np.zeros((box[0].stop - box[0].start, box[1].stop - box[1].start), dtype=np.uint8)
    points = points - [box[1].start, box[0].start]
    cv2.polylines(mask, [points], False, (1,), max(1, round(2 * radius)))
    for x, y in points.tolist():
        cv2.circle(mask, (x, y), round(radius), (1,), -1)
    if not mask.any():
        raise SampleError(_("The brush stroke lies outside the picture."))
    return _mask_patch(pixels, Area(*box, mask.astype(bool)))


def _check_radius(radius: float) -> None:
    if not radius > 0:
        raise SampleError(_("The radius of a sample is at least half a pixel; found {0:g}.").format(radius))


def _mask_patch(pixels: Pixels, area: Area) -> Patch:
    """The pixels of an area, in eight strips along their longer direction for the error of the mean."""
    rows, columns = np.nonzero(area.mask)
    places = np.stack([columns + area.columns.start, rows + area.rows.start], axis=1)
    away = places - places.mean(axis=0)
    along = away @ np.linalg.svd(np.cov(away.T) if len(away) > 1 else np.eye(2))[0][:, 0]
    rank = np.argsort(np.argsort(along, kind="stable"), kind="stable")
    x, y = places.mean(axis=0)
    radius = max(2.0, float(np.sqrt(len(places) / np.pi)))
    screened = _screen_about(pixels, float(x), float(y), radius) is not None
    encoded = encoded_unit(area.of(pixels)[rows, columns])
    return _robust(encoded, rank * _SECTORS // len(rank), places, screened=screened)


def _screen_about(pixels: Pixels, x: float, y: float, radius: float) -> Screen | None:
    """The printed screen that a disc lies on; None where it lies on none."""
    height, width = pixels.shape[:2]
    near = max(2, round(min(radius, _LEAST_ABOUT[-1])))
    inner = pixels[
        max(0, round(y) - near) : round(y) + near + 1, max(0, round(x) - near) : round(x) + near + 1
    ]
    if not shows_structure(encoded_unit(inner)):
        return None
    for about in sorted({max(radius, least) for least in _LEAST_ABOUT}, reverse=True):
        rows = slice(max(0, round(y - about)), min(height, round(y + about) + 1))
        columns = slice(max(0, round(x - about)), min(width, round(x + about) + 1))
        screen = find_screen(encoded_unit(pixels[rows, columns]))
        if screen is not None:
            return screen
    return None


def _screened(pixels: Pixels, x: float, y: float, radius: float, screen: Screen) -> Patch:
    """Read a printed screen: the mean in linear light over whole cells, nothing left out."""
    height, width = pixels.shape[:2]
    reach = radius + screen.period
    rows, columns = np.mgrid[
        max(0, int(y - reach)) : min(height, int(y + reach) + 2),
        max(0, int(x - reach)) : min(width, int(x + reach) + 2),
    ]
    places = np.stack([columns.ravel(), rows.ravel()], axis=1)
    encoded = encoded_unit(pixels[places[:, 1], places[:, 0]])
    linear = linear_from_srgb(encoded)
    half = screen.period / 2
    shifts = ((0.0, 0.0), (half, 0.0), (-half, 0.0), (0.0, half), (0.0, -half))
    means = np.stack([whole_cells(places, x + dx, y + dy, radius) @ linear for dx, dy in shifts])
    inside = whole_cells(places, x, y, radius) > 0
    ends = np.stack([encoded <= CLIPPED_LOW / 255, encoded >= CLIPPED_HIGH / 255])[:, inside]
    clipped = np.any(ends, axis=0)
    return Patch(
        means.mean(axis=0), np.cov(means.T) + _quantised(means[0]), linear[inside].std(axis=0),
        np.ones(int(inside.sum()), bool), float(np.any(clipped, axis=1).mean()), places[inside], np.zeros((2, 3)),
        ends.mean(axis=1), 0.0, "screen",
    )  # fmt: skip


def _quantised(mean: FloatArray) -> FloatArray:
    """Covariance (3, 3) that storing in 8 bits leaves of a linear mean (3,)."""
    return np.diag((mean ** (1 / 2.4) * 2.2 * mean ** (1.4 / 2.4) / 255 / np.sqrt(12)) ** 2)


def _robust(encoded: FloatArray, sector: IntArray, places: IntArray, *, screened: bool = False) -> Patch:
    """The mean of the paint in pixels (n, 3), specks and highlights left out; of a printed screen nothing is."""
    centre = np.median(encoded, axis=0)
    deviation = encoded - centre
    scatter = 1.4826 * np.median(np.abs(deviation), axis=0) + 1.5 / 255
    kept = np.all(np.abs(deviation) <= 3.0 * scatter, axis=1)
    # Highlights and scratches are brighter in every channel at once: cut them sooner than shadows.
    kept &= ~np.all(deviation > 1.8 * scatter, axis=1)
    if screened or not kept.any():
        kept[:] = True
    linear = linear_from_srgb(encoded)
    mean = linear[kept].mean(axis=0)
    counts = np.bincount(sector[kept], minlength=_SECTORS)
    full = counts >= 4
    if full.sum() >= 3:
        # Grain is correlated, so the error of the mean comes from how the sectors differ, not from 1/√n.
        sums = np.stack([np.bincount(sector[kept], linear[kept, c], _SECTORS) for c in range(3)], axis=1)
        sectors = sums[full] / counts[full, None]
        cov = np.cov(sectors.T) / full.sum()
    else:
        cov = np.diag(linear[kept].var(axis=0))
    ends = np.stack([encoded <= CLIPPED_LOW / 255, encoded >= CLIPPED_HIGH / 255])
    clipped = np.any(ends, axis=0)
    uneven, more = _unevenness(encoded, linear, places, kept, screened=screened)
    return Patch(
        mean, cov + _quantised(mean) + more, linear[kept].std(axis=0), kept, float(np.any(clipped, axis=1).mean()), places,
        ends[:, kept].mean(axis=1), ends.mean(axis=1), float(np.all(clipped, axis=1).mean()), uneven,
        ~kept & np.all(deviation > 0, axis=1),
    )  # fmt: skip


def _unevenness(
    encoded: FloatArray, linear: FloatArray, places: IntArray, kept: BoolArray, *, screened: bool
) -> tuple[Evenness | Literal[""], FloatArray]:
    """What pixels are besides one even colour, and how much less sure (3, 3) their mean is for it."""
    if screened:
        return "screen", np.zeros((3, 3))
    light = parts_of(encoded, places)
    if light is not None:  # the colour that was meant may be either
        apart, share = linear[light].mean(axis=0) - linear[~light].mean(axis=0), float(light.mean())
        return "two", max(share, 1 - share) * np.outer(apart, apart) / 2
    return ("rough" if is_rough(encoded[kept]) else ""), np.zeros((3, 3))


def rectangle_mean(pixels: Pixels, x0: float, y0: float, x1: float, y1: float) -> FloatArray:
    """Plain mean (3,) in linear sRGB of a rectangle: dirt and wear included, nothing left out.

    Raises
    ------
    SampleError
        The rectangle is empty or reaches outside the picture.
    """
    return linear_from_srgb(encoded_unit(rectangle(pixels, x0, y0, x1, y1))).reshape(-1, 3).mean(axis=0)


def corners_of(x0: float, y0: float, x1: float, y1: float) -> tuple[tuple[float, float], ...]:
    """The corners of a rectangle, from its first in turn."""
    return (x0, y0), (x1, y0), (x1, y1), (x0, y1)


def rectangle(pixels: Pixels, x0: float, y0: float, x1: float, y1: float) -> Pixels:
    """The pixels (h, w, 3) of a rectangle given by two opposite corners.

    Raises
    ------
    SampleError
        The rectangle is empty or reaches outside the picture.
    """
    height, width = pixels.shape[:2]
    left, right = sorted((round(x0), round(x1)))
    top, bottom = sorted((round(y0), round(y1)))
    if left < 0 or top < 0 or right > width or bottom > height:
        raise SampleError(
            _(
                "The rectangle {0:g},{1:g} to {2:g},{3:g} reaches outside the picture of {4} × {5} pixels."
            ).format(x0, y0, x1, y1, width, height)
        )
    if right - left < 1 or bottom - top < 1:
        raise SampleError(
            _("The rectangle {0:g},{1:g} to {2:g},{3:g} is empty: give two opposite corners.").format(
                x0, y0, x1, y1
            )
        )
    return pixels[top:bottom, left:right]
