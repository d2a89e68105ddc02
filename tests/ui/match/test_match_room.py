"""Match, driven as a hand would: drops in and out, bottles left out, ratios, batches put right."""

import time

import pytest
from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt
from PySide6.QtGui import QDrag, QDropEvent, QMouseEvent, QWheelEvent
from PySide6.QtWidgets import QApplication, QLabel, QPushButton

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.zones import state_target
from lean_sepia.shelf.shelf_file import ShelfContent
from lean_sepia.ui.kit.drag import DROP_MIME, dragged_paint
from lean_sepia.ui.match import match_room
from lean_sepia.ui.match.batch_dialog import BatchDialog
from lean_sepia.ui.match.ratio_dialog import RatioDialog
from lean_sepia.ui.match.recipe_card import RecipeCard, _PaintDrops
from lean_sepia.ui.match.substitute_dialog import SubstituteDialog


@pytest.fixture
def room(workspace):
    workspace.session.choose_zone("hull")
    workspace.open_room("match")
    return workspace.rooms["match"]


def cards(room):
    QApplication.processEvents()
    return [room._cards.box.itemAt(i).widget() for i in range(room._cards.box.count())]


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
    chips = [room.rack._row.box.itemAt(i).widget() for i in range(room.rack._row.box.count() - 1)]
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

    chip = room.rack._row.box.itemAt(0).widget()
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
    back = room._limit_line.box.itemAt(0).widget()
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
    told = room._limit_line.box.itemAt(0).widget()
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


def test_the_range_of_the_photo_gives_an_expected_difference(room):
    recipe = room.answer.choices[0].recipe
    assert recipe.expected_de00 > recipe.de00
    assert f"{recipe.expected_de00:.1f} in the mean" in room._remark.text()


def test_a_colour_out_of_reach_is_explained(workspace):

    session = workspace.session
    session.choose_zone("gear")
    session.edit("State", lambda p: state_target(p, "gear", (55.0, 70.0, -40.0)))
    workspace.open_room("match")
    assert "No mixture of this shelf reaches it" in workspace.rooms["match"]._remark.text()


def test_a_ratio_is_read_both_ways_and_used(room, qtbot, monkeypatch):
    dialog = RatioDialog(0.6, 6.0)
    qtbot.addWidget(dialog)
    qtbot.keyClicks(dialog.phrase, "1:20")
    assert dialog._readings.box.count() == 2
    dialog._readings.box.itemAt(0).layout().itemAt(0).widget().click()
    assert dialog.thinner_share == pytest.approx(20 / 21)
    dialog.phrase.setText("a splash")
    assert "no ratio" in dialog._readings.box.itemAt(0).widget().text()

    def said(asked):
        asked.phrase.setText("80 % thinner")
        asked._readings.box.itemAt(0).layout().itemAt(0).widget().click()
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
    texts = [
        dialog._answers.box.itemAt(i).layout().itemAt(1).widget().text()
        for i in range(dialog._answers.box.count())
    ]
    assert texts
    assert all("drops" in text and "ml in all" in text for text in texts)
    for box in dialog.cup.values():
        box.setValue(0)
    dialog.answer()
    assert "empty" in dialog._answers.box.itemAt(0).widget().text()


def test_choosing_a_card_by_keyboard(room, qtbot):
    card = cards(room)[1]
    assert isinstance(card, RecipeCard)
    qtbot.keyClick(card, Qt.Key.Key_Return)
    assert room._chosen == 1
    assert room._figure.text() == f"{room.answer.choices[1].recipe.de00:.1f}"


def test_what_it_takes_to_lay_a_recipe_is_said(room, qtbot):
    assert "coats at 60 % thinner" in room.laying.hides.text()
    assert "darker" in room.laying.wet.text()
    # (214 cm² × 3 coats × 0.0025 ml/cm² / 0.5 + 0.3 ml) × 1.25, of it 60 % thinner
    assert room.wanted.volume.value() == pytest.approx(4.4, abs=0.06)
    assert room.laying.needs.text().startswith("4.4 ml: 1.8 paint, 2.6 thinner.")
    room.wanted.coats.setValue(6)  # more coats take more of it, unless an amount was asked for
    assert room.wanted.volume.value() == pytest.approx(8.4, abs=0.06)
    room.wanted.volume.setValue(5.0)
    room.wanted.coats.setValue(4)
    assert room.wanted.volume.value() == 5.0
    assert "214 cm² take 5.7 ml" in room.laying.needs.text()
    qtbot.mouseClick(room.laying.take, Qt.MouseButton.LeftButton)
    assert room.wanted.volume.value() == pytest.approx(room.laying.needed_ml, abs=0.06)
    room.session.choose_zone("gear")
    assert not room.laying.isVisible()


def test_match_pins_what_is_chosen(workspace, qtbot):
    session = workspace.session
    session.choose_zone("band")
    workspace.open_room("match")
    room = workspace.rooms["match"]
    assert room.answer.question.zone == "band"
    cards = [room._cards.box.itemAt(i).widget() for i in range(room._cards.box.count())]
    assert all(isinstance(card, RecipeCard) for card in cards)
    qtbot.mouseClick(cards[1], Qt.MouseButton.LeftButton)
    chosen = room.answer.choices[1].recipe
    assert room._figure.text() == f"{chosen.de00:.1f}"
    qtbot.mouseClick(room.pin, Qt.MouseButton.LeftButton)
    coat = next(coat for coat in session.project.coats_of("band") if coat.kind == "base")
    recipe = session.project.recipe(coat.recipe)
    assert [(session.project.paint(v).shelf_id, n) for v, n in recipe.parts] == list(chosen.parts)
    assert coat.thinner_share == pytest.approx(0.6)
    predicted = session.cut("band").fresh
    assert float(delta_e00(predicted, chosen.lab)) < 0.05  # the strata and the solver agree
    assert room.answer.choices[0].pinned


def test_match_answers_other_limits(workspace):
    workspace.open_room("match")
    room = workspace.rooms["match"]
    room.wanted.paints.setValue(1)
    assert all(len(choice.recipe.parts) == 1 for choice in room.answer.choices if not choice.pinned)
    room.wanted.volume.setValue(12)
    assert "12.0 ml: 4.8 paint, 7.2 thinner" in " ".join(
        label.text() for label in room.findChildren(type(room._remark))
    )


def test_match_without_a_target_says_what_to_do(workspace):
    workspace.session.choose_zone("gear")
    workspace.open_room("match")
    assert "no target" in workspace.rooms["match"]._statement.text()
    assert not workspace.rooms["match"].pin.isEnabled()


def test_the_trust_in_a_prediction_is_said(room):
    sure = room.answer.behaviours[0].sure_de00
    assert f"it comes out within ±{sure:.1f}." in room._remark.text()
    room.always_use("deep-sea")
    room.do_without("kingfisher")
    known = {paint.id: paint.knowledge for paint in room.answer.question.paints}
    assert known["deep-sea"] > 1
    for index, choice in enumerate(room.answer.choices):
        room.choose(index)
        weakest = min(known[name] for name, _ in choice.recipe.parts)
        words = {1: "one colour only", 2: "two colours", 3: "spectra"}[weakest]
        assert f"Known from {words}: it comes out within ±" in room._remark.text()
    room.do_without("deep-sea")
    room.always_use("night-blue")
    room.choose(next(i for i, c in enumerate(room.answer.choices) if not c.pinned))
    assert "Known from one colour only: it comes out within ±" in room._remark.text()


def test_the_recipe_is_solved_for_the_final_sheen(room):
    assert room.wanted.sheen.currentText() == "under Matte coat"
    flat = room.answer.choices[0].recipe
    room.wanted.sheen.setCurrentIndex(room.wanted.sheen.findData("gloss"))
    glossy = room.answer.choices[0].recipe
    assert glossy.parts == flat.parts  # still the pinned one
    assert glossy.lab[0] < flat.lab[0] - 2  # gloss deepens it
    assert room.answer.question.laying.varnish == "gloss"
    assert min(c.recipe.de00 for c in room.answer.choices) < 1  # others meet the target under gloss
    room.session.choose_zone("funnel")
    assert room.wanted.sheen.currentIndex() == 0


def test_a_medium_gives_the_sheen_without_a_varnish(room):
    assert not room.laying.medium.isVisible()
    room.wanted.sheen.setCurrentIndex(room.wanted.sheen.findData("satin"))
    assert "5 Gloss medium to 4 of the mix" in room.laying.medium.text()


def take_the_first(seen):
    def choose(dialog):
        seen.append(dialog)
        next(b for b in dialog.findChildren(QPushButton) if b.text() == "Take").click()
        return dialog.result()

    return choose


def test_a_stand_in_is_taken_for_a_bottle(room, monkeypatch):
    seen = []
    monkeypatch.setattr(SubstituteDialog, "exec", take_the_first(seen))
    before = room.answer.choices[0].recipe
    name = before.parts[0][0]
    room.find_stand_ins(0, [name])
    after = room.answer.choices[0]
    assert after.title.startswith("without Deep sea")
    assert name not in dict(after.recipe.parts)
    assert set(dict(after.recipe.parts)) == set(dict(seen[0].taken.recipe.parts))
    assert seen[0].taken.instead_of == pytest.approx(before.lab, abs=0.05)
    assert room._figure.text() == f"{after.recipe.de00:.1f}"


def test_a_pinned_bottle_that_left_the_shelf_is_named_and_stood_in_for(room, monkeypatch, qtbot):
    session = room.session
    session.shelf.remove(["deep-sea"])
    session.shelf_changed.emit()
    assert not any(choice.pinned for choice in room.answer.choices)
    offer = room._limit_line.box.itemAt(0).widget()
    assert offer.text() == "Deep sea of the pinned recipe not on the shelf: stand-ins…"
    seen = []
    monkeypatch.setattr(SubstituteDialog, "exec", take_the_first(seen))
    qtbot.mouseClick(offer, Qt.MouseButton.LeftButton)
    assert "deep-sea" not in dict(room.answer.choices[0].recipe.parts)
    assert room.answer.choices[0].title == "without Deep sea"
    assert room._limit_line.isVisible()


def test_lacquer_over_the_zones_acrylic_is_cautioned(room):
    session = room.session
    record = next(r for r in session.shelf.records() if r["id"] == "slate-teal") | {
        "id": "quick-teal",
        "name": "Quick teal",
        "medium": "lacquer",
    }
    session.shelf.add(ShelfContent((record,)))
    session.shelf_changed.emit()
    room.always_use("quick-teal")
    room.choose(next(i for i, c in enumerate(room.answer.choices) if not c.pinned))
    assert "Lacquer softens what lies below" in room.laying.cautions.text()
    assert "respirator" in room.laying.cautions.text()


def test_the_plane_shows_what_is_compared(room, qtbot):
    plot = room._plane.plot
    assert [point.name for point in plot._content.points] == ["target", "recipe"]
    (a_low, a_high), (b_low, b_high) = plot._plane.viewRange()
    for lab in (room.answer.question.target.lab, room.answer.choices[0].recipe.lab):
        assert a_low < lab[1] < a_high
        assert b_low < lab[2] < b_high
    plot._plane.setRange(xRange=(40, 50), yRange=(40, 50))
    qtbot.mouseDClick(plot.canvas.viewport(), Qt.MouseButton.LeftButton)
    assert plot._plane.viewRange()[0][0] < room.answer.question.target.lab[1]
    assert room._plane.accessibleDescription().startswith("target")


def test_the_wheel_scrolls_the_column_and_zooms_with_ctrl(room):
    canvas = room._plane.plot.canvas

    def turned(keys):
        event = QWheelEvent(
            QPointF(40, 40), canvas.mapToGlobal(QPointF(40, 40)), QPoint(), QPoint(0, 120), Qt.MouseButton.NoButton, keys,
            Qt.ScrollPhase.NoScrollPhase, False,
        )  # fmt: skip
        event.setAccepted(False)
        canvas.wheelEvent(event)
        return event.isAccepted()

    before = room._plane.plot._plane.viewRange()
    assert not turned(Qt.KeyboardModifier.NoModifier)
    assert room._plane.plot._plane.viewRange() == before
    turned(Qt.KeyboardModifier.ControlModifier)
    assert room._plane.plot._plane.viewRange() != before


def test_media_that_do_not_mix_are_named_and_pinning_asks(room, monkeypatch):
    shelf = room.session.shelf
    ochre = next(record for record in shelf.records() if record["id"] == "ochre")
    shelf.add(ShelfContent(({**ochre, "id": "old-tin", "name": "Old tin", "medium": "enamel"},), {}))
    room.session.shelf_changed.emit()
    before = room.session.project
    asked = []
    monkeypatch.setattr(match_room, "confirm", lambda *words: asked.append(words[2]) or False)
    room.change_drops(0, "old-tin", 1)
    assert "do not mix" in " ".join(item.text() for item in room.laying.findChildren(QLabel))
    room.pin_chosen()
    (words,) = asked
    assert "enamel" in words.lower()
    assert "acrylic" in words
    assert room.session.project == before
    monkeypatch.setattr(match_room, "confirm", lambda *_words: True)
    room.pin_chosen()
    assert "old-tin" in [
        room.session.project.paint(version).shelf_id
        for version, _count in room.session.project.recipe(base_of(room)).parts
    ]


def base_of(room):
    return next(c.recipe for c in room.session.project.coats_of("hull") if c.kind == "base")


def test_a_sheen_that_is_chosen_is_planned_where_none_is(untouched):
    session = untouched.session
    session.edit("", lambda p: state_target(p, "hull", (50.0, -18.0, -4.0)))
    session.choose_zone("hull")
    untouched.open_room("match")
    room = untouched.rooms["match"]
    room.pin_chosen()
    assert session.cut("hull").varnish is None
    room.wanted.sheen.setCurrentIndex(room.wanted.sheen.findData("satin"))
    room.choose(1)
    promised = room.answer.choices[1].recipe.lab
    room.pin_chosen()
    cut = session.cut("hull")
    assert cut.varnish == "satin"
    assert cut.fresh == pytest.approx(promised, abs=0.05)
    room.wanted.sheen.setCurrentIndex(room.wanted.sheen.findData("flat"))
    room.choose(1)
    room.pin_chosen()
    assert session.cut("hull").varnish == "satin"  # what is planned stays; another sheen is only looked at
