"""How a kind of coat is usually laid with a tool: passes, thinning, share of the area, and over how much of the zone.

All figures are common practice without a source.
"""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.language import N_
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.kinds import KINDS

_WASH, _FILTER = 10 / 11, 20 / 21  # one part in ten of thinner, one in twenty


@dataclass(frozen=True)
class Preset:
    """Passes, thinner share, share of the area; `profile` and `far` of what is put more here than there."""

    passes: int = 1
    thinner_share: float = 0.0
    area_share: float = 1.0
    profile: str | None = None
    far: float = 0.0


_AIRBRUSHED = Preset(2, 0.6)
_BY_TOOL: dict[str, Preset] = {
    "airbrush": _AIRBRUSHED, "close": Preset(2, 0.7), "mist": Preset(2, 0.9), "spray-can": Preset(2), "brush": Preset(3, 0.5),
    "glaze": Preset(2, _FILTER), "flood": Preset(1, _WASH), "seam": Preset(1, _WASH), "sponge": Preset(1, 0.0, 0.05),
    "drybrush": Preset(1, 0.0, 0.15),
}  # fmt: skip
"""A full coat of paint, by tool."""

_BY_KIND: dict[str, Preset] = {
    "primer": Preset(2, 0.5), "preshade": Preset(1, 0.7, 1.0, "recess", 0.1), "camouflage": Preset(2, 0.7), "tone": Preset(2, 0.9),
    "fade": Preset(2, 0.8), "filter": Preset(2, _FILTER), "wash": Preset(1, _WASH), "pin-wash": Preset(1, _WASH, 0.05),
    "oil-dots": Preset(1, 0.0, 0.1), "marking": Preset(1, 0.2, 0.02), "chips": Preset(1, 0.0, 0.02), "streaks": Preset(1, 0.8, 0.03),
    "graphite": Preset(1, 0.0, 0.01), "powder": Preset(area_share=0.25), "pastel": Preset(area_share=0.25),
    "dust": Preset(1, 0.0, 0.25, "below", 0.2), "soot": Preset(area_share=0.08), "resist": Preset(area_share=0.05),
    "scrape": Preset(area_share=0.02), "wipe-back": Preset(1, 0.0, 0.9, "recess", 1.0), "touch-up": Preset(2, 0.5, 0.05),
}  # fmt: skip
"""Where a kind has its own figures, with its usual tool."""

HEAVINESS: dict[str, tuple[str, float]] = {
    "veil": (N_("a veil"), 0.08), "light": (N_("light"), 0.25), "heavy": (N_("heavy"), 0.6), "fresh": (N_("not yet wiped"), 0.9),
}  # fmt: skip
"""How much of the area loose powder covers, in words."""


def preset(kind: str, tool: str | None = None) -> Preset:
    """How a kind is usually laid, with its usual tool or another."""
    nature = KINDS[kind]
    usual = next(iter(nature.tools), None)
    if tool is None or tool == usual or tool not in TOOLS:
        own = _BY_KIND.get(kind)
        if own is not None:
            return own
    elif nature.family == "paint" or nature.family == "varnish":
        by_tool = _BY_TOOL[tool]
        own = _BY_KIND.get(kind)
        return Preset(
            by_tool.passes, by_tool.thinner_share, min(by_tool.area_share, own.area_share if own else 1.0),
            own.profile if own else None, own.far if own else 0.0,
        )  # fmt: skip
    elif kind in _BY_KIND:
        own = _BY_KIND[kind]
        if tool in ("airbrush", "mist", "close") and nature.family in ("powder", "spots"):
            return Preset(2, 0.9, own.area_share, own.profile, own.far)  # thinned paint in place of powder
        return own
    if nature.family in ("paint", "varnish"):
        return _BY_TOOL[tool or usual or "airbrush"]
    return Preset()
