"""Wear measured on drawn regions whose coverage, sizes and directions are known."""

import cv2
import numpy as np
import pytest

from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.errors import BadInputError
from lean_sepia.wear.grade import grade, is_rust
from lean_sepia.wear.measure import find_marks, measure_class
from lean_sepia.wear.scale import smallest_visible_mm
from lean_sepia.wear.scene import XyzLook
from lean_sepia.wear.survey import survey

BASE, RUST, SCRATCH = np.array([50.0, -18, -3]), np.array([33.0, 15, 12]), np.array([76.0, 4, 18])


def region(rng, blur=0.0, noise=0.0, slope=0.0, size=(300, 400)):
    """A base with rust discs and scratches; returns Lab and the exact shares."""
    fine = 4
    masks = {}
    for name, count, radius in (("rust", 40, 5.0), ("scratch", 25, 4.0)):
        mask = np.zeros((size[0] * fine, size[1] * fine), np.uint8)
        for _ in range(count):
            centre = (int(rng.uniform(20, size[1] - 20) * fine), int(rng.uniform(20, size[0] - 20) * fine))
            cv2.circle(mask, centre, int(radius * fine), 255, -1)
        masks[name] = cv2.resize(mask, size[::-1], interpolation=cv2.INTER_AREA) / 255
    masks["scratch"] *= 1 - masks["rust"]
    xyz = xyz_from_lab(np.broadcast_to(BASE, (*size, 3)).copy())
    for name, lab in (("scratch", SCRATCH), ("rust", RUST)):
        m = masks[name][..., None]
        xyz = xyz * (1 - m) + xyz_from_lab(lab) * m
    xyz *= 1 + slope * np.linspace(-1, 1, size[1])[None, :, None]
    if blur:
        xyz = cv2.GaussianBlur(xyz, (0, 0), blur)
    return xyz * (1 + rng.normal(0, noise, xyz.shape)), {k: 100 * m.mean() for k, m in masks.items()}


@pytest.mark.parametrize(
    ("blur", "noise", "slope", "tolerance"),
    [(0, 0, 0, 0.04), (0.9, 0, 0, 0.06), (0.9, 0.02, 0, 0.10), (0.9, 0.02, 0.15, 0.12)],
)
def test_coverage_of_each_class(rng, blur, noise, slope, tolerance):
    xyz, truth = region(rng, blur, noise, slope)
    found = survey(XyzLook(xyz), BASE, {"rust": RUST, "scratch": SCRATCH}, mm_per_px=4, scale=96)
    for measure in found.classes:
        assert measure.coverage_percent == pytest.approx(truth[measure.name], rel=tolerance)


def test_unnamed_wear_is_everything_unlike_the_base(rng):
    xyz, truth = region(rng)
    found = survey(XyzLook(xyz), BASE, {}, mm_per_px=4, scale=96)
    assert found.classes[0].name == "worn"
    assert found.coverage_percent == pytest.approx(sum(truth.values()), rel=0.15)
    assert found.grade.iso_4628_3 == "Ri 0"  # nothing was named rust


def test_a_clean_region_has_no_wear(rng):
    clean = np.broadcast_to(xyz_from_lab(BASE), (80, 90, 3)) * (1 + rng.normal(0, 0.01, (80, 90, 3)))
    found = survey(XyzLook(clean), BASE, {"rust": RUST}, mm_per_px=4, scale=96)
    assert found.coverage_percent < 0.05
    assert found.classes[0].direction_deg is None
    assert found.at_scale.tint_lab_shift == (0.0, 0.0, 0.0)


def test_sizes_are_equivalent_diameters():
    mask = np.zeros((60, 60), bool)
    mask[10:20, 10:20] = True
    marks = find_marks(mask, mask.astype(float), 2.0)
    assert marks.diameter_mm[0] == pytest.approx(2 * np.sqrt(4 * 100 / np.pi))


def lines(angle, spread=0.0, count=12, seed=3):
    """Bars of a direction, and how much of each pixel they cover."""
    rng, canvas = np.random.default_rng(seed), np.zeros((400, 600), np.uint8)
    for number in range(count):
        x, y = 60 + 95 * (number % 6), 90 + 190 * (number // 6)
        turn = np.radians(angle + spread * rng.normal())
        dx, dy = np.sin(turn) * 35, np.cos(turn) * 35
        cv2.line(canvas, (round(x - dx), round(y - dy)), (round(x + dx), round(y + dy)), 255, 9)
    return canvas > 0, (canvas > 0).astype(np.float32)


@pytest.mark.parametrize("angle", [0, 30, -40, 90])
def test_directions_are_from_straight_down_positive_to_the_right(angle):
    core, share = lines(angle, 3.0)
    measure = measure_class("streaks", find_marks(core, share, 2.0), share)
    assert measure.direction_deg == pytest.approx(angle, abs=2)
    assert measure.streaks.within_deg < 3
    assert measure.streaks.median_mm == pytest.approx(2 * 79, rel=0.1)
    assert len(measure.streaks.sources) == 12


def test_streaks_start_at_their_upper_ends():
    core, share = lines(0)
    sources = measure_class("streaks", find_marks(core, share, 1.0), share).streaks.sources
    assert sorted(round(y / 10) for _x, y in sources) == [5] * 6 + [24] * 6


@pytest.mark.parametrize("seed", range(6))
def test_what_lies_every_way_has_no_direction(seed):
    rng, canvas = np.random.default_rng(seed), np.zeros((400, 600), np.uint8)
    for number in range(24):
        place = (40 + 70 * (number % 8), 70 + 120 * (number // 8))
        cv2.ellipse(canvas, place, (20, 7), rng.uniform(0, 180), 0, 360, 255, -1)
    share = (canvas > 0).astype(np.float32)
    assert measure_class("chips", find_marks(canvas > 0, share, 1.0), share).direction_deg is None


def test_a_few_long_marks_are_chance():
    core, share = lines(20, count=3)
    assert measure_class("streaks", find_marks(core, share, 1.0), share).direction_deg is None


def test_edge_share_counts_five_per_cent_of_the_shorter_side():
    share = np.zeros((100, 200), np.float32)
    share[:5, :] = 1
    share[50:55, 50:150] = 1
    measure = measure_class("rust", find_marks(share > 0, share, 1.0), share)
    assert measure.edge_share == pytest.approx(1000 / 1500, abs=0.01)
    assert measure.by_height == pytest.approx((0.25, 0, 0.125, 0, 0))
    drawn = measure_class("rust", find_marks(share > 0, share, 1.0), share, edges=[((0, 52), (199, 52))])
    assert drawn.edge_share == pytest.approx(500 / 1500, abs=0.01)


def test_sizes_take_whole_marks_of_twenty_pixels():
    share = np.zeros((100, 200), np.float32)
    share[:6, 10:20] = 1  # cut by the border
    share[40:44, 40:44] = 1  # too small
    share[60:66, 60:70] = 1
    measure = measure_class("rust", find_marks(share > 0, share, 2.0), share)
    assert measure.count == 1
    assert measure.median_mm == pytest.approx(2 * np.sqrt(4 * 60 / np.pi))
    assert measure.coverage_percent == pytest.approx(100 * share.mean())


def test_above_half_the_sizes_are_those_of_the_ground_that_is_left():
    share = np.ones((100, 200), np.float32)
    share[20:30, 20:30] = share[60:70, 90:100] = 0
    measure = measure_class("rust", find_marks(share > 0.5, share, 1.0), share)
    assert measure.islands
    assert measure.count == 2
    assert measure.median_mm == pytest.approx(np.sqrt(400 / np.pi), rel=0.1)


def test_smallest_visible_mark():
    assert smallest_visible_mm(96, 300) == pytest.approx(
        8.4, abs=0.05
    )  # worked example of the definitions page


def test_marks_below_the_eye_become_a_tint(rng):
    xyz, truth = region(rng)
    found = survey(XyzLook(xyz), BASE, {"rust": RUST, "scratch": SCRATCH}, mm_per_px=0.5, scale=96)
    assert found.at_scale.visible_coverage_percent < 0.2 * sum(truth.values())
    mean = xyz.reshape(-1, 3).mean(axis=0)
    from lean_sepia.colour.lab import lab_from_xyz

    assert np.allclose(found.at_scale.tint_lab_shift, lab_from_xyz(mean) - BASE, atol=0.4)
    large = survey(XyzLook(xyz), BASE, {"rust": RUST, "scratch": SCRATCH}, mm_per_px=20, scale=96)
    # The share takes faint rims too, what is visible is whole marks.
    assert large.at_scale.visible_coverage_percent == pytest.approx(large.coverage_percent, rel=0.02)


@pytest.mark.parametrize(
    ("share", "ri", "astm"),
    [
        (0, "Ri 0", 10),
        (0.05, "Ri 1", 8),
        (0.5, "Ri 2", 6),
        (1.0, "Ri 3", 6),
        (1.01, "Ri 4", 5),
        (8, "Ri 4", 4),
        (60, "Ri 5", 0),
    ],
)
def test_grades_are_the_first_limit_not_exceeded(share, ri, astm):
    """Limits of ISO 4628-3 and ASTM D610, from memory."""
    assert (grade(share).iso_4628_3, grade(share).astm_d610) == (ri, astm)


def test_rust_is_known_by_its_name():
    assert is_rust("Rust-old")
    assert not is_rust("scratch")


@pytest.mark.parametrize("wrong", [{"mm_per_px": 0}, {"scale": -1}, {"distance_mm": float("nan")}])
def test_sizes_must_be_positive(rng, wrong):
    xyz, _ = region(rng, size=(40, 40))
    with pytest.raises(BadInputError, match="greater than 0"):
        survey(XyzLook(xyz), BASE, {}, **{"mm_per_px": 1, "scale": 96, **wrong})
