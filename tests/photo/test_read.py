"""Pictures of any kind are converted with a note; broken ones are refused with one."""

import io
import struct
import zlib
from types import SimpleNamespace

import cv2
import numpy as np
import pytest
from PIL import Image, ImageCms

from lean_sepia.errors import PictureError
from lean_sepia.photo.read import decode_picture, read_picture, shrunk

RAMP = np.stack(np.meshgrid(np.arange(0, 240, 8), np.arange(0, 200, 8), [90], indexing="xy"), axis=-1)[
    :, :, 0
].astype(np.uint8)

NOISE = Image.fromarray(np.random.default_rng(1).integers(0, 255, (80, 90, 3), dtype=np.uint8))


def encoded(image: Image.Image, kind: str, **options) -> bytes:
    out = io.BytesIO()
    image.save(out, kind, **options)
    return out.getvalue()


def test_plain_rgb_is_left_alone():
    picture = decode_picture(encoded(Image.fromarray(RAMP), "PNG"), "a.png")
    assert np.array_equal(picture.pixels, RAMP)
    assert picture.notes == ()
    assert picture.media_type == "image/png"


@pytest.mark.parametrize(
    ("mode", "kind", "note"),
    [
        ("L", "PNG", "grey"),
        ("1", "PNG", "grey"),
        ("P", "PNG", "palette"),
        ("CMYK", "JPEG", "inks"),
        ("LA", "PNG", ""),
    ],
)
def test_other_modes_become_rgb_with_a_note(mode, kind, note):
    picture = decode_picture(
        encoded(Image.fromarray(RAMP).convert(mode), kind), f"a.{'jpg' if kind == 'JPEG' else 'png'}"
    )
    assert picture.pixels.shape == RAMP.shape
    assert picture.pixels.dtype == np.uint8
    assert not note or any(note in said for said in picture.notes)


def test_cmyk_keeps_light_light_and_dark_dark():
    picture = decode_picture(encoded(Image.fromarray(RAMP).convert("CMYK"), "JPEG", quality=95), "a.jpg")
    assert np.abs(picture.pixels.astype(int) - RAMP).mean() < 12


def test_alpha_is_laid_on_grey():
    rgba = np.dstack([RAMP, np.full(RAMP.shape[:2], 255, np.uint8)])
    rgba[:5, :, 3] = 0
    picture = decode_picture(encoded(Image.fromarray(rgba), "PNG"), "a.png")
    assert np.all(picture.pixels[:5] == 160)
    assert np.array_equal(picture.pixels[5:], RAMP[5:])
    assert any("transparent" in note for note in picture.notes)


@pytest.mark.parametrize("suffix", [".png", ".tif"])
@pytest.mark.parametrize("channels", [1, 3, 4])
def test_sixteen_bits_are_kept(suffix, channels):
    deep = (RAMP.astype(np.uint16) * 257 + 5)[:, :, [2, 1, 0]]
    if channels == 1:
        deep = deep[:, :, 1]
    elif channels == 4:
        deep = np.dstack([deep, np.full(deep.shape[:2], 65535, np.uint16)])
    done, data = cv2.imencode(suffix, deep)
    assert done
    picture = decode_picture(data.tobytes(), f"a{suffix}")
    assert picture.pixels.dtype == np.uint16
    expected = np.repeat(deep[:, :, None], 3, axis=2) if channels == 1 else deep[:, :, 2::-1]
    assert np.array_equal(picture.pixels, expected)
    assert any("16" in note for note in picture.notes)


def test_first_frame_of_an_animation():
    frames = [Image.new("RGB", (20, 10), colour) for colour in ("red", "blue")]
    picture = decode_picture(encoded(frames[0], "GIF", save_all=True, append_images=frames[1:]), "a.gif")
    assert tuple(picture.pixels[5, 5]) == (255, 0, 0)
    assert any("first of 2" in note for note in picture.notes)


def test_wrong_suffix_is_read_by_content():
    picture = decode_picture(encoded(Image.fromarray(RAMP), "PNG"), "a.jpg")
    assert np.array_equal(picture.pixels, RAMP)
    assert any(".jpg" in note for note in picture.notes)


@pytest.mark.parametrize(
    ("orientation", "turn"), [(3, lambda p: p[::-1, ::-1]), (6, lambda p: np.rot90(p, -1)), (8, np.rot90)]
)
def test_exif_orientation_and_date(orientation, turn):
    exif = Image.Exif()
    exif[0x0112] = orientation
    exif.get_ifd(0x8769)[0x9003] = "2026:11:20 18:40:00"
    picture = decode_picture(encoded(Image.fromarray(RAMP), "PNG", exif=exif), "a.png")
    assert np.array_equal(picture.pixels, turn(RAMP))
    assert picture.taken == "2026-11-20"


def test_absurd_dates_are_left_out():
    exif = Image.Exif()
    exif.get_ifd(0x8769)[0x9003] = "0000:00:00 00:00:00"
    assert decode_picture(encoded(Image.fromarray(RAMP), "PNG", exif=exif), "a.png").taken is None


def test_profiles_are_honoured_and_damaged_ones_noted():
    lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    same = decode_picture(encoded(Image.fromarray(RAMP), "PNG", icc_profile=lab), "a.png")
    assert np.abs(same.pixels.astype(int) - RAMP).max() <= 2
    broken = decode_picture(encoded(Image.fromarray(RAMP), "PNG", icc_profile=b"not a profile"), "a.png")
    assert np.array_equal(broken.pixels, RAMP)
    assert any("profile" in note for note in broken.notes)


def _huge_png() -> bytes:
    """A PNG head that promises 20 000 × 20 000 pixels in a few bytes."""

    def chunk(kind: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    head = struct.pack(">IIBBBBB", 20_000, 20_000, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", head)
        + chunk(b"IDAT", zlib.compress(bytes(1000)))
        + chunk(b"IEND", b"")
    )


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"just words, no picture at all", "not a picture"),
        (encoded(NOISE, "PNG")[:9000], "damaged or cut short"),
        (encoded(Image.fromarray(np.repeat(RAMP, 20, axis=0)), "JPEG")[:900], "damaged or cut short"),
        (_huge_png(), "megapixels"),
    ],
)
def test_unreadable_files_say_why(data, words):
    with pytest.raises(PictureError, match=words):
        decode_picture(data, "a.png")


def test_missing_file(tmp_path):
    with pytest.raises(PictureError, match="no file"):
        read_picture(tmp_path / "nothing.jpg")


@pytest.mark.parametrize("shape", [(1, 1, 3), (3, 30_000, 3)])
def test_odd_shapes(shape):
    pixels = np.full(shape, 128, np.uint8)
    picture = decode_picture(encoded(Image.fromarray(pixels), "PNG"), "a.png")
    assert picture.pixels.shape == shape
    small = shrunk(picture.pixels, 2000)
    assert max(small.shape) <= max(2000, 3)
    assert np.all(small == 128)


def test_raw_and_heic_without_their_libraries_say_what_to_do(monkeypatch):
    def missing(name):
        raise ImportError(name)

    monkeypatch.setattr("lean_sepia.photo.optional_formats.importlib.import_module", missing)
    for data, name, extra in (
        (b"II*\0" + bytes(64), "field.NEF", "raw"),
        (b"\0\0\0\x18ftypheic" + bytes(64), "phone.heic", "heic"),
        (b"\0\0\0\x18ftypmif1" + bytes(64), "renamed.jpg", "heic"),
    ):
        with pytest.raises(PictureError, match=f"extra “{extra}”"):
            decode_picture(data, name)


def test_raw_without_a_balance_is_developed_for_daylight(monkeypatch):
    """A stand-in for the optional library: what it is asked for, and that its pixels are kept at 16 bits."""
    asked = {}

    class Raw:
        sizes = SimpleNamespace(width=4, height=3)
        camera_whitebalance = (0.0, 0.0, 0.0, 0.0)
        daylight_whitebalance = (2.0, 1.0, 1.5, 0.0)

        def __enter__(self):
            return self

        def __exit__(self, *_):
            return False

        def postprocess(self, **options):
            asked.update(options)
            return np.full((4, 6, 3), 30_000, np.uint16)

    library = type("rawpy", (), {"imread": staticmethod(lambda _file: Raw()), "LibRawError": ValueError})
    monkeypatch.setattr("lean_sepia.photo.optional_formats.importlib.import_module", lambda _name: library)
    picture = decode_picture(b"II*\0" + bytes(64), "field.dng")
    assert picture.pixels.dtype == np.uint16
    assert (picture.width, picture.height) == (6, 4)
    assert asked["user_wb"] == [2.0, 1.0, 1.5, 0.0]
    assert asked["no_auto_bright"]


def test_a_wide_lens_is_flagged():
    exif = Image.Exif()
    details = exif.get_ifd(0x8769)
    details[0xA434], details[0xA405] = "Prime 24", 24
    file = io.BytesIO()
    Image.new("RGB", (20, 10), (90, 90, 90)).save(file, "JPEG", exif=exif)
    notes = " ".join(decode_picture(file.getvalue(), "quay.jpg").notes)
    assert "lens: Prime 24" in notes
    assert "straight lines may bend" in notes
