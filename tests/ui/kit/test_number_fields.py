"""Every field for a number reads a point and a comma alike, in whatever language the machine speaks."""

from pathlib import Path

import pytest
from fuzzing.fields import LOCALES, ROOMS, boxes_of, check, sheets
from PySide6.QtCore import QLocale
from PySide6.QtGui import QValidator

import lean_sepia
from lean_sepia.ui.kit.dialogs import ask
from lean_sepia.ui.kit.panel import count_box, measure_box

TYPED = {"12.5": 12.5, "2,5": 2.5, "1.234": 1.234, "1,234": 1.234, ",5": 0.5}


@pytest.fixture(params=LOCALES[:4])
def spoken(request):
    before = QLocale()
    QLocale.setDefault(QLocale(request.param))
    yield request.param
    QLocale.setDefault(before)


def check_all(box):
    for text, number in TYPED.items():
        check(box, text, number)


def test_every_field_of_every_sheet_and_room(spoken, workspace, qapp, qtbot):
    count = 0
    for room in ROOMS:
        workspace.open_room(room)
        for box in boxes_of(workspace.rooms[room]):
            check_all(box)
            count += 1
    workspace.open_shelf()
    for sheet in sheets(workspace.session):
        qtbot.addWidget(sheet)
        for box in boxes_of(sheet):
            check_all(box)
            count += 1
        sheet.close()
    assert count > 60
    assert spoken in LOCALES


def test_a_number_that_is_asked_for(spoken, monkeypatch):
    seen = []

    def exec_(question):
        for box in boxes_of(question):
            check_all(box)
            seen.append(box)

    monkeypatch.setattr(ask._Question, "exec", exec_)
    ask.ask_number(None, "x", "y", "z", value=5, low=0, high=100, decimals=2)
    assert len(seen) == 1


def test_fields_for_numbers_stand_in_one_place():
    source = Path(lean_sepia.__file__).parent / "ui"
    users = [
        file.name
        for file in source.rglob("*.py")
        if any(
            name in file.read_text(encoding="utf-8")
            for name in ("import QSpinBox", "QDoubleSpinBox,", "QSpinBox,", "QDoubleSpinBox\n")
        )
    ]
    assert set(users) <= {"number_box.py", "theme.py"}


@pytest.mark.parametrize("text", ["1.234,5", "1 234", "12a", "--3", "1e3"])
def test_what_is_no_number_is_not_taken(qtbot, text):
    box = measure_box(0, 500, 7, "ml", "x", 2)
    qtbot.addWidget(box)
    assert box.validate(f"{text} ml ", 0)[0] == QValidator.State.Invalid


def test_the_nearest_of_the_range(qtbot):
    for box in (measure_box(0, 500, 7, "ml", "x", 2), count_box(0, 500, 7, "x")):
        qtbot.addWidget(box)
        box.selectAll()
        qtbot.keyClicks(box, "700")
        box.interpretText()
        assert box.value() == 500


@pytest.mark.parametrize("keys", ["45", "45,0"])
def test_what_stands_for_nothing_gives_way_to_what_is_typed(qtbot, keys):
    from PySide6.QtCore import Qt

    box = measure_box(-1, 600, -1, "min", "Minutes", 0, 76)
    box.setSpecialValueText("as usual")
    qtbot.addWidget(box)
    box.show()
    box.setFocus()
    assert box.text() == "as usual"
    qtbot.keyClicks(box, keys)
    qtbot.keyClick(box, Qt.Key.Key_Return)
    assert box.value() == 45
    box.selectAll()
    qtbot.keyClick(box, Qt.Key.Key_Delete)
    qtbot.keyClick(box, Qt.Key.Key_Return)
    assert (box.value(), box.text()) == (-1, "as usual")
