"""What kind of picture a file looks like: from what camera and scanner noted, a printed screen, and the histogram.

A guess is shown and never used by itself. Tags: Exif 2.32 (CIPA DC-008), FileSource 1 film scanner, 2 print scanner, 3 camera.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from PIL import Image

from lean_sepia.arrays import FloatArray
from lean_sepia.errors import PictureError
from lean_sepia.language import N_, _
from lean_sepia.photo.formats import decoding
from lean_sepia.photo.stated.picture_kind import PictureKind
from lean_sepia.photo.surface import find_screen

_EXIF_IFD, _FILE_SOURCE, _EXPOSURE, _APERTURE, _FOCAL, _FOCAL_35 = (
    0x8769,
    0xA300,
    0x829A,
    0x829D,
    0x920A,
    0xA405,
)
_WRITERS = (0x010F, 0x0110, 0x0131)  # maker, model, software
_PHONE_CROP, _FINE_SCAN_DPI, _COARSE_SCAN_DPI = 4.5, 1600, 150
_SMALL, _WINDOW, _LEAST_SIDE = 96, 96, 16
_LIFTED, _DIM = 0.10, 0.93
_GREENISH, _PALE = 1.3, 0.12
_ORANGE_SHARE, _ORANGE_STEP, _ORANGE_BRIGHT = 0.85, 0.03, 0.72
_ONE_COLOUR = 2.0 / 255


@dataclass(frozen=True)
class KindGuess:
    """A kind of picture and what speaks for it."""

    kind: PictureKind
    why: str


NO_GUESS = KindGuess("unknown", "")


def guess_kind(image: Image.Image | None, pixels: FloatArray) -> KindGuess:
    """What a picture (h, w, 3), encoded in 0–1 or as stored, looks like; `image` is None for camera raw."""
    if image is None:
        return KindGuess("developed", N_("a camera raw, developed here"))
    try:
        with decoding(""):
            noted = _noted(image)
    except PictureError:
        noted = None  # what the camera wrote is damaged
    return noted or _printed(pixels) or _resolution(image) or _histogram(small(pixels)) or NO_GUESS


def strange_about(pixels: FloatArray) -> list[str]:
    """What is strange about a picture (h, w, 3) as a whole, in words."""
    reduced = small(pixels)
    if is_of_one_colour(reduced):
        return [_("the whole picture is of one colour: nothing in it can be told apart")]
    if looks_like_a_negative(reduced):
        return [
            _(
                "it is orange all over, as a colour negative scanned as it is: turn a negative into a positive first, or its colours mean nothing"
            )
        ]
    return []


def small(pixels: FloatArray, longest: int = _SMALL) -> FloatArray:
    """A reduced copy of pixels of any depth, encoded in 0–1, whose longer side is at most `longest` pixels."""
    most = 65535.0 if pixels.dtype == np.uint16 else 255.0
    height, width = pixels.shape[:2]
    times = min(1.0, longest / max(height, width))
    size = (max(1, round(width * times)), max(1, round(height * times)))
    return cv2.resize(np.ascontiguousarray(pixels), size, interpolation=cv2.INTER_AREA).astype(float) / most


def _noted(image: Image.Image) -> KindGuess | None:
    """From what a camera or scanner wrote into the file."""
    exif = image.getexif()
    details = exif.get_ifd(_EXIF_IFD)
    source = details.get(_FILE_SOURCE)
    number = source[0] if isinstance(source, bytes) and source else source
    written = " ".join(str(exif.get(tag, "")) for tag in _WRITERS).lower()
    if number == 1:
        return KindGuess("slide", N_("the file says a film scanner made it"))
    if number == 2:
        return KindGuess("print", N_("the file says a print scanner made it"))
    if "scan" in written and _EXPOSURE not in details:
        fine = _dots(image) >= _FINE_SCAN_DPI
        return KindGuess("slide" if fine else "print", N_("the file says a scanner made it"))
    if _EXPOSURE not in details and _APERTURE not in details:
        return None
    focal, equal = _number(details.get(_FOCAL)), _number(details.get(_FOCAL_35))
    if focal and equal and equal / focal > _PHONE_CROP:
        return KindGuess("phone", N_("a camera with a very small sensor took it"))
    return KindGuess("camera", N_("the file holds a camera's exposure"))


def _number(value: object) -> float:
    try:
        return float(value)  # type: ignore[arg-type]
    except (TypeError, ValueError, ZeroDivisionError):
        return 0.0


def _dots(image: Image.Image) -> float:
    """Dots per inch as the file says, 0 where it does not."""
    dpi = image.info.get("dpi")
    return _number(dpi[0]) if isinstance(dpi, tuple) and dpi else 0.0


def _printed(pixels: FloatArray) -> KindGuess | None:
    """Whether there is a printed screen in the middle or in one of four places about it."""
    height, width = pixels.shape[:2]
    if min(height, width) < 2 * _WINDOW:
        return None
    most = 65535.0 if pixels.dtype == np.uint16 else 255.0
    found = 0
    for down, across in ((0.5, 0.5), (0.3, 0.3), (0.3, 0.7), (0.7, 0.3), (0.7, 0.7)):
        top, left = round(down * height) - _WINDOW // 2, round(across * width) - _WINDOW // 2
        found += find_screen(pixels[top : top + _WINDOW, left : left + _WINDOW] / most) is not None
    return KindGuess("print", N_("a printed screen is in it")) if found >= 3 else None


def _resolution(image: Image.Image) -> KindGuess | None:
    dots = _dots(image)
    if dots >= _FINE_SCAN_DPI:
        return KindGuess("slide", N_("it has the resolution of a film scan"))
    if dots >= _COARSE_SCAN_DPI and image.format == "TIFF":
        return KindGuess("print", N_("it has the resolution of a scan of paper"))
    return None


def _histogram(reduced: FloatArray) -> KindGuess | None:
    if is_of_one_colour(reduced) or len(reduced) < _LEAST_SIDE:
        return None
    levels = reduced.reshape(-1, 3)
    red, green, blue = levels.mean(axis=0)
    pale = float(np.ptp(levels, axis=1).mean()) < _PALE
    if pale and green > _GREENISH * max(red, blue, 1e-3):
        return KindGuess("undeveloped", N_("it is pale and green, as a raw is before it is developed"))
    dark, light = np.quantile(levels.min(axis=1), 0.002), np.quantile(levels.max(axis=1), 0.998)
    if dark > _LIFTED and light < _DIM:
        return KindGuess("print", N_("nothing in it is black or white, as on paper"))
    return None


def looks_like_a_negative(reduced: FloatArray) -> bool:
    """Whether a reduced picture is orange all over, most where it is brightest: the mask of a colour negative."""
    red, green, blue = reduced.reshape(-1, 3).T
    ordered = (red > green + _ORANGE_STEP) & (green > blue + _ORANGE_STEP)
    bright = red >= np.quantile(red, 0.98)
    base = float(np.mean(blue[bright] / np.maximum(red[bright], 1e-3)))
    return bool(ordered.mean() > _ORANGE_SHARE and base < _ORANGE_BRIGHT and red[bright].mean() > 0.5)


def is_of_one_colour(reduced: FloatArray) -> bool:
    """Whether a reduced picture holds a single colour."""
    return reduced.shape[0] * reduced.shape[1] > 1 and bool(
        np.ptp(reduced.reshape(-1, 3), axis=0).max() < _ONE_COLOUR
    )
