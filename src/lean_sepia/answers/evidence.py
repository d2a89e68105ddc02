"""What photos show: corrections, samples, regions, and what a black-and-white print says of schemes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from lean_sepia.arrays import triple
from lean_sepia.colour.film import Emulsion, FilmLight, LensFilter
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.reflectance import estimate_reflectance
from lean_sepia.colour.srgb import linear_from_srgb
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.items import fresh_id
from lean_sepia.document.model import (
    AnchorMark,
    ClippedChannel,
    Photo,
    Project,
    Region,
    Sample,
    Shape,
    Tone,
)
from lean_sepia.language import _
from lean_sepia.photo.combine import same_paint_in_shade
from lean_sepia.photo.correction.cast import AS_FOUND, Anchor, Cast
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.correction.light_map import LightMap, light_map
from lean_sepia.photo.correction.usual_anchors import Usual, usual_anchor
from lean_sepia.photo.grey_evidence import PrintGrey, SchemeFit, rank_schemes
from lean_sepia.photo.patch import (
    Area,
    Patch,
    brush_patch,
    disc_patch,
    encoded_unit,
    polygon_patch,
)
from lean_sepia.photo.read import Pixels
from lean_sepia.photo.sample import Clipped, SampledColour, clipping_words, sample_patch, uneven_words
from lean_sepia.photo.shares import area_shares
from lean_sepia.photo.stated.roles import Role


@dataclass(frozen=True)
class Outline:
    """Where something is sampled: a disc about x, y; a polygon of corners; or a brush stroke along points."""

    x: float
    y: float
    radius: float
    shape: Shape = "disc"
    path: tuple[tuple[float, float], ...] = ()


_ANY_HUE, _NO_COLOUR_DE00 = (-60.0, 60.0), 50.0


def cast_of(
    photo: Photo, pixels: Pixels, beside: Sequence[tuple[Photo, Pixels]] = (), *, first: bool = False
) -> Cast:
    """The correction of a photo from its anchors; a picture without true colours is left as found.

    beside : photos that were developed like it, with their pixels; first : whether it is to be there soon, and about right
    """
    if photo.tones != "colour":
        return AS_FOUND
    others = [(theirs, _anchors(other)) for other, theirs in beside]
    return fit_cast(pixels, _anchors(photo), photo.kind, others, first=first)


def _anchors(photo: Photo) -> list[Anchor]:
    return [Anchor(m.x, m.y, m.radius, m.lightness, m.a, m.b, m.guess) for m in photo.anchors]


def mixed_light(photo: Photo, pixels: Pixels) -> LightMap | None:
    """Where a photo is lit by other light, where its greys disagree."""
    return light_map(pixels, _anchors(photo), photo.kind) if photo.tones == "colour" else None


def usual_mark(photo: Photo, pixels: Pixels, which: Usual) -> AnchorMark:
    """The deepest shadow or the brightest glint of a photo as a guessed anchor.

    Raises
    ------
    SampleError
        There is none.
    """
    found = usual_anchor(pixels, which)
    name = _("Deep shadow, a guess") if which == "shadow" else _("Glint, a guess")
    return AnchorMark(
        id=fresh_id(photo.anchors, "a"), x=found.x, y=found.y, radius=found.radius, lightness=found.lightness, name=name,
        group=which, guess=True,
    )  # fmt: skip


def alike(project: Project, photo_id: str) -> tuple[Photo, ...]:
    """Photos of the same camera or scan as one that have anchors to lend it."""
    return tuple(
        photo for photo in project.developed_alike(photo_id) if photo.anchors and photo.tones == "colour"
    )


def developed_by(photo: Photo) -> object:
    """All of a photo itself that its correction hangs on; the same for two that are corrected alike."""
    return photo.anchors, photo.tones, photo.kind, photo.like


def patch_of(pixels: Pixels, outline: Outline) -> Patch:
    """What a disc, polygon or brush stroke holds.

    Raises
    ------
    SampleError
        It lies outside the picture, or is none.
    """
    if outline.shape == "polygon":
        return polygon_patch(pixels, outline.path)
    if outline.shape == "brush":
        return brush_patch(pixels, outline.path, outline.radius)
    return disc_patch(pixels, outline.x, outline.y, outline.radius)


def outline_of(sample: Sample) -> Outline:
    """Where a sample was taken."""
    return Outline(sample.x, sample.y, sample.radius, sample.shape, sample.path)


def take_sample(
    project: Project, photo: Photo, pixels: Pixels, cast: Cast, zone: str, role: Role, outline: Outline
) -> Sample:
    """A new sample, with an id of its own; of a picture without true colours only its lightness is kept."""
    found = sample_patch(patch_of(pixels, outline), cast)
    return Sample(
        id=fresh_id(project.samples, "p"), photo=photo.id, zone=zone, role=role, x=outline.x, y=outline.y,
        radius=outline.radius, shape=outline.shape, path=outline.path, **_measured(found, photo),
    )  # fmt: skip


def _measured(found: SampledColour, photo: Photo) -> dict[str, Any]:
    lab, ranges, radius = found.lab, found.lab_range90, found.de00_90
    if photo.tones != "colour":
        # Black and white, or coloured in by someone: lightness and pattern count, hue and strength do not.
        lab, ranges, radius = (lab[0], 0.0, 0.0), (ranges[0], _ANY_HUE, _ANY_HUE), _NO_COLOUR_DE00
    return {
        "lab": lab, "lab_range90": ranges, "de00_90": radius, "pixels": found.pixels,
        "clipped_share": found.clipped_share, "bound": found.bound, "uneven": found.uneven,
        "clipped": tuple(ClippedChannel(channel=c.channel, end=c.end, share=c.share) for c in found.clipped),
    }  # fmt: skip


def resample(project: Project, photo: Photo, pixels: Pixels, cast: Cast) -> tuple[list[Sample], list[Region]]:
    """All samples and regions of a photo as they are under a correction."""
    samples = [
        sample.model_copy(update=_measured(sample_patch(patch_of(pixels, outline_of(sample)), cast), photo))
        for sample in project.samples
        if sample.photo == photo.id
    ]
    regions = [
        region.model_copy(update={"seen": region_seen(pixels, cast, region.corners)})
        for region in project.regions
        if region.photo == photo.id
    ]
    return samples, regions


def shaded_twins(project: Project, photo_id: str) -> list[tuple[Sample, Sample]]:
    """Pairs of samples of one zone and role on a photo that are one paint in the sun and in the shade."""
    mine = [sample for sample in project.samples if sample.photo == photo_id]
    return [
        (sun, shade)
        for sun in mine
        for shade in mine
        if sun.zone == shade.zone and sun.role == shade.role and same_paint_in_shade(sun.lab, shade.lab)
    ]


def rank_project_schemes(
    project: Project,
    photo: Photo,
    pixels: Pixels,
    emulsion: Emulsion,
    lens_filter: LensFilter = "none",
    light: FilmLight = "daylight",
) -> list[SchemeFit]:
    """Rank the project's schemes by the greys sampled on a black-and-white photo; its anchors are what is certain.

    Raises
    ------
    SampleError
        Too few areas, or no scheme.
    """
    mine = [sample for sample in project.samples if sample.photo == photo.id]
    greys: dict[str, list[float]] = {}
    # Schemes name fresh paint, so sheltered places count before others, as they do for a zone's fresh target.
    for role in ("sheltered", "base"):
        for zone in sorted({sample.zone for sample in mine if sample.role == role} - set(greys)):
            greys[zone] = [s.lab[0] for s in mine if s.zone == zone and s.role == role]
    certain = {}
    for mark in photo.anchors:
        if mark.lightness is not None:
            certain[mark.name] = estimate_reflectance((mark.lightness, mark.a, mark.b)).reflectance
            patch = disc_patch(pixels, mark.x, mark.y, mark.radius)
            greys.setdefault(mark.name, []).append(float(AS_FOUND.lab(patch.mean)[0]))
    schemes = {
        scheme.name: {zone: estimate_reflectance(lab).reflectance for zone, lab in scheme.colours}
        for scheme in project.schemes
    }
    shown = {area: PrintGrey.of(lightnesses) for area, lightnesses in greys.items()}
    return rank_schemes(shown, schemes, certain, emulsion, lens_filter, light)


def region_seen(pixels: Pixels, cast: Cast, corners: Sequence[tuple[float, float]]) -> Lab:
    """Plain mean of a region in linear XYZ, nothing left out, as L*a*b*."""
    area = Area.of_polygon((pixels.shape[0], pixels.shape[1]), corners)
    xyz = cast.xyz(linear_from_srgb(encoded_unit(area.of(pixels)[area.mask])))
    return triple(lab_from_xyz(xyz.mean(axis=0)))


def trace_area(
    project: Project,
    photo: Photo,
    pixels: Pixels,
    cast: Cast,
    zone: str,
    corners: Sequence[tuple[float, float]],
) -> Region:
    """An area of a zone traced on a photo: its plain mean, and the share of each tone that the zone's samples name.

    Raises
    ------
    SampleError
        The area lies outside the picture.
    """
    old = next(
        (r for r in project.regions if r.photo == photo.id and r.zone == zone and r.wear is None), None
    )
    tones: dict[str, list[Lab]] = {}
    for sample in project.samples:
        if sample.photo == photo.id and sample.zone == zone:
            tones.setdefault(sample.role, []).append(sample.lab)
    shares: list[Tone] = []
    if tones:
        area = Area.of_polygon((pixels.shape[0], pixels.shape[1]), corners)
        xyz = cast.xyz(linear_from_srgb(encoded_unit(area.of(pixels))))
        found, _ = area_shares(
            xyz, area.mask, {name: np.mean(labs, axis=0).tolist() for name, labs in tones.items()}
        )
        shares = [Tone(name=tone.name, lab=tone.lab, share=tone.share) for tone in found]
    return Region(
        id=old.id if old else fresh_id(project.regions, "w"), zone=zone, photo=photo.id, corners=tuple(corners),
        seen=region_seen(pixels, cast, corners), tones=tuple(shares),
    )  # fmt: skip


def doubts_of(sample: Sample) -> str:
    """What clipped channels and an uneven surface mean for a sample's colour, in words; empty where there is neither."""
    clipped = clipping_words([Clipped(c.channel, c.end, c.share) for c in sample.clipped], sample.bound)
    return "; ".join(words for words in (clipped, uneven_words(sample.uneven)) if words)
