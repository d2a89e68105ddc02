"""The kinds of wear that can be pointed at or chosen: the one table of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lean_sepia.document.bounds import Lab
from lean_sepia.language import N_, _


@dataclass(frozen=True)
class WearKind:
    """A kind of wear that can be pointed at or chosen: its word, what it is called as a coat, and its kind of step.

    lab : its usual colour, where neither a sample nor a bottle says; shares : of the area, subtle, as most often, heavy (practice)
    role : in which its colour is sampled, if it is
    spreads : where it is found: low on what it settles on, down from what water runs over, to the lee of what is hot, or where a
        thing is trodden and gripped
    arid, damp : by what such a climate multiplies it (practice): dry rust stays in dark spots, wet rust runs
    """

    words: str
    coat: str
    kind: str
    lab: Lab
    shares: tuple[float, float, float]
    role: str = ""
    spreads: Literal["low", "down", "lee", "worn"] = "worn"
    arid: float = 1.0
    damp: float = 1.0


WEAR_KINDS: dict[str, WearKind] = {
    "rust": WearKind(N_("rust"), N_("Rust chips"), "chips", (36.0, 20.0, 22.0), (0.005, 0.02, 0.06), "rust"),
    "scratch": WearKind(N_("scratch"), N_("Scratches"), "chips", (70.0, 1.0, 4.0), (0.003, 0.01, 0.03)),
    "undercoat": WearKind(
        N_("undercoat"),
        N_("Undercoat showing"),
        "scrape",
        (40.0, 26.0, 15.0),
        (0.005, 0.02, 0.08),
        "undercoat",
    ),
    "wood": WearKind(N_("bare wood"), N_("Bare wood"), "chips", (62.0, 8.0, 22.0), (0.01, 0.04, 0.12)),
    "streaks": WearKind(
        N_("streaks"),
        N_("Rust streaks"),
        "streaks",
        (40.0, 18.0, 20.0),
        (0.005, 0.02, 0.05),
        "rust",
        "down",
        arid=0.2,
        damp=1.5,
    ),
    "algae": WearKind(
        N_("algae"),
        N_("Algae"),
        "streaks",
        (40.0, -10.0, 18.0),
        (0.01, 0.04, 0.10),
        spreads="down",
        arid=0.0,
        damp=1.5,
    ),
    "spill": WearKind(
        N_("spill"), N_("Spills"), "streaks", (24.0, 2.0, 4.0), (0.005, 0.02, 0.05), spreads="down"
    ),
    "dust": WearKind(
        N_("dust"),
        N_("Dust"),
        "dust",
        (62.0, 5.0, 15.0),
        (0.08, 0.25, 0.6),
        "dust",
        "low",
        arid=1.6,
        damp=0.6,
    ),
    "soot": WearKind(N_("soot"), N_("Soot"), "soot", (22.0, 0.0, 1.0), (0.02, 0.08, 0.25), "soot", "lee"),
}


def wear_words(name: str) -> str:
    """The word for a kind of wear, or its own name where the user named it."""
    return _(WEAR_KINDS[name].words) if name in WEAR_KINDS else name


def kind_of(name: str) -> WearKind:
    """A kind from the table, or one for a name of one's own."""
    return WEAR_KINDS.get(name) or WearKind(
        name, name.capitalize(), "chips", (45.0, 5.0, 8.0), (0.005, 0.02, 0.06)
    )
