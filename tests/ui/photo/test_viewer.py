"""The photo viewer: samples by hand and key, polygons, strokes, zoom, marks."""

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtWidgets import QPushButton

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.model import AnchorMark
from lean_sepia.photo.patch import disc_patch
from lean_sepia.ui.photo.loupe import held_words


def test_evidence_samples_where_it_is_clicked(untouched, demo, qtbot, widget_point):
    room = untouched.rooms["evidence"]
    session = untouched.session
    room.edits.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Locker"))
    session.choose_zone("funnel")
    room.samples.radius.setValue(9)
    qtbot.keyClick(room.viewer, Qt.Key.Key_S)
    assert room.viewer.tool == "sample"
    qtbot.mouseClick(room.viewer, Qt.MouseButton.LeftButton, pos=widget_point(room.viewer, 836, 372))
    (sample,) = session.project.samples
    assert (sample.zone, sample.role, sample.radius) == ("funnel", "base", 9)
    assert abs(sample.x - 836) < 2
    truth = demo.truth["labs"]["funnel"]["exposed"]
    assert float(delta_e00(sample.lab, truth)) <= sample.de00_90
    qtbot.keyClick(room.viewer, Qt.Key.Key_Escape)
    assert room.viewer.tool == "look"
    session.undo()
    assert session.project.samples == ()


def test_evidence_works_without_a_mouse(untouched, qtbot):
    room = untouched.rooms["evidence"]
    untouched.session.choose_zone("hull")
    qtbot.keyClick(room.viewer, Qt.Key.Key_S)
    for _ in range(3):
        qtbot.keyClick(room.viewer, Qt.Key.Key_Down)
    qtbot.keyClick(room.viewer, Qt.Key.Key_Return)
    assert len(untouched.session.project.samples) == 1


def test_loupe_shows_the_corrected_colour(workspace, qtbot, widget_point):
    room = workspace.rooms["evidence"]
    qtbot.mouseMove(room.viewer, widget_point(room.viewer, 560, 606))
    room._hover(560, 606)
    assert room._loupe.isVisible()
    assert "blue-green" in room._loupe._name.text() or "green" in room._loupe._name.text()
    assert "9 times in 10" in room._loupe._within.text()
    assert "kept" in room._loupe._held.text()
    assert room._loupe.x() > 200
    far = room.viewer.to_picture(QPointF(room.viewer.width() - 40, room.viewer.height() - 40))
    room._hover(far.x(), far.y())
    assert room._loupe.x() < 20
    assert not room._loupe.grab().isNull()


def test_what_a_disc_holds_is_told():
    assert held_words((0.82, 0.1, 0.08, 0.03)) == "kept 82 %, highlights 10 %, specks 8 %, clipped 3 %"
    assert held_words((1.0, 0.0, 0.0, 0.0)) == "kept 100 %"
    pixels = np.full((30, 30, 3), 90, np.uint8)
    pixels[10:12, 10:20], pixels[18, 12:18] = 180, (20, 90, 90)
    kept, bright, specks, clipped = disc_patch(pixels, 15, 15, 8).held
    assert kept > 0.8
    assert bright > 2 * specks > 0
    assert kept + bright + specks == pytest.approx(1)
    assert clipped == 0


def test_viewer_zooms_and_pans(workspace, qtbot):
    viewer = workspace.rooms["evidence"].viewer
    before = viewer.to_picture(QPointF(200, 150))
    viewer.zoom(2.0, QPointF(200, 150))
    assert viewer.to_picture(QPointF(200, 150)).x() == pytest.approx(before.x(), abs=0.01)
    qtbot.keyClick(viewer, Qt.Key.Key_0)
    qtbot.mousePress(viewer, Qt.MouseButton.LeftButton, pos=QPoint(200, 150))
    qtbot.mouseMove(viewer, QPoint(240, 170))
    qtbot.mouseRelease(viewer, Qt.MouseButton.LeftButton, pos=QPoint(240, 170))
    assert viewer.to_picture(QPointF(240, 170)).x() == pytest.approx(before.x(), abs=1.5)
    qtbot.keyClick(viewer, Qt.Key.Key_0)
    assert viewer._fitted


def test_a_polygon_is_drawn_corner_by_corner_and_closed_on_its_first(untouched, qtbot, widget_point):
    room = untouched.rooms["evidence"]
    untouched.session.choose_zone("house")
    room.samples.tools.buttons["polygon"].click()
    assert room.viewer.tool == "polygon"
    for x, y in ((600, 505), (700, 505), (700, 540), (600, 540), (600, 505)):
        qtbot.mouseClick(room.viewer, Qt.MouseButton.LeftButton, pos=widget_point(room.viewer, x, y))
    (sample,) = untouched.session.project.samples
    assert sample.shape == "polygon"
    assert len(sample.path) == 4
    assert sample.pixels > 2000
    untouched.session.undo()
    assert untouched.session.project.samples == ()


def test_a_brush_stroke_is_one_sample(untouched, qtbot, widget_point):
    room = untouched.rooms["evidence"]
    untouched.session.choose_zone("house")
    room.samples.tools.buttons["brush"].click()
    start, end = widget_point(room.viewer, 600, 520), widget_point(room.viewer, 700, 520)
    qtbot.mousePress(room.viewer, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(room.viewer, (start + end) / 2)
    qtbot.mouseMove(room.viewer, end)
    qtbot.mouseRelease(room.viewer, Qt.MouseButton.LeftButton, pos=end)
    (sample,) = untouched.session.project.samples
    assert sample.shape == "brush"
    assert sample.pixels > 150


def test_escape_drops_a_polygon_that_is_not_closed(untouched, qtbot, widget_point):
    room = untouched.rooms["evidence"]
    room.viewer.set_tool("polygon")
    qtbot.mouseClick(room.viewer, Qt.MouseButton.LeftButton, pos=widget_point(room.viewer, 600, 505))
    qtbot.keyClick(room.viewer, Qt.Key.Key_Escape)
    assert room.viewer.tool == "polygon"
    qtbot.keyClick(room.viewer, Qt.Key.Key_Escape)
    assert room.viewer.tool == "look"
    assert untouched.session.project.samples == ()


def test_clipped_pixels_are_striped_and_left_out_ones_dotted(workspace):
    room = workspace.rooms["evidence"]
    plain = room.viewer.grab().toImage()
    room.clipped.setChecked(True)
    assert room.viewer.show_clipped
    room.clipped.setChecked(False)
    assert room.viewer.grab().toImage() == plain
    sample = next(s for s in workspace.session.project.samples if s.photo == "f1")
    room.samples.looked_at.emit(sample)
    assert room.viewer._left_out is not None
    room.viewer.set_tool("look")
    assert room.viewer._left_out is None


def test_a_known_length_gives_the_scale(workspace, qtbot, monkeypatch):
    workspace.open_room("wear")
    room = workspace.rooms["wear"].photo
    asked = []
    monkeypatch.setattr(
        "lean_sepia.ui.wear.pointing.ask_number",
        lambda *given, **more: asked.append((given, more)) or 12_000.0,
    )
    next(b for b in room.pointing.findChildren(QPushButton) if b.text() == "Known length").click()
    assert room.viewer.tool == "length"
    room.viewer.length_drawn.emit(100.0, 600.0, 500.0, 900.0)
    assert room.pointing.mm.value() == pytest.approx(24.0)
    assert room.viewer.mm_per_px == pytest.approx(24.0)
    assert room.viewer.tool == "look"
    room.pointing.set_length((5, 5), (5, 5), 100)
    assert "known length" in workspace.advice._text.text()
    assert room.pointing.mm.value() == pytest.approx(24.0)


def test_an_area_is_traced_snapped_and_divided_into_tones(workspace, qtbot, widget_point):
    room, session = workspace.rooms["evidence"], workspace.session
    session.choose_zone("hull")
    assert room.shares.isHidden()
    room.viewer.set_tool("area")
    assert not room.shares.isHidden()
    for x, y in ((480, 600), (1200, 600), (1200, 660), (480, 660), (480, 600)):
        qtbot.mouseClick(room.viewer, Qt.MouseButton.LeftButton, pos=widget_point(room.viewer, x, y))
    region = session.project.regions[-1]
    assert (region.zone, region.photo) == ("hull", "f1")
    assert {tone.name for tone in region.tones} == {"faded", "sheltered"}
    assert 0.5 < sum(tone.share for tone in region.tones) <= 1
    assert "ΔE00" in room.shares._words.text()
    assert room.viewer.tool == "look"
    session.undo()
    assert room.shares.isHidden()


def test_a_stroke_is_a_dab_by_key(untouched, qtbot):
    room = untouched.rooms["evidence"]
    untouched.session.choose_zone("house")
    room.viewer.setFocus()
    qtbot.keyClick(room.viewer, Qt.Key.Key_B)
    qtbot.keyClick(room.viewer, Qt.Key.Key_Right)
    qtbot.keyClick(room.viewer, Qt.Key.Key_Return)
    (sample,) = untouched.session.project.samples
    assert (sample.shape, len(sample.path)) == ("brush", 1)
    assert untouched.session.project.photos[0].anchors == ()
