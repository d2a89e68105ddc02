"""What a plane of a* and b* shows: colours, ways between them, a range, and what a stray drop does."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lean_sepia.ui.kit.swatch import Lab


@dataclass(frozen=True)
class Point:
    """A colour on the plane: the target is round, a recipe square."""

    lab: Lab
    shape: Literal["round", "square"] = "round"
    name: str = ""


@dataclass(frozen=True)
class Way:
    """A path of colours, such as a base being lightened."""

    labs: tuple[Lab, ...]
    name: str
    strong: bool = False


@dataclass(frozen=True)
class PlaneContent:
    """What a plane shows; `within` is a centre and the half axes of its range in a* and b*, `halo` what a stray drop does."""

    points: tuple[Point, ...] = ()
    ways: tuple[Way, ...] = ()
    within: tuple[Lab, float, float] | None = None
    halo: tuple[Lab, ...] = ()
