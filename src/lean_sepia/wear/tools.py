"""What marks on the model are made with: the smallest mark of each tool, and what it stands for on the prototype.

The sizes are common practice without a source, but for the fine brush's, which a project may change like the others.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import pi

from lean_sepia.language import N_

_NEARLY = 1.25  # how much coarser than the marks asked for a tool may be before it is said


@dataclass(frozen=True)
class MarkTool:
    """A way of making marks: its words, its smallest mark in mm on the model, and the tool it is laid with."""

    words: str
    smallest_mm: float
    laid_with: str


MARK_TOOLS: dict[str, MarkTool] = {
    "speckle": MarkTool(N_("speckled from a stiff brush"), 0.2, "drybrush"),
    "fine-brush": MarkTool(N_("fine brush"), 0.3, "brush"),
    "pencil": MarkTool(N_("pencil"), 0.35, "brush"),
    "sponge": MarkTool(N_("torn sponge"), 0.5, "sponge"),
}


@dataclass(frozen=True)
class Made:
    """How marks of a size are made: the tool, its smallest mark on model and prototype, and whether that is too coarse for them.

    per_cm2 : marks to make on a square centimetre of the model
    """

    tool: str
    smallest_mm: float
    on_prototype_mm: float
    too_coarse: bool
    per_cm2: float


def on_prototype_mm(model_mm: float, scale: float) -> float:
    """What a size on the model stands for on the prototype.

    >>> round(on_prototype_mm(0.3, 72), 1)
    21.6
    """
    return model_mm * scale


def usual_tool(median_mm: float, owned: Mapping[str, float]) -> str:
    """The tool whose smallest mark fits marks of a median size in mm on the model; else the finest there is."""
    sizes = {name: owned.get(name, tool.smallest_mm) for name, tool in MARK_TOOLS.items()}
    fits = [name for name, size in sizes.items() if size <= 0.8 * median_mm]
    return max(fits, key=lambda name: sizes[name]) if fits else min(sizes, key=lambda name: sizes[name])


def made_with(tool: str, median_mm: float, share: float, scale: float, owned: Mapping[str, float]) -> Made:
    """How marks of a median size in mm on the model and a share of the area are made.

    owned : smallest marks in mm of one's own tools, by tool, where they are not the usual ones
    """
    smallest = owned.get(tool, MARK_TOOLS[tool].smallest_mm)
    real = max(median_mm, smallest)
    return Made(
        tool,
        smallest,
        on_prototype_mm(smallest, scale),
        smallest > _NEARLY * median_mm,
        marks_per_cm2(share, real),
    )


def marks_per_cm2(share: float, median_mm: float, spread: float = 0.45) -> float:
    """How many marks of a median diameter in mm, log-normal with a deviation, cover a share of a square centimetre."""
    mean_area = pi / 4 * median_mm**2 * 2.718281828 ** (2 * spread**2)
    return 100 * share / mean_area if median_mm > 0 else 0.0
