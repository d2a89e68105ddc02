"""Wear planned on the zone's face: places put and moved, kinds added and changed, how it wore, the whole model."""

import pytest
from PySide6.QtCore import QPoint, Qt

from lean_sepia.ui.wear.planning.planned_rows import OWN

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def room(workspace, qtbot):
    workspace.open_room("wear")
    room = workspace.rooms["wear"]
    workspace.session.choose_zone("funnel")
    qtbot.mouseClick(room.views["plan"], LEFT)
    return room


@pytest.fixture
def wear(workspace):
    return lambda: workspace.session.project.zone("funnel").wear


def test_places_are_put_moved_and_taken_away(room, wear, qtbot):
    face = room.plan.map
    room.plan.what.choose("hinge")
    room.plan.what.activated.emit(room.plan.what.currentIndex())
    qtbot.mouseClick(face, LEFT, pos=QPoint(face.width() // 4, face.height() // 2))
    (source,) = wear().sources
    assert (source.what, source.x) == ("hinge", pytest.approx(0.25, abs=0.01))
    qtbot.mousePress(face, LEFT, pos=QPoint(face.width() // 4, face.height() // 2))
    qtbot.mouseMove(face, QPoint(face.width() // 2, face.height() // 2))
    qtbot.mouseRelease(face, LEFT, pos=QPoint(face.width() // 2, face.height() // 2))
    assert wear().sources[0].x == pytest.approx(0.5, abs=0.01)
    qtbot.keyClick(face, Qt.Key.Key_Right)
    assert wear().sources[0].x == pytest.approx(0.52, abs=0.01)
    qtbot.keyClick(face, Qt.Key.Key_Plus)
    assert len(wear().sources) == 2
    qtbot.keyClick(face, Qt.Key.Key_PageDown)
    qtbot.keyClick(face, Qt.Key.Key_Delete)
    assert [one.x for one in wear().sources] == [0.5]
    room.session.undo()
    assert len(wear().sources) == 2
    assert not face.grab().isNull()


def test_kinds_are_planned_changed_and_laid(room, wear, workspace, qtbot, monkeypatch):
    monkeypatch.setattr("lean_sepia.ui.wear.planning.planned_rows.ask_text", lambda *_given: " tar drips ")
    rows = room.plan.rows
    for name in ("streaks", OWN):
        rows.add_kind.choose(name)
        rows.add_kind.activated.emit(rows.add_kind.currentIndex())
    assert [one.kind for one in wear().kinds] == ["streaks", "tar drips"]
    rows._change("streaks", share=0.05, median_mm=200, tool="fine-brush")
    planned = wear().kinds[0]
    assert (planned.share, planned.median_mm, planned.tool) == (0.05, 200, "fine-brush")
    assert room._statement.text().startswith("6.0 %")
    qtbot.mouseClick(room.lay, LEFT)
    laid = {c.name: c.area_share for c in workspace.session.project.coats_of("funnel") if c.kind == "streaks"}
    assert laid == {"Rust streaks": 0.05}
    rows._drop("tar drips")
    assert [one.kind for one in wear().kinds] == ["streaks"]


def test_how_it_wore_is_kept_and_shown(room, wear, workspace):
    how = room.plan.how
    room.plan.rows.add_planned("rust")
    room.plan.rows.add_planned("scratch")
    how.climate.choose("damp")
    how.climate.activated.emit(how.climate.currentIndex())
    how.water.choose("house")
    how.water.activated.emit(how.water.currentIndex())
    how.edges.setChecked(True)
    how.two_tone.setChecked(True)
    how.larger.setValue(1.5)
    plan = wear()
    assert (plan.climate, plan.water_from, plan.edges, plan.two_tone, plan.larger) == (
        "damp",
        "house",
        True,
        True,
        1.5,
    )
    assert "larger than life" in room._remark.text()
    seed = plan.seed
    how.throw.click()
    assert wear().seed == seed + 1
    workspace.session.choose_zone("hull")
    assert not how.edges.isChecked()
    how.panels.click()
    assert workspace.room == "tone"


def test_the_whole_model_is_shown_and_its_zones_chosen(room, workspace, qtbot):
    vehicle = room.plan.vehicle
    room.plan.rows.add_planned("rust")
    assert "% of the model" in vehicle.total.text()
    first = vehicle.fields.boxes()[0].center().toPoint()
    qtbot.mouseClick(vehicle.fields, LEFT, pos=first)
    assert workspace.session.zone == "hull"
    assert "Funnel 2.0 %" in vehicle.fields.accessibleName()


def test_stop_marks_are_shown_and_printed(room, qtbot, tmp_path, monkeypatch):
    room.plan.rows.add_planned("rust")
    assert len(room.plan.marks._shown) == 6
    place = tmp_path / "stop.pdf"
    monkeypatch.setattr("lean_sepia.ui.kit.dialogs.exporting.ask_place", lambda *_arguments: place)
    qtbot.mouseClick(room.plan.chart, LEFT)
    assert place.read_bytes().startswith(b"%PDF")


def test_the_signature_is_named_where_it_lies(room, workspace):
    workspace.session.choose_zone("hull")
    assert "scuppers" in room._remark.text()
