"""Glaze: one filter for several zones."""

from PySide6.QtCore import Qt


def test_glaze_lays_one_filter_on_all_its_zones(workspace, qtbot):
    workspace.open_room("glaze")
    room = workspace.rooms["glaze"]
    zones = [zone for zone, *_ in room.answer.pairs]
    room.rows._choose(0)
    room._show_choice()
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    laid = {coat.zone for coat in workspace.session.project.coats if coat.kind == "filter"}
    assert laid >= {zone for zone in zones if workspace.session.cut(zone).fresh}
