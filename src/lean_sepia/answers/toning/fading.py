"""What Tone asks of a fade: which paint takes a zone to its faded colour, as the film that is really laid, and where to stop."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.answers.predicting.coatings import coats_below, final_varnish, stack_below
from lean_sepia.answers.predicting.under import Spot, under_words
from lean_sepia.answers.targets import Target
from lean_sepia.answers.toning.wishes import Aim
from lean_sepia.arrays import triple
from lean_sepia.colour.spectrum import BANDS
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.coats import lay, lay_fade, remove_coat
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import coat_paint
from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Knowledge, Paint, stirred
from lean_sepia.paint.stack import Coating
from lean_sepia.paint.tools import TOOLS
from lean_sepia.recipe.choice import various
from lean_sepia.recipe.fades.fade import Goal, Lightener
from lean_sepia.recipe.fades.mists import (
    Fade,
    Medium,
    choose_fades,
    mists_of,
    mixed_of,
)
from lean_sepia.recipe.fades.tone_ladder import darkener
from lean_sepia.recipe.fades.turn import Turn, is_red, turn_of
from lean_sepia.recipe.fades.veils import VEIL_TOOL, veil_fades

FADE_COATS, FADE_THINNER = 2, 0.8
"""How a fade is laid unless the user says otherwise (practice)."""

MOST_BRUSHED_THINNER, FEW_CM2 = 0.8, 5.0
"""Beyond which share of thinner a brush leaves streaks on more than so few square centimetres (practice)."""
SHOWN, _VEILS, MOST_RATIO = 5, 2, 12
_LIGHTER_L = 1.0
_VEIL_MUST_GAIN = 1.0  # ΔE00 by which a veil must be nearer to come before what is sprayed
_KIND, _STAGE = "fade", "exposed"  # what is laid here, and where it is looked at


def fade_coat(project: Project, zone_id: str) -> Coat | None:
    """A zone's fade."""
    return next((coat for coat in project.coats_of(zone_id) if coat.nature.fades), None)


@dataclass(frozen=True)
class Spray:
    """How a fade is to be laid: mists, or None to solve for their number; thinner share; tool; a clear medium and its share.

    lighteners : how many may be stirred in at once, 1 or 2
    """

    mists: int | None = FADE_COATS
    thinner_share: float = FADE_THINNER
    tool: str | None = None
    medium: str | None = None
    medium_share: float = 1 / 3
    lighteners: int = 1


USUAL_SPRAY = Spray()


@dataclass(frozen=True, eq=False)
class ToneQuestion:
    """A zone's base, how a fade of it is laid, and the faded colour to meet.

    before : colour of the zone before the fade, under the same varnish; lettering : what of it is lettered, as one mist lies there
    mist : how one mist lies; veil : how a tint does, which keeps the sheen below; goal : what the search aims at; target : its colour and where it is from
    under : what is planned above it besides the varnish, in words; alone : whether that is ignored
    cup : whether `base` is the zone's own mix; else it is the clear medium that a fade over a found finish is mixed with
    """

    zone: str
    base: Paint
    before: Lab
    target: Target
    goal: Goal
    paints: tuple[Paint, ...]
    mist: Laying
    spray: Spray
    tool: str
    lettering: tuple[Laying, ...] = ()
    cup: bool = True
    area_cm2: float | None = None
    veil: Laying = OPAQUE
    under: str = ""
    alone: bool = False

    def same_as(self, other: ToneQuestion | None) -> bool:
        """Whether the answer will be the same."""
        return other is not None and self.key == other.key

    @property
    def key(self) -> tuple[object, ...]:
        """What tells this question from others: arrays by their rounded values, paints by identity."""
        base = tuple(np.round(np.concatenate([self.base.K, self.base.S]), 6))
        bottles = tuple(id(paint) for paint in self.paints)
        how = (self.mist.key, self.cup, self.spray, self.tool, len(self.lettering))
        return (self.zone, base, self.before, self.target, self.goal, bottles, how)

    @property
    def medium(self) -> Medium | None:
        """The clear medium that goes into the cup too."""
        found = next((paint for paint in self.paints if paint.id == self.spray.medium), None)
        return Medium(found, self.spray.medium_share) if found else None

    @property
    def base_words(self) -> str:
        """What the lightener is stirred into."""
        return _("the base cup") if self.cup else _("thinner") if self.base is _THIN else self.base.name

    def laid(self, fade: Fade) -> tuple[Mix, Manner]:
        """What a fade is mixed of and how it is laid."""
        if fade.wiped is None:
            return self.mix(fade.option, fade.mists)
        oils = [name for name in (fade.option.paint, fade.option.second) if name]
        return Mix.of(self.paints, [(name, 1) for name in oils]), Manner(1, 0.0, VEIL_TOOL, wiped=fade.wiped)

    def mix(self, option: Lightener, mists: int) -> tuple[Mix, Manner]:
        """What a fade of so many mists is mixed of and how it is laid."""
        manner = Manner(mists, self.spray.thinner_share, self.tool)
        added = [(option.paint, option.lightener_parts)]
        if option.second:
            added.append((option.second, option.second_parts))
        if not self.cup and self.base is _THIN:  # no clear medium is at hand: thinner takes its place
            paint_parts = option.lightener_parts + option.second_parts
            share = paint_parts / (option.base_parts + paint_parts)
            thinner = 1 - (1 - manner.thinner_share) * share
            return Mix.of(self.paints, added), replace(manner, thinner_share=min(thinner, 0.99))
        base_parts, medium = option.base_parts, self.medium
        if medium is not None:
            base_parts, *counts, clear = medium.parts(base_parts, *(count for _name, count in added))
            added = [(name, count) for (name, _old), count in zip(added, counts, strict=True)]
            added.append((medium.paint.id, clear))
        if self.cup:
            return Mix.of(self.paints, added, base_parts), manner
        return Mix.of((self.base, *self.paints), [(self.base.id, base_parts), *added]), manner


@dataclass(frozen=True, eq=False)
class ToneAnswer:
    """Lighteners, the nearest first, each with its mists and the path there; how each turns the hue; what becomes of lettering.

    turns : against the target, beside each fade; letters : colours of the lettering before and after each fade
    """

    question: ToneQuestion
    fades: tuple[Fade, ...]
    turns: tuple[Turn, ...]
    letters: tuple[tuple[tuple[Lab, Lab], ...], ...]

    @property
    def lighteners(self) -> tuple[Lightener, ...]:
        """What each fade is lightened with."""
        return tuple(fade.option for fade in self.fades)


def ask(
    project: Project,
    zone_id: str,
    aim: Aim,
    shelf: Sequence[Paint],
    spray: Spray = USUAL_SPRAY,
    *,
    alone: bool = False,
) -> ToneQuestion | None:
    """The question for a zone's fade as the document stands, under what is planned above it; None where nothing lies there.

    It is mixed from the zone's base cup; over a found finish, which has none, from a clear medium. Alone, it is solved as if nothing
    were planned above it but the varnish.
    """
    coat = next((c for c in project.bases_of(zone_id) if c.recipe), None)
    base = coat_paint(project, coat) if coat else None
    old = fade_coat(project, zone_id)
    tool = spray.tool or (old.tool if old else project.owns.usual_tool(_KIND))
    spot, varnish = Spot.of(project, zone_id, _KIND), final_varnish(project.coats_of(zone_id))
    coating = Coating("film", X=film_thickness(1, spray.thinner_share, tool))
    mist = spot.laying(coating, _STAGE, varnish, alone=alone)
    stack = stack_below(project, zone_id, _KIND)
    marks = {c.id for c in coats_below(project, zone_id, _KIND) if c.nature.is_marking}
    lettering = tuple(
        replace(stack.laying(coating, varnish, on=patch), later=mist.later)
        for patch in stack.patches
        if stack.marks[patch.since] in marks
    )
    below = spot.bare(_STAGE, varnish, alone=alone)
    if base is None and below is None:
        return None
    clear = next((paint for paint in shelf if paint.clear and not MEDIA[paint.medium].tube), _THIN)
    used = base or clear
    before = below or triple(mist.lab(used))
    return ToneQuestion(
        zone_id, used, before, aim.target, aim.goal, tuple(shelf), mist, spray, tool, lettering, cup=base is not None,
        area_cm2=project.zone(zone_id).area_cm2, veil=spot.laying(Coating("tint"), _STAGE, varnish, alone=alone),
        under=under_words(spot.later(_STAGE)), alone=alone,
    )  # fmt: skip


def before_fade(project: Project, zone_id: str, *, alone: bool = False) -> Lab | None:
    """The colour a zone would have without a fade, under what is planned above that; None where nothing lies there."""
    varnish = final_varnish(project.coats_of(zone_id))
    return Spot.of(project, zone_id, _KIND).bare(_STAGE, varnish, alone=alone)


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
    """Choose lighteners and follow each mist by mist.

    Raises
    ------
    ShelfError
        No paint of the shelf can take the base there.
    """
    veils = [
        fade for fade in veil_fades(question.paints, question.goal, question.veil, question.before) if _lightens(question, fade)
    ]  # fmt: skip
    try:
        found = choose_fades(
            question.paints, question.base, question.goal, question.mist, question.before, mists=question.spray.mists,
            max_parts=MOST_RATIO, most=question.spray.lighteners, medium=question.medium,
        )  # fmt: skip
    except ShelfError:
        if not veils:
            raise
        found = []
    found = [fade for fade in found if _lightens(question, fade) and can_be_laid(question, fade)]
    if not found and not veils:
        raise ShelfError(
            _("Nothing on this shelf lightens it in a film that a hand can lay: a brush leaves streaks where paint is thinner than {0} % on more than {1} cm². An oil drawn out does, or an airbrush.").format(
                f"{100 * MOST_BRUSHED_THINNER:.0f}", f"{FEW_CM2:g}"
            )
        )  # fmt: skip
    shown = various(found, _paints_in, SHOWN - min(_VEILS, len(veils)) if found else 0)
    shown += various(veils, _paints_in, _VEILS if found else SHOWN)
    handicap = _VEIL_MUST_GAIN if TOOLS[question.tool].sprayed else 0.0
    shown.sort(key=lambda fade: fade.option.de00 + (handicap if fade.wiped is not None else 0.0))
    turns = tuple(turn_of(fade.option.lab, question.target.lab) for fade in shown)
    letters = tuple(_letters(question, fade) for fade in shown)
    return ToneAnswer(question, tuple(shown), turns, letters)


def _lightens(question: ToneQuestion, fade: Fade) -> bool:
    """Whether what is to lighten does: what goes on is lighter than what is there, where the goal is."""
    before, goal = question.before[0], question.goal.lab[0]
    if goal <= before + _LIGHTER_L:
        return True
    known = {paint.id: paint for paint in question.paints}
    added = [known[name] for name in (fade.option.paint, fade.option.second) if name]
    return fade.option.lab[0] > before and max(float(paint.masstone_lab()[0]) for paint in added) > before


def can_be_laid(question: ToneQuestion, fade: Fade) -> bool:
    """Whether a hand can lay it: a wet brush leaves streaks of very thin paint on more than a few square centimetres."""
    _mix, manner = question.laid(fade)
    tool = TOOLS[manner.tool or question.tool]
    small = question.area_cm2 is not None and question.area_cm2 <= FEW_CM2
    return tool.sprayed or tool.drawn_out or small or manner.thinner_share <= MOST_BRUSHED_THINNER + 1e-9


def _paints_in(fade: Fade) -> tuple[str, str | None]:
    return fade.option.paint, fade.option.second


def _letters(question: ToneQuestion, fade: Fade) -> tuple[tuple[Lab, Lab], ...]:
    made = _made(question, fade)
    pairs = []
    for one in question.lettering:
        bare = replace(one, X=0.0).lab(made)
        pairs.append((triple(bare), triple(_as_film(question, one, fade).lab(made))))
    return tuple(pairs)


def _as_film(question: ToneQuestion, one: Laying, fade: Fade) -> Laying:
    """What a fade lays where one mist of it lies so."""
    if fade.wiped is None:
        return mists_of(one, fade.mists)
    kept = question.veil.kept
    return replace(one, X=film_thickness(1, 0.0, VEIL_TOOL) * (1 - fade.wiped), kept=kept)


def oils_of(question: ToneQuestion, fade: Fade) -> tuple[Paint, ...]:
    """What a veil is drawn out of."""
    known = {paint.id: paint for paint in question.paints}
    return tuple(known[name] for name in (fade.option.paint, fade.option.second) if name)


def stirred_in(question: ToneQuestion, fade: Fade) -> tuple[Paint, tuple[Paint, ...]]:
    """The base and the lighteners of a fade, each with its share of the clear medium."""
    into = question.medium.into if question.medium else lambda paint: paint
    known = {paint.id: paint for paint in question.paints}
    names = (fade.option.paint, fade.option.second)
    return into(question.base), tuple(into(known[name]) for name in names if name)


def _made(question: ToneQuestion, fade: Fade) -> Paint:
    if fade.wiped is not None:
        oils = oils_of(question, fade)
        return stirred("veil", "veil", oils, [1.0] * len(oils))
    base, added = stirred_in(question, fade)
    return mixed_of(base, added, fade.option)


def red_school(question: ToneQuestion, fresh: Lab, sampled: bool, school: str) -> tuple[str, bool]:
    """Which way a red fades, "white" or "greenish", and whether the pair of samples decided; "" of what is no red."""
    if not is_red(fresh):
        return "", False
    if sampled and school == "by-sample":
        return ("white" if turn_of(question.target.lab, fresh).pink else "greenish"), True
    return ("white" if school == "white" else "greenish"), False


def foot_share(question: ToneQuestion, fade: Fade, foot: float) -> float:
    """How much of a fade lies at the foot of the zone, against its top, so that the foot is so much lighter than it was."""
    made = _made(question, fade)
    shares = np.linspace(0, 1, 101)
    whole = _as_film(question, question.mist, fade)
    lightness = mists_of(whole, shares[:, None]).lab(made)[:, 0] - question.before[0]
    return float(shares[int(np.argmin(np.abs(lightness - max(0.0, foot))))])


def foot_shade(question: ToneQuestion, darker: float) -> Fade | None:
    """A dark film that makes the foot of a zone so much darker in L*, as two mists; None without a dark paint."""
    dark = darkener(question.paints, question.base)
    if dark is None:
        return None
    goal = Goal.lighter(question.before, -abs(darker))
    found = choose_fades(
        [dark],
        question.base,
        goal,
        question.mist,
        question.before,
        mists=FADE_COATS,
        max_parts=2 * MOST_RATIO,
    )
    return found[0] if found else None


def lay_answer(project: Project, question: ToneQuestion, fade: Fade, foot: float | None = None) -> Project:
    """Lay a fade on its zone; with a foot, it runs out from above so that the foot differs by so many L* only.

    A foot that is to be darker gets a shade of its own from below.
    """
    mix, manner = question.laid(fade)
    if foot is None:
        return lay_fade(project, question.zone, mix, manner)
    manner = replace(manner, profile="above", far=round(foot_share(question, fade, foot), 2))
    project = lay_fade(project, question.zone, mix, manner)
    name = _("Shade at the foot")
    for coat in project.coats_of(question.zone):
        if coat.nature.lights and coat.name == name:
            project = remove_coat(project, coat.id)
    shade = foot_shade(question, foot) if foot < 0 else None
    if shade is None or not question.cup:
        return project
    mix, manner = question.mix(shade.option, shade.mists)
    manner = replace(manner, profile="below", far=0.0)
    return lay(project, [question.zone], "tone", mix, manner, name)[0]
