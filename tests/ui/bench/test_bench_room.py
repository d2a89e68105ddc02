"""Bench: step by step, lists ticked, clocks that run on, what was noted."""

from datetime import datetime, timedelta

import pytest
from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QCheckBox, QLabel

from lean_sepia.answers.bench import timers


@pytest.fixture
def room(workspace):
    workspace.open_room("bench")
    return workspace.rooms["bench"]


def said(widget):
    return " ".join(label.text() for label in widget.findChildren(QLabel))


def test_bench_goes_step_by_step(room, qtbot):
    session = room.session
    first, second = room.steps[:2]
    assert room._title.text() == first.title
    qtbot.keyClick(room, Qt.Key.Key_Space)
    assert session.project.steps[0].done
    assert room._title.text() == second.title
    assert second.title in said(room.clocks)  # the clock runs
    qtbot.keyClick(room, Qt.Key.Key_PageUp)
    assert room._title.text() == first.title
    room.undo_done.click()
    assert not session.project.steps[0].done
    assert room.clocks._timers == ()
    qtbot.keyClick(room, Qt.Key.Key_PageDown)
    session.undo()
    assert not session.project.steps[0].done


def test_time_at_the_bench_is_counted_from_begin_to_done(room):
    name = room.steps[0].step.id
    room.begin_step()
    assert room.session.project.step(name).started
    assert not room.begin.isVisible()
    room.finish_step()
    step = room.session.project.step(name)
    assert step.ended >= step.started
    assert step.spent_min is not None


def test_the_list_before_a_spray_is_ticked_and_kept(room):
    room.index = next(i for i, step in enumerate(room.steps) if step.step.kind == "satin-coat")
    room.refresh()
    boxes = {box.text(): box for box in room._notes.findChildren(QCheckBox)}
    assert any("Not done yet" in words for words in boxes)
    every = next(box for words, box in boxes.items() if "Every face" in words)
    every.setChecked(True)
    name = room.steps[room.index].step.id
    assert room.session.project.step(name).ticked == ("faces",)
    again = next(box for box in room._notes.findChildren(QCheckBox) if "Every face" in box.text())
    assert again.isChecked()


def test_a_remark_is_kept_with_its_step(room):
    room.remark.setText("went on too wet")
    room.remark.editingFinished.emit()
    assert room.session.project.step(room.steps[0].step.id).remark == "went on too wet"
    room.turn(1)
    assert room.remark.text() == ""
    room.turn(-1)
    assert room.remark.text() == "went on too wet"


def test_page_up_in_the_remark_keeps_it_with_its_step(room, qtbot):
    room.turn(1)
    first, second = room.steps[0].step.id, room.steps[1].step.id
    room.remark.setFocus()
    qtbot.keyClicks(room.remark, "a run at the stern")
    qtbot.keyClick(room.remark, Qt.Key.Key_PageUp)
    assert room.index == 0
    assert room.remark.text() == ""
    room.remark.clearFocus()
    room.finish_step()
    project = room.session.project
    assert (project.step(first).remark, project.step(second).remark) == ("", "a run at the stern")


@pytest.mark.parametrize("key", [Qt.Key.Key_Space, Qt.Key.Key_PageDown])
def test_a_key_that_is_held_ticks_one_step(room, qapp, key):
    room.setFocus()
    for again in (False, *(True,) * 17):
        qapp.sendEvent(room, QKeyEvent(QEvent.Type.KeyPress, key, Qt.KeyboardModifier.NoModifier, "", again))
    assert [step.done for step in room.session.project.steps].count(True) == 1


def test_a_step_that_was_begun_long_ago_can_be_done(room):
    name = room.steps[0].step.id
    long_ago = (datetime.now() - timedelta(days=700)).isoformat(timespec="seconds")
    room.session.edit("long ago", lambda p: started_at(p, name, long_ago))
    room.finish_step()
    step = room.session.project.step(name)
    assert step.done
    assert step.spent_min is None


def started_at(project, name, moment):
    steps = tuple(s.model_copy(update={"started": moment}) if s.id == name else s for s in project.steps)
    return project.model_copy(update={"steps": steps})


def test_clocks_follow_from_the_document_and_are_told_once(room, monkeypatch):
    told = []
    monkeypatch.setattr(
        "lean_sepia.ui.bench.bench_room.notify", lambda title, words: told.append((title, words))
    )
    room.finish_step()
    clocks = timers(room._answer, room.steps)
    ready = next(timer for timer in clocks if timer.kind == "ready")
    assert ready.moment > datetime.now() + timedelta(minutes=90)  # washed parts dry two hours
    room.clocks.tick(ready.moment + timedelta(seconds=1))
    room.clocks.tick(ready.moment + timedelta(seconds=2))
    assert [words for _title, words in told if words == ready.over] == [ready.over]


def test_a_wait_that_was_measured_counts_from_then_on(room, monkeypatch):
    room.turn(1)
    below, then, usual = room._pair_to_log()
    assert usual == 120
    monkeypatch.setattr("lean_sepia.ui.bench.bench_room.ask_number", lambda *_a, **_k: 45.0)
    room.log_wait()
    assert room._pair_to_log()[2] == 45
    (logged,) = room.session.project.waits
    assert (logged.below, logged.then, logged.minutes) == (below.step.kind, then.step.kind, 45)


def test_the_zone_column_follows_the_step(room):
    room.session.choose_zone("gear")
    room.index = next(i for i, step in enumerate(room.steps) if step.title == "Base colour, House")
    room.refresh()
    assert room.session.zone == "house"


def test_a_document_without_steps_says_where_they_come_from(room):
    room.session.edit("none", lambda p: p.model_copy(update={"steps": (), "coats": (), "accepted": ()}))
    assert "Nothing to do yet" in room._title.text()
    assert not room.next.isEnabled()
    room.finish_step()
    room.turn(1)


def test_what_is_masked_against_what_is_said(room):
    steps = {step.title: step for step in room.steps}
    assert (
        steps["Mask the waterline"].masks
        == "Against: Base colour, Boot. It comes off with “Unmask the waterline”."
    )
    assert steps["Base colour, Boot"].masks == "Masked meanwhile: Mask the waterline."
    assert steps["Primer"].masks == ""
    assert "signature" in " ".join(step.effort for step in room.steps)
