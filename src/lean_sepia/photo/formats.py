"""The closed list of picture formats, and what is refused before a pixel is decoded."""

from __future__ import annotations

import io
import logging
import struct
import warnings
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

import cv2
from PIL import Image, UnidentifiedImageError

from lean_sepia.errors import PictureError
from lean_sepia.language import _
from lean_sepia.photo.optional_formats import HEIC_SUFFIXES, RAW_SUFFIXES, is_heic, open_heic


@dataclass(frozen=True)
class PictureFormat:
    """A format of pictures: what it is called, how its files end, and what the decoder calls it; None where another library decodes it."""

    label: str
    endings: tuple[str, ...]
    decoder: str | None


PICTURE_FORMATS: tuple[PictureFormat, ...] = (
    PictureFormat("JPEG", (".jpg", ".jpeg", ".jpe", ".jfif", ".mpo"), "JPEG"),
    PictureFormat("PNG", (".png",), "PNG"),
    PictureFormat("TIFF", (".tif", ".tiff"), "TIFF"),
    PictureFormat("WebP", (".webp",), "WEBP"),
    PictureFormat("BMP", (".bmp",), "BMP"),
    PictureFormat("GIF", (".gif",), "GIF"),
    PictureFormat("HEIC", HEIC_SUFFIXES, None),
    PictureFormat("camera raw", RAW_SUFFIXES, None),
)
"""The closed list: nothing else is even tried, so that no file can start another program's reader."""
PICTURE_ENDINGS = tuple(ending for one in PICTURE_FORMATS for ending in one.endings)
_DECODED = [one for one in PICTURE_FORMATS if one.decoder]
MOST_PIXELS, MOST_BYTES, LONGEST_SIDE = 150_000_000, 640_000_000, 65_535
DAMAGE = (
    ArithmeticError, AssertionError, AttributeError, EOFError, LookupError, MemoryError, NotImplementedError, OSError,
    RecursionError, SyntaxError, TypeError, ValueError, cv2.error, struct.error, zlib.error,
)  # fmt: skip
"""What decoders raise when a file is not what it says."""
# What the libraries find wrong with a file they print as well; here it is said once, in words.
logging.getLogger("PIL").addHandler(logging.NullHandler())
cv2.utils.logging.setLogLevel(cv2.utils.logging.LOG_LEVEL_SILENT)
_PIXEL_BYTES = {
    "1": 3,
    "L": 3,
    "P": 4,
    "LA": 4,
    "PA": 4,
    "I": 6,
    "F": 6,
    "I;16": 6,
    "I;16B": 6,
    "I;16L": 6,
    "I;16N": 6,
}
_PNG_CHANNELS = {0: 1, 2: 3, 3: 1, 4: 2, 6: 4}
_PASSES = ((0, 8, 0, 8), (0, 8, 4, 8), (4, 8, 0, 4), (0, 4, 2, 4), (2, 4, 0, 2), (0, 2, 1, 2), (1, 2, 0, 1))
"""First row, every which row, first column, every which column of each pass of an interlaced PNG (ISO/IEC 15948)."""
_PIECE, _MOST_FRAMES = 1 << 20, 100


def endings_of(decoder: str) -> frozenset[str]:
    """How files end that a decoder, which names itself so, has read; several views in one JPEG are a JPEG."""
    wanted = "JPEG" if decoder == "MPO" else decoder
    named = {one.decoder: one.endings for one in PICTURE_FORMATS}
    return frozenset(
        named.get(wanted, (HEIC_SUFFIXES if wanted in ("HEIF", "AVIF") else (f".{wanted.lower()}",)))
    )


def open_picture(data: bytes, name: str) -> Image.Image:
    """A picture before its pixels are decoded, by its first bytes and never by its name.

    Raises
    ------
    PictureError
        It is of no format of the list, damaged, or too large to decode.
    """
    formats = tuple(str(one.decoder) for one in _DECODED)
    if is_heic(data):
        open_heic(name)
        formats = ("HEIF", "AVIF")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # Pillow's own advice; what matters to the user becomes a note
            image = Image.open(io.BytesIO(data), formats=formats)
            depth = bit_depth(image, data)
    except Image.DecompressionBombError:
        raise PictureError(_too_large(name, None)) from None
    except UnidentifiedImageError:
        raise PictureError(
            _(
                "{0} is not a picture this program can read. {1} and {2} are; export it as one of these."
            ).format(name, ", ".join(one.label for one in _DECODED[:-1]), _DECODED[-1].label)
        ) from None
    except DAMAGE as error:
        raise PictureError(_("{0} is damaged and cannot be opened ({1}).").format(name, error)) from None
    _check_size(image, depth, name)
    return image


def _check_size(image: Image.Image, depth: int, name: str) -> None:
    width, height = image.size
    pixel = _PIXEL_BYTES.get(image.mode, len(image.getbands()) * max(1, depth // 8))
    if width * height > MOST_PIXELS or width * height * pixel > MOST_BYTES:
        raise PictureError(_too_large(name, image.size, width * height * pixel))
    if max(width, height) > LONGEST_SIDE or min(width, height) < 1:
        words = _("{0} is {1} × {2} pixels; no side may have more than {3}. Cut it to what is needed.")
        raise PictureError(words.format(name, width, height, LONGEST_SIDE))


def _too_large(name: str, size: tuple[int, int] | None, count: int = 0) -> str:
    found = f"{size[0]} × {size[1]} = {size[0] * size[1] / 1e6:.0f}" if size else _("several hundred")
    if size and size[0] * size[1] <= MOST_PIXELS:
        words = _(
            "{0} takes {1} MB when it is decoded; at most {2} are read. Save it with 8 bits or smaller."
        )
        return words.format(name, count // 1_000_000, MOST_BYTES // 1_000_000)
    return _("{0} has {1} megapixels; at most {2} are read. Save a smaller copy.").format(
        name, found, MOST_PIXELS // 1_000_000
    )


def bit_depth(image: Image.Image, data: bytes) -> int:
    """Bits of one channel, as the file says."""
    if image.format == "PNG" and len(data) > 24:
        return data[24]
    if image.format == "TIFF":
        bits = image.tag_v2.get(258, (8,))  # type: ignore[attr-defined]
        return int(max(bits) if isinstance(bits, tuple) else bits)
    return 32 if image.mode in ("F", "I") else 8


@contextmanager
def decoding(name: str) -> Iterator[None]:
    """Whatever a decoder raises is said as damage of the file.

    Raises
    ------
    PictureError
        The file is damaged or cut short.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            yield
    except DAMAGE as error:
        words = _("{0} is damaged or cut short ({1}). Copy it again from its source.")
        raise PictureError(words.format(name, error or type(error).__name__)) from None


def frame_count(image: Image.Image) -> int:
    """Number of pages or frames, counted up to a hundred and up to the first damaged one; the first is left in place."""
    if image.format != "TIFF":
        return int(getattr(image, "n_frames", 1))
    count = 1
    try:
        while count < _MOST_FRAMES:
            image.seek(count)
            count += 1
    except DAMAGE:
        pass
    image.seek(0)
    return count


def is_whole_png(data: bytes) -> bool:
    """Whether a PNG's compressed data holds every row: decoders take a shorter one and leave the rest black."""
    width, height, depth, kind, _method, _filter, laced = struct.unpack(">IIBBBBB", data[16:29])
    passes = _PASSES if laced else ((0, 1, 0, 1),)
    wanted = 0
    for top, down, left, right in passes:
        rows, columns = -(-(height - top) // down), -(-(width - left) // right)
        if rows > 0 and columns > 0:
            wanted += rows * (1 + -(-columns * depth * _PNG_CHANNELS.get(kind, 1) // 8))
    unpacked, found = zlib.decompressobj(), 0
    for piece in _png_data(data):
        rest = piece
        while rest and found < wanted and not unpacked.eof:
            found += len(unpacked.decompress(rest, _PIECE))
            rest = unpacked.unconsumed_tail
    while found < wanted and not unpacked.eof:
        more = len(unpacked.decompress(unpacked.unconsumed_tail, _PIECE))
        if not more:
            break
        found += more
    return found >= wanted


def _png_data(data: bytes) -> Iterator[bytes]:
    place = 8
    while place + 8 <= len(data):
        length, kind = struct.unpack(">I4s", data[place : place + 8])
        if kind == b"IDAT":
            yield data[place + 8 : place + 8 + length]
        place += 12 + length
