"""Reading a picture of any kind into upright sRGB pixels, with a note for every conversion."""

from __future__ import annotations

import hashlib
import io
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image, ImageCms

from lean_sepia.arrays import Image8
from lean_sepia.errors import PictureError
from lean_sepia.files.gate import MOST_PICTURE, one_line, read_bytes, shown
from lean_sepia.language import N_, _
from lean_sepia.photo.correction.kind_guess import NO_GUESS, KindGuess, guess_kind, strange_about
from lean_sepia.photo.formats import (
    bit_depth,
    decoding,
    endings_of,
    frame_count,
    is_whole_png,
    open_picture,
)
from lean_sepia.photo.optional_formats import develop_raw, is_raw

_BACKDROP = 160  # what transparent parts are laid on: the grey of the viewer
_ORIENTATION_TAG, _TAKEN_TAG, _EXIF_IFD = 0x0112, 0x9003, 0x8769
_WIDE_MM = 28.0
_BAND_PIXELS = 2_000_000
_BAD_PROFILE = N_("its colour profile is damaged or of another kind of picture; read as sRGB")
_LENS_TAG, _FOCAL_35_TAG = 0xA434, 0xA405

Pixels = npt.NDArray[Any]


@dataclass(frozen=True, eq=False)
class Picture:
    """An upright picture: sRGB-encoded pixels (h, w, 3), 8 or 16 bit, and what was done to get them."""

    pixels: Pixels
    notes: tuple[str, ...]
    taken: str | None
    sha256: str
    media_type: str
    guess: KindGuess = NO_GUESS

    @property
    def width(self) -> int:
        """Width in pixels."""
        return int(self.pixels.shape[1])

    @property
    def height(self) -> int:
        """Height in pixels."""
        return int(self.pixels.shape[0])


def read_picture(path: str | Path) -> Picture:
    """Read a picture file.

    Raises
    ------
    PictureError
        The file is missing, empty, truncated, no picture, or has more than 150 megapixels.
    """
    return decode_picture(
        read_bytes(path, _("The picture"), PictureError, MOST_PICTURE), shown(Path(path).name)
    )


def decode_picture(data: bytes, name: str) -> Picture:
    """Decode a picture from its bytes; `name` is used in messages and to compare the suffix.

    Raises
    ------
    PictureError
        As for `read_picture`.
    """
    if not data:
        raise PictureError(_("{0} is empty (0 bytes). Copy it again from its source.").format(name))
    notes: list[str] = []
    if is_raw(name):
        with decoding(name):
            pixels = develop_raw(data, name)
        notes.append(_("camera raw, developed for daylight"))
        guess = guess_kind(None, pixels)
        return Picture(pixels, tuple(notes), None, hashlib.sha256(data).hexdigest(), "image/x-raw", guess)
    image = open_picture(data, name)
    with decoding(name):
        pixels = _pixels(image, data, notes)
    pixels, taken = _as_the_camera_noted(image, pixels, notes)
    kind = str(image.format)
    suffix = Path(name).suffix.lower()
    if suffix and suffix not in endings_of(kind):
        notes.append(_("the name ends in {0} but it is a {1} picture").format(suffix, kind))
    notes += strange_about(pixels)
    return Picture(
        pixels,
        tuple(notes),
        taken,
        hashlib.sha256(data).hexdigest(),
        Image.MIME.get(kind, "application/octet-stream"),
        guess_kind(image, pixels),
    )


def _as_the_camera_noted(image: Image.Image, pixels: Pixels, notes: list[str]) -> tuple[Pixels, str | None]:
    """The pixels upright, and when they were taken; damaged notes of a camera are left out and said."""
    try:
        with decoding(""):
            exif = image.getexif()
            orientation, taken, lens = exif.get(_ORIENTATION_TAG, 1), _taken(exif), _lens(exif)
    except PictureError:
        notes.append(_("the camera's own notes are damaged and were left out"))
        return pixels, None
    pixels = _upright(pixels, orientation, notes)
    notes += lens
    return pixels, taken


def quick_look(data: bytes, longest_side: int) -> Image8 | None:
    """A reduced upright copy (h, w, 3) of a large JPEG, decoded at a fraction of its size; None for other pictures."""
    try:
        image = open_picture(data, "")
        if image.format != "JPEG" or max(image.size) < 2 * longest_side or image.mode not in ("RGB", "L"):
            return None
        if image.info.get("icc_profile"):
            return None
        with decoding(""):
            orientation = image.getexif().get(_ORIENTATION_TAG, 1)
            image.draft("RGB", (longest_side, longest_side * image.height // image.width))
            pixels = np.asarray(image.convert("RGB"))
    except PictureError:
        return None  # the full decoding tells what is wrong
    return np.ascontiguousarray(_upright(pixels, orientation, []))


def _pixels(image: Image.Image, data: bytes, notes: list[str]) -> Pixels:
    frames = frame_count(image)
    if frames > 1 and image.format != "MPO":
        notes.append(_("first of {0} frames").format(frames))
    profile = image.info.get("icc_profile")
    if bit_depth(image, data) == 16 and (deep := _deep_pixels(image, data, notes)) is not None:
        if image.format == "PNG" and not is_whole_png(data):
            raise OSError(_("rows are missing"))
        return _deep_through_profile(deep, profile, notes) if profile else deep
    image.load()
    if image.format == "PNG" and _ends_empty(image, data) and not is_whole_png(data):
        raise OSError(_("rows are missing"))
    image = _opaque(image, notes)
    if profile:
        converted = _through_profile(image, profile, notes)
        if converted is not None:
            return _as_array(converted)
    return _plain_rgb(image, notes)


def _ends_empty(image: Image.Image, data: bytes) -> bool:
    """Whether the last row is black throughout, as rows that never came are; interlaced ones come in no such order."""
    last = image.crop((0, image.height - 1, image.width, image.height))
    return data[28] != 0 or not any(last.tobytes())


def _as_array(image: Image.Image) -> Pixels:
    """The pixels (h, w, 3) of an RGB picture, copied in bands: one copy of all would hold up every other thread."""
    pixels = np.empty((image.height, image.width, 3), dtype=np.uint8)
    for band in _bands(pixels):
        bottom = min(image.height, band.stop)
        pixels[band] = np.asarray(image.crop((0, band.start, image.width, bottom)))
    return pixels


def _deep_pixels(image: Image.Image, data: bytes, notes: list[str]) -> Pixels | None:
    """16-bit pixels, which Pillow would cut to 8, or None where they are of a kind that the other libraries do not read."""
    array = _deep_png(data) if image.format == "PNG" else _deep_tiff(data)
    if array is None or array.dtype != np.uint16:
        return None
    notes.append(_("16 bits a channel"))
    colours, alpha = (array[..., :-1], array[..., -1:]) if array.shape[2] in (2, 4) else (array, None)
    if colours.shape[2] == 1:
        notes.append(_("grey picture: lightness only"))
        colours = np.repeat(colours, 3, axis=2)
    colours = np.ascontiguousarray(colours)
    if alpha is not None and int(alpha.min()) < 65535:
        notes.append(_("transparent parts shown as grey"))
        for band in _bands(colours):
            share = alpha[band].astype(np.float32) / 65535
            colours[band] = (colours[band] * share + _BACKDROP * 257 * (1 - share)).round()
    return colours


def _deep_png(data: bytes) -> Pixels:
    """Pixels (h, w, c) as they are in the file; what is wrong with it is raised, not printed."""
    import imagecodecs  # only such pictures need it, and it takes a while to load

    try:
        array = np.asarray(imagecodecs.png_decode(data))
    except imagecodecs.PngError as error:
        raise OSError(str(error)) from None
    return array if array.ndim == 3 else array[..., None]


def _deep_tiff(data: bytes) -> Pixels | None:
    """Pixels (h, w, c) as they are in the file, or None where the library cannot read them."""
    array = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)
    if array is None:
        return None
    if array.ndim == 2:
        return array[..., None]
    return array[..., [2, 1, 0, 3][: array.shape[2]]] if array.shape[2] in (3, 4) else None


def _bands(pixels: Pixels) -> Iterator[slice]:
    """A picture's rows in bands, so that what is computed from them takes little memory beside it."""
    rows = max(1, _BAND_PIXELS // max(1, pixels.shape[1]))
    for top in range(0, pixels.shape[0], rows):
        yield slice(top, top + rows)


def _opaque(image: Image.Image, notes: list[str]) -> Image.Image:
    """Lay transparent parts on the viewer's grey; palettes become their colours."""
    if image.mode in ("P", "PA"):
        notes.append(_("palette picture: its colours are rounded"))
        image = image.convert("RGBA" if "transparency" in image.info or image.mode == "PA" else "RGB")
    if image.mode in ("L", "RGB") and "transparency" in image.info:
        image = image.convert("RGBA")
    if image.mode in ("LA", "La", "RGBA", "RGBa"):
        straight = image.convert("RGBA") if image.mode != "RGBA" else image
        if np.asarray(straight)[..., 3].min() < 255:
            notes.append(_("transparent parts shown as grey"))
            backdrop = Image.new("RGBA", straight.size, (_BACKDROP, _BACKDROP, _BACKDROP, 255))
            straight = Image.alpha_composite(backdrop, straight)
        grey = image.mode in ("LA", "La")
        image = straight.convert("L" if grey else "RGB")
    return image


def _deep_through_profile(pixels: Pixels, profile: bytes, notes: list[str]) -> Pixels:
    """16-bit pixels (h, w, 3) converted to sRGB at 16 bits, which Pillow's binding of littleCMS cannot do."""
    import imagecodecs  # only such pictures need it, and it takes a while to load

    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        kind = source.profile.xcolor_space.strip()
        if kind not in ("RGB", "GRAY"):
            raise ValueError(_("a profile for {0}").format(kind))
        converted = imagecodecs.cms_transform(
            np.ascontiguousarray(pixels if kind == "RGB" else pixels[..., :1]),
            profile,
            ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes(),
            colorspace="rgb" if kind == "RGB" else "gray",
            outcolorspace="rgb",
            intent=int(ImageCms.Intent.RELATIVE_COLORIMETRIC),
            flags=int(ImageCms.Flags.BLACKPOINTCOMPENSATION),
        )
    except (ImageCms.PyCMSError, imagecodecs.CmsError, OSError, ValueError):
        notes.append(_(_BAD_PROFILE))
        return pixels
    _note_profile(source, notes)
    return np.asarray(converted)


def _note_profile(source: ImageCms.ImageCmsProfile, notes: list[str]) -> None:
    name = ImageCms.getProfileDescription(source).strip()
    if "srgb" not in name.lower():
        notes.append(_("converted from the colour profile “{0}”").format(name[:60]))


def _through_profile(image: Image.Image, profile: bytes, notes: list[str]) -> Image.Image | None:
    if image.mode not in ("RGB", "L", "CMYK"):
        image = image.convert("RGB")
    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        converted = ImageCms.profileToProfile(
            image,
            source,
            ImageCms.createProfile("sRGB"),
            renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC,
            outputMode="RGB",
            flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
        )
    except (ImageCms.PyCMSError, OSError, ValueError):
        notes.append(_(_BAD_PROFILE))
        return None
    _note_profile(source, notes)
    if image.mode == "L":
        notes.append(_("grey picture: lightness only"))
    return converted


def _plain_rgb(image: Image.Image, notes: list[str]) -> Pixels:
    if image.mode in ("1", "L"):
        notes.append(_("grey picture: lightness only"))
    elif image.mode == "CMYK":
        notes.append(_("printing inks without a profile: colours are a rough guess"))
    elif image.mode in ("F", "I") or image.mode.startswith("I;16"):
        notes.append(_("grey picture: lightness only"))
        return _deep_grey(np.asarray(image))
    if image.mode != "RGB":
        image = image.convert("RGB")
    return _as_array(image)


def _deep_grey(values: Pixels) -> Pixels:
    """Grey of any number type as 16-bit pixels (h, w, 3); its white is 1, 255 or 65535, whichever holds its largest value."""
    largest = max(
        (float(np.nan_to_num(values[band], posinf=0).max()) for band in _bands(values)), default=0.0
    )
    top = 1.0 if largest <= 1 else 255.0 if largest <= 255 else 65535.0
    grey = np.empty((*values.shape, 3), np.uint16)
    for band in _bands(values):
        share = np.clip(np.nan_to_num(values[band].astype(np.float32), posinf=top) / top, 0, 1)
        grey[band] = (share * 65535).round()[..., None]
    return grey


def _upright(pixels: Pixels, orientation: object, notes: list[str]) -> Pixels:
    turns: dict[object, Callable[[Pixels], Pixels]] = {
        2: lambda p: p[:, ::-1],
        3: lambda p: p[::-1, ::-1],
        4: lambda p: p[::-1],
        5: lambda p: p.transpose(1, 0, 2),
        6: lambda p: p.transpose(1, 0, 2)[:, ::-1],
        7: lambda p: p.transpose(1, 0, 2)[::-1, ::-1],
        8: lambda p: p.transpose(1, 0, 2)[::-1],
    }
    if orientation not in turns:
        return pixels
    notes.append(_("turned upright as the camera noted"))
    return np.ascontiguousarray(turns[orientation](pixels))


def _lens(exif: Image.Exif) -> list[str]:
    """What the camera noted of its lens; a wide one is flagged, its bent lines are left as they are."""
    details = exif.get_ifd(_EXIF_IFD)
    found = []
    model = one_line(str(details.get(_LENS_TAG, "")))
    if model:
        found.append(f"lens: {model[:60]}")
    try:
        length = float(details.get(_FOCAL_35_TAG, 0))
    except (ArithmeticError, TypeError, ValueError):
        length = 0.0
    if bends_lines(length or None) and length > 0:
        found.append(
            _("wide lens ({0:.0f} mm): straight lines may bend; they are left as they are").format(length)
        )
    return found


def bends_lines(focal_length_35mm: float | None) -> bool:
    """Whether a lens is so wide that straight lines may bend: said, not corrected (practice)."""
    return focal_length_35mm is not None and focal_length_35mm < _WIDE_MM


def _taken(exif: Image.Exif) -> str | None:
    """The moment of exposure as an ISO date, where the camera gave a believable one."""
    text = str(exif.get_ifd(_EXIF_IFD).get(_TAKEN_TAG, ""))
    date = text[:10].replace(":", "-")
    parts = date.split("-")
    if (
        len(parts) == 3
        and all(part.isascii() and part.isdigit() for part in parts)
        and 1826 <= int(parts[0]) <= 2200
    ):
        return date if 1 <= int(parts[1]) <= 12 and 1 <= int(parts[2]) <= 31 else None
    return None


def shrunk(pixels: Pixels, longest_side: int) -> Image8:
    """A smaller 8-bit copy (h, w, 3) whose longer side is at most `longest_side` pixels."""
    height, width = pixels.shape[:2]
    scale = min(1.0, longest_side / max(height, width))
    small: Pixels = pixels
    if scale < 1:
        size = (max(1, round(width * scale)), max(1, round(height * scale)))
        small = cv2.resize(pixels, size, interpolation=cv2.INTER_AREA)
    if small.dtype == np.uint16:
        small = (small // 257).astype(np.uint8)
    return np.ascontiguousarray(small, dtype=np.uint8)
