"""What a step waits for and works on is named, let go and saved on its sheet."""

from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.serving import served
from lean_sepia.ui.plan.step_sheet import StepSheet
from lean_sepia.ui.plan.step_ties import StepTies


def test_one_is_tied_once_and_let_go(qtbot):
    ties = StepTies({"a": "Base", "b": "Wash"}, ("b", "gone"), "It waits for it", "Step to wait for")
    qtbot.addWidget(ties)
    assert ties.chosen == ("b",)
    ties.other.choose("a")
    ties.tie.click()
    ties.tie.click()
    assert ties.chosen == ("b", "a")
    ties._untie("b")
    assert ties.chosen == ("a",)


def test_without_another_step_there_is_nothing_to_tie(qtbot):
    ties = StepTies({}, (), "It waits for it", "Step to wait for")
    qtbot.addWidget(ties)
    assert not ties.tie.isEnabled()


def test_what_a_wiping_works_on_is_changed_on_its_sheet_and_undone(workspace):
    session = workspace.session
    wash = Mix(lab=(25.0, 4.0, 10.0), medium="oil")
    for _time in range(2):
        session.edit("Wash", lambda p: lay(p, ["hull"], "wash", wash, Manner(1, 0.9, "flood"))[0])
    first, second = (coat.step for coat in session.project.coats_of("hull") if coat.kind == "wash")
    session.edit("Wipe", lambda p: lay(p, ["hull"], "wipe-back", Mix(), Manner(1, area_share=0.5))[0])
    wipe = next(step for step in session.project.steps if step.kind == "wipe-back")
    assert served(session.project, wipe) == (second,)
    sheet = StepSheet(session, wipe.id)
    sheet.serves.other.choose(first)
    sheet.serves.tie.click()
    sheet.serves._untie(second)
    sheet.keep()
    assert served(session.project, session.project.step(wipe.id)) == (first,)
    order = [step.id for step in session.project.steps]
    assert order.index(first) < order.index(wipe.id) < order.index(second)
    session.undo()
    assert served(session.project, session.project.step(wipe.id)) == (second,)
    sheet.deleteLater()
