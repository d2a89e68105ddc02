"""Glaze: one filter for several zones."""

import pytest
from PySide6.QtCore import Qt

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.zones import remove_zone


def test_glaze_lays_one_filter_on_all_its_zones_and_keeps_its_promise(workspace, qtbot):
    workspace.open_room("glaze")
    room = workspace.rooms["glaze"]
    room.rows._choose(1)
    promised = dict(
        zip([zone.zone for zone in room.answer.question.zones], room.answer.glazes[1].labs, strict=True)
    )
    assert len(promised) == 4
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    laid = {coat.zone for coat in workspace.session.project.coats if coat.kind == "filter"}
    assert laid >= set(promised)
    for zone, lab in promised.items():
        band = next(b for b in workspace.session.cut(zone).bands if b.coat.kind == "filter")
        assert float(delta_e00(band.lab, lab)) < 0.05, zone


@pytest.mark.parametrize("room", ["tone", "glaze"])
def test_without_photos_no_photo_is_spoken_of(window, room):
    """A project from a stated colour: what can be done is offered, and no word promises a picture."""
    window.start_with_colour("45.8, -13.9, -6.1")
    workspace = window.workspace
    workspace.open_room(room)
    page = workspace.rooms[room]
    assert (
        "photo"
        not in f"{page._statement.text()} {page._remark.text()} {page.rows.empty_words} {page.rows.foot}"
    )


def test_an_answer_for_a_zone_that_is_gone_is_dropped(workspace):
    session = workspace.session
    session.choose_zone("hull")
    workspace.open_room("glaze")
    room = workspace.rooms["glaze"]
    late = room.answer
    assert "funnel" in [zone.zone for zone in late.question.zones]
    session.edit("", lambda p: remove_zone(p, "funnel"))
    asked_anew = room.answer
    assert "funnel" not in [zone.zone for zone in asked_anew.question.zones]
    room._show(late)
    assert room.answer is asked_anew
    room.answer = late
    before = session.project
    room.lay_chosen()
    assert session.project is before
