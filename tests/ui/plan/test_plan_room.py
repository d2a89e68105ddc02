"""Plan: steps moved, evenings refused, schools kept."""

from PySide6.QtCore import Qt


def test_plan_moves_a_step_and_the_fault_goes(workspace, qtbot):
    session = workspace.session
    workspace.open_room("plan")
    room = workspace.rooms["plan"]
    powder = next(step.id for step in session.project.steps if step.kind == "powder")
    room._choose(powder)
    assert "vanish" in " ".join(label.text() for label in room._found_panel.findChildren(type(room._remark)))
    room.timeline.setFocus()
    room.timeline._current = powder
    qtbot.keyClick(room.timeline, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert session.project.steps[-1].id == powder
    assert not [advice for advice in session.advice() if "vanish" in advice.text]


def test_plan_refuses_evenings_that_cannot_be(workspace):
    workspace.open_room("plan")
    room = workspace.rooms["plan"]
    before = workspace.session.project
    room.evenings.setText("whenever")
    room.evenings.editingFinished.emit()
    assert workspace.session.project is before
    assert "mon-fri" in workspace.advice._text.text()
    assert room.evenings.text() == before.evenings  # what rules is what is shown
    room.evenings.setText("sat 10:00-18:00")
    room.evenings.editingFinished.emit()
    assert workspace.session.project.evenings == "sat 10:00-18:00"
    assert all(placed.start.weekday() == 5 for placed in room.schedule.steps)


def test_plan_keeps_schools_and_adds_steps(workspace):
    workspace.open_room("plan")
    room = workspace.rooms["plan"]
    room.question.setCurrentText("chips")
    room.school.setCurrentText("after the wash")
    room._set_school()
    assert workspace.session.project.schools["chips"] == "after-wash"
    count = len(workspace.session.project.steps)
    room.kind.setCurrentText("Pin wash")
    room.add_step()
    assert len(workspace.session.project.steps) == count + 1
    assert workspace.session.project.step(room.current).kind == "pin-wash"
