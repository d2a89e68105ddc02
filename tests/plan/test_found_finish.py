"""A found finish of unknown medium: what could attack it warns and asks for a test spot; it never stops."""

import pytest

from lean_sepia.plan.plan_file import parse_plan
from lean_sepia.plan.rules.table import check_plan
from lean_sepia.plan.waits.drying import USUAL


def plan(medium, kind, over, application="glaze"):
    found = {"id": "a", "kind": "found", "zones": ["body"]}
    if medium:
        found["material"] = {"medium": medium}
    step = {
        "id": "b",
        "kind": kind,
        "zones": ["body"],
        "material": {"medium": over},
        "application": application,
    }
    return parse_plan({"steps": [found, step]}).steps


@pytest.mark.parametrize("medium", [None, "unknown"])
@pytest.mark.parametrize(
    ("kind", "over"), [("filter", "oil"), ("base", "lacquer"), ("base", "acrylic-alcohol")]
)
def test_what_bites_warns_and_asks_for_a_hidden_spot(medium, kind, over):
    findings = [one for one in check_plan(plan(medium, kind, over)) if one.code == "solvent-attacks-base"]
    assert [one.severity for one in findings] == ["warn"]
    assert "hidden spot" in findings[0].message


def test_water_and_powder_do_not_warn():
    assert not [
        f for f in check_plan(plan("unknown", "base", "acrylic-water")) if f.code == "solvent-attacks-base"
    ]
    assert not [f for f in check_plan(plan("unknown", "dust", "pigment")) if f.code == "solvent-attacks-base"]


def test_a_known_enamel_stops_as_ever_and_needs_no_wait():
    findings = check_plan(plan("enamel", "filter", "oil"))
    assert "stop" in {one.severity for one in findings if one.code == "solvent-attacks-base"}
    steps = plan("unknown", "filter", "oil")
    assert (steps[0].hands_min, USUAL.wait(*steps).not_before) == (0, 0)
