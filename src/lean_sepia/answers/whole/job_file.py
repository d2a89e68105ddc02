"""What a job file may hold, and the one sentence for what breaks a rule."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError

from lean_sepia.colour.lab import checked_lab
from lean_sepia.document.check import plain_fault
from lean_sepia.errors import BadInputError
from lean_sepia.language import _
from lean_sepia.plan.names import Finish, KindName, MediumName, Place, ToolName
from lean_sepia.plan.owned import EVERYTHING, Owned

_CONFIG = ConfigDict(extra="forbid", frozen=True)


def _a_colour(value: tuple[float, float, float]) -> tuple[float, float, float]:
    L, a, b = checked_lab(list(value))
    return float(L), float(a), float(b)


Lab = Annotated[tuple[float, float, float], AfterValidator(_a_colour)]
Key = Annotated[str, Field(min_length=1, max_length=200)]


class FoundLayer(BaseModel):
    """A layer that is there already."""

    model_config = _CONFIG

    lab: Lab
    medium: MediumName | Literal["unknown"] | None = "unknown"
    finish: Finish = "flat"
    name: str = ""


class JobZone(BaseModel):
    """A zone: its size, what is there already, the outermost layer last, and what it is to look like."""

    model_config = _CONFIG

    id: Key
    name: str = ""
    area_cm2: Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)] | None = None
    model: str = ""
    apart: bool = False
    fresh: Lab | None = None
    exposed: Lab | None = None
    seen: Lab | None = None
    found: tuple[FoundLayer, ...] = ()


class On(BaseModel):
    """Where an entry comes: right after or right before another."""

    model_config = _CONFIG

    after: Key | None = None
    before: Key | None = None


class Entry(BaseModel):
    """What is laid or done."""

    model_config = _CONFIG

    id: Key
    kind: KindName
    zones: tuple[Key, ...] | Literal["all"] = "all"
    of: str = ""
    thinned: str | None = None
    tool: ToolName | None = None
    passes: Annotated[int, Field(ge=1, le=1000)] | None = None
    area_share: Annotated[float, Field(gt=0, le=1)] | None = None
    down_to: Key | None = None
    serves: tuple[Key, ...] = ()
    on: Literal["top"] | On | None = None
    made_as: Annotated[Literal["decal", "paint"] | None, Field(alias="as")] = None
    name: str = ""
    minutes: Annotated[float, Field(ge=0, le=525_600, allow_inf_nan=False)] | None = None


class Then(BaseModel):
    """What is done with the whole once it is laid."""

    model_config = _CONFIG

    do: Literal["put-in-order", "mend", "remove"]
    code: str = ""
    asked: bool = False
    id: str = ""


class JobFile(BaseModel):
    """A whole project as an open file; `faulty` are the entries that cannot be read, each with a sentence, and in no file."""

    model_config = _CONFIG

    subject: str = ""
    scale: Annotated[float, Field(gt=0, le=10_000)] = 72
    schools: dict[str, str] = Field(default_factory=dict)
    owns: Owned = EVERYTHING
    start: str = ""
    evenings: str = "mon-fri 19:00-21:30,sat 10:00-16:00"
    place: Place | None = None
    zones: Annotated[tuple[JobZone, ...], Field(min_length=1, max_length=500)]
    lay: Annotated[tuple[Entry, ...], Field(max_length=2000)] = ()
    then: Annotated[tuple[Then, ...], Field(max_length=200)] = ()
    faulty: Annotated[tuple[tuple[str, str], ...], Field(exclude=True)] = ()


def parse_job(data: Any) -> JobFile:
    """A job from decoded JSON; an entry that cannot be read is kept apart with its sentence, so that the rest can be laid.

    Raises
    ------
    BadInputError
        It breaks a rule: two entries or zones of one id, an unknown field, a value that cannot be.
    """
    if isinstance(data, dict) and "faulty" in data:
        raise BadInputError(_("The job cannot be read: {0}.").format(_("“faulty” is no field of a job")))
    readable, faulty = _readable(data)
    try:
        job = JobFile.model_validate(readable).model_copy(update={"faulty": faulty})
    except ValidationError as error:
        raise BadInputError(_("The job cannot be read: {0}.").format(plain_fault(error))) from None
    for what, ids in (
        (_("zones"), [z.id for z in job.zones]),
        (_("entries"), [*(e.id for e in job.lay), *(i for i, _w in faulty)]),
    ):
        twice = next((name for name in ids if ids.count(name) > 1), None)
        if twice is not None:
            raise BadInputError(
                _("Two {0} have the id {1!r}. Give each an id of its own.").format(what, twice)
            )
    return job


def _readable(data: Any) -> tuple[Any, tuple[tuple[str, str], ...]]:
    """The job without the entries that have an id and cannot be read, and those with what is wrong with each."""
    if not isinstance(data, dict) or not isinstance(data.get("lay"), list):
        return data, ()
    good, faulty = [], []
    for raw in data["lay"]:
        name = raw.get("id") if isinstance(raw, dict) else None
        if not isinstance(name, str) or not name:
            good.append(raw)  # nothing to call it by: the whole file is refused
            continue
        try:
            Entry.model_validate(raw)
        except ValidationError as error:
            faulty.append((name, _("{0!r} cannot be read: {1}.").format(name, plain_fault(error))))
        else:
            good.append(raw)
    return {**data, "lay": good}, tuple(faulty)
