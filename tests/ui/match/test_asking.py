"""What is asked of Match, on a bare session without a window."""

import pytest

from lean_sepia.answers.match import AS_PLANNED, OWN_SHEEN
from lean_sepia.document.edits.coats import lay_varnish
from lean_sepia.document.store import ProjectStore
from lean_sepia.recipe.limits import NO_LIMITS, Limits
from lean_sepia.ui.kit.job import Jobs
from lean_sepia.ui.match.limits_line import LimitsLine
from lean_sepia.ui.match.wanted import Wanted
from lean_sepia.ui.shell.session import Session


@pytest.fixture
def session(qtbot, demo):
    answer = Session(ProjectStore.open(demo.worked), Jobs(synchronous=True))
    yield answer
    answer.close()
    answer.jobs.deleteLater()
    answer.deleteLater()


@pytest.fixture
def wanted(session, qtbot):
    answer = Wanted(session)
    for box in (answer.paints, answer.parts, answer.coats, answer.thinner, answer.volume, answer.sheen):
        qtbot.addWidget(box)
    session.choose_zone("hull")
    answer.take_up("hull")
    return answer


def test_the_boxes_start_from_how_the_base_is_laid(session, wanted):
    base = next(coat for coat in session.project.coats_of("hull") if coat.kind == "base")
    assert wanted.coats.value() == base.passes
    assert wanted.thinner_share == base.thinner_share
    assert wanted.volume.value() == pytest.approx(wanted.needed("hull").total_ml, abs=0.06)
    assert not wanted.laid_differently("hull")
    assert wanted.laid_differently("band")  # which has no base yet
    manner = wanted.manner("hull", "brush")
    assert (manner.passes, manner.thinner_share, manner.tool, manner.mix_ml) == (3, 0.6, "brush", None)


def test_the_amount_follows_until_one_is_asked_for(wanted):
    before = wanted.volume.value()
    wanted.coats.setValue(6)
    assert wanted.volume.value() > 1.8 * before
    assert wanted.laid_differently("hull")
    wanted.volume.setValue(5.0)
    wanted.coats.setValue(2)
    assert wanted.volume.value() == 5.0
    assert wanted.manner("hull", "airbrush").mix_ml == 5.0


def test_every_box_asks_anew(wanted, qtbot):
    for box, value in (
        (wanted.paints, 2),
        (wanted.parts, 12),
        (wanted.coats, 4),
        (wanted.thinner, 50),
        (wanted.volume, 8.0),
    ):
        with qtbot.waitSignal(wanted.changed):
            box.setValue(value)
    wanted.name_sheens("hull", fresh=True)
    with qtbot.waitSignal(wanted.changed):
        wanted.sheen.setCurrentIndex(2)


def test_sheens_are_named_after_the_plan(session, wanted):
    wanted.name_sheens("hull", fresh=True)
    assert wanted.sheen.itemText(0) == "under Matte coat"
    assert [wanted.sheen.itemData(i) for i in range(5)] == [AS_PLANNED, OWN_SHEEN, "flat", "satin", "gloss"]
    assert "planned" not in wanted.sheen.toolTip()
    wanted.sheen.setCurrentIndex(3)
    wanted.name_sheens("hull", fresh=False)
    assert wanted.sheen.currentData() == "satin"
    wanted.name_sheens("hull", fresh=True)
    assert wanted.sheen.currentData() == AS_PLANNED
    for coat in [c for c in session.project.coats_of("hull") if c.kind in ("matte-coat", "satin-coat")]:
        session.edit(
            "", lambda p, c=coat: p.model_copy(update={"coats": tuple(x for x in p.coats if x.id != c.id)})
        )
    wanted.name_sheens("hull", fresh=True)
    assert wanted.sheen.itemText(0) == "no varnish planned"
    assert "planned as the zone's varnish" in wanted.sheen.toolTip()
    session.edit("", lambda p: lay_varnish(p, ["hull"], "gloss-coat"))
    wanted.name_sheens("hull", fresh=True)
    assert wanted.sheen.itemText(0) == "under Gloss coat"


def test_strata_are_made_anew_only_where_something_of_theirs_changed(session):
    cuts = dict(session.cuts())
    session.edit("", lambda p: lay_varnish(p, ["house"], "gloss-coat"))
    again = session.cuts()
    assert again["house"] is not cuts["house"]
    for zone in ("hull", "boot", "funnel"):
        assert again[zone] is cuts[zone]
    session.undo()
    assert session.cut("house") == cuts["house"]


def test_edits_are_told_at_once_and_settle_after(session, qtbot):
    told = []
    session.changed.connect(lambda: told.append("changed"))
    session.settled.connect(lambda: told.append("settled"))
    session.edit("", lambda p: lay_varnish(p, ["house"], "gloss-coat"))
    assert told == ["changed", "settled"]
    session.edit("", lambda p: p)
    assert told == ["changed", "settled"]  # nothing changed
    session.undo()
    session.redo()
    assert told == ["changed", "settled"] * 3


@pytest.fixture
def line(qtbot):
    answer = LimitsLine()
    qtbot.addWidget(answer)
    return answer


def buttons(line):
    return list(line.widgets)


def test_without_limits_there_is_no_line(line):
    line.show_limits(NO_LIMITS, {}, None)
    assert line.isHidden()
    assert buttons(line) == []


def test_each_limit_can_be_taken_back(line):
    limits = Limits(None, frozenset({"chalk", "tan"}), frozenset({"lamp"}), {"sand": 4.0, "moss": 2.5}, 3.0)
    line.show_limits(limits, {"chalk": "Chalk", "lamp": "Lamp", "sand": "Sand"}, None)
    shown = {button.text(): button for button in buttons(line)}
    assert list(shown) == [
        "without Chalk ×",
        "without tan ×",
        "with Lamp ×",
        "within 2.5 ml of moss ×",
        "within 4 ml of Sand ×",
    ]
    left = []
    line.limits_wanted.connect(left.append)
    for button in shown.values():
        button.click()
    assert [one.forbid for one in left[:2]] == [{"tan"}, {"chalk"}]
    assert left[2].must == frozenset()
    assert [dict(one.stock_ml) for one in left[3:]] == [{"sand": 4.0}, {"moss": 2.5}]
    assert all(one.volume_ml == 3.0 for one in left)
