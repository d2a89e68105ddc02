"""Rules on what a carrier does to the films that lie open below it."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta

from lean_sepia.language import N_, _
from lean_sepia.paint.handling.carriers import CARRIERS
from lean_sepia.paint.media import MEDIA
from lean_sepia.plan.hours.wall_clock import minutes_between
from lean_sepia.plan.order import Order
from lean_sepia.plan.rules.finding import Case, Hit, Severity, milder
from lean_sepia.plan.step import PlanStep

_YOUNG = timedelta(hours=12)  # overnight is safe
_UNLOADED = ("sponge", "drybrush")  # too little is on them to bite
_SEAL = N_(
    "Seal it with an acrylic coat first and let that dry overnight, or take a medium that does not bite."
)
_MIST = N_("Lay it in thin, dry mists, or take a medium that does not bite.")
_REST = N_("Let a day pass and work with a brush that is nearly dry, or lay an acrylic varnish between.")


def solvent_attacks_base(case: Case) -> Iterator[Hit]:
    """A carrier that dissolves what lies open below."""
    order = case.order
    for index, step in enumerate(order):
        if not step.wet or not CARRIERS[step.solvent].solvent or step.tool in _UNLOADED:
            continue
        for below in order.open_below(index):
            hit = _unknown(order, index, below) if _is_unknown(below) else _attack(step, below)
            if hit is not None:
                yield hit


def _is_unknown(below: PlanStep) -> bool:
    return below.nature.is_found and below.medium is None


def _unknown(order: Order, index: int, below: PlanStep) -> Hit:
    """Over a found finish that nobody knows: a warning, a note once it was tried on a spot, never a stop."""
    step = order[index]
    tried = any(earlier.nature.apart for earlier in order.earlier(index))
    words = _("{0}: nobody knows what {1} is, and {2} may attack it.").format(
        step.name, below.name, _(CARRIERS[step.solvent].words)
    )
    return Hit(step, below, "note" if tried or step.misted else "warn", words,
               _("Try it on a hidden spot first, and look again the next day."))  # fmt: skip


def _attack(step: PlanStep, below: PlanStep) -> Hit | None:
    found = MEDIA[below.medium].bitten_by.get(step.solvent) if below.medium else None
    if found is None or below.loose or not below.nature.leaves_film or _is_meant(step, below):
        return None
    severity = _severity(step, below, found.severity)
    if severity is None:
        return None
    words = _("{0}: {1} over {2} ({3}) {4}.").format(
        step.name,
        _(CARRIERS[step.solvent].words),
        below.name,
        _(MEDIA[str(below.medium)].words),
        _(found.words),
    )
    return Hit(step, below, severity, words, _(_remedy(below)))


def _is_meant(step: PlanStep, below: PlanStep) -> bool:
    """Work that is there to move what was laid, a second pass of one glaze, and a sprayed coat of one medium over itself."""
    if step.nature.moves:
        return below.nature.is_fine or step.nature.dulls or below.id in step.works_on
    if step.sitting and step.sitting == below.sitting:  # wet in wet
        return True
    if step.kind == below.kind and step.nature.over_itself is not None:
        return True
    return (
        step.medium is not None
        and step.medium == below.medium
        and not step.brushed
        and not step.nature.is_glaze
    )


def _severity(step: PlanStep, below: PlanStep, severity: Severity) -> Severity | None:
    fine, matter = below.nature.is_fine, MEDIA[str(below.medium)]
    age = _age(step, below)
    if matter.slow and fine:
        old = step.solvent == matter.carrier if age is None else age >= _YOUNG
        severity = "note" if old else "warn"
    elif matter.slow and step.nature.is_paint and step.medium == below.medium:
        severity = "warn"  # brushed: what is sprayed over itself is no case
    elif not matter.slow:
        if step.medium == below.medium and not step.brushed:
            return None
        if fine or _is_aged_and_sprayed(step, below):
            severity = "note"
    return milder(severity) if step.misted else severity


def _is_aged_and_sprayed(step: PlanStep, below: PlanStep) -> bool:
    age = _age(step, below)
    cured = timedelta(minutes=MEDIA[str(below.medium)].full_cure_min)
    if CARRIERS[step.solvent].flashes_off:
        cured = min(cured, _YOUNG)
    return (
        step.sprayed
        and age is not None
        and age >= max(cured, _YOUNG if not CARRIERS[step.solvent].flashes_off else cured)
    )


def _age(step: PlanStep, below: PlanStep) -> timedelta | None:
    """How old what lies below is, where both have dates."""
    if step.start is None or below.end is None:
        return None
    return timedelta(minutes=minutes_between(below.end, step.start))


def _remedy(below: PlanStep) -> str:
    """What helps; nobody is told to seal an acrylic with an acrylic."""
    if not MEDIA[str(below.medium)].slow:
        return _MIST
    return _REST if below.nature.is_fine else _SEAL


def alcohol_through_varnish(case: Case) -> Iterator[Hit]:
    """Alcohol from a wet brush goes through a varnish and reaches the powder under it."""
    for index, step in enumerate(case.order):
        if not step.wet or not CARRIERS[step.solvent].through_varnish:
            continue
        for ground in case.order.grounds(index):
            top = case.order[ground.open[0]] if ground.open else None
            if top is None or not top.nature.is_varnish or top.id == step.id:
                continue
            powder = _powder_under(case.order, ground.before, ground.open[0])
            if powder is None or step.misted:
                continue
            severity: Severity = "note" if step.sprayed else "warn"
            words = _("{0}: {3} goes through {1} and reaches {2}, which darkens or moves.").format(
                step.name, top.name, powder.name, _(CARRIERS[step.solvent].words)
            )
            yield Hit(step, top, severity, words)
            break


def _powder_under(order: Order, before: tuple[int, ...], varnish: int) -> PlanStep | None:
    for index in reversed([i for i in before if i < varnish]):
        step = order[index]
        if step.loose:
            return step
        if step.is_full_coat:
            return None
    return None


def spray_solvent_indoors(case: Case) -> Iterator[Hit]:
    """Spraying solvents where nothing takes the vapour out."""
    for step in case.order:
        stated = step.application is not None and step.sprayed
        carrier = CARRIERS[step.solvent]
        solvents = carrier.solvent or step.application == "spray-can"
        if stated and solvents and step.place == "indoors":
            said = _(carrier.words) if carrier.solvent else _("propellant and solvent")
            words = _("{0} sprays {1} indoors without extraction.").format(step.name, said)
            yield Hit(step, None, "stop", words)


def spray_mist_indoors(case: Case) -> Iterator[Hit]:
    """Water-borne mist is breathed in too."""
    for step in case.order:
        stated = step.application is not None and step.sprayed and step.application != "spray-can"
        if stated and not CARRIERS[step.solvent].solvent and step.place == "indoors":
            words = _("{0} sprays water-borne paint indoors without extraction: the mist stays in the room.")
            yield Hit(step, None, "note", words.format(step.name))
