"""What is said beside a coat: what would make it show, what its media need, what is noted on its bottles."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.coats.showing import Showing, nearest_that_shows
from lean_sepia.answers.predicting.coatings import coating_of
from lean_sepia.colour.showing import READABLE_L
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import coat_paint, medium_of
from lean_sepia.language import _
from lean_sepia.paint.film import hiding
from lean_sepia.paint.media import MEDIA, media_mix
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.stack import Coating, Opaque, Stack

_WHITE: Lab = (96.0, 0.0, 2.0)


def whether_it_reads(project: Project, coat: Coat, found: Showing, bottles: Sequence[Paint]) -> list[str]:
    """What would help a coat that does not show, or lettering that does not read: white beneath it, or another bottle."""
    lost = found.verdict == "vanishes" or (found.kind == "lettering" and not found.reads)
    if not lost or coat.nature.sets_the_colour:
        return []
    said = []
    if found.kind == "lettering" and abs(found.mark[0] - found.ground[0]) < READABLE_L:
        over_white = _over(project, coat, _WHITE)
        if (
            over_white is not None
            and abs(over_white[0] - found.ground[0]) >= 20
            and found.mark[0] + 5 < over_white[0]
        ):
            said.append(
                _("White beneath it makes it read: L* {0:.0f} there in place of {1:.0f}.").format(
                    over_white[0], found.mark[0]
                )
            )
    nearest = nearest_that_shows(project, coat, _stand_ins(project, coat, bottles))
    if nearest is not None:
        said.append(
            _("The nearest bottle that would show is {0}: {1:.1f}.").format(nearest[0].name, nearest[1])
        )
    return said


def _stand_ins(project: Project, coat: Coat, bottles: Sequence[Paint]) -> list[Paint]:
    """Bottles that can stand in for what a coat is of: from a tube for tube oils, from a can for what a can sprays, primer for primer."""
    own, medium = coat_paint(project, coat), medium_of(project, coat)
    tubes = {MEDIA[medium].tube} if medium in MEDIA else {True, False}
    uses = {own.use if own is not None else "paint", "paint"}
    return [
        one
        for one in bottles
        if MEDIA[one.medium].tube in tubes and one.use in uses and one.can == (coat.tool == "spray-can")
    ]


def _over(project: Project, coat: Coat, lab: Lab) -> Lab | None:
    """The colour of a coat as it is laid, over another colour."""
    ground = Stack().lay(Coating("film", Opaque.of_lab(lab)))
    return ground.coat_lab(replace(coating_of(project, coat), share=1.0, profile=None), None)


def opacity_words(project: Project, coat: Coat) -> str:
    """How far a coat, as it is laid, hides what lies below: the contrast of its colours over black and over white."""
    coating = coating_of(project, coat)
    if coating.body is None or isinstance(coating.body, Opaque):
        return _("Opaque.")
    ratio, _de00 = hiding(coating.body, coating.X)
    return _("Hides {0} %.").format(f"{100 * min(1.0, float(ratio)):.0f}")


def what_it_needs(project: Project, coat: Coat, question: LayQuestion) -> list[str]:
    """What the media of a coat and of what it lies on need, and what is noted on its bottles."""
    said = []
    paint = coat_paint(project, coat)
    if coat.recipe and paint is not None:
        recipe = project.recipe(coat.recipe)
        used = {project.paint(version).shelf_id for version, _count in recipe.parts}
        media = [project.paint(version).medium for version, _count in recipe.parts]
        apart = next((m for m in media[1:] if not media_mix(media[0], m)), None)
        if apart:
            words = _("{0} and {1} do not mix: in one cup they curdle or separate.")
            said.append(words.format(_(MEDIA[media[0]].words), _(MEDIA[apart].words)))
        for one in question.bottles:
            if one.id in used:
                said += [f"{one.name}: {note}." for note in (one.remark, *one.notes) if note]
        if coat.nature.is_marking:
            said.append(opacity_words(project, coat))
    coats = project.coats_of(coat.zone)
    here = [other.id for other in coats].index(coat.id)
    below = next((other for other in reversed(coats[:here]) if other.on), None)
    if below is not None and below.nature.is_found and below.medium == "unknown" and coat.nature.wet:
        said.append(
            _("Nobody knows what the finish below is. Try it on a hidden spot first, and wait overnight.")
        )
    return said
