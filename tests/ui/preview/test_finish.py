"""The finish in the window: modes, coats looked through, and the ruler."""

import pytest
from PySide6.QtCore import Qt

from lean_sepia.answers.preview.on_photo import photo_to_paint
from lean_sepia.ui.kit.true_size import measured_px_per_mm, px_per_mm, remember_px_per_mm
from lean_sepia.ui.preview.finish_panel import ENLARGED, LARGE, PATCH, PHOTO
from lean_sepia.ui.preview.finish_sheet import RULER_PX
from lean_sepia.ui.shell.settings import Settings, load_settings, save_settings


@pytest.fixture
def glaze(workspace):
    workspace.session.choose_zone("hull")
    workspace.open_room("glaze")
    return workspace.rooms["glaze"]


@pytest.fixture(autouse=True)
def unmeasured(qapp):
    yield
    qapp.setProperty("pixelsPerMillimetre", None)


def image(panel):
    return panel.view._image


def test_the_three_ways_to_look(glaze, qtbot):
    panel = glaze.finish
    seen = {}
    for mode in (LARGE, PATCH, PHOTO):
        qtbot.mouseClick(panel.modes[mode], Qt.MouseButton.LeftButton)
        assert panel.mode == mode
        seen[mode] = image(panel).copy()
    assert seen[LARGE] != seen[PATCH]
    assert seen[PHOTO].size() != seen[PATCH].size()
    assert "photo" in panel.view.accessibleName()


def test_a_photo_without_anchors_is_corrected_by_one_that_was_developed_alike(glaze, workspace, qtbot):
    project = workspace.session.project
    photo = photo_to_paint(project, "hull")
    other = next(one for one in project.photos if one.anchors and one.id != photo.id)
    qtbot.mouseClick(glaze.finish.modes[PHOTO], Qt.MouseButton.LeftButton)
    seen = {}
    for like in ("", other.id):
        changed = photo.model_copy(update={"anchors": (), "like": like})
        photos = tuple(changed if one.id == photo.id else one for one in project.photos)
        glaze.finish.show_finish(project.model_copy(update={"photos": photos}), "hull")
        seen[like] = image(glaze.finish).copy()
    assert seen[""] != seen[other.id]


def test_another_chance_is_another_picture(glaze, qtbot):
    before = image(glaze.finish).copy()
    qtbot.mouseClick(glaze.finish._again, Qt.MouseButton.LeftButton)
    assert image(glaze.finish) != before


def test_coats_are_looked_through_on_the_sheet_and_stay_in_the_plan(glaze, workspace, qtbot):
    qtbot.mouseClick(glaze.finish._close, Qt.MouseButton.LeftButton)
    sheet = workspace.sheets.open
    before, project = image(sheet.panel).copy(), workspace.session.project
    chips = next(coat.id for coat in project.coats_of("hull") if coat.kind == "chips")
    sheet.boxes[chips].click()
    assert image(sheet.panel) != before
    assert workspace.session.project is project
    sheet.boxes[chips].click()
    assert image(sheet.panel) == before


def test_true_size_is_measured_once(glaze, workspace, qtbot):
    qtbot.mouseClick(glaze.finish._close, Qt.MouseButton.LeftButton)
    sheet = workspace.sheets.open
    sheet.length.setValue(60.0)
    assert measured_px_per_mm() == pytest.approx(RULER_PX / 60)
    assert px_per_mm(sheet) == pytest.approx(5.0)
    assert ENLARGED > 1


def test_it_is_remembered_between_starts(tmp_path, monkeypatch):
    monkeypatch.setattr("lean_sepia.ui.shell.settings.settings_file", lambda: tmp_path / "settings.json")
    save_settings(Settings(px_per_mm=4.2))
    assert load_settings().px_per_mm == 4.2
    (tmp_path / "settings.json").write_text('{"recent": [], "evening": false, "px_per_mm": "no"}')
    assert load_settings() == Settings()


@pytest.mark.parametrize("value", [0.0, -3.0, 1000.0, None])
def test_what_no_screen_has_is_not_kept(qapp, value):
    remember_px_per_mm(value)
    assert measured_px_per_mm() is None
