"""`amount`, `ratio` and `show`: small questions on the command line, as the contract has them."""

import json

import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.showing import LIMITS, seen_from_afar, verdict


def test_amounts_add_up(answer):
    found = answer("amount", "--area-cm2", "214", "--coats", "3", "--thinner-share", "0.6", "--cup-ml", "2")
    assert set(found) == {"total_ml", "paint_ml", "thinner_ml", "reserve_ml", "cups"}
    assert found["paint_ml"] + found["thinner_ml"] == pytest.approx(found["total_ml"], abs=2e-4)
    assert found["thinner_ml"] == pytest.approx(0.6 * found["total_ml"], abs=2e-4)
    assert found["cups"] == 3
    assert 0 < found["reserve_ml"] < found["total_ml"] / 3
    twice = answer("amount", "--area-cm2", "428", "--coats", "3", "--thinner-share", "0.6")
    assert twice["total_ml"] > 1.8 * found["total_ml"]


@pytest.mark.parametrize(
    "option",
    [
        ("--area-cm2", "0"),
        ("--coats", "0"),
        ("--thinner-share", "1"),
        ("--tool", "roller"),
        ("--cup-ml", "0"),
    ],
)
def test_amounts_that_cannot_be(call, option):
    usual = {"--area-cm2": "10", "--coats": "1"} | dict([option])
    code, out, err = call("amount", *(part for pair in usual.items() for part in pair))
    assert (code, out) == (2, "")
    assert len(err.strip().splitlines()) == 1


def test_ratios_are_read_as_the_contract_says(answer, call):
    found = answer("ratio", "95:5")
    assert found["readings"][0]["parts"] == [{"of": "thinner", "share": 0.95}, {"of": "paint", "share": 0.05}]
    assert len(found["readings"]) == 2
    vague = answer("ratio", "a few drops in a jar")["readings"][0]
    assert [part["share"] for part in vague["parts"]] == [None, None]
    assert call("ratio", "thin it a lot")[0] == 2
    assert "91.0" not in call("ratio", "10:1 alcohol to paint")[1]


@pytest.mark.parametrize("shown", LIMITS)
def test_verdicts_change_at_their_limits(shown):
    first, second, third = LIMITS[shown]
    said = [
        verdict(value, shown)
        for value in (0, first - 1e-9, first, second - 1e-9, second, third - 1e-9, third, 90)
    ]
    assert said == ["vanishes", "vanishes", "just shows", "just shows", "clear", "clear", "stark", "stark"]


def test_whether_it_shows(answer):
    ground, effect = [30, 20, 15], [33, 22, 18]
    found = answer(
        "show", "--ground", "30,20,15", "--effect", "33,22,18", "--area-share", "0.02", "--as", "mark"
    )
    assert found["de00"] == pytest.approx(float(delta_e00(ground, effect)), abs=1e-3)
    assert found["verdict"] == "vanishes"
    assert found["mark_de00"] == found["de00"]
    assert found["mean_de00"] == pytest.approx(
        float(delta_e00(ground, seen_from_afar(ground, effect, 0.02))), abs=1e-3
    )


def test_lettering_needs_lightness(answer):
    yellow_on_white = answer("show", "--ground", "92,0,3", "--effect", "80,2,70", "--as", "lettering")
    assert yellow_on_white["verdict"] == "stark"
    assert yellow_on_white["reads"] is False
    assert answer("show", "--ground", "92,0,3", "--effect", "20,0,0", "--as", "lettering")["reads"] is True


def test_a_paint_shows_less_the_thinner_it_is(answer, demo_master):
    usual = ("show", "--ground", "30,0,-20", "--shelf", demo_master.shelf_file, "--paint", "chalk")
    wet = answer(*usual)["de00"]
    thin = answer(*usual, "--thinner-share", "0.9", "--tool", "mist")["de00"]
    assert thin < wet / 3


@pytest.mark.parametrize(
    "more", [(), ("--effect", "1,2"), ("--shelf", "x.json"), ("--effect", "50,0,0", "--area-share", "2")]
)
def test_questions_without_an_answer(call, more):
    code, out, err = call("show", "--ground", "50,0,0", *more)
    assert (code, out) == (2, "")
    assert len(err.strip().splitlines()) == 1


def test_show_takes_powders_metals_and_cans_as_they_lie(call, demo_master, tmp_path):
    data = json.loads(demo_master.shelf_file.read_text())
    for paint in data["paints"]:
        if paint["id"] == "cream":
            paint["can"] = True
    shelf = tmp_path / "shelf.json"
    shelf.write_text(json.dumps(data))
    for name in ("pigment-quay-dust", "worn-steel", "cream"):
        code, out, err = call(
            "show", "--shelf", shelf, "--ground", "30,0,0", "--paint", name, "--area-share", 0.25, "--json"
        )
        assert code == 0, err
        found = json.loads(out)
        assert found["mean_de00"] < found["mark_de00"]
    code, out, _err = call("predict", "--shelf", shelf, "--parts", "cream=1", "--json")
    assert code == 0
    assert json.loads(out)["predictions"][0]["lab"][0] > 70
