"""Parts of the window are imported beside the interface thread only once it has made every type of Qt."""

import threading

import pytest
from PySide6 import QtWidgets

from lean_sepia.ui.kit import importing
from lean_sepia.ui.kit.job import Jobs


@pytest.fixture
def fresh(monkeypatch, qapp):
    """As if no type had been made yet; what is made is listed, with the thread that made it."""
    made = []

    def names_of(module):
        found = names(module)
        made.extend((name, threading.current_thread()) for _module, name in found)
        return found

    names = importing._names_of
    types = importing._Types()
    monkeypatch.setattr(importing, "_names_of", names_of)
    monkeypatch.setattr(importing, "_types", lambda: types)
    yield made
    types.deleteLater()


@pytest.fixture
def jobs(qtbot):
    answer = Jobs()
    yield answer
    answer.close()
    answer.deleteLater()


def test_nothing_is_imported_beside_before_all_types_are_made(fresh, jobs, qtbot):
    seen = []

    def load(_progress):
        seen.append((len(fresh), threading.current_thread()))
        return "room"

    with qtbot.waitSignal(jobs.busy_changed):
        importing.import_beside(jobs, "room", load, seen.append)
        assert fresh == []  # the window goes on; the types are made in its turns
    qtbot.waitUntil(lambda: "room" in seen)
    count, thread = seen[0]
    assert count == len(fresh) > len(dir(QtWidgets))
    assert {name for name, _thread in fresh} >= {"QCommonStyle", "QPainter", "QTimer"}
    assert {thread for _name, thread in fresh} == {threading.main_thread()}
    assert thread is not threading.main_thread()


def test_once_they_are_made_nothing_waits(fresh, jobs, qtbot):
    seen = []
    importing.import_beside(jobs, "first", lambda _p: 1, seen.append)
    qtbot.waitUntil(lambda: seen == [1])
    importing.import_beside(jobs, "second", lambda _p: 2, seen.append)
    assert not jobs.idle  # begun at once
    qtbot.waitUntil(lambda: seen == [1, 2])


def test_jobs_that_are_gone_are_not_begun(fresh, jobs, qtbot):
    gone, seen = Jobs(), []
    importing.import_beside(gone, "room", lambda _p: seen.append("begun"), seen.append)
    gone.close()
    gone.deleteLater()
    importing.import_beside(jobs, "room", lambda _p: "then", seen.append)
    qtbot.waitUntil(lambda: seen == ["then"])
