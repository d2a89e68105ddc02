"""What Match answers: limits, sheens, stand-ins, media that do not mix, and what it says of them."""

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QLabel, QPushButton

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.zones import state_target
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.ui.match import match_room
from lean_sepia.ui.match.recipe_card import RecipeCard
from lean_sepia.ui.match.substitute_dialog import SubstituteDialog


def test_the_range_of_the_photo_gives_an_expected_difference(room):
    recipe = room.answer.choices[0].recipe
    assert recipe.expected_de00 > recipe.de00
    assert f"off by {recipe.expected_de00:.1f} on average" in room._remark.text()


def test_a_colour_out_of_reach_is_explained(workspace):

    session = workspace.session
    session.choose_zone("gear")
    session.edit("State", lambda p: state_target(p, "gear", (55.0, 70.0, -40.0)))
    workspace.open_room("match")
    assert "No mixture of this shelf reaches it" in workspace.rooms["match"]._remark.text()


def test_what_it_takes_to_lay_a_recipe_is_said(room, qtbot):
    assert "coats at 60 % thinner" in room.laying.hides.text()
    assert "darker" in room.laying.wet.text()
    # (214 cm² × 3 coats × 0.0025 ml/cm² / 0.5 + 0.3 ml) × 1.25, of it 60 % thinner
    assert room.wanted.volume.value() == pytest.approx(4.4, abs=0.06)
    assert room.laying.needs.text().startswith("4.4 ml: 1.8 ml paint, 2.6 ml thinner.")
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
    cards = list(room._cards.widgets)
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
    assert "12.0 ml: 4.8 ml paint, 7.2 ml thinner" in " ".join(
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
    offer = room._limit_line.widgets[0]
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
