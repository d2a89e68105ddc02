"""Glaze: filters for several zones, washes and dots for one."""

import pytest
from PySide6.QtCore import Qt

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.zones import remove_zone


@pytest.fixture
def room(workspace):
    workspace.session.choose_zone("hull")
    workspace.open_room("glaze")
    return workspace.rooms["glaze"]


def test_glaze_lays_one_filter_on_all_its_zones_and_keeps_its_promise(room, workspace, qtbot):
    page = room.filters
    page.rows._choose(1)
    zones = [zone.zone for zone in page.answer.question.zones]
    promised = dict(zip(zones, page.answer.filters[1].glaze.labs, strict=True))
    assert len(promised) == 4
    qtbot.mouseClick(page.lay, Qt.MouseButton.LeftButton)
    laid = {coat.zone for coat in workspace.session.project.coats if coat.kind == "filter"}
    assert laid >= set(promised)
    for zone, lab in promised.items():
        band = next(b for b in workspace.session.cut(zone).bands if b.coat.kind == "filter")
        assert float(delta_e00(band.lab, lab)) < 0.05, zone


def test_a_filter_of_ones_own_and_the_second_pass(room, qtbot):
    page = room.filters
    page.own.setText("Oil raw umber")
    qtbot.keyClick(page.own, Qt.Key.Key_Return)
    assert page.rows.current == 0
    assert "Oil raw umber" in room._statement.text()
    qtbot.mouseClick(page.second_pass, Qt.MouseButton.LeftButton)
    own = page.answer.filters[0]
    assert own.glaze.passes == 2
    assert own.moved[1].max() < 1.0 <= own.moved[2].max()
    assert page.thinner.value() == own.glaze.thinner_parts


def test_what_is_no_mix_is_said_and_the_search_goes_on(room, workspace, qtbot):
    said = []
    workspace.session.refused.connect(said.append)
    room.filters.own.setText("no such bottle")
    qtbot.keyClick(room.filters.own, Qt.Key.Key_Return)
    assert said
    assert room.filters.answer.question.own is None


def test_zones_are_chosen_by_their_boxes(room):
    room.filters.boxes["funnel"].click()
    assert [zone.zone for zone in room.filters.answer.question.zones] == ["hull", "boot", "house"]


@pytest.mark.parametrize("name", ["tone", "glaze"])
def test_without_photos_no_photo_is_spoken_of(window, name):
    """A project from a stated colour: what can be done is offered, and no word promises a picture."""
    window.starting.with_colour("45.8, -13.9, -6.1")
    workspace = window.workspace
    workspace.open_room(name)
    page = workspace.rooms[name]
    empty = page.strip.empty_words if name == "tone" else page.filters.rows.empty_words
    assert "photo" not in f"{page._statement.text()} {page._remark.text()} {empty}"
    assert not page.finish.modes["photo"].isEnabled()


def test_an_answer_for_a_zone_that_is_gone_is_dropped(room, workspace):
    session, page = workspace.session, room.filters
    late = page.answer
    assert "funnel" in [zone.zone for zone in late.question.zones]
    session.edit("", lambda p: remove_zone(p, "funnel"))
    asked_anew = page.answer
    assert "funnel" not in [zone.zone for zone in asked_anew.question.zones]
    page._show(late)
    assert page.answer is asked_anew
    page.answer = late
    before = session.project
    page.lay_chosen()
    assert session.project is before


def test_a_pin_wash_is_chosen_and_laid(room, workspace, qtbot):
    room.open_page("pin-wash")
    page = room.washes
    qtbot.keyClick(page.rows, Qt.Key.Key_Down)
    wash = page.answer.washes[1]
    assert page.answer.name_of(wash) in room._statement.text()
    qtbot.mouseClick(page.lay, Qt.MouseButton.LeftButton)
    band = next(b for b in workspace.session.cut("hull").bands if b.coat.kind == "pin-wash")
    assert float(delta_e00(band.lab, wash.seam)) < 0.05


def test_dots_are_counted_swapped_and_laid(room, workspace):
    room.open_page("oil-dots")
    page = room.dots
    page._recount(0, 9)
    assert page.answer.palette.oils[0].count == 9
    page._anew()
    assert page.answer.palette.oils[0].count != 9
    page.count.setCurrentIndex(page.count.findData(6))
    assert len(page.answer.palette.oils) == 6
    promised = page.as_laid()
    page.lay_dots()
    session = workspace.session
    assert [c.kind for c in session.project.coats_of("hull")].count("oil-dots") == 6
    assert [s.kind for s in session.project.steps] == [s.kind for s in promised.steps]


def test_each_page_shows_its_own_finish(room):
    shown = {}
    for kind in room.pages:
        room.open_page(kind)
        shown[kind] = [coat.kind for coat in room.finish._project.coats_of("hull")]
    assert "pin-wash" in shown["pin-wash"]
    assert "oil-dots" in shown["oil-dots"]
    assert "pin-wash" not in shown["filter"]
