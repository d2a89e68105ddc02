"""The shelf: files in and out, and a whole shelf from one photo."""

import json
from dataclasses import replace

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.ui.shelf.learnt_dialog import LearntDialog
from lean_sepia.ui.shelf.mixtures_dialog import MixturesDialog


def test_shelf_imports_all_or_nothing(workspace, tmp_path, qtbot):
    workspace.open_shelf()
    page = workspace.shelf_page
    count = len(page._shown)
    good = {
        "id": "pier-blue",
        "name": "Pier blue",
        "medium": "acrylic-water",
        "finish": "flat",
        "lab": [40, -5, -25],
    }
    (tmp_path / "bad.json").write_text(
        json.dumps({"paints": [good, {**good, "id": "x", "lab": [400, 0, 0]}]})
    )
    page.import_file(tmp_path / "bad.json")
    assert len(page._shown) == count
    assert "L*" in workspace.advice._text.text()
    (tmp_path / "good.json").write_text(json.dumps({"paints": [good]}))
    page.import_file(tmp_path / "good.json")
    assert len(page._shown) == count + 1
    page.order_by("name")
    names = [paint.name.casefold() for paint in page._shown]
    assert names == sorted(names)
    qtbot.keyClick(page.list, Qt.Key.Key_Right)
    assert page.bottle.name.text() == page._shown[1].name
    page.back.emit()
    assert workspace.room == "evidence"
    assert workspace.column.isVisible()


def test_the_shelf_goes_out_in_every_form(workspace, tmp_path):
    workspace.open_shelf()
    page = workspace.shelf_page
    said = []
    workspace.session.jobs.failed.connect(said.append)
    for name in ("out.json", "out.csv", "out.txt", "out.gpl"):
        page.export_file(tmp_path / name)
        assert (tmp_path / name).stat().st_size > 500
    page.export_file(tmp_path / "nowhere" / "out.json")
    assert "cannot be written" in said[0]


def test_a_shelf_is_read_from_one_photo(workspace, tmp_path, shelf_paints, monkeypatch):
    import cv2

    from lean_sepia.demo.card_photo import Shot, photograph_card
    from lean_sepia.ui.shelf.card_dialog import CardDialog

    painted = [paint for paint in shelf_paints if paint.mixes][:6]
    photo = tmp_path / "card.png"
    cv2.imwrite(str(photo), photograph_card(painted, Shot(), 3)[..., ::-1])
    workspace.open_shelf()
    page = workspace.shelf_page
    before = len(workspace.session.shelf.records())

    def named(dialog):
        assert len(dialog.rows) == 6
        dialog.rows[0].name.setText("My white")
        dialog.rows[5].taken.setChecked(False)
        dialog.rows[1].finish.setCurrentIndex(dialog.rows[1].finish.findData("satin"))
        return 1

    monkeypatch.setattr(CardDialog, "exec", named)
    page.cards.read_paints(photo, 62.0)
    records = workspace.session.shelf.records()
    assert len(records) == before + 5
    added = {record["id"]: record for record in records[before:]}
    assert added["my-white"]["knowledge"] == "two-constant"
    assert added["paint-2"]["finish"] == "satin"
    read = next(paint for paint in workspace.session.shelf.paints() if paint.id == "my-white")
    assert float(delta_e00(read.masstone_lab(), painted[0].masstone_lab())) < 3
    page.cards.print_card(tmp_path / "card.pdf")
    assert (tmp_path / "card.pdf").read_bytes().startswith(b"%PDF")


def test_a_photo_without_a_card_is_refused(workspace, tmp_path):
    import cv2

    photo = tmp_path / "grey.png"
    cv2.imwrite(str(photo), np.full((200, 300, 3), 90, np.uint8))
    workspace.open_shelf()
    said = []
    workspace.session.jobs.failed.connect(said.append)
    workspace.shelf_page.cards.read_paints(photo, None)
    assert "corner marks" in said[0]


@pytest.fixture
def card_of_mixtures(tmp_path, shelf_paints):
    """A photo of a card with four mixtures, mixed from bottles that are stronger than the shelf says."""
    import cv2

    from lean_sepia.demo.card_photo import Shot, photograph_card
    from lean_sepia.recipe.fades.fade import base_mixture

    true = [
        replace(p, K=p.K * 1.25, S=p.S * 0.9) for p in shelf_paints if p.id in ("chalk", "ochre", "boot-red")
    ]
    mixed = (
        [("chalk", 3), ("ochre", 1)],
        [("chalk", 1), ("boot-red", 1)],
        [("ochre", 2), ("boot-red", 1)],
        [("ochre", 1)],
    )
    path = tmp_path / "mixtures.png"
    cv2.imwrite(
        str(path), photograph_card([base_mixture(true, parts) for parts in mixed], Shot(), 5)[..., ::-1]
    )
    return path


def test_mixtures_on_a_card_refine_the_shelf(workspace, card_of_mixtures, monkeypatch):
    workspace.open_shelf()
    page, session = workspace.shelf_page, workspace.session
    order = [record["id"] for record in session.shelf.records()]
    chalk = next(paint for paint in session.shelf.paints() if paint.id == "chalk")

    def named(dialog):
        for field, text in ((1, "3 Chalk, 1 Ochre"), (2, "1 chalk, 1 boot-red"), (3, "2 nobody")):
            dialog.boxes[field].setCurrentText(text)
        dialog.check()
        assert dialog.result() == 0
        assert "names no paint" in dialog.said[3].text()
        dialog.boxes[3].setCurrentText("2 Ochre, 1 Boot red")
        dialog.boxes[4].setCurrentText("1 Ochre")
        dialog.check()
        return dialog.result()

    def taught(dialog):
        assert "4 swatches: out by" in dialog.words.text()
        return 1

    monkeypatch.setattr(MixturesDialog, "exec", named)
    monkeypatch.setattr(LearntDialog, "exec", taught)
    page.cards.read_mixtures(card_of_mixtures, 62.0)
    records = session.shelf.records()
    assert [record["id"] for record in records] == order
    refined = next(paint for paint in session.shelf.paints() if paint.id == "chalk")
    assert not np.allclose(refined.K, chalk.K)


def test_what_was_learnt_may_be_left_alone(workspace, tmp_path, monkeypatch):
    workspace.open_shelf()
    page, session = workspace.shelf_page, workspace.session
    before = session.shelf.records()
    swatches = [
        {"parts": [{"paint": "chalk", "parts": 1}], "lab": [80, 3, 20]},
        {"parts": [{"paint": "chalk", "parts": 1}], "lab": [96, 0, 2]},
        {"parts": [{"paint": "chalk", "parts": 1}], "lab": [96, 0, 2.1]},
    ]
    (tmp_path / "s.json").write_text(json.dumps({"swatches": swatches}))
    heard = []
    monkeypatch.setattr(LearntDialog, "exec", lambda dialog: heard.append(dialog) or 0)
    page.cards.learn_from_file(tmp_path / "s.json")
    texts = [label.text() for label in heard[0].findChildren(QLabel)]
    assert any("Swatch 1 contradicts the others" in text for text in texts)
    assert session.shelf.records() == before
    said = []
    session.refused.connect(said.append)
    page.cards.learn_from_file(tmp_path / "nothing.json")
    assert "There is no file" in said[0]


def test_a_clear_medium_is_shown_as_one(workspace):
    workspace.open_shelf()
    page = workspace.shelf_page
    page.order_by("hue")
    assert all(paint.clear for paint in page._shown[-2:])
    assert not any(paint.clear for paint in page._shown[:-2])
    page.list._choose(len(page._shown) - 1)
    assert "changes the sheen" in page.bottle.figures.text()
    assert "clear" in page.list.accessibleDescription()
    assert "Hides" not in page.bottle.facts.text()


@pytest.mark.parametrize(("answer", "left"), [(0, 4.5), (1, 90.0), (2, 4.5), (None, 4.5)])
def test_a_list_read_again_asks_and_can_be_taken_back(workspace, tmp_path, monkeypatch, qtbot, answer, left):
    asked = []
    monkeypatch.setattr(
        "lean_sepia.ui.shelf.shelf_page.choose", lambda *question: (asked.append(question[3:]), answer)[1]
    )
    workspace.open_shelf()
    page, shelf = workspace.shelf_page, workspace.session.shelf
    chalk = shelf.by_id()["chalk"]
    shelf.change((chalk, {**chalk, "stock_ml": 4.5, "opened": "2030", "note": "mine"}))
    before = shelf.records()
    listed = {**chalk, "name": "Chalk of the list", "stock_ml": 90.0}
    (tmp_path / "list.json").write_text(json.dumps({"paints": [listed]}))
    page.import_file(tmp_path / "list.json")
    assert asked == [("Keep my notes", "All as in the list", "Leave it")]
    now = shelf.by_id()["chalk"]
    assert now["stock_ml"] == left
    assert now["name"] == ("Chalk of the list" if answer in (0, 1) else chalk["name"])
    assert now.get("note") == (None if answer == 1 else "mine")
    if answer in (0, 1):
        assert page.undo_button.isEnabled()
        qtbot.mouseClick(page.undo_button, Qt.MouseButton.LeftButton)
        assert shelf.records() == before
        assert page.bottle is not None


def test_a_bottle_taken_off_is_put_back(workspace, monkeypatch, qtbot):
    monkeypatch.setattr("lean_sepia.ui.shelf.shelf_page.confirm", lambda *_question: True)
    workspace.open_shelf()
    page, shelf = workspace.shelf_page, workspace.session.shelf
    assert not page.undo_button.isEnabled()
    before = shelf.records()
    page._ask_remove()
    assert len(shelf.records()) == len(before) - 1
    qtbot.mouseClick(page.undo_button, Qt.MouseButton.LeftButton)
    assert shelf.records() == before
    assert not page.undo_button.isEnabled()


def test_what_another_window_writes_is_seen_when_one_turns_back(window, workspace):
    from lean_sepia.shelf.shelf import Shelf

    shelf = workspace.session.shelf
    other = Shelf(shelf.path)
    chalk = other.by_id()["chalk"]
    other.change((chalk, {**chalk, "note": "written there"}))
    other.close()
    told = []
    workspace.session.shelf_changed.connect(lambda: told.append(shelf.by_id()["chalk"]["note"]))
    workspace.session.look_at_shelf()
    workspace.session.look_at_shelf()
    assert told == ["written there"]
