"""What keeps the window free: rooms loaded ahead, paints built in a job, drawing in turns."""

import sys

import pytest

from lean_sepia.document.store import ProjectStore
from lean_sepia.ui.kit.job import Jobs
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.shell.window import load_first_room
from lean_sepia.ui.shell.workspace import load_room


class Page(RoomPage):
    """A room that counts how often it is drawn."""

    needs_paints = True

    def __init__(self, session):
        super().__init__(session)
        self.drawn = 0

    def refresh(self):
        assert self.session.shelf.ready  # never built on the way to the screen
        self.drawn += 1


@pytest.fixture
def session(qtbot, demo):
    answer = Session(ProjectStore.open(demo.worked), Jobs())
    yield answer
    answer.close()
    answer.jobs.deleteLater()
    answer.deleteLater()


def test_a_room_waits_for_the_paints_and_draws_once(session, qtbot):
    page = Page(session)
    qtbot.addWidget(page)
    assert not session.shelf.ready
    page.show()
    assert page.drawn == 0
    qtbot.waitUntil(lambda: session.jobs.idle, timeout=20_000)
    assert page.drawn == 1
    page.hide()
    session.choose_zone("boot")
    session.choose_zone("hull")
    assert page.drawn == 1  # out of sight it is only marked
    page.show()
    qtbot.waitUntil(lambda: session.jobs.idle)
    assert page.drawn == 2
    session.choose_zone("boot")
    assert page.drawn == 3  # in sight it follows at once


def test_what_settles_comes_after_what_the_hand_did(session, qtbot):
    told = []
    session.changed.connect(lambda: told.append("changed"))
    session.settled.connect(lambda: told.append("settled"))
    session.edit("", lambda p: p.model_copy(update={"title": "Other"}))
    session.edit("", lambda p: p.model_copy(update={"title": "Another"}))
    assert told == ["changed", "changed"]
    qtbot.waitUntil(lambda: session.jobs.idle)
    assert told == ["changed", "changed", "settled"]


def test_the_first_room_is_loaded_ahead():
    load_first_room(lambda _share: None)
    assert "lean_sepia.ui.evidence.evidence_room" in sys.modules
    assert load_room("match").needs_paints
    assert not load_room("evidence").needs_paints
