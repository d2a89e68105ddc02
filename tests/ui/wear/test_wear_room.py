"""Wear: parts traced and measured, the plan made heavier, stop marks printed, corrections by stroke."""

import pytest
from PySide6.QtCore import Qt

from lean_sepia.answers.wearing.planning import plan_of


@pytest.fixture
def room(workspace):
    workspace.open_room("wear")
    return workspace.rooms["wear"]


def drag(qtbot, viewer, start, end):
    qtbot.mousePress(viewer, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(viewer, end)
    qtbot.mouseRelease(viewer, Qt.MouseButton.LeftButton, pos=end)


def hull(session):
    return next(region for region in session.project.regions if region.zone == "hull" and region.wear)


def test_wear_measures_a_drawn_box_and_lays_it(room, workspace, qtbot, widget_point):
    session = workspace.session
    assert f"{hull(session).wear.coverage_percent:.1f} %" in room._statement.text()
    room.viewer.fit()
    qtbot.keyClick(room.viewer, Qt.Key.Key_R)
    drag(qtbot, room.viewer, widget_point(room.viewer, 500, 642), widget_point(room.viewer, 1100, 686))
    assert room.pointing.corners[0][0] == pytest.approx(500, abs=3)
    assert "Not measured" in room._statement.text()
    qtbot.mouseClick(room.measure_button, Qt.MouseButton.LeftButton)
    region = hull(session)
    assert region.corners[0][0] == pytest.approx(500, abs=3)
    assert region.wear.coverage_percent > 0
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    chips = {coat.name: coat.area_share for coat in session.project.coats_of("hull") if coat.kind == "chips"}
    rust = next(c for c in region.wear.classes if c.name == "rust")
    assert chips["Rust chips"] == pytest.approx(rust.coverage_percent / 100)


def test_a_heavier_plan_is_kept_and_laid(room, workspace, qtbot):
    session = workspace.session
    before = {one.kind: one.share for one in room._rows()}
    room.beside.slider.setFocus()
    qtbot.keyClick(room.beside.slider, Qt.Key.Key_PageUp)
    plan = plan_of(session.project, session.project.zone("hull"))
    assert plan.heaviness == 2
    assert {one.kind: one.share for one in room._rows()} == pytest.approx(
        {k: 2 * v for k, v in before.items()}
    )
    assert not room.beside.pair.grab().isNull()
    session.undo()
    assert room.beside.slider.value() == 50


def test_outlines_can_be_hidden_and_a_kind_forgotten(room):
    shown = len(room.viewer._outlines)
    room.pointing.toggle("rust", False)
    assert 0 < len(room.viewer._outlines) < shown
    room.pointing.toggle("rust", True)
    assert len(room.viewer._outlines) == shown
    room.pointing.forget("rust")
    assert "rust" not in room.pointing.kinds


def test_a_stroke_corrects_what_was_taken_for_something_else(room, workspace, qtbot, widget_point):
    session = workspace.session
    rust = next(one for one in hull(session).wear.classes if one.name == "rust").coverage_percent
    room.pointing.kind.choose("")
    room.pointing.viewer.radius = 12
    room.pointing._outlined("brush", [(600, 650), (1000, 650), (1000, 675), (600, 675)])
    room.measure()
    record = hull(session).wear
    assert len(record.strokes) == 1
    assert next(one for one in record.classes if one.name == "rust").coverage_percent < rust


def test_the_ground_can_be_pointed_at_and_is_kept(room, workspace, qtbot, widget_point):
    room.pointing.kind.choose("")
    room.pointing._placed("sample", 700, 660, 3)
    room.measure()
    record = hull(workspace.session).wear
    assert record.ground_spot == (700, 660, 3)


def test_without_a_length_there_are_shares_only(room, workspace):
    room.pointing.mm.setValue(0)
    room.measure()
    record = hull(workspace.session).wear
    assert record.mm_per_px is None
    assert all(one.median_mm is None for one in record.classes)
    assert "no length" in room._remark.text()


def test_stop_marks_are_printed(room, workspace, qtbot, tmp_path, monkeypatch):
    place = tmp_path / "stop.pdf"
    monkeypatch.setattr("lean_sepia.ui.wear.wear_room.ask_place", lambda *_arguments: place)
    qtbot.mouseClick(room.beside.chart, Qt.MouseButton.LeftButton)
    assert place.read_bytes().startswith(b"%PDF")


def test_before_a_kind_is_pointed_at_nothing_is_claimed(room, workspace):
    workspace.session.choose_zone("house")
    assert "Not measured" in room._statement.text()
    assert not room.beside.isVisibleTo(room)
    assert not room.lay.isEnabled()
