"""Whole jobs that must come out as said."""

import json
from copy import deepcopy
from pathlib import Path
from random import Random

import pytest

from lean_sepia.answers.whole.job_file import parse_job
from lean_sepia.answers.whole.laying_jobs import lay_job
from lean_sepia.answers.whole.told import told
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.shelf.shelf_file import read_shelf

HERE = Path(__file__).parent
CASES = [
    case
    for name in ("jobs.json", "more-jobs.json")
    for case in json.loads((HERE / name).read_text(encoding="utf-8"))["cases"]
]
_USUAL = {"start": "2031-03-03T19:00", "evenings": "mon-sun 18:00-22:00", "place": "indoors-extracted"}


@pytest.fixture(scope="module")
def bottles():
    return read_shelf(HERE / "shelf-typed.csv").paints()


def run(job, bottles):
    return told(lay_job(parse_job({**_USUAL, **job}), bottles))


def _seen(found, zone):
    return next(one["seen"] for one in found["zones"] if one["id"] == zone)


def _lying(found):
    return {zone["id"]: [coat["id"] for coat in zone["coats"]] for zone in found["zones"]}


class Found:
    """What came of a job, looked up by entry."""

    def __init__(self, found):
        self.found = found
        self.steps = {}
        for number, step in enumerate(found["steps"]):
            for place, name in enumerate(step["lays"]):
                self.steps.setdefault(name, (number, place, step))

    def says(self, wanted):
        code, _colon, severities = wanted.partition(":")
        return [
            f for f in self.found["findings"]
            if code in ("*", f["code"]) and (not severities or f["severity"] in severities.split("|"))
        ]  # fmt: skip

    def days(self, names):
        return {step["start"][:10] for step in self.found["steps"] for name in names if name in step["lays"]}

    def minutes(self, name):
        return sum(
            part["minutes"] for step in self.found["steps"] for part in step["parts"] if part["id"] == name
        )


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_a_job_comes_out_as_said(case, bottles):
    expect = case["expect"]
    found = run(case["job"], bottles)
    seen = Found(found)
    assert [one["id"] for one in found["refused"]] == expect.get("refused", [])
    lying = _lying(found)
    for low, high in expect.get("under", []):
        together = [stack for stack in lying.values() if low in stack and high in stack]
        assert together
        assert all(stack.index(low) < stack.index(high) for stack in together)
    for first, then in expect.get("before", []):
        assert seen.steps[first][:2] < seen.steps[then][:2]
    for names in expect.get("same_evening", []):
        assert len(seen.days(names)) == 1
    for names in expect.get("one_step", []):
        assert len({seen.steps[name][0] for name in names}) == 1
    for wanted in expect.get("has", []):
        assert seen.says(wanted)
    for unwanted in expect.get("not", []):
        assert seen.says(unwanted) == []
    for name in expect.get("absent", []):
        assert name not in seen.steps
    for name, (low, high) in expect.get("minutes", {}).items():
        assert low <= seen.minutes(name) <= high
    for name, (low, high) in expect.get("thinner", {}).items():
        assert all(low <= cup["thinner_ml"] <= high for cup in found["cups"] if name in cup["for"])


@pytest.mark.parametrize(
    "case", [c for c in CASES if {"seen_shift", "coat_shift"} & set(c["expect"])], ids=lambda c: c["name"]
)
def test_its_colours_move_as_said(case, bottles):
    found = run(case["job"], bottles)
    for zone, (low, high, without) in case["expect"].get("seen_shift", {}).items():
        less = {**case["job"], "lay": [e for e in case["job"]["lay"] if e["id"] not in without]}
        assert low <= float(delta_e00(_seen(found, zone), _seen(run(less, bottles), zone))) <= high
    for name, (low, high) in case["expect"].get("coat_shift", {}).items():
        for zone in found["zones"]:
            labs = {coat["id"]: coat["lab"] for coat in zone["coats"]}
            if name in labs:
                below = [lab for lab in list(labs.values())[: list(labs).index(name)] if lab]
                assert low <= float(delta_e00(labs[name], below[-1])) <= high


@pytest.mark.parametrize("case", [c for c in CASES if c["expect"].get("any_order")], ids=lambda c: c["name"])
@pytest.mark.parametrize("seed", range(3))
def test_it_comes_out_alike_laid_in_another_order(case, seed, bottles):
    other = deepcopy(case["job"])
    Random(seed).shuffle(other["lay"])
    assert _lying(run(other, bottles)) == _lying(run(case["job"], bottles))


@pytest.mark.parametrize("case", [c for c in CASES if c["expect"].get("keeps")], ids=lambda c: c["name"])
def test_put_in_order_and_offers_keep_what_lies_on_what(case, bottles):
    found = run(case["job"], bottles)
    assert all(offer["keeps"] or offer["asks"] for offer in found["offers"])
    plain = {key: value for key, value in case["job"].items() if key != "then"}
    assert _lying(found) == _lying(run(plain, bottles))


@pytest.mark.parametrize(
    ("entry", "said"),
    [
        ({"kind": "blend", "serves": ["base"]}, "does not work on"), ({"kind": "wipe-back", "serves": ["nobody"]}, "is not laid"),
        ({"kind": "filter", "of": "Puce"}, "names no paint"), ({"kind": "filter", "of": "Oil umber", "zones": ["bow"]}, "no zone of this job"),
        ({"kind": "filter", "of": "Oil umber", "on": {"after": "later"}}, "is not laid"), ({"kind": "varnishing"}, "it is one of"),
        ({"kind": "filter", "of": "Oil umber", "on": {"after": "odd"}}, "in a circle"), ({"kind": "filter", "passes": 0}, "passes"),
    ],
)  # fmt: skip
def test_what_cannot_be_laid_is_refused_and_the_rest_goes_on(entry, said, bottles):
    job = {
        "zones": [{"id": "hull", "area_cm2": 90}],
        "lay": [{"id": "odd", "zones": "all", **entry}, {"id": "base", "kind": "base", "of": "Sand"}],
    }
    found = run(job, bottles)
    assert [one["id"] for one in found["refused"]] == ["odd"]
    assert said in found["refused"][0]["message"]
    assert _lying(found) == {"hull": ["base"]}


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"zones": []}, "zones: there is at least 1"), ({"lay": [{"kind": "varnishing"}]}, "id"), ({"faulty": []}, "faulty"), ({"lay": [{"id": "a", "kind": "base"}] * 2}, "Two entries"),
        ({"surprise": 1}, "surprise"), ({"zones": [{"id": "a", "area_cm2": -1}]}, "area_cm2"), ({"then": [{"do": "dance"}]}, "do"),
    ],
)  # fmt: skip
def test_a_file_that_cannot_be_is_one_sentence(change, said):
    from lean_sepia.errors import BadInputError

    with pytest.raises(BadInputError, match=said):
        parse_job({"zones": [{"id": "hull"}], **change})
