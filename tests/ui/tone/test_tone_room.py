"""Tone: lighteners, and what is laid."""

from PySide6.QtCore import Qt


def test_tone_lays_the_chosen_fade(workspace, qtbot):
    session = workspace.session
    session.choose_zone("boot")
    workspace.open_room("tone")
    room = workspace.rooms["tone"]
    qtbot.keyClick(room.rows, Qt.Key.Key_Down)
    option = room.answer.lighteners[1]
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    fade = next(coat for coat in session.project.coats_of("boot") if coat.kind == "fade")
    recipe = session.project.recipe(fade.recipe)
    assert recipe.cups[0][1] == option.base_parts
    assert session.project.paint(recipe.parts[0][0]).shelf_id == option.paint
    session.undo()
    assert not [coat for coat in session.project.coats_of("boot") if coat.kind == "fade"]
