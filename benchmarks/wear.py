"""Wear measured on panels of known shares, sizes and directions, and how long a photo of 12 megapixels takes."""

from __future__ import annotations

import time
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

import cv2
import numpy as np
from skimage.color import deltaE_ciede2000
from skimage.measure import label as label_regions

from benchmarks.figure import report
from benchmarks.worn_panels import STREAK, Disc, Kind, Panel, draw_panel
from lean_sepia.answers.wearing.surveying import survey_region
from lean_sepia.arrays import FloatArray, Image8
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.srgb import linear_from_srgb, xyz_from_linear
from lean_sepia.document.bounds import Lab
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.patch import corners_of, disc_patch, encoded_unit
from lean_sepia.wear.measure import ClassMeasure
from lean_sepia.wear.survey import Survey

_CLEAR, _UNCLEAR = range(64), range(500, 532)
_MM_PER_PX, _SCALE = 4.0, 96.0
_LEAST_POINTS, _LEAST_PART = 0.15, 0.10
_LARGE = (3000, 4000)


@dataclass(frozen=True)
class _Read:
    """What was read of one kind: its share and interval in per cent beside the truth, its size in parts of the true one, its direction."""

    truth: float
    found: ClassMeasure
    size: float | None
    off_deg: float | None
    false_way: bool

    @property
    def tolerance(self) -> float:
        return max(_LEAST_POINTS, _LEAST_PART * self.truth)


def _survey(pixels: Image8, spots: dict[str, Disc]) -> Survey:
    cast = fit_cast(pixels, [])

    def colour(name: str) -> Lab:
        L, a, b = cast.lab(disc_patch(pixels, *spots[name]).mean)
        return float(L), float(a), float(b)

    height, width = pixels.shape[:2]
    classes = {name: colour(name) for name in spots if name}
    found, _record, _look = survey_region(
        pixels,
        cast,
        corners_of(0, 0, width, height),
        colour(""),
        classes,
        mm_per_px=_MM_PER_PX,
        scale=_SCALE,
        spots=spots,
    )
    return found


def _size(kind: Kind, found: ClassMeasure) -> float | None:
    """Median size as read over the true one; None where the kind is not judged."""
    worn = kind.alpha > 0.5
    islands = kind.alpha.mean() > 0.5
    if 0.3 < kind.alpha.mean() <= 0.5:
        return None
    count, labels, stats, _centres = cv2.connectedComponentsWithStats(
        (~worn if islands else worn).astype(np.uint8), connectivity=8
    )
    cut = np.unique(np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]]))
    whole = (stats[:, cv2.CC_STAT_AREA] >= 20) & ~np.isin(np.arange(count), [0, *cut])
    if whole.sum() < 20:
        return None
    median = float(np.median(np.sqrt(4 * stats[whole, cv2.CC_STAT_AREA] / np.pi))) * _MM_PER_PX
    return found.median_mm / median


def _read(panel: Panel) -> list[_Read]:
    found = {measure.name: measure for measure in _survey(panel.pixels, panel.spots).classes}
    answer = []
    for name, kind in panel.kinds.items():
        mine, off = found[name], None
        if kind.form == STREAK and mine.direction_deg is not None:
            assert kind.towards is not None
            off = abs((mine.direction_deg - kind.towards + 90) % 180 - 90)
        false_way = kind.form != STREAK and mine.direction_deg is not None
        answer.append(_Read(100 * float(kind.alpha.mean()), mine, _size(kind, mine), off, false_way))
    return answer


def _clear(seed: int) -> list[_Read]:
    return _read(draw_panel(seed))


def _unclear(seed: int) -> list[_Read]:
    return _read(draw_panel(seed, clear=False))


def _within(reads: list[_Read]) -> float:
    return 100 * float(np.mean([abs(r.found.coverage_percent - r.truth) <= r.tolerance for r in reads]))


def _shares(reads: list[_Read], harder: list[_Read]) -> Iterator[bool]:
    misses = sorted(
        f"{r.truth:.1f} as {r.found.coverage_percent:.1f}"
        for r in reads
        if abs(r.found.coverage_percent - r.truth) > r.tolerance
    )
    yield report(
        "wear, shares off by more than 0.15 points and 10 % (of 100)",
        100 - _within(reads),
        5,
        "",
        f"{len(reads)} kinds; {', '.join(misses)}",
    )
    yield report(
        "wear, the same where colours are alike (of 100)",
        100 - _within(harder),
        20,
        "",
        f"{len(harder)} kinds",
    )
    held = [low <= r.truth <= high for r in reads for low, high in [r.found.coverage_range90]]
    holds = 100 * float(np.mean(held))
    yield report("wear, interval of shares, off 90 of 100", abs(holds - 90), 5, "", f"holds in {holds:.0f}")
    half = float(
        np.median(
            [(r.found.coverage_range90[1] - r.found.coverage_range90[0]) / 2 / r.tolerance for r in reads]
        )
    )
    yield report("wear, median half-width of that interval", half, 1, "the tolerance")


def _forms(reads: list[_Read]) -> Iterator[bool]:
    sizes = [r.size for r in reads if r.size is not None]
    off = [abs(size - 1) for size in sizes]
    yield report(
        "wear, median sizes off by more than 12 % (of 100)",
        100 * float(np.mean(np.array(off) > 0.12)),
        5,
        "",
        f"{len(off)} kinds, at worst {100 * max(off):.0f} %",
    )
    ways = [r.off_deg for r in reads if r.off_deg is not None]
    yield report(
        "wear, directions of streaks off by more than 2° (of 100)",
        100 * float(np.mean(np.array(ways) > 2)),
        5,
        "",
        f"{len(ways)} kinds, at worst {max(ways):.1f}°",
    )
    false = 100 * float(np.mean([r.false_way for r in reads]))
    yield report("wear, directions of what has none (of 100)", false, 1, "")


def _large(side: tuple[int, int]) -> tuple[Image8, dict[str, Disc]]:
    """A large photo with two kinds: a panel enlarged, with grain of its own."""
    panel = draw_panel(1, simple=True)
    height, width = side
    scale = width / panel.pixels.shape[1], height / panel.pixels.shape[0]
    pixels = cv2.resize(panel.pixels, (width, height), interpolation=cv2.INTER_CUBIC)
    grain = np.zeros(pixels.shape, np.int16)
    cv2.setRNGSeed(5)
    cv2.randn(grain, (0, 0, 0), (2, 2, 2))
    pixels = np.clip(pixels + grain, 0, 255).astype(np.uint8)
    return pixels, {
        name: (x * scale[0], y * scale[1], r * scale[0]) for name, (x, y, r) in panel.spots.items()
    }


def _per_pixel(pixels: Image8, spots: dict[str, Disc]) -> None:
    """The plain way: each pixel to the nearest of the reference colours by CIEDE2000, then labelled."""
    lab = lab_from_xyz(xyz_from_linear(linear_from_srgb(encoded_unit(pixels))))
    known = [lab[int(y), int(x)] for x, y, _r in spots.values()]
    away: FloatArray = np.stack([deltaE_ciede2000(lab, np.broadcast_to(one, lab.shape)) for one in known])
    nearest = away.argmin(axis=0)
    for number in range(1, len(known)):
        label_regions(nearest == number, connectivity=2)


def _speed() -> Iterator[bool]:
    pixels, spots = _large(_LARGE)
    start = time.perf_counter()
    _survey(pixels, spots)
    own = time.perf_counter() - start
    quarter, near = _large((_LARGE[0] // 2, _LARGE[1] // 2))
    start = time.perf_counter()
    _survey(quarter, near)
    own_quarter = time.perf_counter() - start
    start = time.perf_counter()
    _per_pixel(pixels, spots)
    plain = time.perf_counter() - start
    yield report(
        "wear, 12 megapixels with two kinds",
        own / plain,
        1 / 8,
        "per-pixel CIEDE2000 of the image library",
        f"{own:.1f} s against {plain:.1f} s",
    )
    yield report(
        "wear, time for four times the pixels",
        own / own_quarter,
        4.5,
        "the time for one",
        f"{own_quarter:.1f} s",
    )


def main() -> bool:
    """Shares, intervals, sizes, directions, speed."""
    with ProcessPoolExecutor(2) as pool:
        reads = [read for found in pool.map(_clear, _CLEAR) for read in found]
        harder = [read for found in pool.map(_unclear, _UNCLEAR) for read in found]
    return all([*_shares(reads, harder), *_forms(reads), *_speed()])
