"""Edits one by one: what is asked for changes, all else stays."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from lean_sepia.document.called import title_of
from lean_sepia.document.dates import date_span, verdict
from lean_sepia.document.edits.coats import (
    Marks,
    change_coat,
    lay_filter,
    lay_marking,
    lay_primer,
    lay_varnish,
    lay_wear,
    move_coat,
    pin_base,
    remove_coat,
)
from lean_sepia.document.edits.items import fresh_id, put, without
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.photos import (
    add_photo,
    describe_photo,
    remove_photo,
    remove_sample,
    set_anchors,
    set_role,
)
from lean_sepia.document.edits.planning import set_hours, set_school, set_step_done
from lean_sepia.document.edits.steps import add_step, move_step, place_for, without_step
from lean_sepia.document.edits.zones import (
    add_zone,
    change_zone,
    locate_feature,
    name_feature,
    remove_zone,
    set_schemes,
    short_name,
    state_target,
)
from lean_sepia.document.history import History
from lean_sepia.document.model import AnchorMark, Photo, Project, Scheme, Zone
from lean_sepia.document.versions import medium_of, portions, version_of
from lean_sepia.errors import EditError, SepiaError


@pytest.fixture
def two():
    """A model of two zones."""
    project, _ = add_zone(Project(title="Tender"), "Hull")
    return add_zone(project, "Roof")[0]


def ids(items):
    return [item.id for item in items]


def test_a_feature_is_named_renamed_and_taken_out(two):
    both = name_feature(name_feature(two, "A dent"), "A patch")
    first, second = both.features
    renamed = name_feature(both, " A long  dent ", feature_id=first.id)
    assert [feature.words for feature in renamed.features] == ["A long dent", "A patch"]
    assert name_feature(both, "", feature_id=first.id).features == (second,)
    assert name_feature(two, "") is two


def test_a_version_is_named_by_what_can_be_told_apart(shelf_paints):
    paint = shelf_paints[0]
    rounded = replace(paint, K=paint.K.round(6), S=paint.S.round(6))
    near, far = (replace(rounded, K=rounded.K + shift) for shift in (4e-7, 4e-6))
    assert version_of(rounded).id == version_of(near).id != version_of(far).id
    flat = replace(
        rounded, id="mid-grey", name="Mid grey", line="", K=np.full(31, 0.5), S=np.full(31, 2.0), notes=()
    )
    assert (
        version_of(flat).id == "6efc7d6ee3f7cdf6"
    )  # as projects on disk have it: a new name would make every paint a stranger


def test_taking_one_item_leaves_the_others(worked):
    first, *others = ids(worked.coats)
    assert ids(without(worked, "coats", first).coats) == others
    assert without(worked, "coats", "none such") == worked


def test_a_fresh_id_is_none_of_those_taken(two):
    assert ids(two.zones) == ["z1", "z2"]
    assert fresh_id(two.zones, "z") == "z3"
    assert fresh_id(two.zones[1:], "z") == "z3"  # z2 is taken


def test_zones_have_names_of_their_own(two):
    assert two.subjects[0].scale == 72
    for name in ("", "  ", "hull", " HULL "):
        with pytest.raises(EditError):
            add_zone(two, name)
    with pytest.raises(EditError):
        change_zone(two, two.zones[0].model_copy(update={"name": " "}))
    assert short_name("Superstructure") == "Superstruc"
    assert short_name("Roof, left", 10) == "Roof, left"
    assert short_name("Tail lamp, left") == "Tail lamp"
    assert short_name("Port side.") == "Port side"
    project = two
    for name in ("Interior low", "Interior mid", "Interior top"):
        project, _zone = add_zone(project, name)
    assert len({zone.short for zone in project.zones}) == len(project.zones)


def test_a_coat_is_laid_once_and_changed_after(two, shelf_paints):
    green = Mix.of(shelf_paints, [("sea-green", 2), ("chalk", 1)])
    one = pin_base(two, "z1", green, Manner(passes=2, thinner_share=0.5))
    again = pin_base(one, "z1", Mix.of(shelf_paints, [("chalk", 1)]), Manner(passes=3, thinner_share=0.4))
    (coat,) = again.coats_of("z1")
    assert (coat.id, coat.step) == (one.coats[0].id, one.coats[0].step)
    assert (coat.passes, coat.thinner_share) == (3, 0.4)
    assert len(again.recipes) == 1
    assert [p.shelf_id for p in again.paints] == ["chalk"]
    assert again.coats_of("z2") == ()
    other = pin_base(again, "z2", green)
    assert other.coats_of("z2")[0].step != coat.step  # bases of two zones are two steps


def test_coats_of_one_kind_are_told_apart_by_their_names(two, shelf_paints):
    white = Mix(lab=(90.0, 0.0, 2.0))
    marked = lay_marking(two, "z1", white, Manner(area_share=0.02), "Name")
    marked = lay_marking(marked, "z1", white, Manner(area_share=0.01), "Draught marks")
    assert [coat.name for coat in marked.coats_of("z1")] == ["Name", "Draught marks"]
    marked = lay_marking(marked, "z1", white, Manner(area_share=0.05), "Name")
    assert [coat.area_share for coat in marked.coats_of("z1")] == [0.05, 0.01]
    worn = lay_wear(two, "z1", [Marks("chips", "Rust chips", (30.0, 20.0, 20.0), 0.01)], "satin")
    worn = lay_wear(worn, "z1", [Marks("chips", "Scratches", (70.0, 0.0, 0.0), 0.02)], "satin")
    assert [(c.name, c.area_share, c.finish) for c in worn.coats] == [
        ("Rust chips", 0.01, "satin"), ("Scratches", 0.02, "satin"),
    ]  # fmt: skip


def test_primer_and_varnish_are_shared_steps_and_bases_are_not(two, shelf_paints):
    red = Mix.of(shelf_paints, [("red-primer", 1)])
    primed = lay_primer(lay_primer(two, "z1", red), "z2", red)
    assert len(primed.steps) == 1
    varnished = lay_varnish(primed, ["z1", "z2"], "matte-coat")
    assert [step.kind for step in varnished.steps] == ["primer", "matte-coat"]
    assert title_of(varnished, varnished.steps[1]) == "Matte coat"
    filtered = lay_filter(varnished, ["z1", "z2"], Mix.of(shelf_paints, [("oil-sienna", 1)]))
    assert [c.kind for c in filtered.coats_of("z1")] == ["primer", "filter", "matte-coat"]
    assert {medium_of(filtered, c) for c in filtered.coats if c.kind == "filter"} == {"oil"}


def test_a_coat_goes_with_its_step_only_where_it_was_alone(two, shelf_paints):
    varnished = lay_varnish(two, ["z1", "z2"], "matte-coat")
    mine, other = varnished.coats
    left = remove_coat(varnished, mine.id)
    assert ids(left.coats) == [other.id]
    assert left.steps == varnished.steps
    assert remove_coat(left, other.id).steps == ()
    based = pin_base(varnished, "z1", Mix.of(shelf_paints, [("chalk", 1)]))
    base = next(c for c in based.coats if c.kind == "base")
    bare = remove_coat(based, base.id)
    assert (bare.recipes, bare.paints) == ((), ())
    assert [step.kind for step in bare.steps] == ["matte-coat"]


def test_a_coat_moves_past_its_neighbours_and_no_further(two, shelf_paints):
    chalk = Mix.of(shelf_paints, [("chalk", 1)])
    project = lay_varnish(pin_base(two, "z1", chalk), ["z1"], "matte-coat")
    base, varnish = project.coats_of("z1")
    assert ids(move_coat(project, base.id, 1).coats_of("z1")) == [varnish.id, base.id]
    assert ids(move_coat(project, base.id, 9).coats_of("z1")) == [varnish.id, base.id]
    assert move_coat(project, base.id, -1) == project
    shared = lay_varnish(project, ["z2"], "matte-coat")
    moved = move_coat(shared, varnish.id, -1)
    assert ids(moved.coats_of("z1")) == [varnish.id, base.id]
    assert [title_of(moved, step) for step in moved.steps] == [
        "Matte coat, Hull",
        "Base colour, Hull",
        "Matte coat",
    ]
    with pytest.raises(ValueError, match="passes"):
        change_coat(project, base.id, passes=0)


def test_lines_of_a_recipe_start_with_the_cup_they_come_from(worked):
    fade = next(coat for coat in worked.coats if coat.kind == "fade")
    recipe = worked.recipe(fade.recipe)
    base, *added = portions(worked, recipe)
    assert (base.count, base.version) == (recipe.cups[0][1], None)
    assert [(one.count, one.version) for one in added] == [
        (count, version) for version, count in recipe.parts
    ]


def test_steps_come_where_their_kind_usually_does(two):
    project, wash = add_step(two, "wash", ["z1"])
    project, primer = add_step(project, "primer", ["z1"])
    project, base = add_step(project, "base", ["z1", "z2"])
    project, second = add_step(project, "base", ["z2"])
    assert ids(project.steps) == [primer, base, second, wash]
    assert place_for(project, "primer") == 1
    assert place_for(Project(), "wash") == 0
    assert title_of(project, project.step(base)) == "Base colour, Hull, Roof"
    assert title_of(project, project.step(primer)) == "Primer"
    assert ids(move_step(project, primer, 1).steps) == [base, primer, second, wash]
    assert ids(move_step(project, wash, -99).steps) == [wash, primer, base, second]
    tied = put(project, "steps", project.step(second).model_copy(update={"after": (base,)}))
    for step, places in ((second, -1), (base, 1), (base, 2)):
        with pytest.raises(EditError, match="bound to their order"):
            move_step(tied, step, places)
    assert ids(move_step(tied, second, 1).steps) == [primer, base, wash, second]
    done = set_step_done(project, base, True)
    assert [step.done for step in done.steps] == [False, True, False, False]


def test_nothing_waits_for_a_step_that_is_gone(two):
    project, first = add_step(two, "mask", ["z1"])
    project, second = add_step(project, "unmask", ["z1"])
    project, third = add_step(project, "assemble", ["z1"])
    tied = put(project, "steps", project.step(third).model_copy(update={"after": (first, second)}))
    left = without_step(tied, first)
    assert [(s.id, s.after) for s in left.steps] == [(third, ())]  # what took the mask off goes with it
    other, alone = add_step(project, "wash-model", ["z1"], place=0)
    tied = put(other, "steps", other.step(third).model_copy(update={"after": (alone, second)}))
    assert without_step(tied, alone).step(third).after == (second,)


def test_a_step_is_shared_whatever_else_lies_on_the_zones(two, shelf_paints):
    """Oil on a zone does not keep its acrylic primer out of the primer's step; a primer of oil would be kept out."""
    project = lay_filter(two, ["z1"], Mix.of(shelf_paints, [("oil-sienna", 1)]))
    red = Mix.of(shelf_paints, [("red-primer", 1)])
    project = lay_primer(lay_primer(project, "z1", red), "z2", red)
    assert [step.kind for step in project.steps] == ["primer", "filter"]
    apart = lay_primer(project, "z2", Mix.of(shelf_paints, [("oil-sienna", 1)]))
    assert [step.kind for step in apart.steps] == ["primer", "primer", "filter"]


def test_schemes_are_told_apart_and_end_after_they_begin(two):
    first = Scheme(id="h1", name="First livery", worn_from="1954/1956", worn_to="1955")
    assert set_schemes(two, [first]).schemes == (first,)
    for wrong in (
        first.model_copy(update={"name": " "}),
        first.model_copy(update={"name": "first LIVERY"}),
        first.model_copy(update={"name": "Second", "worn_from": "1956", "worn_to": "1955"}),
    ):
        with pytest.raises(EditError):
            set_schemes(two, [first, wrong])


def test_edits_are_named_undone_and_done_again(two):
    history = History(two)
    assert (history.undo_name, history.redo_name, history.undo(), history.redo()) == (
        None,
        None,
        False,
        False,
    )
    assert not history.push("nothing", two)
    one = add_zone(two, "Mast")[0]
    both = add_zone(one, "Boom")[0]
    assert history.push("Mast", one)
    assert history.push("Boom", both)
    assert history.undo_name == "Boom"
    assert history.undo()
    assert (history.present, history.undo_name, history.redo_name) == (one, "Mast", "Boom")
    assert history.undo()
    assert history.redo_name == "Mast"
    assert history.redo()
    assert history.present == one
    assert history.push("Other", add_zone(one, "Deck")[0])
    assert (history.redo_name, history.redo()) == (None, False)


def test_hours_and_schools_are_checked(two):
    assert set_hours(two, "2031-03-03T19:00", "daily 19:00-21:00").evenings == "daily 19:00-21:00"
    for start, evenings in (("soon", "daily 19:00-21:00"), ("2031-03-03T19:00", "late")):
        with pytest.raises(SepiaError):
            set_hours(two, start, evenings)
    chosen = set_school(two, "chips", "after-wash")
    assert chosen.schools == {"chips": "after-wash"}
    assert set_school(chosen, "amount", "subtle").schools == {"chips": "after-wash", "amount": "subtle"}
    for question, choice in (("chips", "never"), ("weather", "wet")):
        with pytest.raises(EditError):
            set_school(two, question, choice)


def photo(identity, **changes):
    return Photo(**({"id": identity, "sha256": identity * 8, "name": f"{identity}.png", "title": identity, "width": 9, "height": 9} | changes))  # fmt: skip


def test_a_photo_goes_with_what_was_read_from_it(worked):
    left = remove_photo(worked, "f1")
    assert ids(left.photos) == [one for one in ids(worked.photos) if one != "f1"]
    assert left.samples == tuple(s for s in worked.samples if s.photo != "f1")
    assert left.samples
    assert not [r for r in left.regions if r.photo == "f1"]
    (feature,) = left.features
    assert (feature.words, feature.photo, feature.x) == (worked.features[0].words, None, None)
    with pytest.raises(EditError):
        add_photo(worked, photo("f9", sha256=worked.photos[0].sha256))
    with pytest.raises(EditError):
        describe_photo(worked, worked.photos[0].model_copy(update={"date": "last summer"}))


def test_samples_are_read_anew_one_by_one(worked):
    first, second = worked.samples[:2]
    assert set_role(worked, first.id, "rust").samples[:2] == (
        first.model_copy(update={"role": "rust"}),
        second,
    )
    assert first.id not in ids(remove_sample(worked, first.id).samples)
    assert len(remove_sample(worked, first.id).samples) == len(worked.samples) - 1
    mark = AnchorMark(id="a9", x=1, y=1, radius=2)
    moved = second.model_copy(update={"lab": (1.0, 2.0, 3.0)})
    anchored = set_anchors(worked, second.photo, [mark], [moved], [])
    assert anchored.photo(second.photo).anchors == (mark,)
    assert {s.id: s for s in anchored.samples} == {s.id: s for s in worked.samples} | {second.id: moved}


def test_a_zone_goes_with_what_belongs_to_it_and_nothing_else(two, shelf_paints):
    project = lay_varnish(
        pin_base(two, "z1", Mix.of(shelf_paints, [("chalk", 1)])), ["z1", "z2"], "matte-coat"
    )
    project, mask = add_step(project, "mask", ["z1", "z2"])
    project, dust = add_step(project, "powder", ["z1"])
    project = put(project, "steps", project.step(mask).model_copy(update={"after": (dust,)}))
    project = name_feature(project, "A dent")
    project = locate_feature(project, project.features[0].id, "z1", "f1", 3, 4)
    left = remove_zone(project, "z1")
    assert ids(left.zones) == ["z2"]
    assert [c.kind for c in left.coats] == ["matte-coat"]
    assert {(s.kind, s.zones, s.after) for s in left.steps} == {("matte-coat", (), ()), ("mask", ("z2",), ())}
    assert left.features[0].zone is None
    stated = state_target(left, "z2", (50.0, 1.0, 2.0))
    assert isinstance(stated.zone("z2"), Zone)
    assert [known.lab for known in stated.zone("z2").stated] == [(50.0, 1.0, 2.0)]
    assert state_target(stated, "z2", None) == left


@pytest.mark.parametrize(
    ("text", "begin", "end"),
    [
        ("1957", date(1957, 1, 1), date(1957, 12, 31)),
        ("1956-02", date(1956, 2, 1), date(1956, 2, 29)),
        (" 1957-09-30 ", date(1957, 9, 30), date(1957, 9, 30)),
        ("1956/1958-06", date(1956, 1, 1), date(1958, 6, 30)),
        ("1826", date(1826, 1, 1), date(1826, 12, 31)),
        ("2200", date(2200, 1, 1), date(2200, 12, 31)),
    ],
)
def test_dates_of_photos(text, begin, end):
    assert date_span(text) == (begin, end)


@pytest.mark.parametrize(
    "text", ["1825", "2201", "57", "1957-13", "1957-02-30", "1958/1956", "1957 or so", "/1957", "1956-1958"]
)
def test_what_is_no_date(text):
    with pytest.raises(EditError):
        date_span(text)


@pytest.mark.parametrize(
    ("taken", "begin", "end", "said"),
    [
        ("", "1954", "1963", "unknown"), ("1957", "", "", "unknown"), ("1957", "1954", "", "possible"),
        ("1953", "1954", "", "contradicted"), ("1964", "", "1963", "contradicted"), ("1963-12-31", "", "1963", "possible"),
        ("1953/1954", "1954", "1963", "possible"), ("1951/1954", "1954", "1963", "unlikely"),
        ("1954", "1954", "1954", "possible"), ("1953-12-31", "1954", "1963", "contradicted"),
    ],
)  # fmt: skip
def test_whether_a_photo_can_show_a_livery(taken, begin, end, said):
    assert verdict(taken, begin, end) == said


@pytest.mark.parametrize("name", ["zone", "photo", "recipe", "paint", "coat", "step"])
def test_what_is_gone_is_refused_like_any_edit(two, name):
    """A click may come after what it is about was taken away."""
    with pytest.raises(EditError, match="no longer in the project"):
        getattr(two, name)("gone")
