"""Sheets of a plan in a width: the chosen one open, the others as far as there is room."""

from datetime import datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_sepia.answers.working.evening_sheets import EveningPlan, EveningSheet, SheetStep
from lean_sepia.plan.hours.evenings import Window
from lean_sepia.ui.plan.sheet_layout import Layout
from lean_sepia.ui.plan.sheet_widths import NUMBERED, OPEN, least_width, spread

MONDAY = datetime(2031, 3, 3, 19, 0)


def evening(days):
    start = MONDAY + timedelta(days=days)
    return Window(start, start + timedelta(hours=2))


def sheets(*days):
    """A sheet on each of these days, one step on each; every evening between them is free."""
    made = []
    for number, day in enumerate(days):
        before = days[number - 1] if number else day
        step = SheetStep(f"s{number}", number + 1, "Base", "", evening(day).start, evening(day).end)
        idle = tuple(evening(one) for one in range(before + 1, day))
        made.append(EveningSheet(evening(day), (step,), idle, day - before))
    return tuple(made)


def total(found):
    """How wide all of it is."""
    return found.lefts[-1] + found.widths[-1]


THREE_WEEKS = sheets(0, 1, 2, 4, 7, 8, 11, 14, 15, 18, 20)


def test_three_weeks_are_seen_at_once_and_their_empty_evenings_have_room_for_a_date():
    found = spread(THREE_WEEKS, 690, 3)
    assert total(found) <= 690
    assert found.widths[3] >= OPEN
    assert found.further >= 14


@given(st.lists(st.integers(1, 9), max_size=14), st.floats(100, 3000), st.integers(0, 14))
def test_it_fits_wherever_it_can_and_the_chosen_one_is_open(gaps, width, chosen):
    days = [sum(gaps[:i]) for i in range(len(gaps) + 1)]
    plan, chosen = sheets(*days), min(chosen, len(gaps))
    found = spread(plan, width, chosen)
    assert total(found) <= max(width, least_width(plan)) + 1e-6
    assert found.widths[chosen] >= OPEN
    for i in range(len(gaps)):
        gap = found.lefts[i + 1] - found.lefts[i] - found.widths[i]
        assert gap == pytest.approx(found.night + found.further * (gaps[i] - 1))


def test_what_there_is_room_for_is_open_the_later_neighbour_first():
    wide = spread(sheets(0, 1, 2), 3 * 320, 0)
    assert wide.widths == (wide.widths[0],) * 3
    room_for_two = 2 * OPEN + 2 * 32 + NUMBERED + 10
    widths = spread(sheets(0, 1, 2), room_for_two, 1).widths
    assert widths[0] < OPEN <= min(widths[1:])


def test_a_longer_wait_is_wider_and_each_empty_evening_lies_in_it():
    plan = EveningPlan(sheets(0, 4, 5), (), ())
    layout = Layout.of(plan, 690, 400, "s0")
    first, second, third = layout.boxes
    assert second.left() - first.right() > third.left() - second.right()
    lines = [x for _window, x in layout.idle()]
    assert len(lines) == 3
    assert first.right() < lines[0] < lines[1] < lines[2] < second.left()


def test_the_sheet_of_the_chosen_step_is_open():
    plan = EveningPlan(THREE_WEEKS, (), ())
    for name, place in (("s0", 0), ("s7", 7), ("s10", 10)):
        layout = Layout.of(plan, 690, 400, name)
        assert not layout.is_folded(place)
        assert layout.is_folded(4)
