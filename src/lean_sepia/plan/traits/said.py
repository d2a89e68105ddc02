"""The values of traits: phases of the work, how a kind is laid, looks again, waits of its own, what schools change."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum, auto
from typing import Literal


class Phase(IntEnum):
    """When in the work something is done, in the usual order."""

    FOUND = auto()
    CLEANING = auto()
    TRYING = auto()
    PRIMING = auto()
    SHADING_BEFORE = auto()
    RESISTING = auto()
    PATTERN_FIRST = auto()
    BASE = auto()
    MASKING = auto()
    PATTERN = auto()
    UNMASKING = auto()
    RUBBING = auto()
    SHADING = auto()
    SHINE = auto()
    LETTERING = auto()
    FADING = auto()
    SEALING = auto()
    FILTERING = auto()
    CHIPPING = auto()
    DOTTING = auto()
    DRAWING_OUT = auto()
    WASHING = auto()
    CLEANING_UP = auto()
    STREAKING = auto()
    CHIPPING_LATE = auto()
    TOUCHING_UP = auto()
    MATTING = auto()
    DUSTING = auto()
    WIPING = auto()
    FIXING = auto()
    POLISHING = auto()
    CLEAR_PARTS = auto()
    PUTTING_TOGETHER = auto()


@dataclass(frozen=True)
class Preset:
    """Passes, thinner share, share of the area; `profile` and `far` of what is put more here than there."""

    passes: int = 1
    thinner_share: float = 0.0
    area_share: float = 1.0
    profile: str | None = None
    far: float = 0.0


@dataclass(frozen=True)
class Look:
    """A look again so many minutes after the end of a step, and at what; `where` it is of something that dries quickly or slowly."""

    after_min: float
    words: str
    where: Literal["any", "quick", "slow"] = "any"


@dataclass(frozen=True)
class Otherwise:
    """When those who answer a question so have it come."""

    question: str
    choice: str
    phase: Phase


@dataclass(frozen=True)
class Usually:
    """Done in a usual plan by those who answer a question so, "" by who has not answered; at a phase where it is not its own."""

    question: str = ""
    choices: tuple[str, ...] = ("",)
    phase: Phase | None = None


@dataclass(frozen=True)
class Pause:
    """Minutes that something waits over itself, and what that wait is called."""

    minutes: float
    words: str
