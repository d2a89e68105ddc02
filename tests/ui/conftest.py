"""A window on a copy of the demo, and a check that no test leaves anything alive."""

from dataclasses import replace

import pytest
from PySide6.QtCore import QPointF, QThreadPool
from PySide6.QtWidgets import QApplication

from lean_sepia.ui.kit import theme
from lean_sepia.ui.kit.faults import faults
from lean_sepia.ui.shell.settings import Settings
from lean_sepia.ui.shell.window import MainWindow


@pytest.fixture(scope="session")
def qapp_cls():
    return QApplication


@pytest.fixture(scope="session", autouse=True)
def dressed(qapp):
    """Fonts and day lighting, once."""
    theme.load_fonts()
    theme.apply(qapp, theme.DAY)


@pytest.fixture(autouse=True)
def nothing_left_alive(qapp):
    """Fails a test that leaves a window or a thread behind."""
    yield
    qapp.processEvents()
    shown = [widget for widget in qapp.topLevelWidgets() if widget.isVisible()]
    assert shown == []
    assert QThreadPool.globalInstance().activeThreadCount() == 0


@pytest.fixture(autouse=True)
def mistakes(qapp, tmp_path, monkeypatch):
    """Errors that were kept from Qt: a test that means to make some empties the list."""
    told = []
    monkeypatch.setattr("lean_sepia.ui.kit.faults.report_file", lambda: tmp_path / "mistakes.txt")
    faults.forget()
    faults.happened.connect(told.append)
    yield told
    faults.happened.disconnect(told.append)
    assert told == []


@pytest.fixture
def window(qtbot):
    """The main window, its jobs run at once."""
    answer = MainWindow(Settings(), synchronous=True, remember=False)
    answer.resize(1280, 800)  # the offscreen display is smaller than any real one
    answer.show()
    yield answer
    answer.close()
    answer.deleteLater()
    QApplication.processEvents()


_ROOMS = ("match", "tone", "glaze", "wear", "plan", "bench")


@pytest.fixture
def workspace(window, demo, request):
    """The half-worked demo, open; in the tests of a room as if that had been open last."""
    room = request.path.parent.name
    if room in _ROOMS:
        place = str(demo.worked.absolute())
        window.settings = replace(window.settings, recent=(place,), rooms=((place, room),))
    assert window.open_project(demo.worked)
    return window.workspace


@pytest.fixture
def untouched(window, demo):
    """The untouched demo, open."""
    assert window.open_project(demo.untouched)
    return window.workspace


@pytest.fixture
def widget_point():
    """Where on a photo viewer a pixel x, y of its photo lies."""

    def place(viewer, x, y):
        return (QPointF(x, y) * viewer._scale + viewer._offset).toPoint()

    return place
