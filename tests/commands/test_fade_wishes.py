"""`fade` by wish and with two lighteners, from the command line, pushed back through `predict`."""

import json

import pytest

from lean_sepia.colour.lab import hue_deg


@pytest.fixture
def lighteners(answer):
    """Runs a command and reads what lighteners it found."""
    return lambda *arguments: answer(*arguments)["lighteners"]


@pytest.mark.parametrize("by", [4.0, 8.0, -5.0])
def test_so_much_lighter_at_the_same_hue(lighteners, call, demo_master, by):
    shelf = demo_master.shelf_file
    _code, out, _err = call("predict", "--shelf", shelf, "--parts", "boot-red=1", "--json")
    before = json.loads(out)["predictions"][0]["lab"]
    best = lighteners("fade", "--shelf", shelf, "--base", "boot-red=1", "--lighter", by)[0]
    assert best["lab"][0] - before[0] == pytest.approx(by, abs=1.0)
    assert abs((hue_deg(best["lab"]) - hue_deg(before) + 180) % 360 - 180) < 5
    parts = f"boot-red={best['base_parts']},{best['paint']}={best['lightener_parts']}"
    _code, out, _err = call("predict", "--shelf", shelf, "--parts", parts, "--json")
    assert json.loads(out)["predictions"][0]["lab"] == pytest.approx(best["lab"], abs=0.01)


def test_lighter_over_a_ground_starts_from_the_ground(lighteners, demo_master):
    shelf = demo_master.shelf_file
    film = ("--over", "45,26,15", "--coats", 2, "--thinner-share", 0.8)
    best = lighteners("fade", "--shelf", shelf, "--base", "boot-red=1", "--lighter", 6, *film)[0]
    assert best["lab"][0] == pytest.approx(51, abs=1.5)


def test_two_lighteners_come_nearer_than_one_and_say_so(lighteners, call, demo_master):
    shelf = demo_master.shelf_file
    asked = ("fade", "--shelf", shelf, "--base", "boot-red=1", "--target", "60,20,20")
    one, two = lighteners(*asked), lighteners(*asked, "--lighteners", 2)
    assert all(option["second"] is None for option in one)
    assert two[0]["de00"] < one[0]["de00"]
    pair = next(option for option in two if option["second"])
    assert pair["base_parts"] + pair["lightener_parts"] + pair["second_parts"] <= 12
    parts = f"boot-red={pair['base_parts']},{pair['paint']}={pair['lightener_parts']},{pair['second']}={pair['second_parts']}"
    _code, out, _err = call("predict", "--shelf", shelf, "--parts", parts, "--json")
    assert json.loads(out)["predictions"][0]["lab"] == pytest.approx(pair["lab"], abs=0.01)


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        ((), "Give one of"),
        (("--target", "60,20,20", "--lighter", 5), "Give one of"),
        (("--lighter", 0), "--lighter is from 0 to 100"),
        (("--lighter", 400), "--lighter is from 0 to 100"),
    ],
)
def test_a_wish_that_cannot_be_is_said(call, demo_master, arguments, said):
    code, _out, err = call("fade", "--shelf", demo_master.shelf_file, "--base", "boot-red=1", *arguments)
    assert (code, err.count("\n")) == (2, 1)
    assert said in err


def test_a_retired_bottle_and_a_can_are_not_mixed(lighteners, call, demo_master, tmp_path):
    data = json.loads(demo_master.shelf_file.read_text())
    for paint in data["paints"]:
        paint.update(
            {"retired": True} if paint["id"] == "chalk" else {"can": True} if paint["id"] == "cream" else {}
        )
    shelf = tmp_path / "shelf.json"
    shelf.write_text(json.dumps(data))
    for name, said in (("chalk", "is retired"), ("cream", "spray can")):
        code, _out, err = call("predict", "--shelf", shelf, "--parts", f"{name}=1,boot-red=2")
        assert code == 2
        assert said in err
    found = lighteners("fade", "--shelf", shelf, "--base", "boot-red=1", "--target", "60,20,20")
    assert not {"chalk", "cream"} & {option["paint"] for option in found}


def test_the_path_of_a_film_is_told_where_it_is_asked_for(lighteners, call, demo_master):
    film = ("--over", "38,34,24", "--coats", 3, "--thinner-share", 0.85, "--tool", "close")
    asked = ("fade", "--shelf", demo_master.shelf_file, "--base", "boot-red=1", "--lighter", 5, *film)
    plain, told = lighteners(*asked), lighteners(*asked, "--path")
    assert "path" not in plain[0]
    for one, other in zip(plain, told, strict=True):
        path = other["path"]
        assert path["labs"][3] == pytest.approx(one["lab"], abs=1e-6)
        assert path["away"][path["stop"]] == min(path["away"])
    code, _out, err = call(*asked[:7], "--path", "--json")
    assert code == 2
    assert "--over" in err


def test_two_tints_are_told_by_their_second_paint(call, demo_master):
    asked = (
        "glaze",
        "--shelf",
        demo_master.shelf_file,
        "--base",
        "45,-16,-6",
        "--target",
        "47,-12,0",
        "--json",
    )
    one, two = (json.loads(call(*asked, *more)[1])["glazes"] for more in ((), ("--tints", 2)))
    assert "second" not in one[0]
    assert two[0]["de00_mean"] <= one[0]["de00_mean"] + 0.01
    assert any(glaze["second"] for glaze in two)
