"""A step of the work, and the plan file that lists steps."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from pathlib import Path
from typing import Any, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from lean_sepia.errors import PlanError
from lean_sepia.text_files import read_json

Kind = Literal[
    "wash-model", "primer", "base", "preshade", "tone", "camouflage", "mask", "unmask", "marking",
    "setting-solution", "fade", "filter", "wash", "pin-wash", "oil-dots", "chips", "resist-chips", "streaks",
    "powder", "pastel", "dust", "soot", "graphite", "gloss-coat", "satin-coat", "matte-coat", "assemble",
]  # fmt: skip
Medium = Literal["acrylic-water", "acrylic-alcohol", "lacquer", "enamel", "oil", "pigment", "pastel"]
Finish = Literal["flat", "satin", "gloss", "metallic"]
Carrier = Literal["none", "water", "alcohol", "white-spirit", "lacquer-thinner"]

KINDS: tuple[str, ...] = get_args(Kind)
CARRIER_OF: dict[str, Carrier] = {
    "acrylic-water": "water", "acrylic-alcohol": "alcohol", "lacquer": "lacquer-thinner", "enamel": "white-spirit",
    "oil": "white-spirit", "pigment": "none", "pastel": "none",
}  # fmt: skip

PAINT_COATS = frozenset({"primer", "base", "preshade", "tone", "camouflage", "fade"})
VARNISHES = {"gloss-coat": "gloss", "satin-coat": "satin", "matte-coat": "flat"}
WASHES = frozenset({"wash", "pin-wash"})
GLAZES = WASHES | {"filter", "oil-dots"}
LOOSE = frozenset({"powder", "pastel", "dust", "soot"})
WET = PAINT_COATS | GLAZES | frozenset(VARNISHES) | {"marking", "setting-solution", "chips", "streaks"}
NOT_A_FILM = frozenset({"wash-model", "mask", "unmask", "assemble"})


class Material(BaseModel):
    """What a step lays down."""

    model_config = ConfigDict(frozen=True, extra="allow")
    medium: Medium
    finish: Finish = "flat"


class PlanStep(BaseModel):
    """One step: what, where, how long the hands are busy and how long it must be left alone."""

    model_config = ConfigDict(frozen=True, extra="allow")
    id: str = Field(min_length=1)
    title: str = ""
    kind: Kind
    material: Material | None = None
    zones: tuple[str, ...] | Literal["all"] = "all"
    after: tuple[str, ...] = ()
    hands_on_min: float = Field(ge=0)
    touch_dry_min: float = Field(default=0, ge=0)
    full_cure_min: float = Field(default=0, ge=0)
    removable_until_min: float | None = Field(default=None, ge=0)
    carrier: Carrier | None = None
    application: Literal["airbrush", "spray-can", "brush", "sponge"] | None = None
    place: Literal["indoors-extracted", "indoors", "outdoors"] | None = None
    start: datetime | None = None
    end: datetime | None = None

    @property
    def solvent(self) -> Carrier:
        """The carrier, from the medium unless stated."""
        if self.carrier is not None:
            return self.carrier
        return CARRIER_OF[self.material.medium] if self.material else "none"

    @property
    def medium(self) -> str | None:
        """Medium of the material, if there is one."""
        return self.material.medium if self.material else None

    @property
    def name(self) -> str:
        """Title, or the id where there is none."""
        return self.title or self.id

    def shares_zone(self, other: PlanStep) -> bool:
        """Whether two steps touch a common zone."""
        return self.zones == "all" or other.zones == "all" or bool(set(self.zones) & set(other.zones))

    def wait_before(self, following: PlanStep) -> float:
        """Minutes from this step's end until `following` may start where they share a zone.

        Touch-dry suffices for a paint coat over a paint coat of the same medium; all else waits for full cure.
        """
        if self.kind in PAINT_COATS and following.kind in PAINT_COATS and self.medium == following.medium:
            return self.touch_dry_min
        return self.full_cure_min


def predecessors(steps: Sequence[PlanStep]) -> list[list[int]]:
    """For every step the indices of earlier steps it waits for: a shared zone in file order, or `after`."""
    index = {step.id: position for position, step in enumerate(steps)}
    return [
        sorted(
            {i for i in range(position) if steps[i].shares_zone(step)} | {index[name] for name in step.after}
        )
        for position, step in enumerate(steps)
    ]


def check_steps(steps: Sequence[PlanStep]) -> None:
    """Refuse plans that cannot be meant.

    Raises
    ------
    PlanError
        Two steps share an id, `after` names an unknown step, the order is circular, or an end is before its start.
    """
    index: dict[str, int] = {}
    for position, step in enumerate(steps):
        if step.id in index:
            raise PlanError(f"Two steps have the id {step.id!r}. Give each step an id of its own.")
        index[step.id] = position
        if step.start and step.end and step.end < step.start:
            raise PlanError(f"Step {step.id!r} ends before it starts. Swap its start and end.")
    for step in steps:
        for name in step.after:
            if name not in index:
                raise PlanError(f"Step {step.id!r} comes after {name!r}, which is not in the plan.")
    topological_order(steps)


def topological_order(steps: Sequence[PlanStep]) -> list[int]:
    """Indices in an order that keeps every predecessor first, file order otherwise.

    Raises
    ------
    PlanError
        The steps wait for each other in a circle; the message names them.
    """
    before = predecessors(steps)
    done: set[int] = set()
    order: list[int] = []
    while len(order) < len(steps):
        ready = next((i for i in range(len(steps)) if i not in done and done.issuperset(before[i])), None)
        if ready is None:
            stuck = ", ".join(repr(steps[i].id) for i in range(len(steps)) if i not in done)
            raise PlanError(
                f"Steps {stuck} wait for each other in a circle: steps on a shared zone keep the file's order, and `after` adds to it."
            )
        done.add(ready)
        order.append(ready)
    return order


def parse_plan(data: Any) -> tuple[PlanStep, ...]:
    """Steps from the decoded JSON of a plan file.

    Raises
    ------
    PlanError
        The content breaks a rule; the message names the step and the field.
    """
    if not isinstance(data, dict) or not isinstance(data.get("steps"), list):
        raise PlanError('A plan file is {"steps": [...]}; no list named "steps" was found.')
    steps = []
    for position, record in enumerate(data["steps"]):
        try:
            steps.append(PlanStep.model_validate(record))
        except ValidationError as error:
            raise PlanError(_plain(error, record, position)) from None
    check_steps(steps)
    return tuple(steps)


def read_plan(path: str | Path) -> tuple[PlanStep, ...]:
    """Read a plan file.

    Raises
    ------
    PlanError
        The file is missing, not JSON in UTF-8, or breaks a rule.
    """
    return parse_plan(read_json(path, "The plan", PlanError))


def _plain(error: ValidationError, record: Any, position: int) -> str:
    first = error.errors()[0]
    name = record.get("id", position + 1) if isinstance(record, dict) else position + 1
    field = ".".join(str(part) for part in first["loc"] if not str(part).startswith(("tuple[", "literal[")))
    if first["type"] == "missing":
        return f"Step {name!r} has no {field!r}, which every step needs."
    if field == "kind":
        return f"Step {name!r} has the kind {first['input']!r}; kinds are: {', '.join(KINDS)}."
    return f"Step {name!r}, field {field!r}: {first['msg']}; found {first['input']!r}."
