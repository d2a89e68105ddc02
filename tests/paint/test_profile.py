"""Coats that run out over a zone, and coats that are taken away."""

import numpy as np
import pytest

from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.paint.profile import MIDDLE, RECESSES, amount_at, ends, places
from lean_sepia.paint.stack import Coating, Opaque, Stack

WHITE, BLACK, RED = (Opaque.of_lab(lab) for lab in ((90.0, 0.0, 0.0), (32.0, 0.0, 0.0), (50.0, 25.0, 15.0)))


@pytest.mark.parametrize("profile", ["below", "above", "edges", "recess", "open"])
def test_it_is_full_at_one_end_and_as_far_out_as_it_says_at_the_other(profile):
    near, far = ends(profile)
    assert amount_at(profile, 0.3, near) == pytest.approx(1.0)
    assert amount_at(profile, 0.3, far) == pytest.approx(0.3)
    assert 0.3 <= amount_at(profile, 0.3, MIDDLE) <= 1.0


def test_places_weigh_one_and_the_mean_of_a_straight_run_is_half_way():
    for profiles in ([None], ["below"], ["edges", "above"], ["recess", "below", None]):
        found = places(profiles)
        assert sum(weight for _place, weight in found) == pytest.approx(1.0)
    assert len(places([None, None])) == 1
    mean = sum(weight * amount_at("below", 0.2, place) for place, weight in places(["below"]))
    assert mean == pytest.approx(0.6)
    recess = sum(weight * amount_at("recess", 0.0, place) for place, weight in places(["recess"]))
    assert recess == pytest.approx(RECESSES)


def test_spots_run_out_by_share_and_films_by_thickness():
    spots = Coating("spots", RED, share=0.4, profile="below", far=0.5)
    assert spots.at({"height": 1.0}).share == pytest.approx(0.2)
    film = Coating("film", RED, X=2.0, profile="above", far=0.0)
    assert pytest.approx(0.0) == film.at({"height": 0.0}).X
    assert pytest.approx(2.0) == film.at({"height": 1.0}).X


def test_scraping_brings_back_what_lay_there_in_the_given_share():
    stack = Stack()
    for name, body in (("found", WHITE), ("red", RED), ("black", BLACK)):
        stack = stack.lay(Coating("film", body, mark=name))
    scraped = stack.lay(Coating("taken", share=0.25, down_to="red"))
    shares = {round(float(patch.R_i.mean()), 6): patch.share for patch in scraped.patches}
    assert shares[round(float(RED.R_i.mean()), 6)] == pytest.approx(0.25)
    assert shares[round(float(BLACK.R_i.mean()), 6)] == pytest.approx(0.75)
    lowest = stack.lay(Coating("taken", share=1.0))
    assert lowest.lab() == pytest.approx((90.0, 0.0, 0.0), abs=0.05)
    deeper = scraped.lay(Coating("taken", share=1.0, down_to="found"))
    assert deeper.lab() == pytest.approx((90.0, 0.0, 0.0), abs=0.05)


def test_taking_away_down_to_what_lies_there_already_changes_nothing():
    stack = Stack().lay(Coating("film", WHITE, mark="a")).lay(Coating("spots", RED, share=0.1, mark="b"))
    same = stack.lay(Coating("taken", share=0.5, down_to="b"))
    assert same.seen() == pytest.approx(stack.seen())
    wiped = stack.lay(Coating("taken", share=1.0, down_to="a"))
    assert wiped.seen() == pytest.approx((90.0, 0.0, 0.0), abs=0.05)


def test_a_resist_keeps_what_is_under_it_from_being_scraped():
    stack = Stack().lay(Coating("film", WHITE, mark="a")).lay(Coating("film", RED, mark="b"))
    resisted = stack.lay(Coating("resist", share=0.3)).lay(Coating("taken", share=1.0, down_to="a"))
    mean = 0.3 * xyz_from_lab((50.0, 25.0, 15.0)) + 0.7 * xyz_from_lab((90.0, 0.0, 0.0))
    assert resisted.seen() == pytest.approx(tuple(lab_from_xyz(mean)), abs=0.1)


def test_loose_powder_keeps_what_was_learnt_of_it_and_may_be_wiped_off_whole():
    stack = Stack().lay(Coating("film", BLACK, mark="a"))
    dusted = stack.lay(Coating("loose", WHITE, share=0.6, mark="b", keep=0.9))
    fixed = dusted.lay(Coating("varnish"))
    assert sum(patch.share for patch in fixed.patches if patch.R_i is WHITE.R_i) == pytest.approx(0.54)
    wiped = dusted.lay(Coating("taken", share=1.0, down_to="a"))
    assert wiped.lay(Coating("varnish")).seen() == pytest.approx(stack.seen())


def test_many_partial_coats_stay_few_patches_and_the_area_stays_whole():
    stack = Stack().lay(Coating("film", WHITE))
    for number in range(14):
        stack = stack.lay(Coating("film", RED if number % 2 else BLACK, share=0.3))
    assert len(stack.patches) <= 64
    assert sum(patch.share for patch in stack.patches) == pytest.approx(1.0)
    exact = xyz_from_lab((90.0, 0.0, 0.0))
    for number in range(14):
        top = xyz_from_lab((50.0, 25.0, 15.0) if number % 2 else (32.0, 0.0, 0.0))
        exact = 0.7 * exact + 0.3 * top
    assert stack.seen() == pytest.approx(tuple(lab_from_xyz(np.asarray(exact))), abs=0.05)
