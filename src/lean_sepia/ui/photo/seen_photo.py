"""A photo made ready for the screen: decoded, corrected and halved in the background."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lean_sepia.answers.evidence import cast_of, developed_by, mixed_light
from lean_sepia.document.model import Photo
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.correction.light_map import LightMap
from lean_sepia.photo.correction.next_evidence import Open, what_is_open
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.pyramid import Pyramid, build_pyramid
from lean_sepia.photo.read import Picture, quick_look
from lean_sepia.ui.photo.pictures import Pictures

_QUICK_SIDE = 1400


@dataclass(frozen=True, eq=False)
class Seen:
    """A photo made ready for the screen in the background; `beside` are photos that were developed like it.

    `correction` is None where nothing is known of its colours; `still_open` is what of its development is not known, `lights` where
    its greys disagree.
    """

    photo: Photo
    beside: tuple[Photo, ...]
    picture: Picture
    cast: Cast
    pyramid: Pyramid
    correction: CorrectionTable | None
    still_open: tuple[Open, ...]
    lights: LightMap | None

    def shows(self, photo: Photo, beside: Sequence[Photo]) -> bool:
        """Whether it is this photo as it is corrected now."""
        return self.photo.id == photo.id and _state(self.photo, self.beside) == _state(photo, beside)


def _state(photo: Photo, beside: Sequence[Photo]) -> object:
    return developed_by(photo), [(one.id, developed_by(one)) for one in beside]


def prepare(pictures: Pictures, photo: Photo, beside: Sequence[Photo] = ()) -> Seen:
    """Decode, correct and halve one photo, with what photos of the same camera or scan say; runs in a job."""
    picture = pictures.picture(photo)
    cast = cast_with(pictures, photo, beside)
    pyramid = pictures.pyramid(photo)
    return Seen(
        photo, tuple(beside), picture, cast, pyramid, CorrectionTable(cast) if cast.believed else None, what_is_open(cast),
        mixed_light(photo, picture.pixels),
    )  # fmt: skip


def cast_with(pictures: Pictures, photo: Photo, beside: Sequence[Photo]) -> Cast:
    """The correction of a photo with what photos of the same camera or scan say; runs in a job."""
    return cast_of(
        photo, pictures.picture(photo).pixels, [(one, pictures.picture(one).pixels) for one in beside]
    )


def first_look(pictures: Pictures, photo: Photo) -> Pyramid | None:
    """A reduced picture that is there sooner than the whole one; None where that saves nothing. Runs in a job."""
    if pictures.has(photo):
        return None
    pixels = quick_look(pictures.bytes_of(photo), _QUICK_SIDE)
    return None if pixels is None else build_pyramid(pixels, photo.width, photo.height)
