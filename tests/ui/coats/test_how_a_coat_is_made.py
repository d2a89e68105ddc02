"""Lettering printed or painted, bottles thinned as they are sold, varnish from the shelf: on the sheet as hands write it."""

import pytest

from lean_sepia.shelf.content import ShelfContent
from lean_sepia.ui.coats.lay_sheet import LaySheet


@pytest.fixture
def sheet(workspace):
    """A function that opens the sheet for a kind on the hull."""
    shelf = workspace.session.shelf
    shelf.add(ShelfContent((
        {"id": "bilge", "name": "Bilge wash", "medium": "enamel", "finish": "satin", "lab": [26, 4, 9], "use": "wash"},
        {"id": "vmatt", "name": "Matt clear", "medium": "acrylic-water", "finish": "flat", "use": "varnish", "body": "clear"},
    )))  # fmt: skip

    def opened(kind):
        made = LaySheet(workspace.session, "hull", kind=kind)
        workspace.sheets.show(made)
        return made

    return opened


def test_lettering_is_printed_until_it_is_said_to_be_painted(sheet, workspace):
    one = sheet("marking")
    lines = one.lines
    assert lines.printed.value == "ink"
    assert not lines.thinned.isVisibleTo(one)
    lines.of.setText("#d9a62e")
    one.ask_now()
    assert "It does not read" in one.remark.text()
    through = one.found.then
    lines.printed.choose("white")
    one.ask_now()
    assert one.found.then[0] > through[0] + 20
    lines.printed.choose(None)
    lines.of.setText("chalk")
    assert lines.thinned.isVisibleTo(one)
    one.lay()
    coat = next(c for c in workspace.session.project.coats if c.kind == "marking" and c.recipe)
    assert (coat.printed, coat.tool) == (None, "brush")


def test_what_is_named_is_thinned_as_it_is_sold_until_another_thinning_is_written(sheet):
    lines = sheet("pin-wash").lines
    assert lines.thinned.text() == "1:10"
    lines.of.setText("Bilge wash")
    assert lines.thinned.text() == ""
    lines.of.setText("Oil raw umber")
    assert lines.thinned.text() == "1:10"
    lines.thinned.setText("1:8")
    lines.of.setText("Bilge wash")
    assert lines.thinned.text() == "1:8"


def test_a_varnish_takes_the_bottle_of_its_sheen(sheet, workspace):
    one = sheet("matte-coat")
    one.ask_now()
    assert "Matt clear" in one._notes.text()
    one.lay()
    project = workspace.session.project
    coat = next(c for c in reversed(project.coats) if c.kind == "matte-coat" and c.recipe)
    assert project.paint(project.recipe(coat.recipe).parts[0][0]).name == "Matt clear"
