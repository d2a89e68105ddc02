"""What laying a coat by hand comes to: how it will look there, as the strata will show it, and what it needs."""

from __future__ import annotations

from dataclasses import dataclass, replace

from lean_sepia.answers.amounts import needed
from lean_sepia.answers.coats.draft import Draft
from lean_sepia.answers.coats.mixing import LayQuestion, read_mix, thinner_of
from lean_sepia.answers.coats.remarks import what_it_needs, whether_it_reads
from lean_sepia.answers.coats.showing import Showing, showing_of, showing_words
from lean_sepia.answers.strata import Band, Strata, strata_of
from lean_sepia.answers.targets import Target, target_for
from lean_sepia.arrays import triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.check import fault_of_edit
from lean_sepia.document.edits.coats import edit_coat, lay
from lean_sepia.document.edits.mixes import Manner, Mix, mix_paint
from lean_sepia.document.edits.sittings import work_on
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import coat_paint, finish_of, medium_of
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.care.cautions import DEFER, cautions
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.step import Material, PlanStep
from lean_sepia.recipe.batch import BatchVolume

MOST_SHOWN_PASSES = 4
_MOST_OF_IT, _MISTED = 0.5, 0.9  # a mist is thinned so (practice)


@dataclass(frozen=True)
class LayAnswer:
    """What would come of it: the document with the coat, and how it looks there, as the strata will show it.

    now, then : the colour where it lies without and with it, under the final varnish; None where nothing is known
    seen : of the whole zone before and after; passes : its colour after 0, 1, 2 … passes; ends : of what runs out
    target, about : what it aims at and what that is; remarks : what had to be assumed, what it needs, and cautions
    """

    project: Project
    coat: str
    now: Lab | None
    then: Lab | None
    seen: tuple[Lab | None, Lab | None]
    target: Target | None
    about: str
    passes: tuple[Lab, ...]
    ends: tuple[Lab, Lab] | None
    showing: Showing | None
    volume: BatchVolume | None
    remarks: tuple[str, ...]
    cautions: tuple[str, ...]


@dataclass(frozen=True)
class Laid:
    """The document with a drafted coat, the coat's id, and what had to be assumed of the words it was written in."""

    project: Project
    coat: str
    assumed: tuple[str, ...]


def laid(question: LayQuestion) -> Laid:
    """Lay the draft on a copy of the document.

    Raises
    ------
    SepiaError
        It cannot be laid so; the message says why and what to do.
    """
    draft = question.draft
    _check_figures(draft)
    mix, in_it, assumed = read_mix(question)
    share, said = thinner_of(question.project, draft, in_it, mix)
    printed = draft.printed if KINDS[draft.kind].is_print else None
    manner = Manner(
        draft.passes, share, draft.tool or question.project.owns.usual_tool(draft.kind), draft.area_share, None, draft.carrier,
        draft.profile, draft.far, draft.down_to, draft.keep, printed, draft.wiped if TOOLS[draft.tool or "brush"].drawn_out else 0.0,
        draft.speck_mm if TOOLS[draft.tool or "brush"].flicked else None,
    )  # fmt: skip
    if printed is not None and mix.lab is None:
        mix = _as_colour(question.project, mix)
    changed, coat = _apply(question, mix, manner)
    if draft.rim.strip() and question.replacing is None:
        changed = _with_rim(question, changed, coat, manner)
    fault = fault_of_edit(question.project, changed)
    if fault:
        raise EditError(_("This cannot be: {0}.").format(fault))
    return Laid(changed, coat, (*([assumed] if assumed else []), *said))


def _as_colour(project: Project, mix: Mix) -> Mix:
    """What is printed is bought or drawn, not mixed: a bottle or a mix says its colour only."""
    paint = mix_paint(project, mix)
    return mix if paint is None else Mix(lab=triple(paint.masstone_lab()), finish=paint.finish)  # type: ignore[arg-type]


def _with_rim(question: LayQuestion, project: Project, marks: str, manner: Manner) -> Project:
    """The rim of marks as a coat of its own, laid before them."""
    draft, zone = question.draft, question.zones[0]
    mix, _in_it, _assumed = read_mix(
        replace(question, project=project, draft=replace(draft, of=draft.rim, name=""))
    )
    name = _("{0}, rim").format(draft.name or _(KINDS[draft.kind].title))
    order = [coat.id for coat in project.coats_of(zone)]
    below = order[order.index(marks) - 1]
    how = replace(manner, area_share=draft.rim_share)
    return lay(project, question.zones, draft.kind, mix, how, name, below)[0]


def answer(question: LayQuestion) -> LayAnswer:
    """Lay the draft on a copy of the document and look at it there.

    Raises
    ------
    SepiaError
        It cannot be laid so; the message says why and what to do.
    """
    draft, done = question.draft, laid(question)
    changed, remarks = done.project, list(done.assumed)
    coat = changed.coat(done.coat)
    before, after = strata_of(question.project, question.zones[0]), strata_of(changed, question.zones[0])
    band = next(band for band in after.bands if band.coat.id == coat.id)
    showing = showing_of(changed, coat)
    if showing is not None:
        remarks.insert(0, showing_words(coat, showing))
        remarks += whether_it_reads(changed, coat, showing, question.bottles)
    remarks += what_it_needs(changed, coat, question)
    target, about = target_for(after.targets, draft.kind, draft.name)
    if about and draft.area_share < _MOST_OF_IT and not KINDS[draft.kind].roles:
        target, about = None, ""  # what lies in the seams is not to have the colour of the whole
    remarks += _what_an_airbrush_would_gain(changed, coat, band)
    now, then = _now_and_then(band, after, before, showing)
    warned = cautions(_as_step(changed, coat))
    return LayAnswer(
        changed, coat.id, now, then, (before.seen, after.seen), target, about, _pass_by_pass(changed, coat), band.ends, showing,
        needed(changed, coat) if coat.recipe else None, tuple(remarks), (*warned, _(DEFER)) if warned else (),
    )  # fmt: skip


def _what_an_airbrush_would_gain(project: Project, coat: Coat, band: Band) -> list[str]:
    """For a fade or a tone laid without one: how much finer the steps of a mist would be; nothing where that is at hand."""
    nature = coat.nature
    if project.owns.has("mist") or not nature.shades or not coat.recipe:
        return []
    steps = []
    for tool, thinner in ((coat.tool, coat.thinner_share), ("mist", _MISTED)):
        once = coat.model_copy(update={"tool": tool, "thinner_share": thinner, "passes": 1})
        coats = tuple(once if other.id == coat.id else other for other in project.coats)
        cut = strata_of(project.model_copy(update={"coats": coats}), coat.zone)
        lab = next(other.lab for other in cut.bands if other.coat.id == coat.id)
        if lab is None or band.ground is None:
            return []
        steps.append(float(delta_e00(band.ground, lab)))
    if steps[0] <= steps[1]:
        return []
    words = _(
        "A pass moves it by {0:.1f} ΔE00; a mist from an airbrush would by {1:.1f}, so that it can be stopped in time."
    )
    return [words.format(*steps)]


def _now_and_then(
    band: Band, after: Strata, before: Strata, showing: Showing | None
) -> tuple[Lab | None, Lab | None]:
    if band.coat.nature.is_varnish:
        return before.seen, after.seen
    if showing is not None and showing.kind == "soft":  # a veil is seen as the tint it makes of the whole
        return showing.ground, showing.mark
    return band.ground, band.lab


def _check_figures(draft: Draft) -> None:
    if not 0 < draft.area_share <= 1:
        raise EditError(
            _("A coat covers more than nothing and at most all of the area, 100 %; found {0} %.").format(
                f"{100 * draft.area_share:g}"
            )
        )
    if draft.rim.strip() and not 0 < draft.rim_share <= 1 - draft.area_share:
        raise EditError(
            _(
                "A rim covers more than nothing, and marks and rims together at most all of the area; found {0} %."
            ).format(f"{100 * draft.rim_share:g}")
        )
    if draft.speck_mm is not None and not 0 < draft.speck_mm <= 20:
        raise EditError(
            _("Specks are wider than nothing and at most 20 mm; found {0:g} mm.").format(draft.speck_mm)
        )
    if not 0 <= draft.far <= 1:
        raise EditError(
            _("At the other end there is from 0 to 100 % of it; found {0} %.").format(f"{100 * draft.far:g}")
        )


def _apply(question: LayQuestion, mix: Mix, manner: Manner) -> tuple[Project, str]:
    draft = question.draft
    if question.replacing:
        project = edit_coat(question.project, question.replacing, draft.kind, mix, manner, draft.name)
        step = project.coat(question.replacing).step
        if set(question.serves) - set(project.step(step).serves):
            project = work_on(project, step, question.serves)
        return project, question.replacing
    return lay(
        question.project, question.zones, draft.kind, mix, manner, draft.name, question.above, question.serves
    )


def _pass_by_pass(project: Project, coat: Coat) -> tuple[Lab, ...]:
    """The colour after no pass, one, two …, as the strata would show it; empty where passes make no difference."""
    nature = coat.nature
    paint = coat_paint(project, coat)
    if (
        nature.coat_covers(medium_of(project, coat)) not in ("film", "tint")
        or paint is None
        or not paint.lies_as_film
    ):
        return ()
    index = next(i for i, other in enumerate(project.coats) if other.id == coat.id)
    shown = []
    for passes in range(1, max(MOST_SHOWN_PASSES, coat.passes) + 1):
        if passes > MOST_SHOWN_PASSES and passes != coat.passes:
            continue
        coats = list(project.coats)
        coats[index] = coat.model_copy(update={"passes": passes})
        cut = strata_of(project.model_copy(update={"coats": tuple(coats)}), coat.zone)
        band = next(band for band in cut.bands if band.coat.id == coat.id)
        if band.ground and passes == 1:
            shown.append(band.ground)
        if band.lab:
            shown.append(band.lab)
    return tuple(shown)


def _as_step(project: Project, coat: Coat) -> PlanStep:
    medium = medium_of(project, coat)
    material = Material(medium=medium, finish=finish_of(project, coat)) if medium else None  # type: ignore[arg-type]
    return PlanStep(
        id=coat.step, title=coat_name(coat), kind=coat.kind, zones=(coat.zone,), material=material, carrier=coat.carrier,
        application=coat.tool if coat.nature.tools else None,
    )  # fmt: skip
