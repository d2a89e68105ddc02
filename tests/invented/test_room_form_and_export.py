"""What a new room, a new form of shelf file and a new export cost: one file and one row each."""

import json
from pathlib import Path

import pytest

from lean_sepia.answers.advice import advice, room_states
from lean_sepia.answers.rooms.room import Advice, RoomNature, RoomState, Urgency
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.cli import cli
from lean_sepia.commands.exporting import command_of
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import BadInputError
from lean_sepia.files.gate import write_export
from lean_sepia.report import export
from lean_sepia.report.export import EXPORTS, Export
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.forms.form import Form
from lean_sepia.shelf.forms.table import FORMS
from lean_sepia.shelf.shelf_file import read_shelf, write_shelf


def test_a_room_says_its_state_and_what_it_has_noticed(monkeypatch, worked, cuts):
    def noticed(seen):
        yield Advice(f"{len(seen.project.zones)} zones are too many.", "store-room", urgency=Urgency.BEGIN)

    row = RoomNature(title="Store", widget="none:None", help="Store: what is kept.",
                     state=lambda seen: RoomState(f"{len(seen.project.steps)} kept", "started"), advice=noticed)  # fmt: skip
    monkeypatch.setitem(ROOMS, "store-room", row)
    found = cuts(worked)
    assert room_states(worked, found)["store-room"].detail == f"{len(worked.steps)} kept"
    assert advice(worked, found)[0].room == "store-room"
    assert list(ROOMS)[-1] == "store-room"


def test_a_form_of_shelf_file_is_read_and_written(monkeypatch, tmp_path, shelf_paints):
    def read(text: str, _file: Path) -> ShelfContent:
        return ShelfContent(tuple(json.loads(line) for line in text.splitlines()[1:]))

    def write(content: ShelfContent) -> str:
        return "\n".join(["LINES", *(json.dumps(record) for record in content.records), ""])

    form = Form(
        label="Lines",
        endings=(".lines",),
        readable=lambda text: text.startswith("LINES"),
        read=read,
        write=write,
    )
    # Before CSV, which takes what no other form does.
    rows = {**FORMS}
    FORMS.clear()
    try:
        FORMS.update({"lines": form, **rows})
        record = {"id": "a", "name": "A", "medium": "lacquer", "finish": "flat", "lab": [50.0, 1.0, 2.0]}
        place = tmp_path / "shelf.lines"
        write_shelf(place, ShelfContent((record,)))
        assert place.read_text().startswith("LINES")
        assert read_shelf(place).records == (record,)
        write_shelf(tmp_path / "shelf.unknown", ShelfContent((record,)))
    finally:
        FORMS.clear()
        FORMS.update(rows)


def _told(leaving, place):
    write_export(place, f"{leaving.project.title}\n".encode(), BadInputError)


def test_an_export_is_a_command(monkeypatch, demo, call, tmp_path):
    monkeypatch.setattr("lean_sepia.report.fonts.write_title", _told, raising=False)
    row = Export(label="Title file…", hint="The title alone", help="Write the title.", about="project", kind="Text", ending=".txt",
                 called=lambda leaving: leaving.project.title, writes="fonts:write_title")  # fmt: skip
    monkeypatch.setitem(EXPORTS, "title", row)
    monkeypatch.setitem(cli.commands, "title", command_of("title", row))
    place = tmp_path / "title.txt"
    code, out, err = call("title", demo.worked, "--txt", place, "--json")
    assert (code, err) == (0, "")
    assert json.loads(out)["txt"] == str(place)
    assert place.read_text().strip()
    assert export.EXPORTS["title"] is row


@pytest.mark.parametrize("name", EXPORTS)
def test_every_export_has_its_command_and_writes_it(name, demo, call, tmp_path):
    row = EXPORTS[name]
    place = tmp_path / f"out{row.ending}"
    zone = ["--zone", "hull"] if row.about == "zone" else []
    code, out, err = call(name, demo.worked, f"--{row.ending[1:]}", place, *zone, "--json")
    assert code == 0, err
    assert json.loads(out)[row.ending[1:]] == str(place)
    assert place.stat().st_size > 1000


def test_a_zone_without_planned_wear_has_no_stop_marks(demo, call, tmp_path):
    place = tmp_path / "a.pdf"
    code, _out, err = call("stop-marks", demo.worked, "--zone", "gear", "--pdf", place)
    assert code == 2
    assert "No wear is planned on Deck gear" in err
    assert not place.exists()


def test_an_empty_project_says_what_is_missing(call, tmp_path):
    place = tmp_path / "empty.sepia"
    ProjectStore.create(place, Project(title="Nothing yet")).close()
    for name, words in (("calendar", "no step with work"), ("stop-marks", "no zone yet")):
        code, _out, err = call(name, place, f"--{EXPORTS[name].ending[1:]}", tmp_path / "out")
        assert code == 2
        assert words in err
    assert not (tmp_path / "out").exists()


def test_a_zone_is_found_by_its_id_its_name_and_the_first_part_of_it(demo, call, tmp_path):
    said = {call("stop-marks", demo.worked, "--pdf", tmp_path / "a.pdf", "--zone", name)[2]
            for name in ("hull", "Hull, port side", "Hull")}  # fmt: skip
    assert said == {""}
    assert (tmp_path / "a.pdf").read_bytes().startswith(b"%PDF")


def test_a_zone_that_is_not_there_is_named_with_those_that_are(demo, call, tmp_path):
    code, _out, err = call("stop-marks", demo.worked, "--pdf", tmp_path / "a.pdf", "--zone", "Keel")
    assert code == 2
    assert "no zone 'Keel'" in err
    assert "hull (Hull" in err
