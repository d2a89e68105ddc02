"""Bounds on every number and text of the document: what lies beyond them can only be a mistake or an attack."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

Lightness = Annotated[float, Field(ge=-20, le=150)]  # a highlight may read lighter than white
Opponent = Annotated[float, Field(ge=-300, le=300)]
Lab = tuple[Lightness, Opponent, Opponent]
Bounded = Annotated[float, Field(ge=-1e6, le=1e6)]
Size = Annotated[float, Field(gt=0, le=1e6)]
Share = Annotated[float, Field(ge=0, le=1)]
Coefficient = Annotated[float, Field(ge=0, le=1e9)]
Minutes = Annotated[float, Field(ge=0, le=1e6)]
Count = Annotated[int, Field(ge=0, le=1_000_000_000)]
Parts = Annotated[int, Field(ge=1, le=1_000_000)]
Words = Annotated[str, Field(max_length=20_000)]
Name = Annotated[str, Field(max_length=1000)]
Key = Annotated[str, Field(max_length=200)]
Interval = tuple[Bounded, Bounded]
Point = tuple[Bounded, Bounded]
