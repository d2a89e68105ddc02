"""Commands given what no command can use: exit code 2, one line, nothing written."""

import json
import os

import pytest
from PIL import Image

PLAN = {"steps": [{"id": "a", "kind": "base", "zones": ["hull"]}]}
WEAR = ("--region", "1,1,9,9", "--base", "5,5,2")


@pytest.fixture
def place(tmp_path, monkeypatch):
    """A folder with a little of everything, in which the command runs."""
    monkeypatch.chdir(tmp_path)
    (tmp_path / "folder").mkdir()
    os.mkfifo(tmp_path / "pipe")
    (tmp_path / "endless").symlink_to("/dev/zero")
    (tmp_path / "plan.json").write_text(json.dumps(PLAN))
    Image.new("RGB", (20, 20), (90, 120, 130)).save(tmp_path / "a.png")
    return tmp_path


def refused(call, *arguments):
    code, out, err = call(*arguments)
    assert code == 2, (code, err)
    assert out == ""
    assert len(err.strip().splitlines()) == 1
    assert "Traceback" not in err
    return err


@pytest.mark.parametrize(
    "given", ["", "folder", "pipe", "endless", "missing", "n" * 5000, os.fsdecode(b"\xff.png")]
)
@pytest.mark.parametrize(
    "command",
    [
        ("plan", "check", "{}"), ("plan", "schedule", "{}", "--start", "2031-03-03T19:00", "--evenings", "daily 19:00-21:00"),
        ("sample", "{}", "--at", "5,5,2"), ("wear", "{}", *WEAR, "--mm-per-px", "1", "--scale", "72"),
        ("mix", "--shelf", "{}", "--target", "50,0,0"), ("card", "{}", "--pdf", "out.pdf"),
        ("shelf", "read", "{}", "--names", "plan.json", "--out", "out.json"),
        ("shelf", "read", "a.png", "--names", "{}", "--out", "out.json"), ("fit", "--shelf", "{}", "--swatches", "plan.json"),
    ],
)  # fmt: skip
def test_no_input_but_a_file(call, place, command, given):
    refused(call, *(part.format(given) for part in command))
    assert not (place / "out.pdf").exists()
    assert not (place / "out.json").exists()


@pytest.mark.parametrize("given", ["", ".", "folder", "pipe", "endless", "missing/a.pdf", "n" * 300])
def test_no_output_but_a_place_for_a_file(call, place, given):
    before = sorted(os.listdir(place))
    refused(call, "swatch-card", "--pdf", given)
    assert sorted(os.listdir(place)) == before
    if given == "":
        refused(call, "tour", given)


@pytest.mark.parametrize("number", ["1e308", "nan", "inf", "-1", "0", "²", "١", "9" * 5000, "1_0", ""])
def test_no_size_but_a_number(call, place, number):
    refused(call, "wear", "a.png", *WEAR, f"--mm-per-px={number}", "--scale", "72")
    refused(call, "wear", "a.png", *WEAR, "--mm-per-px", "1", f"--scale={number}")


@pytest.mark.parametrize(
    "moment", ["9999-12-31T23:59", "0001-01-01", "2031-02-30", "²", "", "tomorrow", "9" * 5000]
)
def test_no_start_but_a_date_of_our_time(call, place, moment):
    refused(call, "plan", "schedule", "plan.json", f"--start={moment}", "--evenings", "daily 19:00-21:00")


@pytest.mark.parametrize(
    "steps",
    [
        '[{"id": "a", "kind": "base", "full_cure_min": Infinity}]', '[{"id": "a", "kind": "base", "full_cure_min": 1e300}]',
        '[{"id": "a", "kind": "base", "start": "9999-12-31"}]', "[" * 50_000, '[{"id": "a", "kind": "base", "hands_on_min": %s}]' % ("9" * 5000),
        '[{"id": "\\ud800", "kind": "base"}]', '[{"id": "a", "kind": ["base"]}]', '[{"id": "a", "kind": "base", "zones": {"a": 1}}]',
        '[{"id": "a", "kind": "base", "lab": "x", "after": ["a"]}]',
    ],
)  # fmt: skip
def test_no_plan_but_one_that_can_be_meant(call, place, steps):
    (place / "plan.json").write_text(f'{{"steps": {steps}}}')
    refused(call, "plan", "check", "plan.json")


def test_moments_with_and_without_a_time_zone_are_compared(call, place):
    steps = [
        {"id": "a", "kind": "base", "start": "2031-03-03T19:00+02:00", "end": "2031-03-03T19:30Z"},
        {"id": "b", "kind": "gloss-coat", "start": "2031-03-03T20:00", "end": "2031-03-03T20:30"},
    ]
    (place / "plan.json").write_text(json.dumps({"steps": steps}))
    code, out, err = call("plan", "check", "plan.json", "--json")
    assert code == 0, err
    assert "not-cured" in {finding["code"] for finding in json.loads(out)["findings"]}
