"""The sheets beside the column, driven as a hand would: laying, changing, copying, zones, surfaces."""

import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtWidgets import QApplication, QMenu

from lean_sepia.answers.strata import strata_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.ui.coats.lay_sheet import LaySheet
from lean_sepia.ui.coats.surface_sheet import SurfaceSheet
from lean_sepia.ui.coats.zone_sheet import ZoneSheet
from lean_sepia.ui.coats.zones_sheet import ZonesSheet
from lean_sepia.ui.shell.strata.core import Core


@pytest.fixture
def core(workspace):
    return workspace.column.findChild(Core)


@pytest.fixture
def sheet(workspace, qtbot):
    """A function that returns the open sheet once its answer is there."""

    def opened():
        found = workspace.sheets.open
        qtbot.waitUntil(lambda: not hasattr(found, "_timer") or not found._timer.isActive())
        return found

    return opened


def names(workspace, zone="hull"):
    return [band.name for band in workspace.session.cut(zone).bands]


def test_a_hairline_opens_the_sheet_there_and_the_coat_comes_to_lie_there(workspace, core, sheet, qtbot):
    before = names(workspace)
    edge = core._rects()[before.index("Filter")].top()
    qtbot.mouseClick(core, Qt.MouseButton.LeftButton, pos=QPoint(core.width() - 20, int(edge) + 1))
    open_sheet = sheet()
    assert isinstance(open_sheet, LaySheet)
    assert open_sheet.caption.text() == "ABOVE FILTER, UNDER RUST CHIPS"
    index = open_sheet.lines.kind.findData("filter")
    open_sheet.lines.kind.setCurrentIndex(index)
    open_sheet.lines.of.setText("3 sand + 1 ochre")
    found = sheet().found
    assert found.then is not None
    assert open_sheet.statement.text().endswith(".")
    qtbot.mouseClick(open_sheet.lay_button, Qt.MouseButton.LeftButton)
    after = names(workspace)
    assert after.index("Filter") + 1 == len(before[: before.index("Filter")]) + 1
    assert len(after) == len(before) + 1
    assert workspace.sheets.open is None
    assert workspace.session.cut("hull").seen == pytest.approx(found.seen[1], abs=1e-6)
    workspace.session.undo()
    assert names(workspace) == before


def test_what_cannot_be_read_is_said_on_the_sheet_and_nothing_is_laid(workspace, sheet):
    before = workspace.session.project
    workspace.sheets.lay("base")
    open_sheet = sheet()
    open_sheet.lines.of.setText("no such bottle")
    assert "no paint on this shelf" in sheet().remark.text()
    assert not open_sheet.lay_button.isEnabled()
    open_sheet.lay()
    assert workspace.session.project is before


def test_a_double_click_changes_a_coat_in_its_place(workspace, core, sheet, qtbot):
    before = names(workspace)
    spot = core._rects()[before.index("Filter")].center().toPoint()
    qtbot.mouseDClick(core, Qt.MouseButton.LeftButton, pos=QPoint(20, spot.y()))
    open_sheet = sheet()
    (laid,) = [coat for coat in workspace.session.project.coats_of("hull") if coat.kind == "filter"]
    mixed = [name for name, _parts in workspace.session.project.recipe(laid.recipe).parts]
    named = [paint.name for name in mixed for paint in workspace.session.project.paints if paint.id == name]
    assert open_sheet.lines.of.text() == " + ".join(f"1 {name}" for name in named)
    open_sheet.lines.passes.setValue(3)
    sheet()
    qtbot.keyClick(open_sheet.lines.of, Qt.Key.Key_Return)
    coat = next(coat for coat in workspace.session.project.coats_of("hull") if coat.kind == "filter")
    assert coat.passes == 3
    assert names(workspace) == before


def test_a_bands_menu_changes_copies_and_lays(workspace, core, sheet, qtbot):
    spot = core._rects()[names(workspace).index("Filter")].center().toPoint()
    qtbot.mouseClick(core, Qt.MouseButton.RightButton, pos=QPoint(20, spot.y()))
    menu = core.findChild(QMenu)
    assert [action.text() for action in menu.actions()][:3] == [
        "Change this coat…",
        "Lay a coat on it…",
        "Lay it on other zones too…",
    ]
    menu.actions()[0].trigger()
    assert workspace.sheets.open.title.text().startswith("Change Filter")
    menu.close()
    coat = next(coat for coat in workspace.session.project.coats_of("hull") if coat.kind == "filter")
    workspace.column.copy_to(coat.id, "house")
    assert "Filter" in names(workspace, "house")
    copied = next(c for c in workspace.session.project.coats_of("house") if c.kind == "filter")
    assert (copied.step, copied.recipe) == (coat.step, coat.recipe)


def test_keys_open_the_sheet_and_escape_puts_it_away(workspace, core, sheet, qtbot):
    qtbot.keyClick(core, Qt.Key.Key_Insert)
    assert isinstance(sheet(), LaySheet)
    qtbot.keyClick(workspace.sheets.open, Qt.Key.Key_Escape)
    assert workspace.sheets.open is None
    qtbot.keyClick(core, Qt.Key.Key_F2)
    assert workspace.sheets.open.title.text().startswith("Change")
    workspace.session.choose_zone("house")
    assert workspace.sheets.open is None


def test_powder_has_how_heavy_it_is_in_words(workspace, sheet):
    workspace.sheets.lay("powder")
    open_sheet = sheet()
    open_sheet.lines.of.setText("quay dust")
    lines = open_sheet.lines
    assert lines.heavy.isVisible()
    assert not lines.thinned.isVisible()
    lines.heavy.setCurrentIndex(lines.heavy.findData("veil"))
    assert lines.share.value() == 8
    lines.share.setValue(33)
    assert lines.heavy.currentData() is None


def test_scraping_names_the_coats_it_can_go_down_to(workspace, sheet):
    workspace.sheets.lay("scrape")
    lines = sheet().lines
    offered = [lines.down_to.itemText(index) for index in range(lines.down_to.count())]
    assert offered[0] == "the lowest"
    assert "Base colour" in offered
    lines.down_to.setCurrentIndex(offered.index("Primer"))
    lines.share.setValue(10)
    found = sheet().found
    primer = workspace.session.cut("hull").bands[0].lab
    assert found.then == pytest.approx(primer, abs=2.0)


def test_other_zones_get_it_in_the_same_step(workspace, sheet):
    workspace.sheets.lay("wash")
    open_sheet = sheet()
    open_sheet.lines.of.setText("oil raw umber")
    open_sheet.also_on("boot", True)
    open_sheet.also_on("house", True)
    open_sheet.also_on("house", False)
    assert open_sheet.lay_button.text() == "Lay it on 2 zones"
    sheet().lay()
    washes = [coat for coat in workspace.session.project.coats if coat.kind == "wash"]
    assert sorted(coat.zone for coat in washes) == ["boot", "hull"]
    assert len({coat.step for coat in washes}) == 1


def test_every_room_leads_to_the_sheet(workspace, qtbot):
    for room, kind in (("match", "base"), ("tone", "tone"), ("glaze", "filter"), ("wear", "chips")):
        workspace.open_room(room)
        workspace.rooms[room].coat_wanted.emit(kind)
        assert workspace.sheets.open.lines.kind.currentData() == kind


def test_each_of_three_targets_can_be_stated_with_its_range_and_origin(workspace, tmp_path):
    session = workspace.session
    session.choose_zone("gear")
    workspace.sheets.zone()
    open_sheet = workspace.sheets.open
    assert isinstance(open_sheet, ZoneSheet)
    open_sheet.targets["fresh"].text.setText("#4f7a6c")
    open_sheet.targets["exposed"].text.setText("3 sand + 1 ochre")
    open_sheet.ranges["exposed"].setValue(4.0)
    listed = tmp_path / "list.csv"
    listed.write_text("id,name,medium,finish,lab_L,lab_a,lab_b\na,Mole grey,enamel,flat,47,1,6\n")
    open_sheet.read_list(listed)
    open_sheet.targets["seen"].text.setText("mole grey")
    open_sheet.origins["seen"].setText("chip in the drawer")
    open_sheet.keep()
    stated = {known.target: known for known in session.project.zone("gear").stated}
    assert stated["fresh"].lab == pytest.approx((48.0, -18.5, 4.4), abs=2.5)
    assert (stated["fresh"].de00_90, stated["exposed"].de00_90) == (2.0, 4.0)
    assert stated["fresh"].origin == "typed as a screen colour"
    assert stated["seen"].lab == pytest.approx((47, 1, 6), abs=1e-6)
    assert stated["seen"].origin == "chip in the drawer"
    targets = strata_of(session.project, "gear").targets
    assert targets.exposed.source == "stated: mixed: 3 sand + 1 ochre"
    assert targets.seen.de00_90 == 2.0
    workspace.open_room("match")
    assert "no target" not in workspace.rooms["match"]._statement.text()


def test_a_colour_that_means_nothing_stays_on_the_sheet(workspace):
    before = workspace.session.project
    workspace.sheets.zone()
    open_sheet = workspace.sheets.open
    open_sheet.targets["fresh"].text.setText("sea blue-green of my youth")
    open_sheet.keep()
    assert "is no colour, bottle, mix" in open_sheet._fault.text()
    assert workspace.session.project is before
    assert workspace.sheets.open is open_sheet


def test_zones_are_made_in_a_row(workspace, qtbot):
    workspace.sheets.zones()
    open_sheet = workspace.sheets.open
    assert isinstance(open_sheet, ZonesSheet)
    for number, name in enumerate(["Roof", "Door", "Sill"]):
        line, area, colour = open_sheet.lines[number]
        qtbot.keyClicks(line, name)
        area.setValue(10 * number)
        colour.text.setText("buff" if number == 1 else "")
    assert open_sheet.make.text() == "Make 3 zones"
    open_sheet.add_all()
    made = {zone.name: zone for zone in workspace.session.project.zones[-3:]}
    assert made["Door"].stated[0].origin == "the colour of Buff" or made["Door"].stated
    assert made["Sill"].area_cm2 == 20
    workspace.session.undo()
    assert "Roof" not in {zone.name for zone in workspace.session.project.zones}


def test_a_zone_is_duplicated_mirrored_and_moved(workspace):
    session, column = workspace.session, workspace.column
    column.duplicate("Hull, starboard", mirrored=True)
    project = session.project
    other = project.zone(session.zone)
    assert other.mirrors == "hull"
    assert [zone.id for zone in project.zones][1] == other.id
    assert [c.recipe for c in project.coats_of(other.id)] == [c.recipe for c in project.coats_of("hull")]
    assert [c.step for c in project.coats_of(other.id)] == [c.step for c in project.coats_of("hull")]
    assert session.cut(other.id).targets.fresh.source.startswith("as on Hull")
    workspace.sheets.change(next(c.id for c in project.coats_of(other.id) if c.kind == "base"))
    workspace.sheets.open.lines.of.setText("deep sea")
    workspace.sheets.open.lay()
    assert session.cut(other.id).fresh == pytest.approx(session.cut("hull").fresh, abs=1e-9)
    column._move(1)
    assert [zone.id for zone in session.project.zones][2] == other.id


def test_tones_of_one_surface_say_their_contrast_and_can_be_brought_closer(workspace):
    session = workspace.session
    workspace.sheets.surface()
    open_sheet = workspace.sheets.open
    assert isinstance(open_sheet, SurfaceSheet)
    open_sheet.chosen["house"].setChecked(True)
    open_sheet.shares["hull"].setValue(70)
    open_sheet.shares["house"].setValue(20)
    said = []
    session.refused.connect(said.append)
    open_sheet.keep()
    assert "found 90.0 %" in said[-1]
    open_sheet.shares["house"].setValue(30)
    open_sheet.keep()
    surface = session.project.zone("hull").surface
    assert surface == session.project.zone("house").surface
    workspace.sheets.surface()
    open_sheet = workspace.sheets.open
    words = " ".join(child.text() for child in open_sheet.findChildren(type(open_sheet.title)))
    for when in ("in the photo", "as painted", "as left"):
        assert when in words
    open_sheet.wanted.setValue(12.0)
    open_sheet.into.setCurrentIndex(open_sheet.into.findData("house"))
    open_sheet.other.setCurrentIndex(open_sheet.other.findData("hull"))
    open_sheet.stir_in()
    hull, house = session.cut("hull").fresh, session.cut("house").fresh
    assert float(delta_e00(hull, house)) == pytest.approx(12.0, abs=4.0)
    open_sheet.take_apart()
    assert session.project.surfaces == ()


def test_a_sheet_that_is_gone_is_not_called_any_more(workspace, mistakes):
    for opened in (lambda: workspace.sheets.lay("wash"), workspace.sheets.zone, workspace.sheets.cups):
        opened()
        workspace.sheets.close()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        workspace.session.choose_zone("house")
        workspace.session.choose_zone("hull")
        workspace.session.undo()
        workspace.session.edit("", lambda p: p.model_copy(update={"title": p.title + "."}))
    assert mistakes == []
