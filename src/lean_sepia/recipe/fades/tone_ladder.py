"""Five tones of one base for light and shade, in whole parts, each with the area it may cover."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import triple
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint, Palette
from lean_sepia.recipe.parts import proportions

AREA_SHARES = (0.30, 0.34, 0.22, 0.10, 0.04)
"""Area of each tone, darkest first: the lighter the highlight, the smaller the area (practice)."""

STEPS_L = (-6.0, 0.0, 5.0, 10.0, 16.0)
"""Lightness of each tone against the base (practice)."""

_DEAD_CHROMA = 1.5  # a black with less colour than this deadens what it shades (practice)


@dataclass(frozen=True)
class Tone:
    """One tone: parts of base and of what is added, its colour and the share of area it may cover."""

    base_parts: int
    added: str | None
    added_parts: int
    lab: tuple[float, float, float]
    area_share: float


def darkener(paints: Sequence[Paint], base: Paint) -> Paint | None:
    """A dark paint to shade with that is not dead black: the darkest with some colour of its own."""
    dark = [p for p in paints if p.mixes and media_mix(p.medium, base.medium) and p.masstone_lab()[0] < 35]
    if not dark:
        return None
    tinged = [p for p in dark if float(np.hypot(*p.masstone_lab()[1:])) > _DEAD_CHROMA]
    return min(tinged or dark, key=lambda p: float(p.masstone_lab()[0]))


def tone_ladder(
    base: Paint, lightener: Paint, dark: Paint | None, *, max_parts: int = 10, laying: Laying = OPAQUE
) -> list[Tone]:
    """Tones from shade to highlight; without a dark paint the shade is the base itself."""
    start = laying.lab(base)
    tones = []
    for step, share in zip(STEPS_L, AREA_SHARES, strict=True):
        added = lightener if step > 0 else dark if step < 0 else None
        if added is None:
            tones.append(Tone(1, None, 0, triple(start), share))
            continue
        parts = proportions(2, max_parts)
        mixed = Palette.of([base, added]).mixture(parts / parts.sum(axis=1, keepdims=True))
        labs = laying.lab(mixed)
        best = int(np.argmin(np.abs(labs[:, 0] - (start[0] + step))))
        tones.append(Tone(int(parts[best, 0]), added.id, int(parts[best, 1]), triple(labs[best]), share))
    return tones
