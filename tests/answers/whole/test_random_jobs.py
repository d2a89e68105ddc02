"""Whole jobs by chance: no edit of the program's own turns coats over, what serves lies behind what it serves and within its clocks, offers keep their word."""

import os

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from lean_sepia.answers.plan import answer, ask
from lean_sepia.answers.whole.job_file import parse_job
from lean_sepia.answers.whole.laying_jobs import lay_job
from lean_sepia.answers.whole.told import told
from lean_sepia.answers.working.mending import mend_of
from lean_sepia.document.check import broken_rule
from lean_sepia.document.edits.steps import arrange
from lean_sepia.document.serving import served, serving_kinds
from lean_sepia.document.work import drying_of
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.placing import phase
from lean_sepia.plan.step import PlanStep
from lean_sepia.shelf.content import build_paints

_RECORDS = [
    {"id": i, "name": n, "medium": m, "finish": f, "lab": lab, **more}
    for i, n, m, f, lab, more in (
        ("tan", "Tan", "acrylic-water", "flat", [62, 5, 22], {}), ("pine", "Pine", "acrylic-water", "flat", [38, -12, 10], {}),
        ("aq", "Quick olive", "acrylic-alcohol", "flat", [38, -2, 17], {}), ("lac", "Lacquer red", "lacquer", "satin", [33, 40, 25], {}),
        ("pr", "Primer", "acrylic-water", "flat", [60, 0, 0], {"use": "primer"}), ("ow", "Oil white", "oil", "satin", [93, 0, 3], {}),
        ("ou", "Oil umber", "oil", "satin", [26, 5, 10], {}), ("en", "Enamel rust", "enamel", "flat", [34, 18, 22], {}),
        ("bw", "Bilge wash", "enamel", "satin", [26, 4, 9], {"use": "wash"}), ("pd", "Pale dust", "pigment", "flat", [74, 3, 13], {}),
    )
]  # fmt: skip
_RECORDS += [
    {"id": f, "name": f"Clear {f}", "medium": "acrylic-water", "finish": f, "use": "varnish", "body": "clear"}
    for f in ("flat", "satin", "gloss")
]
_OF = {
    "primer": ("Primer",), "base": ("Tan", "Pine", "Quick olive", "Lacquer red"), "camouflage": ("Pine", "Quick olive"), "fade": ("Tan",),
    "filter": ("Oil umber",), "wash": ("Bilge wash", "Oil umber"), "pin-wash": ("Bilge wash",), "oil-dots": ("Oil white", "Oil umber"),
    "chips": ("Enamel rust", "Pine"), "streaks": ("Enamel rust", "Oil umber"), "powder": ("Pale dust",), "dust": ("Pale dust",),
    "marking": ("#eeeeea",), "gloss-coat": ("",), "satin-coat": ("",), "matte-coat": ("",), "blend": ("",), "wipe-back": ("",),
    "setting-solution": ("",), "mask": ("",), "unmask": ("",), "touch-up": ("Tan",), "scrape": ("",),
}  # fmt: skip
_ZONES = ("hull", "deck", "mast")


@pytest.fixture(scope="module")
def bottles():
    return build_paints(_RECORDS)


@st.composite
def jobs(draw):
    kinds = draw(st.lists(st.sampled_from(sorted(_OF)), min_size=2, max_size=9))
    entries = []
    for number, kind in enumerate(["base", *kinds]):
        zones = (
            draw(st.sampled_from(["all", ["hull"], ["deck"], ["hull", "deck"], ["mast", "hull"]]))
            if number
            else "all"
        )
        tool = draw(st.sampled_from([None, *KINDS[kind].tools[:2]])) if KINDS[kind].tools else None
        entry = {"id": f"e{number}", "kind": kind, "zones": zones, "of": draw(st.sampled_from(_OF[kind]))}
        entries.append(entry | ({"tool": tool} if tool and tool != "spray-can" else {}))
    return {
        "scale": 72, "start": "2031-03-03T19:00", "evenings": "mon-sun 18:00-22:00", "place": "indoors-extracted",
        "zones": [{"id": zone, "area_cm2": area} for zone, area in zip(_ZONES, (120, 40, 6), strict=True)], "lay": entries,
    }  # fmt: skip


def _sequences(project):
    return {zone.id: [coat.id for coat in project.coats_of(zone.id)] for zone in project.zones}


_RUN = settings(
    max_examples=int(os.environ.get("RANDOM_JOBS", "30")),
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow],
)


@given(jobs())
@_RUN
def test_what_lies_on_what_is_kept_by_everything_the_program_does_itself(bottles, data):
    state = lay_job(parse_job(data), bottles)
    project = state.project
    assert broken_rule(project) is None
    before = _sequences(project)
    assert _sequences(arrange(project)) == before
    plan = answer(ask(project))
    for finding in plan.findings[:3]:
        mend = mend_of(project, finding)
        if mend is None:
            continue
        after = _sequences(mend.project)
        kept = all(
            [c for c in after[z] if c in was] == [c for c in was if c in after[z]]
            for z, was in before.items()
        )
        assert kept is not bool(mend.turned)


@given(jobs())
@_RUN
def test_what_serves_lies_behind_what_it_serves_and_within_its_clocks(bottles, data):
    project = lay_job(parse_job(data), bottles).project
    order = [step.id for step in project.steps]
    plan = answer(ask(project))
    placed, drying = plan.placed, drying_of(project)
    steps = {step.id: step for step in plan.question.steps}
    for step in project.steps:
        for name in served(project, step) if step.kind in serving_kinds() else ():
            assert order.index(name) < order.index(step.id)
            assert step.kind in project.step(name).nature.served_by
            if step.id not in placed or name not in placed:
                continue
            assert placed[step.id].start >= placed[name].end
            closed = drying.wait(steps[name], steps[step.id]).closed
            if closed is not None and not any(f.code in ("too-late", "sealed-in") for f in plan.findings):
                assert (placed[step.id].start - placed[name].end).total_seconds() / 60 <= closed + 1e-6


@given(jobs(), st.randoms(use_true_random=False))
@_RUN
def test_laid_in_another_order_coats_of_different_phases_lie_alike(bottles, data, dice):
    shuffled = {**data, "lay": dice.sample(data["lay"], len(data["lay"]))}
    one, two = (told(lay_job(parse_job(job), bottles)) for job in (data, shuffled))
    steps = {e["id"]: PlanStep(id=e["id"], kind=e["kind"], application=e.get("tool")) for e in data["lay"]}
    of = {name: phase(step, {}, [s for s in steps.values() if s is not step]) for name, step in steps.items()}
    if len(set(of.values())) < len(of):
        return  # of one phase, what is laid later lies above
    for first, second in zip(one["zones"], two["zones"], strict=True):
        assert [c["id"] for c in first["coats"]] == [c["id"] for c in second["coats"]]


@given(jobs())
@_RUN
def test_steps_are_told_in_order_of_time_and_every_entry_is_done_or_refused(bottles, data):
    found = told(lay_job(parse_job(data), bottles))
    starts = [step["start"] for step in found["steps"]]
    assert starts == sorted(starts)
    done = {name for step in found["steps"] for name in step["lays"]}
    refused = {one["id"] for one in found["refused"]}
    assert done | refused == {entry["id"] for entry in data["lay"]}
    assert not done & refused
