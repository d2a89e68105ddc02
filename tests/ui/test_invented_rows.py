"""A kind and a medium that nobody has, in the window: pages, lists and sheets are made from the tables."""

import sys
from types import ModuleType

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QLabel
from tests.invented.rows import INK, INK_RECORD, VEIL, ink, veil

from lean_sepia.answers.rooms.room import RoomNature, RoomState
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.paint.media import MEDIA
from lean_sepia.plan.kinds import KINDS
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.ui.kit.panel import label
from lean_sepia.ui.plan.step_sheet import StepSheet
from lean_sepia.ui.shell.room import RoomPage


@pytest.fixture
def opened(monkeypatch, window, demo):
    """The demo with both rows in their tables and a bottle of the ink on the shelf."""
    monkeypatch.setitem(MEDIA, INK, ink())
    monkeypatch.setitem(KINDS, VEIL, veil())
    assert window.open_project(demo.worked)
    space = window.workspace
    space.session.shelf.add(ShelfContent((INK_RECORD,)))
    space.session.choose_zone("hull")
    return space


def test_glaze_has_a_page_for_it_that_lays_it(opened):
    opened.open_room("glaze")
    room = opened.rooms["glaze"]
    assert room.kinds[VEIL].text() == "Ink veil"
    room.open_page(VEIL)
    page = room.pages[VEIL]
    page.own.setText("Sepia ink")
    page.own.editingFinished.emit()
    assert "Sepia ink" in room._statement.text()
    page.lay_chosen()
    laid = [coat for coat in opened.session.project.coats_of("hull") if coat.kind == VEIL]
    assert [coat.nature.title for coat in laid] == ["Ink veil"]
    assert room.filters.kind == "filter"  # the page of filters goes on laying filters


def test_a_band_of_it_opens_its_room_and_the_sheet_offers_it(opened):
    opened.sheets.lay(VEIL)
    lines = opened.sheets.open.lines
    assert lines.kind.currentData() == VEIL
    lines.of.setText("Sepia ink")
    lines.of.editingFinished.emit()
    opened.sheets.open.lay()
    coat = next(coat for coat in opened.session.project.coats_of("hull") if coat.kind == VEIL)
    core = opened.column._core
    index = [band.coat.id for band in core._bands()].index(coat.id)
    core._open(index)
    assert opened.room == "glaze"


def test_plan_and_bench_list_it(opened):
    opened.open_room("plan")
    room = opened.rooms["plan"]
    room.kind.choose(VEIL)
    room.add_step()
    step = next(step for step in opened.session.project.steps if step.kind == VEIL)
    sheet = StepSheet(opened.session, step.id)
    media = [sheet.medium.itemText(row) for row in range(sheet.medium.count())]
    assert "drawing ink" in media
    assert sheet.kind.value == VEIL
    sheet.deleteLater()
    opened.open_room("bench")
    bench = opened.rooms["bench"]
    bench.turn([one.step.kind for one in bench.steps].index(VEIL) - bench.index)
    words = [child.text() for child in bench.findChildren(QLabel)]
    assert "Rinse the pen." in words
    assert "Shake the ink." in words


class StorePage(RoomPage):
    """A room with nothing in it but its name."""

    def __init__(self, session):
        super().__init__(session)
        self.centre.addWidget(label("what is kept"))

    def refresh(self):
        self.refreshed = True


def test_a_room_is_a_row(monkeypatch, window, demo, qtbot):
    page = ModuleType("lean_sepia.ui.store_room")
    page.StorePage = StorePage
    monkeypatch.setitem(sys.modules, "lean_sepia.ui.store_room", page)
    row = RoomNature(
        title="Store", widget="store_room:StorePage", help="Store: what is kept.",
        state=lambda _seen: RoomState("something", "started"),
    )  # fmt: skip
    monkeypatch.setitem(ROOMS, "store", row)
    assert window.open_project(demo.worked)
    space = window.workspace
    tabs = space.top_bar.tabs
    assert list(tabs._names.values())[-1] == "Store"
    qtbot.mouseClick(tabs, Qt.MouseButton.LeftButton, pos=QPoint(sum(tabs._widths()) - 5, 20))
    assert space.room == "store"
    assert space.rooms["store"].refreshed
    told = []
    monkeypatch.setattr(
        "lean_sepia.ui.shell.workspace.tell", lambda _parent, _title, words: told.append(words)
    )
    space.show_help()
    assert told[0].startswith("Store: what is kept.\n")
    assert "Store, " in tabs.accessibleDescription()
