"""The model measured in the window, and held against the plan."""

import pytest
from PySide6.QtCore import Qt

from lean_sepia.ui.wear.photo_page import _known

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def page(workspace, qtbot):
    workspace.open_room("wear")
    room = workspace.rooms["wear"]
    qtbot.mouseClick(room.views["model"], LEFT)
    return room.model


def test_the_model_is_measured_and_told_what_is_off(page, workspace):
    assert set(page.pointing.kinds) == {"rust", "scratch"}
    assert "Trace the same part" in page.what_is_missing()
    page.pointing._traced([(500, 660), (1100, 660), (1100, 690), (500, 690)])
    page.measure()
    project = workspace.session.project
    region = next(r for r in project.regions if project.photo(r.photo).of_model and r.wear)
    assert region.zone == "hull"
    text = workspace.rooms["wear"]._statement.text()
    assert text == "2 of 2 kinds are off."
    assert any(one.wear for one in project.regions if not project.photo(one.photo).of_model)
    workspace.session.undo()
    assert "not measured yet" in workspace.rooms["wear"]._statement.text()


def test_going_back_to_a_zone_does_not_measure_it_anew(workspace, monkeypatch):
    workspace.open_room("wear")
    room = workspace.rooms["wear"]
    answer = room.photo.answer
    assert answer.question in _known
    workspace.session.choose_zone("boot")
    assert room.photo.answer is None
    monkeypatch.setattr("lean_sepia.answers.wearing.surveying.answer", None)
    workspace.session.choose_zone("hull")
    assert room.photo.answer is answer
