"""Swatches from a card and from files, and what a shelf learns of them, on the command line."""

import json
from pathlib import Path

import pytest


def test_test_swatches_are_read_from_a_card_and_learnt_from(
    answer, call, demo_master, shelf_paints, tmp_path
):
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
    found = answer(*ask, "--shelf", shelf)
    assert [swatch["field"] for swatch in found["swatches"]] == [1, 2, 3]
    assert found["swatches"][1]["parts"] == [
        {"paint": "chalk", "parts": 1},
        {"paint": "boot-red", "parts": 1},
    ]
    learnt = answer("fit", "--shelf", shelf, "--swatches", str(out), "--out", str(tmp_path / "refined.json"))
    assert learnt["swatches"] == 3
    code, said, _ = call(*ask, "--shelf", shelf)
    assert code == 0
    assert "3 Chalk : 1 Ochre" in said
    for wrong, words in (((), "a shelf"), (("--shelf", shelf, "--names", str(listed)), "one of")):
        code, _, error = call(*ask, *wrong)
        assert code == 2
        assert words in error


def test_fit_writes_a_shelf_that_predicts_better(answer, demo_master, tmp_path):
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
    labs = [one["lab"] for one in answer("predict", "--shelf", shelf, *asked)["predictions"]]
    swatches = tmp_path / "swatches.json"
    painted = [
        {
            "parts": [{"paint": pair.split("=")[0], "parts": int(pair.split("=")[1])} for pair in text.split(",")],
            "lab": [lab[0] - 1.5, lab[1] + 0.8, lab[2] + 1.2], "date": "2031-03-03",
        }
        for text, lab in zip(mixtures, labs, strict=True)
    ]  # fmt: skip
    swatches.write_text(json.dumps({"swatches": painted}))
    found = answer("fit", "--shelf", shelf, "--swatches", str(swatches), "--out", str(out))
    assert found["swatches"] == len(mixtures)
    assert found["after_de00"] < found["before_de00"]
    assert found["paints"] == ["buff", "chalk", "ochre"]
    refined = answer("predict", "--shelf", str(out), "--parts", "chalk=2,ochre=1")["predictions"][0]
    plain = answer("predict", "--shelf", shelf, "--parts", "chalk=2,ochre=1")["predictions"][0]
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
