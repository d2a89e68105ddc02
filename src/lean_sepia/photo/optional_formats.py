"""Camera raw and HEIC, read where their optional libraries are installed; otherwise one message says what to do."""

from __future__ import annotations

import importlib
import io
from pathlib import Path
from typing import Any

import numpy as np

from lean_sepia.errors import PictureError
from lean_sepia.language import _

RAW_SUFFIXES = (
    ".arw",
    ".cr2",
    ".cr3",
    ".dng",
    ".nef",
    ".nrw",
    ".orf",
    ".pef",
    ".raf",
    ".raw",
    ".rw2",
    ".srw",
)
HEIC_SUFFIXES = (".heic", ".heif", ".avif")
_MOST_RAW_PIXELS = 100_000_000
_SRGB_CURVE = (2.4, 12.92)  # power, and slope near black
_HEIC_BRANDS = frozenset({b"heic", b"heix", b"hevc", b"heim", b"heis", b"mif1", b"msf1", b"avif"})


def is_raw(name: str) -> bool:
    """Whether a file's suffix is that of a camera raw file: by its first bytes it passes for a TIFF."""
    return Path(name).suffix.lower() in RAW_SUFFIXES


def is_heic(data: bytes) -> bool:
    """Whether the first bytes are those of a HEIC or AVIF picture."""
    return data[4:8] == b"ftyp" and data[8:12] in _HEIC_BRANDS


def _library(module: str, kind: str, name: str, extra: str) -> Any:
    try:
        return importlib.import_module(module)
    except ImportError:
        raise PictureError(
            _(
                "{0} is a {1} picture, and the library for it is not installed. Install the extra “{2}”, or export the picture as TIFF or JPEG."
            ).format(name, kind, extra)
        ) from None


def develop_raw(data: bytes, name: str) -> np.ndarray[Any, Any]:
    """Camera raw as 16-bit sRGB (h, w, 3), developed with the balance and the matrix of the file and without automatic brightening.

    Where the file names no balance it is the camera's for daylight. The curve is that of sRGB (IEC 61966-2-1), as the program reads it.

    Raises
    ------
    PictureError
        The optional library is missing, or it cannot read the file.
    """
    rawpy = _library("rawpy", "camera raw", name, "raw")
    try:
        with rawpy.imread(io.BytesIO(data)) as raw:
            if raw.sizes.width * raw.sizes.height > _MOST_RAW_PIXELS:
                raise ValueError(_("more than {0} megapixels").format(_MOST_RAW_PIXELS // 1_000_000))
            shot = list(raw.camera_whitebalance)
            balance = shot if min(shot[:3]) > 0 else list(raw.daylight_whitebalance)
            return np.asarray(
                raw.postprocess(
                    use_camera_wb=False,
                    user_wb=balance,
                    no_auto_bright=True,
                    output_bps=16,
                    gamma=_SRGB_CURVE,
                )
            )
    except rawpy.LibRawError as error:
        raise PictureError(
            _("{0} is damaged or of a camera that is not known ({1}).").format(name, error)
        ) from None


def open_heic(name: str) -> None:
    """Teach the picture library to read HEIC.

    Raises
    ------
    PictureError
        The optional library is missing.
    """
    _library("pillow_heif", "HEIC", name, "heic").register_heif_opener()
