"""Colours, greys and wear from pictures on the command line."""

import numpy as np
import pytest
from PIL import Image

from lean_sepia.colour.ciede2000 import delta_e00


def test_sample(answer, demo_master):
    truth = demo_master.truth
    x, y, r = truth["spots"]["hull exposed"][0]
    lx, ly, lr = truth["spots"]["locker"][0]
    lightness = truth["labs"]["locker"]["fresh"][0]
    found = answer("sample", demo_master.photo("slide-1957.jpg"), "--neutral", f"{lx},{ly},{lr},{lightness}",
        "--area", "480,640,1240,688", "--at", f"{x},{y},{r}",
    )  # fmt: skip
    assert found["correction"]["anchor_error_de00"] is None
    (one,) = found["samples"]
    assert set(one) >= {"x", "y", "lab", "lab_range90", "de00_90", "pixels", "clipped_share"}
    assert float(delta_e00(one["lab"], truth["labs"]["hull"]["exposed"])) <= one["de00_90"]
    assert len(found["areas"][0]["lab"]) == 3


def test_sample_with_two_anchors_has_a_held_out_error(answer, demo_master):
    truth = demo_master.truth
    marks = []
    for spot in ("locker", "lettering"):
        x, y, r = truth["spots"][spot][0]
        marks += ["--anchor", ",".join(map(str, (x, y, r, *truth["labs"][spot]["fresh"])))]
    found = answer("sample", demo_master.photo("slide-1957.jpg"), *marks, "--at", "560,606,9")
    assert 0 < found["correction"]["anchor_error_de00"] < 10


def test_chart(answer, tmp_path):
    from importlib.resources import files

    from lean_sepia.colour.srgb import srgb_from_lab

    rows = np.loadtxt(str(files("lean_sepia.photo") / "data" / "chart_24.csv"), delimiter=",", skiprows=1)
    patches = (np.clip(srgb_from_lab(rows), 0, 1) * [1.0, 0.9, 0.7] * 255).astype(np.uint8).reshape(4, 6, 3)
    Image.fromarray(np.repeat(np.repeat(patches, 50, axis=0), 50, axis=1)).save(tmp_path / "chart.png")
    found = answer(
        "sample", tmp_path / "chart.png", "--chart", "25,25,275,25,275,175,25,175", "--at", "75,25,15"
    )
    assert float(delta_e00(found["samples"][0]["lab"], rows[1])) < 2.0


def test_film_prints_greys(answer, call, demo_master):
    shelf = demo_master.folder / "shelf.json"
    found = answer("film", "--shelf", shelf, "--emulsion", "ortho")
    greys = {row["paint"]: row for row in found["greys"]}
    assert len(greys) > 40
    assert all(0 <= row["grey"] <= 1 for row in greys.values())
    assert {row["estimated"] for row in greys.values()} == {True, False}
    one = next(iter(greys))
    red = answer(
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


def test_wear(answer, demo_master):
    truth = demo_master.truth
    box = ",".join(map(str, truth["wear_box"]))
    found = answer("wear", demo_master.photo("slide-1957.jpg"), "--region", box, "--base", "560,606,9", "--class", "rust=760,640,2",
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
