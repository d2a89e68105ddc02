"""Edits of steps and of how the work is done: nothing is lost, what cannot be is refused in words."""

from datetime import datetime, timedelta

import pytest

from lean_sepia.answers.bench import bench_steps, timers
from lean_sepia.answers.plan import answer, ask, clocks_of
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.working.before import checks_before
from lean_sepia.answers.working.mending import mend_of
from lean_sepia.answers.working.schools import outcome, pattern_orders
from lean_sepia.answers.working.small_parts import small_parts
from lean_sepia.document.check import broken_rule
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.joining import join_steps, split_step
from lean_sepia.document.edits.planning import (
    accept_finding,
    forget_wait,
    log_wait,
    set_deadline,
    set_drying,
    set_hours,
    set_step_done,
    set_workplace,
    speak_again,
    start_step,
    tick,
)
from lean_sepia.document.edits.step_changes import change_step
from lean_sepia.document.edits.steps import (
    add_step,
    arrange,
    arrange_around,
    duplicate_step,
    move_step_to,
    remove_step,
)
from lean_sepia.document.entities.planned import Workplace
from lean_sepia.document.model import Project, Surface
from lean_sepia.document.work import plan_steps
from lean_sepia.errors import EditError, PlanError
from lean_sepia.plan.order import Order
from lean_sepia.plan.owned import Owned

NOW = datetime(2031, 3, 3, 20)


def of_kind(project, kind):
    return [step for step in project.steps if step.kind == kind]


def coats_in(project, step):
    return {coat.zone for coat in project.coats if coat.step == step.id}


def sound(project):
    assert broken_rule(project) is None
    assert broken_rule(Project.model_validate_json(project.model_dump_json())) is None
    return project


def test_a_step_is_changed_with_the_coats_laid_in_it(worked):
    (satin,) = of_kind(worked, "satin-coat")
    project = sound(
        change_step(
            worked,
            satin.id,
            {
                "kind": "gloss-coat",
                "tool": "brush",
                "medium": "lacquer",
                "hands_on_min": 5.0,
                "title": "Shine",
            },
        )
    )
    step = project.step(satin.id)
    (coat,) = [coat for coat in project.coats if coat.step == satin.id]
    assert (step.kind, step.title, step.hands_on_min, step.medium) == ("gloss-coat", "Shine", 5, None)
    assert (coat.kind, coat.tool, coat.medium) == ("gloss-coat", "brush", "lacquer")
    planned = next(one for one in plan_steps(project) if one.id == satin.id)
    assert (planned.medium, planned.application, planned.material.finish) == ("lacquer", "brush", "gloss")
    with pytest.raises(EditError, match="mixed from"):
        change_step(worked, of_kind(worked, "base")[0].id, {"medium": "enamel"})
    with pytest.raises(EditError, match="lays none"):
        change_step(worked, satin.id, {"kind": "mask"})


def test_zones_of_a_step_are_zones_of_its_coats(worked):
    (satin,) = of_kind(worked, "satin-coat")
    project = sound(change_step(worked, satin.id, {"zones": ("boot", "house")}))
    assert coats_in(project, satin) == {"boot", "house"}
    with pytest.raises(EditError, match="needs a zone"):
        change_step(worked, satin.id, {"zones": ()})
    (mask,) = of_kind(worked, "mask")
    assert sound(change_step(worked, mask.id, {"zones": ()})).step(mask.id).zones == ()


def test_split_join_and_copy(worked):
    (primer,) = of_kind(worked, "primer")
    everywhere = coats_in(worked, primer)
    project, second = split_step(worked, primer.id, ["hull", "boot"])
    assert coats_in(sound(project), project.step(second)) == {"hull", "boot"}
    joined = sound(join_steps(project, primer.id, second))
    assert coats_in(joined, primer) == everywhere
    assert [step.id for step in joined.steps] == [step.id for step in worked.steps]
    with pytest.raises(EditError, match="not all"):
        split_step(worked, primer.id, sorted(everywhere))
    with pytest.raises(EditError, match="different work"):
        join_steps(worked, primer.id, of_kind(worked, "powder")[0].id)
    copied, twin = duplicate_step(worked, primer.id)
    assert coats_in(sound(copied), copied.step(twin)) == everywhere
    with pytest.raises(EditError, match="two coats"):
        join_steps(copied, primer.id, twin)


def test_work_on_one_part_is_split_into_two_sittings(worked):
    (wash,) = of_kind(worked, "satin-coat")
    project, more = split_step(worked, wash.id)
    assert sound(project).step(more).kind == "other"
    assert project.step(wash.id).hands_on_min == project.step(more).hands_on_min == 7.5
    assert project.steps.index(project.step(more)) == project.steps.index(project.step(wash.id)) + 1


def test_removing_takes_coats_ties_and_what_was_accepted(worked):
    (primer,), (powder,) = of_kind(worked, "primer"), of_kind(worked, "powder")
    (matte,) = of_kind(worked, "matte-coat")
    project = change_step(worked, powder.id, {"after": (primer.id,)})
    project = accept_finding(project, "powder-fades-under-varnish", matte.id, powder.id, "faint")
    project = sound(remove_step(project, primer.id))
    assert project.step(powder.id).after == ()
    assert not any(coat.kind == "primer" for coat in project.coats)
    assert sound(remove_step(project, powder.id)).accepted == ()


def test_put_in_order_moves_only_what_the_user_did_not_place(worked):
    (powder,) = of_kind(worked, "powder")
    (matte,) = of_kind(worked, "matte-coat")
    held = put(worked, "steps", matte.model_copy(update={"by_hand": True}))
    assert arrange(held) is held  # both were placed by hand: the fault is meant or moved by the user
    assert (
        arrange_around(worked, worked) is worked
    )  # what was said before is not moved when something is added
    loose = put(worked, "steps", powder.model_copy(update={"by_hand": False}))
    project = sound(arrange(loose))
    assert not [f for f in answer(ask(project)).findings if f.severity != "note"]
    last = move_step_to(project, project.steps[0].id, 99)
    assert last.steps[-1].by_hand


def test_a_mend_moves_or_adds_and_leaves_nothing_worse(worked):
    found = answer(ask(worked))
    (finding,) = found.findings
    mend = mend_of(worked, finding)
    assert "Quay dust" in mend.words
    assert not answer(ask(sound(mend.project))).findings
    project, _pin = add_step(Project.model_validate(worked.model_dump()), "pin-wash", ["house"], medium="oil")
    (flat,) = [f for f in answer(ask(project)).findings if f.code == "wash-on-matte"]
    mended = sound(mend_of(project, flat).project)
    assert "wash-on-matte" not in {f.code for f in answer(ask(mended)).findings}


def test_what_is_meant_stays_quiet_with_its_reason(worked):
    (finding,) = answer(ask(worked)).findings
    with pytest.raises(EditError, match="why"):
        accept_finding(worked, finding.code, finding.step, finding.after, " ")
    project = sound(accept_finding(worked, finding.code, finding.step, finding.after, "faint"))
    again = sound(accept_finding(project, finding.code, finding.step, finding.after, "really faint"))
    assert [one.reason for one in again.accepted] == ["really faint"]
    assert answer(ask(again)).findings == ()
    assert len(answer(ask(again)).quiet) == 1
    assert answer(ask(speak_again(again, again.accepted[0].id))).findings


def test_clocks_run_from_when_a_step_was_done(worked):
    wash, primer = worked.steps[0].id, worked.steps[1].id
    project = start_step(worked, wash, NOW)
    project = sound(set_step_done(project, wash, True, NOW + timedelta(minutes=17)))
    assert project.step(wash).spent_min == 17
    found = answer(ask(project, NOW + timedelta(hours=1)))
    assert found.placed[wash].end == NOW + timedelta(minutes=17)
    assert found.placed[primer].start >= NOW + timedelta(hours=1)
    cuts = {zone.id: strata_of(project, zone.id) for zone in project.zones}
    ready = [one for one in timers(found, bench_steps(project, cuts, found)) if one.kind == "ready"]
    assert ready[0].moment == NOW + timedelta(minutes=17 + 120)
    assert clocks_of(found)[primer].not_before == ready[0].moment
    undone = set_step_done(project, wash, False)
    assert (undone.step(wash).ended, undone.step(wash).spent_min) == ("", None)


def test_where_two_waits_are_usual_the_longer_is_told_too(worked):
    """Varnish before lettering: three hours at least, overnight is safe."""
    project = set_hours(worked, "2031-03-03T08:00", "daily 8:00-22:00")
    (satin,), (marking,) = of_kind(project, "satin-coat"), of_kind(project, "marking")
    found = answer(ask(project))
    clocks = clocks_of(found)[marking.id]
    end = found.placed[satin.id].end
    assert (clocks.not_before, clocks.safe) == (end + timedelta(hours=3), end + timedelta(hours=12))


def test_a_step_that_is_late_is_a_stop_in_the_schedule(worked):
    """Oil dots done three days ago and still not drawn out: the plan says what can still be done."""
    project, dots = add_step(worked, "oil-dots", ["house"], medium="oil", place=len(worked.steps))
    project, blend = add_step(project, "blend", ["house"], place=len(project.steps))
    for step in project.steps[:-1]:
        project = set_step_done(project, step.id, True, NOW)
    late = [f for f in answer(ask(project, NOW + timedelta(days=3))).findings if f.code == "too-late"]
    assert [(f.severity, f.step, f.after) for f in late] == [("stop", blend, dots)]
    assert "spare part" in late[0].message


def test_hours_place_and_drying_are_kept_and_checked(worked):
    project = sound(set_hours(worked, "2031-03-03T19:00", "daily 8:00-20:00"))
    project = set_deadline(project, "2031-03-04T20:00")
    found = answer(ask(project))
    assert found.late is not None
    assert answer(ask(set_deadline(project, ""))).late is None
    for bad in ("soon", "2031-03-04T20:00+01:00"):
        with pytest.raises(EditError, match="date and time"):
            set_deadline(project, bad)
    slow = answer(ask(set_drying(project, 3.0))).schedule.finish
    assert slow > found.schedule.finish
    with pytest.raises(PlanError):
        set_workplace(project, Workplace(daylight="sometimes"))
    with pytest.raises(EditError, match="warmest"):
        set_workplace(project, Workplace(coldest_c=20, warmest_c=10))


def test_a_deadline_says_what_to_leave_out(worked):
    project = set_hours(worked, "2031-03-03T08:00", "daily 8:00-20:00")
    whole = answer(ask(project)).schedule.finish
    found = answer(ask(set_deadline(project, (whole - timedelta(hours=2)).isoformat())))
    kinds = {project.step(name).kind for name in found.dropped}
    assert found.dropped
    assert not kinds & {"primer", "base", "marking", "matte-coat"}
    assert answer(ask(set_deadline(project, "2031-03-03T12:00"))).dropped == ()


def test_without_a_booth_sprays_go_outdoors_by_daylight(worked):
    project = worked.model_copy(update={"owns": Owned(booth=False)})
    sprays = [step for step in plan_steps(project) if step.sprayed and step.nature.leaves_film]
    assert {step.place for step in sprays} == {"outdoors"}
    found = answer(ask(set_hours(project, "2031-03-03T19:00", "mon-fri 19:00-21:30,sat 10:00-16:00")))
    days = {found.placed[step.id].start.weekday() for step in sprays}
    assert days == {5}
    inside = set_workplace(project, Workplace(place="indoors"))
    assert "spray-mist-indoors" in {f.code for f in answer(ask(inside)).findings}
    never = answer(ask(set_hours(project, "2031-03-03T19:00", "daily 19:00-21:30")))
    assert "outdoors" in never.fault


def test_waits_that_were_logged_count_first(worked):
    project = sound(log_wait(worked, "primer", None, "base", 45.0))
    project = log_wait(project, "primer", None, "base", 50.0, "warm room")
    assert [one.minutes for one in project.waits] == [50]
    found = answer(ask(set_hours(project, "2031-03-03T08:00", "daily 8:00-20:00")))
    primer, base = of_kind(project, "primer")[0].id, of_kind(project, "base")[0].id
    assert found.placed[base].start - found.placed[primer].end < timedelta(hours=2)
    assert forget_wait(project, project.waits[0].id).waits == ()


def test_the_list_before_a_seal_is_made_from_the_project(worked):
    (satin,) = of_kind(worked, "satin-coat")
    steps = Order(plan_steps(worked))
    checks = {
        check.code: check
        for check in checks_before(worked, steps, next(s for s in steps if s.id == satin.id))
    }
    assert any(code.startswith("done ") for code in checks)
    assert {"faces", "small", "dust", "loose"} <= set(checks)
    ticked = tick(worked, satin.id, "faces", True)
    again = checks_before(
        ticked, Order(plan_steps(ticked)), next(s for s in plan_steps(ticked) if s.id == satin.id)
    )
    assert next(check for check in again if check.code == "faces").ticked
    assert tick(ticked, satin.id, "faces", False).step(satin.id).ticked == ()
    boot = next(s for s in steps if s.kind == "base" and s.zones == ("boot",))
    assert any("pressed down" in check.words for check in checks_before(worked, steps, boot))
    assert checks_before(worked, steps, next(s for s in steps if s.kind == "powder")) == ()


def test_glass_and_parts_that_hide_are_on_the_list(worked):
    project, _glass = add_step(worked, "fit-glass", ["house"], place=6)
    project, _fit = add_step(project, "assemble", ["house"], place=len(project.steps))
    steps = Order(plan_steps(project))
    (matte,) = [s for s in steps if s.kind == "matte-coat"]
    words = " ".join(check.words for check in checks_before(project, steps, matte))
    assert "Glass masked" in words
    assert "hidden later by" in words


def test_schools_compared_on_the_project(worked):
    question = ask(worked)
    first, smooth = (outcome(worked, question, "decals", choice) for choice in ("gloss-first", "smooth"))
    assert smooth.steps == first.steps - 1
    assert smooth.finish <= first.finish
    assert first.masking.masks == smooth.masking.masks == 1
    assert 0 < first.undoable <= first.steps


def test_a_pattern_of_the_project_is_costed_both_ways(worked):
    zones = [
        zone.model_copy(update={"surface": "u1"}) if zone.id in ("hull", "boot") else zone
        for zone in worked.zones
    ]
    project = worked.model_copy(update={"surfaces": (Surface(id="u1", name="Side"),), "zones": tuple(zones)})
    found = pattern_orders(project, "u1")
    assert found.base_first.masks == found.reverse.masks == 1
    assert found.base_first.masked_cm2 != found.reverse.masked_cm2


def test_small_parts_are_listed_by_colour(worked):
    tiny = tuple(zone.model_copy(update={"area_cm2": 4.0}) for zone in worked.zones)
    groups = small_parts(worked.model_copy(update={"zones": tiny}))
    assert {zone.id for group in groups for zone in group.zones} == {"hull", "boot", "house", "funnel"}
    assert (
        small_parts(
            worked.model_copy(
                update={"zones": tuple(z.model_copy(update={"area_cm2": 90.0}) for z in worked.zones)}
            )
        )
        == ()
    )
