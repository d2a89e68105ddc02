"""A document of an earlier form, as that form wrote it, opens with nothing lost."""

import json
from pathlib import Path

import pytest

from lean_sepia.answers.strata import strata_of
from lean_sepia.document.migrate import parse_document
from lean_sepia.document.model import FORMAT
from lean_sepia.document.work import plan_steps
from lean_sepia.errors import NewerVersionError, ProjectFileError

TEXT = (Path(__file__).parent / "form-2.json").read_text(encoding="utf-8")


def test_a_document_of_form_2_opens_with_its_coats_steps_and_times():
    before, after = json.loads(TEXT), parse_document(TEXT)
    assert after.format == FORMAT
    assert [coat.id for coat in after.coats] == [coat["id"] for coat in before["coats"]]
    assert [coat.tool for coat in after.coats] == [coat["application"] for coat in before["coats"]]
    old = {step["id"]: step for step in before["steps"]}
    steps = plan_steps(after)
    assert [step.id for step in steps] == [step for step in old if step in {s.id for s in steps}]
    for step in steps:
        kept = old[step.id]
        assert (step.kind, step.medium) == (kept["kind"], kept["medium"])
        if not step.set_up_min:  # nothing is worked out of what was stated
            assert step.hands_min == kept["hands_on_min"], step.kind
        for name in ("touch_dry_min", "full_cure_min", "removable_until_min"):
            assert getattr(step, name) in (None, kept.get(name)), (
                step.kind,
                name,
            )  # the usual ones say the tables now
    assert after.schools == {"decals": "gloss-first"}
    assert strata_of(after, "hull").seen is not None


def test_titles_a_user_wrote_stay():
    before = json.loads(TEXT)
    titles = {step["title"] for step in before["steps"]}
    after = {step.title for step in parse_document(TEXT).steps}
    assert {"Wash in soapy water", "Mask the waterline"} <= titles & after


def test_form_1_had_one_signature():
    data = json.loads(TEXT) | {"format": 1, "signature": " Rust runs "}
    data.pop("features")
    (feature,) = parse_document(json.dumps(data)).features
    assert feature.words == "Rust runs"


@pytest.mark.parametrize(
    ("change", "fault"),
    [
        ({"format": FORMAT + 1}, NewerVersionError),
        ({"format": "2"}, ProjectFileError),
        ({"coats": [{"kind": "base"}]}, ProjectFileError),
        ({"steps": [{"id": "s1", "kind": "no such kind"}]}, ProjectFileError),
        ({"coats": 7}, ProjectFileError),
    ],
)
def test_what_cannot_be_read_is_refused_by_its_class(change, fault):
    with pytest.raises(fault):
        parse_document(json.dumps(json.loads(TEXT) | change))


def test_a_document_of_form_3_keeps_its_stated_colour_and_its_cup():
    text = (Path(__file__).parent / "form-3.json").read_text(encoding="utf-8")
    before, after = json.loads(text), parse_document(text)
    was = next(zone for zone in before["zones"] if zone["stated"])
    (known,) = after.zone(was["id"]).stated
    assert (known.target, known.lab) == ("fresh", tuple(was["stated"]))
    mixed = next(recipe for recipe in before["recipes"] if recipe["basis"])
    assert after.recipe(mixed["id"]).cups == ((mixed["basis"], mixed["basis_parts"]),)
    assert sum(bool(zone.stated) for zone in after.zones) == sum(bool(r.cups) for r in after.recipes) == 1
    assert strata_of(after, "hull").seen == pytest.approx((50.03, -16.30, -1.99), abs=0.02)


def test_a_document_of_form_4_opens_as_it_was_with_undivided_zones():
    text = (Path(__file__).parent / "form-4.json").read_text(encoding="utf-8")
    before, after = json.loads(text), parse_document(text)
    assert after.format == FORMAT
    assert all(zone.panels is None for zone in after.zones)
    again = json.loads(after.model_dump_json())
    for zone in again["zones"]:
        zone.pop("panels")
        zone.pop("wear")
    again.pop("mark_tools")
    _before_form_9(again)
    _before_form_8(again)
    for sample in again["samples"]:
        sample.pop("uneven")
    _before_form_7(again)
    for region in again["regions"]:
        for later in ("ground", "ground_spot", "strokes") if region["wear"] else ():
            region["wear"].pop(later)
    for one in [one for region in again["regions"] if region["wear"] for one in region["wear"]["classes"]]:
        for later in (
            "coverage_range90",
            "median_range90",
            "direction_within_deg",
            "streak_mm",
            "islands",
            "by_height",
            "spot",
            "every_mm",
        ):
            one.pop(later)
    assert again | {"format": 4} == before


def test_a_document_of_form_5_opens_as_it_was_with_no_wear_planned():
    text = (Path(__file__).parent / "form-5.json").read_text(encoding="utf-8")
    before, after = json.loads(text), parse_document(text)
    assert after.format == FORMAT
    assert all(zone.wear is None for zone in after.zones)
    (old,) = [region["wear"] for region in before["regions"] if region["wear"]]
    (new,) = [region.wear for region in after.regions if region.wear]
    assert [
        one.model_dump(include=set(was)) for one, was in zip(new.classes, old["classes"], strict=True)
    ] == [
        {name: tuple(value) if isinstance(value, list) else value for name, value in was.items()}
        for was in old["classes"]
    ]
    assert [coat.id for coat in after.coats] == [coat["id"] for coat in before["coats"]]


def test_a_document_of_form_6_opens_as_it_was_with_no_kind_of_picture_stated():
    text = (Path(__file__).parent / "form-6.json").read_text(encoding="utf-8")
    before, after = json.loads(text), parse_document(text)
    assert after.format == FORMAT
    assert {photo.kind for photo in after.photos} == {"unknown"}
    again = json.loads(after.model_dump_json())
    _before_form_9(again)
    _before_form_8(again)
    _before_form_7(again)
    assert again | {"format": 6} == before


def test_a_document_of_form_7_opens_as_it_was_with_nothing_logged():
    text = (Path(__file__).parent / "form-7.json").read_text(encoding="utf-8")
    before, after = json.loads(text), parse_document(text)
    assert after.format == FORMAT
    again = json.loads(after.model_dump_json())
    _before_form_9(again)
    _before_form_8(again)
    assert again | {"format": 7} == before


def test_a_document_of_form_8_opens_as_it_was_with_its_lettering_printed_on_white():
    text = (Path(__file__).parent / "form-8.json").read_text(encoding="utf-8")
    before, after = json.loads(text), parse_document(text)
    assert after.format == FORMAT
    lettered = [coat for coat in after.coats if coat.kind == "marking"]
    assert {coat.printed for coat in lettered} == {"white"}  # a colour alone hid what lies below
    assert {coat.printed for coat in after.coats if coat.kind != "marking"} == {None}
    again = json.loads(after.model_dump_json())
    _before_form_9(again)
    assert again | {"format": 8} == before


def test_a_document_of_form_9_opens_as_it_was_with_nothing_put_off():
    text = (Path(__file__).parent / "form-9.json").read_text(encoding="utf-8")
    before, after = json.loads(text), parse_document(text)
    assert (after.format, after.put_off) == (FORMAT, ())
    again = json.loads(after.model_dump_json())
    _before_form_10(again)
    assert again | {"format": 9} == before


def test_a_document_of_form_10_opens_as_it_was_with_its_sheltered_places_bare_of_what_came_later():
    text = (Path(__file__).parent / "form-10.json").read_text(encoding="utf-8")
    before, after = json.loads(text), parse_document(text)
    assert (after.format, len(after.put_off)) == (FORMAT, 1)
    assert not any(zone.sheltered_too for zone in after.zones)
    again = json.loads(after.model_dump_json())
    _before_form_11(again)
    assert again | {"format": 10} == before


def _before_form_11(data):
    """Take out what form 11 added."""
    data.pop("sight_km")
    data.pop("white_share")
    for zone in data["zones"]:
        zone.pop("sheltered_too")


def _before_form_10(data):
    """Take out what forms 10 and 11 added."""
    _before_form_11(data)
    data.pop("put_off")


def _before_form_9(data):
    """Take out what forms 9 to 11 added."""
    _before_form_10(data)
    for zone in data["zones"]:
        zone.pop("apart")
    for step in data["steps"]:
        for later in ("serves", "sitting"):
            step.pop(later)
    for coat in data["coats"]:
        coat.pop("printed")
        coat.pop("wiped")
        coat.pop("speck_mm")
    for paint in data["paints"]:
        for later in ("use", "body", "can", "thinner_share", "cover_said"):
            paint.pop(later)


def _before_form_8(data):
    """Take out what form 8 added."""
    for later in ("deadline", "workplace", "drying", "accepted", "waits"):
        data.pop(later)
    for step in data["steps"]:
        for later in (
            "tool",
            "mask",
            "workable_until_min",
            "by_hand",
            "started",
            "ended",
            "spent_min",
            "ticked",
            "remark",
        ):
            step.pop(later)


def _before_form_7(data):
    """Take out what form 7 added."""
    for photo in data["photos"]:
        for later in ("kind", "like"):
            photo.pop(later)
        for anchor in photo["anchors"]:
            anchor.pop("guess")
