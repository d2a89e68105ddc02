"""A photo made ready for the screen: decoded, corrected and halved in the background."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from threading import Lock

from lean_sepia.answers.evidence import cast_of, developed_by, mixed_light
from lean_sepia.document.model import Photo
from lean_sepia.language import spoken
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.correction.light_map import LightMap
from lean_sepia.photo.correction.next_evidence import Open, what_is_open
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.pyramid import Pyramid, build_pyramid
from lean_sepia.photo.read import Picture, quick_look
from lean_sepia.ui.photo.pictures import Pictures

_QUICK_SIDE, _MOST_KEPT = 1400, 12


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
    fitted = _fitted(pictures, photo, beside)
    return Seen(
        photo, tuple(beside), pictures.picture(photo), fitted.cast, pictures.pyramid(photo), fitted.correction, fitted.still_open,
        fitted.lights,
    )  # fmt: skip


@dataclass(frozen=True, eq=False)
class _Fitted:
    """What follows from a photo's pixels and anchors alone."""

    cast: Cast
    correction: CorrectionTable | None
    still_open: tuple[Open, ...]
    lights: LightMap | None


_kept: OrderedDict[object, _Fitted] = OrderedDict()
_keeping = Lock()


def _fitted(pictures: Pictures, photo: Photo, beside: Sequence[Photo]) -> _Fitted:
    """The correction of a photo with all that is shown of it; the last ones are kept, for photos that are returned to."""
    # A correction holds sentences: one made in another language is not the same.
    key = (spoken(), *((one.sha256, developed_by(one)) for one in (photo, *beside)))
    with _keeping:
        if key in _kept:
            _kept.move_to_end(key)
            return _kept[key]
    pixels = pictures.picture(photo).pixels
    cast = cast_of(photo, pixels, [(one, pictures.picture(one).pixels) for one in beside])
    table = CorrectionTable(cast) if cast.believed else None
    found = _Fitted(cast, table, what_is_open(cast), mixed_light(photo, pixels))
    with _keeping:
        _kept[key] = found
        while len(_kept) > _MOST_KEPT:
            _kept.popitem(last=False)
    return found


def cast_with(pictures: Pictures, photo: Photo, beside: Sequence[Photo]) -> Cast:
    """The correction of a photo with what photos of the same camera or scan say; runs in a job."""
    return _fitted(pictures, photo, beside).cast


def first_correction(pictures: Pictures, photo: Photo, beside: Sequence[Photo]) -> CorrectionTable | None:
    """About the same, several times as soon. Runs in a job."""
    cast = cast_of(
        photo,
        pictures.picture(photo).pixels,
        [(one, pictures.picture(one).pixels) for one in beside],
        first=True,
    )
    return CorrectionTable(cast) if cast.believed else None


def correction_with(pictures: Pictures, photo: Photo, beside: Sequence[Photo]) -> CorrectionTable | None:
    """The same as a table for whole pictures; None where nothing is known of its colours."""
    return _fitted(pictures, photo, beside).correction


def first_look(pictures: Pictures, photo: Photo) -> Pyramid | None:
    """A reduced picture that is there sooner than the whole one; None where that saves nothing. Runs in a job."""
    if pictures.has(photo):
        return None
    pixels = quick_look(pictures.bytes_of(photo), _QUICK_SIDE)
    return None if pixels is None else build_pyramid(pixels, photo.width, photo.height)
