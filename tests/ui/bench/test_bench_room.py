"""Bench: step by step."""

from PySide6.QtCore import Qt


def test_bench_goes_step_by_step(workspace, qtbot):
    session = workspace.session
    workspace.open_room("bench")
    room = workspace.rooms["bench"]
    first, second = room.steps[:2]
    assert room._title.text() == first.title
    qtbot.keyClick(room, Qt.Key.Key_Space)
    assert session.project.steps[0].done
    assert room._title.text() == second.title
    assert ":" in room._wait.text()  # the clock runs
    qtbot.keyClick(room, Qt.Key.Key_PageUp)
    assert room._title.text() == first.title
    session.undo()
    assert not session.project.steps[0].done
    room._clock.stop()
