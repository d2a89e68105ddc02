"""Tone: lighteners, mists, wishes, panels, light and shade, and what is laid."""

import pytest
from PySide6.QtCore import QPoint, Qt

from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.toning.fading import before_fade
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay_marking, remove_coat
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.planning import set_school


@pytest.fixture
def room(workspace):
    session = workspace.session
    fade = next(coat for coat in session.project.coats_of("boot") if coat.nature.fades)
    session.edit("Not faded yet", lambda p: remove_coat(p, fade.id))
    session.choose_zone("boot")
    workspace.open_room("tone")
    return workspace.rooms["tone"]


def kinds(session, zone="boot"):
    return [coat.kind for coat in session.project.coats_of(zone)]


def test_tone_lays_the_chosen_fade(room, workspace, qtbot):
    session = workspace.session
    qtbot.keyClick(room.rows, Qt.Key.Key_Down)
    option = room.answer.lighteners[1]
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    fade = next(coat for coat in session.project.coats_of("boot") if coat.kind == "fade")
    recipe = session.project.recipe(fade.recipe)
    assert recipe.cups[0][1] == option.base_parts
    assert session.project.paint(recipe.parts[0][0]).shelf_id == option.paint
    assert fade.passes == room.answer.fades[1].mists
    session.undo()
    assert "fade" not in kinds(session)


def test_the_stop_mark_stands_at_the_mists_that_are_laid(room, workspace):
    fade = room.answer.fades[0]
    marked = room.strip._stops[room.strip._marked]
    assert marked.caption == f"after {fade.mists}"
    assert marked.lab == pytest.approx(fade.option.lab)
    room.lay_chosen()
    assert float(delta_e00(workspace.session.cut("boot").exposed, marked.lab)) < 0.05


def test_a_wish_is_followed_and_a_fixed_number_of_mists_kept(room, workspace):
    session = workspace.session
    room.lines.aim.setCurrentIndex(room.lines.aim.findData("lighter"))
    room.lines.by.setValue(4)
    room.lines.mists.setCurrentIndex(room.lines.mists.findData(3))
    assert {fade.mists for fade in room.answer.fades if fade.wiped is None} == {3}
    assert room.answer.question.target.lab[0] == pytest.approx(before_fade(session.project, "boot")[0] + 4)
    assert "your wish" in room._remark.text()
    room.lines.aim.setCurrentIndex(room.lines.aim.findData("gradient"))
    room.lines.foot.setValue(-3)
    assert "at the foot" in room._remark.text()
    room.lay_chosen()
    coats = {coat.kind: coat.profile for coat in session.project.coats_of("boot")}
    assert (coats["fade"], coats["tone"]) == ("above", "below")


def test_a_clear_medium_goes_into_the_cup(room, workspace):
    session = workspace.session
    clear = next(i for i in range(room.lines.medium.count()) if room.lines.medium.itemData(i)[0])
    room.lines.medium.setCurrentIndex(clear)
    room.lay_chosen()
    fade = next(coat for coat in session.project.coats_of("boot") if coat.kind == "fade")
    used = [session.project.paint(v).shelf_id for v, _n in session.project.recipe(fade.recipe).parts]
    assert room.answer.question.spray.medium in used


def test_the_school_on_red_chooses_among_what_comes_near(room, workspace):
    """Without a faded sample the project's way of working decides, and it is said."""
    session = workspace.session
    room.lines.aim.setCurrentIndex(room.lines.aim.findData("lighter"))
    session.edit("", lambda p: set_school(p, "red-lightener", "white"))
    assert "fades to pink" in room._remark.text() or "stays red" in room._remark.text()


def test_panels_are_divided_marked_drawn_and_laid(room, workspace, qtbot):
    session, panels = workspace.session, room.panels
    qtbot.mouseClick(panels.divide, Qt.MouseButton.LeftButton)
    grid = session.project.zone("boot").panels
    assert (grid.rows, grid.columns) == (3, 10)
    box = panels.map._rect(panels.plan.boxes[4]).center().toPoint()
    qtbot.mouseClick(panels.map, Qt.MouseButton.LeftButton, pos=box)
    assert session.project.zone("boot").panels.replaced == (4,)
    start, end = QPoint(40, 20), QPoint(140, 60)
    qtbot.mousePress(panels.map, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(panels.map, end)
    qtbot.mouseRelease(panels.map, Qt.MouseButton.LeftButton, pos=end)
    assert len(session.project.zone("boot").panels.drawn) == 1
    seed = session.project.zone("boot").panels.seed
    qtbot.mouseClick(panels._seed, Qt.MouseButton.LeftButton)
    assert session.project.zone("boot").panels.seed == seed + 1
    plan = panels.plan
    qtbot.mouseClick(panels.lay, Qt.MouseButton.LeftButton)
    laid = [coat for coat in session.project.coats_of("boot") if coat.kind == "fade"]
    assert {coat.profile for coat in laid} == {"panels"}
    assert sum(coat.area_share for coat in laid) == pytest.approx(1 - plan.unfaded)
    qtbot.mouseClick(panels._clear, Qt.MouseButton.LeftButton)
    assert session.project.zone("boot").panels is None


def test_keyboard_marks_a_panel(room, workspace, qtbot):
    qtbot.mouseClick(room.panels.divide, Qt.MouseButton.LeftButton)
    qtbot.keyClick(room.panels.map, Qt.Key.Key_Right)
    qtbot.keyClick(room.panels.map, Qt.Key.Key_Space)
    assert workspace.session.project.zone("boot").panels.replaced == (1,)


def test_light_and_shade_are_laid_as_shown(room, workspace, qtbot):
    session = workspace.session
    room.ladder.count.setCurrentIndex(room.ladder.count.findData(4))
    answer = room.ladder.answer
    assert len(answer.ladder.tones) == 4
    qtbot.mouseClick(room.ladder.lay, Qt.MouseButton.LeftButton)
    bands = [band for band in session.cut("boot").bands if band.coat.kind == "tone"]
    wanted = [tone.lab for tone in answer.ladder.tones if tone.added]
    assert len(bands) == 3
    for band, lab in zip(bands, wanted, strict=True):
        assert float(delta_e00(band.lab, lab)) < 0.05


def test_one_lightener_is_laid_on_all_zones(room, workspace, qtbot):
    session = workspace.session
    qtbot.mouseClick(room.joint.look, Qt.MouseButton.LeftButton)
    found = room.joint.found[0]
    qtbot.mouseClick(room.joint.lay, Qt.MouseButton.LeftButton)
    faded = [coat for coat in session.project.coats if coat.kind == "fade"]
    assert len(faded) == len(found.options)
    used = {session.project.paint(session.project.recipe(c.recipe).parts[0][0]).shelf_id for c in faded}
    assert used == {found.options[0].paint}
    session.undo()
    assert "fade" not in kinds(session)


def test_lettering_is_faded_from_the_room(workspace, shelf_paints, qtbot):
    session = workspace.session
    mix = Mix.of(shelf_paints, [("lamp", 1)])
    session.edit("", lambda p: lay_marking(p, "boot", mix, Manner(2, 0.2, "brush", 0.03)))
    session.choose_zone("boot")
    workspace.open_room("tone")
    room = workspace.rooms["tone"]
    before = next(band.lab for band in session.cut("boot").bands if band.coat.kind == "marking")
    qtbot.mouseClick(room._letters, Qt.MouseButton.LeftButton)
    after = next(band.lab for band in session.cut("boot").bands if band.coat.kind == "marking")
    assert float(delta_e00(before, after)) > 0.3


def test_the_finish_shows_what_is_not_laid_yet(room, workspace):
    session = workspace.session
    shown = room.finish._project
    assert "fade" in [coat.kind for coat in shown.coats_of("boot")]
    assert "fade" not in kinds(session)
    assert strata_of(shown, "boot").exposed == pytest.approx(room.answer.fades[0].option.lab, abs=0.01)


def test_a_zone_without_paint_says_what_to_do(workspace):
    workspace.session.choose_zone("gear")
    workspace.open_room("tone")
    room = workspace.rooms["tone"]
    assert not room.lay.isEnabled()
    assert "pin a base recipe" in room.strip.empty_words
    assert not room.lines.isVisible()
