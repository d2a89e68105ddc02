"""Wear against the outside: labelling and region properties of the image library, both standards' limits, the eye, practice."""

from math import pi

import cv2
import numpy as np
import pytest
from skimage.measure import label, regionprops

from lean_sepia.wear.grade import grade
from lean_sepia.wear.measure import find_marks, measure_class
from lean_sepia.wear.scale import smallest_visible_mm
from lean_sepia.wear.tools import MARK_TOOLS, on_prototype_mm


def drawn(seed, count=40):
    rng, canvas = np.random.default_rng(seed), np.zeros((300, 420), np.uint8)
    for _mark in range(count):
        centre = (int(rng.integers(5, 415)), int(rng.integers(5, 295)))
        axes = (int(rng.integers(3, 14)), int(rng.integers(2, 5)))
        cv2.ellipse(canvas, centre, axes, float(rng.normal(60, 4)), 0, 360, 255, -1)
    return canvas > 0


@pytest.mark.parametrize("seed", range(5))
def test_marks_are_those_of_the_library(seed):
    """Eight neighbours; equivalent diameters of whole marks of 20 px² and more; what the border cuts is no size."""
    mask = drawn(seed)
    regions = regionprops(label(mask, connectivity=2))
    whole = [
        r for r in regions
        if r.area >= 20 and r.bbox[0] > 0 and r.bbox[1] > 0 and r.bbox[2] < mask.shape[0] and r.bbox[3] < mask.shape[1]
    ]  # fmt: skip
    share = mask.astype(np.float32)
    measure = measure_class("rust", find_marks(mask, share, 1.0), share)
    assert measure.count == len(whole)
    assert measure.median_mm == pytest.approx(np.median([r.equivalent_diameter_area for r in whole]))
    assert measure.coverage_percent == pytest.approx(100 * sum(r.area for r in regions) / mask.size)


@pytest.mark.parametrize("seed", range(5))
def test_axes_are_those_of_the_library(seed):
    """The library's orientation is the angle of the major axis from the rows' direction, counter-clockwise."""
    mask = drawn(seed, count=14)
    share = mask.astype(np.float32)
    regions = [r for r in regionprops(label(mask, connectivity=2)) if r.area >= 20]
    long = [r for r in regions if r.axis_major_length > 1.8 * r.axis_minor_length]
    doubled = np.angle(np.mean([r.area**0.5 * np.exp(2j * r.orientation) for r in long]))
    found = measure_class("streaks", find_marks(mask, share, 1.0), share).direction_deg
    assert found == pytest.approx(np.degrees(doubled) / 2, abs=3)


@pytest.mark.parametrize(
    ("limit", "degree"), [(0.0, 0), (0.05, 1), (0.5, 2), (1.0, 3), (8.0, 4), (40.0, 5), (50.0, 5)]
)
def test_limits_of_iso_4628_3(limit, degree):
    """Rusted areas of ISO 4628-3, table 1, from memory: Ri 0 to Ri 5."""
    assert grade(limit).iso_4628_3 == f"Ri {degree}"


@pytest.mark.parametrize(
    ("limit", "number"),
    [
        (0.01, 10),
        (0.03, 9),
        (0.1, 8),
        (0.3, 7),
        (1, 6),
        (3, 5),
        (10, 4),
        (16, 3),
        (33, 2),
        (50, 1),
        (50.1, 0),
    ],
)
def test_limits_of_astm_d610(limit, number):
    """Rusted areas of ASTM D610, table 1, from memory: grades 10 to 0."""
    assert grade(limit).astm_d610 == number


def test_one_arc_minute():
    """A good eye separates one minute of arc: 0.0873 mm at 30 cm."""
    assert smallest_visible_mm(1, 300) == pytest.approx(300 * pi / 180 / 60, rel=1e-6)


def test_practice_of_the_finest_brush():
    """Common practice: a 0.3 mm chip on the model is 22 mm on the prototype at 1:72 and 48 mm at 1:160."""
    finest = MARK_TOOLS["fine-brush"].smallest_mm
    assert round(on_prototype_mm(finest, 72)) == 22
    assert round(on_prototype_mm(finest, 160)) == 48
