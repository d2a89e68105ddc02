"""How long hands are busy with a step, by area, passes and tool. All figures are common practice without a source."""

from __future__ import annotations

from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.traits.kind import Kind

SET_UP_SPRAYED, SET_UP_BY_HAND, FURTHER_COLOUR = 15.0, 5.0, 6.0
"""Minutes to set up and clean: of what is sprayed, of what is not, of one more colour in the same airbrush that evening."""
RATES: dict[str, float] = {
    "spray-can": 150, "airbrush": 60, "close": 15, "mist": 100, "brush": 12, "glaze": 15, "flood": 20, "seam": 6, "sponge": 10, "drybrush": 10,
    "flick": 60,
}  # fmt: skip
"""cm² a minute, by tool."""
POWDER, DOTS, DRAWN_OUT, MARKS, WIPED, SCRAPED, RESIST, WASHED = 15.0, 30.0, 6.0, 3.0, 8.0, 3.0, 10.0, 40.0
"""cm² a minute: powder; dots of one oil; drawing them out; marks by a fine brush; wiping, cleaning up, rubbing off; scraping; a
resist; washing."""
MASKING, UNMASKING = (6.0, 25.0), (5.0, 100.0)
"""Minutes to begin, and cm² a minute."""
DECAL_MIN, DECAL_CM2, SETTING_MIN = 4.0, 5.0, 2.0
"""Minutes for each so many cm² of decals, and for setting them."""
JOINT_MIN = 10.0
"""Minutes for each joint that parts are put together at."""
_FINE = "brush"
_PAUSES = {"airbrush": 3.0, "close": 3.0, "mist": 3.0, "spray-can": 10.0, "brush": 20.0}
_DRAWN_OUT_PAUSE = 15.0


def set_up_minutes(nature: Kind, tool: str | None) -> float:
    """Minutes to set up and clean."""
    if not nature.to_do:
        return 0.0
    sprayed = tool is not None and TOOLS[tool].sprayed and bool(nature.tools)
    return SET_UP_SPRAYED if sprayed else SET_UP_BY_HAND


def work_minutes(
    nature: Kind,
    tool: str | None,
    area_cm2: float,
    *,
    passes: int = 1,
    share: float = 1.0,
    loose: bool = False,
) -> float | None:
    """Minutes at the work itself on an area; None of what does not go by area, such as putting parts together.

    Films count the share of the area they cover, spots the whole of what they are strewn over.
    """
    if nature.is_mask:
        return MASKING[0] + area_cm2 / MASKING[1]
    if nature.lifts:
        return UNMASKING[0] + area_cm2 / UNMASKING[1]
    if nature.is_print:
        return DECAL_MIN * max(1.0, area_cm2 * share / DECAL_CM2)
    if nature.is_decal:
        return SETTING_MIN
    rate = _rate(nature, tool, loose)
    if rate is None:
        return None
    spots = nature.in_spots or nature.covers == "loose" or loose
    covered = area_cm2 if spots else area_cm2 * share
    once = covered / rate
    pause = _DRAWN_OUT_PAUSE if tool and TOOLS[tool].drawn_out else _PAUSES.get(tool or "", 0.0)
    between = 0.0 if loose or nature.is_dots else (passes - 1) * max(0.0, pause - once)
    return passes * once + between


def _rate(nature: Kind, tool: str | None, loose: bool) -> float | None:
    """cm² a minute."""
    by_trait = (
        (nature.draws_out, DRAWN_OUT), (nature.softens or (nature.unmasks and not nature.lifts), WIPED), (nature.covers == "taken", SCRAPED),
        (nature.resists, RESIST), (nature.is_dots, DOTS), (loose, POWDER), (nature.marks and tool == _FINE, MARKS),
    )  # fmt: skip
    for holds, rate in by_trait:
        if holds:
            return rate
    if nature.tools and tool is not None:
        return RATES[tool]
    return WASHED if nature.cleans else None
