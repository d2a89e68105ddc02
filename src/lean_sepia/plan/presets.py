"""How a kind of coat is usually laid with a tool, and how much of the area powder covers in words.

All figures are common practice without a source.
"""

from __future__ import annotations

from lean_sepia.language import N_
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.traits.said import Preset

_BY_TOOL: dict[str, Preset] = {
    "airbrush": Preset(2, 0.6), "close": Preset(2, 0.7), "mist": Preset(2, 0.9), "spray-can": Preset(2), "brush": Preset(3, 0.5),
    "glaze": Preset(2, 20 / 21), "flood": Preset(1, 10 / 11), "seam": Preset(1, 10 / 11), "sponge": Preset(1, 0.0, 0.05),
    "drybrush": Preset(1, 0.0, 0.15), "flick": Preset(1, 0.5, 0.03),
}  # fmt: skip
"""A full coat of paint, by tool."""

HEAVINESS: dict[str, tuple[str, float]] = {
    "veil": (N_("a veil"), 0.08), "light": (N_("light"), 0.25), "heavy": (N_("heavy"), 0.6), "fresh": (N_("not yet wiped"), 0.9),
}  # fmt: skip
"""How much of the area loose powder covers, in words."""


def preset(kind: str, tool: str | None = None) -> Preset:
    """How a kind is usually laid, with its usual tool or another.

    Spots, glazes and powder keep their figures with any tool, but that what is sprayed in place of powder is thinned paint.
    """
    nature = KINDS[kind]
    own = nature.usual or Preset()
    usual = next(iter(nature.tools), "")
    if tool in (None, usual) and nature.usual is not None:
        return own
    by_tool = _BY_TOOL[tool or usual or "airbrush"]
    if nature.family in ("paint", "varnish"):
        share = min(by_tool.area_share, own.area_share)
        return Preset(by_tool.passes, by_tool.thinner_share, share, own.profile, own.far)
    if nature.marks and tool and TOOLS[tool].sprayed:
        return Preset(2, 0.9, own.area_share, own.profile, own.far)
    return own
