"""What coats are mixed of: the project's own copies of paints, and its recipes."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from lean_sepia.document.bounds import Coefficient, Key, Name, Parts, Share, Size, Words
from lean_sepia.document.entities.worn import Frozen
from lean_sepia.plan.names import BodyName, Finish, MediumName, UseName


class PaintVersion(Frozen):
    """A paint as it was when the project took it from the shelf; never changed, named by its content."""

    id: Key
    shelf_id: Key
    name: Name
    line: Name = ""
    medium: MediumName
    finish: Finish
    K: Annotated[tuple[Coefficient, ...], Field(min_length=31, max_length=31)]
    S: Annotated[tuple[Coefficient, ...], Field(min_length=31, max_length=31)]
    g: Share
    k1: Annotated[float, Field(ge=0, le=0.999)] = 0.04
    k2: Annotated[float, Field(ge=0, le=0.999)] = 0.6
    knowledge: Literal["one-constant", "two-constant", "spectral"]
    notes: tuple[Words, ...] = ()
    drops_per_ml: Annotated[float, Field(gt=0, le=1e4)] | None = None
    keep: Share | None = None
    use: UseName = "paint"
    body: BodyName = "usual"
    can: bool = False
    thinner_share: Annotated[float, Field(ge=0, lt=1)] = 0.0
    cover_said: bool = False


class Recipe(Frozen):
    """A mixture: whole parts of paint versions, and of other recipes where it is made from their cups.

    kept : whether it stays though no coat is laid with it; cup_ml : size of the cup it is mixed in
    left_ml : what is left of it, unthinned, where the user said; note : what was noticed of it
    """

    id: Key
    name: Name
    parts: tuple[tuple[Key, Parts], ...]
    cups: tuple[tuple[Key, Parts], ...] = ()
    kept: bool = False
    cup_ml: Size | None = None
    left_ml: Annotated[float, Field(ge=0, le=1e6)] | None = None
    note: Words = ""
