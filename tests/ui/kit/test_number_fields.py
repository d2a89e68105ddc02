"""Every field for a number reads a point and a comma alike, in whatever language the machine speaks."""

from math import floor
from pathlib import Path

import pytest
from PySide6.QtCore import QLocale
from PySide6.QtGui import QValidator
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractSpinBox, QDateTimeEdit

import lean_sepia
from lean_sepia.document.model import AnchorMark
from lean_sepia.paint.laying import OPAQUE
from lean_sepia.ui.coats.cups_sheet import CupsSheet
from lean_sepia.ui.coats.lay_sheet import LaySheet
from lean_sepia.ui.coats.surface_sheet import SurfaceSheet
from lean_sepia.ui.coats.zone_sheet import ZoneSheet
from lean_sepia.ui.coats.zones_sheet import ZonesSheet
from lean_sepia.ui.evidence.anchor_dialog import AnchorDialog
from lean_sepia.ui.evidence.schemes_dialog import SchemesDialog
from lean_sepia.ui.evidence.straighten_dialog import StraightenDialog
from lean_sepia.ui.kit.dialogs import ask
from lean_sepia.ui.kit.fields.number_box import CountBox, NumberBox
from lean_sepia.ui.kit.panel import count_box, measure_box
from lean_sepia.ui.match.batch_dialog import BatchDialog
from lean_sepia.ui.plan.hours_sheet import HoursSheet
from lean_sepia.ui.plan.step_sheet import StepSheet
from lean_sepia.ui.preview.finish_sheet import FinishSheet
from lean_sepia.ui.shelf.bottle_sheet import BottleSheet
from lean_sepia.ui.shell.subject_dialog import SubjectDialog

LOCALES = ("de_DE", "fr_FR", "tr_TR", "en_US")
TYPED = {"12.5": 12.5, "2,5": 2.5, "1.234": 1.234, "1,234": 1.234, ",5": 0.5}
ROOMS = ("evidence", "match", "tone", "glaze", "wear", "plan", "bench")


@pytest.fixture(params=LOCALES)
def spoken(request):
    before = QLocale()
    QLocale.setDefault(QLocale(request.param))
    yield request.param
    QLocale.setDefault(before)


def expected(box, number):
    """The number, rounded to the field's decimals and kept in its range."""
    decimals = box.decimals() if isinstance(box, NumberBox) else 0
    whole = floor(number * 10**decimals + 0.5) / 10**decimals
    return max(
        box.minimum(), min(box.maximum(), whole if box.minimum() <= number <= box.maximum() else number)
    )


def check(box):
    box.blockSignals(True)  # what follows from a number is not asked here
    box.setEnabled(True)
    for text, number in TYPED.items():
        box.selectAll()
        QTest.keyClicks(box, text)
        box.interpretText()
        assert box.value() == pytest.approx(expected(box, number)), (box.accessibleName(), text, box.text())


def boxes_of(widget):
    found = [box for box in widget.findChildren(QAbstractSpinBox) if not isinstance(box, QDateTimeEdit)]
    assert all(isinstance(box, NumberBox | CountBox) for box in found)
    return found


def sheets(session):
    zone, step = session.zone or session.project.zones[0].id, session.project.steps[0].id
    found = session.shelf.records()[0]
    paints = session.shelf.paints()[:2]
    mixed = session.project.coats[0]
    yield LaySheet(session, zone, kind="filter")
    yield LaySheet(session, zone, kind="powder")
    yield LaySheet(session, mixed.zone, coat=mixed.id)
    yield ZoneSheet(session, zone)
    yield ZonesSheet(session)
    yield SurfaceSheet(session, zone)
    yield CupsSheet(session)
    yield FinishSheet(session, zone, session.project)
    yield StepSheet(session, step)
    yield HoursSheet(session, "2031-03-03T19:00")
    yield BottleSheet(session, found)
    yield BottleSheet(session, None)
    yield AnchorDialog(AnchorMark(id="a", x=1, y=1, radius=3, lightness=50, name="x"))
    yield SchemesDialog(session.project)
    yield StraightenDialog()
    yield SubjectDialog(session.project.subjects[0])
    yield BatchDialog(session.jobs, paints, {paints[0].id: 3.0}, (50, 0, 0), (48, 0, 0), OPAQUE)


def test_every_field_of_every_sheet_and_room(spoken, workspace, qapp, qtbot):
    count = 0
    for room in ROOMS:
        workspace.open_room(room)
        for box in boxes_of(workspace.rooms[room]):
            check(box)
            count += 1
    workspace.open_shelf()
    for sheet in sheets(workspace.session):
        qtbot.addWidget(sheet)
        for box in boxes_of(sheet):
            check(box)
            count += 1
        sheet.close()
    assert count > 60
    assert spoken in LOCALES


def test_a_number_that_is_asked_for(spoken, monkeypatch):
    seen = []

    def exec_(question):
        for box in boxes_of(question):
            check(box)
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
