"""Where a hue goes, and whether a red turns pink."""

import numpy as np
import pytest

from lean_sepia.recipe.fades.turn import is_red, turn_of


def lch(L, C, h):
    return (L, C * np.cos(np.radians(h)), C * np.sin(np.radians(h)))


@pytest.mark.parametrize(
    ("hue", "by", "towards", "pink"),
    [
        (30, -14, "magenta", True), (30, 14, "orange", False), (30, -4, "magenta", False), (200, 20, "blue", False),
        (90, 30, "green", False), (355, 20, "red", False),
    ],
)  # fmt: skip
def test_a_turn_names_the_hue_it_goes_towards(hue, by, towards, pink):
    turn = turn_of(lch(50, 30, hue + by), lch(45, 30, hue))
    assert turn.degrees == pytest.approx(by)
    assert (turn.towards, turn.pink) == (towards, pink)
    assert turn.kept == (abs(by) <= 6)


def test_greys_have_no_hue_to_turn():
    turn = turn_of(lch(60, 3, 20), lch(50, 30, 20))
    assert turn.degrees is None
    assert turn.kept
    assert not turn.pink


def test_only_reds_turn_pink():
    assert is_red(lch(40, 30, 25))
    assert not is_red(lch(40, 30, 95))
    assert not is_red(lch(40, 4, 25))
