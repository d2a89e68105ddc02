"""Folders that go away, mistakes while closing, and names without their ending: the work is never taken along."""

import os
import threading

import pytest
from PySide6.QtWidgets import QMainWindow

from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import SaveError
from lean_sepia.ui.kit.dialogs.file_filters import projects
from lean_sepia.ui.kit.dialogs.files import ask_place, with_ending
from lean_sepia.ui.kit.faults import guarded


def mast(session):
    return session.edit("Add zone", lambda project: add_zone(project, "Mast")[0])


def zones_in(path):
    store = ProjectStore.open(path, reading=True)
    found = [zone.name for zone in store.load()[0].zones]
    store.close()
    return found


@pytest.fixture
def said(workspace):
    told = []
    workspace.session.refused.connect(told.append)
    return told


@pytest.fixture
def locked_folder(demo, monkeypatch):
    """The project's folder can no longer be looked into, as after a change of permissions or a share that is gone."""
    stat, access, lstat = os.stat, os.access, os.lstat
    inside = str(demo.folder)

    def refuse(really):
        def asked(path, *more, **named):
            if isinstance(path, str | os.PathLike) and os.fspath(path).startswith(inside + os.sep):
                raise PermissionError(13, "Permission denied", str(path))
            return really(path, *more, **named)

        return asked

    monkeypatch.setattr(os, "stat", refuse(stat))
    monkeypatch.setattr(os, "lstat", refuse(lstat))
    monkeypatch.setattr(
        os,
        "access",
        lambda path, mode, **named: not str(path).startswith(inside) and access(path, mode, **named),
    )
    yield
    monkeypatch.undo()


def test_a_folder_that_cannot_be_read_any_more_is_said_and_work_goes_on(
    window, workspace, said, locked_folder, tmp_path
):
    assert mast(workspace.session)
    assert workspace.session.save_now() is None
    kept = workspace.session.store.path
    assert str(kept).startswith(str(tmp_path / "data"))
    assert "goes on in" in said[-1]
    assert zones_in(kept)[-1] == "Mast"
    assert window.close()


@pytest.mark.parametrize("other", ["another", "a copy"])
def test_what_is_lost_with_a_file_that_was_written_over_is_said(window, workspace, said, demo, other):
    photos = len(workspace.session.project.photos)
    place = demo.worked
    ProjectStore.create(demo.folder / "x.sepia", Project(title="x")).close()
    place.write_bytes((demo.folder / "x.sepia" if other == "another" else demo.untouched).read_bytes())
    mast(workspace.session)
    assert workspace.session.save_now() is None
    assert "goes on in" in said[-1]
    assert (f"{photos} photos were lost with it" in said[-1]) is (other == "another")
    assert zones_in(workspace.session.store.path)[-1] == "Mast"
    assert window.close()


def test_a_folder_without_a_way_out_asks_before_closing(
    window, workspace, said, locked_folder, monkeypatch, mistakes
):
    asked = []
    monkeypatch.setattr(
        "lean_sepia.ui.shell.session.user_folder", lambda: workspace.session.store.path.parent
    )
    monkeypatch.setattr(
        "lean_sepia.ui.shell.keeping.choose", lambda *question: (asked.append(question), 2)[1]
    )
    mast(workspace.session)
    assert workspace.session.save_now() is not None
    assert workspace.session._autosave.isActive()
    assert not window.close()
    assert "only in this window" in asked[0][2]
    workspace.session.history.undo()


def test_saving_by_itself_waits_for_a_photo_that_is_stored(workspace, qtbot):
    session, held, go = workspace.session, threading.Event(), threading.Event()

    def store_something():
        with session.store._db.alone():
            held.set()
            go.wait(10)

    thread = threading.Thread(target=store_something)
    thread.start()
    assert held.wait(5)
    mast(session)
    session._save_by_itself()  # it does not wait here
    assert session.unsaved
    assert session._autosave.isActive()
    go.set()
    thread.join()
    qtbot.waitUntil(lambda: not session.unsaved)


def test_a_mistake_in_saving_does_not_end_saving(workspace, monkeypatch):
    monkeypatch.setattr(ProjectStore, "save", lambda *_a: 1 / 0)
    mast(workspace.session)
    with pytest.raises(ZeroDivisionError):
        workspace.session.save_now()
    assert workspace.session._autosave.isActive()
    assert workspace.session.unsaved
    monkeypatch.undo()
    assert workspace.session.save_now() is None


@pytest.mark.parametrize(("answer", "closed"), [(0, False), (None, False), (1, True)])
def test_a_mistake_while_closing_never_closes_by_itself(
    window, workspace, monkeypatch, mistakes, answer, closed
):
    asked = []
    monkeypatch.setattr(
        "lean_sepia.ui.shell.keeping.choose", lambda *question: (asked.append(question), answer)[1]
    )
    monkeypatch.setattr(ProjectStore, "save", lambda *_a: 1 / 0)
    mast(workspace.session)
    assert window.close() is closed
    assert window.isVisible() is not closed
    assert "made a mistake" in asked[0][2]
    assert "only in this window" in asked[0][2]
    monkeypatch.undo()
    mistakes.clear()


def test_a_close_handler_with_a_mistake_keeps_its_window(qtbot, mistakes):
    @guarded
    class Fragile(QMainWindow):
        def closeEvent(self, _event):
            raise RuntimeError("no")

    window = Fragile()
    window.show()
    assert not window.close()
    assert window.isVisible()
    mistakes.clear()
    window.deleteLater()
    window.hide()


@pytest.mark.parametrize("fault", [SaveError("the disk is full"), ZeroDivisionError("no")])
def test_saved_is_only_said_when_it_is(window, workspace, said, monkeypatch, mistakes, fault):
    def fail(*_given):
        raise fault

    mast(workspace.session)
    monkeypatch.setattr(ProjectStore, "save", fail)
    window._tell_mistake("IndexError: 3")
    assert "The program made a mistake (IndexError: 3)" in said[-1]
    assert not any("Your work is saved" in words for words in said)
    monkeypatch.undo()
    window._tell_mistake("IndexError: 4")
    assert "Your work is saved" in said[-1]
    mistakes.clear()


# Names without their ending


@pytest.fixture
def typed(monkeypatch):
    """The system's dialog answers with a name and a kind, one after the other."""
    answers = []
    monkeypatch.setattr("PySide6.QtWidgets.QFileDialog.getSaveFileName", lambda *_a: answers.pop(0))
    return answers


@pytest.fixture
def asked(monkeypatch):
    questions, answers = [], []
    monkeypatch.setattr(
        "lean_sepia.ui.kit.dialogs.files.confirm",
        lambda *question: (questions.append(question[2]), answers.pop(0))[1],
    )
    return questions, answers


def test_a_copy_typed_without_its_ending_asks_before_it_replaces(window, workspace, demo, typed, asked):
    other = demo.folder / "other.sepia"
    ProjectStore.create(other, Project(title="Other")).close()
    before = other.read_bytes()
    questions, answers = asked
    typed += [(str(demo.folder / "other"), ""), ("", "")]
    answers += [False]
    window.ask_save_copy()
    assert other.read_bytes() == before
    assert questions == [f"{other} is there already. Replace it?"]
    typed += [(str(demo.folder / "other"), "")]
    answers += [True]
    window.ask_save_copy()
    assert zones_in(other) == [zone.name for zone in workspace.session.project.zones]


KINDS = {
    "project": projects(),
    "card": "PDF (*.pdf)",
    "calendar": "Calendar (*.ics)",
    "shelf": "Shelf (*.json);;Colours (*.csv);;CGATS text (*.txt);;Palette (*.gpl)",
}


@pytest.mark.parametrize("kinds", KINDS.values(), ids=KINDS)
def test_every_kind_of_file_asks(tmp_path, typed, asked, kinds):
    questions, answers = asked
    ending = kinds.split("(*")[1].split(")")[0]
    (tmp_path / f"mine{ending}").write_text("precious")
    typed += [(str(tmp_path / "mine"), ""), (str(tmp_path / "free"), "")]
    answers += [False]
    assert ask_place(None, "Write", f"x{ending}", kinds) == tmp_path / f"free{ending}"
    assert len(questions) == 1
    typed += [(str(tmp_path / f"mine{ending}"), "")]
    assert ask_place(None, "Write", f"x{ending}", kinds) == tmp_path / f"mine{ending}"
    assert len(questions) == 1  # the system's own dialog asked already


@pytest.mark.parametrize(
    ("name", "kind", "ended"),
    [
        ("a", "", "a.json"), ("a", "Colours (*.csv)", "a.csv"), ("a.CSV", "Shelf (*.json)", "a.CSV"),
        ("my.shelf", "Palette (*.gpl)", "my.shelf.gpl"), ("a.txt", "", "a.txt"),
    ],
)  # fmt: skip
def test_the_ending_is_that_of_the_chosen_kind(tmp_path, name, kind, ended):
    assert with_ending(tmp_path / name, KINDS["shelf"], kind) == tmp_path / ended


@pytest.mark.parametrize("title", ["../../etc/x", "/tmp/x", "a\nb\r\x00c", "x" * 900])
def test_a_title_never_steers_the_dialog(tmp_path, monkeypatch, title):
    offered = []
    monkeypatch.setattr(
        "PySide6.QtWidgets.QFileDialog.getSaveFileName",
        lambda _p, _t, start, _k: (offered.append(start), ("", ""))[1],
    )
    monkeypatch.setattr("lean_sepia.ui.kit.dialogs.files.last_folder", lambda: str(tmp_path))
    ask_place(None, "Write", f"{title}.ics", "Calendar (*.ics)")
    folder, name = os.path.split(offered[0])
    assert folder == str(tmp_path)
    assert name.endswith(".ics")
    assert name.isprintable()
    assert len(name) < 200
