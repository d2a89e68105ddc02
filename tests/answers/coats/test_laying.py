"""A coat laid by hand is what the sheet promised; what cannot be laid is said in plain words and changes nothing."""

from dataclasses import replace

import pytest

from lean_sepia.answers.coats.draft import draft_of, laid_kinds, usual_draft
from lean_sepia.answers.coats.laying import answer
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.strata import strata_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import LOWEST, remove_coat
from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.migrate import parse_document
from lean_sepia.errors import SepiaError
from lean_sepia.plan.kinds import KINDS


@pytest.fixture
def ask(worked, shelf_paints):
    """A function that lays a kind of coat of something on the demo."""

    def laid(kind, of="", zone="hull", tool=None, above=None, project=worked, replacing=None, **figures):
        draft = replace(usual_draft(kind, tool), of=of, **figures)
        zones = (zone,) if isinstance(zone, str) else zone
        return answer(LayQuestion(project, zones, draft, tuple(shelf_paints), above, replacing))

    return laid


@pytest.mark.parametrize("kind", laid_kinds())
def test_every_kind_can_be_laid_and_comes_out_as_it_was_promised(ask, worked, kind):
    nature = KINDS[kind]
    of = "" if nature.is_varnish or nature.covers in ("resist", "unresist", "taken") else "raw umber + 2 sand"
    if kind == "found":
        of = "#7a6a58"
    found = ask(kind, of.replace("raw umber", "1 raw umber"), above=None if kind != "found" else LOWEST)
    again = parse_document(found.project.model_dump_json())
    cut = strata_of(again, "hull")
    band = next(band for band in cut.bands if band.coat.id == found.coat)
    assert band.coat.kind == kind
    assert cut.seen == pytest.approx(found.seen[1], abs=0.01)
    if found.then is not None and band.lab is not None and found.showing and found.showing.kind != "soft":
        assert float(delta_e00(band.lab, found.then)) < 0.05
    assert len(again.coats) == len(worked.coats) + 1


@pytest.mark.parametrize(
    ("said", "parts"),
    [
        ("8 sand 1 ochre", {"sand": 8, "ochre": 1}),
        ("some sand, 1 ochre", None),
        ("3 sand + 1 ochre", {"sand": 3, "ochre": 1}),
        ("2:1 lamp to slate", {"lamp": 2, "slate": 1}),
        ("70/20/10 sand, ochre, lamp", {"sand": 7, "ochre": 2, "lamp": 1}),
        ("50 % moss 30 % sepia 20 % sand", {"moss": 5, "sepia": 3, "sand": 2}),
        ("half sand half ochre", {"sand": 1, "ochre": 1}),
    ],
)
def test_mixes_are_read_as_people_say_them(ask, said, parts):
    if parts is None:
        with pytest.raises(SepiaError):
            ask("base", said)
        return
    project = (found := ask("base", said, zone="gear")).project
    recipe = project.recipe(project.coat(found.coat).recipe)
    assert {project.paint(version).shelf_id: count for version, count in recipe.parts} == parts


def test_a_mix_of_the_base_cup_says_what_it_takes_the_base_to_be(ask, worked):
    found = ask("fade", "base + 2 dollops of chalk + a brush-load of lamp")
    recipe = found.project.recipe(found.project.coat(found.coat).recipe)
    base = next(coat for coat in worked.coats_of("hull") if coat.kind == "base")
    assert recipe.cups == ((base.recipe, 30),)  # a brush-load is a third of a dollop
    assert [count for _name, count in recipe.parts] == [6, 1]
    assert any("taken as 10 parts" in words for words in found.remarks)


def test_a_whole_cup_is_shared_and_not_copied(ask, worked):
    base = next(coat for coat in worked.coats_of("hull") if coat.kind == "base")
    name = worked.recipe(base.recipe).name
    found = ask("base", f"from the cup “{name}”", zone="gear")
    assert found.project.coat(found.coat).recipe == base.recipe
    assert draft_of(found.project, found.project.coat(found.coat)).of == f"from the cup “{name}”"


def test_a_mix_with_its_thinner_in_it_is_thinned_so(ask):
    found = ask("fade", "2:1:10 buff, flat base, alcohol")
    coat = found.project.coat(found.coat)
    assert coat.thinner_share == pytest.approx(10 / 13)
    assert [count for _name, count in found.project.recipe(coat.recipe).parts] == [2, 1]


def test_a_coat_goes_between_the_two_bands_it_is_laid_between(ask, worked):
    bands = worked.coats_of("hull")
    for index, below in enumerate(bands):
        found = ask("filter", "raw umber", above=below.id)
        order = [coat.id for coat in found.project.coats_of("hull")]
        assert order.index(found.coat) == index + 1
        assert [name for name in order if name != found.coat] == [coat.id for coat in bands]
    found = ask("found", "#888888", above=LOWEST)
    assert found.project.coats_of("hull")[0].id == found.coat


def test_several_zones_get_it_in_one_step_of_one_mix(ask):
    found = ask("filter", "raw umber", zone=("hull", "boot", "house"))
    laid = [coat for coat in found.project.coats if coat.step == found.project.coat(found.coat).step]
    assert {coat.zone for coat in laid} == {"hull", "boot", "house"}
    assert len({coat.recipe for coat in laid}) == 1


def test_changing_a_coat_keeps_its_place_and_its_id(ask, worked, shelf_paints):
    coat = next(coat for coat in worked.coats_of("hull") if coat.kind == "filter")
    draft = draft_of(worked, coat)
    same = answer(LayQuestion(worked, ("hull",), draft, tuple(shelf_paints), replacing=coat.id))
    assert strata_of(same.project, "hull").seen == pytest.approx(strata_of(worked, "hull").seen, abs=1e-9)
    other = answer(
        LayQuestion(
            worked, ("hull",), replace(draft, kind="wash", of="lamp"), tuple(shelf_paints), replacing=coat.id
        )
    )
    assert [c.id for c in other.project.coats_of("hull")] == [c.id for c in worked.coats_of("hull")]
    assert other.project.coat(coat.id).kind == "wash"
    assert other.project.step(other.project.coat(coat.id).step).kind == "wash"


def test_every_coat_of_the_demo_reads_back_as_it_is_written(worked, shelf_paints):
    for coat in worked.coats:
        draft = draft_of(worked, coat)
        found = answer(LayQuestion(worked, (coat.zone,), draft, tuple(shelf_paints), replacing=coat.id))
        seen = strata_of(worked, coat.zone).seen
        assert found.seen[1] == pytest.approx(seen, abs=0.02), (coat.kind, draft.of)


@pytest.mark.parametrize(
    ("kind", "of", "figures", "said"),
    [
        ("filter", "raw umber", {"zone": "bare"}, "lies on something, and nothing lies on"),
        ("chips", "raw umber", {"area_share": 1.2}, "at most all of the area"),
        ("chips", "raw umber", {"area_share": 0.0}, "more than nothing"),
        ("base", "no such bottle", {}, "no paint on this shelf"),
        ("base", "", {}, "Say what it is mixed of"),
        ("base", "70/20/10", {}, "of what?"),
        ("base", "sand + quay dust", {}, "laid alone"),
        ("base", "sand", {"thinned": "a few drops in a jar"}, "does not say how much thinner"),
        ("base", "from the stern cup", {}, "no cup"),
        ("wash", "#4f7a6c", {"far": 1.5, "profile": "below"}, "from 0 to 100 %"),
    ],
)
def test_what_cannot_be_is_said_plainly(ask, worked, kind, of, figures, said):
    project, bare = add_zone(worked, "Bare")
    if figures.get("zone") == "bare":
        figures = {"zone": bare}
    with pytest.raises(SepiaError, match=said):
        ask(kind, of, project=project, **figures)


def test_a_mix_of_itself_and_a_retired_bottle_are_refused(ask, worked, shelf_paints):
    base = next(coat for coat in worked.coats_of("hull") if coat.kind == "base")
    name = worked.recipe(base.recipe).name
    with pytest.raises(SepiaError, match="made from itself"):
        ask("base", f"2 {name} + 1 sand", replacing=base.id)
    question = LayQuestion(
        worked,
        ("hull",),
        replace(usual_draft("base"), of="old buff"),
        tuple(shelf_paints),
        retired={"old": "Old buff"},
    )
    with pytest.raises(SepiaError, match="is retired"):
        answer(question)


def test_what_is_there_already_may_have_layers_and_lies_under_all_else(ask):
    once = ask("found", "#888888", above=LOWEST)
    again = ask("found", "#777777", project=once.project, above=once.coat)
    assert [coat.kind for coat in again.project.coats_of("hull")][:3] == ["found", "found", "primer"]
    assert again.project.coats_of("hull")[1].id == again.coat
    assert ask("found", "#777777", project=once.project).project.coats_of("hull")[0].kind == "found"


def test_cans_are_laid_alone(worked, shelf_paints):
    cans = tuple(replace(paint, can=True) for paint in shelf_paints)
    with pytest.raises(SepiaError, match="spray can"):
        answer(LayQuestion(worked, ("hull",), replace(usual_draft("base"), of="sand + ochre"), cans))
    alone = answer(LayQuestion(worked, ("hull",), replace(usual_draft("base", "spray-can"), of="sand"), cans))
    assert alone.then is not None
    assert len(alone.passes) > 2


def test_a_found_finish_with_two_per_cent_of_rust_stays_98_per_cent_itself(ask, worked):
    project, zone = add_zone(worked, "Old roof")
    project = ask("found", "#b8b0a0", zone=zone, project=project, above=LOWEST, medium="unknown").project
    bare = strata_of(project, zone).seen
    found = ask("chips", "oil dark rust", zone=zone, project=project, area_share=0.02)
    assert 0 < float(delta_e00(found.seen[1], bare)) < 1.5
    wet = ask("filter", "oil raw umber", zone=zone, project=project)
    assert any("hidden spot" in words for words in wet.remarks)
    assert strata_of(remove_coat(found.project, found.coat), zone).seen == bare


def test_a_cup_is_called_by_the_coat_that_is_laid_with_it_too(ask, worked):
    coat = next(c for c in worked.coats_of("hull") if c.kind == "base")
    named = worked.model_copy(
        update={"coats": tuple(c.model_copy(update={"name": "Grimy yellow patch"}) if c.id == coat.id else c for c in worked.coats)}
    )  # fmt: skip
    found = ask("touch-up", "from the grimy yellow patch cup", project=named)
    assert found.project.coat(found.coat).recipe == coat.recipe
    mixed = ask("touch-up", f"9 {named.recipe(coat.recipe).name} + 1 chalk", project=named)
    assert found.project.recipe(coat.recipe).name == named.recipe(coat.recipe).name
    assert mixed.project.recipe(mixed.project.coat(mixed.coat).recipe).cups == ((coat.recipe, 9),)
