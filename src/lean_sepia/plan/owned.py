"""What the person has to work with: every proposal keeps to it, and says what more would gain."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.kinds import KINDS


class Owned(BaseModel):
    """An airbrush, a place with extraction to spray in, or nothing but spray cans, whose colours are laid as they are."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    airbrush: bool = True
    booth: bool = True
    cans_only: bool = False

    def has(self, tool: str) -> bool:
        """Whether the person can work with a tool; brushes and sponges everyone has."""
        if tool == "spray-can" or not TOOLS[tool].sprayed:
            return True
        return self.airbrush and not self.cans_only

    def tools(self, kind: str) -> tuple[str, ...]:
        """The tools a kind is usually laid with, as far as the person has them; a brush where there is none."""
        usual = KINDS[kind].tools
        if self.cans_only and KINDS[kind].family in ("paint", "varnish"):
            return ("spray-can",)
        if not self.airbrush and KINDS[kind].family in ("paint", "varnish"):
            usual = tuple(sorted(usual, key=lambda tool: tool == "spray-can"))  # a brush lays any bottle
        return tuple(tool for tool in usual if self.has(tool)) or (("brush",) if usual else ())

    def usual_tool(self, kind: str) -> str:
        """The first of them; of what is laid with none, a brush."""
        return next(iter(self.tools(kind)), "brush")

    def may_lay(self, paint: Paint, tool: str) -> bool:
        """Whether a paint may be laid with a tool: cans by those who have nothing else, solvents not sprayed without a booth."""
        if self.cans_only:
            return paint.can
        sprayed = TOOLS[tool].sprayed
        return self.booth or not sprayed or MEDIA[paint.medium].carrier in ("water", "none")


EVERYTHING = Owned()
