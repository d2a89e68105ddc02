"""What kind of picture a file looks like, and what is strange about it."""

import io

import numpy as np
import pytest
from PIL import Image

from lean_sepia.colour.srgb import srgb_from_linear
from lean_sepia.errors import SampleError
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.correction.kind_guess import looks_like_a_negative, small
from lean_sepia.photo.correction.light_map import light_map
from lean_sepia.photo.correction.usual_anchors import usual_anchor
from lean_sepia.photo.read import decode_picture


def scene(seed=1, size=(240, 320)):
    """Patches of many colours, some grain, and a black and a white one."""
    rng = np.random.default_rng(seed)
    patches = rng.uniform(0.05, 0.85, (6, 8, 3))
    patches[0, 0], patches[5, 7] = 0.02, 0.97
    pixels = np.kron(patches, np.ones((size[0] // 6, size[1] // 8, 1))) + rng.normal(0, 0.004, (*size, 3))
    return (255 * np.clip(pixels, 0, 1)).round().astype(np.uint8)


def guess(pixels, form="JPEG", exif=(), details=(), **more):
    tags = Image.Exif()
    for tag, value in exif:
        tags[tag] = value
    for tag, value in details:
        tags.get_ifd(0x8769)[tag] = value
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, form, exif=tags, **more)
    return decode_picture(out.getvalue(), f"a.{'jpg' if form == 'JPEG' else 'tif'}").guess


@pytest.mark.parametrize(
    ("kind", "more"),
    [
        ("camera", {"details": [(0x829A, 0.01), (0x920A, 50.0), (0xA405, 75)]}),
        ("phone", {"details": [(0x829A, 0.01), (0x920A, 4.2), (0xA405, 26)]}),
        ("slide", {"details": [(0xA300, b"\x01")]}),
        ("print", {"details": [(0xA300, b"\x02")]}),
        ("print", {"exif": [(0x0131, "Flatbed Scan 3")], "dpi": (600, 600)}),
        ("slide", {"exif": [(0x0131, "Scan tool")], "dpi": (3200, 3200)}),
        ("slide", {"form": "TIFF", "dpi": (4000, 4000)}),
        ("unknown", {}),
    ],
)
def test_what_the_file_says(kind, more):
    assert guess(scene(), **more).kind == kind


def test_what_the_histogram_says():
    dull = (40 + scene() * 0.7).astype(np.uint8)
    assert guess(dull).kind == "print"
    raw = scene() / 255.0
    raw = raw.mean(axis=2, keepdims=True) * np.array([0.55, 0.62, 0.58]) * 0.5 + 0.02
    green = (255 * raw * np.array([0.6, 1.0, 0.7])).astype(np.uint8)
    assert guess(green).kind == "undeveloped"


def test_damaged_numbers_in_the_tags_are_no_camera():
    assert guess(scene(), details=[(0x829A, 0.01), (0x920A, 0.0), (0xA405, 26)]).kind == "camera"


def test_a_negative_scanned_as_it_is_is_recognised():
    muted = 0.4 * scene() + 0.6 * scene().mean(axis=2, keepdims=True)
    linear = (muted / 255.0) ** 2.2
    density = 0.6 * (np.log10(np.maximum(linear, 0.01)) + 2)  # light makes it dense, over an orange base
    negative = srgb_from_linear(0.9 * 10 ** -(density + np.array([0.0, 0.35, 0.75])))
    pixels = (255 * np.clip(negative, 0, 1)).astype(np.uint8)
    assert looks_like_a_negative(small(pixels))
    assert not looks_like_a_negative(small(scene()))
    warm = (scene() * np.array([1.0, 0.8, 0.6])).astype(np.uint8)
    assert not looks_like_a_negative(small(warm))
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG")
    assert any("negative" in note for note in decode_picture(out.getvalue(), "a.png").notes)


def test_a_picture_of_one_colour_is_said():
    out = io.BytesIO()
    Image.fromarray(np.full((50, 60, 3), 90, np.uint8)).save(out, "PNG")
    assert any("one colour" in note for note in decode_picture(out.getvalue(), "a.png").notes)


def spot(row, column):
    return 40 * column + 20, 40 * row + 20, 12


def test_anchors_in_the_wrong_order_of_light_are_a_negative():
    pixels = 255 - scene()
    anchors = [Anchor(*spot(0, 0), 15), Anchor(*spot(5, 7), 97)]
    assert any("negative" in words for words in fit_cast(pixels, anchors).warnings)
    assert not any("negative" in words for words in fit_cast(scene(), anchors).warnings)


def test_a_grey_stated_far_too_dark_or_light_is_doubted():
    pixels = scene()
    pixels[80:120, 80:120] = 150
    for lightness, words in ((3, "far lighter"), (62, "")):
        said = " ".join(fit_cast(pixels, [Anchor(*spot(2, 2), lightness)]).warnings)
        assert words in said
        assert bool(words) == bool(said)
    pixels[80:120, 80:120] = 40
    assert "far darker" in " ".join(fit_cast(pixels, [Anchor(*spot(2, 2), 99)]).warnings)


def test_anchors_all_clipped_in_one_channel_are_said():
    pixels = scene()
    pixels[..., 2] = 0
    anchors = [Anchor(*spot(2, 2), 50), Anchor(*spot(3, 4), 60)]
    assert any("every anchor is clipped in blue" in words for words in fit_cast(pixels, anchors).warnings)


def test_the_darkest_and_the_brightest_place_are_found():
    pixels = scene()
    shadow, glint = usual_anchor(pixels, "shadow"), usual_anchor(pixels, "glint")
    assert (shadow.x // 40, shadow.y // 40) == (0, 0)
    assert (glint.x // 40, glint.y // 40) == (7, 5)
    assert shadow.guess
    assert glint.guess
    for flat, which in ((200, "shadow"), (60, "glint")):
        with pytest.raises(SampleError, match="not clipped"):
            usual_anchor(np.full((80, 90, 3), flat, np.uint8), which)


def test_guesses_narrow_a_little_and_are_not_counted():
    pixels = scene()
    pixels[80:120, 80:120] = (118, 119, 119)
    bare = fit_cast(pixels, [Anchor(*spot(2, 2), 50)])
    more = fit_cast(
        pixels, [Anchor(*spot(2, 2), 50), usual_anchor(pixels, "shadow"), usual_anchor(pixels, "glint")]
    )
    assert (bare.known, more.known) == (1, 1)
    assert more.anchor_error_de00 is None


def test_light_that_differs_is_mapped_only_where_greys_disagree():
    pixels = np.full((200, 300, 3), 120, np.uint8)
    pixels[:, 150:] = (150, 118, 80)
    greys = [Anchor(60, 100, 12, 50), Anchor(240, 100, 12, 50)]
    found = light_map(pixels, greys)
    off = found.over(30, 20)
    assert np.abs(off[:, :4]).max() < np.abs(off[:, -4:]).max()
    assert off[10, -1, 1] > 5  # the right is warm
    assert light_map(pixels, [greys[0], Anchor(80, 40, 12, 50)]) is None
    assert light_map(pixels, greys[:1]) is None
