"""A record that breaks a rule is named with its paint, its field and the rule; what is unknown is let be."""

import json

import numpy as np
import pytest

from lean_sepia.errors import ShelfError
from lean_sepia.paint.paint import Knowledge
from lean_sepia.shelf.paint_record import paint_from_record
from lean_sepia.shelf.record_model import read_record
from lean_sepia.shelf.swatch_file import read_swatches

GREEN = {"id": "sea-green", "medium": "acrylic-water", "finish": "flat", "lab": [50, -25, 5]}
FLAT = [0.2] * 31


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"id": None}, "has no 'id'"),
        ({"id": 7}, "has no 'id'"),
        ({"id": " "}, "has no 'id'"),
        ({"id": "Sea green"}, "an id has only"),
        ({"medium": None}, "sea-green' has no 'medium'"),
        ({"medium": ["oil"]}, "has no 'medium'"),
        ({"medium": "ink"}, "medium is one of acrylic-water"),
        ({"finish": "shiny"}, "finish is one of flat"),
        ({"k1": 1.0}, "k1 is a share from 0 to below 1; found 1.0"),
        ({"k2": -0.1}, "k2 is a share"),
        ({"k1": "0.04"}, "k1 is a share"),
        ({"k1": True}, "k1 is a share"),
        ({"g": 1.5, "K": FLAT, "S": FLAT}, "g is a share from 0 to 1; found 1.5"),
        ({"drops_per_ml": 0}, "drops_per_ml is a number greater than 0"),
        ({"drops_per_ml": float("nan")}, "drops_per_ml is a number greater than 0"),
        ({"opaque_coats": "two"}, "opaque_coats is a number greater than 0"),
        ({"film_coats": -1}, "film_coats is a number greater than 0"),
        ({"lab": "red"}, "lab is a list of numbers; found 'red'"),
        ({"lab": [50, 0]}, "three numbers"),
        ({"lab": [50, 0, None]}, "lab is a list of numbers"),
        ({"lab": [150, 0, 0]}, "lab"),
        ({"lab": None}, "has no colour"),
        ({"R": [0.2] * 30}, "R has 30 values for 31 wavelengths"),
        ({"R": [20.0] * 31}, "Divide per cent by 100"),
        ({"R": [-0.1] * 31}, "cannot be below 0"),
        ({"R": [float("inf")] * 31}, "not a finite number"),
        ({"R": FLAT, "wavelengths": [400, 500]}, "R has 31 values for 2 wavelengths"),
        ({"K": FLAT}, "S is a list of numbers; found nothing"),
        ({"K": FLAT, "S": FLAT, "knowledge": "guessed"}, "knowledge is one of"),
        ({"R": FLAT, "R_tint": FLAT}, "tint_white '' is not in the file"),
        ({"lab_tint": [70, -10, 2], "tint_white": "chalk"}, "is not in the file"),
        ({"lab_over_black": [1, 2]}, "three numbers"),
    ],
)
def test_what_breaks_a_rule(change, words):
    with pytest.raises(ShelfError) as told:
        paint_from_record(GREEN | change)
    assert words in str(told.value)
    assert len(str(told.value).splitlines()) == 1


def test_what_is_not_known_is_let_be_and_figures_may_be_text():
    given = read_record(GREEN | {"price": 3.5, "lab": ["50", "-25", "5.5"], "name": None, "line": 12})
    assert given.lab == (50.0, -25.0, 5.5)
    assert (given.name, given.line) == ("", "12")
    assert (given.k1, given.k2) == (0.04, 0.6)
    assert given.film_coats is None


def test_a_record_becomes_the_paint_it_says():
    paint = paint_from_record(GREEN | {"name": "Sea green", "k1": 0.03, "drops_per_ml": 25})
    assert (paint.id, paint.name, paint.k1, paint.drops_per_ml) == ("sea-green", "Sea green", 0.03, 25)
    assert paint.knowledge is Knowledge.ONE_CONSTANT
    K, S = np.linspace(0.1, 1.0, 31), np.full(31, 0.7)
    known = paint_from_record({**GREEN, "K": list(K), "S": list(S), "g": 0.5})
    assert known.knowledge is Knowledge.SPECTRAL
    assert np.allclose(known.K, K)
    assert known.g == 0.5
    told = paint_from_record({**GREEN, "K": list(K), "S": list(S), "knowledge": "two-constant"})
    assert told.knowledge is Knowledge.TWO_CONSTANT
    film = paint_from_record(GREEN | {"lab_over_white": [62, -22, 6], "lab_over_black": [44, -18, 3]})
    assert film.knowledge is Knowledge.TWO_CONSTANT


SWATCH = {"parts": [{"paint": "chalk", "parts": 2}, {"paint": "sea-green", "parts": 1}], "lab": [70, -10, 2]}


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"parts": []}, "has no parts"),
        ({"parts": {"chalk": 1}}, "has no parts"),
        ({"parts": [{"paint": 3, "parts": 1}]}, "a part is"),
        ({"parts": [{"paint": "chalk", "parts": 0}]}, "a part is"),
        ({"parts": [{"paint": "chalk", "parts": True}]}, "a part is"),
        ({"parts": ["chalk"]}, "a part is"),
        ({"lab": None}, "has no colour"),
        ({"lab": "red"}, "lab is three numbers"),
        ({"lab": [50, 0]}, "three numbers"),
        ({"R": [0.3] * 30}, "R is a list of 31 shares"),
        ({"R": [30] * 31}, "R is a list of 31 shares"),
        ({"de00_90": -1}, "de00_90 is a colour difference"),
        ({"de00_90": "much"}, "de00_90 is a colour difference"),
        ({"over": [50, 0, 0], "coats": 0}, "coats is a number above 0"),
        ({"over": "grey"}, "over is three numbers"),
    ],
)
def test_swatches_that_cannot_be(tmp_path, change, words):
    (tmp_path / "s.json").write_text(json.dumps({"swatches": [SWATCH, SWATCH | change]}))
    with pytest.raises(ShelfError) as told:
        read_swatches(tmp_path / "s.json")
    assert "Swatch 2" in str(told.value)
    assert words in str(told.value)


def test_swatches_are_read(tmp_path):
    twice = {"parts": [{"paint": "chalk", "parts": 1}, {"paint": "chalk", "parts": 2.5}], "R": [0.4] * 31}
    over = SWATCH | {"over": [20, 0, 0], "coats": 2, "de00_90": 0.5, "note": "left field"}
    (tmp_path / "s.json").write_text(json.dumps({"swatches": [SWATCH, twice, over]}))
    plain, summed, film = read_swatches(tmp_path / "s.json")
    assert dict(plain.shares) == {"chalk": 2.0, "sea-green": 1.0}
    assert dict(summed.shares) == {"chalk": 3.5}
    assert np.allclose(summed.reflectance, 0.4)
    assert plain.laying.ground is None
    assert film.laying.ground is not None
    assert film.laying.X > 0
