"""What a viewer shows of a picture at one place."""

import numpy as np
import pytest

from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.pyramid import build_pyramid
from lean_sepia.ui.photo.view import Place, make_view

WIDE = Place((0.0, 0.0), 1.0, 90, 60, 160, True, False)


@pytest.fixture
def pyramid():
    pixels = np.full((60, 60, 3), (90, 120, 150), dtype=np.uint8)
    pixels[20:40, 20:40] = 255
    return build_pyramid(pixels)


def test_grey_lies_round_the_picture(pyramid):
    view = make_view(pyramid, None, WIDE)
    shown = view.pixels[0]
    assert shown.shape == (60, 90, 4)
    assert (shown[:, 60:, :3] == 160).all()
    assert shown[5, 5, :3].tolist() == [150, 120, 90]  # blue, green, red
    assert view.corrected is None
    assert (view.found.width(), view.found.height()) == (90, 60)


def test_a_correction_is_shown_beside_the_picture_as_found(pyramid):
    view = make_view(pyramid, CorrectionTable(Cast()), WIDE)
    found, corrected = view.pixels
    assert np.abs(found[:, :60, :3].astype(int) - corrected[:, :60, :3]).max() <= 2
    alone = make_view(pyramid, CorrectionTable(Cast()), Place((0.0, 0.0), 1.0, 90, 60, 160, False, False))
    assert alone.found is None
    assert alone.corrected is not None


def test_stripes_lie_on_clipped_pixels_only(pyramid):
    plain = make_view(pyramid, None, WIDE).pixels[0]
    striped = make_view(pyramid, None, Place((0.0, 0.0), 1.0, 90, 60, 160, True, True)).pixels[0]
    changed = np.any(plain != striped, axis=2)
    rows, columns = np.nonzero(changed)
    assert changed.any()
    assert rows.min() >= 18
    assert rows.max() <= 41
    assert columns.min() >= 18
    assert columns.max() <= 41
    assert set(np.unique(striped[25:35, 25:35, 0])) == {0, 255}


def test_places_are_told_apart():
    assert Place((0.0, 0.0), 1.0, 90, 60, 160, True, False) == WIDE
    for change in ({"corner": (1.0, 0.0)}, {"scale": 2.0}, {"clipped": True}, {"both": False}, {"grey": 96}):
        assert Place(**{**WIDE.__dict__, **change}) != WIDE


def test_nothing_of_the_picture_in_sight_is_all_grey(pyramid):
    away = make_view(pyramid, CorrectionTable(Cast()), Place((500.0, 500.0), 1.0, 40, 30, 160, True, False))
    assert (away.pixels[0][..., :3] == 160).all()
    assert away.corrected is None
