"""Ladders of tones: even steps, falling shares, films that are laid, and what is no ladder."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ShelfError
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.paint import stirred
from lean_sepia.paint.stack import Coating, Stack
from lean_sepia.recipe.fades.fade import base_mixture
from lean_sepia.recipe.fades.tone_ladder import (
    EVEN,
    area_shares,
    darkener,
    laid_shares,
    tone_ladder,
)


@pytest.fixture
def acrylics(shelf_paints):
    return [p for p in shelf_paints if p.medium == "acrylic-water" and p.mixes and not p.clear]


@pytest.mark.parametrize("tones", [3, 4, 5, 6, 7])
@pytest.mark.parametrize("base_id", ["slate-teal", "boot-red", "harbour-blue"])
def test_steps_look_equal_and_each_is_what_is_laid(acrylics, tones, base_id):
    known = {paint.id: paint for paint in acrylics}
    base, light = known[base_id], known["bone-white"]
    dark = darkener(acrylics, base)
    ground = Stack().lay(Coating("film", base))
    ladder = tone_ladder(
        base, light, dark, tones=tones, laying=ground.laying(Coating("film")), before=ground.lab()
    )
    assert len(ladder.tones) == tones
    labs = np.array([tone.lab for tone in ladder.tones])
    steps = delta_e00(labs[:-1], labs[1:])
    assert np.all(np.abs(steps / steps.mean() - 1) <= EVEN)
    assert ladder.even
    assert np.all(np.diff(labs[:, 0]) > 0)
    shares = [tone.area_share for tone in ladder.tones]
    assert sum(shares) == pytest.approx(1)
    assert shares[1:] == sorted(shares[1:], reverse=True)  # from the base upwards
    for tone in ladder.tones:
        if tone.added is None:
            assert tone.lab == pytest.approx(ground.lab())
            continue
        parts = [tone.base_parts, tone.added_parts]
        used = [(p, n) for p, n in zip((base, known[tone.added]), parts, strict=True) if n]
        mixed = stirred("t", "t", [p for p, _n in used], [n for _p, n in used])
        X = film_thickness(tone.manner.passes, tone.manner.thinner_share, tone.manner.tool)
        assert ground.coat_lab(Coating("film", mixed, X)) == pytest.approx(tone.lab, abs=1e-6)


def test_a_lightener_too_close_to_the_base_is_said(acrylics):
    base = base_mixture(acrylics, [("bone-white", 12), ("chalk", 1)])
    light = next(paint for paint in acrylics if paint.id == "bone-white")
    with pytest.raises(ShelfError, match="too close to the base"):
        tone_ladder(base, light, None, tones=5)


@pytest.mark.parametrize("tones", [0, 1, 2, 8, 40])
def test_a_ladder_of_one_is_none(acrylics, tones):
    with pytest.raises(ShelfError, match="3 to 7 tones"):
        tone_ladder(acrylics[5], acrylics[0], None, tones=tones)


def test_a_shade_that_does_not_deaden_or_pure_black(acrylics):
    base = base_mixture(acrylics, [("slate-teal", 1)])
    assert np.hypot(*darkener(acrylics, base).masstone_lab()[1:]) > 1.5
    assert np.hypot(*darkener(acrylics, base, pure=True).masstone_lab()[1:]) <= 1.5
    assert darkener([p for p in acrylics if p.masstone_lab()[0] > 40], base) is None


def test_visible_shares_come_out_when_one_is_laid_over_the_other():
    visible = area_shares(5, 1)[1:]
    laid = laid_shares(visible)
    left = [share * np.prod([1 - later for later in laid[i + 1 :]]) for i, share in enumerate(laid)]
    assert left == pytest.approx(list(visible))
    assert max(area_shares(7, 2)) == area_shares(7, 2)[2]
