"""The path at the foot of the strata, and the sheet that offers what would bring it nearer."""

import pytest
from PySide6.QtCore import Qt

from lean_sepia.answers.stages import last_compared
from lean_sepia.ui.coats.nearer_sheet import NearerSheet
from lean_sepia.ui.kit.swatch import qcolor


@pytest.fixture
def foot(workspace, off_target):
    workspace.session.edit("Astray", lambda _project: off_target)
    return workspace.column.foot


def test_the_foot_says_how_far_off_it_is_and_which_coat_makes_most_of_it(workspace, foot):
    found = last_compared(workspace.session.cut("hull"))
    assert foot.words.text().startswith(f"{found.de00:.1f} from what is to be seen")
    assert "makes" in foot.words.text()
    assert "Fade" in foot.path.accessibleName()


def test_a_zone_without_a_target_says_what_to_do(workspace, foot):
    workspace.session.choose_zone("gear")
    assert "No target yet" in foot.words.text()
    assert not foot.path.isEnabled()


@pytest.fixture
def sheet(workspace, foot, qtbot):
    workspace.session.choose_zone("boot")
    qtbot.mouseClick(foot.path, Qt.MouseButton.LeftButton)
    assert isinstance(workspace.sheets.open, NearerSheet)
    return workspace.sheets.open


def test_an_offer_is_done_with_one_click_and_taken_back_with_one_undo(workspace, sheet):
    session = workspace.session
    before, offer = session.project, sheet.offers[0]
    now = offer.outcome.zones["boot"][1]
    sheet.do.click()
    assert session.project == offer.edit(before)
    assert sheet.offers == [] or sheet.offers[0].outcome.zones["boot"][0] == pytest.approx(now)
    session.undo()
    assert session.project == before


def test_the_sheet_follows_the_zone_and_what_is_done_elsewhere(workspace, sheet):
    assert "BOOT" in sheet.caption.text()
    workspace.session.choose_zone("funnel")
    assert "FUNNEL" in sheet.caption.text()
    assert all("funnel" in offer.outcome.zones for offer in sheet.offers)
    workspace.session.choose_zone("gear")
    assert sheet.offers == []
    assert not sheet.do.isEnabled()


def test_the_arrow_keys_choose_an_offer(sheet, qtbot):
    sheet.rows.setFocus()
    qtbot.keyClick(sheet.rows, Qt.Key.Key_Down)
    assert sheet.rows.current == min(1, len(sheet.offers) - 1)


def test_the_whole_is_solved_and_done_as_one_edit(workspace, sheet):
    session = workspace.session
    before = session.project
    sheet.whole.click()
    assert len(sheet.offers) == 1
    assert "nearer on average" in sheet._said.text()
    sheet.do.click()
    assert session.project != before
    session.undo()
    assert session.project == before


def test_the_advice_tells_the_greatest_gain_of_a_zone_and_opens_the_sheet(workspace, foot):
    from lean_sepia.answers.nearer.change import Planned
    from lean_sepia.answers.nearer.offers import best_by_zone

    session = workspace.session
    session._found_nearer(session.project, best_by_zone(Planned.of(session.project, session.shelf.paints())))
    nearer = [one for one in session.advice() if one.nearer]
    assert nearer
    assert "nearer" in nearer[0].text
    workspace.advice.nearer_wanted.emit(nearer[0].zone)
    assert isinstance(workspace.sheets.open, NearerSheet)
    assert session.zone == nearer[0].zone


def test_match_tone_and_glaze_name_what_they_are_solved_under(workspace):
    session = workspace.session
    session.choose_zone("hull")
    workspace.open_room("tone")
    box = workspace.rooms["tone"].lines.under
    assert (box.text(), box.isHidden()) == ("under Filter", False)
    under = workspace.rooms["tone"].answer.question
    box.setChecked(False)
    alone = workspace.rooms["tone"].answer.question
    assert (under.alone, alone.alone) == (False, True)
    assert under.mist.later
    assert not alone.mist.later


def test_the_whole_model_is_weathered_with_one_slider_and_one_undo(workspace):
    session = workspace.session
    before = session.project
    workspace.column.heaviness_wanted.emit()
    sheet = workspace.sheets.open
    assert sheet.level == 1
    assert not sheet.do.isEnabled()
    sheet.go_to("subtle")
    assert sheet.level == 0.5
    assert "% worn in marks" in sheet._said.text()
    sheet.do.click()
    assert session.project != before
    assert sheet.level == 1
    session.undo()
    assert session.project == before


def test_bench_shows_marks_on_what_they_lie_on(workspace):
    session = workspace.session
    workspace.open_room("bench")
    room = workspace.rooms["bench"]
    step = next(
        step for step in room.steps if step.coats and all(coat.kind == "chips" for coat in step.coats)
    )
    assert all(one.marks_on is not None and one.lab != one.marks_on for one in step.colours)
    room._show_colour(step)
    assert "marks on" in room._field.left.text()
    field = room._field.fields
    field.resize(200, 80)
    picture = field.grab().toImage()
    ground, mark = (qcolor(lab)[0].rgb() for lab in (step.colours[0].marks_on, step.colours[0].lab))
    pixels = [picture.pixel(x, y) for x in range(picture.width()) for y in range(picture.height())]
    assert 0 < pixels.count(mark) < 0.2 * pixels.count(ground)
    assert session.project.coat(step.coats[0].id).area_share < 0.1
