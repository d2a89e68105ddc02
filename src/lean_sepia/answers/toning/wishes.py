"""What a zone is to be faded to: as sampled, as others have aged, or as the user wishes."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.answers.targets import Target, Targets
from lean_sepia.answers.toning.ageing import Aged
from lean_sepia.document.bounds import Lab
from lean_sepia.language import N_, _, ngettext
from lean_sepia.paint.ageing import a_step_chalkier
from lean_sepia.recipe.fades.fade import Goal

WISHES: dict[str, str] = {
    "sample": N_("as the faded sample"), "aged": N_("as the other zones aged"), "lighter": N_("this much lighter"),
    "chalkier": N_("a step chalkier"), "gradient": N_("lighter above than below"),
}  # fmt: skip
"""What a fade may aim at, in the order in which it is offered."""

CHALK_STEP = 0.04
"""Share of chalk in one step (practice)."""


@dataclass(frozen=True)
class Wish:
    """What is wished for: which of `WISHES`; so much lighter in L*, or steps of chalk; of a gradient, L* at the foot."""

    kind: str = "lighter"
    by: float = 6.0
    foot: float = 0.0


@dataclass(frozen=True)
class Aim:
    """The colour to come to, the goal for the search, and the L* by which the foot differs from the zone as it is, of a gradient."""

    target: Target
    goal: Goal
    foot: float | None = None


def wishes_for(targets: Targets, may_age: bool) -> list[str]:
    """What can be aimed at on a zone; `may_age` where it can age as others have."""
    possible = ["lighter", "chalkier", "gradient"]
    if may_age:
        possible.insert(0, "aged")
    if faded_target(targets) is not None:
        possible.insert(0, "sample")
    return possible


def faded_target(targets: Targets) -> Target | None:
    """The faded colour of a zone; None where only its fresh one is known: a fade is never invented."""
    return None if targets.exposed == targets.fresh else targets.exposed


def wished_target(before: Lab, lighter: float) -> Target:
    """A faded colour that is wished for rather than sampled: so much lighter, at the same a* and b*."""
    L, a, b = before
    source = _("your wish: {0} L* lighter") if lighter >= 0 else _("your wish: {0} L* darker")
    return Target((min(100.0, max(0.0, L + lighter)), a, b), None, source.format(f"{abs(lighter):g}"))


def aim_of(wish: Wish, before: Lab, targets: Targets, aged: Aged | None) -> Aim:
    """What a wish comes to on a zone of a colour; what it asks for and is not there becomes a plain wish for lighter."""
    sampled = faded_target(targets)
    if wish.kind == "sample" and sampled is not None:
        return Aim(sampled, Goal(sampled.lab))
    if wish.kind == "aged" and aged is not None:
        return Aim(aged.target, Goal(aged.target.lab))
    if wish.kind == "chalkier":
        lab = a_step_chalkier(before, CHALK_STEP * max(1, round(wish.by)))
        steps = max(1, round(wish.by))
        words = ngettext("your wish: {0} step chalkier", "your wish: {0} steps chalkier", steps).format(steps)
        return Aim(Target(lab, None, words), Goal(lab))
    target = wished_target(before, wish.by)
    goal = Goal.lighter(before, wish.by)
    return Aim(target, goal, wish.foot if wish.kind == "gradient" else None)
