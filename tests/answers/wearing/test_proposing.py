"""Kinds of wear proposed from a picture."""

import numpy as np
import pytest

from lean_sepia.answers.wearing.proposing import propose
from lean_sepia.answers.wearing.surveying import Ground, WearQuestion
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.colour.srgb import screen_pixels
from lean_sepia.document.model import Photo
from lean_sepia.errors import BadInputError
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.wear.marks import Statistics, draw_marks

GROUND = (45.0, -14.0, -6.0)


def picture(kinds, shape=(240, 360), seed=3):
    drawn = draw_marks(shape, [form for _lab, form in kinds], [None] * len(kinds), seed)
    xyz = np.broadcast_to(xyz_from_lab(np.array(GROUND)), (*shape, 3)).copy()
    for (lab, _form), share in zip(kinds, drawn, strict=True):
        xyz += share[..., None] * (xyz_from_lab(np.array(lab)) - xyz)
    noise = np.random.default_rng(seed).normal(0, 2.0, (*shape, 3))
    return np.clip(screen_pixels(xyz) + noise, 0, 255).astype(np.uint8)


def asked(pixels, corners=None):
    height, width = pixels.shape[:2]
    photo = Photo(id="f", sha256="0" * 64, name="a", title="a", width=width, height=height)
    whole = ((0, 0), (width, 0), (width, height), (0, height))
    return WearQuestion("z", photo, "w", corners or whole, Ground(GROUND), (), None, 72.0)


def test_kinds_are_found_named_and_shown():
    kinds = [
        ((34, 17, 16), Statistics(0.03, 9.0)),
        ((84, 2, 10), Statistics(0.02, 8.0)),
        ((40, 20, 26), Statistics(0.02, 10.0, longer=8, direction_deg=0.0)),
    ]
    pixels = picture(kinds[:2])
    found = propose(asked(pixels), pixels, fit_cast(pixels, []))
    assert {one.name for one in found} == {"rust", "scratch"}
    for lab, name in (((34, 17, 16), "rust"), ((84, 2, 10), "scratch")):
        one = next(one for one in found if one.name == name)
        assert float(delta_e00(np.array(one.lab), np.array(lab))) < 6
        assert 0 <= one.spot[0] <= 360
    pixels = picture(kinds[2:])
    (streaks,) = propose(asked(pixels), pixels, fit_cast(pixels, []))
    assert streaks.name == "streaks"


def test_a_sound_part_has_none():
    pixels = picture([])
    assert propose(asked(pixels), pixels, fit_cast(pixels, [])) == ()


def test_a_tiny_part_is_refused():
    pixels = picture([])
    with pytest.raises(BadInputError, match="too small"):
        propose(asked(pixels, ((0, 0), (4, 0), (4, 4))), pixels, fit_cast(pixels, []))
