"""Edits of planned wear: what a zone is to have, and how small one's own tools work."""

from __future__ import annotations

from lean_sepia.document.edits.items import put
from lean_sepia.document.entities.worn import WearPlan
from lean_sepia.document.model import Project


def plan_wear(project: Project, zone_id: str, plan: WearPlan | None) -> Project:
    """Say what wear a zone is to have; None to go by what is measured."""
    return put(project, "zones", project.zone(zone_id).model_copy(update={"wear": plan}))


def set_smallest_mark(project: Project, tool: str, size_mm: float | None) -> Project:
    """Say how small a mark one's own tool makes, in mm on the model; None for the usual size."""
    sizes = {name: size for name, size in project.mark_tools.items() if name != tool}
    if size_mm is not None:
        sizes[tool] = size_mm
    return Project.model_validate(project.model_copy(update={"mark_tools": sizes}).model_dump())
