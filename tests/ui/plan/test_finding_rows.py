"""What was found: an offer that lays coats otherwise shows what that does, asks, and is one undo."""

import pytest
from PySide6.QtWidgets import QPushButton

from lean_sepia.answers.working.mending import mend_of
from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.ui.kit.swatch import Fields


@pytest.fixture
def room(workspace):
    workspace.open_room("plan")
    return workspace.rooms["plan"]


def pressed(rows, words):
    button = next(b for b in rows.findChildren(QPushButton) if b.text() == words)
    button.click()


@pytest.fixture
def turning(room, workspace):
    """A wash laid under the chips: the rules would rather have them toned by it, and only turning them over ends that."""
    session = workspace.session
    chips = next(coat for coat in session.project.coats_of("hull") if coat.kind == "chips")
    under = session.project.coats_of("hull")[
        [c.id for c in session.project.coats_of("hull")].index(chips.id) - 1
    ]
    wash = Mix(lab=(25.0, 4.0, 10.0), medium="enamel")
    session.edit("Wash", lambda p: lay(p, ["hull"], "wash", wash, Manner(1, 0.9, "flood"), above=under.id)[0])
    finding = next(one for one in room.answer.findings if one.code == "chips-after-wash")
    return finding, mend_of(session.project, finding)


def test_an_offer_that_turns_coats_over_shows_both_colours_and_asks(room, workspace, turning):
    session, (_finding, mend) = workspace.session, turning
    before = {zone.id: [c.id for c in session.project.coats_of(zone.id)] for zone in session.project.zones}
    pressed(room.findings, "Mend it…")
    assert {z.id: [c.id for c in session.project.coats_of(z.id)] for z in session.project.zones} == before
    assert len(room.findings.findChildren(Fields)) == len(mend.turned)
    pressed(room.findings, "Leave it")
    assert not any(field.isVisible() for field in room.findings.findChildren(Fields))
    pressed(room.findings, "Mend it…")
    pressed(room.findings, "Lay it so")
    after = {zone.id: [c.id for c in session.project.coats_of(zone.id)] for zone in session.project.zones}
    assert {zone for zone in before if before[zone] != after[zone]} == set(mend.turned)
    session.undo()
    assert {z.id: [c.id for c in session.project.coats_of(z.id)] for z in session.project.zones} == before
