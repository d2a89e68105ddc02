"""The five minutes of the README, done as they are written, on the untouched demo."""

import re
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QComboBox, QFileDialog, QLabel

from lean_sepia.ui.coats.lay_sheet import LaySheet
from lean_sepia.ui.evidence import evidence_room
from lean_sepia.ui.shell.strata.core import Core

README = (Path(__file__).parents[2] / "README.md").read_text(encoding="utf-8")
PLACES = {"locker": (1088, 511), "hull": (560, 606), "strake": (560, 640), "rust": (639, 665)}
LEFT = Qt.MouseButton.LeftButton
NO_KEY = Qt.KeyboardModifier.NoModifier


def step_of(room):
    """What the README says about one room."""
    return re.search(rf"\*\*{room}\.\*\* (.*?)(?=\n\d\. |\n\n)", README, re.DOTALL)[1]


def pressed(parent, words):
    """Press the button that reads so."""
    button = next(b for b in parent.findChildren(QAbstractButton) if b.text() == words and b.isVisible())
    assert button.isEnabled(), words
    QTest.mouseClick(button, LEFT)


def chosen(box, words):
    """Choose the line that reads so."""
    assert box.findText(words) >= 0, words
    box.setCurrentIndex(box.findText(words))


def picked(box, words):
    """Open a dropdown by mouse and take a line of it by key, as a hand does."""
    QTest.mouseClick(box, LEFT)
    assert box.view().isVisible()
    for _line in range(box.count()):
        if box.view().currentIndex().data() == words:
            break
        QTest.keyClick(box.view(), Qt.Key.Key_Down)
    QTest.keyClick(box.view(), Qt.Key.Key_Return)
    assert box.currentText() == words


def words_in(widget):
    """All that is written in it: labels, buttons, lines of dropdowns."""
    lines = [item.text() for kind in (QLabel, QAbstractButton) for item in widget.findChildren(kind)]
    return lines + [box.itemText(i) for box in widget.findChildren(QComboBox) for i in range(box.count())]


def check_names(space, room):
    """Every name in italics is written in the room it is said of, in its question, or at the left."""
    rooms = [
        space.rooms[name] for name in (room.lower(), "tone") if name in space.rooms
    ]  # one step tells of Tone too
    there = [words for page in (*rooms, space.advice) for words in words_in(page)]
    there += ["Hull", "grey of a known lightness", "Show"]
    for name in re.findall(r"\*([^*]+)\*", step_of(room)):
        assert " ".join(name.split()) in there, f"{room}: {name}"


@pytest.fixture
def said_of_the_locker(monkeypatch):
    """Fill in the question that follows a click on a known grey."""

    def fill(dialog):
        chosen(dialog.known, "grey of a known lightness")
        dialog.lightness.setValue(65)
        return True

    monkeypatch.setattr(evidence_room.AnchorDialog, "exec", fill)


def test_the_five_minutes_are_true(
    window, untouched, widget_point, said_of_the_locker, monkeypatch, tmp_path
):
    space, session = untouched, untouched.session
    viewer = space.rooms["evidence"].viewer

    def click(on, place):
        QTest.mouseClick(on, LEFT, NO_KEY, widget_point(on, *PLACES[place]))

    # 1
    evidence = space.rooms["evidence"]
    pressed(evidence, "Grey")
    click(viewer, "locker")
    assert evidence._state.text() == "corrected"
    session.choose_zone("hull")
    for role, place in (("faded", "hull"), ("sheltered", "strake")):
        chosen(evidence.samples.role, role)
        pressed(evidence, "Disc")
        click(viewer, place)
    faded, sheltered = session.project.samples
    of_any_kind, of_a_slide = map(float, re.findall(r"about ±(\d+)", step_of("Evidence")))
    assert faded.de00_90 == pytest.approx(of_any_kind, abs=0.6)
    assert (faded.role, sheltered.role) == ("faded", "sheltered")
    kind = evidence.development.kind
    chosen(kind, "scan of a slide")
    kind.activated.emit(kind.currentIndex())
    assert session.project.samples[0].de00_90 == pytest.approx(of_a_slide, abs=0.6)
    check_names(space, "Evidence")
    # 2
    space.open_room("match")
    match = space.rooms["match"]
    chosen(match.wanted.sheen, "under flat")
    promised = match.answer.choices[0].recipe.lab
    pressed(match, "Pin to this zone")
    cut = session.cut("hull")
    assert cut.fresh == pytest.approx(promised, abs=0.05)
    assert cut.varnish == "flat"
    check_names(space, "Match")
    # 3
    space.open_room("tone")
    tone = space.rooms["tone"]
    assert "turns" not in tone.rows._rows[0].words
    pressed(tone, "Lay this fade")
    check_names(space, "Tone")
    # 4
    space.open_room("glaze")
    assert space.rooms["glaze"]._statement.text() == "Leave it."
    check_names(space, "Glaze")
    # 5
    space.open_room("wear")
    room = space.rooms["wear"]
    wear = room.photo
    pressed(wear, "Box")
    corner, other = (widget_point(wear.viewer, *place) for place in ((480, 640), (1240, 688)))
    QTest.mousePress(wear.viewer, LEFT, NO_KEY, corner)
    QTest.mouseMove(wear.viewer, other)
    QTest.mouseRelease(wear.viewer, LEFT, NO_KEY, other)
    picked(wear.pointing.kind, "rust")
    click(wear.viewer, "rust")
    wear.pointing.mm.setValue(38)
    pressed(wear, "Measure")
    pressed(room, "As planned")
    pressed(room, "Lay this wear")
    assert "chips" in [coat.kind for coat in session.project.coats_of("hull")]
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_asked: (str(tmp_path / "marks.pdf"), ""))
    pressed(room, "Stop marks…")
    assert (tmp_path / "marks.pdf").read_bytes().startswith(b"%PDF")
    assert space.advice._text.text() == f"Written: marks.pdf, in {tmp_path}."
    assert space.advice._button.text() == "Show"
    space.open_room("tone")
    pressed(tone, "On photo")
    space.open_room("wear")
    check_names(space, "Wear")
    # 6
    space.open_room("plan")
    plan = space.rooms["plan"]
    assert not plan.answer.findings
    chosen(plan.kind, "Powder")
    pressed(plan, "Add step")
    assert not plan.answer.findings
    pressed(plan, "Earlier")
    (finding,) = plan.answer.findings
    assert "Matte coat" in finding.message
    session.undo()
    assert not plan.answer.findings
    check_names(space, "Plan")
    # 7
    space.open_room("bench")
    bench = space.rooms["bench"]
    assert any(tile.text().endswith("drops") for tile in bench.findChildren(QLabel))
    check_names(space, "Bench")
    # The column at the left
    core = space.column.findChild(Core)
    rects = core._rects()
    edge = QPoint(int(core._WIDTH // 2), round(rects[1].top()))  # on the colours, not beside them
    QTest.mouseClick(core, LEFT, NO_KEY, edge)
    assert isinstance(space.sheets.open, LaySheet)
