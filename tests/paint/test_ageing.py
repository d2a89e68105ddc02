"""What ages a paint, and reading it off a pair of colours."""

import numpy as np
import pytest
from benchmarks.ageing import _recovered

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.ageing import CAUSES, Ageing, Pair, a_step_chalkier, explain

TEAL, RED = (45.0, -18.0, -6.0), (38.0, 34.0, 22.0)


@pytest.mark.parametrize(
    ("cause", "lighter", "yellower"),
    [("chalk", True, None), ("bleach", True, None), ("yellow", False, True), ("dirt", None, True)],
)
def test_each_cause_does_what_it_is_called(cause, lighter, yellower):
    lab = Ageing(**{cause: 0.3}).lab(TEAL)
    if lighter is not None:
        assert (lab[0] > TEAL[0]) == lighter
    if yellower is not None:
        assert (lab[2] > TEAL[2]) == yellower


def test_nothing_ages_by_nothing():
    assert Ageing().lab(RED) == pytest.approx(RED, abs=0.05)


def test_chalk_greys_and_bleach_keeps_more_of_the_hue():
    """White scatter lies on all bands alike; bleaching lifts those that absorb."""
    chalked, bleached = Ageing(chalk=0.08).lab(RED), Ageing(bleach=0.5).lab(RED)
    assert chalked[0] > RED[0]
    assert bleached[0] > RED[0]
    assert np.hypot(*chalked[1:]) < np.hypot(*bleached[1:])


@pytest.mark.parametrize("cause", list(CAUSES))
def test_one_cause_without_noise_is_found_with_its_share(cause):
    exposed = Ageing(**{cause: 0.3}).lab(TEAL)
    found = explain([Pair(TEAL, exposed)])
    assert found.best.ageing.causes[0] == cause
    assert getattr(found.best.ageing, cause) == pytest.approx(0.3, abs=0.05)
    low, high = found.best.ranges90[cause]
    assert low <= 0.31
    assert high >= 0.29


def test_two_pairs_tell_more_than_one():
    truth = Ageing(chalk=0.1, dirt=0.3)
    pairs = [Pair(lab, truth.lab(lab)) for lab in (TEAL, RED, (80.0, 2.0, 20.0))]
    found = explain(pairs)
    assert set(found.best.ageing.causes) == {"chalk", "dirt"}
    assert found.best.ageing.chalk == pytest.approx(0.1, abs=0.03)
    assert found.best.ageing.dirt == pytest.approx(0.3, abs=0.05)


def test_equal_samples_and_a_darker_one_are_called_odd():
    assert explain([Pair(TEAL, (45.2, -18.1, -6.0))]).odd == "equal"
    assert explain([Pair(TEAL, (38.0, -16.0, -4.0))]).odd == "darker"
    assert explain([Pair(TEAL, Ageing(bleach=0.4).lab(TEAL))]).odd == ""


def test_a_grey_leaves_open_whether_it_chalked_or_bleached():
    grey = (50.0, 0.0, 0.0)
    found = explain([Pair(grey, Ageing(chalk=0.1).lab(grey))])
    assert not found.sure
    assert found.rival is not None


def test_a_step_chalkier_is_a_little_lighter_and_greyer():
    lab = a_step_chalkier(RED)
    assert 1 < lab[0] - RED[0] < 12
    assert np.hypot(*lab[1:]) < np.hypot(*RED[1:])
    assert float(delta_e00(lab, RED)) > 1


def test_pairs_never_seen_are_recovered():
    """Ninety of a hundred in the mean (benchmark); a hundred others here."""
    near, carried = _recovered(np.random.default_rng(99), coloured=True, known=True)
    assert near >= 84
    assert carried >= 88
