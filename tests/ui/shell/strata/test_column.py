"""The strata column driven as a hand would: choosing, switching off, moving, dragging."""

import pytest
from PySide6.QtCore import QPoint, Qt

from lean_sepia.ui.shell.strata.bands import band_heights
from lean_sepia.ui.shell.strata.core import Core
from lean_sepia.ui.shell.strata.rack import Rack


@pytest.fixture
def core(workspace):
    return workspace.column.findChild(Core)


def names(workspace):
    return [band.name for band in workspace.session.cut(workspace.session.zone).bands]


def middle(core, index):
    return core._rects()[index].center().toPoint()


def test_a_click_in_the_rack_chooses_the_zone(workspace, qtbot):
    rack = workspace.column.findChild(Rack)
    qtbot.mouseClick(rack, Qt.MouseButton.LeftButton, pos=QPoint(4 + 38 * 2 + 19, 60))
    assert workspace.session.zone == "house"
    assert "House" in workspace.column._name.text()
    qtbot.keyClick(rack, Qt.Key.Key_Right)
    assert workspace.session.zone == "funnel"


def test_a_click_on_a_band_opens_its_room(workspace, core, qtbot):
    base = names(workspace).index("Base colour")
    qtbot.mouseClick(core, Qt.MouseButton.LeftButton, pos=middle(core, base))
    assert workspace.room == "match"
    filter_ = names(workspace).index("Filter")
    qtbot.mouseClick(core, Qt.MouseButton.LeftButton, pos=middle(core, filter_))
    assert workspace.room == "glaze"


def test_space_switches_a_band_off_and_the_foot_follows(workspace, core, qtbot):
    before = workspace.session.cut("hull").seen
    core._chosen = names(workspace).index("Fade")
    qtbot.keyClick(core, Qt.Key.Key_Space)
    fade = next(coat for coat in workspace.session.project.coats if coat.kind == "fade")
    assert not fade.on
    assert workspace.session.cut("hull").seen != before
    workspace.session.undo()
    assert workspace.session.cut("hull").seen == before


def test_dragging_a_band_is_one_edit(workspace, core, qtbot):
    before = names(workspace)
    low, high = before.index("Rust chips"), before.index("Scratches")
    qtbot.mousePress(core, Qt.MouseButton.LeftButton, pos=middle(core, low))
    for y in (middle(core, low).y() - 8, middle(core, high).y()):
        qtbot.mouseMove(core, QPoint(30, y))
    qtbot.mouseRelease(core, Qt.MouseButton.LeftButton, pos=middle(core, high))
    after = names(workspace)
    assert (after[low], after[high]) == (before[high], before[low])
    assert after.index("Rust chips") > after.index("Scratches")
    workspace.session.undo()
    assert names(workspace) == before


def test_keys_move_and_remove_bands(workspace, core, qtbot):
    before = names(workspace)
    core._chosen = before.index("Scratches")
    qtbot.keyClick(core, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert names(workspace).index("Scratches") == before.index("Scratches") - 1
    qtbot.keyClick(core, Qt.Key.Key_Delete)
    assert "Scratches" not in names(workspace)


def test_thin_coats_keep_a_least_height(workspace):
    bands = workspace.session.cut("hull").bands
    roomy = band_heights(bands, 600, 26, 104)
    assert min(roomy) >= 26
    tight = band_heights(bands, 200, 26, 104)
    assert sum(tight) == pytest.approx(200)


def test_a_zone_may_not_be_named_twice_or_not_at_all(workspace):
    count = len(workspace.session.project.zones)
    workspace.column.add_named_zone("hull, PORT side")
    workspace.column.add_named_zone("   ")
    assert len(workspace.session.project.zones) == count
    assert "name" in workspace.advice._text.text()


def test_zones_out_of_sight_are_counted_and_reached(workspace, qtbot):
    rack, session = workspace.column.findChild(Rack), workspace.session
    assert rack.hidden() == (0, 0)
    for number in range(9):
        workspace.column.add_named_zone(f"Locker {number}")
    shown = rack.hidden()
    assert sum(shown) > 0
    assert shown[1] == 0  # the newest zone is chosen and in sight
    session.choose_zone(session.project.zones[0].id)
    left, right = rack.hidden()
    assert left == 0
    assert right == sum(shown)
    rack._scroll(10_000)
    assert rack.hidden() == (sum(shown), 0)
