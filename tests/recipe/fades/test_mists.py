"""A fade as it is sprayed: mists, the stop mark, a clear medium, one lightener for several zones."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ShelfError
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import OPAQUE
from lean_sepia.paint.stack import Coating, Opaque, Stack
from lean_sepia.recipe.fades.fade import Goal, base_mixture
from lean_sepia.recipe.fades.mists import (
    Faded,
    Medium,
    choose_fades,
    choose_joint,
    mists_of,
    mixed_of,
    path_of,
)

RED = (38.0, 34.0, 24.0)


@pytest.fixture
def acrylics(shelf_paints):
    return [paint for paint in shelf_paints if paint.medium == "acrylic-water" and paint.mixes]


def mist_over(lab, thinner=0.85, tool="close"):
    ground = Stack().lay(Coating("film", Opaque.of_lab(lab)))
    return ground.laying(Coating("film", X=film_thickness(1, thinner, tool))), np.array(ground.lab())


def test_the_stop_mark_is_where_the_path_comes_nearest(acrylics):
    """A strong white mix passes the goal: the mists before the stop come nearer, the next one leads away."""
    mist, before = mist_over(RED)
    chalk = base_mixture(acrylics, [("boot-red", 2), ("chalk", 1)])
    goal = Goal(tuple(mists_of(mist, 3).lab(chalk)))
    path = path_of(chalk, mist, before, goal, 6)
    assert path.labs[0] == pytest.approx(tuple(before))
    steps = np.diff(path.away)
    assert np.all(steps[: path.stop] < 0)
    assert np.all(steps[path.stop :] > 0)
    assert path.stop == 3
    assert path.overshoots
    for count, lab in enumerate(path.labs[1:], start=1):
        laid = mists_of(mist, count).lab(chalk)
        assert lab == pytest.approx(tuple(laid))


def test_mists_are_solved_for_and_as_few_as_come_about_as_near(acrylics):
    mist, before = mist_over(RED)
    base = base_mixture(acrylics, [("boot-red", 1)])
    goal = Goal(tuple(before + np.array([5.0, -2.0, -2.0])))
    found = choose_fades(acrylics, base, goal, mist, before)
    for fade in found[:6]:
        fixed = {
            n: choose_fades(acrylics, base, goal, mist, before, mists=n) for n in range(1, fade.mists + 1)
        }
        by_count = {
            n: next(f.option.de00 for f in options if f.option.paint == fade.option.paint)
            for n, options in fixed.items()
        }
        assert by_count[fade.mists] == pytest.approx(fade.option.de00)
        for fewer in range(1, fade.mists):
            assert by_count[fewer] > fade.option.de00 + 0.2
    assert [f.option.de00 for f in found] == sorted(f.option.de00 for f in found)


def test_a_fade_ends_where_its_path_says(acrylics):
    mist, before = mist_over(RED)
    base = base_mixture(acrylics, [("boot-red", 3), ("sand", 1)])
    for fade in choose_fades(acrylics, base, Goal.lighter(before, 4.0), mist, before, most=2)[:8]:
        assert fade.path.labs[fade.mists] == pytest.approx(fade.option.lab, abs=1e-6)


@pytest.mark.parametrize(("share", "parts", "wanted"), [(0.5, (3, 1), (3, 1, 4)), (1 / 3, (9, 2), (18, 4, 11)), (1 / 3, (1, 1), (1, 1, 1))])  # fmt: skip
def test_a_clear_medium_is_counted_in_whole_parts(shelf_paints, share, parts, wanted):
    """Satin and off-white 1 : 1; paint and flat base 2 : 1 (common practice)."""
    clear = next(paint for paint in shelf_paints if paint.clear)
    assert Medium(clear, share).parts(*parts) == wanted


def test_a_medium_makes_the_cup_weaker_and_is_predicted_so(acrylics, shelf_paints):
    mist, before = mist_over(RED)
    base = base_mixture(acrylics, [("boot-red", 1)])
    clear = next(paint for paint in shelf_paints if paint.clear and paint.medium == "acrylic-water")
    goal = Goal.lighter(before, 8.0)
    plain, weak = (
        choose_fades(acrylics, base, goal, mist, before, mists=2, medium=medium)
        for medium in (None, Medium(clear, 0.5))
    )
    chalk = [next(f for f in found if f.option.paint == "chalk") for found in (plain, weak)]
    moved = [float(delta_e00(before, f.path.labs[1])) for f in chalk]
    share = [f.option.lightener_parts / f.option.base_parts for f in chalk]
    assert share[1] > share[0] or moved[1] < moved[0]
    medium = Medium(clear, 0.5)
    known = {paint.id: paint for paint in acrylics}
    made = mixed_of(medium.into(base), [medium.into(known["chalk"])], chalk[1].option)
    assert chalk[1].path.labs[2] == pytest.approx(tuple(mists_of(mist, 2).lab(made)))


def test_without_a_ground_there_are_no_mists(acrylics):
    base = base_mixture(acrylics, [("slate-teal", 1)])
    before = OPAQUE.lab(base)
    best = choose_fades(acrylics, base, Goal.lighter(before, 10.0), OPAQUE, before)[0]
    assert best.mists == 1
    assert best.path.labs[-1] == best.option.lab


def test_one_lightener_for_all_is_best_in_the_mean(acrylics):
    zones = []
    for lab, cup in ((RED, "boot-red"), ((50.0, -16.0, -5.0), "slate-teal")):
        mist, before = mist_over(lab)
        base = base_mixture(acrylics, [(cup, 1)])
        zones.append(Faded(base, Goal.lighter(before, 5.0), mists_of(mist, 3)))
    found = choose_joint(acrylics, zones)
    assert all(len({option.paint for option in joint.options}) == 1 for joint in found)
    for joint in found:
        away = [option.de00 for option in joint.options]
        assert joint.de00_mean == pytest.approx(np.mean(away))
        assert joint.de00_worst == max(away)
    assert [joint.de00_mean for joint in found] == sorted(joint.de00_mean for joint in found)


def test_zones_of_media_that_do_not_mix_share_no_lightener(shelf_paints, acrylics):
    oils = [paint for paint in shelf_paints if paint.medium == "oil" and paint.mixes]
    mist, before = mist_over(RED)
    goal = Goal.lighter(before, 5.0)
    zones = [Faded(paint, goal, mist) for paint in (acrylics[0], oils[0])]
    with pytest.raises(ShelfError, match="all these zones"):
        choose_joint([*acrylics, *oils], zones)
