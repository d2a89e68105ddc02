"""When to look at a step again, and from where; common practice without a source."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.language import N_, _
from lean_sepia.plan.step import PlanStep

_HOUR = 60.0
_MORNING = 12 * _HOUR


@dataclass(frozen=True)
class Look:
    """A look again so many minutes after the end of a step, and at what."""

    after_min: float
    words: str


_FILTER = Look(15, N_("A filter shows only when it is dry: is it enough, or does it want a second pass?"))
_WASH = Look(20, N_("Tide marks and pools: draw them off with a clean, almost dry brush."))
_OIL_MORNING = Look(_MORNING, N_("By daylight, while it can still be moved: is it too much anywhere?"))
_LEVEL = Look(30, N_("Along the surface against a lamp: dry spray, dust and runs show now."))
_BY_KIND: dict[str, tuple[Look, ...]] = {
    "filter": (_FILTER,), "wash": (_WASH, _OIL_MORNING), "pin-wash": (_WASH, _OIL_MORNING),
    "oil-dots": (Look(20, N_("The oils have drawn into the surface a little: begin to draw them out.")),),
    "blend": (_OIL_MORNING,), "streaks": (_OIL_MORNING,),
    "marking": (Look(_MORNING, N_("Silvering and edges: prick what is silver and soften it again.")),),
    "setting-solution": (Look(30, N_("Wrinkles go by themselves: do not touch the decal before it is dry.")),),
    "gloss-coat": (_LEVEL,), "satin-coat": (_LEVEL,),
    "matte-coat": (Look(_HOUR, N_("Flat all over, and no white bloom? Colours lie deeper under it than they did.")),),
    "resist": (Look(10, N_("The skin is clear and no longer white: now it protects.")),),
    "unmask": (Look(5, N_("Edges that crept under the mask: touch them up while the mix is there.")),),
    "powder": (Look(_MORNING, N_("By daylight: powder looks stronger in lamp light.")),),
    "found": (), "test-piece": (Look(_MORNING, N_("What a solvent did shows the next day.")),),
}  # fmt: skip
_PAINT = (Look(20, N_("Acrylic and lacquer dry darker or lighter than they are wet: judge the colour now.")),)


def looks_again(step: PlanStep) -> tuple[Look, ...]:
    """When to look at a step again once it is done."""
    if not step.nature.to_do:
        return ()
    found = _BY_KIND.get(step.kind)
    if found is not None:
        slow = step.medium in ("oil", "enamel", None)
        return found if slow else tuple(look for look in found if look is not _OIL_MORNING)
    if step.nature.is_paint:
        return (Look(_MORNING, N_("Judge the colour when it is dry, by daylight.")),) if step.medium in ("oil", "enamel") else _PAINT  # fmt: skip
    return _BY_KIND["powder"] if step.loose else ()


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
    if step.nature.family in ("spots", "powder"):
        return (_(_EYE), _(_FAR), _(_BOTH))
    return (_(_ABOVE), _(_FAR))
