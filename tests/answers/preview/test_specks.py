"""Specks flicked off a brush: as broad as said, as many as their share asks for, a tint where the eye cannot part them."""

import numpy as np
import pytest
from scipy.ndimage import label

from lean_sepia.answers.coats.showing import shown_as
from lean_sepia.answers.preview.texture import Frame, field_of
from lean_sepia.document.model import Coat

FRAME = Frame(600, 600, 20.0)  # 30 mm across


def specks(share, mm):
    return Coat(
        id="c1",
        zone="z1",
        step="s1",
        kind="chips",
        tool="flick",
        lab=(80.0, 0.0, 10.0),
        area_share=share,
        speck_mm=mm,
    )


def breadths(coat):
    """Equivalent diameters of the marks of a share, in mm."""
    field = field_of(FRAME, coat)
    lies = field <= np.quantile(field, coat.area_share)
    marks, _count = label(lies)
    areas = np.bincount(marks.ravel())[1:] / FRAME.px_per_mm**2
    return np.sqrt(4 * areas[areas > 0.01] / np.pi)


def test_specks_said_twice_as_broad_are_twice_as_broad_and_a_quarter_as_many():
    small, large = breadths(specks(0.03, 0.4)), breadths(specks(0.03, 0.8))
    assert np.median(large) / np.median(small) == pytest.approx(2, rel=0.25)
    assert len(small) / len(large) == pytest.approx(4, rel=0.35)


@pytest.mark.parametrize("mm", [0.4, 0.8, 1.5])
def test_they_are_about_as_broad_as_was_said(mm):
    assert np.mean(breadths(specks(0.04, mm))) == pytest.approx(mm, rel=0.4)


def test_what_the_eye_cannot_part_is_seen_as_a_tint():
    """One arc-minute at 300 mm is 0.087 mm."""
    assert shown_as(specks(0.03, 0.08)) == "soft"
    assert shown_as(specks(0.03, 0.10)) == "mark"
