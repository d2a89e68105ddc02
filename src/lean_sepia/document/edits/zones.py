"""Edits of models, zones, schemes and what people know the subject by."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from lean_sepia.document.bounds import Lab
from lean_sepia.document.dates import date_span
from lean_sepia.document.edits.items import fresh_id, put
from lean_sepia.document.edits.mixes import without_unused
from lean_sepia.document.model import Feature, Project, Scheme, Stated, Subject, Surface, TargetName, Zone
from lean_sepia.errors import EditError
from lean_sepia.language import _


def add_subject(project: Project, name: str, scale: float) -> Project:
    """Add a model to the bench."""
    subject = Subject(id=fresh_id(project.subjects, "m"), name=name, scale=scale)
    return put(project, "subjects", subject)


def add_zone(project: Project, name: str, subject: str = "") -> tuple[Project, str]:
    """Add a zone to a model, else to the first, which is made where there is none; returns the zone's id."""
    clean = name.strip()
    if not clean:
        raise EditError(_("A zone needs a name, such as Hull or Roof."))
    mine = [zone for zone in project.zones if not subject or zone.subject == subject]
    if any(zone.name.casefold() == clean.casefold() for zone in mine):
        raise EditError(_("There is a zone {0!r} already. Choose another name.").format(clean))
    if not project.subjects:
        project = add_subject(project, project.title, 72)
    for other in mine:  # one that was alone so far says more of its name beside its like
        if other.short == short_name(other.name) == short_name(clean):
            others = [name for one in mine for name in (one.short, short_name(one.name))]
            project = put(
                project, "zones", other.model_copy(update={"short": short_name(other.name, taken=others)})
            )
    mine = [zone for zone in project.zones if not subject or zone.subject == subject]
    zone = Zone(
        id=fresh_id(project.zones, "z"),
        subject=subject or project.subjects[0].id,
        name=clean,
        short=short_name(
            clean, taken=[name for other in mine for name in (other.short, short_name(other.name))]
        ),
    )
    return put(project, "zones", zone), zone.id


def short_name(name: str, most: int = 10, taken: Collection[str] = ()) -> str:
    """A name for narrow places: whole words where they fit, never ending in punctuation, and none of those that are taken.

    >>> short_name("Tail lamp, left"), short_name("Superstructure"), short_name("Interior low", taken=["Interior"])
    ('Tail lamp', 'Superstruc', 'Int. low')
    """
    cut = name[:most]
    if len(name) > most and not name[most].isspace() and " " in cut:
        cut = cut[: cut.rindex(" ")]
    cut = cut.rstrip(" ,;:.–-")
    used = {other.casefold() for other in taken}
    candidates = [
        cut,
        *_with_its_last_word(name, most),
        *(f"{cut[: most - 3].rstrip()} {n}" for n in range(2, 100)),
    ]
    return next((one for one in candidates if one.casefold() not in used), cut)


def _with_its_last_word(name: str, most: int) -> Iterator[str]:
    """A name whose first word is cut so that the last stands whole, in the ways that fit."""
    words = [word.strip(",;:.–-") for word in name.split()]
    if len(words) > 1:
        for letters in (3, 2, 1):
            if len(short := f"{words[0][:letters]}. {words[-1]}") <= most:
                yield short
        yield words[-1][:most]


def change_subject(project: Project, subject: Subject) -> Project:
    """Replace what is known of a model; a project that was called like it goes on being called like it."""
    before = next((one.name for one in project.subjects if one.id == subject.id), "")
    title = subject.name if project.title == before else project.title
    return put(project.model_copy(update={"title": title}), "subjects", subject)


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


def state_target(
    project: Project,
    zone_id: str,
    lab: Lab | None,
    target: TargetName = "fresh",
    de00_90: float = 2.0,
    origin: str = "",
) -> Project:
    """Give a zone a target known without a photo, or take it back; it counts before samples.

    de00_90 : the radius that holds it 9 times in 10; origin : where it is from
    """
    zone = project.zone(zone_id)
    others = tuple(stated for stated in zone.stated if stated.target != target)
    if lab is not None:
        others += (Stated(target=target, lab=lab, de00_90=de00_90, origin=origin),)
    return put(project, "zones", zone.model_copy(update={"stated": others}))


@dataclass(frozen=True)
class NewZone:
    """A zone to make: its name, its area and a stated target, where they are known."""

    name: str
    area_cm2: float | None = None
    stated: tuple[Stated, ...] = ()


def add_zones(project: Project, wanted: Iterable[NewZone], subject: str = "") -> tuple[Project, list[str]]:
    """Make several zones in a row, all or none; returns their ids."""
    made = []
    for new in wanted:
        project, zone_id = add_zone(project, new.name, subject)
        changes = {"area_cm2": new.area_cm2, "stated": new.stated}
        project = put(project, "zones", project.zone(zone_id).model_copy(update=changes))
        made.append(zone_id)
    return project, made


def duplicate_zone(
    project: Project, zone_id: str, name: str, *, mirrored: bool = False, subject: str = ""
) -> tuple[Project, str]:
    """A zone like another, with the same coats of the same mixes in the same steps; returns its id.

    A mirrored one is the other side, or the same of a sister: it shares the mixes for good and has the other's targets where it
    has none of its own. It is of the same model unless another is named.
    """
    old = project.zone(zone_id)
    project, made = add_zone(project, name, subject or old.subject)
    new = project.zone(made)
    kept: dict[str, object] = {
        "area_cm2": old.area_cm2, "note": old.note, "follows": old.follows, "wear": old.wear
    }  # fmt: skip
    kept |= {"mirrors": old.mirrors or old.id} if mirrored else {"stated": old.stated}
    project = put(project, "zones", new.model_copy(update=kept))
    coats, ids = list(project.coats), {}
    for coat in project.coats_of(zone_id):
        ids[coat.id] = fresh_id(coats, "c")
        down_to = ids.get(coat.down_to or "")
        coats.append(coat.model_copy(update={"id": ids[coat.id], "zone": made, "down_to": down_to}))
    project = project.model_copy(update={"coats": tuple(coats)})
    here = [zone.id for zone in project.zones].index(zone_id)
    return move_zone(project, made, here + 1 - (len(project.zones) - 1)), made


def add_sister(project: Project, subject_id: str, name: str) -> tuple[Project, str]:
    """A model like another: its zones with the same coats in the same steps, of mixes they share for good; returns its id.

    Raises
    ------
    EditError
        It has no name, or a model has it already.
    """
    clean = name.strip()
    if not clean or any(subject.name.casefold() == clean.casefold() for subject in project.subjects):
        raise EditError(_("A sister needs a name of her own, such as the number she had."))
    old = next(subject for subject in project.subjects if subject.id == subject_id)
    sister = old.model_copy(update={"id": fresh_id(project.subjects, "m"), "name": clean})
    project = put(project, "subjects", sister)
    for zone in [zone for zone in project.zones if zone.subject == subject_id]:
        project, made = duplicate_zone(project, zone.id, zone.name, mirrored=True, subject=sister.id)
        project = move_zone(project, made, len(project.zones))
    return project, sister.id


def move_zone(project: Project, zone_id: str, places: int) -> Project:
    """Move a zone so many places on in the rack."""
    zones = list(project.zones)
    here = zones.index(project.zone(zone_id))
    zone = zones.pop(here)
    zones.insert(max(0, min(len(zones), here + places)), zone)
    return project.model_copy(update={"zones": tuple(zones)})


def group_zones(project: Project, name: str, shares: Mapping[str, float | None]) -> Project:
    """Make zones the tones of one surface, with the share each covers where it is known.

    Raises
    ------
    EditError
        There are fewer than two, or their shares do not sum to one.
    """
    if len(shares) < 2:
        raise EditError(_("A surface of several tones has at least two zones; choose another one too."))
    known = [share for share in shares.values() if share is not None]
    if sum(known) > 1.005 or (len(known) == len(shares) and sum(known) < 0.995):
        raise EditError(
            _("The tones of one surface cover all of it: 100 % in sum; found {0} %.").format(
                f"{100 * sum(known):.1f}"
            )
        )
    there = next((found for name in shares if (found := project.zone(name).surface)), None)
    surface = Surface(id=there or fresh_id(project.surfaces, "u"), name=name.strip() or _("One surface"))
    project = put(project, "surfaces", surface)
    zones = tuple(
        each.model_copy(update={"surface": surface.id, "share": shares[each.id]})
        if each.id in shares
        else each.model_copy(update={"surface": None, "share": None})
        if each.surface == surface.id
        else each
        for each in project.zones
    )
    return _without_empty(project.model_copy(update={"zones": zones}))


def ungroup_zones(project: Project, surface_id: str) -> Project:
    """Let the tones of a surface be zones by themselves again."""
    zones = tuple(
        zone.model_copy(update={"surface": None, "share": None}) if zone.surface == surface_id else zone
        for zone in project.zones
    )
    return _without_empty(project.model_copy(update={"zones": zones}))


def _without_empty(project: Project) -> Project:
    """Without surfaces of fewer than two zones."""
    left = {s.id for s in project.surfaces if len(project.zones_of(s.id)) > 1}
    zones = tuple(
        zone
        if zone.surface is None or zone.surface in left
        else zone.model_copy(update={"surface": None, "share": None})
        for zone in project.zones
    )
    surfaces = tuple(surface for surface in project.surfaces if surface.id in left)
    return project.model_copy(update={"zones": zones, "surfaces": surfaces})


def _apart_from(zone: Zone, gone: str) -> Zone:
    """A zone without what it has of one that is removed: the side it mirrors, the water that runs down from it."""
    if zone.mirrors == gone:
        zone = zone.model_copy(update={"mirrors": None})
    if zone.wear is not None and zone.wear.water_from == gone:
        zone = zone.model_copy(update={"wear": zone.wear.model_copy(update={"water_from": None})})
    return zone


def remove_zone(project: Project, zone_id: str) -> Project:
    """Remove a zone with all that belongs to it: samples, regions, coats, and steps left without a zone."""
    coats = tuple(coat for coat in project.coats if coat.zone != zone_id)
    steps = []
    for step in project.steps:
        had_coats = bool(project.laid_in(step.id))
        zones = tuple(zone for zone in step.zones if zone != zone_id)
        if (had_coats and not any(coat.step == step.id for coat in coats)) or (step.zones and not zones):
            continue
        steps.append(step.model_copy(update={"zones": zones}))
    left = {step.id for step in steps}
    trimmed = tuple(
        step.model_copy(update={"after": tuple(other for other in step.after if other in left)})
        for step in steps
    )
    others = tuple(_apart_from(zone, zone_id) for zone in project.zones if zone.id != zone_id)
    gone = project.zone(zone_id).surface
    if gone:  # what is left of a surface no longer covers all of it
        others = tuple(z.model_copy(update={"share": None}) if z.surface == gone else z for z in others)
    removed = project.model_copy(
        update={
            "zones": others,
            "samples": tuple(sample for sample in project.samples if sample.zone != zone_id),
            "regions": tuple(region for region in project.regions if region.zone != zone_id),
            "coats": coats,
            "steps": trimmed,
            "accepted": tuple(
                one for one in project.accepted if one.step in left and (not one.after or one.after in left)
            ),
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
    return _without_empty(without_unused(removed))


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
