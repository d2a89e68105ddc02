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
    assert stack.lay(Coating("varnish", None, 0.0)).patches == stack.patches
    flat, gloss = stack.seen("flat"), stack.seen("gloss")
    assert gloss[0] < flat[0]
    assert stack.lab("gloss") == pytest.approx(gloss)


def test_what_lies_under_a_resist_stays_as_it_was():
    stack = laid((GREEN, "film", 1.0)).lay(Coating("resist", share=0.2))
    stack = stack.lay(Coating("film", Opaque.of_lab(SAND), share=1.0)).lay(
        Coating("spots", Opaque.of_lab(RUST), share=0.1)
    )
    assert xyz(stack.seen(None)) == pytest.approx(
        0.2 * xyz(GREEN) + 0.8 * (0.9 * xyz(SAND) + 0.1 * xyz(RUST)), abs=2e-3
    )
    assert stack.lab(None) == pytest.approx(SAND, abs=0.05)
    rubbed = stack.lay(Coating("unresist"))
    assert rubbed.seen(None) == pytest.approx(stack.seen(None))
    over_all = rubbed.lay(Coating("film", Opaque.of_lab(RUST)))
    assert over_all.seen(None) == pytest.approx(RUST, abs=0.05)


def test_a_resist_over_all_keeps_everything_off():
    stack = (
        laid((GREEN, "film", 1.0)).lay(Coating("resist", share=1.0)).lay(Coating("film", Opaque.of_lab(SAND)))
    )
    assert stack.seen(None) == pytest.approx(GREEN, abs=0.05)


@pytest.mark.parametrize(("powder", "kept"), [((75.0, 3.0, 12.0), 0.5), ((40.0, 3.0, 6.0), 0.8)])
def test_the_first_varnish_takes_a_part_of_loose_powder_once(powder, kept):
    """Common practice: dark pigment keeps eight tenths, pale one half."""
    stack = laid((GREEN, "film", 1.0), (powder, "loose", 0.4))
    assert xyz(stack.seen(None)) == pytest.approx(0.6 * xyz(GREEN) + 0.4 * xyz(powder), abs=2e-3)
    once = stack.lay(Coating("varnish"))
    expected = (1 - 0.4 * kept) * xyz(GREEN) + 0.4 * kept * xyz(powder)
    assert xyz(once.seen(None)) == pytest.approx(expected, abs=2e-3)
    assert once.lay(Coating("varnish")).seen(None) == pytest.approx(once.seen(None))


def test_a_found_finish_with_a_little_rust_stays_itself():
    stack = laid((GREEN, "film", 1.0), (RUST, "spots", 0.02))
    assert stack.main.share == pytest.approx(0.98)
    assert stack.lab(None) == pytest.approx(GREEN, abs=0.05)
