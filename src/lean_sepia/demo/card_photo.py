"""Phone pictures of a painted swatch card, rendered from known paints: a stand-in for a printer, a brush and a phone."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray, Image8
from lean_sepia.colour.lights import light_power, xyz_from_reflectance
from lean_sepia.colour.spectrum import WAVELENGTHS_NM
from lean_sepia.colour.srgb import linear_from_xyz, srgb_from_linear
from lean_sepia.demo.camera import PHONE
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.kubelka_munk import opaque_reflectance, over_ground
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.saunderson import into_paint, through_surface
from lean_sepia.photo.swatch_card import PAGE_MM, Box, card_layout, mark_bits

_PX_PER_MM = 8.0
_NM = WAVELENGTHS_NM.astype(float)
PAPER = 0.86 + 0.03 * np.exp(-0.5 * ((_NM - 440) / 18) ** 2) - 0.02 * (_NM < 420)
TONER = np.full(31, 0.052)
"""Reflectance of bright office paper, and of a laser printer's black."""


@dataclass(frozen=True)
class Shot:
    """How the picture was taken: light, tilt, what the phone does, and how the card was painted.

    hand : 0 for even patches; 1 for ordinary brushwork: streaks of a thicker and thinner film, bare rims, a finger mark
    in every third field
    """

    light: str = "D65"
    tilt_deg: float = 12.0
    uneven: float = 0.2
    noise: float = 0.006
    blur_px: float = 1.0
    jpeg: int = 88
    grey_lightness: float | None = 62.0
    film_spread: float = 0.0
    hand: float = 0.0


def photograph_card(paints: Sequence[Paint], shot: Shot, seed: int, coats: float = 1.0) -> Image8:
    """A picture (h, w, 3), 8-bit sRGB, of a card whose fields are painted with these paints in order."""
    rng = np.random.default_rng([seed, 24])
    response = _page_responses(paints, shot, rng, coats)
    if shot.hand:
        _paint_by_hand(response, paints, shot, np.random.default_rng([seed, 25]), coats)
    width, height = 2300, 3100
    to_photo = _view(rng, shot.tilt_deg, width, height)
    picture = cv2.warpPerspective(
        response.astype(np.float32),
        to_photo,
        (width, height),
        flags=cv2.INTER_AREA,
        borderValue=(0.12, 0.11, 0.10),
    )
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    a, b = rng.uniform(-1, 1, 2)
    slope = (a * (x / width - 0.5) + b * (y / height - 0.5)) / max(0.3, abs(a) + abs(b))
    bowl = ((x / width - 0.5) ** 2 + (y / height - 0.5) ** 2) * rng.uniform(0.2, 1.0)
    picture *= (1 + shot.uneven * (2 * slope - bowl))[..., None]
    picture = cv2.GaussianBlur(picture, (0, 0), shot.blur_px)
    picture *= 0.72 / np.quantile(picture[::4, ::4, 1], 0.98)
    encoded = srgb_from_linear(np.maximum(picture, 0)) + shot.noise * rng.standard_normal(picture.shape)
    pixels = np.clip(encoded * 255, 0, 255).round().astype(np.uint8)
    _, data = cv2.imencode(".jpg", pixels[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, shot.jpeg])
    return np.ascontiguousarray(np.asarray(cv2.imdecode(data, cv2.IMREAD_COLOR))[..., ::-1], dtype=np.uint8)


def _page_responses(
    paints: Sequence[Paint], shot: Shot, rng: np.random.Generator, coats: float
) -> FloatArray:
    """The page as the phone's linear sRGB before the lens (h, w, 3)."""
    layout = card_layout(len(paints))
    develop = _Phone(shot.light)
    page = np.broadcast_to(
        develop(PAPER), (round(PAGE_MM[1] * _PX_PER_MM), round(PAGE_MM[0] * _PX_PER_MM), 3)
    ).copy()

    def fill(box: Box, R: FloatArray, streaks: float = 0.0) -> None:
        x0, y0, x1, y1 = (round(value * _PX_PER_MM) for value in box)
        factor = 1 + streaks * rng.standard_normal(3) * 0.15 + streaks * rng.standard_normal()
        page[y0:y1, x0:x1] = develop(R) * factor

    for number, (x0, y0, x1, _) in layout.marks:
        bits, step = mark_bits(number), (x1 - x0) / 6
        for row, column in zip(*np.nonzero(bits), strict=True):
            left, top = x0 + column * step, y0 + row * step
            fill((left, top, left + step, top + step), TONER)
    if shot.grey_lightness is not None:
        level = ((shot.grey_lightness + 16) / 116) ** 3
        fill(layout.grey_frame, np.full(31, level))
    streaks = 0.02 if shot.film_spread else 0.0
    for field, paint in zip(layout.fields, paints, strict=True):
        x0, _, x1, bottom = field.over_black
        fill((x0, field.bare_black[1], x1, bottom), TONER)
        X = film_thickness(coats) * (1 + shot.film_spread * rng.uniform(-1, 1))
        for box, ground in ((field.over_white, PAPER), (field.over_black, TONER)):
            R_i = over_ground(paint.K, paint.S, X, into_paint(ground))
            fill(box, through_surface(R_i, paint.g), streaks)
        fill(field.masstone, through_surface(opaque_reflectance(paint.K, paint.S), paint.g), streaks)
    return page


def _paint_by_hand(
    page: FloatArray, paints: Sequence[Paint], shot: Shot, rng: np.random.Generator, coats: float
) -> None:
    """Paint the patches again as a hand would."""
    develop = _Phone(shot.light)
    for field, paint in zip(card_layout(len(paints)).fields, paints, strict=True):
        marked = ("over_white", "over_black", "masstone")[rng.integers(3)] if field.field % 3 == 0 else ""
        for name, ground, X in (
            ("over_white", PAPER, coats), ("over_black", TONER, coats), ("masstone", PAPER, 8 * coats),
        ):  # fmt: skip
            x0, y0, x1, y1 = (round(value * _PX_PER_MM) for value in getattr(field, name))
            film = _brushed((y1 - y0, x1 - x0), shot.hand, rng)
            if name == marked:
                film *= _finger_mark(film.shape, rng)
            page[y0:y1, x0:x1] = _film_responses(paint, ground, film_thickness(X) * film, develop)


def _brushed(shape: tuple[int, int], hand: float, rng: np.random.Generator) -> FloatArray:
    """Film thickness (h, w) beside its mean of 1: streaks along the stroke, and a rim the brush did not reach."""
    noise = rng.standard_normal(shape).astype(np.float32)
    streaks = cv2.GaussianBlur(noise, (0, 0), sigmaX=2.5, sigmaY=60)
    film = 1 + hand * 0.15 * np.asarray(streaks) / float(np.std(streaks))
    rim = round(0.7 * hand * _PX_PER_MM)
    if rim:
        edge = np.zeros(shape, np.float32)
        edge[rim:-rim, rim:-rim] = 1
        film *= np.asarray(cv2.GaussianBlur(edge, (0, 0), rim / 2))
    return np.maximum(film, 0.0)


def _finger_mark(shape: tuple[int, int], rng: np.random.Generator) -> FloatArray:
    """Where a finger lifted the wet paint: ridges in an oval of about seven by ten millimetres, (h, w) in 0–1."""
    y, x = np.mgrid[0 : shape[0], 0 : shape[1]] / _PX_PER_MM
    centre = rng.uniform(0.2, 0.8, 2) * np.array(shape) / _PX_PER_MM
    away = np.hypot((x - centre[1]) / 3.5, (y - centre[0]) / 5.0)
    ridges = 0.5 + 0.5 * np.cos(2 * np.pi * away * 3.5 / 0.5)
    return np.asarray(1 - 0.7 * (away < 1) * ridges)


def _film_responses(paint: Paint, ground: FloatArray, X: FloatArray, develop: _Phone) -> FloatArray:
    """What the phone sees (h, w, 3) of a film of thickness X (h, w): computed at a few thicknesses and read between them."""
    levels = np.linspace(0, float(X.max()) + 1e-6, 24)
    R_i = over_ground(paint.K, paint.S, levels[:, None], into_paint(ground))
    seen = develop(through_surface(R_i, paint.g))
    return np.stack([np.interp(X, levels, seen[:, channel]) for channel in range(3)], axis=-1)


class _Phone:
    """A phone's sensor under a light, developed as daylight, nearly balanced on the paper."""

    def __init__(self, light: str) -> None:
        power = light_power(light, _NM)
        self._power = power / power.mean()
        day = light_power("D65", _NM)
        usual = np.stack([np.full(31, value) for value in (0.05, 0.2, 0.5, 0.9)] + [
            0.05 + 0.7 / (1 + np.exp(-(sign * (_NM - edge)) / 18)) for edge in (480, 530, 580, 620) for sign in (1, -1)
        ])  # fmt: skip
        responses = (usual * day) @ PHONE / (day @ PHONE)
        self._matrix = np.linalg.lstsq(responses, linear_from_xyz(xyz_from_reflectance(usual)), rcond=None)[0]
        self._balance = (self._power @ PHONE) ** 0.8 * (day @ PHONE / day.mean()) ** 0.2

    def __call__(self, R: FloatArray) -> FloatArray:
        return np.asarray(((R * self._power) @ PHONE / self._balance) @ self._matrix)


def _view(rng: np.random.Generator, tilt_deg: float, width: int, height: int) -> FloatArray:
    """Matrix (3, 3) from the page's pixels to the photo's: a pinhole camera, tilted and turned a little."""
    tilt, way, turn = np.radians(tilt_deg), rng.uniform(0, 2 * np.pi), np.radians(rng.uniform(-8, 8))
    axis = np.array([np.cos(way), np.sin(way), 0.0])
    rotation, _ = cv2.Rodrigues(axis * tilt)
    spin, _ = cv2.Rodrigues(np.array([0.0, 0.0, turn]))
    distance = 420.0
    page = np.array([[1 / _PX_PER_MM, 0, -PAGE_MM[0] / 2], [0, 1 / _PX_PER_MM, -PAGE_MM[1] / 2], [0, 0, 1.0]])
    turned = rotation @ spin
    flat = np.column_stack([turned[:, 0], turned[:, 1], [0, 0, distance]])
    corners = np.array(
        [[x, y, 1.0] for x in (0, PAGE_MM[0] * _PX_PER_MM) for y in (0, PAGE_MM[1] * _PX_PER_MM)]
    )
    seen = corners @ (flat @ page).T
    seen = seen[:, :2] / seen[:, 2:]
    low, high = seen.min(axis=0), seen.max(axis=0)
    scale = 0.94 * min(width / (high[0] - low[0]), height / (high[1] - low[1]))
    middle = (low + high) / 2
    lens = np.array(
        [[scale, 0, width / 2 - scale * middle[0]], [0, scale, height / 2 - scale * middle[1]], [0, 0, 1.0]]
    )
    return np.asarray(lens @ flat @ page)
