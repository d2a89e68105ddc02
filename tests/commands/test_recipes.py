"""Mixes, predictions, fades and glazes on the command line."""

import pytest

from lean_sepia.colour.ciede2000 import delta_e00


def test_mix(answer, demo_master):
    found = answer("mix", "--shelf", demo_master.shelf_file, "--target", "47,-19,-3", "--count", "4")
    (result,) = found["results"]
    assert result["target"] == [47, -19, -3]
    assert len(result["recipes"]) == 4
    for recipe in result["recipes"]:
        assert set(recipe) >= {"parts", "lab", "de00", "one_drop_de00", "lights", "lights_estimated"}
        assert set(recipe["lights"]) == {"D65", "A", "FL11", "LED-B3"}
        assert sum(part["parts"] for part in recipe["parts"]) <= 10
        assert recipe["de00"] == pytest.approx(float(delta_e00(recipe["lab"], result["target"])), abs=1e-3)


def test_mix_over_a_ground_and_many_targets(answer, demo_master, tmp_path):
    (tmp_path / "targets.csv").write_text("L,a,b\n80,2,18\n40,20,12\n")
    found = answer("mix", "--shelf", demo_master.shelf_file, "--targets", tmp_path / "targets.csv", "--max-paints", 2,
        "--over", "41,25,14,satin", "--coats", 2, "--thinner-share", "0.6", "--varnish", "satin",
    )  # fmt: skip
    assert [result["target"] for result in found["results"]] == [[80, 2, 18], [40, 20, 12]]
    opaque = answer("mix", "--shelf", demo_master.shelf_file, "--target", "80,2,18", "--max-paints", 2)
    assert opaque["results"][0]["recipes"][0]["lab"] != found["results"][0]["recipes"][0]["lab"]


def test_mix_keeps_to_limits(answer, demo_master):
    shelf = str(demo_master.shelf_file)
    found = answer("mix", "--shelf", shelf, "--target", "60,5,20", "--must", "ochre", "--forbid", "chalk", "--cup-ml", "6"
    )["results"][0]["recipes"]  # fmt: skip
    for recipe in found:
        names = {part["paint"] for part in recipe["parts"]}
        assert "ochre" in names
        assert "chalk" not in names


def test_predict(answer, demo_master):
    shelf = str(demo_master.shelf_file)
    found = answer(
        "predict", "--shelf", shelf, "--parts", "chalk=3,ochre=1", "--parts", "bone-white=1,ochre=2"
    )
    strong, weak = found["predictions"]
    assert strong["knowledge"] == "spectral"
    assert weak["knowledge"] in ("two-constant", "one-constant")
    assert strong["de00_90"] < weak["de00_90"]
    over = answer("predict", "--shelf", shelf, "--parts", "chalk=3,ochre=1", "--over", "20,0,0", "--coats", "1",
        "--thinner-share", "0.9",
    )["predictions"][0]  # fmt: skip
    assert over["lab"][0] < strong["lab"][0] - 5


def test_predict_takes_films_laid_before(answer, demo_master):
    shelf = str(demo_master.shelf_file)
    ask = ("predict", "--shelf", shelf, "--parts", "chalk=1", "--over", "20,0,0", "--coats", "0.3")
    plain = answer(*ask)["predictions"][0]
    red = answer(*ask, "--film", "boot-red=1;2")["predictions"][0]
    assert red["lab"][1] > plain["lab"][1] + 3
    thinned = answer(*ask, "--film", "boot-red=1;2;0.9")["predictions"][0]
    assert plain["lab"][1] < thinned["lab"][1] < red["lab"][1]


@pytest.mark.parametrize(
    ("film", "said"),
    [
        ("boot-red=1", "is written"), ("boot-red=1;0", "greater than 0"), ("boot-red=1;1;1", "below 1"),
        ("boot-red=1;x", "numbers"), ("nobody=1;1", "'nobody'"), ("boot-red;1", "whole parts"), ("worn-steel=1;1", "laid alone"),
    ],
)  # fmt: skip
def test_films_that_cannot_be_are_refused(call, demo_master, film, said):
    code, _, error = call(
        "predict", "--shelf", str(demo_master.shelf_file), "--parts", "chalk=1", "--over", "20,0,0", "--film", film
    )  # fmt: skip
    assert code == 2
    assert said in error


@pytest.mark.parametrize("command", ["predict", "mix"])
def test_media_that_do_not_mix_are_said_by_both(call, demo_master, command):
    shelf = ("--shelf", demo_master.shelf_file)
    if command == "predict":
        arguments = ("predict", *shelf, "--parts", "ochre=3,oil-ochre=1")
    else:
        arguments = ("mix", *shelf, "--target", "50,10,30", "--must", "oil-ochre", "--must", "ochre")
    code, out, err = call(*arguments)
    assert "do not mix" in out + err
    assert code == (0 if command == "predict" else 2)


def test_fade(answer, demo_master):
    found = answer(
        "fade",
        "--shelf",
        demo_master.shelf_file,
        "--base",
        "boot-red=3,oxide=1",
        "--target",
        "52,22,14",
    )
    first = found["lighteners"][0]
    keys = {
        "paint",
        "second",
        "base_parts",
        "lightener_parts",
        "second_parts",
        "lab",
        "de00",
        "hue_shift_deg",
    }
    assert set(first) == keys
    assert first["second"] is None
    assert first["de00"] == min(option["de00"] for option in found["lighteners"])


def test_glaze(answer, demo_master):
    found = answer("glaze", "--shelf", demo_master.shelf_file, "--base", "50,-18,-3", "--base", "70,10,32,gloss",
        "--target", "46,-13,-1", "--target", "64,9,27",
    )  # fmt: skip
    first = found["glazes"][0]
    assert set(first) == {"paint", "paint_parts", "thinner_parts", "passes", "labs", "de00_mean"}
    assert len(first["labs"]) == 2
