"""What a new kind and a new medium cost: one row each, and every question of the program is answered from it."""

import json

import pytest
from tests.invented.rows import INK, INK_RECORD, INK_ROW, VEIL, VEIL_ROW, ink, veil

from lean_sepia.answers import plan
from lean_sepia.answers.bench import bench_steps
from lean_sepia.answers.coats.draft import laid_kinds, usual_draft
from lean_sepia.answers.coats.laying import answer, laid
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.glazing import filters
from lean_sepia.answers.glazing.tints import tints
from lean_sepia.document.edits.coats import lay_filter
from lean_sepia.document.edits.steps import add_step
from lean_sepia.document.model import Project
from lean_sepia.paint.media import MEDIA, Medium, media_mix
from lean_sepia.plan.care.cautions import cautions
from lean_sepia.plan.care.clearing import clearing
from lean_sepia.plan.care.looking import looks_again
from lean_sepia.plan.care.readying import to_put_out, tool_state
from lean_sepia.plan.care.rescue import undoing
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.placing import phase, place_of
from lean_sepia.plan.rules.table import check_plan
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.traits.kind import Kind
from lean_sepia.plan.traits.said import Phase
from lean_sepia.plan.usual import next_kind
from lean_sepia.plan.waits.drying import USUAL, full_cure, removable_for
from lean_sepia.report.bench_card import bench_card
from lean_sepia.report.export import EXPORTS, Leaving
from lean_sepia.shelf.shelf_file import read_shelf


@pytest.fixture(autouse=True)
def rows(monkeypatch):
    monkeypatch.setitem(MEDIA, INK, ink())
    monkeypatch.setitem(KINDS, VEIL, veil())


@pytest.fixture
def bottles(tmp_path, shelf_paints):
    """The demo's shelf with a bottle of the ink, as somebody would type it."""
    file = tmp_path / "ink.json"
    file.write_text(json.dumps({"paints": [INK_RECORD]}))
    table = tmp_path / "ink.csv"
    table.write_text("id,name,medium,finish,hex\nink,Sepia ink,India ink,flat,#4a3120\n")
    assert read_shelf(table).records[0]["medium"] == INK  # its everyday word is known
    return (*shelf_paints, *read_shelf(file).paints())


def step(kind, medium=None, **given):
    given = {"id": kind, **given}
    return PlanStep(kind=kind, material={"medium": medium} if medium else None, **given)


def findings(*steps):
    return [(found.code, found.severity, found.message) for found in check_plan(steps)]


@pytest.mark.parametrize(
    "left_out", [name for name in VEIL_ROW if name not in ("wet", "usual", "heed", "ready")]
)
def test_a_kind_that_leaves_something_out_does_not_load(left_out):
    with pytest.raises(TypeError, match=left_out):
        Kind(**{name: value for name, value in VEIL_ROW.items() if name != left_out})


@pytest.mark.parametrize("left_out", [name for name in INK_ROW if name != "said"])
def test_a_medium_that_leaves_something_out_does_not_load(left_out):
    with pytest.raises(TypeError, match=left_out):
        Medium(**{name: value for name, value in INK_ROW.items() if name != left_out})


def test_a_medium_says_what_every_solvent_does_to_it():
    with pytest.raises(ValueError, match="lacquer-thinner"):
        Medium(**{**INK_ROW, "bitten_by": {"alcohol": None, "white-spirit": None}})


def test_a_kind_says_how_it_is_undone_or_what_it_is_made_of():
    with pytest.raises(ValueError, match="undone"):
        Kind(**{**VEIL_ROW, "medium": None})
    with pytest.raises(ValueError, match="Glaze"):
        Kind(**{**VEIL_ROW, "family": "spots"})


def test_its_waits_are_its_own():
    one = step(VEIL, INK)
    over = USUAL.wait(one, step(VEIL, INK, id="again"))
    assert (over.not_before, over.words) == (4, "veil before the next veil")
    assert USUAL.wait(step("base", INK), step("base", INK, id="more")).not_before == 7
    assert USUAL.wait(step("base", INK), step("powder", "pigment")).not_before == 45  # as the medium cures
    assert USUAL.wait(one, step("powder", "pigment")).not_before == 55  # as the kind sets
    assert full_cure(one) == 55
    assert removable_for(one) == 3
    wiped = USUAL.wait(one, step("wipe-back"))
    assert (wiped.not_before, wiped.closed) == (0, 3)


def test_what_bites_it_is_found_and_how_hard():
    over_ink = findings(
        step("base", INK, application="airbrush"), step("filter", "acrylic-alcohol", application="glaze")
    )
    assert any(
        code == "solvent-attacks-base" and severity == "warn" and "makes it run" in words
        for code, severity, words in over_ink
    )
    thinner = findings(step("base", INK), step("base", "lacquer", id="lacquer", application="brush"))
    assert any(
        code == "solvent-attacks-base" and "takes it off" in words for code, _severity, words in thinner
    )
    harmless = findings(step("base", INK), step("filter", "oil", application="glaze"))
    assert not any(code == "solvent-attacks-base" for code, *_rest in harmless)


def test_care_says_what_the_rows_say():
    one = step(VEIL, INK)
    assert [way.how for way in undoing(one)] == ["Blot the ink.", "Lift the ink with alcohol."]
    assert [way.how for way in undoing(step("base", INK))] == ["Scrub the ink off with alcohol."]
    assert [look.words for look in looks_again(one)] == ["Is the veil even?"]
    assert clearing(one) == ("Rinse the pen.", "Dry the ink out.")
    assert any("cloths" in thing for thing in to_put_out(one))
    assert "clean water" in to_put_out(one)
    assert "Shake the ink." in tool_state(one)
    assert "Ink stains hands." in cautions(one)


def test_it_comes_when_its_row_says():
    steps = [
        step(kind, id=kind) for kind in ("primer", "base", "gloss-coat", "marking", "pin-wash", "matte-coat")
    ]
    new = step(VEIL, INK, id="new")
    assert phase(new, {}) is Phase.FILTERING
    assert [one.id for one in steps[place_of(steps, new, {}) :]] == ["pin-wash", "matte-coat"]
    assert next_kind(VEIL, {}) == "chips"


def test_the_medium_stirs_with_what_its_row_says():
    assert media_mix(INK, "acrylic-water")
    assert media_mix("acrylic-water", INK)  # though that row was there before
    assert not media_mix("oil", INK)


def test_it_is_laid_from_the_sheet_and_shows_in_every_answer(worked, bottles, cuts):
    assert VEIL in laid_kinds()
    from dataclasses import replace

    draft = replace(usual_draft(VEIL), of="Sepia ink", thinned="1:9")
    question = LayQuestion(worked, ("hull",), draft, bottles)
    found = answer(question)
    assert found.now != found.then
    project = laid(question).project
    coat = next(coat for coat in project.coats_of("hull") if coat.kind == VEIL)
    assert coat.nature.title == "Ink veil"
    steps = bench_steps(project, cuts(project), plan.answer(plan.ask(project)))
    mine = next(one for one in steps if one.step.kind == VEIL)
    assert mine.title.startswith("Ink veil")
    assert "Rinse the pen." in mine.clearing
    assert any("Sepia ink" in line.name for cup in mine.cups for line in cup.lines)
    assert bench_card(project).startswith(b"%PDF")
    Project.model_validate_json(project.model_dump_json())  # and it is kept


def test_it_is_found_and_laid_in_glaze(worked, bottles):
    assert VEIL in tints().filters
    question = filters.ask(worked, "hull", bottles, kind=VEIL)
    best = filters.answer(question).filters[0].glaze
    zones = [zone.zone for zone in question.zones]
    done = lay_filter(worked, zones, *filters.mix_of(question, best), VEIL)
    assert {coat.zone for coat in done.coats if coat.kind == VEIL} == set(zones)


def test_it_is_exported(worked, tmp_path):
    project, _step = add_step(worked, VEIL, ["hull"])
    place = tmp_path / "evenings.ics"
    EXPORTS["calendar"].write(Leaving(project), place)
    assert b"Is the veil even?" in place.read_bytes().replace(b"\r\n ", b"")
