"""A photo made ready for the screen: decoded, corrected and halved in the background."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.answers.evidence import cast_of
from lean_sepia.document.model import Photo
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.pyramid import Pyramid, build_pyramid
from lean_sepia.photo.read import Picture, quick_look
from lean_sepia.ui.photo.pictures import Pictures

_QUICK_SIDE = 1400


@dataclass(frozen=True, eq=False)
class Seen:
    """A photo made ready for the screen in the background; `correction` is None without anchors."""

    photo: Photo
    picture: Picture
    cast: Cast
    pyramid: Pyramid
    correction: CorrectionTable | None


def prepare(pictures: Pictures, photo: Photo) -> Seen:
    """Decode, correct and halve one photo; runs in a job."""
    picture = pictures.picture(photo)
    cast = cast_of(picture.pixels, photo.anchors, photo.tones)
    pyramid = pictures.pyramid(photo)
    return Seen(
        photo,
        picture,
        cast,
        pyramid,
        CorrectionTable(cast) if photo.anchors and photo.tones == "colour" else None,
    )


def first_look(pictures: Pictures, photo: Photo) -> Pyramid | None:
    """A reduced picture that is there sooner than the whole one; None where that saves nothing. Runs in a job."""
    if pictures.has(photo):
        return None
    pixels = quick_look(pictures.bytes_of(photo), _QUICK_SIDE)
    return None if pixels is None else build_pyramid(pixels, photo.width, photo.height)
