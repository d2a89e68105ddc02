"""Whether a coat shows: the cases that practice names."""

from dataclasses import replace

import pytest

from lean_sepia.answers.coats.draft import usual_draft
from lean_sepia.answers.coats.laying import answer
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.coats.showing import nearest_that_shows, showing_of, showing_words
from lean_sepia.document.edits.coats import lay, lay_varnish
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.model import Project


@pytest.fixture
def on(shelf_paints):
    """A function that lays a kind of coat of something on a base of a bottle."""

    def laid(base, kind, of, **figures):
        project, zone = add_zone(Project(title="Tender"), "Hull")
        project, _coat = lay(project, [zone], "base", Mix.of(shelf_paints, [(base, 1)]), Manner(4))
        draft = replace(usual_draft(kind), of=of, **figures)
        return answer(LayQuestion(project, (zone,), draft, tuple(shelf_paints)))

    return laid


@pytest.mark.parametrize(
    ("base", "kind", "of", "verdicts"),
    [
        ("oxide", "chips", "38, 21, 15", ("vanishes", "just shows")),  # rust on a red-brown body
        ("fog-grey", "chips", "#5a3020", ("stark",)),
        ("bone-white", "marking", "chalk", ("vanishes", "just shows", "clear")),  # white on white
        ("night-blue", "marking", "chalk", ("stark",)),
        ("slate-teal", "filter", "slate teal", ("vanishes",)),
    ],
)
def test_what_lies_on_what_shows_as_practice_says(on, base, kind, of, verdicts):
    found = on(base, kind, of)
    assert found.showing.verdict in verdicts, found.showing


def test_yellow_ink_on_blue_does_not_read_and_white_beneath_helps(on):
    found = on("night-blue", "marking", "ochre", thinned="85 % thinner")
    assert not found.showing.reads
    assert any("White beneath" in words for words in found.remarks)
    assert any("nearest bottle that would show" in words for words in found.remarks)


def test_the_nearest_bottle_shows_indeed_and_another_would_not(on, shelf_paints):
    found = on("oxide", "chips", "38, 21, 15")
    coat = found.project.coat(found.coat)
    paint, much = nearest_that_shows(found.project, coat, shelf_paints)
    assert much >= 6.0
    laid = on("oxide", "chips", paint.name)
    assert laid.showing.later == pytest.approx(much, abs=0.05)
    hidden, little = nearest_that_shows(found.project, coat, shelf_paints, hidden=True)
    assert little < 3.0
    assert hidden.id != paint.id


def test_a_full_coat_over_it_hides_it_and_the_sentence_says_so(on, shelf_paints):
    found = on("fog-grey", "chips", "#5a3020")
    coat = found.project.coat(found.coat)
    project, _later = lay(
        found.project, [coat.zone], "tone", Mix.of(shelf_paints, [("squall", 1)]), Manner(6), above=coat.id
    )
    showing = showing_of(project, coat)
    assert showing.verdict == "vanishes"
    assert "After what is laid later: vanishes" in showing_words(coat, showing)
    clear = lay_varnish(found.project, [coat.zone], "matte-coat")
    assert showing_of(clear, coat).verdict == "stark"


def test_dark_wash_is_stronger_on_yellow_than_on_red(on):
    yellow = on("ochre", "wash", "oil burnt umber").showing.later
    red = on("boot-red", "wash", "oil burnt umber").showing.later
    assert yellow > red
