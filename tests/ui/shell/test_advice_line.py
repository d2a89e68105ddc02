"""The line at the foot: remarks one after another, those of the room first, put off and taken up again."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QDesktopServices

from lean_sepia.answers.advice import as_told
from lean_sepia.answers.rooms.room import Advice, Urgency
from lean_sepia.document.edits.coats import change_coat
from lean_sepia.document.entities.planned import PutOff
from lean_sepia.errors import BadInputError
from lean_sepia.ui.kit.dialogs.exporting import write_beside
from lean_sepia.ui.kit.job import Job


@pytest.fixture
def line(workspace):
    """The line of the worked demo, where no room has anything to say that the bench does not."""
    workspace.open_room("bench")
    return workspace.advice


def told(line):
    """All that is told, from where one stands, round the end."""
    said = []
    while (words := line._text.text()) not in said:
        said.append(words)
        line.walk()
    return said


def test_what_concerns_the_room_comes_first_then_the_most_urgent_then_the_greatest_gain():
    plan = Advice("plan", "plan", urgency=Urgency.ORDER)
    small, great = (Advice(str(g), "match", "hull", Urgency.MATCHES, (str(g),), g) for g in (1.0, 7.0))
    assert as_told([plan, great, small], (), "match") == [great, small, plan]
    assert as_told([plan, great, small], [PutOff(id=great.key)], "bench") == [plan, small]


def test_remarks_of_one_urgency_are_ordered_by_what_they_bring(workspace):
    session = workspace.session
    base = {zone.id: session.project.bases_of(zone.id)[0] for zone in session.project.zones[:3]}
    for L, coat in zip((20.0, 90.0, 5.0), base.values(), strict=True):  # far from each target
        session.edit("Repaint", lambda p, c=coat, L=L: change_coat(p, c.id, recipe=None, lab=(L, 60.0, 60.0)))
    said = [one for one in session.advice() if one.urgency == Urgency.MATCHES]
    assert len(said) > 2
    assert [one.gain for one in said] == sorted((one.gain for one in said), reverse=True)


def test_no_two_remarks_are_known_by_one_name(workspace):
    keys = [one.key for one in workspace.session.advice()]
    assert len(keys) > 3
    assert len(set(keys)) == len(keys)


def test_remarks_are_walked_through_by_key_and_come_round(line, workspace, qtbot):
    noticed = [one.text for one in as_told(workspace.session.advice(), (), "bench")]
    assert len(noticed) > 3
    assert told(line) == noticed
    qtbot.keyClick(workspace, Qt.Key.Key_F3)
    assert line._text.text() == noticed[1]
    qtbot.keyClick(workspace, Qt.Key.Key_F3, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(workspace, Qt.Key.Key_F3, Qt.KeyboardModifier.ShiftModifier)
    assert line._text.text() == noticed[-1]


def test_each_room_begins_with_its_own(workspace):
    said = workspace.session.advice()
    for room in {one.room for one in said}:
        workspace.open_room(room)
        assert workspace.advice._text.text() == next(one.text for one in said if one.room == room)


def test_a_remark_put_off_stays_away_in_this_project_and_can_be_taken_up(line, workspace, qtbot):
    first, second = (one.text for one in as_told(workspace.session.advice(), (), "bench")[:2])
    qtbot.keyClick(workspace, Qt.Key.Key_F4)
    assert line._text.text() == second
    assert told(line)[-1] == "1 remark was put off."
    workspace.session.save_now()
    kept = workspace.session.store.revision(workspace.session.store.revisions()[0].id)
    assert len(kept.put_off) == 1
    line.walk(places=-1)
    assert line._button.text() == "Take up again"
    line._button.click()
    assert line._text.text() == first


def test_putting_off_is_an_edit_like_any_other(line, workspace):
    before = workspace.session.project
    line._later.click()
    assert workspace.session.project.put_off
    workspace.session.undo()
    assert workspace.session.project == before


def test_where_one_walked_to_stays_while_the_document_changes(line, workspace):
    line.walk()
    line.walk()
    stood = line._text.text()
    workspace.column.add_named_zone("Mast")
    line._refresh()
    assert line._text.text() == stood


def test_what_was_refused_is_no_remark_and_cannot_be_put_off(line, workspace):
    line.refuse("No.")
    assert not line._later.isVisibleTo(line)
    line.put_off()
    line.walk()
    assert workspace.session.project.put_off == ()
    assert line._text.text() == "No."
    line._close.click()
    assert line._next.isVisibleTo(line)


def test_what_was_written_is_said_with_its_place_and_shown(line, workspace, tmp_path, monkeypatch):
    opened = []
    monkeypatch.setattr(
        QDesktopServices, "openUrl", lambda url: opened.append(url.toLocalFile()) or len(opened) > 1
    )
    place = tmp_path / "card.pdf"
    write_beside(workspace.session.jobs, place, lambda: place.write_bytes(b"%PDF"))
    assert line._text.text() == f"Written: card.pdf, in {tmp_path}."
    assert line._button.text() == "Show"
    line._button.click()
    assert opened == [str(place), str(tmp_path)]  # where nothing opens it, its folder
    line._close.click()
    assert line._told


def test_where_the_desktop_opens_nothing_the_place_is_said(line, workspace, tmp_path, monkeypatch):
    monkeypatch.setattr(QDesktopServices, "openUrl", lambda _url: False)
    workspace.session.jobs.written.emit(tmp_path / "card.pdf")
    line._button.click()
    assert line._text.text() == f"Nothing on this desktop opens card.pdf. It lies in {tmp_path}."


def test_what_could_not_be_written_is_not_said_to_be_there(line, workspace, tmp_path):
    def fail():
        raise BadInputError("The disk is full.")

    write_beside(workspace.session.jobs, tmp_path / "card.pdf", fail)
    assert line._text.text() == "The disk is full."
    assert not line._button.isVisibleTo(line)


def test_long_work_keeps_its_way_to_cancel_while_something_is_written(line, workspace, tmp_path):
    job = Job(lambda progress: progress(0.5) or 7)
    line.follow(job, "Reading 3 photos")
    workspace.session.jobs.written.emit(tmp_path / "card.pdf")
    assert line._button.text() == "Cancel"
    job.run()
    assert not line._button.isVisibleTo(line)
    line._close.click()
    assert line._told
