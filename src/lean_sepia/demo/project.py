"""The demo's two projects: one half worked, so that every room has something real, one untouched."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from lean_sepia.answers.evidence import Outline, cast_of, region_seen, take_sample
from lean_sepia.answers.glazing import filters
from lean_sepia.answers.match import base_laying
from lean_sepia.answers.nearer.finish import solve
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.toning import fading
from lean_sepia.answers.toning.wishes import Aim
from lean_sepia.answers.wearing.surveying import marks_of, survey_region
from lean_sepia.arrays import triple
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.demo.canvas import MM_PER_PX, Scene
from lean_sepia.demo.prototype import true_labs
from lean_sepia.demo.schemes import demo_schemes
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.coats import (
    lay_filter,
    lay_marking,
    lay_primer,
    lay_varnish,
    lay_wear,
    pin_base,
)
from lean_sepia.document.edits.items import fresh_id
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.photos import add_sample, place_region, set_anchors
from lean_sepia.document.edits.planning import set_school
from lean_sepia.document.edits.steps import add_step, move_step
from lean_sepia.document.edits.zones import locate_feature, name_feature
from lean_sepia.document.model import (
    AnchorMark,
    Photo,
    Project,
    Region,
    Scheme,
    Subject,
    Tones,
    Trust,
    Zone,
)
from lean_sepia.paint.paint import Paint
from lean_sepia.photo.correction.cast import AS_FOUND
from lean_sepia.photo.patch import corners_of
from lean_sepia.photo.read import Picture
from lean_sepia.photo.stated.roles import Role
from lean_sepia.recipe.fades.fade import Goal
from lean_sepia.recipe.mix import MixSolver

WEAR_BOX = (480, 640, 1240, 688)
"""The rectangle on the slide whose wear is measured: the lower strakes, clear of lettering and strake."""

SEEN_BOXES = {"boot": (350, 694, 1200, 736), "house": (575, 495, 840, 570), "funnel": (806, 312, 886, 420)}
"""Rectangles whose plain mean says how a zone looks as a whole, dirt included."""

_ZONES = (
    ("hull", "Hull, port side", "Hull", 214.0),
    ("boot", "Boot topping", "Boot", 62.0),
    ("house", "House", "House", 96.0),
    ("funnel", "Funnel", "Funnel", 18.0),
    ("band", "Funnel band", "Band", 5.0),
    ("gear", "Deck gear", "Gear", 31.0),
)


@dataclass(frozen=True)
class DemoPhoto:
    """A rendered photo with the caption it gets in the project."""

    id: str
    file: str
    title: str
    date: str
    process: str
    light: str
    source: str = ""
    trust: Trust = ""
    tones: Tones = "colour"
    of_model: bool = False


_YEARS = (
    ("1949", "1953"),
    ("1954", "1963"),
    ("1964", ""),
    ("1950", "1951"),
    ("1950", "1951"),
    ("1950", "1951"),
    ("", ""),
)

PHOTOS = (
    DemoPhoto(
        "f1",
        "slide-1957.jpg",
        "Slide no. 2",
        "1957-09",
        "colour slide",
        "evening sun",
        "harbour office",
        "sure",
    ),
    DemoPhoto(
        "f2",
        "print-1958.jpg",
        "Print from the album",
        "1958-05",
        "colour print",
        "overcast",
        "family album",
        "likely",
    ),
    DemoPhoto(
        "f3",
        "ortho-1951.png",
        "Press print",
        "1951-06",
        "black and white, orthochromatic",
        "daylight",
        "press agency",
        "sure",
        "black-and-white",
    ),
    DemoPhoto(
        "f4",
        "phone-model.jpg",
        "The model, grey card",
        "2026-11-20",
        "phone",
        "window and lamp",
        of_model=True,
    ),
)


def untouched_project(pictures: Mapping[str, Picture]) -> Project:
    """Photos, model and zones, and nothing done yet."""
    subject = Subject(
        id="m1", name="Tordmule", scale=96, livery="second livery", livery_from="1954", livery_to="1963"
    )
    photos = tuple(
        Photo(
            id=photo.id, sha256=pictures[photo.file].sha256, name=photo.file, title=photo.title,
            width=pictures[photo.file].width, height=pictures[photo.file].height, date=photo.date,
            process=photo.process, light=photo.light, of_model=photo.of_model, notes=pictures[photo.file].notes,
            source=photo.source, trust=photo.trust, tones=photo.tones, prototype="" if photo.of_model else "Tordmule",
        )
        for photo in PHOTOS
    )  # fmt: skip
    zones = tuple(
        Zone(id=key, subject="m1", name=name, short=short, area_cm2=area) for key, name, short, area in _ZONES
    )
    schemes = tuple(
        Scheme(
            id=f"s{number}", name=name, worn_from=years[0], worn_to=years[1],
            colours=tuple((area, triple(lab_from_reflectance(R))) for area, R in colours.items()),
        )
        for number, ((name, colours), years) in enumerate(zip(demo_schemes().items(), _YEARS, strict=True), start=1)
    )  # fmt: skip
    return Project(
        schemes=schemes,
        title="Tordmule",
        subjects=(subject,),
        photos=photos,
        zones=zones,
        plan_start="2026-11-30T19:00",
    )


def worked_project(
    pictures: Mapping[str, Picture], scene: Scene, paints: list[Paint], progress: Callable[[str], None]
) -> Project:
    """The demo half worked: anchors, samples, recipes, a fade, a filter, wear and a plan."""
    project = untouched_project(pictures)
    project = _evidence(project, pictures, scene)
    progress("Solving the demo's recipes")
    project = _wear(project, pictures)
    project = _coats(project, paints)
    return _solved(_plan(project), paints)


_ON_SLIDE: tuple[tuple[str, str, Role], ...] = (
    ("hull exposed", "hull", "faded"), ("hull sheltered", "hull", "sheltered"), ("boot exposed", "boot", "faded"),
    ("boot sheltered", "boot", "sheltered"), ("house exposed", "house", "base"), ("funnel exposed", "funnel", "base"),
    ("band exposed", "band", "base"),
)  # fmt: skip
_ON_PRINT: tuple[tuple[str, str, Role], ...] = (
    ("hull exposed", "hull", "faded"),
    ("house exposed", "house", "base"),
)


def _anchors(scene: Scene) -> tuple[AnchorMark, ...]:
    """The white of the lettering and the grey deck locker."""
    x, y, radius = scene.spots["lettering"][0]
    L, a, b = (round(value, 1) for value in true_labs()["lettering"]["fresh"])
    white = AnchorMark(id="a1", x=x, y=y, radius=radius, lightness=L, a=a, b=b, name="Lettering white")
    x, y, radius = scene.spots["locker"][0]
    grey = round(true_labs()["locker"]["fresh"][0])
    return white, AnchorMark(id="a2", x=x, y=y, radius=radius, lightness=grey, name="Grey deck locker")


def _evidence(project: Project, pictures: Mapping[str, Picture], scene: Scene) -> Project:
    spots, marks = scene.spots, _anchors(scene)
    for photo_id, roles in (("f1", _ON_SLIDE), ("f2", _ON_PRINT)):
        pixels = pictures[project.photo(photo_id).name].pixels
        project = set_anchors(project, photo_id, marks, (), ())
        cast = cast_of(project.photo(photo_id), pixels)
        for spot, zone, role in roles:
            x, y, radius = spots[spot][0]
            sample = take_sample(
                project, project.photo(photo_id), pixels, cast, zone, role, Outline(x, y, radius)
            )
            project = add_sample(project, sample)
    press = project.photo("f3")
    pixels = pictures[press.name].pixels
    project = set_anchors(project, "f3", marks, (), ())
    for zone in ("hull", "house", "funnel", "boot"):
        place: Role = "sheltered" if f"{zone} sheltered" in spots else "base"
        for disc in spots.get(f"{zone} sheltered", spots[f"{zone} exposed"]):
            sample = take_sample(project, press, pixels, AS_FOUND, zone, place, Outline(*disc))
            project = add_sample(project, sample)
    project = name_feature(project, "Rust runs under the four scuppers, port side")
    return locate_feature(project, "g1", "hull", "f1", *spots["hull exposed"][1][:2])


def _coats(project: Project, paints: list[Paint]) -> Project:
    names = [zone.id for zone in project.zones]
    for zone in names:
        primer = Mix.of(paints, [("red-primer", 1)])
        project = lay_primer(project, zone, primer, Manner(passes=2, thinner_share=0.5))
    project = lay_varnish(project, names, "matte-coat")
    acrylics = [paint for paint in paints if paint.medium == "acrylic-water"]
    for zone in ("hull", "boot", "house", "funnel"):
        target = strata_of(project, zone).targets.fresh
        if target is None:
            raise AssertionError(f"the demo samples {zone}")
        manner = Manner(passes=3, thinner_share=0.6)
        recipe = MixSolver(acrylics, base_laying(project, zone, manner.passes)).solve(target.lab, count=1)[0]
        project = pin_base(project, zone, Mix.of(paints, recipe.parts), manner)
    return _glazed(_faded(project, acrylics), paints)


def _faded(project: Project, acrylics: list[Paint]) -> Project:
    for zone in ("hull", "boot"):
        target = strata_of(project, zone).targets.exposed
        question = fading.ask(project, zone, Aim(target, Goal(target.lab)), acrylics) if target else None
        if question is None:
            raise AssertionError(f"the demo samples the faded {zone} and gives it a base")
        project = fading.lay_answer(project, question, fading.answer(question).fades[0])
    return project


def _glazed(project: Project, paints: list[Paint]) -> Project:
    question = filters.ask(project, "hull", paints)
    if question is None:
        raise AssertionError("the demo has zones to glaze")
    best = filters.answer(question).filters[0].glaze
    return lay_filter(project, ("hull", "boot"), *filters.mix_of(question, best))


def _wear(project: Project, pictures: Mapping[str, Picture]) -> Project:
    photo = project.photo("f1")
    pixels = pictures[photo.name].pixels
    cast = cast_of(photo, pixels)
    corners = corners_of(*WEAR_BOX)
    base: Lab = next(
        sample.lab for sample in project.samples if sample.zone == "hull" and sample.role == "faded"
    )
    rust, scratch = (tuple(true_labs()[name]["fresh"]) for name in ("rust", "scratch"))
    classes: dict[str, Lab] = {
        "rust": (rust[0], rust[1], rust[2]),
        "scratch": (scratch[0], scratch[1], scratch[2]),
    }
    _, record, _ = survey_region(pixels, cast, corners, base, classes, mm_per_px=MM_PER_PX, scale=96)
    region = Region(
        id=fresh_id(project.regions, "w"), zone="hull", photo="f1", corners=corners, seen=region_seen(pixels, cast, corners), wear=record
    )  # fmt: skip
    project = place_region(project, region)
    for zone, box in SEEN_BOXES.items():
        around = corners_of(*box)
        whole = Region(
            id=fresh_id(project.regions, "w"), zone=zone, photo="f1", corners=around,
            seen=region_seen(pixels, cast, around),
        )  # fmt: skip
        project = place_region(project, whole)
    return lay_wear(project, "hull", marks_of(record))


def _masked_waterline(project: Project) -> Project:
    """The hull is masked along the waterline while the boot topping is sprayed."""
    boot = next(coat for coat in project.coats_of("boot") if coat.nature.is_base).step
    place = [step.id for step in project.steps].index(boot)
    project, _ = add_step(project, "unmask", ["hull"], title="Unmask the waterline", place=place + 1)
    project, _ = add_step(project, "mask", ["hull"], title="Mask the waterline", place=place)
    return project


def _solved(project: Project, paints: list[Paint]) -> Project:
    """Bases, fades and filters brought as near to their targets, under what comes later, as the shelf allows."""
    offer = solve(project, paints)
    return project if offer is None else offer.edit(project)


def _plan(project: Project) -> Project:
    letters = true_labs()["lettering"]["fresh"]
    project = lay_varnish(project, ["hull"], "satin-coat")
    project = lay_marking(project, "hull", Mix(lab=triple(letters)), Manner(area_share=0.012, tool="brush"))
    project, _ = add_step(
        project, "wash-model", [zone.id for zone in project.zones], title="Wash in soapy water"
    )
    project = _masked_waterline(project)
    project, dust = add_step(project, "powder", ["boot"], title="Quay dust, boot topping")
    # The one planted fault: the powder comes before the matte coat, which swallows it.
    order = [step.kind for step in project.steps]
    project = move_step(project, dust, order.index("matte-coat") - order.index("powder"))
    return set_school(project, "decals", "gloss-first")
