"""What a varnish leaves of powder, learnt back from swatches whose truth is known."""

import pytest

from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.errors import ColourError
from lean_sepia.paint.handling.keep import learnt_keep

GROUND, POWDER = (40.0, -10.0, 5.0), (70.0, 4.0, 16.0)


def swatch(share, ground=GROUND):
    return tuple(lab_from_xyz((1 - share) * xyz_from_lab(ground) + share * xyz_from_lab(POWDER)))


@pytest.mark.parametrize("kept", [0.0, 0.3, 0.5, 0.8, 1.0])
def test_the_share_that_was_left_is_found(kept):
    assert learnt_keep(GROUND, swatch(0.6), swatch(0.6 * kept)) == pytest.approx(kept, abs=1e-6)


def test_a_ground_that_the_varnish_deepens_is_allowed_for():
    deeper = (37.0, -11.0, 5.5)
    found = learnt_keep(GROUND, swatch(0.5), swatch(0.25, deeper), deeper)
    assert found == pytest.approx(0.5, abs=0.08)
    assert learnt_keep(GROUND, swatch(0.5), (30.0, -12.0, 5.0)) == 0.0


def test_powder_that_hardly_showed_teaches_nothing():
    with pytest.raises(ColourError, match="hardly showed"):
        learnt_keep(GROUND, (40.1, -10.0, 5.0), GROUND)
