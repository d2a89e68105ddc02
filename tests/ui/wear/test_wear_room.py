"""Wear: parts traced and measured, the plan made heavier, stop marks printed, corrections by stroke."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel

from lean_sepia.answers.wearing.planning import plan_of
from lean_sepia.answers.wearing.surveying import Ground, Pointed
from lean_sepia.ui.wear.photo_page import _known
from lean_sepia.ui.wear.planning.planned_rows import OWN


@pytest.fixture
def room(workspace):
    workspace.open_room("wear")
    return workspace.rooms["wear"]


@pytest.fixture
def page(room):
    return room.photo


def drag(qtbot, viewer, start, end):
    qtbot.mousePress(viewer, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(viewer, end)
    qtbot.mouseRelease(viewer, Qt.MouseButton.LeftButton, pos=end)


def hull(session):
    return next(region for region in session.project.regions if region.zone == "hull" and region.wear)


def test_wear_measures_a_drawn_box_and_lays_it(room, page, workspace, qtbot, widget_point):
    session = workspace.session
    assert f"{hull(session).wear.coverage_percent:.1f} %" in room._statement.text()
    page.viewer.fit()
    qtbot.keyClick(page.viewer, Qt.Key.Key_R)
    drag(qtbot, page.viewer, widget_point(page.viewer, 500, 642), widget_point(page.viewer, 1100, 686))
    assert page.pointing.corners[0][0] == pytest.approx(500, abs=3)
    assert "Not measured" in room._statement.text()
    qtbot.mouseClick(page.measure_button, Qt.MouseButton.LeftButton)
    region = hull(session)
    assert region.corners[0][0] == pytest.approx(500, abs=3)
    assert region.wear.coverage_percent > 0
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    chips = {coat.name: coat.area_share for coat in session.project.coats_of("hull") if coat.kind == "chips"}
    rust = next(c for c in region.wear.classes if c.name == "rust")
    assert chips["Rust chips"] == pytest.approx(rust.coverage_percent / 100)


def test_a_heavier_plan_is_kept_and_laid(room, page, workspace, qtbot):
    session = workspace.session
    before = {one.kind: one.share for one in room.planned.rows()}
    page.beside.heaviness.slider.setFocus()
    qtbot.keyClick(page.beside.heaviness.slider, Qt.Key.Key_PageUp)
    plan = plan_of(session.project, session.project.zone("hull"))
    assert plan.heaviness == 2
    assert {one.kind: one.share for one in room.planned.rows()} == pytest.approx(
        {k: 2 * v for k, v in before.items()}
    )
    assert not page.beside.pair.grab().isNull()
    session.undo()
    assert page.beside.heaviness.slider.value() == 50


def test_outlines_can_be_hidden_and_a_kind_forgotten(page):
    shown = len(page.viewer._outlines)
    page.pointing.toggle("rust", False)
    assert 0 < len(page.viewer._outlines) < shown
    page.pointing.toggle("rust", True)
    assert len(page.viewer._outlines) == shown
    page.pointing.forget("rust")
    assert "rust" not in page.pointing.kinds


def test_a_stroke_corrects_what_was_taken_for_something_else(page, workspace, qtbot, widget_point):
    session = workspace.session
    rust = next(one for one in hull(session).wear.classes if one.name == "rust").coverage_percent
    page.pointing.kind.choose("")
    page.pointing.viewer.radius = 12
    page.pointing._outlined("brush", [(600, 650), (1000, 650), (1000, 675), (600, 675)])
    page.measure()
    record = hull(session).wear
    assert len(record.strokes) == 1
    assert next(one for one in record.classes if one.name == "rust").coverage_percent < rust


def test_the_ground_can_be_pointed_at_and_is_kept(page, workspace, qtbot, widget_point):
    page.pointing.kind.choose("")
    page.pointing._placed("sample", 700, 660, 3)
    page.measure()
    record = hull(workspace.session).wear
    assert record.ground_spot == (700, 660, 3)


def test_without_a_length_there_are_shares_only(room, page, workspace):
    page.pointing.mm.setValue(0)
    page.measure()
    record = hull(workspace.session).wear
    assert record.mm_per_px is None
    assert all(one.median_mm is None for one in record.classes)
    assert "No length" in room._remark.text()


def test_before_a_kind_is_pointed_at_nothing_is_claimed(room, page, workspace):
    workspace.session.choose_zone("house")
    assert "Not measured" in room._statement.text()
    assert not page.beside.isVisibleTo(room)
    assert not room.lay.isEnabled()


def test_kinds_are_proposed_renamed_and_named_freely(page, monkeypatch):
    page.pointing.kinds = {}
    page.propose()
    assert "rust" in page.pointing.kinds
    others = [name for name in page.pointing.kinds if name != "rust"]
    spot = page.pointing.kinds["rust"].spot
    page.pointing.rename("rust", "soot")
    assert page.pointing.kinds["soot"].spot == spot
    monkeypatch.setattr("lean_sepia.ui.wear.pointing.ask_text", lambda *_given: "lichen")
    page.pointing.rename("soot", OWN)
    assert page.pointing.kinds["lichen"].name == "lichen"
    assert set(page.pointing.kinds) == {"lichen", *others}
    assert "lichen" in [page.pointing.kind.itemText(i) for i in range(page.pointing.kind.count())]
    page.measure()
    page.refresh()
    assert "lichen" in {one.name for one in hull(page.session).wear.classes}


def test_a_second_photo_is_measured_beside_the_first(page, workspace):
    session = workspace.session
    first = hull(session)
    photos = [one.id for one in page.photos() if one.id != first.photo]
    page.pointing.photos.choose(photos[0])
    page.pointing.photos.activated.emit(1)
    assert page.pointing.corners == ()
    page.pointing._traced([(500, 640), (700, 640), (700, 690), (500, 690)])
    page.pointing.ground = Ground((45, -14, -6), (520, 650, 3))
    page.pointing.kinds = {"rust": Pointed("rust", (34, 17, 16))}
    page.measure()
    assert len([r for r in session.project.regions if r.zone == "hull" and r.wear]) == 2
    page.pointing.photos.choose(first.photo)
    page.pointing.photos.activated.emit(0)
    lines = [one.text() for one in page._all_panel.findChildren(QLabel)]
    assert any(session.project.photo(photos[0]).title in text for text in lines)
    assert plan_of(session.project, session.project.zone("hull")).kinds[0].share == pytest.approx(
        first.wear.classes[0].coverage_percent / 100
    )


def test_what_cannot_be_seen_is_handed_on_as_a_filter(page, workspace):
    page._tint = (1.0, 3.0, 4.0)
    page._hand_to_glaze()
    lines = workspace.sheets.open.lines
    assert lines.of.text()
    assert "1:" in lines.thinned.text()


def test_a_long_measurement_can_be_followed(page, monkeypatch):
    seen = []
    page.followed.connect(lambda job, words: seen.append(words))
    monkeypatch.setattr(type(page.session.jobs), "idle", False)
    _known.clear()
    page.measure(store=False)
    assert seen == ["Measuring the wear"]


def test_a_part_that_is_gone_is_not_looked_for(page):
    scale = page.viewer._scale
    page.pointing.corners = ()
    page.pointing.look_at_region()  # called late, after the part was taken away
    assert page.viewer._scale == scale
