"""The keyboard comes to every control, each says what it is, is brought into sight and is seen to have it."""

import pytest
from fuzzing.fields import ROOMS, sheets
from PySide6.QtCore import QPoint, QRect, Qt
from PySide6.QtWidgets import QPushButton, QWidget
from tests.ui.looks.cut import settled
from tests.ui.looks.focus import is_seen, name_of, out_of_order, out_of_sight, stops, unreached

from lean_sepia.ui.kit.sheet import Sheet


def faults(top, part):
    found, reached = [], []
    for stop in stops(top):
        reached.append(stop)
        if not part.isAncestorOf(stop):
            continue
        what = f"{type(stop).__name__} “{name_of(stop)}”"
        if not name_of(stop):
            found.append(f"{what} in {type(stop.parentWidget()).__name__} has no name")
        if out_of_sight(stop):
            found.append(f"{what} is out of sight")
        elif not is_seen(stop):
            found.append(f"{what} does not show that the keyboard is there")
    assert reached
    found += out_of_order(reached)
    return [*found, *(f"{what} is never reached" for what in unreached(part, reached))]


@pytest.mark.parametrize("room", [*ROOMS, "shelf"])
def test_every_control_of_a_room_is_reached_named_and_seen(window, workspace, room):
    window.resize(1100, 700)
    workspace.open_shelf() if room == "shelf" else workspace.open_room(room)
    settled()
    part = window if room == "evidence" else workspace._stack  # top, column and foot are the same everywhere
    assert faults(window, part) == []


def test_every_control_of_every_sheet_is_reached_named_and_seen(window, each_sheet):
    window.resize(1100, 700)
    found = []
    for sheet in each_sheet():
        found += [f"{type(sheet).__name__}: {fault}" for fault in faults(sheet, sheet)]
    assert found == [], "\n".join(found)


@pytest.mark.parametrize("room", ["match", "plan"])
def test_a_window_of_800_by_500_brings_every_control_into_sight(window, workspace, room):
    window.resize(800, 500)
    workspace.open_room(room)
    settled()
    assert (window.width(), window.height()) == (800, 500)
    hidden = []
    for stop in stops(window):
        place = QRect(stop.mapTo(window, QPoint()), stop.size())
        if not window.rect().intersects(place) or out_of_sight(stop):
            hidden.append(name_of(stop))
    assert hidden == []
    window.resize(1100, 700)
    settled()
    bars = (window.centralWidget().horizontalScrollBar(), window.centralWidget().verticalScrollBar())
    assert [bar.maximum() for bar in bars] == [0, 0]


def test_no_dialog_needs_more_than_800_by_500(workspace, qtbot):
    for sheet in sheets(workspace.session):
        if not isinstance(sheet, Sheet):
            qtbot.addWidget(sheet)
            least = sheet.minimumSizeHint()
            assert (least.width() <= 800, least.height() <= 500) == (True, True), type(sheet).__name__


def test_the_walk_finds_what_shows_nothing_has_no_name_or_is_never_reached(qtbot):
    top = QWidget()
    qtbot.addWidget(top)
    plain, fine, out = QWidget(top), QPushButton("Fine", top), QPushButton("Out", top)
    plain.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
    for place, widget in enumerate((plain, fine, out)):
        widget.setGeometry(10, 40 * place, 90, 28)
    top.resize(200, 200)
    top.show()
    QWidget.setTabOrder(plain, fine)
    found = faults(top, top)
    assert any("has no name" in fault for fault in found)
    assert any("does not show" in fault for fault in found)
    assert not any("Fine" in fault for fault in found)
    out.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    assert unreached(top, [plain, fine]) == ["QPushButton “Out”"]


def test_one_key_does_the_main_thing_of_a_room(workspace, qtbot):
    """Pinning is one key from wherever the keyboard is."""
    workspace.open_room("match")
    settled()
    room = workspace.rooms["match"]
    room.session.choose_zone("band")
    settled()
    wanted = room.answer.choices[0].recipe
    qtbot.keyClick(workspace, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    (base,) = room.session.project.bases_of("band")
    assert tuple(count for _version, count in room.session.project.recipe(base.recipe).parts) == tuple(
        count for _name, count in wanted.parts
    )


def test_space_on_a_card_chooses_that_card_and_the_keyboard_stays(window, workspace, qtbot):
    workspace.open_room("match")
    settled()
    room = workspace.rooms["match"]
    second = next(stop for stop in stops(window) if stop is room._cards.widgets[1])
    qtbot.keyClick(second, Qt.Key.Key_Space)
    settled()
    assert room._cards.widgets[1].property("chosen") == "true"
    assert room._cards.widgets[1].hasFocus()
