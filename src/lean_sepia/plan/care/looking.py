"""When to look at a step again, and from where; common practice without a source."""

from __future__ import annotations

from lean_sepia.language import N_, _
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.traits.said import Look

_POWDER = Look(12 * 60.0, N_("By daylight: powder looks stronger in lamp light."))


def looks_again(step: PlanStep) -> tuple[Look, ...]:
    """When to look at a step again once it is done; what lies loose is looked at as such, whatever it is called."""
    if not step.nature.to_do:
        return ()
    pace = "slow" if step.slow else "quick"
    found = tuple(look for look in step.nature.looks if look.where in ("any", pace))
    return found or ((_POWDER,) if step.loose else ())


_ALONG = N_("Along the surface, against the light.")
_ABOVE = N_("From above, as models are mostly seen.")
_EYE = N_("From the eye height of a figure beside it.")
_FAR = N_("From arm's length and from across the room: what vanishes there may stay.")
_BOTH = N_("Port and starboard side by side: the same story, not the same pattern.")


def angles(step: PlanStep) -> tuple[str, ...]:
    """From where to look while a step is done, so that no face is forgotten."""
    if not step.nature.to_do or not step.nature.leaves_film:
        return ()
    if step.nature.is_varnish or step.is_full_coat:
        return (_(_ALONG), _("Into every corner and from below: a face forgotten now costs an evening."))
    if step.nature.marks:
        return (_(_EYE), _(_FAR), _(_BOTH))
    return (_(_ABOVE), _(_FAR))
