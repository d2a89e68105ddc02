"""What there is to say of a match: why it misses, what would bring it nearer, and how sure it is."""

from __future__ import annotations

import math

from lean_sepia.answers.match import MatchAnswer, MatchQuestion
from lean_sepia.answers.targets import Target
from lean_sepia.language import N_, _, ngettext
from lean_sepia.paint.paint import Knowledge
from lean_sepia.recipe.behaviour import Behaviour
from lean_sepia.recipe.covering import what_covers
from lean_sepia.recipe.knowing import WHAT
from lean_sepia.recipe.mix import MixSolver, Recipe
from lean_sepia.recipe.mixture_table import Progress, no_progress
from lean_sepia.recipe.reasons import why_not_exactly

_SHORT_OF_A_COAT = 0.2  # by so much may a coat fall short and nobody sees it
_WORTH_SAYING = 0.3  # ΔE00 that other tools must gain
_MATTERS = 0.5  # of the photo's own range: a smaller miss is not worth a reason


def why_not_exactly_in(answer: MatchAnswer, progress: Progress = no_progress) -> str:
    """Why the best of the choices misses the target; empty where that matters less than the photo's own range."""
    target = answer.question.target
    best = min((choice.recipe for choice in answer.choices), key=lambda recipe: recipe.de00)
    if best.de00 <= max(1.0, _MATTERS * (target.de00_90 or 0.0)):
        return ""
    if ground := _what_covers(answer, best):
        return ground
    return why_not_exactly(answer.question.paints, target.lab, best, answer.question.laying, progress)


def _what_covers(answer: MatchAnswer, best: Recipe) -> str:
    """What helps where what lies below shines through, in words; empty where that is not the reason."""
    question = answer.question
    found = what_covers(
        question.paints, question.primers, question.target.lab, best, question.laying, question.coats, question.max_paints
    )  # fmt: skip
    if found is None:
        return ""
    said = [
        _("What lies below shines through: in coats that hide it comes to {0:.1f}.").format(found.opaque.de00)
    ]
    names = {paint.id: paint.name for paint in question.paints}
    mix = " + ".join(f"{count} {names[name]}" for name, count in found.opaque.parts)
    if found.coats is not None:
        said.append(
            ngettext("{0} coat of {1} does that.", "{0} coats of {1} do that.", found.coats).format(
                found.coats, mix
            )
        )
    if found.primer is not None:
        primer, away = found.primer
        said.append(_("Over {0} first, the coats you lay come to {1:.1f}.").format(primer.name, away))
    if found.coats is None and found.primer is None:
        said.append(_("A light primer below it helps; none is on the shelf."))
    return " ".join(said)


def _taken_as_hiding(answer: MatchAnswer) -> str:
    """That nothing is said of what lies below, and in how many coats the first choice hides; empty where it is said."""
    question, how = answer.question, answer.behaviours[0]
    if question.laying.ground is not None or how.hides_coats is None:
        return ""
    coats = max(1, math.ceil(how.hides_coats - _SHORT_OF_A_COAT))
    if coats <= question.coats:
        return ""
    words = ngettext(
        "Nothing is said of what lies below: as thick as hides anything, {0} coat laid so. Say what is there, and it is counted.",
        "Nothing is said of what lies below: as thick as hides anything, {0} coats laid so. Say what is there, and it is counted.",
        coats,
    )
    return words.format(coats)


def remarks(answer: MatchAnswer, progress: Progress = no_progress) -> str:
    """Why not exactly, and what more would gain: what takes a while to find out."""
    said = (
        why_not_exactly_in(answer, progress),
        _taken_as_hiding(answer),
        what_more_would_gain(answer, progress),
    )
    return " ".join(sentence for sentence in said if sentence)


def what_more_would_gain(answer: MatchAnswer, progress: Progress = no_progress) -> str:
    """How much nearer the shelf would come with tools or a place the person has not; empty where it would not."""
    question = answer.question
    if not question.beyond:
        return ""
    every = (*question.paints, *question.beyond)
    solver = MixSolver(every, question.laying, max_paints=2, max_parts=question.max_parts)
    best = solver.solve(question.target.lab, 1, progress)[0]
    own = min(choice.recipe.de00 for choice in answer.choices)
    if best.de00 > own - _WORTH_SAYING:
        return ""
    used = [paint for paint in question.beyond if paint.id in {name for name, _parts in best.parts}]
    words = _("With all you do not use now it would come to {0:.1f} in place of {1:.1f}, such as by {2}.")
    return words.format(best.de00, own, ", ".join(paint.name for paint in used) or _("mixing"))


def seen_under(question: MatchQuestion, sheen: str) -> str:
    """What a recipe is judged under, in words: the final sheen, and what is planned between, unless that is ignored."""
    return _(", ").join([sheen, *([question.under] if question.under and not question.alone else [])])


_KNOWN = {
    Knowledge.SPECTRAL: N_("Known from spectra: it comes out within ±{0}."),
    Knowledge.TWO_CONSTANT: N_("Known from two colours: it comes out within ±{0}."),
    Knowledge.ONE_CONSTANT: N_("Known from one colour only: it comes out within ±{0}."),
}


def sureness(target: Target, recipe: Recipe, how: Behaviour) -> list[str]:
    """How the miss compares with the photo's own range, and what a stray drop and weak knowledge do."""
    sentences = []
    if target.de00_90 is not None:
        within = recipe.de00 <= target.de00_90
        inside = _("Inside the photo's own ±{0}.") if within else _("Outside the photo's own ±{0}.")
        if target.stated:
            inside = _("Inside the stated ±{0}.") if within else _("Outside the stated ±{0}.")
        sentences.append(inside.format(f"{target.de00_90:.1f}"))
    stray = _("One stray drop moves it by at most {0}.")
    sentences.append(stray.format(f"{recipe.one_drop_de00:.1f}"))
    sentences.append(_(_KNOWN[recipe.knowledge]).format(f"{how.sure_de00:.1f}"))
    if how.to_know is not None:
        what = _(WHAT[how.to_know.what]).format(how.to_know.paint.name if how.to_know.paint else "")
        sentences.append(
            _("Cheapest to know next: {0}; then ±{1}.").format(what, f"{how.to_know.de00_90:.1f}")
        )
    if recipe.expected_de00 is not None:
        expected = _("Wherever in its range the true colour lies: off by {0} on average.")
        sentences.append(expected.format(f"{recipe.expected_de00:.1f}"))
    return sentences
