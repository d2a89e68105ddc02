"""Hostile pictures: small ones of every format and mode, with bytes changed, cut, spliced and headers that lie."""

from __future__ import annotations

import io
import random
import struct

import numpy as np
from PIL import Image, ImageCms

from fuzzing.part import Part
from lean_sepia.errors import PictureError
from lean_sepia.photo.formats import MOST_BYTES
from lean_sepia.photo.read import decode_picture, quick_look

_MODES = {
    "JPEG": ("RGB", "L", "CMYK"), "PNG": ("RGB", "RGBA", "L", "LA", "P", "1", "I;16"), "TIFF": ("RGB", "L", "I;16", "F", "CMYK", "RGBA"),
    "WEBP": ("RGB", "RGBA"), "BMP": ("RGB", "L", "P"), "GIF": ("P", "L"),
}  # fmt: skip
_SIZES = (0, 1, 65535, 65536, 149_000_000, 2**31 - 1, 2**32 - 1)


def samples() -> list[bytes]:
    """Whole pictures of every format and mode that is read."""
    noise = np.random.default_rng(4).integers(0, 255, (36, 48, 3), dtype=np.uint8)
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    answer = []
    for kind, modes in _MODES.items():
        for mode in modes:
            image = Image.fromarray(noise)
            if mode == "I;16":
                image = Image.fromarray(noise[..., 0].astype(np.uint16) * 257)
            elif mode == "F":
                image = Image.fromarray(noise[..., 0].astype(np.float32) / 255)
            elif mode != "RGB":
                image = image.convert(mode)
            exif = Image.Exif()
            exif[0x0112] = 6
            more = (
                {"exif": exif, "icc_profile": profile}
                if kind in ("JPEG", "PNG", "TIFF", "WEBP") and mode == "RGB"
                else {}
            )
            answer.append(_saved(image, kind, **more))
    pages = [Image.fromarray(noise), Image.fromarray(noise[::-1].copy())]
    answer.append(_saved(pages[0], "TIFF", save_all=True, append_images=pages[1:]))
    answer.append(_saved(pages[0].convert("P"), "GIF", save_all=True, append_images=[pages[1].convert("P")]))
    return answer


def _saved(image: Image.Image, kind: str, **more: object) -> bytes:
    out = io.BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()


def mutated(rng: random.Random, data: bytes, others: list[bytes]) -> bytes:
    """A picture with a few bytes changed, cut, doubled, swapped with another's, or a size that lies."""
    changed = bytearray(data)
    for _change in range(rng.choice((1, 1, 2, 4, 12))):
        at = rng.randrange(max(1, len(changed)))
        kind = rng.randrange(8)
        if kind == 0:
            changed[at : at + 1] = bytes([rng.randrange(256)])
        elif kind == 1:
            at = rng.randrange(min(200, len(changed) or 1))  # headers matter more
            changed[at : at + 1] = bytes([rng.randrange(256)])
        elif kind == 2:
            del changed[at:]
        elif kind == 3:
            del changed[at : at + rng.randrange(1, 40)]
        elif kind == 4:
            changed[at:at] = rng.randbytes(rng.randrange(1, 40))
        elif kind == 5:
            other = rng.choice(others)
            start = rng.randrange(len(other))
            changed[at : at + 64] = other[start : start + rng.randrange(1, 400)]
        elif kind == 6:
            order = rng.choice((">I", "<I", ">H", "<H"))
            most = 2 ** (8 * struct.calcsize(order)) - 1
            changed[at : at + struct.calcsize(order)] = struct.pack(order, min(rng.choice(_SIZES), most))
        else:
            changed[at:at] = changed[at : at + rng.randrange(1, 80)]
    return bytes(changed)


def run(part: Part) -> None:
    """Decode changed pictures until the time is over. Each is written down first: a crash of a library leaves it behind."""
    whole = samples()
    part.folder.mkdir(parents=True, exist_ok=True)
    now = part.folder / f"pictures-{part.seed}-under-way.bin"

    def decode(data: bytes, name: str) -> None:
        quick_look(data, 20)
        picture = decode_picture(data, name)
        assert picture.pixels.ndim == 3, picture.pixels.shape
        assert picture.pixels.nbytes <= 2 * MOST_BYTES, picture.pixels.nbytes
        if not picture.pixels.size:
            raise PictureError("nothing in it")

    while part.going:
        data = mutated(part.rng, part.rng.choice(whole), whole)
        now.write_bytes(data)
        name = part.rng.choice(("a.jpg", "b.png", "c.tif", "d.bmp", "e", "f.gif"))
        part.look("picture", lambda data=data, name=name: decode(data, name), data)
    now.unlink(missing_ok=True)
