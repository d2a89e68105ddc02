"""No text is cut, nothing sticks out or lies on another, in any room and on any sheet, down to the smallest window."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from fuzzing.fields import ROOMS
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import (
    QAbstractSlider,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLabel,
    QPushButton,
    QScrollArea,
    QScrollBar,
    QWidget,
)
from tests.ui.looks.contrast import too_faint
from tests.ui.looks.cut import faults_in, headings_over_nothing, out_of_reach, scrolls_into_nothing, settled

import lean_sepia
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore

SIZES = [(1100, 700), (1280, 800)]


@pytest.mark.parametrize(
    ("project", "size"), [("worked", SIZES[0]), ("worked", SIZES[1]), ("bus", SIZES[0]), ("untouched", SIZES[0]), ("empty", SIZES[0])]
)  # fmt: skip
def test_no_room_cuts_or_covers_anything(window, demo, size, project, tmp_path):
    window.resize(*size)
    if project == "empty":
        ProjectStore.create(tmp_path / "empty.sepia", Project(title="Nothing yet")).close()
    assert window.open_project(getattr(demo, project, tmp_path / "empty.sepia"))
    space = window.workspace
    found = []
    for room in ROOMS:
        space.open_room(room)
        settled()
        found += [
            f"{room}: {fault}"
            for fault in (
                *faults_in(window),
                *out_of_reach(window),
                *headings_over_nothing(window),
                *scrolls_into_nothing(window),
                *too_faint(window),
            )
        ]
    space.open_shelf()
    settled()
    found += [f"shelf: {fault}" for fault in (*faults_in(window), *out_of_reach(window), *too_faint(window))]
    assert found == []


@pytest.mark.parametrize("size", SIZES[:1])
def test_no_sheet_cuts_or_covers_anything(window, each_sheet, size):
    window.resize(*size)
    found = []
    for sheet in each_sheet():
        found += [
            f"{type(sheet).__name__}: {fault}"
            for fault in (*faults_in(sheet), *too_faint(sheet), *scrolls_into_nothing(sheet))
        ]
    assert found == []


def _turned(widget):
    """Turn the wheel over a control; whether it took it."""
    middle = QPointF(widget.rect().center())
    turn = QWheelEvent(middle, QPointF(widget.mapToGlobal(middle)), QPoint(), QPoint(0, -120), Qt.MouseButton.NoButton,
                       Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False)  # fmt: skip
    QApplication.sendEvent(widget, turn)
    return turn.isAccepted()


def test_the_wheel_changes_nothing_that_has_no_focus(workspace, qtbot):
    kinds = (QComboBox, QAbstractSpinBox, QAbstractSlider)

    def controls(top):
        every = [widget for kind in kinds for widget in top.findChildren(kind)]
        return [widget for widget in every if widget.isVisible() and not isinstance(widget, QScrollBar)]

    count = 0
    for room in ROOMS:
        workspace.open_room(room)
        for control in controls(workspace.rooms[room]):
            if control.hasFocus():
                control.clearFocus()
            before = control.property("currentIndex" if isinstance(control, QComboBox) else "value")
            assert not _turned(control), f"{room}: {control.accessibleName()}"
            assert control.property("currentIndex" if isinstance(control, QComboBox) else "value") == before
            assert not control.focusPolicy() & Qt.FocusPolicy.WheelFocus & ~Qt.FocusPolicy.StrongFocus
            count += 1
    assert count > 25


def test_what_is_cut_or_lies_on_another_is_found(qtbot):
    """The walk itself: a label too narrow, a placeholder too long, two buttons in one place, one outside."""
    from PySide6.QtWidgets import QLineEdit

    top = QWidget()
    qtbot.addWidget(top)
    top.resize(300, 100)
    narrow, one, two, out = (
        QLabel("A long word", top),
        QPushButton("One", top),
        QPushButton("Two", top),
        QPushButton("Out", top),
    )
    narrow.setGeometry(0, 0, 12, 20)
    one.setGeometry(50, 0, 60, 24)
    two.setGeometry(80, 10, 60, 24)
    out.setGeometry(280, 60, 60, 24)
    field = QLineEdit(top)
    field.setPlaceholderText("a bottle, a mix or a cup")
    field.setGeometry(0, 60, 60, 24)
    top.show()
    said = " ".join(faults_in(top))
    for words in (
        "A long word”: needs",
        "“One” lies on QPushButton “Two”",
        "“Out”: sticks out",
        "placeholder",
    ):
        assert words in said
    assert any("Out" in name for name in out_of_reach(top))


WALK = """
import sys
from fuzzing.fields import ROOMS, sheets
from tests.ui.looks.cut import faults_in, out_of_reach, settled
from lean_sepia.ui.app import make_app
from lean_sepia.ui.kit import theme
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.shell.settings import Settings
from lean_sepia.ui.shell.window import MainWindow
app = make_app([])
theme.apply(app, theme.DAY)
window = MainWindow(Settings(), synchronous=True, remember=False)
window.resize(1100, 700)
window.show()
assert window.open_project(sys.argv[1])
space = window.workspace
for room in ROOMS:
    space.open_room(room)
    settled()
    for fault in (*faults_in(window), *out_of_reach(window)):
        print(room, fault)
for sheet in sheets(space.session):
    if isinstance(sheet, Sheet):
        space.sheets.show(sheet)
        settled()
        for fault in faults_in(sheet):
            print(type(sheet).__name__, fault)
assert window.devicePixelRatioF() == 2.5, window.devicePixelRatioF()  # larger text is a larger everything
print("walked")
"""


def test_nothing_is_cut_at_125_percent_with_text_twice_as_large(demo):
    """On a screen of that scale, under a desktop that asks for such text: the walk above, in a process of its own."""
    top = Path(__file__).parents[3]
    paths = os.pathsep.join([str(top), str(Path(lean_sepia.__file__).parents[1])])
    found = subprocess.run(
        [sys.executable, "-c", WALK, str(demo.worked)],
        env={**os.environ, "QT_SCALE_FACTOR": "1.25", "QT_FONT_DPI": "192", "PYTHONPATH": paths},
        capture_output=True, text=True, timeout=240, check=False, cwd=top,
    )  # fmt: skip
    assert found.stdout.splitlines() == ["walked"], found.stdout + found.stderr[-3000:]


def test_no_step_at_the_bench_scrolls_into_nothing(window, workspace):
    window.resize(1100, 700)
    workspace.open_room("bench")
    room, long = workspace.rooms["bench"], 0
    for step in room.steps:
        settled()
        assert scrolls_into_nothing(window) == [], step.title
        long += any(area.verticalScrollBar().maximum() > 0 for area in room.findChildren(QScrollArea))
        room.turn(1)
    assert long > 5
