import numpy as np
import pytest

from lean_sepia.photo.correction.cast_model import PARAMETERS, corrected_lab, lab_and_slopes


@pytest.mark.parametrize("shape", [(3,), (4, 3), (2, 3, 3)])
def test_slopes_in_the_parameters_are_differences(shape):
    rng = np.random.default_rng(3)
    cones, theta = rng.uniform(0.02, 0.9, shape), rng.normal(0, 0.1, (2, PARAMETERS))
    labs, slopes = lab_and_slopes(cones, theta)
    assert labs == pytest.approx(corrected_lab(cones, theta))
    assert slopes.shape == (2, *shape, PARAMETERS)
    for parameter in range(PARAMETERS):
        step = 1e-6 * np.eye(PARAMETERS)[parameter]
        difference = (corrected_lab(cones, theta + step) - corrected_lab(cones, theta - step)) / 2e-6
        assert slopes[..., parameter] == pytest.approx(difference, rel=1e-5, abs=1e-5)


def test_no_parameters_leave_a_colour_as_it_is():
    grey = corrected_lab(np.full(3, 0.2), np.zeros((1, PARAMETERS)))[0]
    assert grey[1:] == pytest.approx([0, 0], abs=0.02)
