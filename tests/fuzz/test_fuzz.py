"""A short round of each attack that `./sepia fuzz` makes for longer, with seeds that stay the same."""

import json
import os
from functools import partial

import pytest
from fuzzing.__main__ import run_part
from fuzzing.pictures import samples
from fuzzing.texts import file_targets, phrase_targets
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from lean_sepia.errors import SepiaError
from lean_sepia.photo.read import decode_picture

QUICK = settings(max_examples=60, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
ATOMS = st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8)


def json_like():
    """Values of any shape, with the fields that are looked for among them."""
    names = st.sampled_from(
        [
            "steps",
            "paints",
            "swatches",
            "id",
            "kind",
            "lab",
            "parts",
            "zones",
            "R",
            "K",
            "format",
            "coats",
            "hands_on_min",
        ]
    )
    return st.recursive(
        ATOMS,
        lambda inner: st.lists(inner, max_size=4) | st.dictionaries(names, inner, max_size=5),
        max_leaves=20,
    )


def answer_of(act):
    """ "read", or the words with which it was refused; anything else is what is looked for."""
    try:
        act()
    except SepiaError as error:
        return str(error)
    return "read"


LONG_ENOUGH_S = 1200
"""A round ends by its count; on a slow or busy machine it takes longer and tries the same."""


@pytest.mark.parametrize(
    ("part", "most"),
    [
        ("texts", 2500), ("pictures", 250), ("projects", 60), ("kills", 12), ("journals", 60), ("folders", 3), ("clocks", 8),
    ],
)  # fmt: skip
def test_nothing_but_words(part, most, tmp_path):
    done = run_part(part, LONG_ENOUGH_S, 20260101, tmp_path, most)
    assert done.failures == []
    assert done.count == most


@pytest.fixture
def master(qapp, demo_master, tmp_path, monkeypatch):
    """Parts that open windows use the demo that is there, and note mistakes in a place of their own."""
    monkeypatch.setattr("lean_sepia.demo.folder.ensure_demo", lambda *_a, **_k: demo_master)
    monkeypatch.setattr("lean_sepia.ui.kit.faults.report_file", lambda: tmp_path / "mistakes.txt")


@pytest.mark.parametrize(("part", "most"), [("acts", 2), ("fields", 150), ("starts", 25)])
def test_hands_that_are_quick(part, most, master, tmp_path):
    done = run_part(part, LONG_ENOUGH_S, 20260101, tmp_path, most)
    assert done.failures == []
    assert done.count == most


def test_hands_that_know_nothing(qapp, tmp_path, demo_master, monkeypatch):
    monkeypatch.setattr("lean_sepia.demo.folder.ensure_demo", lambda *_a, **_k: demo_master)
    monkeypatch.setattr("lean_sepia.ui.kit.faults.report_file", lambda: tmp_path / "mistakes.txt")
    for name in ("getOpenFileName", "getOpenFileNames", "getSaveFileName"):
        monkeypatch.setattr(f"PySide6.QtWidgets.QFileDialog.{name}", None)  # put back afterwards
    done = run_part("monkey", LONG_ENOUGH_S, 20260101, tmp_path, 120)
    assert done.failures == []
    assert done.count == 120


@pytest.mark.parametrize("target", phrase_targets(), ids=lambda target: target.name)
@QUICK
@given(text=st.text(max_size=60))
def test_any_phrase_is_read_or_refused(target, text):
    assert answer_of(lambda: target.read(text))


@pytest.fixture(scope="module")
def importers(tmp_path_factory):
    return {target.name: target for target in file_targets(tmp_path_factory.mktemp("importers"))}


@pytest.mark.parametrize("name", ["shelf", "plan", "swatches", "document"])
@QUICK
@given(data=json_like())
def test_any_shape_is_read_or_refused(importers, name, data):
    assert answer_of(lambda: importers[name].read(json.dumps(data)))


@QUICK
@given(data=st.binary(max_size=200), place=st.integers(0, 20))
def test_any_bytes_are_no_picture_or_one(data, place):
    for given_bytes in (data, samples()[place][: len(data)] + data):
        assert answer_of(partial(decode_picture, given_bytes, "a.jpg"))


def test_the_program_says_what_it_tried(capsys, tmp_path, monkeypatch):
    from fuzzing import __main__ as program

    monkeypatch.chdir(os.fspath(tmp_path))
    assert program.main(["part", "texts", "0.2", "3", str(tmp_path)]) == 0
    assert "refused in words, 0 failures (seed 3)" in capsys.readouterr().out
