"""Worn panels drawn for judging, from signed distances and plane waves; nothing was tuned on them.

A panel is a ground, light or dark or of two tones, under uneven light and dust that act in linear light, with marks of one to three
named kinds and sometimes one unnamed, then blurred, grained and stored as JPEG. What each kind covers is known exactly.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, Image8
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.colour.srgb import linear_from_xyz, srgb_from_linear

HEIGHT, WIDTH = 420, 600
ROUND, LOBED, STREAK, STAIN, EATEN = "round", "lobed", "streak", "stain", "eaten"
_PLAIN = 0.97
Disc = tuple[float, float, float]


@dataclass(frozen=True, eq=False)
class Kind:
    """One kind of mark: its form, what share of each pixel it covers, and which way its streaks run, in degrees."""

    form: str
    alpha: FloatArray
    towards: float | None


@dataclass(frozen=True, eq=False)
class Panel:
    """A picture, the kinds that are pointed at by name, and where; "" is the ground.

    clear : whether all colours differ by at least 20 ΔE00 under a veil of at most 30 %
    """

    pixels: Image8
    kinds: dict[str, Kind]
    spots: dict[str, Disc]
    clear: bool


def draw_panel(seed: int, *, clear: bool = True, simple: bool = False) -> Panel:
    """A panel whose kinds can all be pointed at; a simple one has a ground of one tone, two kinds and nothing unnamed."""
    rng = np.random.default_rng([0x5E91A, seed, int(clear)])
    while True:
        panel = _drawn(rng, clear, simple)
        if panel is not None:
            return panel


def _drawn(rng: np.random.Generator, clear: bool, simple: bool) -> Panel | None:
    named, unnamed = int(rng.integers(1, 4)), int(rng.random() < 0.3)
    if simple:
        named, unnamed = 2, 0
    colours = _colours(rng, named + unnamed, clear)
    if colours is None:
        return None
    grounds, kinds, dust, veil = colours
    if simple and len(grounds) > 1:
        return None
    first = np.ones((HEIGHT, WIDTH)) if len(grounds) == 1 else _two_tones(rng)
    alphas: list[FloatArray] = []
    forms: list[tuple[str, float | None]] = []
    for number in range(named + unnamed):
        form = str(rng.choice([ROUND, LOBED, STREAK, STAIN]))
        share = float(np.exp(rng.uniform(np.log(0.003), np.log(0.12))))
        if number == 0 and not simple and rng.random() < 0.25:
            form, share = EATEN, float(rng.uniform(0.2, 0.8))
        alpha, towards = _marks(rng, form, share)
        alphas = [one * (1 - alpha) for one in alphas] + [alpha]
        forms.append((form, towards))
    if min(float(alpha.mean()) for alpha in alphas) < 0.003:
        return None
    covered = sum(alphas)
    spots = {"": _plain_spot(rng, (1 - covered) * first)}
    spots |= {f"kind {number + 1}": _plain_spot(rng, alphas[number]) for number in range(named)}
    if any(spot is None for spot in spots.values()):
        return None
    paint = _mixed(grounds[0], grounds[-1], first) * _texture(rng)[..., None]
    paint = paint * (1 - covered)[..., None] + sum(
        a[..., None] * xyz_from_lab(k) for a, k in zip(alphas, kinds, strict=True)
    )
    pixels = _photographed(rng, _lit(rng, paint, dust, veil))
    found = {f"kind {n + 1}": Kind(forms[n][0], alphas[n], forms[n][1]) for n in range(named)}
    return Panel(pixels, found, {name: spot for name, spot in spots.items() if spot is not None}, clear)


def _colours(
    rng: np.random.Generator, count: int, clear: bool
) -> tuple[list[FloatArray], list[FloatArray], FloatArray, float] | None:
    """Grounds, kinds, dust and the greatest veil; None where they are too much or too little alike."""
    usual = [
        (36, 20, 24),
        (71, 3, 10),
        (41, 27, 17),
        (63, 9, 25),
        (17, 1, 2),
        (43, -13, 22),
        (58, 20, 38),
        (88, 0, 4),
    ]
    low, high = ((58, 90), (16, 40), (38, 62))[int(rng.integers(3))]
    angle, chroma = rng.uniform(0, 2 * np.pi), rng.uniform(0, 34)
    grounds = [np.array([rng.uniform(low, high), chroma * np.cos(angle), chroma * np.sin(angle)])]
    if rng.random() < 0.2:
        grounds.append(grounds[0] + rng.normal(0, [12, 9, 9]))
        if not delta_e00(grounds[0], grounds[1]) > 8 or not 8 < grounds[1][0] < 94:
            return None
    kinds = [np.array(usual[int(n)]) + rng.normal(0, 4, 3) for n in rng.integers(0, len(usual), count)]
    dust, veil = (
        np.array([61.0, 4.0, 14.0]) + rng.normal(0, [5, 2, 3]),
        rng.uniform(0, 0.3 if clear else 0.45),
    )
    veiled = [lab_from_xyz(0.7 * xyz_from_lab(g) + 0.3 * xyz_from_lab(dust)) for g in grounds]
    least = min(
        float(delta_e00(kind, other))
        for number, kind in enumerate(kinds)
        for other in [*grounds, *veiled, *kinds[:number]]
    )
    return (grounds, kinds, dust, veil) if (least >= 20) == clear and least > 8 else None


def _mixed(one: FloatArray, other: FloatArray, share: FloatArray) -> FloatArray:
    return share[..., None] * xyz_from_lab(one) + (1 - share[..., None]) * xyz_from_lab(other)


def _waves(rng: np.random.Generator, size: float, count: int = 60) -> FloatArray:
    """A random field of mean 0 and deviation 1 from plane waves of about a size."""
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    field = np.zeros((HEIGHT, WIDTH))
    for _wave in range(count):
        turn, number = rng.uniform(0, np.pi), np.exp(rng.normal(0, 0.3)) * 2 * np.pi / size
        field += np.cos(number * (np.cos(turn) * x + np.sin(turn) * y) + rng.uniform(0, 2 * np.pi))
    return np.asarray((field - field.mean()) / field.std())


def _two_tones(rng: np.random.Generator) -> FloatArray:
    if rng.random() < 0.5:
        return np.clip((_waves(rng, 260, 25) + 0.2) * 40 + 0.5, 0, 1)
    x = np.arange(WIDTH)[None, :] + rng.uniform(-0.3, 0.3) * np.arange(HEIGHT)[:, None]
    return np.clip(rng.uniform(0.4, 0.75) * WIDTH - x + 0.5, 0, 1)


def _texture(rng: np.random.Generator) -> FloatArray:
    return np.asarray(1 + rng.uniform(0, 0.035) * _waves(rng, rng.uniform(5, 14), 40))


def _marks(rng: np.random.Generator, form: str, share: float) -> tuple[FloatArray, float | None]:
    """What marks of a form cover of each pixel, and which way they run."""
    if form == EATEN:
        field = _waves(rng, rng.uniform(22, 48))
        edge = np.quantile(field, share)
        steep = np.hypot(*np.gradient(field)).mean()
        return np.clip((edge - field) / steep + 0.5, 0, 1), None
    alpha = np.zeros((HEIGHT, WIDTH))
    size, towards = float(np.exp(rng.uniform(np.log(3.2), np.log(10)))), float(rng.uniform(-35, 35))
    fades = rng.random() < 0.5
    count = 0
    while alpha.mean() < share or (form == STREAK and count < 12):
        count += 1
        if form == STREAK:
            _streak(rng, alpha, towards, fades)
        else:
            _spot(rng, alpha, size * float(np.exp(rng.normal(0, 0.3))), form)
    return alpha, towards if form == STREAK else None


def _window(x: float, y: float, reach: float) -> tuple[slice, slice, FloatArray, FloatArray]:
    rows = slice(max(0, int(y - reach)), min(HEIGHT, int(y + reach) + 2))
    columns = slice(max(0, int(x - reach)), min(WIDTH, int(x + reach) + 2))
    down, across = np.mgrid[rows, columns]
    return rows, columns, across - x, down - y


def _spot(rng: np.random.Generator, alpha: FloatArray, r: float, form: str) -> None:
    """A mark with an edge, by its distance from it; or a soft one."""
    rows, columns, dx, dy = _window(rng.uniform(0, WIDTH), rng.uniform(0, HEIGHT), 3.2 * r + 3)
    turn, flat = rng.uniform(0, np.pi), rng.uniform(0.6, 1)
    u, v = dx * np.cos(turn) + dy * np.sin(turn), (dy * np.cos(turn) - dx * np.sin(turn)) / flat
    away, around = np.hypot(u, v), np.arctan2(v, u)
    if form == STAIN:
        own = np.clip(1.5 - away / (1.6 * r), 0, 1)
        own = own * own * (3 - 2 * own)
    else:
        lobes = (
            0.0 if form == ROUND else 0.22 * np.cos(3 * around + turn) + 0.13 * np.cos(5 * around - 2 * turn)
        )
        own = np.clip(r * (1 + lobes) - away + 0.5, 0, 1)
    alpha[rows, columns] = np.maximum(alpha[rows, columns], own)


def _streak(rng: np.random.Generator, alpha: FloatArray, towards: float, fades: bool) -> None:
    half, long = rng.uniform(2.2, 4.5), rng.uniform(28, 90)
    long = max(long, 6.5 * half)
    turn = np.radians(towards + rng.normal(0, 1.0))
    rows, columns, dx, dy = _window(rng.uniform(0, WIDTH), rng.uniform(-30, HEIGHT - 20), long + 4)
    along, aside = dx * np.sin(turn) + dy * np.cos(turn), dx * np.cos(turn) - dy * np.sin(turn)
    own = (
        np.clip(half - np.abs(aside) + 0.5, 0, 1)
        * np.clip(along + 0.5, 0, 1)
        * np.clip(long - along + 0.5, 0, 1)
    )
    if fades:
        own = own * np.minimum(1, 1.7 * np.exp(-1.6 * np.maximum(along, 0) / long))
    alpha[rows, columns] = np.maximum(alpha[rows, columns], own)


def _plain_spot(rng: np.random.Generator, alpha: FloatArray) -> Disc | None:
    """A place where something lies plainly, as a careful user would point at it."""
    plain: BoolArray = alpha > _PLAIN
    for side, radius in ((7, 2.5), (5, 1.8), (3, 1.2)):
        rows, columns = np.nonzero(cv2.erode(plain.astype(np.uint8), np.ones((side, side)), borderValue=0))
        if len(rows):
            chosen = rng.integers(len(rows))
            return float(columns[chosen]) + 0.5, float(rows[chosen]) + 0.5, radius
    return None


def _lit(rng: np.random.Generator, paint: FloatArray, dust: FloatArray, veil: float) -> FloatArray:
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    lamp = rng.uniform(-0.3, 1.3, 2) * (WIDTH, HEIGHT)
    away = ((x - lamp[0]) ** 2 + (y - lamp[1]) ** 2) / rng.uniform(1.0, 3.0) / WIDTH**2
    light = 1 / (1 + away) * (1 + 0.06 * _waves(rng, 700, 8))
    height = (
        np.exp(-(HEIGHT - y) / rng.uniform(60, 400))
        if rng.random() < 0.6
        else np.clip(0.5 + 0.3 * _waves(rng, 420, 10), 0, 1)
    )
    over = veil * height / max(float(height.max()), 1e-9)
    return np.asarray(
        light[..., None] * ((1 - over[..., None]) * paint + over[..., None] * xyz_from_lab(dust))
    )


def _photographed(rng: np.random.Generator, seen: FloatArray) -> Image8:
    linear = cv2.GaussianBlur(linear_from_xyz(seen), (0, 0), rng.uniform(0.3, 1.2))
    encoded = srgb_from_linear(linear * rng.uniform(0.6, 0.97) / np.quantile(linear, 0.995))
    shape = encoded.shape
    encoded = (
        encoded
        + rng.normal(0, rng.uniform(0.001, 0.014), shape)
        + rng.normal(0, rng.uniform(0.001, 0.01), (*shape[:2], 1))
    )
    pixels = (np.clip(encoded, 0, 1) * 255).round().astype(np.uint8)
    sampling = [cv2.IMWRITE_JPEG_SAMPLING_FACTOR_420, cv2.IMWRITE_JPEG_SAMPLING_FACTOR_444][
        int(rng.integers(2))
    ]
    settings = [
        cv2.IMWRITE_JPEG_QUALITY,
        int(rng.integers(80, 98)),
        cv2.IMWRITE_JPEG_SAMPLING_FACTOR,
        sampling,
    ]
    _done, stored = cv2.imencode(".jpg", pixels[..., ::-1], settings)
    return np.ascontiguousarray(cv2.imdecode(stored, cv2.IMREAD_COLOR)[..., ::-1])
