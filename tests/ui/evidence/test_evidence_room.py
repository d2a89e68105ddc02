"""Charts, straightening, schemes and sisters, driven as a hand would; and pictures nobody expects."""

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import Qt

from lean_sepia.answers.evidence import cast_of
from lean_sepia.answers.targets import targets_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.srgb import srgb_from_lab
from lean_sepia.demo.prototype import true_labs
from lean_sepia.document.edits.items import put
from lean_sepia.document.model import AnchorMark, Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import SampleError
from lean_sepia.photo.correction.chart import chart_anchors
from lean_sepia.ui.coats.zone_sheet import ZoneSheet
from lean_sepia.ui.evidence.anchor_dialog import AnchorDialog
from lean_sepia.ui.evidence.line.hung_photo import HungPhoto
from lean_sepia.ui.evidence.photo_dialog import PhotoDialog
from lean_sepia.ui.evidence.schemes_dialog import SchemesDialog
from lean_sepia.ui.evidence.straighten_dialog import StraightenDialog
from lean_sepia.ui.shell.subject_dialog import SubjectDialog

CHART = ((120, 90), (520, 100), (515, 340), (118, 330))


@pytest.fixture
def click(qtbot, widget_point):
    """Click on the pixels x, y of a viewer's photo, one after the other."""

    def by_hand(viewer, points):
        for x, y in points:
            qtbot.mouseClick(viewer, Qt.MouseButton.LeftButton, pos=widget_point(viewer, x, y))

    return by_hand


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


def test_a_chart_is_marked_by_four_clicks_and_removed_as_one(window, chart_photo, tmp_path, qtbot, click):
    ProjectStore.create(tmp_path / "a.sepia", Project()).close()
    window.open_project(tmp_path / "a.sepia")
    workspace = window.workspace
    workspace.add_photos([str(chart_photo)])
    room, session = workspace.rooms["evidence"], workspace.session
    room.viewer.grab()
    room.add_sample(320, 440, 15)
    found = session.project.samples[0].lab
    qtbot.keyClick(room.viewer, Qt.Key.Key_C)
    click(room.viewer, CHART)
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


def test_a_chart_on_a_line_is_refused_and_nothing_changes(untouched, qtbot, click):
    room, said = untouched.rooms["evidence"], []
    untouched.session.refused.connect(said.append)
    before = untouched.session.project
    room.viewer.set_tool("chart")
    click(room.viewer, [(300, 300), (400, 300), (500, 300), (600, 300)])
    assert "four corners" in said[0]
    assert untouched.session.project is before


def test_a_side_is_straightened_into_a_copy_with_a_scale(workspace, qtbot, monkeypatch, click):
    room, session = workspace.rooms["evidence"], workspace.session
    source = session.project.photos[0]
    monkeypatch.setattr(StraightenDialog, "exec", lambda dialog: dialog.across.setValue(24_000) or 1)
    room.viewer.set_tool("straighten")
    click(room.viewer, [(300, 430), (1300, 440), (1290, 720), (310, 710)])
    copy = session.project.photos[-1]
    assert copy.title == f"{source.title}, straightened"
    assert copy.mm_per_px == pytest.approx(24.0, rel=0.02)
    assert room.viewer.mm_per_px == copy.mm_per_px
    assert len(copy.anchors) == len(source.anchors)
    assert session.project.photo(source.id) == source
    # The anchors lie on the same paint, so the correction is the same.
    grey = [0.2, 0.2, 0.2]
    casts = [cast_of(one, session.pictures.picture(one).pixels) for one in (copy, source)]
    assert float(delta_e00(casts[0].lab(grey), casts[1].lab(grey))) < 1.0
    session.undo()
    assert len(session.project.photos) == 4


def test_a_copy_is_no_second_witness(workspace):
    room, session = workspace.rooms["evidence"], workspace.session
    room.edits.straighten([(300, 430), (1300, 440), (1290, 720), (310, 710)])
    before = targets_of(session.project, "house").fresh
    session.choose_zone("house")
    old = next(s for s in session.project.samples if s.zone == "house" and s.photo == "f1")
    copied = old.model_copy(update={"id": "copy", "photo": session.project.photos[-1].id})
    session.edit("Sample", lambda p: put(p, "samples", copied))
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
    session.edit("About", lambda p: put(p, "photos", other))
    both = targets_of(session.project, "house").fresh
    assert "Skarv" in both.source
    dialog = ZoneSheet(session, "house")
    qtbot.addWidget(dialog)
    assert set(dialog.sisters) == {"Tordmule", "Skarv"}
    dialog.sisters["Skarv"].setChecked(False)
    changed = dialog.zone()
    assert changed.follows == ("Tordmule",)
    session.edit("Zone", lambda p: put(p, "zones", changed))
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
    room.edits.straighten([(0, 0), (1, 0), (1, 1), (0, 1)])
    assert len(workspace.session.project.photos) == 1


def test_anchors_correct_the_samples_that_are_there(untouched):
    room, session = untouched.rooms["evidence"], untouched.session
    session.choose_zone("house")
    room.add_sample(640, 520, 12)
    before = session.project.samples[0]
    room.edits.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Locker"))
    after = session.project.samples[0]
    missed = [float(delta_e00(sample.lab, true_labs()["house"]["exposed"])) for sample in (before, after)]
    assert missed[1] < missed[0] - 1
    assert after.de00_90 < before.de00_90
    assert "Warm" in room.cast_panel.words.text()
    photo = session.project.photo("f1")
    cast = cast_of(photo, session.pictures.picture(photo).pixels)
    assert np.allclose(cast.lab([0.3, 0.2, 0.1]), room.seen.cast.lab([0.3, 0.2, 0.1]))
    room.edits.remove_anchor(photo.anchors[0].id)
    assert session.project.samples[0].lab == pytest.approx(before.lab)


def test_the_stored_photo_is_never_touched(untouched, demo):
    data = untouched.session.store.photo(untouched.session.project.photo("f1").sha256)
    untouched.rooms["evidence"].edits.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, name="Locker"))
    assert untouched.session.store.photo(untouched.session.project.photo("f1").sha256) == data
    assert data == demo.photo("slide-1957.jpg").read_bytes()


def test_the_dated_line_and_as_found(workspace, qtbot):
    room = workspace.rooms["evidence"]
    cards = room.findChildren(HungPhoto)
    assert [card.photo.id for card in cards if not card.isHidden()] == ["f3", "f1", "f2", "f4"]
    assert any("contradicted" in card.accessibleName() for card in cards)
    qtbot.mouseClick(next(card for card in cards if card.photo.id == "f2"), Qt.MouseButton.LeftButton)
    assert room.seen.photo.id == "f2"
    middle = room.viewer.rect().center()
    corrected = room.viewer.grab().toImage().pixelColor(middle)
    qtbot.mousePress(room.as_found, Qt.MouseButton.LeftButton)
    assert room._state.text() == "as found"
    found = room.viewer.grab().toImage().pixelColor(middle)
    qtbot.mouseRelease(room.as_found, Qt.MouseButton.LeftButton)
    assert room.viewer.grab().toImage().pixelColor(middle) == corrected != found
    qtbot.keyPress(room.viewer, Qt.Key.Key_F)
    assert room.viewer.grab().toImage().pixelColor(middle) == found
    qtbot.keyRelease(room.viewer, Qt.Key.Key_F)
    assert room._state.text() == "corrected"


def test_signature_is_kept(workspace):
    room = workspace.rooms["evidence"]
    room.features.text.setPlainText("The dented bow")
    room.features.text.editing_finished.emit()
    assert workspace.session.project.signature == "The dented bow"


def test_dialogs_edit_copies(workspace, qtbot):
    anchor = AnchorDialog(AnchorMark(id="a", x=1, y=2, radius=3, name="Card"))
    qtbot.addWidget(anchor)
    assert anchor.anchor().lightness is None
    assert not anchor.lightness.isEnabled()
    anchor.known.setCurrentIndex(2)
    anchor.lightness.setValue(40)
    anchor.a.setValue(-5)
    assert (anchor.anchor().lightness, anchor.anchor().a) == (40, -5)
    photo = PhotoDialog(workspace.session.project.photos[0], workspace.session.project.photos)
    qtbot.addWidget(photo)
    photo.date.setText("1956")
    assert photo.changes() == {"date": "1956"}
    subject = SubjectDialog(workspace.session.project.subjects[0])
    qtbot.addWidget(subject)
    subject.scale.setValue(72)
    subject.what_if.setChecked(True)
    assert (subject.subject().scale, subject.subject().what_if) == (72, True)


def test_the_press_print_shows_what_its_greys_allow(workspace):
    room = workspace.rooms["evidence"]
    assert room.greys.isHidden()
    room.choose_photo("f3")
    assert not room.greys.isHidden()
    assert room.greys.ranked[0].scheme == "first livery"
    assert "neither hue nor strength" in room.greys._words.text()
    assert "Black and white" in room.cast_panel.words.text()
    before = [fit.chi_squared for fit in room.greys.ranked]
    room.greys.emulsion.setCurrentIndex(2)
    assert [fit.chi_squared for fit in room.greys.ranked] != before


def test_a_photo_said_to_be_coloured_in_gives_no_colours(workspace):
    room, session = workspace.rooms["evidence"], workspace.session
    fresh = session.cut("hull").targets.fresh
    assert "sheltered" in fresh.source
    room.edits.describe_photo("f1", {"tones": "colourised"})
    assert all(s.lab[1:] == (0.0, 0.0) for s in session.project.samples if s.photo == "f1")
    changed = session.cut("hull").targets.fresh
    assert changed is None or "sheltered" not in changed.source
    session.undo()
    assert session.cut("hull").targets.fresh == fresh


def test_a_date_that_is_none_is_refused_and_nothing_changes(workspace):
    room, session = workspace.rooms["evidence"], workspace.session
    before = session.project
    room.edits.describe_photo("f1", {"date": "last summer"})
    assert session.project is before
    assert "no date of a photo" in workspace.advice._text.text()


def test_a_second_feature_is_named_and_located(workspace):
    room, session = workspace.rooms["evidence"], workspace.session
    room.features._start_another()
    room.features.text.setPlainText("The patched funnel")
    room.features.text.editing_finished.emit()
    assert [feature.words for feature in session.project.features][1] == "The patched funnel"
    session.choose_zone("funnel")
    room.features.place.click()
    assert room.viewer.tool == "feature"
    room.viewer.placed.emit("feature", 836.0, 340.0, 8.0)
    feature = session.project.features[1]
    assert (feature.zone, feature.photo, feature.x) == ("funnel", "f1", 836.0)
    assert room.viewer.tool == "look"


def test_what_would_help_is_said_for_the_chosen_zone(workspace):
    room = workspace.rooms["evidence"]
    workspace.session.choose_zone("funnel")
    assert room.samples._hint.text().startswith("Funnel, surer:")


def test_the_models_own_photo_is_no_target(workspace):
    session = workspace.session
    before = session.cut("hull").targets
    sample = next(s for s in session.project.samples if s.zone == "hull")
    session.edit(
        "x",
        lambda p: put(
            p, "samples", sample.model_copy(update={"id": "own", "photo": "f4", "lab": (90.0, 0.0, 0.0)})
        ),
    )
    assert session.cut("hull").targets.fresh == before.fresh


def test_an_anchor_shows_at_once_and_is_checked_after(untouched, monkeypatch):
    room = untouched.rooms["evidence"]
    shown = []
    room.edits.first_known.connect(
        lambda project, photo, correction: shown.append(
            (
                len(project.photo(photo).anchors),
                room._state.text(),
                correction,
                len(untouched.session.project.photo(photo).anchors),
            )
        )
    )
    mark = AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Grey")
    room.edits.add_anchor(mark)
    ((anchors, words, correction, kept),) = shown
    assert (anchors, words, kept) == (1, "checking…", 0)  # the document has it when its samples are read
    assert room._state.text() == "corrected"
    pixels = room.seen.picture.pixels[::8, ::8]
    first, whole = correction.apply(pixels).astype(int), room.seen.correction.apply(pixels).astype(int)
    assert np.abs(first - whole).mean() < 6  # of 255
    assert np.abs(first - pixels).mean() > 3 * np.abs(first - whole).mean()


def test_where_the_check_fails_the_photo_is_shown_as_it_was(untouched, monkeypatch):
    room = untouched.rooms["evidence"]

    def fail(*_asked):
        raise SampleError("It cannot be read.")

    monkeypatch.setattr("lean_sepia.ui.evidence.photo_edits.resampled", fail)
    room.edits.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Grey"))
    assert room._state.text() == "no anchor yet"
    assert room.viewer._correction is None
    assert untouched.session.project.photos[0].anchors == ()
    assert "cannot be read" in untouched.advice._text.text()
