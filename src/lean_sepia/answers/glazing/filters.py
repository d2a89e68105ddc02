"""What Glaze asks of filters: which thin tint brings several zones nearer to what they should be, or what one of your own does."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.coats.mixing import read_free_mix
from lean_sepia.answers.glazing.equal_parts import tint_mix, tint_name, tint_paint
from lean_sepia.answers.glazing.grounds import GlazedZone, ground_of, tint_paints
from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.mixes import Manner, Mix, ingredients
from lean_sepia.document.model import Project
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint, stirred
from lean_sepia.recipe.choice import various
from lean_sepia.recipe.tints.glaze import (
    HELPS_DE00,
    MOST_PASSES,
    THINNER_PARTS,
    Glaze,
    choose_glazes,
    contrasts,
    drawn_together,
    glaze_film,
    glaze_labs,
    just_shows_on,
    passes_until_a_wash,
)

MOST_ZONES, _SHOWN = 4, 4


@dataclass(frozen=True)
class OwnFilter:
    """A filter of the user's own: what it is mixed of in words, parts of thinner to one, passes."""

    of: str
    thinner_parts: float
    passes: int


@dataclass(frozen=True, eq=False)
class GlazeQuestion:
    """The zones, the paints to make a glaze of, and a filter of the user's own with its paint, if any.

    together : whether the zones are to be drawn together a little, because none has a target or the user wants that
    alone : whether what is planned above is ignored
    """

    zones: tuple[GlazedZone, ...]
    paints: tuple[Paint, ...]
    together: bool = False
    own: OwnFilter | None = None
    own_mix: Mix | None = None
    own_paint: Paint | None = None
    alone: bool = False

    def same_as(self, other: GlazeQuestion | None) -> bool:
        """Whether the answer will be the same."""
        return other is not None and self.key == other.key

    @property
    def key(self) -> tuple[object, ...]:
        """What tells this question from others: arrays by their rounded values, paints by identity."""
        zones = [(one.zone, one.before, one.target, one.ground.under(1.0).key) for one in self.zones]
        own = () if self.own_paint is None else tuple(np.round(self.own_paint.K, 6))
        return (zones, tuple(id(paint) for paint in self.paints), self.together, self.own, own, self.alone)

    @property
    def goals(self) -> list[Lab]:
        """What each zone should look like."""
        if self.together:
            return [triple(lab) for lab in drawn_together([zone.before for zone in self.zones])]
        return [zone.target.lab if zone.target else zone.before for zone in self.zones]


@dataclass(frozen=True, eq=False)
class Filtered:
    """One filter on all zones, pass by pass.

    labs : L*a*b* (passes + 1, zones, 3), first without any; moved : ΔE00 (passes + 1, zones) from there
    contrast_kept : the share of the contrast between two zones that is left, where least is; None of a single zone
    just_shows : parts of thinner with which it first shows on the second pass; None where it never does
    wash_from : the pass from which so much lies there that it gathers as a wash
    """

    glaze: Glaze
    labs: FloatArray
    moved: FloatArray
    contrast_kept: float | None
    just_shows: int | None
    wash_from: int


@dataclass(frozen=True, eq=False)
class GlazeAnswer:
    """Filters, the user's own first, then the nearest; the mean ΔE00 from the goals without any.

    leave_it : whether none of the shelf's gains half a ΔE00
    """

    question: GlazeQuestion
    filters: tuple[Filtered, ...]
    none_mean: float
    leave_it: bool

    @property
    def best(self) -> int:
        """Index of the filter to begin with; behind the last where none helps."""
        if self.question.own_paint is not None:
            return 0
        return len(self.filters) if self.leave_it else 0


def ask(
    project: Project,
    first: str,
    shelf: Sequence[Paint],
    chosen: Collection[str] | None = None,
    together: bool = False,
    own: OwnFilter | None = None,
    kind: str = "filter",
    *,
    alone: bool = False,
) -> GlazeQuestion | None:
    """The question for up to four zones on which something lies, `first` leading; None where there is none.

    alone : as if nothing were planned above it but the varnish

    chosen : zones to judge on; None for those with a target, or all where none has
    own : a filter of the user's own

    Raises
    ------
    SepiaError
        The user's own mix cannot be read or mixed, or is of metal.
    """
    grounds = [found for zone in project.zones if (found := ground_of(project, zone.id, kind, alone=alone))]
    if chosen is not None:
        grounds = [one for one in grounds if one.zone in chosen]
    elif any(one.target for one in grounds):
        grounds = [one for one in grounds if one.target]
    grounds.sort(key=lambda one: one.zone != first)
    tints = tint_paints(shelf)
    if not grounds or not tints:
        return None
    zones = tuple(grounds[:MOST_ZONES])
    drawn = len(zones) > 1 and (together or not any(zone.target for zone in zones))
    if own is None or not own.of.strip():
        return GlazeQuestion(zones, tints, drawn, alone=alone)
    mix = read_free_mix(own.of, project, shelf)
    paint = paint_of_mix(project, mix)
    if not 0 <= own.thinner_parts <= 1000:
        raise EditError(
            _("A filter has from 0 to 1000 parts of thinner to one of paint; found {0:g}.").format(
                own.thinner_parts
            )
        )
    return GlazeQuestion(zones, tints, drawn, own, mix, paint, alone)


def paint_of_mix(project: Project, mix: Mix) -> Paint:
    """A mix as if it were one paint.

    Raises
    ------
    EditError
        It does not lie as a film.
    """
    paints, counts = ingredients(project, mix)
    if not paints:
        raise EditError(_("Say what it is mixed of: bottles or cups. A colour alone cannot be thinned."))
    for paint in paints:
        if not paint.lies_as_film:
            words = _(
                "{0} is metallic or loose pigment: thinned to a tint, its flakes or grains lie where they fall. It is laid alone, as a share of the area."
            )
            raise EditError(words.format(paint.name))
    return stirred("own", " + ".join(paint.name for paint in paints), paints, counts)


def answer(question: GlazeQuestion) -> GlazeAnswer:
    """Choose filters, and follow each pass by pass."""
    grounds = [zone.ground for zone in question.zones]
    goals = question.goals
    before = np.array([zone.before for zone in question.zones])
    none = float(delta_e00(before, np.array(goals)).mean())
    found = choose_glazes(question.paints, grounds, goals, most=2)
    shown = [
        _followed(question, glaze, tint_paint(question.paints, glaze))
        for glaze in various(found, _paints_in, _SHOWN)
    ]
    if question.own_paint is not None and question.own is not None:
        film = glaze_film(question.own.thinner_parts, question.own.passes)
        labs = glaze_labs(question.own_paint, grounds, film)
        mean = float(delta_e00(labs, np.array(goals)).mean())
        seen = tuple(triple(lab) for lab in labs)
        own = Glaze("", round(question.own.thinner_parts), question.own.passes, seen, mean)
        shown.insert(0, _followed(question, own, question.own_paint))
    return GlazeAnswer(question, tuple(shown), none, none - found[0].de00_mean < HELPS_DE00)


def _paints_in(glaze: Glaze) -> tuple[str, str | None]:
    return glaze.paint, glaze.second


def _followed(question: GlazeQuestion, glaze: Glaze, paint: Paint) -> Filtered:
    grounds = [zone.ground for zone in question.zones]
    most = max(MOST_PASSES, glaze.passes)
    films = np.array([glaze_film(glaze.thinner_parts, count) for count in range(most + 1)])
    labs = glaze_labs(paint, grounds, films)
    moved = delta_e00(labs, np.broadcast_to(labs[0], labs.shape))
    kept = None
    if len(grounds) > 1:
        first, after = (
            contrasts(labs[count])[np.triu_indices(len(grounds), 1)] for count in (0, glaze.passes)
        )
        told_apart = first > 0.5
        kept = float((after[told_apart] / first[told_apart]).min()) if told_apart.any() else None
    least = 0 if paint.ready else THINNER_PARTS[0]
    return Filtered(
        glaze, labs, moved, kept, just_shows_on(2, paint, grounds, least_parts=least),
        passes_until_a_wash(glaze.thinner_parts, paint.thinner_share),
    )  # fmt: skip


def mix_of(question: GlazeQuestion, glaze: Glaze) -> tuple[Mix, Manner]:
    """What a filter is mixed of and how it is laid."""
    manner = Manner(glaze.passes, glaze.thinner_parts / (1 + glaze.thinner_parts))
    if not glaze.paint and question.own_mix is not None:
        return question.own_mix, manner
    return tint_mix(question.paints, glaze), manner


def name_of(question: GlazeQuestion, glaze: Glaze) -> str:
    """What a filter is called."""
    if not glaze.paint and question.own is not None:
        return question.own.of
    return tint_name(question.paints, glaze)
