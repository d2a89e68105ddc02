"""A photo made ready for the screen: decoded, corrected and shrunk in the background."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.arrays import Image8
from lean_sepia.photo.cast import Cast
from lean_sepia.photo.preview import corrected_pixels
from lean_sepia.photo.read import Picture, shrunk
from lean_sepia.project.model import Photo
from lean_sepia.project.questions import cast_of
from lean_sepia.ui.session import Session

_PREVIEW_SIDE = 2000


@dataclass(frozen=True, eq=False)
class Seen:
    """A photo made ready for the screen in the background."""

    photo: Photo
    picture: Picture
    cast: Cast
    found: Image8
    corrected: Image8 | None


def prepare(session: Session, photo: Photo) -> Seen:
    """Decode, correct and shrink one photo; runs in a job."""
    picture = session.picture(photo.id)
    cast = cast_of(picture.pixels, photo.anchors)
    found = shrunk(picture.pixels, _PREVIEW_SIDE)
    return Seen(photo, picture, cast, found, corrected_pixels(found, cast) if photo.anchors else None)
