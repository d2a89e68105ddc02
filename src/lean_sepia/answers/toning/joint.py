"""One lightener for the whole vehicle: in parts of its own for each zone, all laid in the same number of mists."""

from __future__ import annotations

from collections.abc import Sequence

from lean_sepia.answers.toning.fading import FADE_COATS, MOST_RATIO, SHOWN, ToneQuestion
from lean_sepia.document.edits.coats import lay_fade
from lean_sepia.document.model import Project
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.recipe.fades.fade import Lightener
from lean_sepia.recipe.fades.mists import Faded, Joint, choose_joint, mists_of


def joint(questions: Sequence[ToneQuestion]) -> list[Joint]:
    """One lightener for several zones, each in parts of its own, all laid in the same number of mists.

    Raises
    ------
    EditError
        Fewer than two zones have a base cup and a faded colour.
    ShelfError
        No paint mixes with all bases.
    """
    cups = [question for question in questions if question.cup]
    if len(cups) < 2:
        raise EditError(
            _("One lightener for all needs two zones with a base of their own and a faded colour.")
        )
    zones = []
    for question in cups:
        mists = question.spray.mists or FADE_COATS
        zones.append(Faded(question.base, question.goal, mists_of(question.mist, mists)))
    return choose_joint(cups[0].paints, zones, MOST_RATIO)[:SHOWN]


def lay_option(project: Project, question: ToneQuestion, option: Lightener) -> Project:
    """Lay a lightener on its zone in the number of mists the question says, or the usual one."""
    mists = question.spray.mists or FADE_COATS
    return lay_fade(project, question.zone, *question.mix(option, mists))
