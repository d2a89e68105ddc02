"""Match, driven as a hand would: drops in and out, bottles left out, ratios, batches put right."""

import time

import pytest
from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt
from PySide6.QtGui import QDrag, QDropEvent, QMouseEvent
from PySide6.QtWidgets import QApplication, QLabel, QPushButton

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.ui.kit.drag import DROP_MIME, dragged_paint
from lean_sepia.ui.match.batch_dialog import BatchDialog
from lean_sepia.ui.match.ratio_dialog import RatioDialog
from lean_sepia.ui.match.recipe_card import RecipeCard, _PaintDrops


def cards(room):
    QApplication.processEvents()
    return list(room._cards.widgets)


def readings(dialog):
    shown = dialog._readings
    return [press for press in shown.findChildren(QPushButton) if press.isVisibleTo(shown)]


def key(card, words):
    return next(
        child
        for child in card.findChildren(type(card._small("", "")))
        if child.accessibleName().startswith(words)
    )


def test_a_drop_more_and_less_shows_at_once(room, qtbot):
    before = room.answer.choices[0].recipe
    name, count = before.parts[0]
    qtbot.mouseClick(key(cards(room)[0], "A drop of Deep sea more"), Qt.MouseButton.LeftButton)
    after = room.answer.choices[0].recipe
    assert dict(after.parts)[name] == count + 1
    assert float(delta_e00(before.lab, after.lab)) > 0.05
    assert room._figure.text() == f"{after.de00:.1f}"
    assert room.answer.choices[0].title == "yours"
    assert room.pin.isEnabled()
    qtbot.mouseClick(key(cards(room)[0], "A drop of Deep sea less"), Qt.MouseButton.LeftButton)
    assert room.answer.choices[0].recipe.lab == pytest.approx(before.lab)


def test_the_last_drop_of_the_last_bottle_stays(room):
    room.wanted.paints.setValue(1)
    index = next(i for i, choice in enumerate(room.answer.choices) if not choice.pinned)
    ((name, count),) = room.answer.choices[index].recipe.parts
    for _ in range(count + 2):
        room.change_drops(index, name, -1)
    assert room.answer.choices[index].recipe.parts == ((name, 1),)


def test_a_drop_from_the_rack_goes_into_the_chosen_recipe(room, qtbot):
    chips = list(room.rack._row.widgets)
    assert len(chips) == len(room.answer.solver.palette.paints)
    used = dict(room.answer.choices[0].recipe.parts)
    chip = next(chip for chip in chips if chip.paint.id not in used)
    qtbot.mouseClick(chip, Qt.MouseButton.LeftButton)
    assert dict(room.answer.choices[0].recipe.parts) == used | {chip.paint.id: 1}


def test_a_drop_is_dragged_into_another_card(room):
    card = cards(room)[1]
    before = dict(room.answer.choices[1].recipe.parts)
    mime = QMimeData()
    mime.setData(DROP_MIME, b"chalk")
    assert dragged_paint(mime) == "chalk"
    drop = QDropEvent(
        QPointF(10, 10),
        Qt.DropAction.CopyAction,
        mime,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    card.dropEvent(drop)
    assert drop.isAccepted()
    assert dict(room.answer.choices[1].recipe.parts) == before | {"chalk": before.get("chalk", 0) + 1}
    assert room._chosen == 1
    assert dragged_paint(QMimeData()) is None


def test_a_drop_is_pulled_from_the_rack_and_out_of_a_card(room, qtbot, monkeypatch):
    dragged = []

    def let_go(drag, _action):
        dragged.append((dragged_paint(drag.mimeData()), drag.pixmap().isNull()))
        return endings.pop(0)

    endings = [Qt.DropAction.CopyAction, Qt.DropAction.IgnoreAction, Qt.DropAction.CopyAction]
    monkeypatch.setattr(QDrag, "exec", let_go)

    def pull(widget):
        qtbot.mousePress(widget, Qt.MouseButton.LeftButton, pos=QPoint(6, 6))
        move = QMouseEvent(
            QEvent.Type.MouseMove, QPointF(60, 6), widget.mapToGlobal(QPointF(60, 6)), Qt.MouseButton.NoButton,
            Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
        )  # fmt: skip
        widget.mouseMoveEvent(move)

    chip = room.rack._row.widgets[0]
    pull(chip)
    assert dragged == [(chip.paint.id, False)]
    name, count = room.answer.choices[0].recipe.parts[0]
    pull(cards(room)[0].findChildren(_PaintDrops)[0])
    assert dragged[1] == (name, False)
    assert dict(room.answer.choices[0].recipe.parts)[name] == count  # Esc ends a drag: nothing was let go
    pull(cards(room)[0].findChildren(_PaintDrops)[0])
    assert (
        dict(room.answer.choices[0].recipe.parts)[name] == count - 1
    )  # let go outside every card: taken out


def test_a_changed_recipe_is_there_within_a_few_frames(room):
    """Not a timed check of speed: only that no search is started again."""
    asked = room._asked
    start = time.perf_counter()
    room.change_drops(0, "chalk", 1)
    assert room._asked is asked
    assert time.perf_counter() - start < 2


def test_a_bottle_is_left_out_and_taken_back(room, qtbot):
    name = room.answer.choices[0].recipe.parts[-1][0]
    room.do_without(name)
    assert all(name not in dict(c.recipe.parts) for c in room.answer.choices if not c.pinned)
    back = room._limit_line.widgets[0]
    assert back.text().startswith("without")
    qtbot.mouseClick(back, Qt.MouseButton.LeftButton)
    assert room._limits.forbid == frozenset()
    room.always_use("chalk")
    assert all("chalk" in dict(c.recipe.parts) for c in room.answer.choices if not c.pinned)
    room.session.choose_zone("funnel")
    assert room._limits.must == frozenset()


def test_recipes_keep_to_what_is_left_where_that_is_wanted(room, qtbot):
    left = {record["id"]: record["stock_ml"] for record in room.session.shelf.records()}["deep-sea"]
    room.wanted.volume.setValue(3 * left / 0.4)  # of it four tenths are paint
    cup = room.answer.question.cup_ml
    said = [label.text() for label in cards(room)[0].findChildren(QLabel)]
    assert any(text.startswith(f"Deep sea does not last: {left:g} ml left") for text in said)
    cards(room)[0].stock_wanted.emit("deep-sea", left)
    for choice in room.answer.choices:
        if not choice.pinned:
            share = dict(choice.recipe.parts).get("deep-sea", 0) / choice.recipe.total_parts
            assert cup * share <= left + 1e-6
    told = room._limit_line.widgets[0]
    assert told.text() == f"within {left:g} ml of Deep sea ×"
    qtbot.mouseClick(told, Qt.MouseButton.LeftButton)
    assert room._limits.stock_ml == {}
    assert not room._limit_line.isVisible()


def test_pinning_what_was_mixed_by_hand(room, qtbot):
    room.change_drops(0, "chalk", 1)
    mixed = room.answer.choices[0].recipe
    qtbot.mouseClick(room.pin, Qt.MouseButton.LeftButton)
    session = room.session
    coat = next(coat for coat in session.project.coats_of("hull") if coat.kind == "base")
    parts = session.project.recipe(coat.recipe).parts
    assert {(session.project.paint(v).shelf_id, n) for v, n in parts} == set(mixed.parts)


def test_a_larger_cup_forgives_a_stray_drop(room):
    small = room.answer.choices[0].recipe.one_drop_de00
    room.wanted.volume.setValue(30)
    assert room.answer.choices[0].recipe.one_drop_de00 < 0.5 * small


def test_a_ratio_is_read_both_ways_and_used(room, qtbot, monkeypatch):
    dialog = RatioDialog(0.6, 6.0)
    qtbot.addWidget(dialog)
    qtbot.keyClicks(dialog.phrase, "1:20")
    assert len(readings(dialog)) == 2
    readings(dialog)[0].click()
    assert dialog.thinner_share == pytest.approx(20 / 21)
    dialog.phrase.setText("a splash")
    assert "no ratio" in dialog._readings.widgets[0].text()

    def said(asked):
        asked.phrase.setText("80 % thinner")
        readings(asked)[0].click()
        return asked.result()

    monkeypatch.setattr(RatioDialog, "exec", said)
    room.wanted.ask_ratio(room, 4.0)
    assert room.wanted.thinner.value() == 80


def test_a_batch_that_came_out_wrong_is_put_right(room, qtbot):
    solver, target = room.answer.solver, room.answer.question.target.lab
    recipe = room.answer.choices[0].recipe
    batch = {name: float(count) for name, count in recipe.parts}
    dialog = BatchDialog(room.session.jobs, solver.palette.paints, batch, target, recipe.lab, solver.laying)
    qtbot.addWidget(dialog)
    dialog.measured.setChecked(True)
    dialog.lab[0].setValue(recipe.lab[0] - 8)
    dialog.answer()
    texts = [label.text() for label in dialog._answers.findChildren(QLabel)]
    assert texts
    assert all(" in all: " in text and (" drop" in text or " ml " in text) for text in texts)
    for box in dialog.cup.values():
        box.setValue(0)
    dialog.answer()
    assert "empty" in dialog._answers.widgets[0].text()


def test_choosing_a_card_by_keyboard(room, qtbot):
    card = cards(room)[1]
    assert isinstance(card, RecipeCard)
    qtbot.keyClick(card, Qt.Key.Key_Return)
    assert room._chosen == 1
    assert room._figure.text() == f"{room.answer.choices[1].recipe.de00:.1f}"
