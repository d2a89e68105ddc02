"""What one step does to those below it: findings with a code, a severity and a sentence.

Each rule is a function from the plan to findings; the codes are explained in docs/rules.md. The rules are
common practice without a published source unless a rule says otherwise.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import timedelta
from functools import cached_property
from typing import Literal

from lean_sepia.language import N_, _, clock, day
from lean_sepia.paint.media import CARRIER_WORDS, MEDIA
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.step import PlanStep, sharing

Severity = Literal["stop", "warn", "note"]
SEVERITY_WORDS: dict[Severity, str] = {"stop": N_("stop"), "warn": N_("warning"), "note": N_("note")}


@dataclass(frozen=True)
class Finding:
    """One thing noticed: `step` is where it happens, `after` the earlier step it concerns, if any."""

    code: str
    severity: Severity
    step: str
    after: str | None
    message: str


# What a carrier does to a film of a medium that lies open below it, cured or not.
_ATTACK: dict[tuple[str, str], tuple[Severity, str]] = {
    ("lacquer-thinner", "enamel"): ("stop", N_("lifts and wrinkles it even when it is dry")),
    ("lacquer-thinner", "oil"): ("stop", N_("dissolves it even when it is dry")),
    ("lacquer-thinner", "acrylic-water"): ("warn", N_("bites into it; only thin, dry mist coats are safe")),
    ("lacquer-thinner", "acrylic-alcohol"): ("warn", N_("softens it; only thin, dry mist coats are safe")),
    ("white-spirit", "enamel"): ("stop", N_("softens it")),
    ("white-spirit", "oil"): ("stop", N_("dissolves it")),
    ("alcohol", "acrylic-water"): ("warn", N_("softens it when laid on wet")),
}


_BITES = ("alcohol", "white-spirit", "lacquer-thinner")


class Order(tuple[PlanStep, ...]):
    """The steps in their order, and which earlier ones share a zone with each."""

    @cached_property
    def sharing(self) -> list[list[int]]:
        """For every step the indices of the earlier steps on a zone of its own, in order."""
        return sharing(self)

    @cached_property
    def place(self) -> dict[str, int]:
        """Where each step stands, by its id."""
        return {step.id: index for index, step in enumerate(self)}


def _films_below(steps: Order, index: int) -> Iterator[PlanStep]:
    """For each zone of a step, the topmost earlier step that left something there."""
    step = steps[index]
    seen: set[str] = set()
    if step.zones == "all":
        mine = {zone for other in steps if other.zones != "all" for zone in other.zones} or {"all"}
    else:
        mine = set(step.zones)
    for zone in sorted(mine):
        for place in reversed(steps.sharing[index]):
            earlier = steps[place]
            if not earlier.nature.leaves_film or not (earlier.zones == "all" or zone in earlier.zones):
                continue
            if earlier.id not in seen:
                seen.add(earlier.id)
                yield earlier
            break


def _finish_below(steps: Order, index: int) -> tuple[str, PlanStep] | None:
    """Sheen of the topmost coat under a step and the step that gave it; glazes and powders do not change it."""
    for earlier in _earlier(steps, index):
        if earlier.nature.finish:
            return earlier.nature.finish, earlier
        if earlier.nature.is_paint and earlier.material:
            return earlier.material.finish, earlier
    return None


def _earlier(steps: Order, index: int) -> Iterator[PlanStep]:
    """Earlier steps that share a zone, the latest first."""
    return (steps[place] for place in reversed(steps.sharing[index]))


def _sealed_since(steps: Order, first: PlanStep, index: int) -> bool:
    between = steps[steps.place[first.id] + 1 : index]
    return any(step.nature.is_varnish and step.shares_zone(first) for step in between)


def solvent_attacks_base(steps: Order) -> Iterator[Finding]:
    """A carrier that dissolves the open film below."""
    for index, step in enumerate(steps):
        if not step.nature.wet:
            continue
        for below in _films_below(steps, index):
            if below.kind == "found" and below.medium is None and step.solvent in _BITES:
                yield Finding(
                    "solvent-attacks-base", "warn", step.id, below.id,
                    _("{0}: nobody knows what {1} is, and {2} may attack it. Try it on a hidden spot first, and look again the next day.").format(step.name, below.name, _(CARRIER_WORDS[step.solvent])),
                )  # fmt: skip
                continue
            attack = _ATTACK.get((step.solvent, below.medium or ""))
            if attack is None or (step.nature.is_glaze and below.nature.is_glaze):
                continue
            if step.nature.is_paint and below.nature.is_paint and step.medium == below.medium:
                continue
            severity, effect = attack
            yield Finding(
                "solvent-attacks-base", severity, step.id, below.id,
                _("{0}: {1} over {2} ({3}) {4}. Seal it with an acrylic coat first, or change the medium.").format(step.name, _(CARRIER_WORDS[step.solvent]), below.name, _(MEDIA[str(below.medium)].words), _(effect)),
            )  # fmt: skip


def not_cured(steps: Order) -> Iterator[Finding]:
    """A dated step that starts before the one below it is dry enough."""
    for index, step in enumerate(steps):
        if step.start is None or not step.nature.leaves_film:
            continue
        for earlier in _earlier(steps, index):
            if earlier.end is None or not earlier.nature.leaves_film:
                continue
            free = earlier.end + timedelta(minutes=earlier.wait_before(step))
            if step.start < free:
                yield Finding(
                    "not-cured", "stop", step.id, earlier.id,
                    _("{0} starts {1} before {2} has dried; wait until {3}.").format(step.name, _span(free - step.start), earlier.name, f"{day(free)}, {clock(free)}"),
                )  # fmt: skip
                break


def mask_before_cure(steps: Order) -> Iterator[Finding]:
    """Masking tape on paint that has not fully cured."""
    for index, step in enumerate(steps):
        if step.kind != "mask" or step.start is None:
            continue
        for earlier in _earlier(steps, index):
            if earlier.end is None or not earlier.nature.leaves_film:
                continue
            free = earlier.end + timedelta(minutes=earlier.full_cure_min)
            if step.start < free:
                yield Finding(
                    "mask-before-cure", "stop", step.id, earlier.id,
                    _("{0}: tape would lift {1}, which cures until {2}.").format(step.name, earlier.name, f"{day(free)}, {clock(free)}"),
                )  # fmt: skip
                break


def decal_on_matte(steps: Order) -> Iterator[Finding]:
    """Markings on a flat surface may silver; schools differ."""
    for index, step in enumerate(steps):
        below = _finish_below(steps, index) if step.kind == "marking" else None
        if below and below[0] == "flat":
            yield Finding(
                "decal-on-matte", "note", step.id, below[1].id,
                _("{0} goes on a flat surface. A gloss or satin coat first keeps air from silvering; with strong setting solutions some do without.").format(step.name),
            )  # fmt: skip


def wash_on_matte(steps: Order) -> Iterator[Finding]:
    """A wash on a flat surface stains instead of running along the seams."""
    for index, step in enumerate(steps):
        below = _finish_below(steps, index) if step.nature.runs else None
        if below and below[0] == "flat":
            yield Finding(
                "wash-on-matte", "warn", step.id, below[1].id,
                _("{0} goes on a flat surface: it stains and leaves tide marks instead of running along seams. Lay a gloss or satin coat first.").format(step.name),
            )  # fmt: skip


def unsealed_under_wet(steps: Order) -> Iterator[Finding]:
    """Loose powder under something wet is lifted or drowned."""
    for index, step in enumerate(steps):
        if not step.nature.wet or step.nature.is_varnish:
            continue
        for below in _films_below(steps, index):
            if below.loose:
                yield Finding(
                    "unsealed-under-wet", "stop", step.id, below.id,
                    _("{0} would wash away {1}, which lies loose. Seal it first, or do it last.").format(step.name, below.name),
                )  # fmt: skip


def powder_fades_under_varnish(steps: Order) -> Iterator[Finding]:
    """Powder loses most of its effect under a varnish."""
    for index, step in enumerate(steps):
        if not step.nature.is_varnish:
            continue
        for earlier in _earlier(steps, index):
            if earlier.loose and not _sealed_since(steps, earlier, index):
                yield Finding(
                    "powder-fades-under-varnish", "warn", step.id, earlier.id,
                    _("{0} will nearly vanish under {1}. Lay the powder after it, or overdo it and test first.").format(earlier.name, step.name),
                )  # fmt: skip


def powder_hides_graphite(steps: Order) -> Iterator[Finding]:
    """Dust over a pencil or graphite shine buries it."""
    for index, step in enumerate(steps):
        if not step.loose:
            continue
        for earlier in _earlier(steps, index):
            if earlier.kind == "graphite":
                yield Finding(
                    "powder-hides-graphite", "warn", step.id, earlier.id,
                    _("{0} would bury the shine of {1}. Do the graphite after it.").format(step.name, earlier.name),
                )  # fmt: skip


def varnish_kills_metallic(steps: Order) -> Iterator[Finding]:
    """A clear coat takes the life out of a metallic finish."""
    for index, step in enumerate(steps):
        if not step.nature.is_varnish:
            continue
        for earlier in _earlier(steps, index):
            metal = earlier.kind == "graphite" or (earlier.material and earlier.material.finish == "metallic")
            if metal and not _sealed_since(steps, earlier, index):
                yield Finding(
                    "varnish-kills-metallic", "warn", step.id, earlier.id,
                    _("{0} dulls the metal of {1}. Lay the metal after it, or mask it.").format(step.name, earlier.name),
                )  # fmt: skip


def chips_after_wash(steps: Order) -> Iterator[Finding]:
    """Chips after the wash stay brighter; schools differ."""
    for index, step in enumerate(steps):
        if step.kind != "chips":
            continue
        wash = next((earlier for earlier in _earlier(steps, index) if earlier.nature.runs), None)
        if wash:
            yield Finding(
                "chips-after-wash", "note", step.id, wash.id,
                _("{0} comes after {1}, so the wash will not tone the chips. Some want that; others chip first.").format(step.name, wash.name),
            )  # fmt: skip


def spray_solvent_indoors(steps: Order) -> Iterator[Finding]:
    """Spraying solvents without extraction."""
    for step in steps:
        sprayed = step.application is not None and TOOLS[step.application].sprayed
        if (
            sprayed
            and step.place == "indoors"
            and (step.solvent not in ("none", "water") or step.application == "spray-can")
        ):
            yield Finding(
                "spray-solvent-indoors", "stop", step.id, None,
                _("{0} sprays {1} indoors without extraction. Extract to the outside and wear an organic-vapour respirator, or spray outdoors; no flame or sparks. The product's safety data sheet decides.").format(step.name, _(CARRIER_WORDS[step.solvent])),
            )  # fmt: skip


RULES: tuple[Callable[[Order], Iterator[Finding]], ...] = (
    solvent_attacks_base, not_cured, mask_before_cure, unsealed_under_wet, powder_fades_under_varnish,
    powder_hides_graphite, varnish_kills_metallic, wash_on_matte, decal_on_matte, chips_after_wash, spray_solvent_indoors,
)  # fmt: skip

_ORDER = {"stop": 0, "warn": 1, "note": 2}


def check_plan(steps: Sequence[PlanStep]) -> list[Finding]:
    """All findings, the worst first, then in the order of the steps."""
    place = {step.id: index for index, step in enumerate(steps)}
    order = Order(steps)
    findings = [finding for rule in RULES for finding in rule(order)]
    return sorted(findings, key=lambda finding: (_ORDER[finding.severity], place[finding.step]))


def _span(delta: timedelta) -> str:
    minutes = round(delta.total_seconds() / 60)
    return _("{0} min").format(minutes) if minutes < 90 else _("{0} h").format(f"{minutes / 60:.0f}")
