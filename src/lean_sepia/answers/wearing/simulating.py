"""A zone's planned wear as it will look: marks of its statistics on the finish it will have, and stop marks to hold beside the model."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.preview.patch import patch_picture
from lean_sepia.answers.preview.texture import Frame
from lean_sepia.answers.targets import targets_of
from lean_sepia.answers.toning.panels import is_other_side
from lean_sepia.answers.wearing.bottles import Bottles
from lean_sepia.answers.wearing.places import weights_of
from lean_sepia.answers.wearing.planning import (
    WearRow,
    is_veil,
    plan_of,
    rims_of,
    statistics_of,
    wear_rows,
    with_heaviness,
)
from lean_sepia.answers.wearing.surveying import measured_region, sound_lab
from lean_sepia.arrays import FloatArray, Image8
from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.colour.srgb import screen_pixels
from lean_sepia.document.entities.worn import PlannedWear, WearPlan
from lean_sepia.document.model import Coat, Project
from lean_sepia.wear.marks import draw_marks

STOP_SHARES = (0.005, 0.01, 0.02, 0.05, 0.10, 0.20)
"""The shares of the area that the comparison chart shows."""


@dataclass(frozen=True, eq=False)
class Simulated:
    """A patch of a worn zone: XYZ (h, w, 3), and how much of each pixel (h, w) each kind covers."""

    xyz: FloatArray
    shares: dict[str, FloatArray]

    @property
    def pixels(self) -> Image8:
        """8-bit sRGB (h, w, 3)."""
        return screen_pixels(self.xyz)

    @property
    def covered(self) -> float:
        """Share of the patch that is worn."""
        return float(sum(share.mean() for share in self.shares.values()))


def simulate(
    project: Project,
    zone_id: str,
    plan: WearPlan,
    bottles: Bottles,
    frame: Frame,
    ground: FloatArray | None = None,
) -> Simulated | None:
    """The zone's finish with its planned wear, on its own ground or on one that was drawn already; None where its colour is not known."""
    ground = _ground(project, zone_id, frame) if ground is None else ground
    if ground is None:
        return None
    rows = wear_rows(project, zone_id, plan, bottles)
    region = measured_region(project, zone_id)
    record = region.wear if region else None
    zone, shape = project.zone(zone_id), (frame.height, frame.breadth)
    weights = weights_of(project, zone, plan, [row.kind for row in rows], shape)
    kinds = [statistics_of(row, record, frame.px_per_mm) for row in rows]
    seed = plan.seed + frame.seed + (500_000 if is_other_side(zone) else 0)
    drawn = draw_marks(shape, kinds, [weights.get(row.kind) for row in rows], seed, rims_of(plan, rows))
    return _worn(ground, rows, drawn)


def _worn(ground: FloatArray, rows: tuple[WearRow, ...], drawn: list[FloatArray]) -> Simulated:
    xyz = ground.copy()
    for row, share in zip(rows, drawn, strict=True):
        xyz += share[..., None] * (xyz_from_lab(np.array(row.lab)) - ground)
    return Simulated(xyz, {row.kind: share for row, share in zip(rows, drawn, strict=True)})


def _ground(project: Project, zone_id: str, frame: Frame) -> FloatArray | None:
    """XYZ (h, w, 3) of the finish without wear; the zone's target where nothing is laid yet."""
    hidden = {coat.id for coat in project.coats_of(zone_id) if _hides(coat)}
    picture = patch_picture(project, zone_id, frame, hidden)
    if picture is not None:
        return picture.xyz
    lab = sound_lab(project, zone_id, targets_of(project, zone_id))
    if lab is None:
        return None
    return np.broadcast_to(xyz_from_lab(np.array(lab)), (frame.height, frame.breadth, 3)).copy()


def _hides(coat: Coat) -> bool:
    """Whether a coat is no ground for wear: wear itself, and lettering, which lies elsewhere."""
    return coat.nature.room == "wear" or coat.nature.is_decal


def stop_marks(
    project: Project, zone_id: str, bottles: Bottles, frame: Frame, plan: WearPlan | None = None
) -> list[tuple[float, Simulated]]:
    """This zone's own marks on its own finish at each of the shares of the comparison chart; a veil of dust stays as it is planned."""
    plan = plan or plan_of(project, project.zone(zone_id))
    now = sum(one.share for one in _scaled(plan))
    if now <= 0:
        return []
    even = plan.model_copy(update={"sources": (), "climate": ""})
    ground = _ground(project, zone_id, frame)
    found: list[tuple[float, Simulated]] = []
    if ground is None:
        return found
    for number, share in enumerate(STOP_SHARES):
        patch = Frame(frame.breadth, frame.height, frame.px_per_mm, frame.seed + number)
        shown = simulate(project, zone_id, _to(even, share / now), bottles, patch, ground)
        if shown is not None:
            found.append((share, shown))
    return found


def _scaled(plan: WearPlan) -> tuple[PlannedWear, ...]:
    """The kinds that are shown at other shares: the marks; veils where there is nothing else."""
    return tuple(one for one in plan.kinds if not is_veil(one.kind)) or plan.kinds


def _to(plan: WearPlan, factor: float) -> WearPlan:
    """A plan of so many times the shares of its marks, also beyond what heaviness may be."""
    kinds = tuple(
        one.model_copy(
            update={"share": min(1.0, one.share * (factor if one in _scaled(plan) else plan.heaviness))}
        )
        for one in plan.kinds
    )
    return with_heaviness(plan.model_copy(update={"kinds": kinds}), 1.0)
