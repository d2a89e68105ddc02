"""The one table of tools: how thick a pass lies, how much of the paint arrives, and how the tool is spoken of.

All figures are common practice without a source; the user may edit them one day.
"""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.language import N_

_LEFT_ML = 0.3
SPECK_MM = 0.3
"""How broad specks off a stiff brush are in the mean, on the model."""


@dataclass(frozen=True)
class Tool:
    """One manner of laying.

    spread : film units laid by one unthinned pass
    arrives : share of what leaves the tool that reaches the surface
    left_ml : what stays in the tool
    sprayed : whether it makes a mist; from_can : whether it is a can, which brings its own paint; drawn_out : whether a thin tint keeps the sheen of what it lies on
    dabbed : whether it makes marks, and no film over all it is laid on; flicked : whether those are specks strewn by chance
    """

    words: str
    spread: float
    arrives: float
    left_ml: float = _LEFT_ML
    sprayed: bool = False
    drawn_out: bool = False
    from_can: bool = False
    dabbed: bool = False
    flicked: bool = False


TOOLS: dict[str, Tool] = {
    "airbrush": Tool(N_("airbrush"), 1.0, 0.5, sprayed=True),
    "close": Tool(N_("airbrush, a light close pass"), 0.5, 0.5, sprayed=True),
    "mist": Tool(N_("airbrush, a mist from further off"), 0.15, 0.5, sprayed=True),
    "spray-can": Tool(N_("spray can"), 1.3, 0.4, left_ml=0.0, sprayed=True, from_can=True),
    "brush": Tool(N_("brush"), 1.5, 0.9),
    "glaze": Tool(N_("brush, drawn out thin"), 0.3, 0.9, drawn_out=True),
    "flood": Tool(N_("brush, left wet"), 1.0, 0.9, drawn_out=True),
    "seam": Tool(N_("brush, into the seams"), 5.0, 0.9, drawn_out=True),
    "sponge": Tool(N_("sponge"), 1.0, 0.7, dabbed=True),
    "drybrush": Tool(N_("dry brush"), 1.0, 0.7, dabbed=True),
    "flick": Tool(N_("flicked off a brush"), 1.0, 0.3, dabbed=True, flicked=True),
}
