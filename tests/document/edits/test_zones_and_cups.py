"""Zones in a row, doubled, mirrored and grouped; mixes as cups of their own; all or nothing, and nothing dangling."""

import pytest

from lean_sepia.document.check import broken_rule
from lean_sepia.document.edits.coats import (
    LOWEST,
    change_coat,
    copy_coat,
    edit_coat,
    lay,
    move_coat,
    pin_base,
    remove_coat,
)
from lean_sepia.document.edits.cups import change_cup, drop_cup, keep_mix
from lean_sepia.document.edits.mixes import Manner, Mix, manner_of
from lean_sepia.document.edits.planning import set_owned
from lean_sepia.document.edits.zones import (
    NewZone,
    add_sister,
    add_zones,
    duplicate_zone,
    group_zones,
    move_zone,
    remove_zone,
    state_target,
    ungroup_zones,
)
from lean_sepia.document.migrate import parse_document
from lean_sepia.document.model import Project
from lean_sepia.errors import EditError
from lean_sepia.plan.owned import Owned


@pytest.fixture
def three():
    project, ids = add_zones(
        Project(title="Bus"), [NewZone("Roof", 40.0), NewZone("Side", 50.0), NewZone("Sill")]
    )
    return project, ids


@pytest.fixture
def sand(shelf_paints):
    return Mix.of(shelf_paints, [("sand", 3), ("ochre", 1)])


def test_zones_in_a_row_are_made_all_or_none():
    with pytest.raises(EditError, match="already"):
        add_zones(Project(title="Bus"), [NewZone("Roof"), NewZone("roof")])
    project, ids = add_zones(Project(title="Bus"), [NewZone("Roof"), NewZone("Side", 12.0)])
    assert [zone.area_cm2 for zone in project.zones] == [None, 12.0]
    assert len(ids) == 2


def test_a_mirrored_side_shares_its_mixes_and_a_copied_zone_does_not(three, sand, shelf_paints):
    project, (roof, side, _sill) = three
    project = pin_base(project, side, sand)
    project, other = duplicate_zone(project, side, "Other side", mirrored=True)
    project, like = duplicate_zone(project, side, "Like it")
    changed = pin_base(project, side, Mix.of(shelf_paints, [("moss", 1)]))
    recipes = {zone: changed.coats_of(zone)[0].recipe for zone in (side, other, like)}
    assert len(set(recipes.values())) == 2
    assert recipes[like] != recipes[side]
    only = pin_base(remove_zone(project, like), other, Mix.of(shelf_paints, [("moss", 1)]))
    assert only.coats_of(side)[0].recipe == only.coats_of(other)[0].recipe
    assert broken_rule(remove_zone(only, side)) is None
    assert roof in {zone.id for zone in changed.zones}


def test_a_zone_moves_no_further_than_there_are_zones(three):
    project, (roof, side, sill) = three
    assert [zone.id for zone in move_zone(project, roof, 9).zones] == [side, sill, roof]
    assert [zone.id for zone in move_zone(project, sill, -1).zones] == [roof, sill, side]
    assert move_zone(project, roof, -3).zones == project.zones


def test_the_tones_of_a_surface_cover_all_of_it(three):
    project, (roof, side, sill) = three
    grouped = group_zones(project, "Body", {roof: 0.6, side: 0.4})
    assert [zone.id for zone in grouped.zones_of(grouped.surfaces[0].id)] == [roof, side]
    for wrong in ({roof: 0.6, side: 0.3}, {roof: 0.8, side: 0.4}, {roof: 0.5}):
        with pytest.raises(EditError):
            group_zones(project, "Body", wrong)
    more = group_zones(grouped, "Body", {roof: 0.6, side: 0.3, sill: None})
    assert len(more.surfaces) == 1
    assert broken_rule(remove_zone(more, sill)) is None
    left = remove_zone(grouped, side)
    assert left.surfaces == ()
    assert left.zone(roof).surface is None
    assert ungroup_zones(grouped, grouped.surfaces[0].id).surfaces == ()
    bad = grouped.model_copy(
        update={
            "zones": tuple(z.model_copy(update={"share": 0.9}) if z.surface else z for z in grouped.zones)
        }
    )
    assert "sum to 180.0 %" in broken_rule(bad)


def test_each_target_is_stated_once_and_taken_back(three):
    project, (roof, *_rest) = three
    for target in ("fresh", "exposed", "seen", "seen"):
        project = state_target(project, roof, (50.0, 1.0, 2.0), target, 3.0, "a chip")
    assert [known.target for known in project.zone(roof).stated] == ["fresh", "exposed", "seen"]
    assert parse_document(project.model_dump_json()) == project
    gone = state_target(project, roof, None, "exposed")
    assert [known.target for known in gone.zone(roof).stated] == ["fresh", "seen"]
    twice = project.zone(roof).model_copy(update={"stated": project.zone(roof).stated * 2})
    assert "stated twice" in broken_rule(project.model_copy(update={"zones": (twice, *project.zones[1:])}))


def test_a_kept_mix_outlives_its_coats_and_is_poured_away_only_when_free(three, sand, shelf_paints):
    project, (roof, *_rest) = three
    project, cup = keep_mix(project, "Dust brown", sand, 10.0)
    project, coat = lay(project, [roof], "base", Mix(recipe=cup))
    assert project.coat(coat).recipe == cup
    with pytest.raises(EditError, match="is used: Roof"):
        drop_cup(project, cup)
    project, lighter = keep_mix(project, "Lighter", Mix.of(shelf_paints, [("chalk", 1)], cups=[(cup, 4)]))
    project = remove_coat(project, coat)
    assert {recipe.id for recipe in project.recipes} == {cup, lighter}
    with pytest.raises(EditError, match="is used: Lighter"):
        drop_cup(project, cup)
    project = drop_cup(drop_cup(project, lighter), cup)
    assert (project.recipes, project.paints) == ((), ())


def test_a_cup_has_a_name_of_its_own(three, sand):
    project, cup = keep_mix(three[0], "Dust brown", sand)
    for name in ("", "  ", "dust BROWN"):
        with pytest.raises(EditError):
            keep_mix(project, name, sand)
    with pytest.raises(EditError, match="at least one paint"):
        keep_mix(project, "Empty", Mix())
    changed = change_cup(project, cup, name="Road dust", cup_ml=12.0, left_ml=3.5, note=" thick ")
    recipe = changed.recipe(cup)
    assert (recipe.name, recipe.cup_ml, recipe.left_ml, recipe.note) == ("Road dust", 12.0, 3.5, "thick")


def test_cups_made_from_each_other_are_refused_and_so_is_a_long_chain(three, sand):
    project, cup = keep_mix(three[0], "A", sand)
    project, other = keep_mix(project, "B", Mix(cups=((cup, 1),)))
    circle = project.recipe(cup).model_copy(update={"cups": ((other, 1),)})
    recipes = tuple(circle if recipe.id == cup else recipe for recipe in project.recipes)
    assert "made from itself" in broken_rule(project.model_copy(update={"recipes": recipes}))
    for number in range(40):
        project, other = keep_mix(project, f"C{number}", Mix(cups=((other, 1),)))
    assert "deep" in broken_rule(project)


def test_what_a_taking_away_goes_down_to_lies_below_it_and_is_forgotten_with_it(three, sand):
    project, (roof, *_rest) = three
    project, base = lay(project, [roof], "base", sand)
    project, top = lay(project, [roof], "tone", sand, above=base)
    project, scrape = lay(project, [roof], "scrape", Mix(), Manner(area_share=0.1, down_to=base), above=top)
    assert broken_rule(project) is None
    assert "not laid before it" in broken_rule(move_coat(project, scrape, -2))
    assert remove_coat(project, base).coat(scrape).down_to is None
    assert copy_coat(project, scrape, [project.zones[1].id]).coats[-1].down_to is None


def test_a_found_finish_lies_lowest_wherever_it_is_moved(three, sand):
    project, (roof, *_rest) = three
    project, _base = lay(project, [roof], "base", sand)
    project, found = lay(project, [roof], "found", Mix(lab=(50.0, 0.0, 0.0), medium="unknown"))
    assert project.coats_of(roof)[0].id == found
    assert "always lowest" in broken_rule(move_coat(project, found, 1))


def test_a_coat_changed_in_a_shared_step_gets_one_of_its_own(three, sand, shelf_paints):
    project, (roof, side, _sill) = three
    project, coat = lay(project, [roof, side], "base", sand)
    other = next(c for c in project.coats if c.zone == side)
    assert other.step == project.coat(coat).step
    enamel = Mix.of(shelf_paints, [("oil-ochre", 1)])
    changed = edit_coat(project, coat, "wash", enamel, Manner(tool="flood"))
    assert changed.coat(coat).step != other.step
    assert changed.coat(other.id).recipe != changed.coat(coat).recipe
    assert manner_of(changed.coat(coat)).tool == "flood"
    assert change_coat(changed, coat, on=False).coat(coat).on is False


def test_a_group_of_zones_gets_a_coat_on_top_of_all(three, sand):
    project, (roof, side, sill) = three
    project, low = lay(project, [roof], "base", sand)
    project, _b = lay(project, [side], "base", sand)
    project, _t = lay(project, [side], "tone", sand)
    project, over = lay(project, [roof, side], "filter", sand, above=low)
    for zone in (roof, side):
        assert project.coats_of(zone)[-1].step == project.coat(over).step
    project, under = lay(project, [sill], "found", Mix(lab=(40.0, 0.0, 0.0)), above=LOWEST)
    assert project.coats_of(sill)[0].id == under


@pytest.mark.parametrize(
    ("owns", "tool"),
    [(Owned(), "airbrush"), (Owned(airbrush=False), "brush"), (Owned(cans_only=True), "spray-can")],
)
def test_the_tool_follows_what_the_person_has(three, sand, owns, tool):
    project, (roof, *_rest) = three
    project, coat = lay(set_owned(project, owns), [roof], "base", sand)
    assert project.coat(coat).tool == tool


def test_a_sister_has_the_same_coats_of_the_same_mixes(three, sand, shelf_paints):
    project, (roof, *_rest) = three
    project = pin_base(project, roof, sand)
    project, sister = add_sister(project, project.subjects[0].id, "No. 4")
    hers = [zone for zone in project.zones if zone.subject == sister]
    assert [zone.name for zone in hers] == ["Roof", "Side", "Sill"]
    assert broken_rule(project) is None
    changed = pin_base(project, hers[0].id, Mix.of(shelf_paints, [("moss", 1)]))
    assert changed.coats_of(roof)[0].recipe == changed.coats_of(hers[0].id)[0].recipe
    with pytest.raises(EditError, match="name of her own"):
        add_sister(project, project.subjects[0].id, "no. 4")


def test_the_other_side_and_a_sister_share_one_mix_whichever_of_them_is_changed(three, sand, shelf_paints):
    project, (roof, *_rest) = three
    project = pin_base(project, roof, sand)
    project, other = duplicate_zone(project, roof, "Other roof", mirrored=True)
    project, sister = add_sister(project, project.subjects[0].id, "No. 4")
    hers = [zone.id for zone in project.zones if zone.subject == sister]
    for changed_on in (roof, other, hers[0], hers[-1]):
        if not project.coats_of(changed_on):
            continue
        changed = pin_base(project, changed_on, Mix.of(shelf_paints, [("moss", 1)]))
        recipes = {coat.recipe for coat in changed.coats if coat.kind == "base"}
        assert len(recipes) == 1
