"""Only a closed list of formats is decoded, and what is too large is refused before a pixel is."""

import io
import struct
import zlib

import numpy as np
import pytest
import tifffile
from PIL import Image, features

from lean_sepia.errors import PictureError
from lean_sepia.photo import formats
from lean_sepia.photo.formats import PICTURE_FORMATS, frame_count, is_whole_png, open_picture
from lean_sepia.photo.read import decode_picture, quick_look

POSTSCRIPT = b"""%!PS-Adobe-3.0 EPSF-3.0
%%BoundingBox: 0 0 20 20
/f (/tmp/written-by-a-picture) (w) file def f (x) writestring f closefile
{ } loop
%%EOF
"""
NOISE = Image.fromarray(np.random.default_rng(2).integers(1, 255, (40, 50, 3), dtype=np.uint8))


def encoded(image, kind, **options):
    out = io.BytesIO()
    image.save(out, kind, **options)
    return out.getvalue()


def chunk(kind, body):
    return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))


def png(width, height, rows, depth=8, colour=2, laced=0):
    head = struct.pack(">IIBBBBB", width, height, depth, colour, 0, 0, laced)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", head)
        + chunk(b"IDAT", zlib.compress(rows))
        + chunk(b"IEND", b"")
    )


@pytest.mark.parametrize("name", ["a.jpg", "a.eps", "a.png"])
def test_a_picture_that_is_a_program_is_not_run(name, monkeypatch):
    monkeypatch.setattr("subprocess.Popen", lambda *_a, **_k: pytest.fail("a program was started"))
    with pytest.raises(PictureError, match="not a picture"):
        decode_picture(POSTSCRIPT, name)
    assert quick_look(POSTSCRIPT, 20) is None


@pytest.mark.parametrize("kind", ["PPM", "TGA", "ICO", "PCX", "SGI", "DDS", "PDF", "EPS", "XBM"])
def test_other_formats_are_not_tried(kind):
    given = NOISE.convert("1") if kind == "XBM" else NOISE
    with pytest.raises(PictureError, match="not a picture"):
        decode_picture(encoded(given, kind), "a.jpg")


@pytest.mark.parametrize("kind", [one.decoder for one in PICTURE_FORMATS if one.decoder])
def test_the_formats_of_the_list_are_read(kind):
    if kind == "WEBP" and not features.check("webp"):
        pytest.skip("without WebP")
    picture = decode_picture(encoded(NOISE, kind), "a")
    assert picture.pixels.shape == (40, 50, 3)


def test_a_gif_and_a_tiff_of_several_pages_give_the_first():
    pages = [NOISE, Image.fromarray(255 - np.asarray(NOISE))]
    data = encoded(pages[0], "TIFF", save_all=True, append_images=pages[1:])
    picture = decode_picture(data, "a.tif")
    assert np.array_equal(picture.pixels, np.asarray(NOISE))
    assert "first of 2 frames" in picture.notes


def test_a_damaged_second_page_does_not_matter():
    data = bytearray(encoded(NOISE, "TIFF", save_all=True, append_images=[NOISE]))
    tags = Image.open(io.BytesIO(bytes(data)))
    tags.seek(1)
    second = tags._frame_pos[1]
    data[second : second + 40] = b"\xff" * 40
    assert np.array_equal(decode_picture(bytes(data), "a.tif").pixels, np.asarray(NOISE))


def test_pages_are_counted_to_a_hundred_only():
    data = encoded(NOISE.resize((2, 2)), "TIFF", save_all=True, append_images=[NOISE.resize((2, 2))] * 130)
    assert frame_count(open_picture(data, "a.tif")) == 100


@pytest.mark.parametrize("laced", [0, 1])
def test_a_png_with_missing_rows_is_not_taken_for_whole(laced):
    size = 30
    whole = b"".join(b"\0" + bytes([200]) * 3 * size for _row in range(size))
    if not laced:
        assert is_whole_png(png(size, size, whole))
        assert decode_picture(png(size, size, whole), "a.png").pixels.min() == 200
    short = png(size, size, whole[: len(whole) // 2], laced=laced)
    assert not is_whole_png(short)
    with pytest.raises(PictureError, match=r"rows are missing|cut short"):
        decode_picture(short, "a.png")


def test_black_rows_that_are_there_are_read():
    rows = b"".join(b"\0" + bytes(3 * 20) for _row in range(20))
    assert decode_picture(png(20, 20, rows), "a.png").pixels.max() == 0


def test_a_deep_png_with_missing_rows_is_refused():
    rows = (b"\0" + b"\x80" * 6 * 20) * 10
    with pytest.raises(PictureError, match="damaged"):
        decode_picture(png(20, 20, rows, depth=16), "a.png")


@pytest.mark.parametrize(
    ("width", "height", "depth", "colour", "words"),
    [
        (1, 149_000_000, 8, 0, "no side may have more than"),
        (10_000, 9_000, 16, 6, "MB when it is decoded"),
        (20_000, 20_000, 8, 2, "megapixels"),
        (2**31 - 1, 2**31 - 1, 8, 2, "megapixels|damaged"),
    ],
)
def test_what_is_too_large_is_refused_before_decoding(width, height, depth, colour, words, monkeypatch):
    monkeypatch.setattr(Image.Image, "load", lambda _self: pytest.fail("it was decoded"))
    with pytest.raises(PictureError, match=words):
        decode_picture(png(width, height, b"", depth, colour), "a.png")


def test_floats_count_by_what_they_become(monkeypatch):
    monkeypatch.setattr(formats, "MOST_BYTES", 50 * 40 * 6 - 1)
    out = io.BytesIO()
    tifffile.imwrite(out, np.ones((40, 50), np.float32))
    with pytest.raises(PictureError, match="when it is decoded"):
        decode_picture(out.getvalue(), "a.tif")


def test_floats_with_holes_are_read():
    values = np.linspace(0, 1, 12, dtype=np.float32).reshape(3, 4)
    values[0, 0], values[0, 1] = np.nan, np.inf
    out = io.BytesIO()
    tifffile.imwrite(out, values)
    pixels = decode_picture(out.getvalue(), "a.tif").pixels
    assert pixels.dtype == np.uint16
    assert (pixels[0, 0, 0], pixels[0, 1, 0], pixels[2, 3, 0]) == (0, 65535, 65535)


def test_damaged_camera_notes_are_left_out_and_said():
    data = encoded(NOISE, "PNG", exif=b"Exif\0\0II*\0\x08\0\0\0\xff\xff" + b"\xff" * 40)
    picture = decode_picture(data, "a.png")
    assert picture.taken is None
    assert np.array_equal(picture.pixels, np.asarray(NOISE))


@pytest.mark.parametrize(
    "fault", [ZeroDivisionError("0"), IndexError("x"), RecursionError(), MemoryError(), struct.error("y")]
)
def test_whatever_a_decoder_raises_is_damage(fault, monkeypatch):
    def broken(_image):
        raise fault

    data = encoded(Image.fromarray(np.zeros((400, 400, 3), np.uint8)), "JPEG")
    monkeypatch.setattr(Image.Image, "convert", lambda _self, *_a, **_k: broken(_self))
    monkeypatch.setattr("lean_sepia.photo.read._as_array", broken)
    assert quick_look(data, 20) is None
    with pytest.raises(PictureError, match="damaged or cut short"):
        decode_picture(data, "a.jpg")
