"""The one table of media: what carries each, what bites it, how it dries, is undone, is cleaned off, and how it hides.

Everything that asks what a medium is asks here, and nothing that matters has a default: a row that leaves it out does not load.
All figures are common practice without a source.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from lean_sepia.language import N_
from lean_sepia.paint.handling.carriers import CARRIER_NAMES, CARRIERS, CarrierName
from lean_sepia.paint.handling.said import said_in
from lean_sepia.paint.handling.undo import Undo

_HOUR = 60.0
_DAY = 24 * _HOUR


@dataclass(frozen=True)
class Bite:
    """What a carrier does to an open film, cured or not: it stops the work, or warns."""

    severity: Literal["stop", "warn"]
    words: str


@dataclass(frozen=True, kw_only=True)
class Medium:
    """One medium.

    stirs_with : media that may share a cup with it, itself among them; none for what is laid dry
    hides_coats : coats in which a typical paint of it hides
    dries : quick and touch-dry within the hour, slow and open for hours, or dry powder
    full_cure_min : minutes until anything may follow; over_itself_min : until a coat of the same medium may, None as it cures
    workable_min : minutes for which what is fine, a wash or a mark, can be wiped or drawn out; None where it bites at once
    softens_after_min : minutes that marks of it want before they are softened
    bitten_by : what each solvent does to an open film of it; None where it does nothing
    coat_undone, glaze_undone, varnish_undone : how a coat, a glaze or mark, a varnish of it is taken back, the earliest first
    cleaned, disposed : how tools are cleaned of it, and where what is left goes
    tube : sold in tubes, measured as a bead rather than in drops; said : what else it is called
    """

    words: str
    carrier: CarrierName
    stirs_with: frozenset[str]
    hides_coats: float
    dries: Literal["quick", "slow", "dry"]
    full_cure_min: float
    over_itself_min: float | None
    workable_min: float | None
    softens_after_min: float
    bitten_by: Mapping[CarrierName, Bite | None]
    coat_undone: tuple[Undo, ...]
    glaze_undone: tuple[Undo, ...]
    varnish_undone: tuple[Undo, ...]
    cleaned: str
    disposed: str
    tube: bool = False
    said: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        """Refuse a row that does not say what every solvent does to it."""
        unsaid = [name for name in CARRIER_NAMES if CARRIERS[name].solvent and name not in self.bitten_by]
        if unsaid:
            raise ValueError(f"{self.words}: the table does not say what {', '.join(unsaid)} does to it")

    @property
    def loose(self) -> bool:
        """Whether it lies on a surface as powder and is never part of a wet mixture."""
        return not self.stirs_with

    @property
    def quick(self) -> bool:
        """Whether it is touch-dry within the hour."""
        return self.dries == "quick"

    @property
    def slow(self) -> bool:
        """Whether it stays open for hours, as oils and enamels do."""
        return self.dries == "slow"

    @property
    def mild(self) -> bool:
        """Whether it is quick and carried by nothing that reaches oils and enamels: what acrylics are."""
        return self.quick and self.carrier in ("water", "alcohol")


_WATER_AND_ALCOHOL = frozenset({"acrylic-water", "acrylic-alcohol"})
_SPIRIT = frozenset({"enamel", "oil"})
_SAND = Undo(None, N_("Sand it level, wet, and lay it again; the coat below goes with it."), False)
_WITH_ALCOHOL = Undo(
    _DAY, N_("Take it off with alcohol on a cotton bud; acrylic below it softens too."), False
)
_WIPED_WITH_SPIRIT = N_("Wipe it off with white spirit; what is acrylic below and cured stays.")
_SOFTENS = N_("White spirit softens it still; work in small areas.")
VARNISH_STAYS = Undo(
    None, N_("A varnish stays: the other sheen over it sets the sheen anew. Take dust out with a fine pad."), False
)  # fmt: skip
_WITH_COTTON = (
    Undo(_DAY, N_("Alcohol on a cotton bud takes it off over a varnish; without one the coat below goes too."), False),
    Undo(None, N_("Overspray it lightly with the base."), False),
)  # fmt: skip
_ACRYLIC_GLAZE = (Undo(10, N_("Wipe it off with water and a soft brush.")), *_WITH_COTTON)
_ALCOHOL_GLAZE = (Undo(10, N_("Wipe it off with alcohol on a soft brush, quickly.")), *_WITH_COTTON)
_SLOW_GLAZE = (
    Undo(12 * _HOUR, N_("Wipe it off with a brush damp with white spirit; over a varnish nothing is left of it.")),
    Undo(3 * _DAY, N_("White spirit still softens it; the darkest stays in the seams."), False),
    Undo(None, N_("Overspray it lightly with the base, or glaze over it."), False),
)  # fmt: skip
_POWDER = (
    Undo(None, N_("Brush it off, or lift it with a damp cotton bud, as long as nothing fixes or varnishes it. About 8 psi of air takes off what is loose: in the booth and masked.")),
)  # fmt: skip
_LACQUER = (
    Undo(0, N_("It has bitten by the time it is seen: let it dry.")),
    Undo(None, N_("Flatten it with a fine pad and lay it again; its thinner takes everything below with it."), False),
)  # fmt: skip
_NOTHING_BITES: Mapping[CarrierName, None] = {
    "alcohol": None, "white-spirit": None, "lacquer-thinner": None,
}  # fmt: skip
_LIDDED = N_(
    "Thinner and what is left of the mix: a lidded container, to the hazardous waste; never a drain."
)
_SWEPT = N_("Wipe what fell beside it up with a damp cloth, into the household waste; do not blow it about.")


def _powder(words: str, *said: str) -> Medium:
    return Medium(
        words=words, carrier="none", stirs_with=frozenset(), hides_coats=2, dries="dry", full_cure_min=0,
        over_itself_min=None, workable_min=None, softens_after_min=0, bitten_by=_NOTHING_BITES,
        coat_undone=_POWDER, glaze_undone=_POWDER, varnish_undone=_POWDER,
        cleaned=N_("Knock the brush out over the lid and keep it dry."), disposed=_SWEPT, said=said,
    )  # fmt: skip


MEDIA: dict[str, Medium] = {
    "acrylic-water": Medium(
        words=N_("water-based acrylic"),
        carrier="water",
        stirs_with=_WATER_AND_ALCOHOL,
        hides_coats=2,
        dries="quick",
        full_cure_min=12 * _HOUR,
        over_itself_min=20,
        workable_min=10,
        softens_after_min=0,
        bitten_by={
            "alcohol": Bite("warn", N_("softens it when laid on wet")),
            "white-spirit": None,
            "lacquer-thinner": Bite("warn", N_("bites into it")),
        },
        coat_undone=(Undo(10, N_("Wash it off with water and a soft brush.")), _WITH_ALCOHOL, _SAND),
        glaze_undone=_ACRYLIC_GLAZE,
        varnish_undone=(Undo(5, N_("Wipe it off with water at once.")), VARNISH_STAYS),
        cleaned=N_("Water before it skins; what has dried comes off with alcohol or the maker's cleaner."),
        disposed=N_(
            "Wipe cups out and let the rest dry: dry paint goes to the household waste, none of it wet down a drain."
        ),
        said=("acrylic", "water acrylic", "acrylic paint", "vinyl", "water-based", "water based acrylic"),
    ),
    "acrylic-alcohol": Medium(
        words=N_("alcohol-based acrylic"),
        carrier="alcohol",
        stirs_with=_WATER_AND_ALCOHOL,
        hides_coats=2,
        dries="quick",
        full_cure_min=6 * _HOUR,
        over_itself_min=20,
        workable_min=10,
        softens_after_min=0,
        bitten_by={
            "alcohol": Bite("warn", N_("dissolves it when laid on wet")),
            "white-spirit": None,
            "lacquer-thinner": Bite("warn", N_("softens it")),
        },
        coat_undone=(Undo(5, N_("Wipe it off with alcohol, quickly.")), _WITH_ALCOHOL, _SAND),
        glaze_undone=_ALCOHOL_GLAZE,
        varnish_undone=(VARNISH_STAYS,),
        cleaned=N_("Alcohol or its own thinner, at once."),
        disposed=_LIDDED,
        said=("alcohol acrylic", "alcohol-based", "alcohol based acrylic"),
    ),
    "lacquer": Medium(
        words=N_("lacquer"),
        carrier="lacquer-thinner",
        stirs_with=frozenset({"lacquer"}),
        hides_coats=2,
        dries="quick",
        full_cure_min=2 * _HOUR,
        over_itself_min=20,
        workable_min=None,
        softens_after_min=0,
        bitten_by={
            "alcohol": None,
            "white-spirit": None,
            "lacquer-thinner": Bite("warn", N_("dissolves it")),
        },
        coat_undone=_LACQUER,
        glaze_undone=_LACQUER,
        varnish_undone=(VARNISH_STAYS,),
        cleaned=N_("Lacquer thinner, at the extraction, with gloves that stand it."),
        disposed=_LIDDED,
        said=("lacquer paint", "nitro", "cellulose"),
    ),
    "enamel": Medium(
        words=N_("enamel"),
        carrier="white-spirit",
        stirs_with=_SPIRIT,
        hides_coats=2,
        dries="slow",
        full_cure_min=24 * _HOUR,
        over_itself_min=6 * _HOUR,
        workable_min=12 * _HOUR,
        softens_after_min=5,
        bitten_by={
            "alcohol": None,
            "white-spirit": Bite("stop", N_("softens it")),
            "lacquer-thinner": Bite("stop", N_("lifts and wrinkles it even when it is dry")),
        },
        coat_undone=(Undo(6 * _HOUR, _WIPED_WITH_SPIRIT), Undo(3 * _DAY, _SOFTENS, False), _SAND),
        glaze_undone=_SLOW_GLAZE,
        varnish_undone=(VARNISH_STAYS,),
        cleaned=N_("White spirit, then soap and water for the brushes."),
        disposed=_LIDDED,
        said=("enamel paint", "synthetic enamel"),
    ),
    "oil": Medium(
        words=N_("oil"),
        carrier="white-spirit",
        stirs_with=_SPIRIT,
        hides_coats=3,
        dries="slow",
        full_cure_min=48 * _HOUR,
        over_itself_min=None,
        workable_min=12 * _HOUR,
        softens_after_min=0,
        bitten_by={
            "alcohol": None,
            "white-spirit": Bite("stop", N_("dissolves it")),
            "lacquer-thinner": Bite("stop", N_("dissolves it even when it is dry")),
        },
        coat_undone=(Undo(_DAY, _WIPED_WITH_SPIRIT), Undo(5 * _DAY, _SOFTENS, False), _SAND),
        glaze_undone=_SLOW_GLAZE,
        varnish_undone=(VARNISH_STAYS,),
        cleaned=N_("White spirit, then soap and water for the brushes."),
        disposed=_LIDDED,
        tube=True,
        said=("oil paint", "oils", "oil colour", "tube oil"),
    ),
    "pigment": _powder(
        N_("dry pigment"), "powder", "pigment powder", "weathering powder", "dry powder"
    ),
    "pastel": _powder(N_("pastel"), "pastels", "chalk pastel", "soft pastel"),
}  # fmt: skip


def media_mix(one: str, other: str) -> bool:
    """Whether paints of two media can be stirred into one mixture: it is enough that the row of either says so."""
    return other in MEDIA[one].stirs_with or one in MEDIA[other].stirs_with


def medium_said(text: str) -> str:
    """The medium that a text names, in the table's word or in everyday ones; the text itself where it names none."""
    return said_in(text, MEDIA)
