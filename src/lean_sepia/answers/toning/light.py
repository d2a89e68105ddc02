"""What Tone asks of light and shade: a ladder of tones on a zone as the films that are laid, above the base or below it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.answers.predicting.coatings import coating_of, coats_below, final_varnish, stack_below
from lean_sepia.arrays import triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.coats import lay, remove_coat
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.model import Project
from lean_sepia.document.versions import coat_paint
from lean_sepia.errors import ShelfError
from lean_sepia.language import _, ngettext
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.profile import MIDDLE
from lean_sepia.paint.stack import Coating
from lean_sepia.paint.tools import TOOLS
from lean_sepia.recipe.fades.tone_ladder import (
    FEWEST_TONES,
    Ladder,
    Tone,
    darkener,
    laid_shares,
    tone_ladder,
    usual_manner,
)

_TWO_SHADES = 7  # from so many tones on two of them are shades
_PRESHADE_SHARE = 0.2
_SHOWS_DE00 = 1.0
_KIND = "tone"  # what is laid here over the base


@dataclass(frozen=True, eq=False)
class LightQuestion:
    """A zone's base, the paint that lights it and the one that shades it, and what the tones lie on."""

    zone: str
    base: Paint
    before: Lab
    lightener: Paint
    dark: Paint | None
    tones: int
    shade: str
    laying: Laying
    below_base: Laying | None
    base_film: Coating

    def same_as(self, other: LightQuestion | None) -> bool:
        """Whether the answer will be the same."""
        return other is not None and self.key == other.key

    @property
    def key(self) -> tuple[object, ...]:
        """What tells this question from others."""
        base = tuple(np.round(np.concatenate([self.base.K, self.base.S]), 6))
        dark = id(self.dark) if self.dark else 0
        return (
            self.zone,
            base,
            self.before,
            id(self.lightener),
            dark,
            self.tones,
            self.shade,
            self.base_film.X,
        )


@dataclass(frozen=True, eq=False)
class LightAnswer:
    """The ladder, and what is odd about it, or why there is none."""

    question: LightQuestion
    ladder: Ladder | None
    odd: str

    def mix_words(self, tone: Tone) -> str:
        """What a tone is mixed of."""
        if tone.added is None:
            return _("the base as it is")
        named = {p.id: p.name for p in (self.question.lightener, self.question.dark) if p}[tone.added]
        if tone.step < 0 and self.question.shade == "below":
            return _("{0}, below the base").format(named)
        if not tone.base_parts:
            return named
        return _("{0} base : {1} {2}").format(tone.base_parts, tone.added_parts, named)

    def manner_words(self, tone: Tone) -> str:
        """How a tone is laid."""
        coats = ngettext("{0} pass", "{0} passes", tone.manner.passes).format(tone.manner.passes)
        return _("{0}, {1} % thinner, {2}").format(
            coats, f"{100 * tone.manner.thinner_share:.0f}", _(TOOLS[tone.manner.tool].words)
        )


def ask(
    project: Project,
    zone_id: str,
    lightener: str,
    shelf: Sequence[Paint],
    *,
    tones: int = 5,
    shade: str = "tinged",
) -> LightQuestion | None:
    """The question for a zone with a base of its own; None where it has none, or the lightener is not there."""
    coat = next((c for c in project.bases_of(zone_id) if c.recipe and c.on), None)
    base = coat_paint(project, coat) if coat else None
    light = next((paint for paint in shelf if paint.id == lightener), None)
    if base is None or coat is None or light is None:
        return None
    varnish = final_varnish(project.coats_of(zone_id))
    stack = stack_below(project, zone_id, _KIND)
    before = stack.lab(varnish)
    if before is None:
        return None
    dark = None if shade == "none" else darkener(shelf, base, pure=shade == "pure")
    film = coating_of(project, coat).at(MIDDLE)
    below = stack_below(project, zone_id, coat.kind)
    below_base = below.laying(film, varnish) if coats_below(project, zone_id, coat.kind) else None
    return LightQuestion(
        zone_id, base, before, light, dark, tones, shade, stack.laying(Coating("film"), varnish), below_base, film
    )  # fmt: skip


def answer(question: LightQuestion) -> LightAnswer:
    """Build the ladder; what stands in its way is said, not raised."""
    shades = 0 if question.dark is None else 2 if question.tones >= _TWO_SHADES else 1
    pre = question.shade == "below" and question.dark is not None
    try:
        ladder = tone_ladder(
            question.base, question.lightener, None if pre else question.dark,
            tones=max(FEWEST_TONES, question.tones - pre), shades=0 if pre else shades,
            laying=question.laying, before=question.before,
        )  # fmt: skip
    except ShelfError as error:
        return LightAnswer(question, None, str(error))
    odd = ""
    if not ladder.even:
        odd = _(
            "Steps of {0:.1f} ΔE00 on average; whole drops do not allow them more even than to {1} %."
        ).format(ladder.mean, f"{100 * ladder.uneven:.0f}")
    if pre and question.dark is not None:
        shown = _preshaded(question)
        tone = Tone(-1, 0, question.dark.id, 1, shown, _PRESHADE_SHARE, usual_manner(-1, 0))
        rest = tuple(replace(one, area_share=one.area_share * (1 - _PRESHADE_SHARE)) for one in ladder.tones)
        shows = float(delta_e00(shown, question.before))
        ladder = Ladder((tone, *rest), (shows, *ladder.steps))
        said = _("Under this base the pre-shade shows by {0:.1f} ΔE00.") if shows >= _SHOWS_DE00 else _(
            "This base hides the pre-shade ({0:.1f} ΔE00): lay the base thinner, or shade after it."
        )  # fmt: skip
        odd = said.format(shows)
    return LightAnswer(question, ladder, odd)


def _preshaded(question: LightQuestion) -> Lab:
    """The base's colour where the dark paint lies below it."""
    assert question.dark is not None
    manner = usual_manner(-1, 0)
    X = film_thickness(manner.passes, manner.thinner_share, manner.tool)
    below = question.below_base
    shaded = (
        Laying(None).internal(question.dark) if below is None else replace(below, X=X).internal(question.dark)
    )
    over = replace(question.laying, ground=shaded, X=question.base_film.X)
    return triple(over.lab(question.base))


def lay_tones(project: Project, found: LightAnswer) -> Project:
    """Lay every tone of a ladder in place of the tones the zone has; what is pre-shaded goes below the base."""
    question = found.question
    assert found.ladder is not None
    for coat in project.coats_of(question.zone):
        if coat.nature.lights:
            project = remove_coat(project, coat.id)
    tones = [tone for tone in found.ladder.tones if tone.added]
    laid = laid_shares([tone.area_share for tone in tones])
    known = {paint.id: paint for paint in (question.lightener, question.dark) if paint}
    above = None
    for tone, share in zip(tones, laid, strict=True):
        manner = Manner(tone.manner.passes, tone.manner.thinner_share, tone.manner.tool, min(1.0, share))
        if not project.owns.has(tone.manner.tool):
            manner = replace(manner, tool=project.owns.usual_tool(_KIND))
        mix = Mix.of(tuple(known.values()), [(str(tone.added), tone.added_parts)], tone.base_parts)
        pre = tone.step < 0 and question.shade == "below"
        if pre:
            manner = replace(manner, profile="recess", area_share=1.0, far=0.0)
            project, _coat = lay(project, [question.zone], "preshade", mix, manner)
            continue
        name = _("Shade") if tone.step < 0 else _("Light {0}").format(tone.step)
        project, above = lay(project, [question.zone], _KIND, mix, manner, name, above)
    return project
