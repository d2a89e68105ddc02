"""Rules on what a carrier does to the films that lie open below it."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta

from lean_sepia.language import N_, _
from lean_sepia.paint.media import CARRIER_WORDS, MEDIA
from lean_sepia.plan.hours.wall_clock import minutes_between
from lean_sepia.plan.order import Order
from lean_sepia.plan.rules.finding import Case, Hit, Severity, milder
from lean_sepia.plan.step import PlanStep

_BITES = ("alcohol", "white-spirit", "lacquer-thinner")
_SLOW = ("enamel", "oil")
_FINE = ("glaze", "spots")
_DISSOLVES: dict[tuple[str, str], tuple[Severity, str]] = {
    ("lacquer-thinner", "enamel"): ("stop", N_("lifts and wrinkles it even when it is dry")),
    ("lacquer-thinner", "oil"): ("stop", N_("dissolves it even when it is dry")),
    ("white-spirit", "enamel"): ("stop", N_("softens it")),
    ("white-spirit", "oil"): ("stop", N_("dissolves it")),
    ("lacquer-thinner", "acrylic-water"): ("warn", N_("bites into it")),
    ("lacquer-thinner", "acrylic-alcohol"): ("warn", N_("softens it")),
    ("lacquer-thinner", "lacquer"): ("warn", N_("dissolves it")),
    ("alcohol", "acrylic-water"): ("warn", N_("softens it when laid on wet")),
    ("alcohol", "acrylic-alcohol"): ("warn", N_("dissolves it when laid on wet")),
}
"""What a carrier does to an open film of a medium, cured or not. Common practice without a source."""

_YOUNG = timedelta(hours=12)  # overnight is safe
_SEAL = N_(
    "Seal it with an acrylic coat first and let that dry overnight, or take a medium that does not bite."
)
_MIST = N_("Lay it in thin, dry mists, or take a medium that does not bite.")
_REST = N_("Let a day pass and work with a brush that is nearly dry, or lay an acrylic varnish between.")


def solvent_attacks_base(case: Case) -> Iterator[Hit]:
    """A carrier that dissolves what lies open below."""
    order = case.order
    for index, step in enumerate(order):
        if not step.wet or step.solvent not in _BITES:
            continue
        for below in order.open_below(index):
            hit = _unknown(order, index, below) if _is_unknown(below) else _attack(step, below)
            if hit is not None:
                yield hit


def _is_unknown(below: PlanStep) -> bool:
    return below.kind == "found" and below.medium is None


def _unknown(order: Order, index: int, below: PlanStep) -> Hit:
    """Over a found finish that nobody knows: a warning, a note once it was tried on a spot, never a stop."""
    step = order[index]
    tried = any(earlier.kind == "test-piece" for earlier in order.earlier(index))
    words = _("{0}: nobody knows what {1} is, and {2} may attack it.").format(
        step.name, below.name, _(CARRIER_WORDS[step.solvent])
    )
    return Hit(step, below, "note" if tried or step.misted else "warn", words,
               _("Try it on a hidden spot first, and look again the next day."))  # fmt: skip


def _attack(step: PlanStep, below: PlanStep) -> Hit | None:
    found = _DISSOLVES.get((step.solvent, below.medium or ""))
    if found is None or below.loose or not below.nature.leaves_film or _is_meant(step, below):
        return None
    severity = _severity(step, below, found[0])
    if severity is None:
        return None
    words = _("{0}: {1} over {2} ({3}) {4}.").format(
        step.name, _(CARRIER_WORDS[step.solvent]), below.name, _(MEDIA[str(below.medium)].words), _(found[1])
    )
    return Hit(step, below, severity, words, _(_remedy(below)))


def _is_meant(step: PlanStep, below: PlanStep) -> bool:
    """Work that is there to move what was laid, a second pass of one glaze, and a sprayed coat of one medium over itself."""
    if step.kind in ("blend", "wipe-back", "setting-solution"):
        return below.nature.family in _FINE
    if step.kind == below.kind == "filter":
        return True
    return (
        step.medium is not None
        and step.medium == below.medium
        and not step.brushed
        and not step.nature.is_glaze
    )


def _severity(step: PlanStep, below: PlanStep, severity: Severity) -> Severity | None:
    fine = below.nature.family in _FINE
    age = _age(step, below)
    if below.medium in _SLOW and fine:
        old = step.solvent == "white-spirit" if age is None else age >= _YOUNG
        severity = "note" if old else "warn"
    elif below.medium in _SLOW and step.nature.is_paint and step.medium == below.medium:
        severity = "warn"  # brushed: what is sprayed over itself is no case
    elif below.medium not in _SLOW:
        if step.medium == below.medium and not step.brushed:
            return None
        if fine or _is_aged_and_sprayed(step, below):
            severity = "note"
    return milder(severity) if step.misted else severity


def _is_aged_and_sprayed(step: PlanStep, below: PlanStep) -> bool:
    age = _age(step, below)
    return step.solvent == "alcohol" and step.sprayed and age is not None and age >= _YOUNG


def _age(step: PlanStep, below: PlanStep) -> timedelta | None:
    """How old what lies below is, where both have dates."""
    if step.start is None or below.end is None:
        return None
    return timedelta(minutes=minutes_between(below.end, step.start))


def _remedy(below: PlanStep) -> str:
    """What helps; nobody is told to seal an acrylic with an acrylic."""
    if below.medium not in _SLOW:
        return _MIST
    return _REST if below.nature.family in _FINE else _SEAL


def alcohol_through_varnish(case: Case) -> Iterator[Hit]:
    """Alcohol from a wet brush goes through a varnish and reaches the powder under it."""
    for index, step in enumerate(case.order):
        if not step.wet or step.solvent != "alcohol":
            continue
        for ground in case.order.grounds(index):
            top = case.order[ground.open[0]] if ground.open else None
            if top is None or not top.nature.is_varnish or top.id == step.id:
                continue
            powder = _powder_under(case.order, ground.before, ground.open[0])
            severity = ("note" if step.sprayed else "warn") if not step.misted else None
            if powder is None or severity is None:
                continue
            words = _("{0}: alcohol goes through {1} and reaches {2}, which darkens or moves.")
            yield Hit(step, top, severity, words.format(step.name, top.name, powder.name))  # type: ignore[arg-type]
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
        solvents = step.solvent not in ("none", "water") or step.application == "spray-can"
        if stated and solvents and step.place == "indoors":
            carrier = step.solvent if step.solvent not in ("none", "water") else "propellant"
            said = _("propellant and solvent") if carrier == "propellant" else _(CARRIER_WORDS[step.solvent])
            words = _("{0} sprays {1} indoors without extraction.").format(step.name, said)
            yield Hit(step, None, "stop", words)


def spray_mist_indoors(case: Case) -> Iterator[Hit]:
    """Water-borne mist is breathed in too."""
    for step in case.order:
        stated = step.application is not None and step.sprayed and step.application != "spray-can"
        if stated and step.solvent in ("none", "water") and step.place == "indoors":
            words = _("{0} sprays water-borne paint indoors without extraction: the mist stays in the room.")
            yield Hit(step, None, "note", words.format(step.name))
