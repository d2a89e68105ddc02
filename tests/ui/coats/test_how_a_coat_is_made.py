"""Lettering printed or painted, bottles thinned as they are sold, varnish from the shelf: on the sheet as hands write it."""

import pytest

from lean_sepia.answers.bench import laying_words
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


def test_specks_are_as_broad_as_was_said(sheet, workspace):
    one = sheet("chips")
    lines = one.lines
    assert not lines.speck.isVisibleTo(one)
    lines.of.setText("chalk")
    lines.tool.choose("flick")
    assert lines.speck.isVisibleTo(one)
    lines.speck.setValue(0.6)
    one.lay()
    coat = next(c for c in workspace.session.project.coats_of("hull") if c.tool == "flick")
    assert coat.speck_mm == 0.6
    assert "specks of about 0.6 mm" in laying_words(workspace.session.project, coat)
    again = LaySheet(workspace.session, "hull", coat=coat.id)
    workspace.sheets.show(again)
    assert again.lines.draft().speck_mm == 0.6
    again.lines.tool.choose("sponge")
    assert again.lines.draft().speck_mm is None


def test_what_a_coat_was_wiped_by_is_kept_by_its_sheet(workspace):
    from lean_sepia.document.edits.coats import lay
    from lean_sepia.document.edits.mixes import Manner, Mix

    session = workspace.session
    oil = Mix(lab=(70.0, 4.0, 20.0), medium="oil")
    session.edit("Veil", lambda p: lay(p, ["hull"], "fade", oil, Manner(1, 0.0, "glaze", wiped=0.6))[0])
    veil = next(coat for coat in session.project.coats_of("hull") if coat.wiped)
    sheet = LaySheet(session, "hull", coat=veil.id)
    workspace.sheets.show(sheet)
    sheet.lines.called.setText("Chalky veil")
    sheet.lay()
    assert session.project.coat(veil.id).name == "Chalky veil"
    assert session.project.coat(veil.id).wiped == 0.6


def test_on_the_sheet_stands_what_it_works_on_where_there_is_a_choice(sheet, workspace):
    from lean_sepia.document.edits.coats import lay
    from lean_sepia.document.edits.mixes import Manner, Mix
    from lean_sepia.document.serving import served

    session, wash = workspace.session, Mix(lab=(25.0, 4.0, 10.0), medium="oil")
    for _time in range(2):
        session.edit("Wash", lambda p: lay(p, ["hull"], "wash", wash, Manner(1, 0.9, "flood"))[0])
    first, second = (coat.step for coat in session.project.coats_of("hull") if coat.kind == "wash")
    one = sheet("wipe-back")
    named = [one.lines.works_on.itemData(row) for row in range(one.lines.works_on.count())]
    assert {None, first, second} <= set(named)
    one.lines.works_on.choose(first)
    one.lay()
    wipe = next(step for step in session.project.steps if step.kind == "wipe-back")
    assert served(session.project, wipe) == (first,)
