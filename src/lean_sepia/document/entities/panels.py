"""How a zone divides into panels, doors or planks, and how unevenly they have faded, as the document keeps it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from lean_sepia.document.bounds import Share
from lean_sepia.document.entities.worn import Frozen
from lean_sepia.recipe.fades.panels import Box, fade_levels, grid

Whole = Literal["panels", "rows", "columns"]
MOST_LINES, MOST_DRAWN = 40, 60


class DrawnPanel(Frozen):
    """One panel drawn by hand over the grid: left, top, right and bottom as shares of the zone's breadth and height."""

    x0: Share
    y0: Share
    x1: Share
    y1: Share


class PanelGrid(Frozen):
    """Rows and columns of panels, and those drawn over them; all numbered row by row, the drawn ones behind.

    whole : what fades as one: each panel, or planks along whole rows or columns
    replaced : numbers of panels that were replaced and have not faded
    levels : how many degrees of fading there are besides none; limit : the most, of the whole fade
    above : how much stronger the topmost fade than the lowest, 0–1; seed : of the chance in it
    """

    rows: Annotated[int, Field(ge=1, le=MOST_LINES)] = 3
    columns: Annotated[int, Field(ge=1, le=MOST_LINES)] = 8
    whole: Whole = "panels"
    drawn: Annotated[tuple[DrawnPanel, ...], Field(max_length=MOST_DRAWN)] = ()
    replaced: tuple[Annotated[int, Field(ge=0, le=MOST_LINES**2 + MOST_DRAWN)], ...] = ()
    levels: Annotated[int, Field(ge=1, le=5)] = 3
    limit: Share = 1.0
    above: Share = 0.5
    seed: Annotated[int, Field(ge=0, le=1_000_000)] = 7

    @property
    def boxes(self) -> tuple[Box, ...]:
        """All panels in the order of their numbers."""
        return grid(self.rows, self.columns, self._drawn)

    @property
    def _drawn(self) -> tuple[Box, ...]:
        return tuple((box.x0, box.y0, box.x1, box.y1) for box in self.drawn)

    def degrees(self, *, mirrored: bool, replaced: tuple[int, ...] = ()) -> tuple[int, ...]:
        """How far each panel has faded, on the side that mirrors another or on that other one."""
        return fade_levels(
            self.rows, self.columns, self._drawn, whole=self.whole, replaced=replaced, levels=self.levels, above=self.above,
            seed=self.seed, mirrored=mirrored,
        )  # fmt: skip
