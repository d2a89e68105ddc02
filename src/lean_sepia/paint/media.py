"""The one table of media: what carries each, what it can be stirred with, how it hides and how long it cures.

All figures are common practice without a source.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from lean_sepia.language import N_

Carrier = Literal["none", "water", "alcohol", "white-spirit", "lacquer-thinner"]
CARRIERS: tuple[Carrier, ...] = get_args(Carrier)

CARRIER_WORDS: dict[Carrier, str] = {
    "none": N_("nothing"), "water": N_("water"), "alcohol": N_("alcohol"), "white-spirit": N_("white spirit"),
    "lacquer-thinner": N_("lacquer thinner"),
}  # fmt: skip
_HOUR = 60.0


@dataclass(frozen=True)
class Medium:
    """One medium.

    stirs_with : media that may share a cup with it; none for what is laid dry
    hides_coats : coats in which a typical paint of it hides
    full_cure_min : minutes until anything may follow
    tube : sold in tubes, measured as a bead rather than in drops; said : what else it is called
    """

    words: str
    carrier: Carrier
    stirs_with: frozenset[str]
    hides_coats: float
    full_cure_min: float
    tube: bool = False
    said: tuple[str, ...] = ()

    @property
    def loose(self) -> bool:
        """Whether it lies on a surface as powder and is never part of a wet mixture."""
        return not self.stirs_with


_WATER_AND_ALCOHOL = frozenset({"acrylic-water", "acrylic-alcohol"})
_SPIRIT = frozenset({"enamel", "oil"})
MEDIA: dict[str, Medium] = {
    "acrylic-water": Medium(
        N_("water-based acrylic"),
        "water",
        _WATER_AND_ALCOHOL,
        2,
        12 * _HOUR,
        said=("acrylic", "water acrylic", "acrylic paint", "vinyl", "water-based", "water based acrylic"),
    ),
    "acrylic-alcohol": Medium(
        N_("alcohol-based acrylic"),
        "alcohol",
        _WATER_AND_ALCOHOL,
        2,
        6 * _HOUR,
        said=("alcohol acrylic", "alcohol-based", "alcohol based acrylic"),
    ),
    "lacquer": Medium(
        N_("lacquer"),
        "lacquer-thinner",
        frozenset({"lacquer"}),
        2,
        2 * _HOUR,
        said=("lacquer paint", "nitro", "cellulose"),
    ),
    "enamel": Medium(
        N_("enamel"), "white-spirit", _SPIRIT, 2, 24 * _HOUR, said=("enamel paint", "synthetic enamel")
    ),
    "oil": Medium(
        N_("oil"),
        "white-spirit",
        _SPIRIT,
        3,
        48 * _HOUR,
        tube=True,
        said=("oil paint", "oils", "oil colour", "tube oil"),
    ),
    "pigment": Medium(
        N_("dry pigment"),
        "none",
        frozenset(),
        2,
        0,
        said=("powder", "pigment powder", "weathering powder", "dry powder"),
    ),
    "pastel": Medium(
        N_("pastel"), "none", frozenset(), 2, 0, said=("pastels", "chalk pastel", "soft pastel")
    ),
}


def media_mix(one: str, other: str) -> bool:
    """Whether paints of two media can be stirred into one mixture."""
    return other in MEDIA[one].stirs_with


def medium_said(text: str) -> str:
    """The medium that a text names, in the table's word or in everyday ones; the text itself where it names none."""
    wanted = " ".join(text.casefold().split())
    for name, medium in MEDIA.items():
        if wanted in (name, medium.words.casefold(), *medium.said):
            return name
    return text
