"""Edits of photos: anchors, samples, regions and what is known of each."""

from __future__ import annotations

from collections.abc import Sequence

from lean_sepia.document.dates import date_span
from lean_sepia.document.edits.items import put, without
from lean_sepia.document.model import AnchorMark, Photo, Project, Region, Sample
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.photo.stated.roles import Role


def add_photo(project: Project, photo: Photo) -> Project:
    """Add a photo; the same picture twice is refused.

    Raises
    ------
    EditError
        The picture is in the project already.
    """
    twin = next((old for old in project.photos if old.sha256 == photo.sha256), None)
    if twin:
        raise EditError(_("This picture is in the project already, as “{0}”.").format(twin.title))
    return put(project, "photos", photo)


def remove_photo(project: Project, photo_id: str) -> Project:
    """Remove a photo with its samples and regions; the file keeps its bytes so that undo is exact."""
    return project.model_copy(
        update={
            "photos": tuple(photo for photo in project.photos if photo.id != photo_id),
            "samples": tuple(sample for sample in project.samples if sample.photo != photo_id),
            "regions": tuple(region for region in project.regions if region.photo != photo_id),
            "features": tuple(
                feature.model_copy(update={"photo": None, "x": None, "y": None})
                if feature.photo == photo_id
                else feature
                for feature in project.features
            ),
        }
    )


def describe_photo(project: Project, photo: Photo) -> Project:
    """Replace what is known of a photo.

    Raises
    ------
    EditError
        Its date is none.
    """
    date_span(photo.date)
    return put(project, "photos", photo)


def set_anchors(
    project: Project,
    photo_id: str,
    anchors: Sequence[AnchorMark],
    resampled: Sequence[Sample],
    reseen: Sequence[Region],
) -> Project:
    """Give a photo its anchors and its samples and regions the colours they have under the new correction."""
    photo = project.photo(photo_id).model_copy(update={"anchors": tuple(anchors)})
    new_samples = {sample.id: sample for sample in resampled}
    new_regions = {region.id: region for region in reseen}
    return put(project, "photos", photo).model_copy(
        update={
            "samples": tuple(new_samples.get(sample.id, sample) for sample in project.samples),
            "regions": tuple(new_regions.get(region.id, region) for region in project.regions),
        }
    )


def set_scale(project: Project, photo_id: str, mm_per_px: float) -> Project:
    """Say how many millimetres of the prototype a pixel of a photo is."""
    return put(project, "photos", project.photo(photo_id).model_copy(update={"mm_per_px": mm_per_px}))


def add_sample(project: Project, sample: Sample) -> Project:
    """Keep a sample."""
    return put(project, "samples", sample)


def set_role(project: Project, sample_id: str, role: Role) -> Project:
    """Say what a sample shows."""
    sample = next(sample for sample in project.samples if sample.id == sample_id)
    return put(project, "samples", sample.model_copy(update={"role": role}))


def remove_sample(project: Project, sample_id: str) -> Project:
    """Remove one sample."""
    return without(project, "samples", sample_id)


def place_region(project: Project, region: Region) -> Project:
    """Keep a region, in place of the one with its id."""
    return put(project, "regions", region)
