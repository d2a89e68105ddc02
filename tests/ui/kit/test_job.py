"""Background work: answers on the interface thread, newest only, every fault visible, cancel."""

import threading
from functools import partial

import pytest
from PySide6.QtCore import QThread
from PySide6.QtWidgets import QLabel, QWidget
from shiboken6 import delete

from lean_sepia.errors import BadInputError
from lean_sepia.ui.kit.job import Jobs


@pytest.fixture
def jobs(qtbot):
    answer = Jobs()
    yield answer
    answer.close()
    answer.deleteLater()


def test_answers_come_on_the_interface_thread(jobs, qtbot, qapp):
    got = []
    jobs.start(
        "a",
        lambda _p: threading.get_ident(),
        lambda answer: got.append((answer, QThread.currentThread() is qapp.thread())),
    )
    qtbot.waitUntil(lambda: bool(got))
    assert got[0][0] != threading.get_ident()
    assert got[0][1]
    assert jobs.idle


def test_only_the_newest_answer_of_a_kind_counts(jobs, qtbot):
    gate = threading.Event()
    got = []

    def slow(progress):
        gate.wait(5)
        progress(0.5)
        return "old"

    jobs.start("a", slow, got.append)
    jobs.start("a", lambda _p: "new", got.append)
    gate.set()
    qtbot.waitUntil(lambda: jobs.idle)
    assert got == ["new"]


@pytest.mark.parametrize(
    ("fault", "words"), [(BadInputError("The card is wet."), "wet"), (ZeroDivisionError("0"), "mistake")]
)
def test_every_fault_is_told(jobs, qtbot, fault, words, mistakes):
    def broken(_progress):
        raise fault

    with qtbot.waitSignal(jobs.failed) as caught:
        jobs.start("a", broken, lambda _a: pytest.fail("no answer was expected"))
    assert words in caught.args[0]
    assert jobs.idle
    assert [told for told in mistakes if "ZeroDivision" not in told] == []
    mistakes.clear()


def test_an_answer_for_a_view_that_was_closed_is_dropped(jobs, qtbot, mistakes):
    class View(QWidget):
        def __init__(self):
            super().__init__()
            self.words = QLabel("waiting", self)

        def show_answer(self, number, answer):
            self.words.setText(f"{number} {answer}")

    view, gate = View(), threading.Event()
    jobs.start("a", lambda _p: gate.wait(5), partial(view.show_answer, 3))
    jobs.later("b", partial(view.show_answer, 4, 5))
    delete(view)
    gate.set()
    qtbot.waitUntil(lambda: jobs.idle)
    assert mistakes == []


def test_cancel_stops_at_the_next_report(jobs, qtbot):
    reached = []

    def work(progress):
        for step in range(1000):
            progress(step / 1000)
            threading.Event().wait(0.002)
        reached.append("end")

    job = jobs.start("a", work, lambda _a: reached.append("done"))
    job.cancel()
    qtbot.waitUntil(lambda: jobs.idle)
    assert reached == []


def test_pieces_of_drawing_take_turns_and_only_the_newest_of_a_kind(jobs, qtbot):
    drawn = []
    for name in ("old", "new"):
        jobs.later("plot", lambda name=name: drawn.append(name))
    jobs.later("list", lambda: drawn.append("list"))
    assert not jobs.idle
    assert drawn == []
    qtbot.waitUntil(lambda: jobs.idle)
    assert drawn == ["new", "list"]


def test_what_nobody_waits_for_starts_at_rest_and_once(jobs, qtbot):
    told = []
    for name in ("first", "second"):
        jobs.at_rest("help", lambda _p, name=name: name, told.append)
    assert not jobs.idle
    assert told == []
    qtbot.waitUntil(lambda: jobs.idle)
    assert told == ["second"]


def test_a_closed_pool_draws_nothing_more(qtbot):
    jobs, drawn = Jobs(), []
    jobs.later("plot", lambda: drawn.append("plot"))
    jobs.at_rest("help", lambda _p: "help", drawn.append)
    jobs.close()
    qtbot.wait(300)
    assert drawn == []
    jobs.deleteLater()


def test_nothing_begins_once_the_pool_is_closed(qtbot):
    jobs, told = Jobs(), []
    jobs.close()
    jobs.start("a", lambda _p: "answer", told.append)
    jobs.at_rest("b", lambda _p: "answer", told.append)
    jobs.later("c", lambda: told.append("drawn"))
    qtbot.wait(50)
    assert told == []
    assert jobs.idle
    jobs.deleteLater()
