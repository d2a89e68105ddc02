"""The command-line contract: keys, exit codes, one clear line for bad input."""

import json
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from lean_sepia import cli
from lean_sepia.colour.ciede2000 import delta_e00


def answer(call, *arguments):
    code, out, err = call(*arguments, "--json")
    assert code == 0, err
    return json.loads(out)


def test_sample(call, demo_master):
    truth = demo_master.truth
    x, y, r = truth["spots"]["hull exposed"][0]
    lx, ly, lr = truth["spots"]["locker"][0]
    lightness = truth["labs"]["locker"]["fresh"][0]
    found = answer(
        call, "sample", demo_master.photo("slide-1957.jpg"), "--neutral", f"{lx},{ly},{lr},{lightness}",
        "--area", "480,640,1240,688", "--at", f"{x},{y},{r}",
    )  # fmt: skip
    assert found["correction"]["anchor_error_de00"] is None
    (one,) = found["samples"]
    assert set(one) >= {"x", "y", "lab", "lab_range90", "de00_90", "pixels", "clipped_share"}
    assert float(delta_e00(one["lab"], truth["labs"]["hull"]["exposed"])) <= one["de00_90"]
    assert len(found["areas"][0]["lab"]) == 3


def test_sample_with_two_anchors_has_a_held_out_error(call, demo_master):
    truth = demo_master.truth
    marks = []
    for spot in ("locker", "lettering"):
        x, y, r = truth["spots"][spot][0]
        marks += ["--anchor", ",".join(map(str, (x, y, r, *truth["labs"][spot]["fresh"])))]
    found = answer(call, "sample", demo_master.photo("slide-1957.jpg"), *marks, "--at", "560,606,9")
    assert 0 < found["correction"]["anchor_error_de00"] < 10


def test_chart(call, tmp_path):
    from importlib.resources import files

    from lean_sepia.colour.srgb import srgb_from_lab

    rows = np.loadtxt(str(files("lean_sepia.photo") / "data" / "chart_24.csv"), delimiter=",", skiprows=1)
    patches = (np.clip(srgb_from_lab(rows), 0, 1) * [1.0, 0.9, 0.7] * 255).astype(np.uint8).reshape(4, 6, 3)
    Image.fromarray(np.repeat(np.repeat(patches, 50, axis=0), 50, axis=1)).save(tmp_path / "chart.png")
    found = answer(
        call, "sample", tmp_path / "chart.png", "--chart", "25,25,275,25,275,175,25,175", "--at", "75,25,15"
    )
    assert float(delta_e00(found["samples"][0]["lab"], rows[1])) < 2.0


def test_mix(call, demo_master):
    found = answer(call, "mix", "--shelf", demo_master.shelf_file, "--target", "47,-19,-3", "--count", "4")
    (result,) = found["results"]
    assert result["target"] == [47, -19, -3]
    assert len(result["recipes"]) == 4
    for recipe in result["recipes"]:
        assert set(recipe) >= {"parts", "lab", "de00", "one_drop_de00", "lights", "lights_estimated"}
        assert set(recipe["lights"]) == {"D65", "A", "FL11", "LED-B3"}
        assert sum(part["parts"] for part in recipe["parts"]) <= 10
        assert recipe["de00"] == pytest.approx(float(delta_e00(recipe["lab"], result["target"])), abs=1e-3)


def test_mix_over_a_ground_and_many_targets(call, demo_master, tmp_path):
    (tmp_path / "targets.csv").write_text("L,a,b\n80,2,18\n40,20,12\n")
    found = answer(
        call, "mix", "--shelf", demo_master.shelf_file, "--targets", tmp_path / "targets.csv", "--max-paints", 2,
        "--over", "41,25,14,satin", "--coats", 2, "--thinner-share", "0.6", "--varnish", "satin",
    )  # fmt: skip
    assert [result["target"] for result in found["results"]] == [[80, 2, 18], [40, 20, 12]]
    opaque = answer(call, "mix", "--shelf", demo_master.shelf_file, "--target", "80,2,18", "--max-paints", 2)
    assert opaque["results"][0]["recipes"][0]["lab"] != found["results"][0]["recipes"][0]["lab"]


def test_fade(call, demo_master):
    found = answer(
        call,
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


def test_glaze(call, demo_master):
    found = answer(
        call, "glaze", "--shelf", demo_master.shelf_file, "--base", "50,-18,-3", "--base", "70,10,32,gloss",
        "--target", "46,-13,-1", "--target", "64,9,27",
    )  # fmt: skip
    first = found["glazes"][0]
    assert set(first) == {"paint", "paint_parts", "thinner_parts", "passes", "labs", "de00_mean"}
    assert len(first["labs"]) == 2


def test_wear(call, demo_master):
    truth = demo_master.truth
    box = ",".join(map(str, truth["wear_box"]))
    found = answer(
        call, "wear", demo_master.photo("slide-1957.jpg"), "--region", box, "--base", "560,606,9", "--class", "rust=760,640,2",
        "--mm-per-px", 38, "--scale", 96,
    )  # fmt: skip
    assert set(found) >= {"coverage_percent", "classes", "grade", "at_scale"}
    (rust,) = found["classes"]
    assert set(rust) == {
        "name",
        "coverage_percent",
        "coverage_range90",
        "median_mm",
        "p90_mm",
        "count",
        "direction_deg",
        "edge_share",
    }
    assert found["at_scale"]["smallest_visible_mm"] == pytest.approx(8.38, abs=0.01)
    assert found["colours_corrected"] is False


@pytest.fixture
def plan_file(tmp_path):
    steps = [
        {"id": "base", "title": "Base", "kind": "base", "material": {"medium": "enamel", "finish": "flat"}, "zones": "all",
         "hands_on_min": 30, "touch_dry_min": 60, "full_cure_min": 600},
        {"id": "wash", "title": "Wash", "kind": "wash", "material": {"medium": "oil", "finish": "flat"}, "zones": "all",
         "hands_on_min": 20, "full_cure_min": 600},
    ]  # fmt: skip
    file = tmp_path / "plan.json"
    file.write_text(json.dumps({"steps": steps}))
    return file


def test_plan_check(call, plan_file):
    found = answer(call, "plan", "check", plan_file)["findings"]
    assert {finding["code"] for finding in found} == {"solvent-attacks-base", "wash-on-matte"}
    assert set(found[0]) == {"code", "severity", "step", "after", "message"}
    assert found[0]["severity"] == "stop"
    dated = answer(
        call, "plan", "check", plan_file, "--start", "2031-03-03T19:00", "--evenings", "mon-fri 19:00-21:30"
    )["findings"]
    assert "not-cured" in {finding["code"] for finding in dated}


def test_plan_schedule(call, plan_file):
    found = answer(
        call,
        "plan",
        "schedule",
        plan_file,
        "--start",
        "2031-03-03T19:00",
        "--evenings",
        "mon-fri 19:00-21:30,sat 10:00-16:00",
    )
    assert found["steps"][0] == {
        "id": "base", "start": "2031-03-03T19:00:00", "end": "2031-03-03T19:30:00", "ready": "2031-03-04T05:30:00",
    }  # fmt: skip
    assert found["steps"][1]["start"] == "2031-03-04T19:00:00"
    assert found["finish"] == "2031-03-05T05:20:00"
    assert found["critical_path"] == ["base", "wash"]


def test_card(call, demo_master, tmp_path):
    code, out, _ = call("card", demo_master.worked, "--pdf", tmp_path / "card.pdf")
    assert code == 0
    assert (tmp_path / "card.pdf").read_bytes().startswith(b"%PDF")
    assert "card.pdf" in out


def test_plain_words_without_json(call, demo_master):
    code, out, _ = call("mix", "--shelf", demo_master.shelf_file, "--target", "47,-19,-3", "--max-paints", 2)
    assert code == 0
    assert "ΔE00" in out
    assert not out.lstrip().startswith("{")


BAD = [
    ("sample", "{photo}"),
    ("sample", "{photo}", "--at", "1,2"),
    ("sample", "{photo}", "--at", "9999,2,3"),
    ("sample", "{photo}", "--at", "a,b,c"),
    ("sample", "{nothing}", "--at", "1,2,3"),
    ("sample", "{empty}", "--at", "1,2,3"),
    ("sample", "{text}", "--at", "1,2,3"),
    ("sample", "{photo}", "--at", "10,10,3", "--chart", "1,1,2,2,3,3,4,4"),
    ("sample", "{photo}", "--at", "10,10,3", "--neutral", "5,5,2,180"),
    ("mix", "--shelf", "{shelf}"),
    ("mix", "--shelf", "{shelf}", "--target", "150,0,0"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0"),
    ("mix", "--shelf", "{nothing}", "--target", "50,0,0"),
    ("mix", "--shelf", "{text}", "--target", "50,0,0"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--coats", "2"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--over", "50,0,0", "--thinner-share", "1.5"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--over", "50,0,0,shiny"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--varnish", "wet"),
    ("mix", "--shelf", "{shelf}", "--targets", "{nothing}"),
    ("mix", "--shelf", "{shelf}", "--targets", "{text}"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--max-paints", "0"),
    ("fade", "--shelf", "{shelf}", "--base", "nobody=1", "--target", "50,0,0"),
    ("fade", "--shelf", "{shelf}", "--base", "chalk", "--target", "50,0,0"),
    ("fade", "--shelf", "{shelf}", "--base", "chalk=0", "--target", "50,0,0"),
    ("glaze", "--shelf", "{shelf}", "--base", "50,0,0", "--target", "50,0,0", "--target", "40,0,0"),
    ("wear", "{photo}", "--region", "0,0,9999,10", "--base", "5,5,2", "--mm-per-px", "1", "--scale", "96"),
    ("wear", "{photo}", "--region", "0,0,50,50", "--base", "5,5,2", "--mm-per-px", "0", "--scale", "96"),
    (
        "wear",
        "{photo}",
        "--region",
        "0,0,50,50",
        "--base",
        "5,5,2",
        "--class",
        "rust",
        "--mm-per-px",
        "1",
        "--scale",
        "96",
    ),
    ("plan", "check", "{text}"),
    ("plan", "schedule", "{text}", "--start", "x", "--evenings", "mon 19:00-20:00"),
    ("card", "{text}", "--pdf", "{out}"),
    ("card", "{nothing}", "--pdf", "{out}"),
    ("nonsense",),
    ("mix", "--no-such-option"),
]


@pytest.mark.parametrize("arguments", BAD, ids=lambda a: " ".join(a)[:60])
def test_bad_input_is_one_line_and_exit_code_2(call, demo_master, tmp_path, arguments):
    (tmp_path / "empty.jpg").write_bytes(b"")
    (tmp_path / "words.txt").write_text("neither picture nor shelf nor plan")
    places = {
        "photo": demo_master.photo("slide-1957.jpg"), "shelf": demo_master.shelf_file, "nothing": tmp_path / "nothing",
        "empty": tmp_path / "empty.jpg", "text": tmp_path / "words.txt", "out": tmp_path / "out.pdf",
    }  # fmt: skip
    code, out, err = call(*(argument.format(**places) for argument in arguments))
    assert code == 2
    assert out == ""
    assert len(err.strip().splitlines()) == 1
    assert len(err.strip()) > 15
    assert "Traceback" not in err
    assert not (tmp_path / "out.pdf").exists()


def test_display_is_recognised(monkeypatch, tmp_path):
    for name in ("DISPLAY", "WAYLAND_DISPLAY"):
        monkeypatch.delenv(name, raising=False)
    assert not cli.display_available()
    monkeypatch.setenv("DISPLAY", ":4711")
    assert not cli.display_available()
    monkeypatch.setenv("DISPLAY", "elsewhere:0")
    assert cli.display_available()
    monkeypatch.delenv("DISPLAY")
    monkeypatch.setenv("WAYLAND_DISPLAY", "wayland-9")
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    assert not cli.display_available()
    (tmp_path / "wayland-9").touch()
    assert cli.display_available()


def test_film_prints_greys(call, demo_master):
    shelf = demo_master.folder / "shelf.json"
    found = answer(call, "film", "--shelf", shelf, "--emulsion", "ortho")
    greys = {row["paint"]: row for row in found["greys"]}
    assert len(greys) > 40
    assert all(0 <= row["grey"] <= 1 for row in greys.values())
    assert {row["estimated"] for row in greys.values()} == {True, False}
    one = next(iter(greys))
    red = answer(
        call,
        "film",
        "--shelf",
        shelf,
        "--paint",
        one,
        "--emulsion",
        "pan",
        "--lens-filter",
        "red",
        "--light",
        "tungsten",
    )
    assert [row["paint"] for row in red["greys"]] == [one]
    assert red["greys"][0]["grey"] != greys[one]["grey"]
    code, _, err = call("film", "--shelf", shelf, "--paint", "nothing", "--emulsion", "pan")
    assert code == 2
    assert "'nothing'" in err


def test_predict(call, demo_master):
    shelf = str(demo_master.shelf_file)
    found = answer(
        call, "predict", "--shelf", shelf, "--parts", "chalk=3,ochre=1", "--parts", "bone-white=1,ochre=2"
    )
    strong, weak = found["predictions"]
    assert strong["knowledge"] == "spectral"
    assert weak["knowledge"] in ("two-constant", "one-constant")
    assert strong["de00_90"] < weak["de00_90"]
    over = answer(
        call, "predict", "--shelf", shelf, "--parts", "chalk=3,ochre=1", "--over", "20,0,0", "--coats", "1",
        "--thinner-share", "0.9",
    )["predictions"][0]  # fmt: skip
    assert over["lab"][0] < strong["lab"][0] - 5


def test_predict_takes_films_laid_before(call, demo_master):
    shelf = str(demo_master.shelf_file)
    ask = ("predict", "--shelf", shelf, "--parts", "chalk=1", "--over", "20,0,0", "--coats", "0.3")
    plain = answer(call, *ask)["predictions"][0]
    red = answer(call, *ask, "--film", "boot-red=1;2")["predictions"][0]
    assert red["lab"][1] > plain["lab"][1] + 3
    thinned = answer(call, *ask, "--film", "boot-red=1;2;0.9")["predictions"][0]
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


def test_test_swatches_are_read_from_a_card_and_learnt_from(call, demo_master, shelf_paints, tmp_path):
    import cv2

    from lean_sepia.demo.card_photo import Shot, photograph_card
    from lean_sepia.recipe.fades.fade import base_mixture

    mixed = {1: "3 Chalk, 1 Ochre", 2: "chalk=1 boot-red=1", 3: "Ochre"}
    parts = ([("chalk", 3), ("ochre", 1)], [("chalk", 1), ("boot-red", 1)], [("ochre", 1)])
    photo, listed, out = tmp_path / "card.jpg", tmp_path / "mixed.csv", tmp_path / "swatches.json"
    painted = [base_mixture(shelf_paints, one) for one in parts]
    cv2.imwrite(str(photo), photograph_card(painted, Shot(hand=1.0), 2)[..., ::-1])
    listed.write_text("field,parts\n" + "".join(f'{field},"{text}"\n' for field, text in mixed.items()))
    shelf = str(demo_master.shelf_file)
    ask = (
        "shelf",
        "read",
        str(photo),
        "--mixtures",
        str(listed),
        "--grey-lightness",
        "62",
        "--out",
        str(out),
    )
    found = answer(call, *ask, "--shelf", shelf)
    assert [swatch["field"] for swatch in found["swatches"]] == [1, 2, 3]
    assert found["swatches"][1]["parts"] == [
        {"paint": "chalk", "parts": 1},
        {"paint": "boot-red", "parts": 1},
    ]
    learnt = answer(
        call, "fit", "--shelf", shelf, "--swatches", str(out), "--out", str(tmp_path / "refined.json")
    )
    assert learnt["swatches"] == 3
    code, said, _ = call(*ask, "--shelf", shelf)
    assert code == 0
    assert "3 Chalk : 1 Ochre" in said
    for wrong, words in (((), "a shelf"), (("--shelf", shelf, "--names", str(listed)), "one of")):
        code, _, error = call(*ask, *wrong)
        assert code == 2
        assert words in error


def test_fit_writes_a_shelf_that_predicts_better(call, demo_master, tmp_path):
    shelf, out = str(demo_master.shelf_file), tmp_path / "refined.json"
    mixtures = [
        "chalk=1,ochre=1",
        "chalk=3,ochre=1",
        "chalk=1,buff=2",
        "ochre=1,buff=1",
        "chalk=5,ochre=2",
        "buff=1",
    ]
    asked = [piece for text in mixtures for piece in ("--parts", text)]
    labs = [one["lab"] for one in answer(call, "predict", "--shelf", shelf, *asked)["predictions"]]
    swatches = tmp_path / "swatches.json"
    painted = [
        {
            "parts": [{"paint": pair.split("=")[0], "parts": int(pair.split("=")[1])} for pair in text.split(",")],
            "lab": [lab[0] - 1.5, lab[1] + 0.8, lab[2] + 1.2], "date": "2031-03-03",
        }
        for text, lab in zip(mixtures, labs, strict=True)
    ]  # fmt: skip
    swatches.write_text(json.dumps({"swatches": painted}))
    found = answer(call, "fit", "--shelf", shelf, "--swatches", str(swatches), "--out", str(out))
    assert found["swatches"] == len(mixtures)
    assert found["after_de00"] < found["before_de00"]
    assert found["paints"] == ["buff", "chalk", "ochre"]
    refined = answer(call, "predict", "--shelf", str(out), "--parts", "chalk=2,ochre=1")["predictions"][0]
    plain = answer(call, "predict", "--shelf", shelf, "--parts", "chalk=2,ochre=1")["predictions"][0]
    assert refined["lab"][0] < plain["lab"][0] - 0.7
    old, new = json.loads(Path(shelf).read_text()), json.loads(out.read_text())
    assert len(new["paints"]) == len(old["paints"])
    untouched = [p for p in old["paints"] if p["id"] not in found["paints"]]
    assert [p for p in new["paints"] if p["id"] not in found["paints"]] == untouched


def test_swatches_that_contradict_each_other_are_said(call, demo_master, tmp_path):
    swatches = tmp_path / "swatches.json"
    painted = [{"parts": [{"paint": "ochre", "parts": 1}], "lab": lab} for lab in ([20, 0, 0], [90, 60, 60])]
    swatches.write_text(json.dumps({"swatches": painted}))
    code, out, _ = call(
        "fit", "--shelf", str(demo_master.shelf_file), "--swatches", str(swatches), "--out", str(tmp_path / "o.json")
    )  # fmt: skip
    assert code == 0
    assert "Nothing is gained: the swatches contradict each other" in out


def test_mix_keeps_to_limits(call, demo_master):
    shelf = str(demo_master.shelf_file)
    found = answer(
        call, "mix", "--shelf", shelf, "--target", "60,5,20", "--must", "ochre", "--forbid", "chalk", "--cup-ml", "6"
    )["results"][0]["recipes"]  # fmt: skip
    for recipe in found:
        names = {part["paint"] for part in recipe["parts"]}
        assert "ochre" in names
        assert "chalk" not in names


@pytest.mark.parametrize(
    ("content", "said"),
    [
        ("{", "not JSON"), ('{"paints": []}', "no list"), ('{"swatches": [3]}', "Swatch 1 is no swatch"),
        ('{"swatches": [{"lab": [50, 0, 0]}]}', "no parts"), ('{"swatches": []}', "no swatch"),
        ('{"swatches": [{"parts": [{"paint": "chalk", "parts": 0}], "lab": [50, 0, 0]}]}', "above 0"),
        ('{"swatches": [{"parts": [{"paint": "chalk", "parts": 1}]}]}', "no colour"),
        ('{"swatches": [{"parts": [{"paint": "chalk", "parts": 1}], "lab": [50, 0]}]}', "lab"),
        ('{"swatches": [{"parts": [{"paint": "chalk", "parts": 1}], "R": [0.5]}]}', "31"),
        ('{"swatches": [{"parts": [{"paint": "chalk", "parts": 1}], "lab": [50, 0, 0], "over": [20, 0, 0], "coats": 0}]}', "coats"),
    ],
)  # fmt: skip
def test_swatch_files_that_break_a_rule_are_refused(call, demo_master, tmp_path, content, said):
    swatches, out = tmp_path / "s.json", tmp_path / "out.json"
    swatches.write_text(content)
    code, _, error = call(
        "fit", "--shelf", str(demo_master.shelf_file), "--swatches", str(swatches), "--out", str(out)
    )
    assert code == 2
    assert said in error
    assert not out.exists()


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
