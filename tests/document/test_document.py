"""Edits, targets, strata and advice on the demo's document."""

import numpy as np
import pytest

from lean_sepia.answers.advice import advice, room_states
from lean_sepia.answers.match import base_laying
from lean_sepia.answers.rooms.evidence import contradiction
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.answers.stages import last_compared
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.targets import targets_of
from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.document.called import title_of
from lean_sepia.document.check import dangling_reference
from lean_sepia.document.edits.coats import (
    lay_fade,
    lay_marking,
    lay_primer,
    lay_varnish,
    move_coat,
    pin_base,
    switch_coat,
)
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.photos import add_photo
from lean_sepia.document.edits.steps import move_step
from lean_sepia.document.edits.zones import add_zone, remove_zone, state_target
from lean_sepia.document.model import Project, Sample
from lean_sepia.document.versions import paint_of, recipe_paint, version_of
from lean_sepia.document.work import plan_steps
from lean_sepia.errors import EditError
from lean_sepia.photo.combine import error_of_mean
from lean_sepia.plan.rules.table import check_plan


def sample(identity, role, lab, radius=3.0, photo="f1"):
    around = tuple((value - 1, value + 1) for value in lab)
    return Sample(id=identity, photo=photo, zone="hull", role=role, x=1, y=1, radius=2, lab=lab, lab_range90=around,
                  de00_90=radius, pixels=9, clipped_share=0)  # fmt: skip


def test_the_demo_is_half_worked(worked, cuts):
    assert dangling_reference(worked) is None
    matched = [zone for zone, cut in cuts(worked).items() if cut.fresh]
    assert len(matched) >= 2
    assert any(coat.kind == "fade" for coat in worked.coats)
    assert worked.steps
    assert worked.signature
    states = room_states(worked, cuts(worked))
    assert set(states) == set(ROOMS)
    assert all(states[room].state != "nothing yet" for room in ROOMS if room != "bench")


def test_targets_come_from_their_roles(worked):
    project = worked.model_copy(
        update={"samples": (sample("a", "base", (50.0, 0.0, 0.0)), sample("b", "faded", (60.0, 0.0, 0.0)))}
    )
    targets = targets_of(project, "hull")
    assert targets.fresh.lab[0] == 50
    assert targets.exposed.lab[0] == 60
    with_sheltered = project.model_copy(
        update={"samples": (*project.samples, sample("c", "sheltered", (45.0, 0.0, 0.0)))}
    )
    assert targets_of(with_sheltered, "hull").fresh.lab[0] == 45
    assert targets_of(project, "gear").fresh is None


def test_photos_of_the_model_are_no_evidence_of_the_prototype(worked):
    project = put(worked, "samples", sample("m1", "sheltered", (90.0, 40.0, 40.0), photo="f4"))
    assert project.photo("f4").of_model
    assert targets_of(project, "hull") == targets_of(worked, "hull")


def test_samples_of_one_photo_do_not_narrow_the_range(worked):
    same = worked.model_copy(
        update={"samples": tuple(sample(str(i), "base", (50.0, 0.0, 0.0)) for i in range(5))}
    )
    assert targets_of(same, "hull").fresh.de00_90 == pytest.approx(3.0)
    two = worked.model_copy(
        update={
            "samples": (
                sample("a", "base", (50.0, 0.0, 0.0)),
                sample("b", "base", (50.4, 0.0, 0.0), photo="f2"),
            )
        }
    )
    target = targets_of(two, "hull").fresh
    assert target.de00_90 == pytest.approx(error_of_mean([3.0, 3.0]))
    assert target.de00_90 < 2.6
    assert target.lab[0] == pytest.approx(50.2)
    assert target.disagreement < 1
    alike = tuple(p.model_copy(update={"like": "f1"}) if p.id == "f2" else p for p in two.photos)
    assert targets_of(two.model_copy(update={"photos": alike}), "hull").fresh.de00_90 > 2.8


def test_a_stated_colour_is_a_target_until_there_is_a_sample():
    project, zone = add_zone(Project(), "Hull")
    project = state_target(project, zone, (45.0, -13.0, -6.0))
    assert targets_of(project, zone).fresh.source == "stated by you"


def test_strata_follow_the_order_of_steps(worked):
    order = {step.id: index for index, step in enumerate(worked.steps)}
    places = [order[band.coat.step] for band in strata_of(worked, "hull").bands]
    assert places == sorted(places)


def test_seen_is_the_mean_by_area(shelf_paints):
    project, zone = add_zone(Project(), "Hull")
    project = pin_base(project, zone, Mix.of(shelf_paints, [("slate-teal", 1)]), Manner(9, 0.0))
    project = lay_marking(project, zone, Mix(lab=(33.0, 15.0, 12.0)), Manner(area_share=0.25), "Rust")
    cut = strata_of(project, zone)
    expected = 0.75 * xyz_from_lab(cut.fresh) + 0.25 * xyz_from_lab(cut.bands[-1].lab)
    assert np.allclose(xyz_from_lab(cut.seen), expected, atol=1e-9)
    off = switch_coat(project, project.coats[-1].id, False)
    assert np.allclose(strata_of(off, zone).seen, cut.fresh)


def test_the_base_is_predicted_under_the_final_varnish(shelf_paints):
    project, zone = add_zone(Project(), "Hull")
    project = pin_base(project, zone, Mix.of(shelf_paints, [("slate-teal", 1)]), Manner(9, 0.0))
    flat = strata_of(project, zone).fresh
    glossy = strata_of(lay_varnish(project, [zone], "gloss-coat"), zone).fresh
    assert glossy[0] < flat[0] - 2
    assert base_laying(lay_varnish(project, [zone], "gloss-coat"), zone).varnish == "gloss"


def test_thin_bases_let_the_primer_speak(shelf_paints):
    project, zone = add_zone(Project(), "Hull")
    project = lay_primer(project, zone, Mix.of(shelf_paints, [("red-primer", 1)]), Manner(2))
    thin = pin_base(project, zone, Mix.of(shelf_paints, [("cream", 1)]), Manner(1, 0.7))
    thick = pin_base(project, zone, Mix.of(shelf_paints, [("cream", 1)]), Manner(8, 0.0))
    assert strata_of(thin, zone).fresh[1] > strata_of(thick, zone).fresh[1] + 3


def test_a_fade_follows_its_base(worked, shelf_paints):
    before = strata_of(worked, "hull").exposed
    changed = pin_base(worked, "hull", Mix.of(shelf_paints, [("boot-red", 1)]), Manner(3, 0.6))
    after = strata_of(changed, "hull").exposed
    assert after[1] > before[1] + 15
    fade = next(coat for coat in changed.coats if coat.kind == "fade")
    assert recipe_paint(changed, changed.recipe(fade.recipe)).masstone_lab()[1] > 10


def test_a_fade_needs_a_base(shelf_paints):
    project, zone = add_zone(Project(), "Hull")
    with pytest.raises(EditError, match="no base recipe"):
        lay_fade(project, zone, Mix.of(shelf_paints, [("chalk", 1)], 3))


def test_paint_versions_are_named_by_their_content(shelf_paints):
    paint = shelf_paints[0]
    version = version_of(paint)
    assert version == version_of(paint)
    assert np.allclose(paint_of(version).K, paint.K, atol=1e-6)
    assert version.id != version_of(shelf_paints[1]).id


def test_a_coat_laid_anew_keeps_its_step_and_whether_it_is_on(worked, shelf_paints):
    """Its medium is its recipe's, so the rules see the new one; no second step appears."""
    base = next(coat for coat in worked.coats_of("house") if coat.kind == "base")
    off = switch_coat(worked, base.id, False)
    oil = pin_base(off, "house", Mix.of(shelf_paints, [("oil-raw-umber", 1)]))
    again = oil.coat(base.id)
    assert (again.step, again.on) == (base.step, False)
    assert len(oil.steps) == len(worked.steps)
    assert base.step not in {step.id for step in plan_steps(oil)}  # switched off: not in the plan
    on = switch_coat(oil, base.id, True)
    assert next(step for step in plan_steps(on) if step.id == base.step).medium == "oil"


def test_a_primer_of_another_medium_gets_a_step_of_its_own(worked, shelf_paints):
    shared = {coat.step for coat in worked.coats if coat.kind == "primer"}
    assert len(shared) == 1
    changed = lay_primer(worked, "house", Mix.of(shelf_paints, [("oil-raw-umber", 1)]))
    primers = {coat.zone: coat.step for coat in changed.coats if coat.kind == "primer"}
    assert primers["house"] not in shared
    assert {primers[zone] for zone in primers if zone != "house"} == shared


def test_unused_recipes_and_versions_go(worked, shelf_paints):
    there = {paint.shelf_id for paint in worked.paints}
    once = next(paint.id for paint in shelf_paints if paint.mixes and paint.id not in there)
    for name in (once, "oxide"):
        worked = pin_base(worked, "gear", Mix.of(shelf_paints, [(name, 1)]), Manner(1, 0.0))
    used = {version for recipe in worked.recipes for version, _ in recipe.parts}
    assert {paint.id for paint in worked.paints} == used
    assert once not in {paint.shelf_id for paint in worked.paints}


def test_removing_a_zone_takes_what_belongs_to_it(worked):
    left = remove_zone(worked, "hull")
    assert dangling_reference(left) is None
    assert not [s for s in left.samples if s.zone == "hull"]
    assert not [s for s in left.steps if "Hull" in title_of(left, s)]
    assert any(step.kind == "primer" for step in left.steps)


def test_moving_a_shared_coat_splits_its_step(worked):
    primer = next(coat for coat in worked.coats_of("hull") if coat.kind == "primer")
    moved = move_coat(worked, primer.id, 1)
    kinds = [coat.kind for coat in moved.coats_of("hull")]
    assert kinds[:2] == ["base", "primer"]
    assert [coat.kind for coat in moved.coats_of("house")] == [coat.kind for coat in worked.coats_of("house")]
    assert sum(step.kind == "primer" for step in moved.steps) == 2


def test_moving_steps_respects_their_ties(worked):
    first, second = worked.steps[0], worked.steps[1]
    tied = put(worked, "steps", second.model_copy(update={"after": (first.id,)}))
    with pytest.raises(EditError, match="bound to their order"):
        move_step(tied, first.id, 1)
    stayed = move_step(worked, first.id, -3)
    assert [step.id for step in stayed.steps] == [step.id for step in worked.steps]
    assert stayed.step(first.id).by_hand


def test_the_same_photo_twice_is_refused(worked):
    with pytest.raises(EditError, match="already"):
        add_photo(worked, worked.photos[0].model_copy(update={"id": "f9"}))


def test_a_photo_before_the_livery_contradicts_it(worked, cuts):
    press = next(photo for photo in worked.photos if photo.date.startswith("1951"))
    assert "1954" in contradiction(press, worked.subjects[0])
    assert contradiction(worked.photos[0], worked.subjects[0]) is None
    grey = worked.model_copy(update={"samples": (sample("x", "base", (50.0, 0.0, 0.0), photo=press.id),)})
    assert "Its colour" not in " ".join(
        advice_.text for advice_ in advice(grey, cuts(grey))
    )  # greys are evidence
    assert targets_of(grey, "hull").fresh is None
    used = put(grey, "photos", press.model_copy(update={"tones": "colour"}))
    assert "Its colour cannot come from that picture" in advice(used, cuts(used))[0].text


def test_a_coat_on_part_of_the_area_leaves_the_rest_as_it_was(shelf_paints):
    project, zone = add_zone(Project(), "Hull")
    project = pin_base(project, zone, Mix.of(shelf_paints, [("chalk", 1)]), Manner(passes=6))
    before = strata_of(project, zone).seen
    band = Mix(lab=(20.0, 0.0, 0.0))
    whole = strata_of(lay_marking(project, zone, band, Manner(area_share=1.0)), zone).seen
    for share in (0.25, 0.6):
        seen = strata_of(lay_marking(project, zone, band, Manner(area_share=share)), zone).seen
        mean = (1 - share) * xyz_from_lab(np.array(before)) + share * xyz_from_lab(np.array(whole))
        assert xyz_from_lab(np.array(seen)) == pytest.approx(mean, abs=2e-3)


def test_advice_is_never_empty():
    assert advice(Project(), {})[0].room == "evidence"


def test_the_demos_plan_is_sound_but_for_one_planted_fault(worked):
    codes = [finding.code for finding in check_plan(plan_steps(worked)) if finding.severity != "note"]
    assert codes == ["powder-fades-under-varnish"]


def test_the_foot_compares_like_with_like(worked):
    found = last_compared(strata_of(worked, "hull"))
    assert found.stage == "seen"
    assert found.de00 < 4
    assert last_compared(strata_of(worked, "gear")) is None
