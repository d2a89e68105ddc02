"""The swatch card: where its fields lie, its marks, and how a photo of it is read.

The page has a mark in each corner (4 × 4 bits, found by OpenCV); their numbers say the card's version and how many
fields it has. Each field has one film over white and over black, a masstone patch, and bare strips of both grounds
beside them; a frame holds a grey card. All lengths are millimetres on the page, y down.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import ceil

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray, IntArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.srgb import linear_from_srgb, srgb_from_linear
from lean_sepia.errors import SampleError
from lean_sepia.language import N_, _
from lean_sepia.photo.correction.cast import Anchor, Cast
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.patch import Patch, encoded_unit, polygon_patch
from lean_sepia.photo.read import Pixels
from lean_sepia.photo.sample import SampledColour, sample_patch

VERSION, MOST_FIELDS, MOST_COLUMNS = 1, 24, 4
PAGE_MM = (210.0, 297.0)
PAPER_LIGHTNESS = 94.0
"""L* of printing paper where no grey card is in the frame (practice)."""

_MARK_MM, _EDGE_MM, _HEAD_MM, _FOOT_MM = 16.0, 10.0, 34.0, 66.0
_PX_PER_MM = 5.0
_INSET = 0.2  # of a patch: brush marks and masking edges lie at its rim
_CLIPPED, _UNEVEN, _BARE_DE00 = 0.05, 0.16, 2.5
_PATCH_WORDS = {
    "over_white": N_("the film over white"), "over_black": N_("the film over black"), "masstone": N_("the masstone"),
}  # fmt: skip

Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class FieldLayout:
    """One field: its number and rectangles x0, y0, x1, y1."""

    field: int
    over_white: Box
    over_black: Box
    masstone: Box
    bare_white: Box
    bare_black: Box


@dataclass(frozen=True)
class CardLayout:
    """A card: its fields, its four marks (number and rectangle), the grey card's frame."""

    fields: tuple[FieldLayout, ...]
    marks: tuple[tuple[int, Box], ...]
    grey_frame: Box


def card_layout(fields: int = 12) -> CardLayout:
    """The layout of a card with so many fields.

    Raises
    ------
    SampleError
        Not between 1 and 24 fields.
    """
    if not 1 <= fields <= MOST_FIELDS:
        raise SampleError(_("A swatch card has 1 to {0} fields; found {1}.").format(MOST_FIELDS, fields))
    width, height = PAGE_MM
    columns = min(MOST_COLUMNS if fields > 12 else 3, fields)
    rows = ceil(fields / columns)
    cell_w = (width - 2 * _EDGE_MM) / max(columns, 3)
    cell_h = min(50.0, (height - _HEAD_MM - _FOOT_MM) / rows)
    found = []
    for index in range(fields):
        x = _EDGE_MM + index % columns * cell_w + 2
        y = _HEAD_MM + index // columns * cell_h + 6
        w, bottom = (cell_w - 8) / 3, y + cell_h - 10
        bare = min(5.0, (bottom - y) / 4)
        found.append(
            FieldLayout(
                index + 1,
                over_white=(x, y + bare, x + w, bottom),
                over_black=(x + w, y + bare, x + 2 * w, bottom),
                masstone=(x + 2 * w + 4, y + bare, x + 3 * w + 4, bottom),
                bare_white=(x, y, x + w, y + bare),
                bare_black=(x + w, y, x + 2 * w, y + bare),
            )
        )
    first = 100 * (VERSION - 1) + 4 * (fields - 1)
    low, right, bottom = _EDGE_MM, width - _EDGE_MM - _MARK_MM, height - _EDGE_MM - _MARK_MM
    places = ((low, low), (right, low), (right, bottom), (low, bottom))
    marks = tuple((first + i, (x, y, x + _MARK_MM, y + _MARK_MM)) for i, (x, y) in enumerate(places))
    middle, top = width / 2, height - _FOOT_MM + 8
    return CardLayout(tuple(found), marks, (middle - 34, top, middle + 34, top + 44))


@cache
def _dictionary() -> cv2.aruco.Dictionary:
    return cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_250)


def mark_bits(number: int) -> IntArray:
    """The squares (6, 6) of a mark, 1 where it is black."""
    return np.asarray(cv2.aruco.generateImageMarker(_dictionary(), number, 6) == 0, dtype=np.int64)


@dataclass(frozen=True, eq=False)
class FieldReading:
    """What a photo shows of one field, each patch corrected, and the reason where it should not be trusted; `bare` where nothing was painted."""

    field: int
    over_white: SampledColour
    over_black: SampledColour
    masstone: SampledColour
    bare_white: SampledColour
    bare_black: SampledColour
    doubt: str = ""
    bare: bool = False


@dataclass(frozen=True, eq=False)
class CardReading:
    """A card as a photo shows it."""

    layout: CardLayout
    fields: tuple[FieldReading, ...]
    cast: Cast


def find_marks(pixels: Pixels) -> tuple[CardLayout, FloatArray]:
    """The card's layout, and the matrix (3, 3) from millimetres on its page to pixels of the photo.

    Raises
    ------
    SampleError
        Fewer than four marks of one card are seen.
    """
    grey = cv2.cvtColor(
        np.ascontiguousarray((encoded_unit(pixels) * 255).astype(np.uint8)), cv2.COLOR_RGB2GRAY
    )
    parameters = cv2.aruco.DetectorParameters()
    parameters.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_SUBPIX
    corners, numbers, _unused = cv2.aruco.ArucoDetector(_dictionary(), parameters).detectMarkers(grey)
    seen = (
        {}
        if numbers is None
        else {int(n): c.reshape(4, 2) for n, c in zip(numbers.ravel(), corners, strict=True)}
    )
    groups: dict[int, list[int]] = {}
    for number in seen:
        groups.setdefault(number // 4, []).append(number)
    group, best = max(groups.items(), key=lambda item: len(item[1]), default=(0, []))
    if len(best) < 4:
        raise SampleError(
            _(
                "{0} of the card's four corner marks are seen. Have the whole page in the picture, sharp, without glare on the marks."
            ).format(len(best))
        )
    if group // 25 != VERSION - 1:
        raise SampleError(_("This card is of another version of the program. Print a new one."))
    layout = card_layout(group % 25 + 1)
    page, photo = [], []
    for number, (x0, y0, x1, y1) in layout.marks:
        page += [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]
        photo += seen[number].tolist()
    matrix = cv2.findHomography(np.array(page), np.array(photo))[0]
    return layout, np.asarray(matrix, dtype=float)


def read_card(pixels: Pixels, grey_lightness: float | None = None) -> CardReading:
    """Read a photo of a painted card: marks, page, uneven light and cast, then every patch.

    grey_lightness : L* of the grey card in the frame; without one the paper's white serves as a neutral

    Raises
    ------
    SampleError
        The marks are not found.
    """
    layout, to_photo = find_marks(pixels)
    page = _even(_flat_page(pixels, to_photo), layout)
    cast = fit_cast(page, [_anchor(layout, grey_lightness)], "developed")
    return CardReading(layout, tuple(_field(page, field, cast) for field in layout.fields), cast)


def _flat_page(pixels: Pixels, to_photo: FloatArray) -> FloatArray:
    """The page as linear sRGB (h, w, 3), straight, at five pixels a millimetre."""
    size = (round(PAGE_MM[0] * _PX_PER_MM), round(PAGE_MM[1] * _PX_PER_MM))
    to_page = np.diag([_PX_PER_MM, _PX_PER_MM, 1.0]) @ np.linalg.inv(to_photo)
    linear = linear_from_srgb(encoded_unit(pixels)).astype(np.float32)
    reduction = np.sqrt(abs(np.linalg.det(to_page[:2, :2])))
    if reduction < 0.8:  # many pixels of the photo to one of the page: average before they are picked
        linear = np.asarray(cv2.GaussianBlur(linear, (0, 0), 0.5 / float(reduction)), dtype=np.float32)
    return np.asarray(
        cv2.warpPerspective(linear, to_page, size, flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    )


def _even(page: FloatArray, layout: CardLayout) -> Pixels:
    """The page in even light, 16-bit sRGB: what the bare paper shows is smoothed over the page and divided out."""
    height, width = page.shape[:2]
    spots = [field.bare_white for field in layout.fields] + _margins()
    places, seen = [], []
    for box in spots:
        x0, y0, x1, y1 = _pixels_of(box)
        part = page[y0:y1, x0:x1].reshape(-1, 3)
        if len(part):
            places.append(((x0 + x1) / 2 / width * 2 - 1, (y0 + y1) / 2 / height * 2 - 1))
            seen.append(np.median(part, axis=0))
    xy, light = np.array(places), np.log(np.maximum(seen, 1e-4))
    weight = np.ones(len(xy))
    for _unused in range(4):  # a spot with paint, a finger or a shadow on it counts less
        A = _surface(xy[:, 0], xy[:, 1])
        fitted = np.linalg.lstsq(A * weight[:, None], light * weight[:, None], rcond=None)[0]
        miss = np.abs(light - A @ fitted).max(axis=1)
        weight = 1 / np.maximum(1, miss / 0.03)
    x = (np.arange(width, dtype=np.float32) / width * 2 - 1)[None, :, None]
    y = (np.arange(height, dtype=np.float32) / height * 2 - 1)[:, None, None]
    c, by_x, by_y, by_xx, by_xy, by_yy = fitted.astype(np.float32)
    # As `_surface` @ fitted, without its rows for every pixel.
    field = np.exp((c + by_x * x + by_xx * x * x) + (by_y * y + by_yy * y * y) + by_xy * (x * y))
    centre = np.exp(_surface(np.zeros(1), np.zeros(1)) @ fitted)[0].astype(np.float32)
    even = np.clip(page / field * np.minimum(centre, np.float32(0.92)), 0, 1)
    return (np.clip(srgb_from_linear(even), 0, 1) * 65535).round().astype(np.uint16)


def _surface(x: FloatArray, y: FloatArray) -> FloatArray:
    return np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1)


def _margins() -> list[Box]:
    """Bare paper between the marks, along the edges of the page."""
    width, height = PAGE_MM
    across = [(x, 14.0, x + 10, 22.0) for x in (40.0, 75.0, 125.0, 160.0)]
    below = [(x, height - 22, x + 10, height - 14) for x in (40.0, 60.0, 140.0, 160.0)]
    beside = [(x, y, x + 5, y + 10) for x in (3.5, width - 8.5) for y in (60.0, 110.0, 160.0, 210.0)]
    return [*across, *below, *beside]


def _pixels_of(box: Box, inset: float = _INSET) -> tuple[int, int, int, int]:
    x0, y0, x1, y1 = box
    dx, dy = inset * (x1 - x0), inset * (y1 - y0)
    left, top, right, bottom = (round(value * _PX_PER_MM) for value in (x0 + dx, y0 + dy, x1 - dx, y1 - dy))
    return left, top, max(left + 1, right), max(top + 1, bottom)


def _anchor(layout: CardLayout, grey_lightness: float | None) -> Anchor:
    """The grey card in its frame, or the paper beside the middle of the page."""
    if grey_lightness is not None:
        x0, y0, x1, y1 = layout.grey_frame
        radius = 0.3 * min(x1 - x0, y1 - y0)
        return Anchor(
            (x0 + x1) / 2 * _PX_PER_MM, (y0 + y1) / 2 * _PX_PER_MM, radius * _PX_PER_MM, grey_lightness
        )
    x0, y0, x1, y1 = layout.fields[len(layout.fields) // 2].bare_white
    radius = 0.3 * min(x1 - x0, y1 - y0)
    return Anchor(
        (x0 + x1) / 2 * _PX_PER_MM, (y0 + y1) / 2 * _PX_PER_MM, radius * _PX_PER_MM, PAPER_LIGHTNESS
    )


def _field(page: Pixels, layout: FieldLayout, cast: Cast) -> FieldReading:
    patches = {
        name: _patch(page, getattr(layout, name))
        for name in ("over_white", "over_black", "masstone", "bare_white", "bare_black")
    }
    found = {name: sample_patch(patch, cast) for name, patch in patches.items()}
    bare = _nothing_painted(found)
    doubt = _("nothing seems to be painted here") if bare else _doubt(patches, found)
    return FieldReading(layout.field, **found, doubt=doubt, bare=bare)


def _patch(page: Pixels, box: Box) -> Patch:
    x0, y0, x1, y1 = _pixels_of(box)
    return polygon_patch(page, [(x0, y0), (x1 - 1, y0), (x1 - 1, y1 - 1), (x0, y1 - 1)])


def _nothing_painted(found: dict[str, SampledColour]) -> bool:
    """Whether a field looks like the bare card."""
    pairs = (("masstone", "bare_white"), ("over_black", "bare_black"))
    return all(float(delta_e00(found[one].lab, found[other].lab)) < _BARE_DE00 for one, other in pairs)


def _doubt(patches: dict[str, Patch], found: dict[str, SampledColour]) -> str:
    """Why a painted field should not be trusted; empty where nothing speaks against it."""
    for name, words in _PATCH_WORDS.items():
        if patches[name].clipped_share > _CLIPPED:
            return _("{0} is too bright or too dark in the photo").format(_(words))
        if float(np.mean(patches[name].spread / np.maximum(patches[name].mean, 0.03))) > _UNEVEN:
            return _("{0} is uneven, or has glare or a shadow on it").format(_(words))
    if found["over_black"].lab[0] > found["over_white"].lab[0] + 2:
        return _("the film is lighter over black than over white")
    return ""
