"""Figures, days and plurals as they are said."""

from datetime import datetime

import pytest

from lean_sepia.language import clock, day, day_and_time, ngettext, plain, signed, weekday, weekday_and_time

MOMENT = datetime(2031, 3, 3, 9, 5)


@pytest.mark.parametrize(
    ("value", "decimals", "said"),
    [
        (2.4, 0, "+2"),
        (-2.6, 0, "−3"),
        (0.2, 0, "0"),
        (-0.2, 0, "0"),
        (-0.04, 1, "0.0"),
        (1.26, 1, "+1.3"),
        (-1.26, 1, "−1.3"),
    ],
)
def test_signs_are_true_and_nothing_has_none(value, decimals, said):
    assert signed(value, decimals) == said


@pytest.mark.parametrize(
    ("value", "decimals", "said"), [(-0.3, 0, "0"), (-7.2, 0, "−7"), (7.25, 1, "7.2"), (0.0, 1, "0.0")]
)
def test_plain_figures_have_a_true_minus(value, decimals, said):
    assert plain(value, decimals) == said


def test_days_and_hours():
    assert clock(MOMENT) == "09:05"
    assert weekday(MOMENT) == "Mon"
    assert weekday_and_time(MOMENT) == "Mon 09:05"
    assert day(MOMENT).startswith("Mon")
    assert day_and_time(MOMENT).endswith("09:05")


@pytest.mark.parametrize(("count", "said"), [(0, "0 evenings"), (1, "1 evening"), (2, "2 evenings")])
def test_plurals(count, said):
    assert ngettext("{0} evening", "{0} evenings", count).format(count) == said
