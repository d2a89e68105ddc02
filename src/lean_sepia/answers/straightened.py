"""A straightened copy of a photo: a photo of its own, with the same origin and the anchors that lie on it."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from pathlib import Path

import cv2
import numpy as np

from lean_sepia.document.edits.items import fresh_id
from lean_sepia.document.model import Photo, Project
from lean_sepia.errors import SampleError
from lean_sepia.language import _
from lean_sepia.photo.read import Pixels
from lean_sepia.photo.rectify import Point, mapped, straighten

AROUND = 0.6
"""How much of the surroundings of the straightened rectangle is kept on each side, in shares of its size."""


def straightened_copy(
    project: Project,
    photo: Photo,
    pixels: Pixels,
    corners: Sequence[Point],
    width_mm: float | None = None,
    height_mm: float | None = None,
) -> tuple[Photo, bytes]:
    """A straightened copy of a photo and its file, a PNG; the photo itself stays as it is.

    corners : upper left, upper right, lower right, lower left of what is a rectangle in truth
    width_mm, height_mm : its true size on the prototype, where it is known

    Raises
    ------
    SampleError
        The corners span no area, a size is not positive, or the copy cannot be written.
    """
    straight = straighten(pixels, corners, width_mm, height_mm, AROUND)
    height, width = straight.pixels.shape[:2]
    written, data = cv2.imencode(".png", np.ascontiguousarray(straight.pixels[..., ::-1]))
    if not written:
        raise SampleError(_("A picture of {0} × {1} pixels cannot be written.").format(width, height))
    file = data.tobytes()
    anchors, notes = [], [_("straightened from “{0}”").format(photo.title)]
    for anchor in photo.anchors:
        x, y, growth = mapped(straight.matrix, anchor.x, anchor.y)
        if 0 <= x < width and 0 <= y < height:
            anchors.append(anchor.model_copy(update={"x": x, "y": y, "radius": anchor.radius * growth}))
    if lost := len(photo.anchors) - len(anchors):
        notes.append(_("{0} of {1} anchors lie outside it").format(lost, len(photo.anchors)))
    copy = photo.model_copy(
        update={
            "id": fresh_id(project.photos, "f"), "copy_of": photo.copy_of or photo.id, "sha256": hashlib.sha256(file).hexdigest(),
            "name": f"{Path(photo.name).stem} straightened.png", "title": f"{photo.title}, straightened",
            "width": width, "height": height, "mm_per_px": straight.mm_per_px, "anchors": tuple(anchors),
            "notes": tuple(notes),
        }
    )  # fmt: skip
    return copy, file
