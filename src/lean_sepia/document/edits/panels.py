"""Edits of a zone's panels."""

from __future__ import annotations

from lean_sepia.document.edits.items import put
from lean_sepia.document.entities.panels import PanelGrid
from lean_sepia.document.model import Project


def set_panels(project: Project, zone_id: str, panels: PanelGrid | None) -> Project:
    """Divide a zone into panels; a side that mirrors it, or that it mirrors, is built alike but keeps its own replaced ones."""
    zone = project.zone(zone_id)
    project = put(project, "zones", zone.model_copy(update={"panels": panels}))
    for other in project.zones:
        if other.id != zone_id and (other.mirrors == zone_id or zone.mirrors == other.id):
            theirs = panels and panels.model_copy(
                update={"replaced": other.panels.replaced if other.panels else (), "drawn": _turned(panels)}
            )
            project = put(project, "zones", other.model_copy(update={"panels": theirs}))
    return project


def _turned(panels: PanelGrid) -> tuple[object, ...]:
    """Drawn panels as they lie on the other side."""
    return tuple(box.model_copy(update={"x0": 1 - box.x1, "x1": 1 - box.x0}) for box in panels.drawn)


def toggle_replaced(panels: PanelGrid, number: int) -> PanelGrid:
    """The panels with one more, or one fewer, that was replaced."""
    replaced = set(panels.replaced) ^ {number}
    return panels.model_copy(update={"replaced": tuple(sorted(replaced))})
