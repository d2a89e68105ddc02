"""Cups, bottles, what the person owns, wear without a photo and the way in by a colour, driven as a hand would."""

import json

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QPushButton

from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.shelf import Shelf, shelf_path_for
from lean_sepia.ui.coats.cups_sheet import CupsSheet
from lean_sepia.ui.coats.keep_dialog import KeepDialog
from lean_sepia.ui.shelf.owned_panel import OwnedPanel
from lean_sepia.ui.shell.starting.colour_dialog import ColourDialog


def pressed(widget, words, qtbot):
    QApplication.processEvents()  # what was filled anew is shown in a turn of its own
    button = next(b for b in widget.findChildren(QPushButton) if b.text() == words and b.isVisibleTo(widget))
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)


def test_a_mix_without_a_target_is_made_named_laid_and_poured_away(workspace, qtbot):
    session = workspace.session
    workspace.sheets.cups()
    sheet = workspace.sheets.open
    assert isinstance(sheet, CupsSheet)
    before = len(session.project.recipes)
    sheet.of.setText("no such thing + 1 sand")
    sheet.make()
    assert sheet._fault.text()
    sheet.name.setText("Road dust")
    sheet.of.setText("2 sand + 1 sepia")
    qtbot.keyClick(sheet.of, Qt.Key.Key_Return)
    made = session.project.recipes[-1]
    assert (made.name, made.kept, len(session.project.recipes)) == ("Road dust", True, before + 1)
    sheet.open_cup(made.id)
    pressed(sheet, "Lay a coat of it…", qtbot)
    lay = workspace.sheets.open
    assert lay.lines.of.text() == "from the cup “Road dust”"
    lay.lay()
    assert any(coat.recipe == made.id for coat in session.project.coats)
    workspace.sheets.cups()
    sheet = workspace.sheets.open
    said = []
    session.refused.connect(said.append)
    sheet.open_cup(made.id)
    pressed(sheet, "Pour away", qtbot)
    assert "is used" in said[-1]
    session.undo()
    sheet.open_cup(made.id)
    pressed(sheet, "Pour away", qtbot)
    assert len(session.project.recipes) == before


def test_the_menu_opens_the_cups(window, workspace):
    window.menu.entries["cups"].trigger()
    assert isinstance(workspace.sheets.open, CupsSheet)
    workspace.open_shelf()
    assert workspace.sheets.open is None


def test_a_bottle_is_written_changed_doubled_and_retired(workspace, qtbot):
    workspace.open_shelf()
    page, shelf = workspace.shelf_page, workspace.session.shelf
    page.add_bottle()
    sheet = page.sheets.open
    sheet.keep()
    assert "needs a name" in sheet._fault.text()
    sheet.name.setText("Quay green")
    sheet.colour.setText("#3f6f5a")
    sheet.note.setText("curdles with tap water")
    sheet.left_ml.setValue(3.5)
    sheet.keep()
    record = shelf.by_id()["quay-green"]
    assert (record["stock_ml"], record["note"]) == (3.5, "curdles with tap water")
    page.search.setText("curdles")
    assert page.bottle.name.text() == "Quay green"
    assert "That is low" in page.bottle.facts.text()
    page.change_bottle()
    page.sheets.open.finish.setCurrentIndex(page.sheets.open.finish.findData("gloss"))
    page.sheets.open.keep()
    assert shelf.by_id()["quay-green"]["lab"] == record["lab"]
    assert shelf.by_id()["quay-green"]["finish"] == "gloss"
    page.duplicate_bottle()
    assert "quay-green-2" in shelf.by_id()
    page.sheets.open.left.emit()
    page.search.setText("quay green")
    page.list.current = 0
    page.retire_bottle()
    assert "quay-green" not in {paint.id for paint in shelf.paints()} or "quay-green-2" not in {
        paint.id for paint in shelf.paints()
    }
    assert page.bottle.retire.text() == "Take back"
    page.retire_bottle()
    assert {"quay-green", "quay-green-2"} <= {paint.id for paint in shelf.paints()}
    page.search.setText("nothing of the kind")
    assert page.bottle.name.text() == "Nothing found"


def test_what_the_person_owns_rules_what_is_offered(workspace, window, qtbot, tmp_path):
    workspace.open_shelf()
    boxes = workspace.shelf_page.findChild(OwnedPanel).boxes
    boxes["airbrush"].click()
    assert not workspace.session.project.owns.airbrush
    workspace.open_room("match")
    workspace.sheets.lay("tone")
    tools = workspace.sheets.open.lines.tool
    assert tools.currentData() == "brush"
    assert "(you have none)" in tools.itemText(tools.findData("airbrush"))
    workspace.session.undo()
    assert boxes["airbrush"].isChecked()
    workspace.session.redo()
    window.close_project()
    assert window.starting.new_project("Next")
    assert not window.workspace.session.project.owns.airbrush


def test_wear_without_a_photo_is_chosen_and_laid(window, demo, qtbot):
    window.open_project(demo.bus)
    workspace = window.workspace
    workspace.open_room("wear")
    room = workspace.rooms["wear"]
    assert room.plan.isVisible()
    assert not room.photo.isVisible()
    rows = room.plan.rows
    rows.add_kind.choose("wood")
    rows.add_kind.activated.emit(rows.add_kind.currentIndex())
    zone = workspace.session.project.zone(workspace.session.zone)
    assert [(one.kind, one.share) for one in zone.wear.kinds] == [("wood", 0.04)]
    pressed(room, "Lay this wear", qtbot)
    coats = workspace.session.project.coats_of(workspace.session.zone)
    assert [one.area_share for one in coats if one.name == "Bare wood"] == [0.04]
    assert "Bare wood" in " ".join(b.name for b in workspace.session.cut(workspace.session.zone).bands)
    workspace.open_room("tone")
    assert workspace.rooms["tone"].answer is not None


def test_a_keep_is_learnt_and_the_bottle_remembers_it(workspace, qtbot):
    dialog = KeepDialog()
    qtbot.addWidget(dialog)
    assert dialog.keep is None
    for field, text in ((dialog.ground, "40, 0, 0"), (dialog.before, "60, 0, 0"), (dialog.after, "60, 0, 0")):
        field.setText(text)
    assert dialog.keep == pytest.approx(1.0)
    dialog.after.setText("green")
    assert dialog.keep is None
    workspace.sheets.lay("powder")
    lines = workspace.sheets.open.lines
    lines.of.setText("Pigment quay dust")
    assert lines.keep.isVisible()
    lines.remember_keep(0.34)
    assert workspace.session.shelf.by_id()["pigment-quay-dust"]["keep"] == 0.34
    assert lines.draft().keep == pytest.approx(0.34)


def test_starting_from_a_colour_begins_with_a_search_of_the_shelf(window, demo, qtbot, monkeypatch):
    own = Shelf(shelf_path_for(None))
    records = json.loads(demo.shelf_file.read_text())["paints"]
    own.add(ShelfContent(tuple(records[:20])))
    paints = own.paints()
    own.close()
    dialog = ColourDialog(paints, window)
    names = [b.text() for b in dialog.findChildren(QPushButton) if b.property("kind") == "link"]
    assert len(names) == 8
    dialog.text.setText("ochre")
    dialog.show()
    pressed(dialog, "Ochre", qtbot)
    assert dialog.result() == 1

    def chosen(asked):
        asked.text.setText("Ochre")
        return True

    monkeypatch.setattr("lean_sepia.ui.shell.starting.colour_dialog.ColourDialog.exec", chosen)
    window.starting.from_colour()
    (known,) = window.workspace.session.project.zones[0].stated
    assert known.origin == "the colour of Ochre"
    dialog.close()


def test_the_second_demo_opens_from_the_menu(window, demo, monkeypatch):
    monkeypatch.setattr("lean_sepia.demo.folder.ensure_demo", lambda progress: demo)
    window.menu.entries["bus"].trigger()
    assert window.workspace.session.project.title == "Harbour bus no. 3"
    assert "second livery" in window.workspace.top_bar._title.text()
