"""Whether a coat shows: on what it lies on now, and after what is laid later."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_sepia.answers.predicting.coatings import coating_of, final_varnish
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.showing import LIMITS, READABLE_L, Shown, verdict
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.model import Coat, Project
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.profile import RUNS
from lean_sepia.paint.stack import UNCOLOURED, Coating, Stack
from lean_sepia.wear.scale import smallest_visible_mm


@dataclass(frozen=True)
class Showing:
    """How a coat differs from what it lies on: now and after all later coats, in ΔE00, as what, and by how much lighter.

    ground, mark : the two colours after it is laid; later_ground, later_mark : in the end
    strayed : of dots, which are drawn out, how the place differs in the end where most of them lie; None of all else
    """

    kind: Shown
    now: float
    later: float
    lighter: float
    ground: Lab
    mark: Lab
    later_ground: Lab
    later_mark: Lab
    strayed: float | None = None

    @property
    def verdict(self) -> str:
        """How it shows in the end."""
        return verdict(self.later, self.kind)

    @property
    def first_verdict(self) -> str:
        """How it shows when it has just been laid."""
        return verdict(self.now, self.kind)

    @property
    def reads(self) -> bool:
        """Whether lettering differs enough in lightness to be read."""
        return abs(self.lighter) >= READABLE_L


STRAYS = 2.0
"""How many times as much of what is drawn out lies where most of it was left (practice)."""


def shown_as(coat: Coat) -> Shown:
    """As what a coat should show: lettering, a small mark, a soft tone, or a field beside another.

    What lies in lines, in seams or along edges, is seen as a mark whatever it is made of; dots are drawn out to a soft tone.
    """
    nature = coat.nature
    if nature.is_marking:
        return "lettering"
    if nature.is_dots:
        return "soft"
    if coat.area_share < 1 and coat.profile is not None and RUNS[coat.profile].lines:
        return "mark"
    if nature.is_powder and not nature.metal:
        return "soft"
    if coat.speck_mm is not None and coat.speck_mm < smallest_visible_mm(1.0):
        return "soft"  # no speck is seen by itself: what is seen is the tint they make
    return "mark" if nature.covers == "spots" else "field"


def showing_of(project: Project, coat: Coat) -> Showing | None:
    """How a coat of a zone shows; None where it has no colour, or nothing lies below it."""
    return _showing(coat, *_around(project, coat))


def _around(project: Project, coat: Coat) -> tuple[Stack, Coating, list[Coating], str | None]:
    """What lies below a coat, the coat itself, what is laid later, and the final varnish."""
    coats = [other for other in project.coats_of(coat.zone) if other.on or other.id == coat.id]
    here = [other.id for other in coats].index(coat.id)
    coatings = [_even(coating_of(project, other)) for other in coats]
    return _laid(coatings[:here]), coatings[here], coatings[here + 1 :], final_varnish(coats)


def showings_of(project: Project, zone_id: str) -> dict[str, Showing]:
    """How each coat of a zone that is on shows, by the coat's id; without those that have no colour of their own."""
    coats = [coat for coat in project.coats_of(zone_id) if coat.on]
    coatings = [_even(coating_of(project, coat)) for coat in coats]
    varnish, below, found = final_varnish(coats), Stack(), {}
    for index, (coat, coating) in enumerate(zip(coats, coatings, strict=True)):
        showing = _showing(coat, below, coating, coatings[index + 1 :], varnish)
        if showing is not None:
            found[coat.id] = showing
        below = below.lay(coating)
    return found


def _even(coating: Coating) -> Coating:
    """A coating as it is where there is most of it."""
    return replace(coating, profile=None)


def _laid(coatings: Sequence[Coating]) -> Stack:
    stack = Stack()
    for coating in coatings:
        stack = stack.lay(coating)
    return stack


def _showing(
    coat: Coat, ground: Stack, coating: Coating, above: Sequence[Coating], varnish: str | None
) -> Showing | None:
    if coating.body is None or coating.covers in {"nothing", *UNCOLOURED}:
        return None
    main = ground.main
    if main is None:
        return None
    ground = replace(ground, patches=(replace(main, share=1.0),))  # what lies beside it changes neither
    shown = shown_as(coat)
    by_mean = shown == "soft" and coating.covers in ("loose", "spots")
    with_it = ground.lay(coating if by_mean else replace(coating, share=1.0))
    most = (
        ground.lay(replace(coating, share=min(1.0, STRAYS * coating.share))) if coat.nature.is_dots else None
    )
    without, later = ground, with_it
    for upper in above:
        if upper.covers in ("spots", "loose", "resist", "taken"):
            continue  # marks beside it change neither
        without, later = without.lay(upper), later.lay(upper)
        most = most and most.lay(upper)
    # A soft tone is seen as the tint it makes of the whole, a mark beside what it lies on.
    look = Stack.seen if by_mean else Stack.lab
    labs = [look(stack, varnish) for stack in (ground, with_it, without, later)]
    first, mark, plain, last = (lab for lab in labs if lab is not None)
    strayed = most.seen(varnish) if most is not None else None
    return Showing(
        shown, float(delta_e00(first, mark)), float(delta_e00(plain, last)), last[0] - plain[0], first, mark,
        plain, last, float(delta_e00(plain, strayed)) if strayed is not None else None,
    )  # fmt: skip


def nearest_that_shows(
    project: Project, coat: Coat, paints: Sequence[Paint], wanted: str = "clear", *, hidden: bool = False
) -> tuple[Paint, float] | None:
    """The bottle nearest in colour to a coat that, laid in its place and manner, shows; or that would not; and how much it shows.

    wanted : the verdict that it should reach
    """
    ground, coating, above, varnish = _around(project, coat)
    own = _showing(coat, ground, coating, above, varnish)
    if own is None:
        return None
    just, clear, stark = LIMITS[own.kind]
    least = {"just shows": just, "clear": clear, "stark": stark}[wanted]
    best: tuple[float, Paint, float] | None = None
    for paint in paints:
        if not paint.lies_as_film or not paint.offered:
            continue
        tried = _showing(coat, ground, replace(coating, body=paint), above, varnish)
        if tried is None or (tried.later >= just if hidden else tried.later < least):
            continue
        if own.kind == "lettering" and not hidden and not tried.reads:
            continue
        away = float(delta_e00(own.mark, tried.mark))
        if best is None or away < best[0]:
            best = away, paint, tried.later
    return None if best is None else (best[1], best[2])


def showing_words(coat: Coat, found: Showing) -> str:
    """Whether a coat shows, in one sentence; what later coats take of it where that matters."""
    words = _("{0}: {1}, {2:.1f} ΔE00 on what it lies on.")
    said = words.format(coat_name(coat), _(found.first_verdict), found.now)
    if found.verdict != found.first_verdict:
        said += " " + _("After what is laid later: {0}, {1:.1f}.").format(_(found.verdict), found.later)
    if found.strayed is not None:
        said += " " + _("Drawn out, that is the mean; where most of it is left, {0:.1f}.").format(
            found.strayed
        )
    if found.kind == "lettering" and found.later >= LIMITS["lettering"][0] and not found.reads:
        said += " " + _("It does not read: L* differs by {0:.0f}, reading needs {1:.0f}.").format(
            abs(found.lighter), READABLE_L
        )
    return said
