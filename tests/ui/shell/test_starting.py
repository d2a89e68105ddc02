"""The program starts, whatever it remembers and wherever it runs."""

import json
import os
import pwd
import subprocess
import sys
import textwrap

import pytest
from PySide6.QtWidgets import QLineEdit

from lean_sepia.document.edits.zones import add_subject, change_subject
from lean_sepia.files import own_folders
from lean_sepia.files.own_folders import is_homeless, own_folder
from lean_sepia.ui.kit.dialogs.files import home_folder
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.shell.settings import Settings, load_settings, save_settings, settings_file
from lean_sepia.ui.shell.window import MainWindow

GOOD = {"recent": [], "evening": False}
BROKEN = {
    "no json": "{",
    "a list": "[]",
    "a number": "3",
    "nothing": "{}",
    "no texts": {"recent": [3, None, {"a": 1}], "evening": "no"},
    "long names": {
        "recent": ["/" + "x" * 5000, "/tmp/" + "y/" * 3000],
        "folder": "/" + "z" * 9000,
        "evening": True,
    },
    "a zero byte": {**GOOD, "recent": ["/tmp/a\0b.sepia"], "folder": "\0"},
    "half a character": '{"recent": ["\\ud800"], "evening": false}',
    "sizes": {**GOOD, "size": [-5, 10**17], "maximised": 7},
    "no sizes": {**GOOD, "size": ["a", None]},
    "one size": {**GOOD, "size": [900]},
    "screens": {**GOOD, "px_per_mm": -3},
    "no screen": {**GOOD, "px_per_mm": "wide"},
    "rooms": {**GOOD, "rooms": [["a", "cellar"], ["b"]]},
    "owns": {**GOOD, "owns": [["airbrush", 1], ["moon", True]]},
    "habits": {**GOOD, "habits": [3]},
    "deep": "[" * 5000,
}


@pytest.fixture
def opened(qtbot):
    windows = []

    def start():
        window = MainWindow(load_settings(), synchronous=True, remember=False)
        window.show()
        windows.append(window)
        return window

    yield start
    for window in windows:
        window.close()
        window.deleteLater()


@pytest.mark.parametrize("name", BROKEN)
def test_broken_settings(opened, name):
    file = settings_file()
    file.parent.mkdir(parents=True)
    content = BROKEN[name]
    file.write_text(content if isinstance(content, str) else json.dumps(content))
    window = opened()
    assert window.isVisible()
    screen = window.screen().availableGeometry().width()
    assert min(480, screen) <= window.width() <= min(20_000, screen)
    assert window.start_page.isVisible()


def test_a_recent_project_that_cannot_be_looked_at(opened, tmp_path, monkeypatch):
    locked = tmp_path / "locked"
    stat = os.stat

    def refuse(path, *more, **named):
        if str(path).startswith(str(locked)):
            raise PermissionError(13, "Permission denied", str(path))
        return stat(path, *more, **named)

    monkeypatch.setattr(os, "stat", refuse)
    save_settings(Settings(recent=(str(locked / "a.sepia"),), folder=str(locked)))
    assert opened().isVisible()


def test_a_recent_project_far_down_does_not_widen_the_page(opened, tmp_path):
    deep = tmp_path
    for _level in range(18):
        deep = deep / ("n" * 100)
    deep.mkdir(parents=True)
    place = deep / ("a & <b>" * 20 + ".sepia")
    place.touch()
    save_settings(Settings(recent=(str(place),)))
    window = opened()
    assert window.start_page.minimumSizeHint().width() <= 1100
    assert window.width() <= 1280


def test_settings_behind_a_link_stay_a_link(tmp_path):
    file = settings_file()
    file.parent.mkdir(parents=True)
    (tmp_path / "dotfiles.json").write_text("{}")
    file.symlink_to(tmp_path / "dotfiles.json")
    save_settings(Settings(evening=True))
    assert file.is_symlink()
    assert load_settings().evening


@pytest.fixture
def homeless(monkeypatch, tmp_path):
    def nobody(_number):
        raise KeyError("uid not found")

    for name in (
        "HOME",
        "XDG_DATA_HOME",
        "XDG_STATE_HOME",
        "XDG_CACHE_HOME",
        "XDG_CONFIG_HOME",
        "LOGNAME",
        "USER",
    ):
        monkeypatch.delenv(name, raising=False)
    monkeypatch.setattr(pwd, "getpwuid", nobody)
    monkeypatch.setattr("tempfile.gettempdir", lambda: str(tmp_path))
    own_folders._without_home.cache_clear()
    yield tmp_path
    own_folders._without_home.cache_clear()


def test_without_a_home_there_is_a_place_all_the_same(homeless, opened, monkeypatch, tmp_path):
    monkeypatch.chdir(tmp_path)
    assert is_homeless()
    folder = own_folder("data")
    assert folder.is_absolute()
    assert folder.parent.stat().st_mode & 0o777 == 0o700
    assert home_folder() == str(tmp_path)
    window = opened()
    assert window.starting.new_project("Tug")
    assert str(window.workspace.session.store.path).startswith(str(tmp_path))
    assert not (tmp_path / "~").exists()


def test_a_folder_that_someone_else_put_there_is_not_used(homeless):
    (homeless / f"lean-sepia-{os.getuid()}").symlink_to(homeless)
    assert own_folder("data").parent.name != f"lean-sepia-{os.getuid()}"


def test_with_a_home_nothing_changes(monkeypatch, tmp_path):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "d"))
    assert own_folder("data") == tmp_path / "d" / "lean-sepia"
    assert not is_homeless()


def test_what_goes_wrong_in_starting_is_printed_and_it_starts_anew(tmp_path):
    script = textwrap.dedent(
        """
        from PySide6.QtCore import QTimer
        from lean_sepia.ui import app
        from lean_sepia.ui.shell.settings import Settings

        really = app.MainWindow

        def window(settings):
            if settings.evening:
                raise ValueError("a setting that breaks it")
            made = really(settings)
            QTimer.singleShot(0, made.close)
            return made

        app.MainWindow = window
        app.load_settings = lambda: Settings(evening=True)
        raise SystemExit(app.run_app())
        """
    )
    done = subprocess.run(
        [sys.executable, "-c", script], capture_output=True, text=True, check=False, timeout=60
    )
    assert done.returncode == 0, done.stderr
    assert "a setting that breaks it" in done.stderr
    assert "starts anew" in done.stderr


def test_the_next_project_has_the_hours_of_the_last(opened):
    window = opened()
    assert window.starting.new_project("Tug")
    session = window.workspace.session
    session.edit("Hours", lambda p: p.model_copy(update={"evenings": "sun 10:00-12:00"}))
    assert window.starting.new_project("Launch")
    assert window.workspace.session.project.evenings == "sun 10:00-12:00"


def test_the_title_of_the_window_follows_the_name_of_the_model(opened):
    window = opened()
    assert window.starting.new_project("DSC_0412")
    session = window.workspace.session
    session.edit("Add model", lambda p: add_subject(p, p.title, 72))
    (model,) = session.project.subjects
    session.edit("Model", lambda p: change_subject(p, model.model_copy(update={"name": "Launch no. 4"})))
    assert session.project.title == "Launch no. 4"
    assert window.windowTitle() == "Launch no. 4 – Lean Sepia"
    session.edit("Own", lambda p: p.model_copy(update={"title": "Winter project"}))
    session.edit("Model", lambda p: change_subject(p, model.model_copy(update={"name": "Launch no. 5"})))
    assert session.project.title == "Winter project"


def test_a_name_that_is_asked_for_is_selected(qtbot):
    field = QLineEdit("House")
    dialog = FormDialog("Name", [("Name", field)])
    qtbot.addWidget(dialog)
    assert field.selectedText() == "House"
