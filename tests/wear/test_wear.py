"""Wear measured on drawn regions whose coverage, sizes and directions are known."""

import cv2
import numpy as np
import pytest

from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.errors import BadInputError
from lean_sepia.wear.grade import grade, is_rust
from lean_sepia.wear.measure import find_marks, measure_class
from lean_sepia.wear.scale import smallest_visible_mm
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
    found = survey(xyz, BASE, {"rust": RUST, "scratch": SCRATCH}, mm_per_px=4, scale=96)
    for measure in found.classes:
        assert measure.coverage_percent == pytest.approx(truth[measure.name], rel=tolerance)


def test_unnamed_wear_is_everything_unlike_the_base(rng):
    xyz, truth = region(rng)
    found = survey(xyz, BASE, {}, mm_per_px=4, scale=96)
    assert found.classes[0].name == "worn"
    assert found.coverage_percent == pytest.approx(sum(truth.values()), rel=0.15)
    assert found.grade.iso_4628_3 == "Ri 0"  # nothing was named rust


def test_a_clean_region_has_no_wear(rng):
    clean = np.broadcast_to(xyz_from_lab(BASE), (80, 90, 3)) * (1 + rng.normal(0, 0.01, (80, 90, 3)))
    found = survey(clean, BASE, {"rust": RUST}, mm_per_px=4, scale=96)
    assert found.coverage_percent < 0.05
    assert found.classes[0].direction_deg is None
    assert found.at_scale.tint_lab_shift == (0.0, 0.0, 0.0)


def test_sizes_are_equivalent_diameters():
    mask = np.zeros((60, 60), bool)
    mask[10:20, 10:20] = True
    marks = find_marks(mask, mask.astype(float), 2.0)
    assert marks.diameter_mm[0] == pytest.approx(2 * np.sqrt(4 * 100 / np.pi))


@pytest.mark.parametrize("angle", [0, 30, -40, 90])
def test_directions_are_from_straight_down_positive_to_the_right(angle):
    canvas = np.zeros((200, 200), np.uint8)
    dx, dy = np.sin(np.radians(angle)) * 70, np.cos(np.radians(angle)) * 70
    cv2.line(canvas, (round(100 - dx), round(100 - dy)), (round(100 + dx), round(100 + dy)), 255, 9)
    measure = measure_class("streaks", find_marks(canvas > 0, (canvas > 0).astype(float), 1.0))
    assert measure.direction_deg == pytest.approx(angle, abs=1.5)


def test_edge_share_counts_five_per_cent_of_the_shorter_side():
    mask = np.zeros((100, 200), bool)
    mask[:5, :] = True
    mask[50:55, 50:150] = True
    measure = measure_class("rust", find_marks(mask, mask.astype(float), 1.0))
    assert measure.edge_share == pytest.approx(1000 / 1500, abs=0.01)


def test_smallest_visible_mark():
    assert smallest_visible_mm(96, 300) == pytest.approx(
        8.4, abs=0.05
    )  # worked example of the definitions page


def test_marks_below_the_eye_become_a_tint(rng):
    xyz, truth = region(rng)
    found = survey(xyz, BASE, {"rust": RUST, "scratch": SCRATCH}, mm_per_px=0.5, scale=96)
    assert found.at_scale.visible_coverage_percent < 0.2 * sum(truth.values())
    mean = xyz.reshape(-1, 3).mean(axis=0)
    from lean_sepia.colour.lab import lab_from_xyz

    assert np.allclose(found.at_scale.tint_lab_shift, lab_from_xyz(mean) - BASE, atol=0.4)
    large = survey(xyz, BASE, {"rust": RUST, "scratch": SCRATCH}, mm_per_px=20, scale=96)
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
        survey(xyz, BASE, {}, **{"mm_per_px": 1, "scale": 96, **wrong})
