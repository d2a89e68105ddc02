"""What a paint's record may hold, field by field, and the sentence for each that breaks a rule."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import Annotated, Any

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    FiniteFloat,
    ValidationError,
)

from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.handling.bodies import BODIES, USES
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISHES, Knowledge
from lean_sepia.paint.saunderson import K1, K2

_CHOICES: dict[str, Collection[str]] = {
    "medium": MEDIA, "finish": FINISHES, "knowledge": [str(level) for level in Knowledge], "body": BODIES, "use": USES,
}  # fmt: skip


def _known(field: str) -> AfterValidator:
    def check(value: str) -> str:
        if value not in _CHOICES[field]:
            raise ValueError(field)
        return value

    return AfterValidator(check)


Words = Annotated[str, BeforeValidator(lambda value: str(value or ""))]
Named = Annotated[str, Field(min_length=1)]
Share = Annotated[float, Field(ge=0, le=0.999)]
Positive = Annotated[FiniteFloat, Field(gt=0)] | None
Numbers = Annotated[tuple[Annotated[FiniteFloat, Field(strict=False)], ...], Field(strict=False)] | None
"""A list of numbers, where figures may be written as text."""


class PaintRecord(BaseModel):
    """One paint of a shelf file; what the program does not know is kept in the file and not looked at."""

    model_config = ConfigDict(frozen=True, strict=True, extra="ignore", str_strip_whitespace=True)

    id: Annotated[Named, Field(pattern=r"^[a-z0-9._-]+$")]
    name: Words = ""
    line: Words = ""
    medium: Annotated[Named, _known("medium")]
    finish: Annotated[Named, _known("finish")]
    k1: Share = K1
    k2: Share = K2
    g: Annotated[float, Field(ge=0, le=1)] | None = None
    knowledge: Annotated[str, _known("knowledge")] = str(Knowledge.SPECTRAL)
    body: Annotated[str, _known("body")] = "usual"
    use: Annotated[str, _known("use")] = "paint"
    hex: str | None = None
    drops_per_ml: Positive = None
    can: bool = False
    retired: bool = False
    thinner_share: Share = 0.0
    keep: Annotated[float, Field(ge=0, le=1)] | None = None
    opaque_coats: Positive = None
    film_coats: Positive = None
    tint_white: Words = ""
    tint_parts_white: Positive = None
    wavelengths: Numbers = None
    K: Numbers = None
    S: Numbers = None
    R: Numbers = None
    R_over_black: Numbers = None
    R_tint: Numbers = None
    lab: Numbers = None
    lab_over_white: Numbers = None
    lab_over_black: Numbers = None
    lab_tint: Numbers = None


_SHARES = ("k1", "k2", "g", "thinner_share", "keep")
_YES_OR_NO = ("can", "retired")
_POSITIVE = ("drops_per_ml", "opaque_coats", "film_coats", "tint_parts_white")


def read_record(record: Mapping[str, Any]) -> PaintRecord:
    """Check a record.

    Raises
    ------
    ShelfError
        A field breaks a rule; the message names the paint and the field.
    """
    try:
        return PaintRecord.model_validate(dict(record))
    except ValidationError as error:
        raise ShelfError(_told(error.errors()[0], record)) from None


def _told(fault: Any, record: Mapping[str, Any]) -> str:
    field, kind = str(fault["loc"][0]), fault["type"]
    value = record.get(field)
    who = _("Paint {0!r}").format(record.get("id")) if record.get("id") and field != "id" else _("a paint")
    if field in ("id", "medium", "finish") and (not isinstance(value, str) or not value.strip()):
        return _("{0} has no {1!r}, which every paint needs.").format(who, field)
    if field == "id":
        said = _("Paint {0!r}: an id has only a–z, 0–9, dot, underscore and hyphen. Rename it.")
        return said.format(value)
    if field in _CHOICES:
        choices = ", ".join(_CHOICES[field])
        return _("{0}: {1} is one of {2}; found {3!r}.").format(who, field, choices, value)
    if field == "hex":
        return _("{0}: hex is a screen colour such as #4f7a6c; found {1!r}.").format(who, value)
    if field in _SHARES:
        most = _("below 1") if field not in ("g", "keep") else "1"
        return _("{0}: {1} is a share from 0 to {2}; found {3!r}.").format(who, field, most, value)
    if field in _YES_OR_NO:
        return _("{0}: {1} is true or false; found {2!r}.").format(who, field, value)
    if field in _POSITIVE:
        return _("{0}: {1} is a number greater than 0; found {2!r}.").format(who, field, value)
    if kind == "finite_number":
        return _("{0}: {1} holds a value that is not a finite number.").format(who, field)
    return _("{0}: {1} is a list of numbers; found {2}.").format(who, field, repr(value)[:60])
