"""The worlds that corrections are weighed from, and what kinds of picture make of them."""

import numpy as np
import pytest
from scripts.make_worlds import EACH, make_world, training_surfaces
from scripts.simulated_cameras import true_labs
from scripts.simulated_worlds import Stage

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.even import even_from_lab, lab_from_even
from lean_sepia.document.model import Photo
from lean_sepia.photo.correction.kinds import range_scale, worlds_of
from lean_sepia.photo.correction.worlds import RENDERINGS, all_worlds
from lean_sepia.photo.stated.picture_kind import KIND_WORDS, PICTURE_KINDS


def test_even_coordinates_take_equal_steps_and_go_back(rng):
    labs = np.column_stack([rng.uniform(5, 98, 500), rng.uniform(-80, 80, (500, 2))])
    assert np.allclose(lab_from_even(even_from_lab(labs)), labs, atol=1e-6)
    strong, grey = np.array([[50.0, 70, 20], [50, 72, 20]]), np.array([[50.0, 0, 0], [50, 2, 0]])
    for pair in (strong, grey):
        step = np.linalg.norm(np.diff(even_from_lab(pair), axis=0))
        assert step == pytest.approx(float(delta_e00(pair[0], pair[1])), rel=0.45)
    assert np.linalg.norm(np.diff(even_from_lab(strong), axis=0)) < 0.6


@pytest.fixture(scope="module")
def stage():
    """What worlds are drawn from, the surfaces they are fitted to, and the true L*a*b* of these."""
    surfaces = training_surfaces()
    return Stage.usual(), surfaces, true_labs(surfaces)


@pytest.mark.parametrize("rendering", RENDERINGS)
def test_a_world_that_ships_is_the_one_its_seed_makes(rendering, stage):
    every = all_worlds()
    first = int(np.flatnonzero(every.rendering == RENDERINGS.index(rendering))[0])
    curves, mixing, left, light = make_world(rendering, 0, *stage)
    assert np.allclose(every.curves[..., first], curves, atol=2e-3)
    assert np.allclose(every.mixing[..., first], mixing, rtol=2e-3, atol=0.1)
    assert np.allclose(every.left[..., first], left, rtol=5e-3)
    assert every.light[first] == light


def test_greys_come_out_grey_in_every_world():
    worlds = all_worlds().chosen(np.arange(0, len(all_worlds()), 40))
    for lightness in (20.0, 50.0, 85.0):
        roots = worlds.roots_that_give(np.array([lightness, 0, 0]))
        assert np.allclose(worlds.lab(roots[:, None])[0], [lightness, 0, 0], atol=1e-2)


def test_roots_are_found_for_colours_that_a_world_can_show(rng):
    worlds = all_worlds().chosen(rng.choice(len(all_worlds()), 200, replace=False))
    wanted = np.array([50.0, 25.0, 18.0])
    found = worlds.lab(worlds.roots_that_give(wanted)[:, None])[0]
    assert np.quantile(delta_e00(found, wanted), 0.9) < 0.5


def test_kinds_draw_on_worlds_of_their_own():
    assert set(KIND_WORDS) == set(PICTURE_KINDS)
    unknown, met = worlds_of("unknown")
    assert len(unknown) == sum(EACH.values())
    assert np.isfinite(met).all()
    for kind in PICTURE_KINDS[:-1]:
        assert len(worlds_of(kind)[0]) < len(unknown) / 2
        scales = [range_scale(kind, count) for count in range(25)]
        assert 0.4 < min(scales) <= max(scales) < 2
    assert Photo.model_fields["kind"].default == "unknown"
