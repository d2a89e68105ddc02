"""Coats one on another: shares of the area, what a tint keeps, and what the eye sees of it all."""

import numpy as np
import pytest

from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.paint.stack import Coating, Opaque, Stack

GREEN, SAND, RUST = (40.0, -20.0, 5.0), (70.0, 5.0, 25.0), (35.0, 20.0, 20.0)


def laid(*coats):
    """A stack of opaque coats (colour, how they cover, share of the area), bottom first."""
    stack = Stack()
    for lab, covers, share in coats:
        stack = stack.lay(Coating(covers, Opaque.of_lab(lab, "flat"), 1.0, share))
    return stack


def xyz(lab):
    return xyz_from_lab(np.array(lab))


def test_nothing_laid_is_nothing_seen():
    assert Stack().seen(None) is None
    assert Stack().main is None


@pytest.mark.parametrize("share", [0.1, 0.4, 0.9])
def test_a_film_on_part_of_the_area_leaves_the_rest(share):
    stack = laid((GREEN, "film", 1.0), (SAND, "film", share))
    assert sum(patch.share for patch in stack.patches) == pytest.approx(1.0)
    expected = share * xyz(SAND) + (1 - share) * xyz(GREEN)
    assert xyz(stack.seen(None)) == pytest.approx(expected, abs=2e-3)
    twice = stack.lay(Coating("film", Opaque.of_lab(RUST, "flat"), 1.0, 0.5))
    assert sum(patch.share for patch in twice.patches) == pytest.approx(1.0)
    assert xyz(twice.seen(None)) == pytest.approx(0.5 * xyz(RUST) + 0.5 * expected, abs=2e-3)


def test_spots_lie_on_the_largest_patch_and_take_their_share_of_all():
    stack = laid((GREEN, "film", 1.0), (SAND, "film", 0.3), (RUST, "spots", 0.1))
    assert stack.main.share == pytest.approx(0.63)
    expected = 0.9 * (0.7 * xyz(GREEN) + 0.3 * xyz(SAND)) + 0.1 * xyz(RUST)
    assert xyz(stack.seen(None)) == pytest.approx(expected, abs=2e-3)


def test_a_film_over_all_leaves_nothing_of_what_was_there():
    stack = laid((GREEN, "film", 1.0), (RUST, "spots", 0.2), (SAND, "film", 1.0))
    assert stack.seen(None) == pytest.approx(SAND, abs=0.05)


def test_a_varnish_adds_no_colour_of_its_own():
    stack = laid((GREEN, "film", 1.0))
    assert stack.lay(Coating("varnish", None, 0.0)) == stack
    flat, gloss = stack.seen("flat"), stack.seen("gloss")
    assert gloss[0] < flat[0]
    assert stack.lab("gloss") == pytest.approx(gloss)
