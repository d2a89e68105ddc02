"""Edits of models, zones, schemes and what people know the subject by."""

from __future__ import annotations

from collections.abc import Sequence

from lean_sepia.document.bounds import Lab
from lean_sepia.document.dates import date_span
from lean_sepia.document.edits.items import fresh_id, put
from lean_sepia.document.model import Feature, Project, Scheme, Subject, Zone
from lean_sepia.errors import EditError
from lean_sepia.language import _


def add_subject(project: Project, name: str, scale: float) -> Project:
    """Add a model to the bench."""
    subject = Subject(id=fresh_id(project.subjects, "m"), name=name, scale=scale)
    return put(project, "subjects", subject)


def add_zone(project: Project, name: str) -> tuple[Project, str]:
    """Add a zone to the first model, which is made where there is none; returns the zone's id."""
    clean = name.strip()
    if not clean:
        raise EditError(_("A zone needs a name, such as Hull or Roof."))
    if any(zone.name.casefold() == clean.casefold() for zone in project.zones):
        raise EditError(_("There is a zone {0!r} already. Choose another name.").format(clean))
    if not project.subjects:
        project = add_subject(project, project.title, 72)
    zone = Zone(
        id=fresh_id(project.zones, "z"), subject=project.subjects[0].id, name=clean, short=short_name(clean)
    )
    return put(project, "zones", zone), zone.id


def short_name(name: str, most: int = 10) -> str:
    """A name for narrow places: whole words where they fit, never ending in punctuation.

    >>> short_name("Tail lamp, left"), short_name("Superstructure")
    ('Tail lamp', 'Superstruc')
    """
    cut = name[:most]
    if len(name) > most and not name[most].isspace() and " " in cut:
        cut = cut[: cut.rindex(" ")]
    return cut.rstrip(" ,;:.–-")


def change_subject(project: Project, subject: Subject) -> Project:
    """Replace what is known of a model."""
    return put(project, "subjects", subject)


def change_zone(project: Project, zone: Zone) -> Project:
    """Replace what is known of a zone.

    Raises
    ------
    EditError
        It has no name.
    """
    if not zone.name.strip():
        raise EditError(_("A zone needs a name, such as Hull or Roof."))
    return put(project, "zones", zone)


def state_target(project: Project, zone_id: str, lab: Lab | None) -> Project:
    """Give a zone a colour known without a photo; samples, where there are any, count for more."""
    return put(project, "zones", project.zone(zone_id).model_copy(update={"stated": lab}))


def remove_zone(project: Project, zone_id: str) -> Project:
    """Remove a zone with all that belongs to it: samples, regions, coats, and steps left without a zone."""
    coats = tuple(coat for coat in project.coats if coat.zone != zone_id)
    steps = []
    for step in project.steps:
        had_coats = any(coat.step == step.id for coat in project.coats)
        zones = tuple(zone for zone in step.zones if zone != zone_id)
        if (had_coats and not any(coat.step == step.id for coat in coats)) or (step.zones and not zones):
            continue
        steps.append(step.model_copy(update={"zones": zones}))
    left = {step.id for step in steps}
    trimmed = tuple(
        step.model_copy(update={"after": tuple(other for other in step.after if other in left)})
        for step in steps
    )
    return project.model_copy(
        update={
            "zones": tuple(zone for zone in project.zones if zone.id != zone_id),
            "samples": tuple(sample for sample in project.samples if sample.zone != zone_id),
            "regions": tuple(region for region in project.regions if region.zone != zone_id),
            "coats": coats,
            "steps": trimmed,
            "features": tuple(
                feature.model_copy(update={"zone": None}) if feature.zone == zone_id else feature
                for feature in project.features
            ),
            "schemes": tuple(
                scheme.model_copy(update={"colours": tuple(c for c in scheme.colours if c[0] != zone_id)})
                for scheme in project.schemes
            ),
        }
    )


def name_feature(project: Project, words: str, *, feature_id: str | None = None) -> Project:
    """Name something people know the subject by, or change the words of one; empty words take it out."""
    clean = " ".join(words.split())
    kept = next((feature for feature in project.features if feature.id == feature_id), None)
    if kept and not clean:
        return project.model_copy(update={"features": tuple(f for f in project.features if f is not kept)})
    if not clean:
        return project
    if kept:
        return put(project, "features", kept.model_copy(update={"words": clean}))
    return put(project, "features", Feature(id=fresh_id(project.features, "g"), words=clean))


def locate_feature(
    project: Project, feature_id: str, zone: str | None, photo: str | None, x: float | None, y: float | None
) -> Project:
    """Say on which zone a feature lies and where a photo shows it."""
    feature = next(feature for feature in project.features if feature.id == feature_id)
    return put(project, "features", feature.model_copy(update={"zone": zone, "photo": photo, "x": x, "y": y}))


def set_schemes(project: Project, schemes: Sequence[Scheme]) -> Project:
    """Replace the colour schemes that photos are compared with.

    Raises
    ------
    EditError
        A scheme has no name or that of another, a date is none, or one ends before it begins.
    """
    names: set[str] = set()
    for scheme in schemes:
        if not scheme.name.strip():
            raise EditError(_("A scheme needs a name, such as First livery."))
        if scheme.name.casefold() in names:
            raise EditError(_("Two schemes are called “{0}”. Give one another name.").format(scheme.name))
        names.add(scheme.name.casefold())
        begins, ends = date_span(scheme.worn_from), date_span(scheme.worn_to)
        if begins and ends and begins[0] > ends[1]:
            raise EditError(
                _("“{0}” ends in {1}, before it begins in {2}.").format(
                    scheme.name, scheme.worn_to, scheme.worn_from
                )
            )
    return project.model_copy(update={"schemes": tuple(schemes)})
