"""Work that cannot be saved where it was: nothing is thrown away unasked, and the true reason is said."""

import shutil
import sqlite3

import pytest

from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import SaveError
from lean_sepia.shelf.shelf import SHELF_NAME


@pytest.fixture
def answers(monkeypatch):
    """What is asked, and what is answered in turn."""
    asked, given = [], []

    def choose(_parent, title, words, *choices):
        asked.append((title, words, choices))
        return given.pop(0) if given else None

    monkeypatch.setattr("lean_sepia.ui.shell.keeping.choose", choose)
    return asked, given


@pytest.fixture
def full(workspace, monkeypatch):
    """The open project on a disk that is full until it is emptied."""
    state = {"full": True}
    save = ProjectStore.save

    def failing(store, *given, **more):
        if state["full"] and store.path == workspace.session.store.path:
            raise SaveError(f"{store.path} cannot be saved: the disk is full: free some space on it.")
        save(store, *given, **more)

    monkeypatch.setattr(ProjectStore, "save", failing)
    workspace.session.edit("Add zone", lambda project: add_zone(project, "Mast")[0])
    return state


def saved_zones(path):
    store = ProjectStore.open(path, reading=True)
    project, _note = store.load()
    store.close()
    return [zone.name for zone in project.zones]


def test_closing_asks_and_staying_keeps_the_work(window, workspace, full, answers):
    asked, given = answers
    given[:] = [2]
    window.close()
    assert window.isVisible()
    assert window.workspace is workspace
    assert workspace.session.project.zones[-1].name == "Mast"
    title, words, choices = asked[0]
    assert title == "Not saved"
    assert "the disk is full" in words
    assert choices == ("Try again", "Save elsewhere…", "Stay here", "Discard it")
    full["full"] = False
    window.close_project()
    assert len(asked) == 1


def test_closing_the_question_stays_too(window, workspace, full, answers):
    asked, _given = answers
    window.close_project()
    assert window.workspace is workspace
    assert len(asked) == 1
    full["full"] = False


def test_trying_again_saves_once_there_is_room(window, full, demo, monkeypatch):
    asked = []

    def choose(*_question):
        asked.append(1)
        full["full"] = len(asked) < 2
        return 0

    monkeypatch.setattr("lean_sepia.ui.shell.keeping.choose", choose)
    window.close_project()
    assert window.workspace is None
    assert len(asked) == 2
    assert saved_zones(demo.worked)[-1] == "Mast"


def test_saving_elsewhere_goes_on_there(window, workspace, full, answers, tmp_path, monkeypatch):
    _asked, given = answers
    given[:] = [1]
    typed = str(tmp_path / "elsewhere"), ""
    monkeypatch.setattr("PySide6.QtWidgets.QFileDialog.getSaveFileName", lambda *_a: typed)
    window.close_project()
    assert window.workspace is None
    assert saved_zones(tmp_path / "elsewhere.sepia")[-1] == "Mast"


def test_discarding_is_what_was_asked_for(window, full, answers, demo):
    _asked, given = answers
    given[:] = [3]
    window.close_project()
    assert window.workspace is None
    assert "Mast" not in saved_zones(demo.worked)


def test_opening_another_project_asks_first(window, workspace, full, answers, demo):
    asked, given = answers
    given[:] = [2]
    assert not window.open_project(demo.untouched)
    assert window.workspace is workspace
    assert len(asked) == 1
    given[:] = [3]
    assert window.open_project(demo.untouched)


def test_a_file_that_is_gone_is_kept_under_another_name(window, workspace, demo):
    said = []
    workspace.session.refused.connect(said.append)
    demo.worked.unlink()
    workspace.session.edit("Add zone", lambda project: add_zone(project, "Mast")[0])
    assert workspace.session.save_now() is None
    kept = demo.worked.with_name("tordmule (kept).sepia")
    assert "no longer there" in said[-1]
    assert kept.name in said[-1]
    assert saved_zones(kept)[-1] == "Mast"
    assert str(kept) in window.settings.recent
    window.close_project()


def test_a_file_that_was_replaced_is_left_to_the_other(workspace, demo):
    shutil.copy(demo.untouched, demo.folder / "new")
    (demo.folder / "new").replace(demo.worked)
    workspace.session.edit("Add zone", lambda project: add_zone(project, "Mast")[0])
    workspace.session.save_now()
    assert workspace.session.store.path.name == "tordmule (kept).sepia"
    assert "Mast" not in saved_zones(demo.worked)
    assert len(workspace.session.pictures.bytes_of(workspace.session.project.photos[0])) > 1000


def test_the_open_project_opened_again_is_the_same(window, workspace, demo):
    assert window.open_project(demo.worked)
    assert window.workspace is workspace


def test_open_elsewhere_is_read_copied_or_left(window, answers, demo):
    asked, given = answers
    other = ProjectStore.open(demo.worked)
    given[:] = [2]
    assert not window.open_project(demo.worked)
    assert "since" in asked[0][1]
    given[:] = [0]
    assert window.open_project(demo.worked)
    session = window.workspace.session
    said = []
    session.refused.connect(said.append)
    assert not session.edit("Add zone", lambda project: add_zone(project, "Mast")[0])
    assert "only be read" in said[-1]
    assert session.project.zones[-1].name != "Mast"
    given[:] = [1]
    window.close_project()
    assert window.open_project(demo.worked)
    assert window.workspace.session.store.path.name == "tordmule copy.sepia"
    assert window.workspace.session.edit("Add zone", lambda project: add_zone(project, "Mast")[0])
    window.close_project()
    other.close()


def test_photos_on_a_full_disk_are_refused_and_the_rest_stays(workspace, demo, monkeypatch):
    said = []
    workspace.session.refused.connect(said.append)

    def full(*_given):
        raise SaveError("the disk is full")

    monkeypatch.setattr(ProjectStore, "add_photo", full)
    before = workspace.session.project
    new = demo.folder / "new.jpg"
    shutil.copy(demo.photo("slide-1957.jpg"), new)
    workspace.add_photos([str(new), "/dev/zero", str(demo.folder)])
    assert workspace.session.project is before
    assert "the disk is full" in said[-1]
    assert "/dev/zero" in said[-1]


def test_a_shelf_that_is_damaged_does_not_keep_the_project_shut(window, demo):
    db = sqlite3.connect(demo.folder / SHELF_NAME)
    db.execute("UPDATE paint SET record = 'no' WHERE position = 3")
    db.execute("CREATE TRIGGER t AFTER INSERT ON paint BEGIN DELETE FROM paint; END")
    db.commit()
    db.close()
    assert window.open_project(demo.worked)
    assert "The shelf is empty until then" in window.workspace.session.opening_note
    assert window.workspace.session.shelf.records() == []
    for room in ("match", "tone", "glaze", "bench"):
        window.workspace.open_room(room)


def test_a_mistake_anywhere_is_told_saved_and_survived(
    window, workspace, mistakes, demo, tmp_path, qapp, monkeypatch
):
    said = []
    workspace.session.refused.connect(said.append)
    workspace.session.edit("Add zone", lambda project: add_zone(project, "Mast")[0])
    viewer = workspace.rooms["evidence"].viewer
    monkeypatch.setattr(viewer, "_scale", "not a number", raising=False)
    viewer.repaint()
    qapp.processEvents()
    assert mistakes
    assert "The program made a mistake" in said[-1]
    assert saved_zones(demo.worked)[-1] == "Mast"
    assert (tmp_path / "mistakes.txt").read_text().count("Traceback") >= 1
    monkeypatch.undo()
    mistakes.clear()


def test_titles_become_names_of_files(window, answers, monkeypatch, tmp_path):
    monkeypatch.setattr("lean_sepia.ui.shell.keeping.user_folder", lambda: tmp_path)
    for title in ("a/b", "x" * 400, "..", "line\nbreak", "\udcff"):
        assert window.starting.new_project(title)
        window.close_project()
    assert len(list((tmp_path / "projects").glob("*.sepia"))) == 5


def test_a_home_that_cannot_be_written_is_said(window, monkeypatch, tmp_path):
    (tmp_path / "file").touch()
    monkeypatch.setattr("lean_sepia.ui.shell.keeping.user_folder", lambda: tmp_path / "file")
    assert not window.starting.new_project("Tug")
    assert "cannot be written" in window.start_page.message.text()
