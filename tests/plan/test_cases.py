"""Sequences of steps that every check of a plan must answer: sound practice passes, known mistakes are found."""

import json
from pathlib import Path

import pytest
from tests.plan.sequences import sequence

from lean_sepia.plan.rules.table import check_plan

CASES = json.loads((Path(__file__).parent / "cases" / "plan.json").read_text())["cases"]


def matches(pattern, found):
    code, _colon, severities = pattern.partition(":")
    return any(
        (code in ("*", one.code)) and (not severities or one.severity in severities.split("|"))
        for one in found
    )


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_case(case):
    plan = sequence(*case["steps"], schools=case.get("schools"))
    found = check_plan(plan.steps, plan.schools)
    for wanted in case.get("has", ()):
        assert matches(wanted, found), (wanted, found)
    for unwanted in case.get("not", ()):
        assert not matches(unwanted, found), (unwanted, found)
