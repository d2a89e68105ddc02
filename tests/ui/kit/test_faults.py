"""Errors in handlers that Qt calls never reach Qt: noted once, and Qt gets its own class's answer."""

import sys
import threading

import pytest
from PySide6.QtCore import QEvent, QSize, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget

from lean_sepia.ui.kit.faults import catch_uncaught, faults, guarded, report_file

FAULTS = {
    "index": lambda: [][3], "zero": lambda: 1 // 0, "stop": lambda: next(iter(())), "value": lambda: round(float("nan")),
    "key": lambda: {}["x"], "deep": lambda: _deeper(),
}  # fmt: skip


def _deeper():
    return _deeper()


@pytest.mark.parametrize("fault", FAULTS)
def test_nothing_leaves_a_handler(qapp, mistakes, fault):
    @guarded
    class Broken(QWidget):
        def paintEvent(self, _event):
            FAULTS[fault]()

        def mousePressEvent(self, _event):
            FAULTS[fault]()

        def sizeHint(self):
            FAULTS[fault]()

        def event(self, event):
            if event.type() == QEvent.Type.MouseButtonRelease:
                FAULTS[fault]()
            return super().event(event)

        def eventFilter(self, _watched, event):
            if event.type() == QEvent.Type.MouseMove:
                FAULTS[fault]()
            return False

    widget = Broken()
    widget.installEventFilter(widget)
    widget.show()
    widget.repaint()
    assert isinstance(widget.sizeHint(), QSize)
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton)
    QTest.mouseMove(widget)
    qapp.processEvents()
    widget.close()
    assert mistakes
    assert report_file is not None
    mistakes.clear()


def test_each_place_is_told_once(mistakes, tmp_path):
    for _time in range(5):
        try:
            [][3]
        except IndexError as error:
            faults.note(error)
    assert len(mistakes) == 1
    assert (tmp_path / "mistakes.txt").read_text().count("IndexError") == 1
    mistakes.clear()


def test_reports_do_not_grow_for_ever(mistakes, tmp_path):
    (tmp_path / "mistakes.txt").write_text("x" * 2_000_000)
    faults.note(ValueError("y" * 5000))
    assert (tmp_path / "mistakes.txt").stat().st_size < 100_000
    assert len(mistakes[0]) < 300
    mistakes.clear()


def test_a_report_that_cannot_be_written_is_no_mistake_more(mistakes, tmp_path):
    (tmp_path / "mistakes.txt").mkdir()
    faults.note(ValueError("told all the same"))
    assert mistakes == ["ValueError: told all the same"]
    mistakes.clear()


def test_threads_and_slots_are_heard(qapp, mistakes, monkeypatch):
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    monkeypatch.setattr(threading, "excepthook", threading.excepthook)
    catch_uncaught()
    thread = threading.Thread(target=lambda: [][1])
    thread.start()
    thread.join()
    sys.excepthook(ZeroDivisionError, ZeroDivisionError("slot"), None)
    qapp.processEvents()
    assert len(mistakes) == 2
    mistakes.clear()
