"""What was measured of the wear of a region, as the document keeps it, and the base of all parts of the document."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from lean_sepia.document.bounds import Bounded, Count, Lab, Name, Size


class Frozen(BaseModel):
    """Base of all parts of the document."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, revalidate_instances="always")


class WearClass(Frozen):
    """One class of wear in a region, with the colour it was recognised by; sizes on the prototype."""

    name: Name
    lab: Lab
    coverage_percent: Bounded
    median_mm: Bounded
    p90_mm: Bounded
    count: Count
    direction_deg: Bounded | None
    edge_share: Bounded


class WearRecord(Frozen):
    """The survey of a region."""

    mm_per_px: Size
    coverage_percent: Bounded
    classes: tuple[WearClass, ...]
    iso_4628_3: Name
    astm_d610: Annotated[int, Field(ge=0, le=10)]
    smallest_visible_mm: Bounded
    visible_coverage_percent: Bounded
    tint_lab_shift: tuple[Bounded, Bounded, Bounded]
