"""What Tone asks: which paint takes a zone's base to its faded colour, as the film that is really laid."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.answers.strata import final_varnish, stack_below
from lean_sepia.answers.targets import Target, Targets
from lean_sepia.arrays import triple
from lean_sepia.colour.spectrum import BANDS
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import coat_paint
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Knowledge, Paint
from lean_sepia.paint.stack import Coating
from lean_sepia.recipe.fades.fade import Lightener, choose_lighteners, ladder
from lean_sepia.recipe.fades.tone_ladder import Tone, darkener, tone_ladder

FADE_COATS, FADE_THINNER = 2, 0.8
"""How a fade is laid unless the user says otherwise (practice)."""

_SHOWN, _RAMP = 5, 5


def fade_coat(project: Project, zone_id: str) -> Coat | None:
    """A zone's fade."""
    return next((coat for coat in project.coats_of(zone_id) if coat.kind == "fade"), None)


def faded_target(targets: Targets) -> Target | None:
    """The faded colour of a zone; None where only its fresh one is known: a fade is never invented."""
    return None if targets.exposed == targets.fresh else targets.exposed


def wished_target(before: Lab, lighter: float) -> Target:
    """A faded colour that is wished for rather than sampled: so much lighter, at the same a* and b*."""
    L, a, b = before
    source = _("your wish: {0} L* lighter") if lighter >= 0 else _("your wish: {0} L* darker")
    return Target((min(100.0, max(0.0, L + lighter)), a, b), None, source.format(f"{abs(lighter):g}"))


@dataclass(frozen=True, eq=False)
class ToneQuestion:
    """A zone's base, how a fade of it is laid, and the faded colour to meet.

    before : colour of the zone before the fade, under the same varnish
    cup : whether `base` is the zone's own mix; else it is the clear medium that a fade over a found finish is mixed with
    """

    zone: str
    base: Paint
    before: Lab
    target: Target
    paints: tuple[Paint, ...]
    laying: Laying
    cup: bool = True

    def same_as(self, other: ToneQuestion | None) -> bool:
        """Whether the answer will be the same."""
        return other is not None and self.key == other.key

    @property
    def key(self) -> tuple[object, ...]:
        """What tells this question from others: arrays by their rounded values, paints by identity."""
        ground = () if self.laying.ground is None else tuple(np.round(self.laying.ground, 6))
        base = tuple(np.round(np.concatenate([self.base.K, self.base.S]), 6))
        bottles = tuple(id(paint) for paint in self.paints)
        return (self.zone, base, self.target, bottles, ground, self.laying.X, self.laying.varnish, self.cup)

    @property
    def base_words(self) -> str:
        """What the lightener is stirred into."""
        return _("the base cup") if self.cup else _("thinner") if self.base is _THIN else self.base.name

    def mix(self, option: Lightener, manner: Manner) -> tuple[Mix, Manner]:
        """What a lightener's fade is mixed of and how it is laid."""
        if self.cup:
            return Mix.of(self.paints, [(option.paint, option.lightener_parts)], option.base_parts), manner
        if self.base is _THIN:  # no clear medium is at hand: thinner takes its place
            share = option.lightener_parts / (option.base_parts + option.lightener_parts)
            thinner = 1 - (1 - manner.thinner_share) * share
            return Mix.of(self.paints, [(option.paint, 1)]), replace(manner, thinner_share=min(thinner, 0.99))
        parts = [(self.base.id, option.base_parts), (option.paint, option.lightener_parts)]
        return Mix.of((self.base, *self.paints), parts), manner


@dataclass(frozen=True, eq=False)
class ToneAnswer:
    """Lighteners, the nearest first, each with its ramp from the base and its tones for light and shade."""

    question: ToneQuestion
    lighteners: tuple[Lightener, ...]
    ramps: tuple[tuple[Lab, ...], ...]
    tones: tuple[tuple[Tone, ...], ...]


def ask(
    project: Project,
    zone_id: str,
    target: Target,
    shelf: Sequence[Paint],
    passes: int = FADE_COATS,
    thinner_share: float = FADE_THINNER,
) -> ToneQuestion | None:
    """The question for a zone's fade as the document stands; None where nothing lies there.

    It is mixed from the zone's base cup; over a found finish, which has none, from a clear medium.
    """
    coat = next((c for c in project.coats_of(zone_id) if c.kind == "base" and c.recipe), None)
    base = coat_paint(project, coat) if coat else None
    old = fade_coat(project, zone_id)
    tool = old.tool if old else project.owns.usual_tool("fade")
    stack, varnish = stack_below(project, zone_id, "fade"), final_varnish(project.coats_of(zone_id))
    laying = stack.laying(Coating("film", X=film_thickness(passes, thinner_share, tool)), varnish)
    if base is not None:
        before = stack.lab(varnish) or triple(laying.lab(base))
        return ToneQuestion(zone_id, base, before, target, tuple(shelf), laying)
    below = stack.lab(varnish)
    if below is None:
        return None
    clear = next((paint for paint in shelf if paint.clear and paint.medium != "oil"), _THIN)
    return ToneQuestion(zone_id, clear, below, target, tuple(shelf), laying, cup=False)


_THIN = Paint(
    "clear",
    "",
    "acrylic-water",
    "flat",
    np.full(BANDS, 1e-4),
    np.full(BANDS, 1e-4),
    1.0,
    Knowledge.SPECTRAL,
)
"""What stands for a clear medium where the shelf has none."""


def answer(question: ToneQuestion) -> ToneAnswer:
    """Choose lighteners and lay out their ramps.

    Raises
    ------
    ShelfError
        No paint of the shelf can take the base there.
    """
    known = {paint.id: paint for paint in question.paints}
    base, laying = question.base, question.laying
    found = choose_lighteners(question.paints, base, question.target.lab, laying=laying)[:_SHOWN]
    ramps, tones = [], []
    shade = darkener(question.paints, base) if question.cup else None
    for option in found:
        share = option.lightener_parts / (option.base_parts + option.lightener_parts)
        labs = ladder(base, known[option.paint], np.linspace(0, share, _RAMP), laying)
        ramps.append(tuple(triple(lab) for lab in labs))
        tones.append(
            tuple(tone_ladder(base, known[option.paint], shade, laying=laying)) if question.cup else ()
        )
    return ToneAnswer(question, tuple(found), tuple(ramps), tuple(tones))
