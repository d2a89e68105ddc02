"""Plans and the bench card on the command line."""

import json

import pytest


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


def test_plan_check(answer, plan_file):
    found = answer("plan", "check", plan_file)["findings"]
    assert {finding["code"] for finding in found} == {"solvent-attacks-base", "wash-on-matte"}
    assert set(found[0]) == {"code", "severity", "step", "after", "message"}
    assert found[0]["severity"] == "stop"
    dated = answer(
        "plan", "check", plan_file, "--start", "2031-03-03T19:00", "--evenings", "mon-fri 19:00-21:30"
    )["findings"]
    assert "not-cured" in {finding["code"] for finding in dated}


def test_plan_schedule(answer, plan_file):
    found = answer(
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
