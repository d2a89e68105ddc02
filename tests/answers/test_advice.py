"""What the program has noticed: the most important first, each with the room where it is dealt with."""

import pytest

from lean_sepia.answers.advice import advice, room_states
from lean_sepia.answers.rooms.evidence import contradiction, photo_verdict
from lean_sepia.answers.rooms.room import Urgency
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.answers.strata import strata_of
from lean_sepia.document.edits.coats import lay_fade, lay_filter, lay_varnish, pin_base, switch_coat
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.photos import add_photo
from lean_sepia.document.edits.planning import set_step_done
from lean_sepia.document.edits.steps import add_step
from lean_sepia.document.edits.zones import add_zone, state_target
from lean_sepia.document.model import Photo, Project, Sample, Subject


def said(project):
    return advice(project, {zone.id: strata_of(project, zone.id) for zone in project.zones})


def states(project):
    return room_states(project, {zone.id: strata_of(project, zone.id) for zone in project.zones})


def photo(identity, **changes):
    return Photo(
        **({"id": identity, "sha256": identity * 8, "name": f"{identity}.png", "title": identity, "width": 9, "height": 9} | changes)
    )  # fmt: skip


def sample(identity, lab, photo_id="f1", radius=3.0):
    around = tuple((value - 2, value + 2) for value in lab)
    return Sample(id=identity, photo=photo_id, zone="z1", role="base", x=1, y=1, radius=2, lab=lab, lab_range90=around,
                  de00_90=radius, pixels=9, clipped_share=0)  # fmt: skip


@pytest.fixture
def hull():
    return add_zone(Project(title="Tender"), "Hull")[0]


def test_the_first_steps_come_first(hull):
    first = said(Project())[0]
    assert (first.room, "Add a photo" in first.text) == ("evidence", True)
    with_photo = add_photo(Project(), photo("f1"))
    assert "Name a zone" in said(with_photo)[0].text
    stated = state_target(hull, "z1", (50.0, -10.0, 0.0))
    assert said(stated)[0].text == "Hull has a target and no recipe yet."
    assert (said(stated)[0].room, said(stated)[0].zone) == ("match", "z1")


def test_a_zone_without_a_sample_is_named_only_where_there_are_photos(hull):
    assert not any("no sample yet" in one.text for one in said(hull))
    assert any(one.text == "Hull has no sample yet." for one in said(add_photo(hull, photo("f1"))))


def test_a_photo_without_an_anchor_is_named_once_it_is_sampled(hull):
    project = add_photo(hull, photo("f1"))
    assert not any("no anchor" in one.text for one in said(project))
    sampled = put(project, "samples", sample("s1", (50.0, -10.0, 0.0)))
    assert any("has no anchor" in one.text for one in said(sampled))
    grey = put(sampled, "photos", photo("f1", tones="black-and-white"))
    assert not any("has no anchor" in one.text for one in said(grey))


def test_photos_that_disagree_are_named(hull):
    project = add_photo(add_photo(hull, photo("f1")), photo("f2"))
    near = put(
        put(project, "samples", sample("s1", (50.0, -10.0, 0.0))),
        "samples",
        sample("s2", (50.5, -10.0, 0.0), "f2"),
    )
    far = put(near, "samples", sample("s2", (62.0, 4.0, 9.0), "f2"))
    assert not any("disagree" in one.text for one in said(near))
    assert any("disagree" in one.text and one.zone == "z1" for one in said(far))


def test_a_base_outside_the_photos_range_is_named(hull, shelf_paints):
    chalk = Mix.of(shelf_paints, [("chalk", 1)])
    seen = strata_of(pin_base(hull, "z1", chalk, Manner(passes=6)), "z1").fresh
    project = put(add_photo(hull, photo("f1")), "samples", sample("s1", seen, radius=2.0))
    wrong = pin_base(project, "z1", Mix.of(shelf_paints, [("lamp", 1)]), Manner(passes=4))
    assert any("outside the photo's own ±2.0" in one.text for one in said(wrong))
    right = pin_base(project, "z1", chalk, Manner(passes=6))
    assert not any("outside the photo's own" in one.text for one in said(right))


def test_where_nothing_is_left_the_card_is_offered(hull, shelf_paints):
    chalk = Mix.of(shelf_paints, [("chalk", 1)])
    flat = lay_varnish(pin_base(hull, "z1", chalk), ["z1"], "matte-coat")
    project = state_target(hull, "z1", strata_of(flat, "z1").fresh)
    assert [one.urgency for one in said(project)] == [Urgency.MATCHES]
    project = lay_varnish(pin_base(project, "z1", Mix.of(shelf_paints, [("chalk", 1)])), ["z1"], "matte-coat")
    (only,) = said(project)
    assert (only.room, "Nothing stands in the way" in only.text) == ("bench", True)


@pytest.mark.parametrize(
    ("date", "words"),
    [("1950", "the second began in 1954"), ("1970", "the second ended in 1963"), ("1957", None), ("", None),
     ("1951/1954", "probably not of it"), ("some day", None)],
)  # fmt: skip
def test_photos_of_another_time_contradict_a_livery(date, words):
    subject = Subject(
        id="m1", name="Tordmule", scale=96, livery="second", livery_from="1954", livery_to="1963"
    )
    found = contradiction(photo("f1", date=date), subject)
    assert (found is None) if words is None else (words in found)
    assert photo_verdict(photo("f1", date=date, of_model=True), subject) == "unknown"


def test_rooms_say_how_far_they_have_come(hull, shelf_paints):
    chalk = Mix.of(shelf_paints, [("chalk", 1)])
    assert set(states(hull)) == set(ROOMS)
    assert {room: state.state for room, state in states(Project()).items()} == dict.fromkeys(ROOMS, "empty")
    two, _ = add_zone(hull, "Roof")
    project = pin_base(two, "z1", chalk)
    assert (states(project)["match"].state, states(project)["match"].detail) == ("started", "1 of 2 zones")
    both = pin_base(project, "z2", chalk)
    assert states(both)["match"].state == "done"
    faded = lay_fade(both, "z1", Mix.of(shelf_paints, [("tan", 1)], base_parts=2))
    assert states(faded)["tone"].state == "started"
    fade = next(coat for coat in faded.coats if coat.kind == "fade")
    assert states(switch_coat(faded, fade.id, False))["tone"].state == "empty"
    filtered = lay_filter(faded, ["z1", "z2"], Mix.of(shelf_paints, [("oil-sienna", 1)]))
    assert states(filtered)["glaze"].state == "done"
    assert states(filtered)["plan"].detail == f"{len(filtered.steps)} steps"
    assert states(filtered)["bench"].detail == "not begun"
    begun = set_step_done(filtered, filtered.steps[0].id, True)
    assert (states(begun)["bench"].state, states(begun)["bench"].detail) == (
        "started",
        f"1 of {len(filtered.steps)} done",
    )


def test_one_is_one_and_many_are_many(hull):
    assert states(add_photo(hull, photo("f1")))["evidence"].detail == "1 photo"
    assert states(add_photo(add_photo(hull, photo("f1")), photo("f2")))["evidence"].detail == "2 photos"
    assert states(hull)["evidence"].detail == "no photo yet"
    assert states(hull)["plan"].detail == "no step yet"
    assert states(add_step(hull, "wash", ["z1"])[0])["plan"].detail == "1 step"
