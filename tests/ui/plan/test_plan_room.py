"""Plan: evenings as sheets, steps moved, changed and mended, hours and schools kept."""

from datetime import datetime

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from lean_sepia.ui.plan.hours_sheet import HoursSheet
from lean_sepia.ui.plan.schools_sheet import SchoolsSheet
from lean_sepia.ui.plan.step_sheet import StepSheet


@pytest.fixture
def room(workspace):
    workspace.open_room("plan")
    return workspace.rooms["plan"]


def named(room, kind):
    return next(step.id for step in room.session.project.steps if step.kind == kind)


def words(widget):
    return " ".join(
        label.text()
        for label in widget.findChildren(type(widget._remark if hasattr(widget, "_remark") else widget.title))
    )


def middle(room, step_id):
    row = next(row for row in room.sheets.layout_now().rows if row.step.id == step_id)
    return row.box.center().toPoint()


def test_a_step_moved_by_the_keyboard_mends_the_planted_fault(room, qtbot):
    powder = named(room, "powder")
    room._choose(powder)
    assert [finding.code for finding in room.answer.findings] == ["powder-fades-under-varnish"]
    room.sheets.setFocus()
    qtbot.keyClick(room.sheets, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert room.session.project.steps[-1].id == powder
    assert not [advice for advice in room.session.advice() if "vanish" in advice.text]


def test_a_finding_is_mended_by_one_click_or_meant_with_a_reason(room, monkeypatch):
    (finding,) = room.answer.findings
    monkeypatch.setattr("lean_sepia.ui.plan.finding_rows.ask_text", lambda *_a: "it is to be faint")
    room.findings.accept(finding)
    assert room.answer.findings == ()
    assert [quiet.code for quiet in room.answer.quiet] == ["powder-fades-under-varnish"]
    assert not [advice for advice in room.session.advice() if "vanish" in advice.text]
    room.session.undo()
    room.findings.mend(finding)
    assert room.answer.findings == ()
    assert room.answer.quiet == ()
    assert room.session.project.steps[-1].kind == "powder"


def test_no_reason_no_peace(room, monkeypatch):
    (finding,) = room.answer.findings
    monkeypatch.setattr("lean_sepia.ui.plan.finding_rows.ask_text", lambda *_a: "  ")
    room.findings.accept(finding)
    assert len(room.answer.findings) == 1


def test_dragging_shows_what_it_would_break_and_drops_in_place(room, qtbot):
    unmask, matte = named(room, "unmask"), named(room, "matte-coat")
    start = middle(room, unmask)
    QTest.mousePress(room.sheets, Qt.MouseButton.LeftButton, pos=start)
    target = middle(room, named(room, "mask")) - QPoint(0, 30)
    QTest.mouseMove(room.sheets, start + QPoint(0, -20))
    QTest.mouseMove(room.sheets, target)
    assert room.sheets._over is not None
    assert room.sheets._over[2]  # before its mask it takes off what is not on
    QTest.mouseRelease(room.sheets, Qt.MouseButton.LeftButton, pos=target)
    order = [step.id for step in room.session.project.steps]
    assert order.index(unmask) < order.index(named(room, "mask"))
    assert room.session.project.step(unmask).by_hand
    assert "never" not in room._judge(matte, "")
    room.session.undo()
    assert [step.id for step in room.session.project.steps] != order


def test_a_folded_sheet_opens_at_a_click_and_a_second_one_opens_the_step(room, workspace):
    sheets = room.sheets
    folded = max(i for i, _box in enumerate(sheets.layout_now().boxes) if sheets.layout_now().is_folded(i))
    box = sheets.layout_now().boxes[folded]
    QTest.mouseClick(
        sheets, Qt.MouseButton.LeftButton, pos=QPoint(int(box.center().x()), int(box.bottom()) - 8)
    )
    assert not sheets.layout_now().is_folded(folded)
    assert room.current in sheets._plan.sheets[folded].steps[0].ids
    other = next(row for row in sheets.layout_now().rows if sheets.layout_now().is_folded(row.sheet))
    QTest.mouseClick(sheets, Qt.MouseButton.LeftButton, pos=other.bar.center().toPoint())
    QTest.mouseDClick(sheets, Qt.MouseButton.LeftButton, pos=other.bar.center().toPoint())
    assert isinstance(workspace.sheets.open, StepSheet)
    assert room.current == other.step.id


def test_escape_gives_a_drag_up(room, qtbot):
    before = room.session.project
    start = middle(room, named(room, "base"))
    QTest.mousePress(room.sheets, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(room.sheets, start + QPoint(0, 60))
    qtbot.keyClick(room.sheets, Qt.Key.Key_Escape)
    QTest.mouseRelease(room.sheets, Qt.MouseButton.LeftButton, pos=start + QPoint(0, 60))
    assert room.session.project is before


def test_steps_are_walked_opened_and_removed_from_the_keyboard(room, workspace, qtbot):
    first = room.answer.question.work[0].id
    room._choose(first)
    qtbot.keyClick(room.sheets, Qt.Key.Key_Down)
    assert room.current == room.answer.question.work[1].id
    qtbot.keyClick(room.sheets, Qt.Key.Key_Return)
    assert isinstance(workspace.sheets.open, StepSheet)
    workspace.sheets.close()
    qtbot.keyClick(room.sheets, Qt.Key.Key_Up)
    count = len(room.session.project.steps)
    qtbot.keyClick(room.sheets, Qt.Key.Key_Delete)
    assert len(room.session.project.steps) == count - 1
    assert room.session.project.steps[0].id != first


def test_everything_of_a_step_is_changed_in_one_edit(room, workspace):
    name = named(room, "mask")
    room.open_step(name)
    sheet = workspace.sheets.open
    sheet.name.setText("Tape the boot topping")
    sheet.mask_of.choose("liquid")
    sheet.hands.setValue(12)
    sheet.cure.setValue(90)
    sheet.zones["boot"].setChecked(True)
    sheet.place.choose("outdoors")
    sheet.keep()
    step = room.session.project.step(name)
    assert (step.title, step.mask, step.hands_on_min, step.full_cure_min, step.place) == (
        "Tape the boot topping",
        "liquid",
        12,
        90,
        "outdoors",
    )
    assert step.zones == ("hull", "boot")
    assert step.touch_dry_min is None
    room.session.undo()
    assert room.session.project.step(name).title == "Mask the waterline"


def test_a_step_is_split_joined_copied_and_tied(room, workspace):
    primer = named(room, "primer")
    room.open_step(primer)
    for zone in ("hull", "boot"):
        workspace.sheets.open.zones[zone].setChecked(False)
    workspace.sheets.open.split()
    first, second = [step for step in room.session.project.steps if step.kind == "primer"]
    assert {coat.zone for coat in room.session.project.coats if coat.step == second.id} == {"hull", "boot"}
    room.open_step(first.id)
    workspace.sheets.open.join()
    assert [step.id for step in room.session.project.steps if step.kind == "primer"] == [first.id]
    room.open_step(named(room, "filter"))
    workspace.sheets.open.copy()
    assert sum(step.kind == "filter" for step in room.session.project.steps) == 3
    room.open_step(named(room, "powder"))
    sheet = workspace.sheets.open
    sheet.after.other.choose(named(room, "chips"))
    sheet.after.tie.click()
    sheet.keep()
    assert room.session.project.step(named(room, "powder")).after == (named(room, "chips"),)


def test_hours_are_filled_in_and_dates_written_as_people_do(room, workspace):
    room.open_hours()
    sheet = workspace.sheets.open
    assert isinstance(sheet, HoursSheet)
    before = room.session.project.plan_start
    sheet.start.setText("3 March 2031, 18:00")
    sheet.deadline.setText("whenever")
    sheet.keep()
    assert "whenever" in sheet.fault.text()
    assert room.session.project.plan_start == before
    sheet.deadline.setText("2031-03-05 20:00")
    for line in sheet.evenings.lines:
        for day in line.days:
            day.setChecked(False)
    sheet.keep()
    assert "no hour" in sheet.fault.text()
    sheet.evenings.lines[1].days[5].setChecked(True)
    sheet.evenings.lines[1].days[6].setChecked(True)
    sheet.factor.setValue(2)
    sheet.keep()
    project = room.session.project
    assert (project.plan_start, project.deadline, project.evenings) == (
        "2031-03-03T18:00",
        "2031-03-05T20:00",
        "sat-sun 10:00-16:00",
    )
    assert project.drying == 2
    assert all(placed.start.weekday() >= 5 for placed in room.schedule.steps)
    assert "after the deadline" in room._remark.text()
    assert datetime.fromisoformat(room.answer.question.start) == datetime(2031, 3, 3, 18)


def test_schools_are_chosen_with_their_reasons_and_compared(room, workspace):
    room.schools.click()
    sheet = workspace.sheets.open
    assert isinstance(sheet, SchoolsSheet)
    assert set(sheet._outcomes) == {"gloss-first", "smooth", "on-matte"}
    assert (
        sheet._outcomes["smooth"].finish < sheet._outcomes["gloss-first"].finish
    )  # a coat and its wait are saved
    sheet.choose("smooth")
    assert room.session.project.schools["decals"] == "smooth"
    sheet.question.choose("amount")
    sheet.refresh()
    assert sheet._outcomes == {}


def test_a_step_is_added_where_it_comes(room):
    room.kind.choose("pin-wash")
    room.add_step()
    kinds = [step.kind for step in room.session.project.steps]
    assert room.session.project.step(room.current).kind == "pin-wash"
    assert kinds.index("marking") < kinds.index("pin-wash") < kinds.index("matte-coat")
    assert {finding.code for finding in room.answer.findings} <= {
        "powder-fades-under-varnish",
        "chips-after-wash",
        "solvent-attacks-base",
    }
    assert {one.severity for one in room.answer.findings if one.code == "solvent-attacks-base"} <= {"note"}


def test_by_part_shows_a_lane_for_each_zone(room, qtbot):
    room.by_part.setChecked(True)
    assert [lane.title for lane in room.lanes._lanes] == [zone.short for zone in room.session.project.zones]
    room.lanes.setFocus()
    before = room.current
    qtbot.keyClick(room.lanes, Qt.Key.Key_Down)
    assert room.current != before


def test_the_calendar_is_written_where_it_is_asked_for(room, tmp_path, monkeypatch):
    place = tmp_path / "bench.ics"
    monkeypatch.setattr("lean_sepia.ui.kit.dialogs.exporting.ask_place", lambda *_a: place)
    room.calendar.click()
    assert place.read_bytes().count(b"BEGIN:VEVENT") > len(room.schedule.steps)


def test_what_cannot_be_placed_is_said_and_the_room_stays(room):
    project = room.session.project
    step = named(room, "base")
    room.session.edit("long", lambda p: p.model_copy(update={"steps": tuple(
        s.model_copy(update={"hands_on_min": 5000.0}) if s.id == step else s for s in project.steps)}))  # fmt: skip
    assert "cannot be placed" in room._statement.text()
    assert "longest evening" in room._remark.text()


def test_an_empty_plan_offers_the_usual_steps_as_you_work(room):
    room.session.edit(
        "none",
        lambda p: p.model_copy(
            update={"steps": (), "coats": (), "schools": {"decals": "smooth", "chips": "resist"}}
        ),
    )
    assert room._views.currentIndex() == 2
    room.usual.click()
    kinds = [step.kind for step in room.session.project.steps]
    assert kinds == [
        "wash-model",
        "primer",
        "resist",
        "base",
        "remove-resist",
        "tone",
        "marking",
        "pin-wash",
        "matte-coat",
        "powder",
    ]
    assert not [f for f in room.answer.findings if f.severity == "stop"]
    assert room._views.currentIndex() == 0
