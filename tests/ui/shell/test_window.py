"""The window as a whole: first page, opening, refusing, saving, undo, rooms, lighting."""

import sqlite3

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtWidgets import QLabel, QPushButton

from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.document.store import ProjectStore
from lean_sepia.ui.kit import theme
from lean_sepia.ui.kit.job import Job
from lean_sepia.ui.shell.settings import Settings, load_settings, save_settings, settings_file
from lean_sepia.ui.shell.window import MainWindow


def words_of(widget):
    return " ".join(label.text() for label in widget.findChildren(QLabel) if label.isVisible())


def test_first_page_offers_the_ways_in(window, qtbot, monkeypatch):
    page = window.start_page
    assert [choice.text() for choice in page.buttons] == [
        "Open the demo",
        "Start from a photo",
        "Start from a colour",
        "Open a project",
    ]

    def written(dialog):
        dialog.text.setText("50, 10, 20")
        return True

    monkeypatch.setattr("lean_sepia.ui.shell.starting.colour_dialog.ColourDialog.exec", written)
    qtbot.mouseClick(page.buttons[2], Qt.MouseButton.LeftButton)
    (known,) = window.workspace.session.project.zones[0].stated
    assert (known.lab, known.target) == ((50, 10, 20), "fresh")


def test_start_from_a_colour(window):
    window.starting.with_colour("45.8, −13.9, −6.1")
    workspace = window.workspace
    assert workspace.room == "match"
    assert [known.lab for known in workspace.session.project.zones[0].stated] == [(45.8, -13.9, -6.1)]
    # A newcomer's shelf is empty: the room says so and what to do, and nothing is refused.
    room = workspace.rooms["match"]
    assert room._statement.text() == "There is no paint to mix on your shelf."
    assert not room.pin.isEnabled()
    room.wanted.coats.setValue(4)
    assert "mix" not in workspace.advice._text.text()


@pytest.mark.parametrize("text", ["", "a,b,c", "45,1", "150,0,0", "45;1;2;3"])
def test_colours_that_are_none_leave_the_first_page(window, text):
    window.starting.with_colour(text)
    assert window.workspace is None
    assert window.start_page.message.text()


def test_start_from_photos_of_ones_own(window, tmp_path):
    pixels = np.random.default_rng(1).integers(60, 200, (90, 120, 3), dtype=np.uint8)
    Image.fromarray(pixels).save(tmp_path / "roof.png")
    (tmp_path / "broken.jpg").write_bytes(b"\xff\xd8\xff broken")
    window.starting.with_photos([str(tmp_path / "roof.png"), str(tmp_path / "broken.jpg")])
    session = window.workspace.session
    assert [photo.name for photo in session.project.photos] == ["roof.png"]
    assert session.store.photo(session.project.photos[0].sha256) == (tmp_path / "roof.png").read_bytes()
    assert "broken.jpg" in window.workspace.advice._text.text()
    assert session.project.zones  # something to sample for


def test_files_that_cannot_be_opened_leave_the_open_project(workspace, window, tmp_path):
    before = workspace.session.project
    (tmp_path / "words.sepia").write_text("no project")
    newer = tmp_path / "newer.sepia"
    ProjectStore.create(newer, before).close()
    db = sqlite3.connect(newer)
    db.execute("PRAGMA user_version = 99")
    db.commit()
    db.close()
    for path in (tmp_path / "words.sepia", newer, tmp_path / "missing.sepia"):
        assert not window.open_project(path)
        assert window.workspace is workspace
        assert workspace.session.project == before
        assert path.stem in workspace.advice._text.text()


def test_every_room_opens_by_key_and_says_something(workspace, window, qtbot):
    for index, room in enumerate(ROOMS, start=1):
        qtbot.keyClick(window, getattr(Qt.Key, f"Key_{index}"), Qt.KeyboardModifier.ControlModifier)
        assert workspace.room == room
        assert len(words_of(workspace.rooms[room])) > 40


def test_zones_change_by_key_from_anywhere(workspace, window, qtbot):
    ids = [zone.id for zone in workspace.session.project.zones]
    qtbot.keyClick(window, Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier)
    assert workspace.session.zone == ids[1]
    qtbot.keyClick(window, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    qtbot.keyClick(window, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    assert workspace.session.zone == ids[-1]


def test_undo_and_redo_by_key(workspace, window, qtbot):
    session = workspace.session
    before = session.project
    workspace.column.add_named_zone("Mast")
    after = session.project
    window.activateWindow()
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert session.project == before
    qtbot.keyClick(
        window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    )
    assert session.project == after


def test_edits_are_saved_within_two_seconds(workspace, qtbot):
    session = workspace.session
    workspace.column.add_named_zone("Mast")
    assert session._autosave.interval() <= 2000
    qtbot.waitUntil(lambda: session.store.revisions()[0].label == "Add zone Mast", timeout=4000)
    assert session.store.load()[0] == session.project


def test_closing_saves_what_is_not_saved(workspace, window, demo):
    workspace.column.add_named_zone("Mast")
    window.close_project()
    store = ProjectStore.open(demo.worked)
    assert store.load()[0].zones[-1].name == "Mast"
    store.close()
    assert window._stack.currentWidget() is window.start_page


def test_going_back_to_an_earlier_state_can_be_undone(workspace):
    session = workspace.session
    first = session.store.revisions()[0].id
    workspace.column.add_named_zone("Mast")
    with_mast = session.project
    session.save_now()
    session.edit("Go back", lambda _p: session.store.revision(first))
    assert "Mast" not in [zone.name for zone in session.project.zones]
    session.undo()
    assert session.project == with_mast


def test_advice_goes_where_it_says(workspace, qtbot):
    advice = workspace.session.advice()[0]
    workspace.open_room("bench")
    assert workspace.advice._text.text() == advice.text
    qtbot.mouseClick(workspace.advice._button, Qt.MouseButton.LeftButton)
    assert workspace.room == advice.room


def test_greys_are_exact_and_texts_can_be_read():
    def luminance(value):
        parts = [int(value[i : i + 2], 16) / 255 for i in (1, 3, 5)]
        linear = [p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    def contrast(one, two):
        light, dark = sorted((luminance(one), luminance(two)), reverse=True)
        return (light + 0.05) / (dark + 0.05)

    for shades in (theme.DAY, theme.EVENING):
        for name, value in vars(shades).items():
            assert name == "accent" or value[1:3] == value[3:5] == value[5:7], name
        for text in (shades.text, shades.second, shades.third):
            for surface in (shades.window, shades.panel, shades.raised):
                assert contrast(text, surface) >= 4.5
        assert contrast(shades.well_text, shades.well) >= 4.5
        assert contrast(shades.accent, shades.panel) >= 4.5


def test_lighting_changes_every_surface(window, qtbot, qapp):
    try:
        window.toggle_lighting()
        assert window.settings.evening
        assert qapp.palette().color(theme.WINDOW).name() == theme.EVENING.window
    finally:
        window.toggle_lighting()
    assert qapp.palette().color(theme.WINDOW).name() == theme.DAY.window


def test_surfaces_round_colours_are_neutral(workspace, qapp):
    for room in ROOMS:
        workspace.open_room(room)
        qapp.processEvents()
        image = workspace._stack.grab().toImage()
        corner = image.pixelColor(3, 3)
        assert corner.red() == corner.green() == corner.blue()


def test_controls_have_accessible_names(workspace):
    from PySide6.QtWidgets import QComboBox, QDoubleSpinBox, QLineEdit, QSpinBox

    for room in ROOMS:
        workspace.open_room(room)
        page = workspace.rooms[room]
        for kind in (QComboBox, QSpinBox, QDoubleSpinBox, QLineEdit):
            for control in page.findChildren(kind):
                if control.objectName() != "qt_spinbox_lineedit":
                    assert control.accessibleName(), (room, control)


def test_settings_survive_and_damaged_ones_do_not_matter(tmp_path):
    project = tmp_path / "a.sepia"
    project.touch()
    save_settings(Settings().with_recent(project).with_recent(tmp_path / "gone.sepia"))
    assert load_settings().existing() == [project]
    settings_file().write_text("{broken")
    assert load_settings() == Settings()


def test_size_room_and_folder_are_remembered(qtbot, demo, monkeypatch):
    window = MainWindow(Settings(), synchronous=True)
    window.show()
    window.resize(760, 560)
    window.open_project(demo.worked)
    window.workspace.open_room("plan")
    window.close()
    kept = load_settings()
    assert kept.size == (760, 560)
    assert kept.room_of(demo.worked) == "plan"
    again = MainWindow(kept, synchronous=True, remember=False)
    again.show()
    assert (again.width(), again.height()) == (760, 560)
    again.open_project(demo.worked)
    assert again.workspace.room == "plan"
    assert set(again.workspace.rooms) == {"plan"}  # no other room was built on the way
    again.close()
    for one in (window, again):
        one.deleteLater()


def test_recent_projects_are_offered(qtbot, demo):
    window = MainWindow(Settings(recent=(str(demo.worked),)), synchronous=True, remember=False)
    window.show()
    with qtbot.waitSignal(window.start_page.project_wanted) as caught:
        link = next(b for b in window.start_page.findChildren(QPushButton) if b.text() == "tordmule")
        qtbot.mouseClick(link, Qt.MouseButton.LeftButton)
    assert caught.args == [str(demo.worked)]
    assert window.workspace is not None
    window.close()
    window.deleteLater()


def test_pictures_are_pasted(workspace, qapp):
    photos = len(workspace.session.project.photos)
    image = QImage(40, 30, QImage.Format.Format_RGB32)
    image.fill(QColor(120, 90, 60))
    qapp.clipboard().setImage(image)
    workspace.paste()
    added = workspace.session.project.photos[photos]
    assert (added.width, added.height) == (40, 30)
    qapp.clipboard().setText("no picture")
    workspace.paste()
    assert len(workspace.session.project.photos) == photos + 1
    assert "no picture on the clipboard" in workspace.advice._text.text()


def test_advice_leads_only_where_one_is_not_yet(workspace):
    room, zone = workspace.session.advice()[0].room, workspace.session.advice()[0].zone
    away = "bench" if room != "bench" else "plan"
    workspace.open_room(away)
    assert not workspace.advice._button.isHidden()
    workspace.advice._button.click()
    assert workspace._room == room
    assert workspace.session.zone == (zone or workspace.session.zone)
    assert workspace.advice._button.isHidden()
    workspace.open_shelf()
    assert not workspace.advice._button.isHidden()


def test_long_reading_is_followed_and_can_be_cancelled(workspace):
    job = Job(lambda progress: progress(0.5) or 7)
    workspace.advice.follow(job, "Reading 3 photos")
    assert workspace.advice._button.text() == "Cancel"
    ended = []
    job.cancelled.connect(lambda: ended.append("cancelled"))
    workspace.advice._button.click()
    job.run()
    assert ended == ["cancelled"]
    assert workspace.advice._button.text().startswith("Go to")
