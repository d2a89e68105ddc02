"""The one table of carriers: what paints are thinned with, and what to heed of each. Common practice without a source."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from lean_sepia.language import N_

CarrierName = Literal["none", "water", "alcohol", "white-spirit", "lacquer-thinner"]
CARRIER_NAMES: tuple[CarrierName, ...] = get_args(CarrierName)


@dataclass(frozen=True, kw_only=True)
class Carrier:
    """One carrier.

    put_out : what stands ready of it at the bench
    solvent : its vapour is breathed and burns, and it may attack what lies below; what it does to each the table of media says
    flashes_off : sprayed over what has cured it is gone before it bites
    through_varnish : from a wet brush it reaches what lies loose under a varnish
    stands_heat : a hair-dryer may be held on it
    heed : cautions of its own
    """

    words: str
    put_out: str
    solvent: bool
    flashes_off: bool
    through_varnish: bool
    stands_heat: bool
    heed: tuple[str, ...]


def _solvent(words: str, *heed: str, flashes_off: bool, through_varnish: bool, stands_heat: bool) -> Carrier:
    return Carrier(words=words, put_out=words, solvent=True, flashes_off=flashes_off, through_varnish=through_varnish,
                   stands_heat=stands_heat, heed=heed)  # fmt: skip


def _harmless(words: str, put_out: str) -> Carrier:
    return Carrier(words=words, put_out=put_out, solvent=False, flashes_off=False, through_varnish=False,
                   stands_heat=True, heed=())  # fmt: skip


CARRIERS: dict[CarrierName, Carrier] = {
    "none": _harmless(N_("nothing"), ""),
    "water": _harmless(N_("water"), N_("clean water")),
    "alcohol": _solvent(N_("alcohol"), flashes_off=True, through_varnish=True, stands_heat=False),
    "white-spirit": _solvent(
        N_("white spirit"),
        N_("Oily rags can self-heat: dry them flat outdoors or keep them in a lidded metal can."),
        flashes_off=False, through_varnish=False, stands_heat=True,
    ),
    "lacquer-thinner": _solvent(
        N_("lacquer thinner"),
        N_("Thin nitrile gloves do not stop lacquer thinner."),
        flashes_off=False, through_varnish=False, stands_heat=False,
    ),
}  # fmt: skip
