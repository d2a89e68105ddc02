"""A photo of the model as it will look: its traced zones in the predicted finish, under the photo's own light and shade."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.strata import Strata, strata_of
from lean_sepia.arrays import FloatArray, Image8
from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.colour.srgb import linear_from_srgb, linear_from_xyz, srgb_from_linear, xyz_from_linear
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Photo, Project, Region
from lean_sepia.photo.patch import Area, encoded_unit
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.read import Pixels

_DEEPEST, _BRIGHTEST = (
    0.08,
    4.0,
)  # of the mean: what is beyond is a gap or a glint of the photo, not its light
_WHITEST = 0.98


@dataclass(frozen=True, eq=False)
class Repainted:
    """The picture, which zones were repainted, and those whose finish is not known."""

    pixels: Image8
    zones: tuple[str, ...]
    unknown: tuple[str, ...]


def photo_to_paint(project: Project, zone_id: str) -> Photo | None:
    """The photo to see a zone's finish on: one of the model before one of the prototype, with the most zones traced.

    None where the zone is traced on no photo in colour.
    """
    traced = {region.photo for region in project.regions if region.zone == zone_id}
    known = [photo for photo in project.photos if photo.id in traced and photo.tones == "colour"]

    def zones_on(photo: Photo) -> int:
        return len({region.zone for region in project.regions if region.photo == photo.id})

    return max(known, key=lambda photo: (photo.of_model, zones_on(photo)), default=None)


def finish_on_photo(
    project: Project, photo: Photo, pixels: Pixels, correction: CorrectionTable | None, most_side: int = 1000
) -> Repainted:
    """A photo, corrected and reduced, with its traced zones in the finish that the project will give them.

    pixels : of the whole photo (h, w, 3), as stored; correction : of its colours, None where nothing is known of them
    """
    stride = max(1, -(-max(pixels.shape[:2]) // most_side))
    small = np.ascontiguousarray(pixels[::stride, ::stride])
    if small.dtype != np.uint8:
        small = np.asarray((encoded_unit(small) * 255).round(), dtype=np.uint8)
    if correction is not None:
        small = correction.apply(small)
    regions = [region for region in project.regions if region.photo == photo.id]
    cuts = {name: strata_of(project, name) for name in {region.zone for region in regions}}
    return repainted(small, regions, cuts, 1 / stride)


def repainted(
    pixels: Image8, regions: Sequence[Region], cuts: Mapping[str, Strata], scale: float = 1.0
) -> Repainted:
    """The photo with each region in the finish its zone will have.

    pixels : corrected 8-bit sRGB (h, w, 3); scale : of the picture against the coordinates of the regions
    """
    made, done, unknown = pixels.copy(), [], []
    for region in regions:
        cut = cuts.get(region.zone)
        if cut is None or cut.seen is None:
            unknown.append(region.zone)
            continue
        corners = [(x * scale, y * scale) for x, y in region.corners]
        area = Area.of_polygon((pixels.shape[0], pixels.shape[1]), corners)
        box = made[area.rows, area.columns]
        inside = area.mask
        if not inside.any():
            continue
        light = _light(linear_from_srgb(pixels[area.rows, area.columns][inside] / 255.0))
        box[inside] = _painted(cut.seen, light)
        done.append(region.zone)
    return Repainted(made, tuple(dict.fromkeys(done)), tuple(dict.fromkeys(unknown)))


def _light(linear: FloatArray) -> FloatArray:
    """How much lighter or darker than the mean of its zone each pixel (n,) is; the mean of it is 1."""
    Y = xyz_from_linear(linear)[:, 1]
    light = np.clip(Y / max(float(Y.mean()), 1e-6), _DEEPEST, _BRIGHTEST)
    return np.asarray(light / light.mean())


def _painted(lab: Lab, light: FloatArray) -> Image8:
    """Pixels (n, 3) of a colour under the light of each, their mean the colour; what would pass white goes to the others."""
    xyz = xyz_from_lab(lab)
    most = _WHITEST / max(float(linear_from_xyz(xyz).max()), 1e-6)
    for _again in range(4):
        light = np.minimum(light, max(most, 1.0))
        light = light / light.mean()
    encoded = srgb_from_linear(linear_from_xyz(light[:, None] * xyz))
    return np.asarray((np.clip(encoded, 0, 1) * 255).round(), dtype=np.uint8)
