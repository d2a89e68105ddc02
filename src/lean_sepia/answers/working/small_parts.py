"""Small parts by colour: what is painted from one cup, so that a cup is mixed once and the brush washed once."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.document.model import Project, Zone

_SMALL_CM2 = 15.0  # practice, no source


@dataclass(frozen=True)
class PartsOfAColour:
    """The small zones whose base is mixed from one recipe."""

    recipe: str
    name: str
    zones: tuple[Zone, ...]


def small_parts(project: Project) -> tuple[PartsOfAColour, ...]:
    """Zones of at most 15 cm² by the mix of their base, the colour with most parts first."""
    groups: dict[str, list[Zone]] = {}
    for zone in project.zones:
        if zone.area_cm2 is None or zone.area_cm2 > _SMALL_CM2:
            continue
        coat = next((c for c in project.coats_of(zone.id) if c.nature.is_colour and c.recipe), None)
        if coat is not None and coat.recipe:
            groups.setdefault(coat.recipe, []).append(zone)
    found = [PartsOfAColour(key, project.recipe(key).name, tuple(zones)) for key, zones in groups.items()]
    return tuple(sorted(found, key=lambda one: -len(one.zones)))
