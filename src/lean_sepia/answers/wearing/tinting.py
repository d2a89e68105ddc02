"""Wear that is too small to be seen on the model, as the filter that does to the colour what it would have done."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from lean_sepia.answers.coats.draft import Draft, thinning_words, usual_draft
from lean_sepia.answers.glazing.grounds import ground_of
from lean_sepia.answers.glazing.tints import tints
from lean_sepia.answers.wearing.bottles import Bottles
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.recipe.tints.glaze import choose_glazes


def tint_draft(
    project: Project, zone_id: str, lab_shift: tuple[float, float, float], bottles: Bottles
) -> Draft | None:
    """The filter that shifts a zone's colour by L*a*b* (3,); None where nothing lies there or no bottle can be thinned so."""
    kind = tints().filters[0]
    zone = ground_of(project, zone_id, kind)
    bottled = [paint for paint in bottles.paints if paint.lies_as_film and not paint.can and not paint.clear]
    if zone is None or not bottled:
        return None
    try:
        best = choose_glazes(bottled, [zone.ground], [np.array(zone.before) + np.array(lab_shift)])[0]
    except SepiaError:
        return None
    names = {paint.id: paint.name for paint in bottled}
    draft = usual_draft(kind, owns=project.owns)
    thinned = thinning_words(best.thinner_parts / (1 + best.thinner_parts))
    return replace(draft, of=names[best.paint], thinned=thinned, tool="glaze", passes=best.passes)
