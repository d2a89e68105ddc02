"""Wear: regions measured."""

import pytest
from PySide6.QtCore import Qt


def test_wear_measures_a_drawn_region(workspace, demo, qtbot, widget_point):
    session = workspace.session
    workspace.open_room("wear")
    room = workspace.rooms["wear"]
    assert f"{session.project.regions[0].wear.coverage_percent:.1f} %" in room._much.text()
    room.viewer.fit()
    qtbot.keyClick(room.viewer, Qt.Key.Key_R)
    start, end = widget_point(room.viewer, 500, 642), widget_point(room.viewer, 1100, 686)
    qtbot.mousePress(room.viewer, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(room.viewer, end)
    qtbot.mouseRelease(room.viewer, Qt.MouseButton.LeftButton, pos=end)
    assert room.box[0] == pytest.approx(500, abs=3)
    qtbot.mouseClick(room.measure_button, Qt.MouseButton.LeftButton)
    region = session.project.regions[0]
    assert region.corners[0][0] == pytest.approx(500, abs=3)
    assert region.wear.coverage_percent > 0
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    chips = {coat.name: coat.area_share for coat in session.project.coats_of("hull") if coat.kind == "chips"}
    rust = next(c for c in region.wear.classes if c.name == "rust")
    assert chips["Rust chips"] == pytest.approx(rust.coverage_percent / 100)
