"""A new bottle: what it is, how it covers, in how many coats it hides."""

import pytest

from lean_sepia.paint.film import thickness_to_hide
from lean_sepia.ui.shelf.bottle_sheet import BottleSheet


@pytest.fixture
def sheet(workspace, qtbot):
    answer = BottleSheet(workspace.session, None)
    qtbot.addWidget(answer)
    return answer


def shelf_paint(workspace, name):
    return next(paint for paint in workspace.session.shelf.paints() if paint.name == name)


def test_a_varnish_needs_no_colour(sheet, workspace):
    sheet.use.choose("varnish")
    assert sheet.body_of.value == "clear"
    assert not sheet.colour.isVisibleTo(sheet)
    sheet.name.setText("Clear satin")
    sheet.finish.setCurrentIndex(sheet.finish.findData("satin"))
    sheet.keep()
    paint = shelf_paint(workspace, "Clear satin")
    assert paint.clear
    assert paint.use == "varnish"
    assert not paint.proposed


def test_coats_are_counted_neat_or_sprayed(sheet, workspace):
    sheet.name.setText("Sea mist")
    sheet.colour.setText("#9fb3a6")
    assert "2 coats brushed neat" in sheet._taken.text()  # what is taken where nobody knows
    sheet.hides.setValue(5)
    sheet.counted.choose(2.5)  # five sprayed make two neat
    assert sheet._taken.text() == ""
    sheet.keep()
    assert workspace.session.shelf.by_id()["sea-mist"]["opaque_coats"] == 2
    sheet.counted.choose(1.0)
    assert thickness_to_hide(shelf_paint(workspace, "Sea mist")) == pytest.approx(2, rel=0.03)


def test_a_paint_still_needs_a_colour(sheet, workspace):
    sheet.name.setText("Nothing yet")
    sheet.keep()
    assert "needs a colour" in sheet._fault.text()
    assert "nothing-yet" not in workspace.session.shelf.by_id()


def test_what_was_written_comes_back_when_it_is_changed(sheet, workspace, qtbot):
    sheet.use.choose("primer")
    sheet.body_of.choose("opaque")
    sheet.name.setText("Wharf primer")
    sheet.colour.setText("#8f9291")
    sheet.keep()
    again = BottleSheet(workspace.session, workspace.session.shelf.by_id()["wharf-primer"])
    qtbot.addWidget(again)
    assert (again.use.value, again.body_of.value, again.hides.value()) == ("primer", "opaque", 0)
    again.use.choose("paint")
    again.keep()
    record = workspace.session.shelf.by_id()["wharf-primer"]
    assert "use" not in record
    assert record["body"] == "opaque"
