"""Charts, straightening, schemes and sisters, driven as a hand would; and pictures nobody expects."""

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPointF, Qt

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.srgb import srgb_from_lab
from lean_sepia.photo.chart import chart_anchors
from lean_sepia.project import edits
from lean_sepia.project.model import Project
from lean_sepia.project.store import ProjectStore
from lean_sepia.project.targets import targets_of
from lean_sepia.ui.schemes_dialog import SchemesDialog
from lean_sepia.ui.straighten_dialog import StraightenDialog
from lean_sepia.ui.zone_dialog import ZoneDialog

CHART = ((120, 90), (520, 100), (515, 340), (118, 330))


def click(qtbot, viewer, points):
    for x, y in points:
        place = QPointF(x, y) * viewer._scale + viewer._offset
        qtbot.mouseClick(viewer, Qt.MouseButton.LeftButton, pos=place.toPoint())


@pytest.fixture
def chart_photo(tmp_path):
    """A photo of the 24-patch chart and of a green field below it, all a little darker and warmer than in truth."""
    pixels = np.full((480, 640, 3), 0.5)
    rows, columns = np.mgrid[0:480, 0:640]
    for anchor in chart_anchors([value for corner in CHART for value in corner]):
        near = (abs(columns - anchor.x) < 30) & (abs(rows - anchor.y) < 30)
        pixels[near] = srgb_from_lab(np.array([anchor.lightness, anchor.a, anchor.b]))
    pixels[400:] = srgb_from_lab(np.array([45.0, -22.0, 8.0]))
    pixels = np.clip(pixels, 0, 1) * [0.93, 0.88, 0.75]
    path = tmp_path / "chart.png"
    noisy = pixels + np.random.default_rng(5).normal(0, 0.004, pixels.shape)
    Image.fromarray((np.clip(noisy, 0, 1) * 255).round().astype(np.uint8)).save(path)
    return path


def test_a_chart_is_marked_by_four_clicks_and_removed_as_one(window, chart_photo, tmp_path, qtbot):
    ProjectStore.create(tmp_path / "a.sepia", Project()).close()
    window.open_project(tmp_path / "a.sepia")
    workspace = window.workspace
    workspace.add_photos([str(chart_photo)])
    room, session = workspace.rooms["evidence"], workspace.session
    room.viewer.grab()
    room.add_sample(320, 440, 15)
    found = session.project.samples[0].lab
    qtbot.keyClick(room.viewer, Qt.Key.Key_C)
    click(qtbot, room.viewer, CHART)
    assert room.viewer.tool == "look"
    anchors = session.project.photos[0].anchors
    assert len(anchors) == 24
    assert len({anchor.group for anchor in anchors}) == 1
    truth = (45.0, -22.0, 8.0)
    corrected = session.project.samples[0]
    assert float(delta_e00(found, truth)) > 5
    assert float(delta_e00(corrected.lab, truth)) < corrected.de00_90
    assert "24" in room.cast_panel.remark.text()
    room.cast_panel.remove_wanted.emit(anchors[0].group)
    assert session.project.photos[0].anchors == ()
    session.undo()
    assert len(session.project.photos[0].anchors) == 24


def test_a_chart_on_a_line_is_refused_and_nothing_changes(untouched, qtbot):
    room, said = untouched.rooms["evidence"], []
    untouched.session.refused.connect(said.append)
    before = untouched.session.project
    room.viewer.set_tool("chart")
    click(qtbot, room.viewer, [(300, 300), (400, 300), (500, 300), (600, 300)])
    assert "four corners" in said[0]
    assert untouched.session.project is before


def test_a_side_is_straightened_into_a_copy_with_a_scale(workspace, qtbot, monkeypatch):
    room, session = workspace.rooms["evidence"], workspace.session
    source = session.project.photos[0]
    monkeypatch.setattr(StraightenDialog, "exec", lambda dialog: dialog.across.setValue(24_000) or 1)
    room.viewer.set_tool("straighten")
    click(qtbot, room.viewer, [(300, 430), (1300, 440), (1290, 720), (310, 710)])
    copy = session.project.photos[-1]
    assert copy.title == f"{source.title}, straightened"
    assert copy.mm_per_px == pytest.approx(24.0, rel=0.02)
    assert room.viewer.mm_per_px == copy.mm_per_px
    assert len(copy.anchors) == len(source.anchors)
    assert session.project.photo(source.id) == source
    # The anchors lie on the same paint, so the correction is the same.
    grey = [0.2, 0.2, 0.2]
    assert float(delta_e00(session.cast(copy.id).lab(grey), session.cast(source.id).lab(grey))) < 1.0
    session.undo()
    assert len(session.project.photos) == 4


def test_a_copy_is_no_second_witness(workspace):
    room, session = workspace.rooms["evidence"], workspace.session
    room.straighten([(300, 430), (1300, 440), (1290, 720), (310, 710)])
    before = targets_of(session.project, "house").fresh
    session.choose_zone("house")
    old = next(s for s in session.project.samples if s.zone == "house" and s.photo == "f1")
    copied = old.model_copy(update={"id": "copy", "photo": session.project.photos[-1].id})
    session.edit("Sample", lambda p: edits.put(p, "samples", copied))
    assert targets_of(session.project, "house").fresh.de00_90 == pytest.approx(before.de00_90)


def test_schemes_are_added_filled_from_the_photos_and_removed(workspace, qtbot):
    session = workspace.session
    dialog = SchemesDialog(session.project)
    qtbot.addWidget(dialog)
    assert dialog.list.count() == len(session.project.schemes)
    assert dialog.name.text() == session.project.schemes[0].name
    dialog.add_scheme()
    qtbot.keyClicks(dialog.name, "works livery")
    dialog.begins.setText("1953")
    hull = next(zone for zone in dialog.zones if zone.zone == "hull")
    assert not hull.named.isChecked()
    qtbot.mouseClick(hull.take, Qt.MouseButton.LeftButton)
    added = dialog.schemes()[-1]
    assert (added.name, added.worn_from) == ("works livery", "1953")
    ((zone, lab),) = added.colours
    assert zone == "hull"
    assert lab == pytest.approx(targets_of(session.project, "hull").fresh.lab, abs=0.06)
    dialog.list.setCurrentRow(0)
    assert dialog.schemes()[0] == session.project.schemes[0].model_copy(
        update={"colours": dialog.schemes()[0].colours}
    )
    dialog.remove_scheme()
    assert len(dialog.schemes()) == len(session.project.schemes)


@pytest.mark.parametrize(
    ("name", "begins", "ends", "said"),
    [("", "", "", "needs a name"), ("second livery", "", "", "Two schemes"), ("x", "fifty", "", "no date"), ("x", "1960", "1950", "before it begins")],
)  # fmt: skip
def test_a_wrong_scheme_is_said_and_the_dialog_stays(workspace, qtbot, name, begins, ends, said):
    dialog = SchemesDialog(workspace.session.project)
    qtbot.addWidget(dialog)
    dialog.name.setText(name)
    dialog.begins.setText(begins)
    dialog.ends.setText(ends)
    dialog.accept()
    assert said in dialog.said.text()
    assert dialog.result() == 0


def test_a_zone_follows_the_sister_that_is_chosen(workspace, qtbot):
    session = workspace.session
    other = session.project.photos[1].model_copy(update={"prototype": "Skarv"})
    session.edit("About", lambda p: edits.put(p, "photos", other))
    both = targets_of(session.project, "house").fresh
    assert "Skarv" in both.source
    dialog = ZoneDialog(session.project.zone("house"), session.project)
    qtbot.addWidget(dialog)
    assert set(dialog.sisters) == {"Tordmule", "Skarv"}
    dialog.sisters["Skarv"].setChecked(False)
    changed = dialog.zone()
    assert changed.follows == ("Tordmule",)
    session.edit("Zone", lambda p: edits.put(p, "zones", changed))
    one = targets_of(session.project, "house").fresh
    assert "Skarv" not in one.source
    assert one.lab != both.lab
    dialog.sisters["Tordmule"].setChecked(False)
    assert dialog.zone().follows == ()


@pytest.mark.parametrize("size", [(1, 1), (30_000, 3), (3, 4000)])
def test_pictures_of_odd_shapes_are_shown_and_sampled(window, tmp_path, size):
    path = tmp_path / "odd.png"
    Image.new("RGB", size, (120, 90, 60)).save(path)
    ProjectStore.create(tmp_path / "a.sepia", Project()).close()
    window.open_project(tmp_path / "a.sepia")
    workspace = window.workspace
    workspace.add_photos([str(path)])
    room = workspace.rooms["evidence"]
    room.viewer.grab()
    room.add_sample(0, 0, 1)
    (sample,) = workspace.session.project.samples
    assert sample.pixels >= 1
    assert np.isfinite(sample.lab).all()
    room.straighten([(0, 0), (1, 0), (1, 1), (0, 1)])
    assert len(workspace.session.project.photos) == 1
