"""What cannot be loaded cannot be saved: an edit that breaks a rule is refused with its sentence and nothing changes."""

import gc
import json
import pickle

import pytest

from lean_sepia.document.check import broken_rule, fault_of_edit
from lean_sepia.document.edits.zones import add_zone, change_zone, remove_zone
from lean_sepia.document.entities.mixed import Recipe
from lean_sepia.document.entities.planned import Step
from lean_sepia.document.history import History
from lean_sepia.document.migrate import parse_document
from lean_sepia.document.model import FORMAT, Coat, Project, Region, Zone
from lean_sepia.errors import EditError, NewerVersionError, ProjectFileError


@pytest.fixture
def two():
    project, _ = add_zone(Project(title="Tender"), "Hull")
    return add_zone(project, "Deck")[0]


def changed(project, field, place, **update):
    items = list(getattr(project, field))
    items[place] = items[place].model_copy(update=update)
    return project.model_copy(update={field: tuple(items)})


@pytest.mark.parametrize(
    "update",
    [
        {"area_cm2": float("nan")}, {"area_cm2": float("inf")}, {"area_cm2": -1.0}, {"area_cm2": 1e300},
        {"name": "half \ud800"}, {"name": "x" * 1001}, {"note": "x" * 20_001}, {"name": None}, {"name": 5},
        {"stated": (50.0, float("nan"), 0.0)}, {"stated": (1e300, 0.0, 0.0)}, {"stated": (50.0, 0.0)}, {"subject": "m9"},
        {"id": "z2"},
    ],
)  # fmt: skip
def test_no_zone_breaks_a_rule(two, update):
    history = History(two)
    with pytest.raises(EditError, match="unchanged"):
        history.push("Change it", changed(two, "zones", 0, **update))
    assert history.present is two
    assert history.undo_name is None


@pytest.mark.parametrize(
    ("update", "words"),
    [
        ({"plan_start": "9999-12-31T19:00"}, "from 1900 to 2199"),
        ({"plan_start": "2031-03-03T19:00+01:00"}, "from 1900 to 2199"),
        ({"plan_start": "soon"}, "a date and time"),
        ({"evenings": "never"}, "Evenings are written"),
        ({"title": "\udcff"}, "title"),
        ({"format": 0}, "format"),
        ({"format": -3}, "format"),
        ({"schools": {"decals": 5}}, "schools"),
        ({"recipes": (Recipe(id="r1", name="Cup", parts=(), cups=(("r1", 1),)),)}, "made from itself"),
        ({"recipes": (Recipe(id="r1", name="Cup", parts=()),)}, "nothing in it"),
        ({"steps": (Step(id="s1", kind="base", after=("s2",)), Step(id="s2", kind="base", after=("s1",)))}, "waits for itself"),
        ({"steps": (Step(id="s1", kind="base").model_copy(update={"full_cure_min": float("inf")}),)}, "full_cure_min"),
        ({"coats": (Coat(id="c1", zone="z1", step="s9", kind="base"),)}, "does not exist"),
        ({"zones": (Zone(id="z1", subject="m1", name="a", short="a"),) * 2}, "same id"),
    ],
)  # fmt: skip
def test_no_document_breaks_a_rule(two, update, words):
    with pytest.raises(EditError, match=words):
        History(two).push("Change it", two.model_copy(update=update))


def test_a_circle_of_cups_is_refused(two):
    cups = tuple(
        Recipe(id=f"r{number}", name=f"Cup {number}", parts=(), cups=((f"r{number % 3 + 1}", 1),))
        for number in (1, 2, 3)
    )
    assert "made from itself" in fault_of_edit(two, two.model_copy(update={"recipes": cups}))


def test_a_region_has_three_corners_at_least():
    with pytest.raises(ValueError, match="corners"):
        Region(id="g1", zone="z1", photo="f1", corners=((0, 0), (1, 1)), seen=(50, 0, 0))


def test_the_demo_keeps_every_rule(worked):
    assert broken_rule(worked) is None
    assert fault_of_edit(Project(), worked) is None
    assert parse_document(worked.model_dump_json()) == worked


HOSTILE = {
    "nan": ('"title":"Tender"', '"title":NaN'),
    "lab": ('"stated":[]', '"stated":[{"lab":[NaN,0,0]}]'),
    "huge lab": ('"stated":[]', '"stated":[{"lab":[1e300,0,0]}]'),
    "area": ('"area_cm2":null', '"area_cm2":1e300'),
    "digits": ('"area_cm2":null', '"area_cm2":' + "9" * 5000),
    "format 0": (f'"format":{FORMAT}', '"format":0'),
    "format -1": (f'"format":{FORMAT}', '"format":-1'),
    "format true": (f'"format":{FORMAT}', '"format":true'),
    "format text": (f'"format":{FORMAT}', '"format":"3"'),
    "year": ('"plan_start":""', '"plan_start":"9999-12-31T23:59"'),
    "zone of time": ('"plan_start":""', '"plan_start":"2031-03-03T19:00+02:00"'),
    "nested": ('"schools":{}', '"schools":' + '{"a":' * 3000 + "1" + "}" * 3000),
    "surrogate": ('"title":"Tender"', '"title":"\\ud800"'),
    "unknown field": ('"schools":{}', '"schools":{},"run":"rm"'),
    "twice": ('"id":"z2"', '"id":"z1"'),
}


@pytest.mark.parametrize("name", HOSTILE)
def test_hostile_documents_get_one_message(two, name):
    text = two.model_dump_json()
    before, after = HOSTILE[name]
    assert before in text
    with pytest.raises(ProjectFileError) as caught:
        parse_document(text.replace(before, after, 1))
    assert len(str(caught.value)) < 710


@pytest.mark.parametrize(
    "text",
    [
        "",
        "null",
        "[]",
        "3",
        '"x"',
        "{}",
        '{"format": 3.5}',
        "[" * 100_000,
        '{"format": 2, "coats": 5}',
        '{"format": 1, "steps": [[]]}',
    ],
)
def test_what_is_no_document(text):
    with pytest.raises(ProjectFileError):
        parse_document(text)


def test_a_newer_form_is_never_passed_over():
    with pytest.raises(NewerVersionError):
        parse_document('{"format": 99}')


def test_ten_thousand_edits_are_undone_exactly_and_take_little(two):
    history = History(two)
    gc.collect()
    for number in range(10_000):
        zone = history.present.zones[number % 2]
        assert history.push(
            f"Edit {number}", change_zone(history.present, zone.model_copy(update={"note": f"note {number}"}))
        )
        if number % 1000 == 7:
            history.push("Add", add_zone(history.present, f"Zone {number}")[0])
        if number % 1000 == 8:
            history.push("Remove", remove_zone(history.present, history.present.zones[-1].id))
    kept = sum(map(len, history._packs)) + len(pickle.dumps(history._past))
    assert kept < 1_000_000
    last = history.present
    undone = 0
    while history.undo():
        undone += 1
    assert undone == 10_020
    assert history.present == two
    assert json.loads(history.present.model_dump_json()) == json.loads(two.model_dump_json())
    while history.redo():
        pass
    assert history.present == last
