"""All that Tone asks about one zone at once, as a job that knows nothing of the window."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lean_sepia.answers.match import usable_paints
from lean_sepia.answers.strata import Strata
from lean_sepia.answers.toning import fading
from lean_sepia.answers.toning.ageing import aged_like_others
from lean_sepia.answers.toning.fading import Spray, ToneAnswer
from lean_sepia.answers.toning.wishes import Aim, Wish, aim_of
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Paint


@dataclass(frozen=True, eq=False)
class ToneRequest:
    """A zone of a document as it stands, what is wished for and how it is sprayed; `before` is the answer there was.

    alone : whether it is solved as if nothing were planned above it
    """

    project: Project
    cut: Strata
    wish: Wish
    spray: Spray
    shelf: tuple[Paint, ...]
    before: ToneAnswer | None
    alone: bool = False


@dataclass(frozen=True, eq=False)
class ToneFound:
    """What a fade aims at, the answer, or why there is none.

    why : "" where nothing lies there yet
    """

    zone: str
    aim: Aim | None
    answer: ToneAnswer | None
    why: str


def find(request: ToneRequest) -> ToneFound:
    """Look at a zone; the earlier answer is kept where the question is the same."""
    project, cut = request.project, request.cut
    if cut.fresh is None:
        return ToneFound(cut.zone, None, None, "")
    aged = aged_like_others(project, cut.zone, cut.targets) if request.wish.kind == "aged" else None
    before = fading.before_fade(project, cut.zone, alone=request.alone) or cut.fresh
    aim = aim_of(request.wish, before, cut.targets, aged)
    shelf = may_be_used(project, cut.zone, request.shelf)
    question = fading.ask(project, cut.zone, aim, shelf, request.spray, alone=request.alone)
    if question is None:
        return ToneFound(cut.zone, aim, None, "")
    if request.before is not None and question.same_as(request.before.question):
        return ToneFound(cut.zone, aim, request.before, "")
    try:
        return ToneFound(cut.zone, aim, fading.answer(question), "")
    except SepiaError as error:
        return ToneFound(cut.zone, aim, None, str(error))


def may_be_used(project: Project, zone: str, shelf: Sequence[Paint]) -> tuple[Paint, ...]:
    """The paints a fade of a zone may be made of, the clear media, and oils, which are drawn out by hand."""
    media = [paint for paint in shelf if paint.clear and not paint.empty]
    oils = [paint for paint in shelf if paint.tints and MEDIA[paint.medium].tube]
    return tuple(dict.fromkeys((*usable_paints(project, zone, shelf)[0], *media, *oils)))
