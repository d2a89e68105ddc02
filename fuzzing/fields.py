"""Fields for numbers under several languages: whatever is typed is read as it was meant, or not taken at all."""

from __future__ import annotations

import random
import shutil
from collections.abc import Iterator
from functools import partial
from math import floor
from typing import Any

from PySide6.QtCore import QLocale
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractSpinBox, QDateTimeEdit, QWidget

from fuzzing.part import Part
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
from lean_sepia.ui.kit.fields.number_box import CountBox, NumberBox
from lean_sepia.ui.match.batch_dialog import BatchDialog
from lean_sepia.ui.plan.hours_sheet import HoursSheet
from lean_sepia.ui.plan.step_sheet import StepSheet
from lean_sepia.ui.preview.finish_sheet import FinishSheet
from lean_sepia.ui.shelf.bottle_sheet import BottleSheet
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.shell.subject_dialog import SubjectDialog

LOCALES = ("de_DE", "fr_FR", "tr_TR", "en_US", "C")
ROOMS = ("evidence", "match", "tone", "glaze", "wear", "plan", "bench")


def boxes_of(widget: QWidget) -> list[NumberBox | CountBox]:
    """All fields for numbers inside a widget; times of the day are none."""
    found = [box for box in widget.findChildren(QAbstractSpinBox) if not isinstance(box, QDateTimeEdit)]
    strange = [box for box in found if not isinstance(box, NumberBox | CountBox)]
    assert not strange, f"a field that reads numbers by itself: {strange}"
    return found  # type: ignore[return-value]


def expected(box: NumberBox | CountBox, number: float) -> float:
    """A number, rounded to the field's decimals and kept in its range."""
    decimals = box.decimals() if isinstance(box, NumberBox) else 0
    whole = floor(abs(number) * 10**decimals + 0.5) / 10**decimals * (-1 if number < 0 else 1)
    inside = box.minimum() <= number <= box.maximum()
    return max(box.minimum(), min(box.maximum(), whole if inside else number))


def check(box: NumberBox | CountBox, text: str, number: float) -> None:
    """Type a text into a field as a hand does, and see that it reads that number."""
    box.blockSignals(True)  # what follows from a number is not asked here
    box.setEnabled(True)
    box.selectAll()
    QTest.keyClicks(box, text)
    box.interpretText()
    read = box.value()
    assert abs(read - expected(box, number)) < 1e-6, f"{box.accessibleName()}: {text} is read as {read:g}"


def sheets(session: Session) -> Iterator[QWidget]:
    """Every sheet and dialog that has a field for a number."""
    zone, step = session.zone or session.project.zones[0].id, session.project.steps[0].id
    paints, coat = session.shelf.paints()[:2], session.project.coats[0]
    yield LaySheet(session, zone, kind="filter")
    yield LaySheet(session, zone, kind="powder")
    yield LaySheet(session, coat.zone, coat=coat.id)
    yield ZoneSheet(session, zone)
    yield ZonesSheet(session)
    yield SurfaceSheet(session, zone)
    yield CupsSheet(session)
    yield FinishSheet(session, zone, session.project)
    yield StepSheet(session, step)
    yield HoursSheet(session, "2031-03-03T19:00")
    yield BottleSheet(session, session.shelf.records()[0])
    yield BottleSheet(session, None)
    yield AnchorDialog(AnchorMark(id="a", x=1, y=1, radius=3, lightness=50, name="x"))
    yield SchemesDialog(session.project)
    yield StraightenDialog()
    yield SubjectDialog(session.project.subjects[0])
    yield BatchDialog(session.jobs, paints, {paints[0].id: 3.0}, (50, 0, 0), (48, 0, 0), OPAQUE)


def _typed(rng: random.Random) -> tuple[str, float]:
    """A number as people write it, and what it is."""
    whole, decimals = rng.randrange(10 ** rng.randrange(1, 5)), rng.randrange(4)
    digits = "".join(rng.choice("0123456789") for _digit in range(decimals))
    mark = rng.choice(".,") if decimals or rng.random() < 0.1 else ""
    sign = rng.choice(("", "", "", "-", "+"))
    text = f"{sign}{whole}{mark}{digits}"
    return text, float(text.replace(",", "."))


def run(part: Part) -> None:
    """Type until the time is over."""
    from PySide6.QtWidgets import QApplication

    from lean_sepia.demo.folder import ensure_demo
    from lean_sepia.ui.app import make_app
    from lean_sepia.ui.shell.settings import Settings
    from lean_sepia.ui.shell.window import MainWindow

    app: Any = QApplication.instance() or make_app([])
    folder, before = part.folder / f"fields-{part.seed}", QLocale()
    shutil.rmtree(folder, ignore_errors=True)
    shutil.copytree(ensure_demo().folder, folder)
    while part.going:
        QLocale.setDefault(QLocale(part.rng.choice(LOCALES)))
        window = MainWindow(Settings(), synchronous=True, remember=False)
        window.show()
        window.open_project(folder / "tordmule.sepia")
        space = window.workspace
        assert space is not None
        for room in ROOMS:
            space.open_room(room)  # type: ignore[arg-type]
        opened = list(sheets(space.session))
        fields = [box for widget in (window, *opened) for box in boxes_of(widget)]
        for _time in range(200):
            if part.going:
                text, number = _typed(part.rng)
                part.look("field", partial(check, part.rng.choice(fields), text, number), text.encode())
        for widget in opened:
            widget.close()
            widget.deleteLater()
        window.close()
        window.deleteLater()
        app.processEvents()
    QLocale.setDefault(before)
    shutil.rmtree(folder, ignore_errors=True)
