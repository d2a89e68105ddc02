"""How far a bottle covers, and what it is for: two tables. Common practice without a source."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from lean_sepia.language import N_
from lean_sepia.paint.handling.said import said_in
from lean_sepia.paint.media import MEDIA


@dataclass(frozen=True)
class Body:
    """How far a paint covers.

    coats : of neat paint in which it hides; None as its medium and its colour have it
    """

    words: str
    coats: float | None
    said: tuple[str, ...] = ()


BODIES: dict[str, Body] = {
    "usual": Body(N_("covers as most do"), None, ("normal", "average", "standard")),
    "opaque": Body(N_("covers at once"), 1.3, ("covers well", "full cover", "heavy body")),
    "thin": Body(N_("covers poorly"), 4.0, ("semi-opaque", "semi opaque", "weak")),
    "transparent": Body(
        N_("lets what is below shine through"), 10.0, ("translucent", "glaze", "see-through")
    ),
    "clear": Body(N_("has no colour"), None, ("none", "colourless", "colorless")),
}


@dataclass(frozen=True, kw_only=True)
class Use:
    """What a bottle is for.

    proposed : whether the program stirs it into a mixture by itself; what is asked for by name may be stirred all the same
    alone : whether it is never part of a mixture
    tints : whether the program proposes it as a filter or a wash of its own; offered : for marks and lettering, as it is
    thinned : whether it is usually thinned for use; what is ready is laid as it comes
    colourless : whether it has no colour, as a rule; spare : whether a reserve of it is mixed for touch-ups
    seals, primes : whether the program lays it as the varnish or the primer that a step asks for
    body, sold_thinned : how far it covers, and the share of thinner it is sold with, unless its bottle says
    """

    words: str
    proposed: bool
    alone: bool
    tints: bool = False
    offered: bool = False
    thinned: bool = True
    colourless: bool = False
    spare: bool = True
    seals: bool = False
    primes: bool = False
    body: str = "usual"
    sold_thinned: float = 0.0
    said: tuple[str, ...] = ()


USES: dict[str, Use] = {
    "paint": Use(words=N_("paint"), proposed=True, alone=False, offered=True, tints=True, said=("colour", "color", "base")),
    "primer": Use(words=N_("primer"), proposed=False, alone=False, primes=True, said=("undercoat", "surfacer")),
    "varnish": Use(words=N_("varnish"), proposed=False, alone=False, colourless=True, spare=False, seals=True, said=("clear", "clear coat", "lacquer clear")),
    "medium": Use(words=N_("medium"), proposed=False, alone=False, colourless=True, spare=False, said=("flat base", "gloss medium", "retarder", "thinner medium")),
    "wash": Use(words=N_("ready wash"), proposed=False, alone=False, tints=True, thinned=False, spare=False, sold_thinned=0.9, said=("filter", "shade", "pin wash")),
    "ink": Use(words=N_("ink"), proposed=True, alone=False, offered=True, tints=True, body="transparent", said=("drawing ink",)),
    "powder": Use(words=N_("powder"), proposed=False, alone=False, offered=True, thinned=False, spare=False, said=("pigment", "weathering powder")),
    "pencil": Use(words=N_("pencil"), proposed=False, alone=True, offered=True, thinned=False, spare=False, said=("crayon", "marker")),
}  # fmt: skip


def body_said(text: str) -> str:
    """The body that a text names, in the table's word or in everyday ones; the text itself where it names none."""
    return said_in(text, BODIES)


def use_said(text: str) -> str:
    """The use that a text names, in the table's word or in everyday ones; the text itself where it names none."""
    return said_in(text, USES)


SPRAYED_TO_NEAT = 2.5
"""Coats sprayed at the usual 60 % thinner that make one brushed neat."""
_STRONG_CHROMA = 50.0
_WHITE_COATS = _YELLOW_COATS = 4.0
_RED_COATS, _BLACK_COATS = 3.0, 1.0


def coats_to_hide(
    lab: npt.ArrayLike, medium: str, body: str = "usual", opaque_coats: float | None = None
) -> float:
    """Neat coats in which a paint of a masstone L*a*b* (3,) hides: as stated, else as its body, its colour, its medium have it.

    Whites and strong yellows hide in four, strong reds and oranges in three, black in one (practice).
    """
    if opaque_coats:
        return opaque_coats
    if (coats := BODIES[body].coats) is not None:
        return coats
    L, a, b = (float(value) for value in np.asarray(lab, dtype=float))
    chroma, hue = float(np.hypot(a, b)), float(np.degrees(np.arctan2(b, a))) % 360
    if is_white(lab):
        return _WHITE_COATS
    if L < 25 and chroma < 8:
        return _BLACK_COATS
    if chroma > _STRONG_CHROMA and 20 <= hue <= 110:
        return _RED_COATS if hue <= 75 else _YELLOW_COATS
    return MEDIA[medium].hides_coats


def is_white(lab: npt.ArrayLike) -> bool:
    """Whether a masstone of this L*a*b* (3,) is taken for a white (practice)."""
    L, a, b = np.asarray(lab, dtype=float)
    return bool(L > 88 and np.hypot(a, b) < 10)
