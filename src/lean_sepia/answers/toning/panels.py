"""A zone's panels with their degrees of fading: what the fade of the whole comes to on each, cup by cup, and both sides."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.toning.fading import ToneQuestion, oils_of, stirred_in
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.coats import edit_coat, lay, remove_coat
from lean_sepia.document.edits.mixes import Mix, manner_of
from lean_sepia.document.entities.panels import PanelGrid
from lean_sepia.document.model import Coat, Project, Zone
from lean_sepia.document.versions import coat_paint
from lean_sepia.language import _
from lean_sepia.paint.ageing import Ageing
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import stirred
from lean_sepia.paint.profile import PANELS
from lean_sepia.recipe.fades.fade import Lightener
from lean_sepia.recipe.fades.mists import Fade, mists_of
from lean_sepia.recipe.fades.panels import Box, Level, level_mixes, level_veils, panel_shares
from lean_sepia.recipe.parts import proportions

OLDER, NEWER = 1.0, 0.5
"""How far lettering of an early and of a late generation has faded, of what there is (practice)."""

_LETTER_CHALK = 0.06  # what lettering chalks where nothing is known of how the zone aged (practice)
_LATE_WORDS = ("late", "second", "new")


@dataclass(frozen=True, eq=False)
class PanelPlan:
    """Panels of one side, the degree of each, the cups for the degrees, and what of the area stays unfaded.

    other : the degrees on the other side, panel by panel as seen from there
    """

    grid: PanelGrid
    boxes: tuple[Box, ...]
    degrees: tuple[int, ...]
    other: tuple[int, ...]
    levels: tuple[Level, ...]
    before: Lab
    unfaded: float

    def lab_of(self, degree: int) -> Lab:
        """The colour of a panel of a degree."""
        return next((level.lab for level in self.levels if level.number == degree), self.before)


def panel_plan(question: ToneQuestion, fade: Fade, panels: PanelGrid, *, mirrored: bool = False) -> PanelPlan:
    """How a fade is given out over the panels of a zone; `mirrored` on the side that mirrors another."""
    degrees = panels.degrees(mirrored=mirrored, replaced=panels.replaced)
    other, boxes = panels.degrees(mirrored=not mirrored), panels.boxes
    shares = panel_shares(boxes)
    faded = np.array(degrees)
    per_level = [float(shares[faded == number].sum()) for number in range(1, panels.levels + 1)]
    option = fade.option
    if fade.wiped is not None:
        levels = level_veils(oils_of(question, fade), question.veil, fade.wiped, per_level, panels.limit)
    else:
        base, added = stirred_in(question, fade)
        counts = [option.lightener_parts, *([option.second_parts] if option.second else [])]
        levels = level_mixes(
            base, added, counts, option.base_parts, mists_of(question.mist, fade.mists), per_level, panels.limit
        )  # fmt: skip
    return PanelPlan(
        panels, boxes, degrees, other, tuple(levels), question.before, float(shares[faded == 0].sum())
    )


def lay_panels(project: Project, question: ToneQuestion, fade: Fade, plan: PanelPlan) -> Project:
    """Lay a fade panel by panel, a cup for each degree, in place of the zone's even fade."""
    for coat in project.coats_of(question.zone):
        if coat.nature.fades:
            project = remove_coat(project, coat.id)
    above = None
    for level in plan.levels:
        if level.area_share <= 0:
            continue
        option = Lightener(
            fade.option.paint, level.base_parts, level.lightener_parts, level.lab, 0.0, None, fade.option.second, level.second_parts
        )  # fmt: skip
        mix, manner = question.laid(replace(fade, option=option, wiped=level.wiped))
        manner = replace(manner, area_share=min(1.0, level.area_share), profile=PANELS)
        name = _("Fade, panels {0} of {1}").format(level.number, len(plan.levels))
        project, above = lay(project, [question.zone], "fade", mix, manner, name, above)
    return project


@dataclass(frozen=True)
class FadedLetters:
    """Lettering of one generation: how far it has faded, the colour it has then, and the base that is stirred in for it."""

    coat: Coat
    degree: float
    lab: Lab
    own_parts: int
    base_parts: int


def faded_letters(project: Project, zone_id: str, ageing: Ageing | None) -> list[FadedLetters]:
    """Each generation of a zone's lettering at its own degree of fading, and how to mix it from its own and the base's cup."""
    markings = [coat for coat in project.coats_of(zone_id) if coat.on and coat.nature.is_marking]
    base = next((c for c in project.bases_of(zone_id) if c.recipe), None)
    ground = coat_paint(project, base) if base else None
    cut = {band.coat.id: band.lab for band in strata_of(project, zone_id).bands}
    found = []
    for coat in markings:
        late = any(word in coat.name.casefold() for word in _LATE_WORDS) and len(markings) > 1
        degree = NEWER if late else OLDER
        fresh = cut[coat.id] or coat.lab
        if fresh is None:
            continue
        whole = ageing or Ageing(chalk=_LETTER_CHALK)
        part = Ageing(*(degree * getattr(whole, name) for name in ("chalk", "bleach", "yellow", "dirt")))
        goal = part.lab(fresh)
        paint = coat_paint(project, coat)
        if paint is None or ground is None or not media_mix(paint.medium, ground.medium):
            found.append(FadedLetters(coat, degree, goal, 1, 0))
            continue
        best = (float(delta_e00(paint.masstone_lab(), goal)), 1, 0, goal)
        for own, theirs in proportions(2, 24):
            mixed = stirred("letters", "", (paint, ground), (int(own), int(theirs))).masstone_lab()
            away = float(delta_e00(mixed, goal))
            if own > theirs and away < best[0]:
                best = (away, int(own), int(theirs), goal)
        found.append(FadedLetters(coat, degree, goal, best[1], best[2]))
    return found


def fade_letters(project: Project, zone_id: str, letters: FadedLetters) -> Project:
    """Lay lettering faded: its mix with some of the base's cup, or, where it is only a colour, the faded colour."""
    coat = project.coat(letters.coat.id)
    if coat.recipe is None:
        return edit_coat(
            project, coat.id, coat.kind, Mix(lab=letters.lab, finish=coat.finish, medium=coat.medium), manner_of(coat), coat.name
        )  # fmt: skip
    base = next(c for c in project.bases_of(zone_id) if c.recipe)
    recipe = project.recipe(coat.recipe)
    total = sum(count for _name, count in (*recipe.cups, *recipe.parts))
    if not letters.base_parts or base.recipe is None:
        return project
    mix = Mix(
        versions=tuple((version, count * letters.own_parts) for version, count in recipe.parts),
        cups=(
            *((cup, count * letters.own_parts) for cup, count in recipe.cups),
            (base.recipe, total * letters.base_parts),
        ),
    )
    return edit_coat(project, coat.id, coat.kind, mix, manner_of(coat), coat.name)


def is_other_side(zone: Zone) -> bool:
    """Whether a zone is the side that mirrors another."""
    return zone.mirrors is not None
