"""Corrections of simulated camera photos: sensors and surfaces that tuning never saw."""

import numpy as np
import pytest
from scripts.simulated_cameras import (
    anchored,
    chart_24,
    held_out_reflectances,
    light,
    measured_sensors,
    shoot,
    true_labs,
)

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.srgb import linear_from_srgb, srgb_from_linear
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.sample import sample_disc


def test_casts_come_out_under_lamps_and_tubes(rng):
    """A coarse version of the benchmark: every twentieth surface, three lights."""
    surfaces = held_out_reflectances()[::6]
    (sensor,) = measured_sensors(5)
    errors = {1: [], 2: [], 6: []}
    for name in ("D50", "A", "FL11"):
        for count, pixels, cast, discs in anchored(sensor, light(name), surfaces, rng):
            errors[count] += [float(delta_e00(cast_lab, truth)) for cast_lab, truth in (
                (sample_disc(pixels, cast, *disc).lab, truth) for disc, truth in discs
            )]  # fmt: skip
    assert np.mean(errors[1]) < 2.6
    assert np.mean(errors[6]) < 2.1
    assert np.mean(errors[6]) < np.mean(errors[1])


def _chart(rng, light_name="D65"):
    (sensor,) = measured_sensors(5)
    shot = shoot(sensor, light(light_name), chart_24(), rng)
    return shot, [
        Anchor(*disc, *map(float, lab)) for disc, lab in zip(shot.discs, true_labs(chart_24()), strict=True)
    ]


def test_a_wrongly_stated_anchor_is_named(rng):
    shot, anchors = _chart(rng)
    good = [anchors[i] for i in (18, 20, 22, 13, 15)]
    assert fit_cast(shot.pixels, good).warnings == ()
    wrong = Anchor(anchors[14].x, anchors[14].y, anchors[14].radius, 70, 10, 60)
    (said,) = [words for words in fit_cast(shot.pixels, [*good, wrong]).warnings if "missed by" in words]
    assert said.startswith("anchor 6 ")


def test_a_grey_in_the_shade_is_told_from_one_in_another_light(rng):
    shot, anchors = _chart(rng)
    known = [anchors[i] for i in (18, 20, 22, 14, 15)]
    x, y, r = shot.discs[21]
    box = (slice(round(y - r - 1), round(y + r + 2)), slice(round(x - r - 1), round(x + r + 2)))
    shaded, lamp = shot.pixels.copy(), shot.pixels.copy()
    shaded[box] = shaded[box] * np.array([0.60, 0.63, 0.67])
    lamp[box] = lamp[box] * np.array([1.15, 0.95, 0.6])
    for pixels, words in ((shaded, "in the shade"), (lamp, "another light")):
        said = " ".join(fit_cast(pixels, [*known, anchors[21]]).warnings)
        assert "anchor 6" in said
        assert words in said


def test_two_anchors_that_contradict_each_other_are_told(rng):
    shot, anchors = _chart(rng)
    flipped = Anchor(anchors[20].x, anchors[20].y, anchors[20].radius, 60, 0, 45)
    assert "contradict" in fit_cast(shot.pixels, [anchors[19], flipped]).warnings[0]


@pytest.mark.parametrize("name", ["D65", "A"])
@pytest.mark.parametrize("flare", [0.0, 0.01, 0.03])
def test_a_grey_and_a_black_do_not_contradict_each_other(rng, name, flare):
    """What a black alone would make of a grey is no measure of either; light astray in the lens lifts blacks."""
    shot, anchors = _chart(rng, name)
    linear = linear_from_srgb(shot.pixels / 255.0)
    lifted = linear + flare * linear.mean(axis=(0, 1))
    pixels = np.clip(255 * srgb_from_linear(lifted), 0, 255).round().astype(np.uint8)
    for grey, dark in ((21, 23), (19, 22), (18, 23)):
        cast = fit_cast(pixels, [anchors[grey], anchors[dark]])
        assert not [words for words in cast.warnings if "contradict" in words]
        assert (cast.anchor_error_de00 or 0) < 7


def test_the_kind_of_light_is_recognised_with_a_chart(rng):
    for name, family in (("D65", "daylight"), ("A", "incandescent light")):
        shot, anchors = _chart(rng, name)
        fine = [a for a, bad in zip(anchors, shot.clipped, strict=True) if not bad]
        cast = fit_cast(shot.pixels, fine, "developed")
        assert cast.light == family
        assert cast.anchor_error_de00 < 3.5
        assert f"{len(fine)} anchors" in cast.model


def test_a_misfit_that_does_not_help_is_left_out(rng):
    """Anchors of random stated colours share nothing that could be spread."""
    shot, anchors = _chart(rng)
    noisy = [
        Anchor(a.x, a.y, a.radius, float(np.clip(a.lightness + d[0], 1, 99)), a.a + d[1], a.b + d[2])
        for a, d in zip(anchors[18:22] + anchors[:4], rng.normal(0, 9, (8, 3)), strict=True)
    ]
    cast = fit_cast(shot.pixels, noisy)
    assert np.isfinite(cast.lab(np.full((2, 2, 3), 0.2))).all()
    assert cast.anchor_error_de00 > 4
