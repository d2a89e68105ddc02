"""Washes that suit a ground, and palettes of oil dots."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ShelfError
from lean_sepia.paint.stack import Coating, Opaque, Stack
from lean_sepia.recipe.tints.dots import choose_dots, of_counts, trail_film
from lean_sepia.recipe.tints.glaze import Ground
from lean_sepia.recipe.tints.wash import FLOWS, choose_washes, wanted_in_seams

RED, YELLOW, TEAL, BLACK = (38.0, 34.0, 24.0), (76.0, 8.0, 52.0), (45.0, -16.0, -6.0), (17.0, 0.0, 0.0)


@pytest.fixture
def oils(shelf_paints):
    return [paint for paint in shelf_paints if paint.medium == "oil" and paint.mixes]


def test_a_wash_is_darker_on_red_than_on_yellow_and_never_black():
    """Dark brown on yellow, a darker one on red (common practice)."""
    red, yellow = (wanted_in_seams(np.array(lab)) for lab in (RED, YELLOW))
    assert red[0] < yellow[0]
    assert red[0] / RED[0] < yellow[0] / YELLOW[0]
    assert min(red[0], wanted_in_seams(np.array(BLACK))[0]) >= 14


@pytest.mark.parametrize("lab", [RED, YELLOW, TEAL])
def test_the_chosen_wash_stands_out_and_does_not_deaden(oils, lab):
    found = choose_washes(oils, Ground.of_lab(lab), lab)
    best = found[0]
    assert not best.black
    assert best.contrast > 6
    assert best.seam[0] < lab[0]
    assert float(delta_e00(best.veil, lab)) < best.contrast
    ground = Stack().lay(Coating("film", Opaque.of_lab(lab)))
    if best.second is None:
        paint = next(p for p in oils if p.id == best.paint)
        laid = ground.coat_lab(Coating("tint", paint, 5 / 11))
        assert laid == pytest.approx(best.seam, abs=1e-6)


def test_flow_follows_the_sheen():
    assert FLOWS["flat"].stains
    assert not FLOWS["gloss"].stains
    assert set(FLOWS) == {"flat", "satin", "gloss", "metallic"}


@pytest.mark.parametrize("oils_wanted", [3, 4, 5, 6])
def test_a_palette_comes_near_its_goal_with_light_and_dark(oils, oils_wanted):
    ground = Ground.of_lab(TEAL)
    goal = np.array(TEAL) + np.array([2.0, 3.0, 3.0])
    found = choose_dots(oils, ground, TEAL, goal, oils=oils_wanted)
    assert len({oil.paint for oil in found.oils}) == oils_wanted
    assert found.de00 == pytest.approx(float(delta_e00(found.mean, goal)))
    assert found.de00 < float(delta_e00(TEAL, goal))
    labs = {oil.role: oil.lab for oil in found.oils}
    assert labs["light"][0] > TEAL[0] > labs["dark"][0]


def test_opposite_hues_are_opposite(oils):
    ground = Ground.of_lab(TEAL)
    related, opposite = (choose_dots(oils, ground, TEAL, None, opposite=way) for way in (False, True))
    assert related.oils[2].paint != opposite.oils[2].paint
    assert opposite.oils[2].role == "opposite"


def test_the_mean_of_dots_is_what_a_stack_of_them_shows(oils):
    ground = Stack().lay(Coating("film", Opaque.of_lab(TEAL)))
    palette = of_counts(oils[:4], [6, 3, 9, 2], Ground.of_lab(TEAL))
    stack = ground
    for oil, paint in zip(palette.oils, oils[:4], strict=True):
        stack = stack.lay(Coating("spots", paint, trail_film(), oil.area_share))
    assert palette.mean == pytest.approx(stack.seen(), abs=0.01)


def test_fewer_dots_of_stronger_oils_stray_more(oils):
    umber = [paint for paint in oils if paint.id == "oil-burnt-umber"]
    ground = Ground.of_lab((84.0, 1.0, 20.0))
    few, many = (of_counts(umber, [n], ground) for n in (3, 14))
    calm = of_counts(umber, [0], ground)
    assert calm.spread_de00 == pytest.approx(0, abs=1e-9)
    assert 0 < few.spread_de00 < many.spread_de00 * 1.5


def test_what_is_no_palette(oils):
    with pytest.raises(ShelfError, match="at least 3"):
        choose_dots(oils[:2], Ground.of_lab(TEAL), TEAL, None)
    for count in (2, 7):
        with pytest.raises(ShelfError, match="3 to 6 oils"):
            choose_dots(oils, Ground.of_lab(TEAL), TEAL, None, oils=count)
