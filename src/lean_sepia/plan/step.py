"""A step of the work, and the plan file that lists steps."""

from __future__ import annotations

import heapq
from collections.abc import Sequence
from datetime import datetime
from functools import cached_property
from graphlib import CycleError, TopologicalSorter
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    TypeAdapter,
    ValidationError,
    model_validator,
)

from lean_sepia.errors import PlanError
from lean_sepia.files.gate import read_json
from lean_sepia.language import _
from lean_sepia.paint.media import MEDIA, Carrier
from lean_sepia.plan.evenings import YEARS, in_our_time
from lean_sepia.plan.kinds import KINDS, Kind, usual_times
from lean_sepia.plan.names import Finish, KindName, MediumName, Place, ToolName


class Material(BaseModel):
    """What a step lays down."""

    model_config = ConfigDict(frozen=True, extra="allow")
    medium: MediumName | Literal["unknown"]
    finish: Finish = "flat"


def _on_the_wall(moment: datetime) -> datetime:
    """The time the clock on the wall shows: a plan has no time zone."""
    if not in_our_time(moment):
        raise ValueError(_("a date from {0} to {1}").format(*YEARS))
    return moment.replace(tzinfo=None)


_LONGEST_MIN, _MOST_STEPS = 525_600, 2000
Minutes = Annotated[float, Field(ge=0, le=_LONGEST_MIN, allow_inf_nan=False)]
Moment = Annotated[datetime, AfterValidator(_on_the_wall)]
_TIMES = ("hands_on_min", "touch_dry_min", "full_cure_min")
_KIND: TypeAdapter[str] = TypeAdapter(KindName)


class PlanStep(BaseModel):
    """One step: what, where, how long the hands are busy and how long it must be left alone."""

    model_config = ConfigDict(frozen=True, extra="allow")
    id: str = Field(min_length=1)
    title: str = ""
    kind: KindName
    material: Material | None = None
    zones: tuple[str, ...] | Literal["all"] = "all"
    after: tuple[str, ...] = ()
    hands_on_min: Minutes = -1
    touch_dry_min: Minutes = -1
    full_cure_min: Minutes = -1
    removable_until_min: Minutes | None = None
    carrier: Carrier | None = None
    application: ToolName | None = None
    place: Place | None = None
    start: Moment | None = None
    end: Moment | None = None

    @model_validator(mode="before")
    @classmethod
    def _usual_times(cls, data: Any) -> Any:
        """Times that are left out are the usual ones of the kind."""
        if not isinstance(data, dict) or not isinstance(data.get("kind"), str):
            return data
        try:
            kind = _KIND.validate_python(data["kind"])
        except ValidationError:
            return data
        material = data.get("material")
        medium = material.get("medium") if isinstance(material, dict) else getattr(material, "medium", None)
        usual = usual_times(kind, medium if medium in MEDIA else None)
        filled = {name: getattr(usual, name) for name in _TIMES if data.get(name) is None}
        if "removable_until_min" not in data:
            filled["removable_until_min"] = usual.removable_until_min
        return {**data, **filled}

    @property
    def nature(self) -> Kind:
        """What its kind is, as the one table says."""
        return KINDS[self.kind]

    @property
    def loose(self) -> bool:
        """Whether it leaves loose powder."""
        return self.nature.loose(self.medium)

    @property
    def solvent(self) -> Carrier:
        """The carrier, from the medium unless stated."""
        if self.carrier is not None:
            return self.carrier
        return MEDIA[self.medium].carrier if self.medium else "none"

    @property
    def medium(self) -> str | None:
        """Medium of the material, if there is one and it is known."""
        return self.material.medium if self.material and self.material.medium != "unknown" else None

    @property
    def name(self) -> str:
        """Title, or the id where there is none."""
        return self.title or self.id

    def shares_zone(self, other: PlanStep) -> bool:
        """Whether two steps touch a common zone."""
        return self.zones == "all" or other.zones == "all" or not self._zone_set.isdisjoint(other._zone_set)

    @cached_property
    def _zone_set(self) -> frozenset[str]:
        return frozenset(self.zones)

    def wait_before(self, following: PlanStep) -> float:
        """Minutes from this step's end until `following` may start where they share a zone.

        Touch-dry suffices for a paint coat over a paint coat of the same medium; all else waits for full cure.
        """
        if self.nature.is_paint and following.nature.is_paint and self.medium == following.medium:
            return self.touch_dry_min
        return self.full_cure_min


def sharing(steps: Sequence[PlanStep]) -> list[list[int]]:
    """For every step the indices of the earlier steps on a zone of its own, in order."""
    by_zone: dict[str, list[int]] = {}
    everywhere: list[int] = []
    answer = []
    for position, step in enumerate(steps):
        if step.zones == "all":
            answer.append(list(range(position)))
            everywhere.append(position)
        else:
            answer.append(sorted(set(everywhere).union(*(by_zone.get(zone, ()) for zone in step.zones))))
            for zone in step.zones:
                by_zone.setdefault(zone, []).append(position)
    return answer


def predecessors(steps: Sequence[PlanStep]) -> list[list[int]]:
    """For every step the indices of earlier steps it waits for: a shared zone in file order, or `after`."""
    index = {step.id: position for position, step in enumerate(steps)}
    return [
        sorted({*earlier, *(index[name] for name in step.after)}) if step.after else earlier
        for step, earlier in zip(steps, sharing(steps), strict=True)
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
            raise PlanError(
                _("Two steps have the id {0!r}. Give each step an id of its own.").format(step.id)
            )
        index[step.id] = position
        if step.start and step.end and step.end < step.start:
            raise PlanError(_("Step {0!r} ends before it starts. Swap its start and end.").format(step.id))
    for step in steps:
        for name in step.after:
            if name not in index:
                raise PlanError(
                    _("Step {0!r} comes after {1!r}, which is not in the plan.").format(step.id, name)
                )
    topological_order(steps)


def topological_order(steps: Sequence[PlanStep]) -> list[int]:
    """Indices in an order that keeps every predecessor first, file order otherwise.

    Raises
    ------
    PlanError
        The steps wait for each other in a circle; the message names them.
    """
    sorter = TopologicalSorter(dict(enumerate(predecessors(steps))))
    try:
        sorter.prepare()
    except CycleError as error:
        stuck = ", ".join(repr(steps[i].id) for i in sorted(set(error.args[1])))
        raise PlanError(
            _(
                "Steps {0} wait for each other in a circle: steps on a shared zone keep the file's order, and `after` adds to it."
            ).format(stuck)
        ) from None
    order: list[int] = []
    ready: list[int] = []
    while sorter.is_active():
        for index in sorter.get_ready():
            heapq.heappush(ready, index)
        order.append(heapq.heappop(ready))
        sorter.done(order[-1])
    return order


def parse_plan(data: Any) -> tuple[PlanStep, ...]:
    """Steps from the decoded JSON of a plan file.

    Raises
    ------
    PlanError
        The content breaks a rule; the message names the step and the field.
    """
    if not isinstance(data, dict) or not isinstance(data.get("steps"), list):
        raise PlanError(_('A plan file is {"steps": [...]}; no list named "steps" was found.'))
    if len(data["steps"]) > _MOST_STEPS:
        words = _("A plan has at most {0} steps; found {1}. Divide it.")
        raise PlanError(words.format(_MOST_STEPS, len(data["steps"])))
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
    return parse_plan(read_json(path, _("The plan"), PlanError))


def _plain(error: ValidationError, record: Any, position: int) -> str:
    first = error.errors()[0]
    name = record.get("id", position + 1) if isinstance(record, dict) else position + 1
    field = ".".join(
        str(part)
        for part in first["loc"]
        if not str(part).startswith(("tuple[", "literal[", "function-after"))
    )
    if first["type"] == "missing":
        return _("Step {0!r} has no {1!r}, which every step needs.").format(name, field)
    if field == "kind":
        return _("Step {0!r} has the kind {1!r}; kinds are: {2}.").format(
            name, first["input"], ", ".join(KINDS)
        )
    return _("Step {0!r}, field {1!r}: {2}; found {3!r}.").format(
        name, field, first["msg"], ascii(first["input"])[:60]
    )
