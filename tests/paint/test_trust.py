"""Predictions with their radius, of one mixture and of films on films."""

from dataclasses import replace

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.kubelka_munk import over_ground
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Knowledge, Palette
from lean_sepia.paint.saunderson import through_surface
from lean_sepia.paint.trust import Film, predict


@pytest.fixture(scope="module")
def paints(shelf_paints):
    return {paint.id: replace(paint, knowledge=Knowledge.SPECTRAL) for paint in shelf_paints}


@pytest.fixture(scope="module")
def ground():
    return internal_from_lab((24.0, 0.0, 0.0)).R_i


def test_films_on_films_are_the_layer_equations_twice(paints, ground):
    chalk, red = paints["chalk"], paints["boot-red"]
    found = predict([chalk], [1], Laying(ground, 0.3), [Film((red,), (1.0,), 0.5)])
    R = over_ground(chalk.K, chalk.S, 0.3, over_ground(red.K, red.S, 0.5, ground))
    assert found.lab == pytest.approx(lab_from_reflectance(through_surface(R, chalk.g)), abs=1e-9)


def test_a_film_in_two_halves_is_one_film(paints, ground):
    used, parts = (paints["chalk"], paints["ochre"]), (2.0, 1.0)
    whole = predict(used, parts, Laying(ground, 0.8))
    halves = predict(used, parts, Laying(ground, 0.4), [Film(used, parts, 0.4)])
    assert halves.lab == pytest.approx(whole.lab, abs=1e-9)


def test_order_matters_and_an_opaque_film_hides_all_below(paints, ground):
    chalk, red = Film((paints["chalk"],), (1.0,), 0.5), Film((paints["boot-red"],), (1.0,), 0.5)
    top = [paints["ochre"]]
    one, other = (predict(top, [1], Laying(ground, 0.2), films).lab for films in ([chalk, red], [red, chalk]))
    assert float(delta_e00(one, other)) > 1
    hidden = replace(red, X=60.0)
    assert predict(top, [1], Laying(ground, 0.2), [chalk, hidden]).lab == pytest.approx(
        predict(top, [1], Laying(ground, 0.2), [hidden]).lab, abs=1e-6
    )


def test_what_is_not_known_of_a_film_below_counts(paints, ground):
    vague = replace(paints["boot-red"], knowledge=Knowledge.ONE_CONSTANT)
    thin = Laying(ground, 0.15)
    sure = predict([paints["chalk"]], [1], thin, [Film((paints["boot-red"],), (1.0,), 0.5)])
    unsure = predict([paints["chalk"]], [1], thin, [Film((vague,), (1.0,), 0.5)])
    assert sure.knowledge == Knowledge.SPECTRAL
    assert unsure.knowledge == Knowledge.ONE_CONSTANT
    assert unsure.lab == sure.lab
    assert unsure.de00_90 > sure.de00_90
    # Under a film that hides it, it counts no more.
    thick = predict([paints["chalk"]], [1], Laying(ground, 40.0), [Film((vague,), (1.0,), 0.5)])
    alone = predict([paints["chalk"]], [1], Laying(ground, 40.0), [Film((paints["boot-red"],), (1.0,), 0.5)])
    assert thick.de00_90 == pytest.approx(alone.de00_90, rel=0.2)


def test_without_a_ground_the_lowest_film_is_opaque(paints):
    red = paints["boot-red"]
    found = predict([paints["chalk"]], [1], Laying(None, 0.3), [Film((red,), (1.0,), 0.5)])
    thick = predict([paints["chalk"]], [1], Laying(np.full(31, 0.3), 0.3), [Film((red,), (1.0,), 80.0)])
    assert found.lab == pytest.approx(thick.lab, abs=1e-6)


def test_the_order_of_parts_does_not_matter(paints):
    used, parts = [paints["chalk"], paints["ochre"], paints["boot-red"]], [3, 2, 1]
    one, other = predict(used, parts), predict(used[::-1], parts[::-1])
    assert one.lab == pytest.approx(other.lab)
    assert one.lab == pytest.approx(Laying().lab(Palette.of(used).mixture(np.array(parts) / 6)))
    assert one.de00_90 == pytest.approx(other.de00_90, rel=0.25)
