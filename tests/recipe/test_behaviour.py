"""Recipes beyond their colour, and clear media."""

from dataclasses import replace

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ShelfError
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Palette
from lean_sepia.paint.saunderson import SHEEN
from lean_sepia.paint.trust import predict
from lean_sepia.recipe.behaviour import FILM_COATS, GROUNDS, behaviour_of, sheen_by_medium
from lean_sepia.recipe.fades.fade import base_mixture, choose_lighteners
from lean_sepia.recipe.limits import Limits
from lean_sepia.recipe.mix import MixSolver
from lean_sepia.recipe.tints.glaze import Ground, choose_glazes


@pytest.fixture(scope="module")
def acrylics(shelf_paints):
    return [paint for paint in shelf_paints if paint.mixes and paint.medium == "acrylic-water"]


@pytest.fixture(scope="module")
def media(acrylics):
    return [paint for paint in acrylics if paint.clear]


def test_only_binders_are_clear(acrylics, media):
    assert {paint.id for paint in media} == {"gloss-medium", "flat-base"}
    assert not any(paint.clear for paint in acrylics if paint not in media)


def test_recipes_hold_media_only_where_they_are_asked_for(acrylics):
    target = [52, -12, 4]
    ids = {name for recipe in MixSolver(acrylics).solve(target, 60) for name, _ in recipe.parts}
    assert not ids & {"gloss-medium", "flat-base"}
    asked = MixSolver(acrylics, limits=Limits(must=frozenset({"gloss-medium"}))).solve(target, 20)
    assert all("gloss-medium" in dict(recipe.parts) for recipe in asked)
    fine = MixSolver(acrylics, max_paints=4, max_parts=14).solve(target, 60)
    assert not {name for recipe in fine for name, _ in recipe.parts} & {"gloss-medium", "flat-base"}


def test_a_medium_may_be_dropped_into_a_recipe_by_hand(acrylics):
    solver = MixSolver(acrylics)
    plain = solver.recipe([("slate-teal", 3)], [47, -19, -3])
    glossed = solver.recipe([("slate-teal", 3), ("gloss-medium", 3)], [47, -19, -3])
    assert glossed.lab[0] < plain.lab[0] - 1  # less surface reflection: deeper


def test_a_shelf_of_media_alone_is_still_answered(media):
    found = MixSolver(media).solve([50, 0, 0])
    assert found
    assert all(np.isfinite(recipe.de00) for recipe in found)


def test_media_are_no_lighteners_and_no_glazes(acrylics):
    lighteners = choose_lighteners(acrylics, base_mixture(acrylics, [("slate-teal", 1)]), [60, -15, -2])
    assert not {option.paint for option in lighteners} & {"gloss-medium", "flat-base"}
    glazes = choose_glazes(acrylics, [Ground.of_lab([50, 0, 0])], [[48, 1, 2]])
    assert not {glaze.paint for glaze in glazes} & {"gloss-medium", "flat-base"}


def test_the_medium_brings_the_mixture_to_the_sheen(acrylics, media):
    used = [paint for paint in acrylics if paint.id in ("chalk", "ochre")]
    found = sheen_by_medium(used, [2, 1], media, "satin", OPAQUE)
    assert found.medium == "Gloss medium"
    share = found.medium_parts / (found.medium_parts + found.mixture_parts)
    assert (1 - share) * SHEEN["flat"] + share * SHEEN["gloss"] == pytest.approx(SHEEN["satin"], abs=0.05)
    # What comes of it, worked out another way: the paint under a satin varnish looks the same.
    mixture = Palette.of(used).mixture(np.array([2, 1]) / 3)
    assert float(delta_e00(found.lab, Laying(varnish="satin").lab(mixture))) < 1


@pytest.mark.parametrize("finish", [None, "flat"])
def test_no_medium_is_named_where_none_is_needed(acrylics, media, finish):
    used = [paint for paint in acrylics if paint.id == "chalk"]
    assert sheen_by_medium(used, [1], media, finish, OPAQUE) is None


def test_no_medium_is_named_where_none_can(acrylics, media):
    used = [replace(paint, g=SHEEN["gloss"]) for paint in acrylics if paint.id == "chalk"]
    assert sheen_by_medium(used, [1], [], "flat", OPAQUE) is None
    only_gloss = [paint for paint in media if paint.id == "gloss-medium"]
    assert sheen_by_medium(used, [1], only_gloss, "flat", OPAQUE) is None


def test_behaviour_agrees_with_the_films_and_the_colour(acrylics):
    solver = MixSolver(acrylics)
    recipe = solver.recipe([("slate-teal", 3), ("chalk", 1)], [47, -19, -3])
    how = behaviour_of(solver, recipe, [47, -19, -3], 0.4)
    assert how.films.shape == (len(GROUNDS), len(FILM_COATS), 3)
    # More coats, less of the ground: black and white come together.
    apart = [float(delta_e00(how.films[0, i], how.films[3, i])) for i in range(len(FILM_COATS))]
    assert apart == sorted(apart, reverse=True)
    assert float(delta_e00(how.lights[0][1], recipe.lab)) < 1e-6
    assert max(float(delta_e00(lab, recipe.lab)) for lab in how.strayed) == pytest.approx(
        recipe.one_drop_de00
    )
    assert how.wet[0] < recipe.lab[0]
    assert how.hides_coats > 1
    assert how.by_medium is None
    assert how.sure_de00 == pytest.approx(
        predict([p for p in acrylics if p.id in ("chalk", "slate-teal")], [1, 3]).de00_90, rel=0.02
    )


def test_a_paint_that_is_not_there_is_refused(acrylics):
    with pytest.raises(ShelfError, match="'nobody'"):
        MixSolver(acrylics).recipe([("nobody", 1)], [50, 0, 0])
