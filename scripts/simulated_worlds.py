"""Whole ways from a surface to a picture file: sensor, light, balance, matrix or none, and one of seven renderings.

Curves, saturations, what dyes take of each other's light, fading and stain are practice figures from memory: no library at hand
carries them. What matters is that they are broad, and by other formulas than the pictures that ranges are calibrated on
(`calibration_renderings.py`) and judged by (`benchmarks/renderings.py`).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from lean_sepia.colour.srgb import srgb_from_linear
from lean_sepia.photo.correction.worlds import LIGHTS, RENDERINGS
from scripts.simulated_cameras import (
    NM,
    chart_reflectances,
    daylight,
    develop_matrix,
    likely_lights,
    measured_sensors,
    synthetic_sensor,
)

RAMP = np.geomspace(0.002, 2.2, 40)
"""Reflectances of the greys by which a world's curves are found; beyond 1 for glints."""

_SEED, _EACH_LIGHT, _TRAINING = 1, 200, 40
_MET = (0.47, 0.15, 0.11, 0.11, 0.16)  # how often each family of lights is met (practice)
_LUMA = np.array([0.25, 0.65, 0.10])
_INKS = np.array([[0, 0.35, 0.15], [0.12, 0, 0.5], [0.03, 0.1, 0]])
"""What each dye takes of the others' light, as a share of its own density."""

_STAIN = np.array([0, 0.02, 0.06])
Rng = np.random.Generator


def smooth_reflectances(rng: Rng, count: int) -> np.ndarray:
    """Smooth surfaces (count, 81) of every strength: edges, bumps, and gentle tilts."""
    x = (NM - 550) / 170
    found = []
    for _number in range(count):
        level, form = rng.normal(-0.5, 1.2), rng.integers(3)
        if form == 0:
            at, width = rng.uniform(-1, 0.8), rng.uniform(0.05, 0.3)
            rise = rng.choice([-1, 1], p=[0.3, 0.7]) * rng.uniform(0.5, 4)
            shape = rise / (1 + np.exp(-(x - at) / width)) - rng.uniform(0, 2)
        elif form == 1:
            at, width = rng.uniform(-1, 1), rng.uniform(0.12, 0.5)
            shape = rng.choice([-1, 1]) * rng.uniform(0.3, 3) * np.exp(-0.5 * ((x - at) / width) ** 2)
        else:
            wave = rng.normal(0, 0.4) * np.sin(3 * x + rng.uniform(0, 6))
            shape = rng.normal(0, 0.8) * x + rng.normal(0, 0.6) * x**2 + wave
        found.append(0.96 / (1 + np.exp(-(level + shape))) + 0.01)
    return np.array(found)


def _level(encoded: np.ndarray, rng: Rng) -> np.ndarray:
    """What stays as it is when colours are drawn from or to grey (n, 1): luma, or a mean by some power, from near the least to near
    the largest channel."""
    if rng.random() < 0.5:
        return (encoded @ _LUMA)[:, None]
    power, share = rng.uniform(-3, 6), rng.random()
    weights = share * _LUMA + (1 - share) / 3
    return ((np.maximum(encoded, 0.02) ** power) @ weights)[:, None] ** (1 / power)


def _saturated(encoded: np.ndarray, rng: Rng, times: float, uneven: float, turn: float) -> np.ndarray:
    """Colours drawn from or to grey by a multiple that differs a little by hue and lightness, and turned a little in hue."""
    level = _level(encoded, rng)
    green = encoded[:, 1:2]
    red, blue = encoded[:, :1] - green, encoded[:, 2:] - green
    hue = np.arctan2(blue, red)
    first, second = rng.normal(0, uneven, 2) * [1, 0.6]
    waves = first * np.cos(hue - rng.uniform(0, 6.3)) + second * np.cos(2 * hue - rng.uniform(0, 6.3))
    strength = times * np.exp(waves + rng.normal(0, uneven) * (level - 0.5))
    angle = rng.normal(0, turn)
    new_red = strength * (red * np.cos(angle) - blue * np.sin(angle))
    new_blue = strength * (blue * np.cos(angle) + red * np.sin(angle))
    new_green = level + strength * (green - level)
    return np.concatenate([new_green + new_red, new_green, new_green + new_blue], axis=1)


def _shared(channels: np.ndarray, rng: Rng, most: float) -> np.ndarray:
    """Channels that have taken from, or were cleared of, each other: all alike to a share, and each pair by some more; greys stay."""
    if rng.random() < 0.4:
        return channels
    alike = rng.uniform(-0.5, 1) * most
    mixing = (1 - alike) * np.eye(3) + alike / 3 + rng.normal(0, 0.12 * most, (3, 3))
    return channels @ (mixing / mixing.sum(axis=0))


def _bent(encoded: np.ndarray, rng: Rng, width: float) -> np.ndarray:
    """Encoded values bent by a smooth curve that keeps rising."""
    order = np.arange(1, 4)
    waves = rng.normal(0, width, 3) / order**1.2
    t = np.linspace(0, 1, 65)
    slope = np.maximum(1 + np.cos(np.pi * np.outer(t, order)) @ (waves * order * np.pi), 0.15)
    curve = np.concatenate([[0], np.cumsum((slope[1:] + slope[:-1]) / 2)])
    return np.interp(np.clip(encoded, 0, 1), t, curve / curve[-1])


def _curve(light: np.ndarray, rng: Rng) -> np.ndarray:
    """A camera's curve by one of four formulas."""
    light = np.maximum(light, 0)
    form = rng.integers(4)
    if form == 0:
        steep, middle = rng.uniform(0.45, 0.95), rng.normal(-2.3, 0.5)
        top = 1 / (1 + np.exp(-steep * (rng.uniform(0.3, 1.6) - middle)))
        stops = np.log2(np.maximum(light, 1e-6))
        return np.minimum(1 / (1 + np.exp(-steep * (stops - middle))) / top, 1) * rng.uniform(0.96, 1)
    if form == 1:
        return _bent(srgb_from_linear(np.minimum(light * np.exp(rng.normal(0.05, 0.2)), 1)), rng, 0.06)
    if form == 2:
        reach = rng.uniform(0.8, 3.0)
        risen = (1 - np.exp(-reach * light ** rng.uniform(0.9, 1.2))) ** rng.uniform(0.42, 0.6)
        return risen / (1 - np.exp(-reach * 1.3)) ** 0.5
    return srgb_from_linear(np.minimum(light, 1)) ** rng.uniform(0.85, 1.2)


def _lifted(encoded: np.ndarray, rng: Rng, most: float) -> np.ndarray:
    """Blacks lifted, at times by different amounts."""
    lift = most * rng.random(1) ** 2 * np.exp(rng.normal(0, 0.2, 3) * (rng.random() < 0.5))
    return lift + (1 - lift) * encoded


def _film(
    light: np.ndarray, rng: Rng, contrast: tuple[float, float], reach: tuple[float, float]
) -> np.ndarray:
    """Densities of three layers: logistic in log exposure, at times half straight."""
    logs = np.log10(np.maximum(light, 1e-5))
    steep = rng.uniform(*contrast) * np.exp(rng.normal(0, 0.05, 3))
    middle = rng.normal(-0.85, 0.22) + rng.normal(0, 0.03, 3)
    most = rng.uniform(*reach)
    density = most / (1 + np.exp(4 * steep / most * (logs - middle)))
    if rng.random() < 0.35:
        density = 0.5 * density + 0.5 * np.clip(steep * (-logs - 0.02), 0, most)
    return density


def _impure(rng: Rng, most: float) -> np.ndarray:
    """Shares (3, 3) of its own density that each dye has in the other channels."""
    ordered = _INKS * np.exp(rng.normal(0, 0.5, (3, 3))) * rng.uniform(0, 2)
    side = ordered + np.abs(rng.normal(0, 0.25, (3, 3))) * rng.random() - 0.06 * rng.random()
    return np.clip(side, -0.08, 1) * (1 - np.eye(3)) * most


def _dyed(density: np.ndarray, rng: Rng, most: float, made_good: tuple[float, float]) -> np.ndarray:
    """Densities after dyes that take of each other's light; layers that check each other make part of it good."""
    mixing = np.eye(3) + (1 - rng.uniform(*made_good)) * _impure(rng, most)
    if rng.random() < 0.6:
        mixing = mixing / mixing.sum(axis=0)
    return _shared(density @ mixing, rng, 0.4)


def _faded(density: np.ndarray, rng: Rng, most: float) -> np.ndarray:
    return density * (1 - most * rng.random(3) * min(1, 1.4 * rng.random()))


def _scanned(seen: np.ndarray, rng: Rng) -> np.ndarray:
    """What a scanner writes of reflectance or transmittance: encoded, at times too dark, stretched, bent, or made stronger."""
    light = np.clip(seen, 0, 1) * (rng.uniform(0.45, 1) if rng.random() < 0.35 else 1)
    encoded = srgb_from_linear(light) if rng.random() < 0.7 else light ** (1 / rng.uniform(1.8, 2.4))
    if rng.random() < 0.3:
        low = np.quantile(encoded, 0.01, axis=0) * rng.uniform(0.3, 1)
        high = np.maximum(np.quantile(encoded, 0.99, axis=0), 0.5)
        if rng.random() < 0.5:
            low, high = low.min(), high.max()
        encoded = (encoded - low) / (high - low) * rng.uniform(0.93, 1) + 0.01
    if rng.random() < 0.5:
        encoded = _bent(encoded, rng, 0.04)
    if rng.random() < 0.6:
        encoded = _saturated(encoded, rng, np.exp(rng.normal(0.02, 0.18)), 0.07, 0.03)
    return encoded


def _camera(light: np.ndarray, rng: Rng) -> np.ndarray:
    if rng.random() < 0.15:
        return srgb_from_linear(np.clip(light, 0, 1))
    times = np.exp(rng.normal(0.05, 0.25))
    if rng.random() < 0.35:
        level = (light @ _LUMA)[:, None]
        return _lifted(_curve(np.maximum(level + times * (light - level), 1e-5), rng), rng, 0.06)
    return _lifted(_saturated(_curve(light, rng), rng, times, 0.1, 0.04), rng, 0.06)


def _phone(light: np.ndarray, rng: Rng) -> np.ndarray:
    encoded = _bent(_curve(light * np.exp(abs(rng.normal(0, 0.25))), rng), rng, 0.03)
    return _lifted(_saturated(encoded, rng, np.exp(rng.normal(0.15, 0.17)), 0.1, 0.05), rng, 0.08)


def _on_paper(density: np.ndarray, rng: Rng, fading: float) -> np.ndarray:
    """A scan of densities on paper: faded, stained, with a little light astray."""
    aged = _faded(density, rng, fading) + _STAIN * rng.uniform(0, 1.5) + rng.uniform(0, 0.05, 3)
    return _scanned(10 ** -np.maximum(aged, 0) * rng.uniform(0.85, 1) + 0.03 * rng.random() ** 2, rng)


def _print(light: np.ndarray, rng: Rng) -> np.ndarray:
    if rng.random() < 0.35:  # of a negative whose layers lost contrast unevenly
        logs = np.log10(np.clip(light, 1e-3, 1.5))
        density = -(logs * rng.uniform(0.65, 1.1) * np.exp(rng.normal(0, 0.09, 3)) + rng.normal(0, 0.05, 3))
        if rng.random() < 0.6:
            density = 1.5 * (1 - np.exp(-np.maximum(density, 0) / 1.5)) + np.minimum(density, 0)
        density = _dyed(density, rng, 0.35, (0.0, 1.2))
    else:
        density = _dyed(_film(light, rng, (0.7, 2.3), (1.3, 2.5)), rng, 0.45, (0.0, 1.3))
    return _on_paper(density, rng, 0.4)


def _page(light: np.ndarray, rng: Rng) -> np.ndarray:
    cover = 1 - np.clip(light * rng.uniform(0.9, 1.1), 0, 1) ** (1 / rng.uniform(1.5, 2.4))
    if rng.random() < 0.5:
        cover = np.clip(cover, 0, 1) ** rng.uniform(0.65, 1.1)
    else:
        cover = np.clip(cover + rng.uniform(0, 0.28) * 2.8 * cover * (1 - cover), 0, 1)
    spread, solid = rng.uniform(1, 2.6), rng.uniform(0.85, 1.6, 3)
    if rng.random() < 0.6:
        density = -spread * np.log10(np.maximum(1 - cover + cover * 10 ** (-solid / spread), 1e-3))
    else:
        density = solid * cover ** rng.uniform(1, 1.6)
    density = _shared(density + (cover * solid) @ (rng.uniform(0.1, 1.3) * _impure(rng, 1.0)), rng, 0.4)
    if rng.random() < 0.4:
        density = 2.04 * (1 - np.exp(-np.maximum(density, 0) / 1.7))
    return _on_paper(density, rng, 0.2)


def _slide(light: np.ndarray, rng: Rng) -> np.ndarray:
    density = _dyed(_film(light, rng, (1.0, 2.1), (2.2, 3.4)), rng, 0.4, (0.1, 1.4))
    aged = _faded(density, rng, 0.5) + np.array([0.02, 0.05, 0.09]) * rng.uniform(0, 1.4)
    return _scanned(10 ** -np.maximum(aged - rng.uniform(0, 0.1), 0) + 0.012 * rng.random() ** 2, rng)


def _developed(light: np.ndarray, rng: Rng) -> np.ndarray:
    encoded = srgb_from_linear(np.clip(light, 0, 1))
    return _bent(encoded, rng, 0.008) if rng.random() < 0.3 else encoded


def _undeveloped(light: np.ndarray, rng: Rng) -> np.ndarray:
    form = rng.random()
    if form < 0.35:
        encoded = np.clip(light, 0, 1) ** (1 / rng.uniform(1.8, 2.4))
    elif form < 0.55:
        encoded = np.clip(light, 0, 1) ** (1 / rng.uniform(1.3, 3.2))
    elif form < 0.75:
        encoded = _curve(light, rng)
    else:
        encoded = srgb_from_linear(np.clip(light, 0, 1))
    if rng.random() < 0.4:
        encoded = _bent(encoded, rng, 0.03)
    return _lifted(encoded, rng, 0.03)


_BY_RENDERING: dict[str, Callable[[np.ndarray, Rng], np.ndarray]] = {
    "camera": _camera, "phone": _phone, "print": _print, "page": _page, "slide": _slide, "developed": _developed,
    "undeveloped": _undeveloped,
}  # fmt: skip


@dataclass(frozen=True)
class Stage:
    """What worlds are drawn from: lights by family, a measured sensor, and surfaces to train matrices on."""

    lights: list[list[np.ndarray]]
    measured: np.ndarray
    charts: np.ndarray

    @classmethod
    def usual(cls) -> Stage:
        """The stage of the worlds that ship."""
        drawn = likely_lights(np.random.default_rng(_SEED), _EACH_LIGHT)
        lights: list[list[np.ndarray]] = [[] for _name in LIGHTS]
        for name, power in drawn:
            lights[LIGHTS.index(name)].append(power)
        return cls(lights, measured_sensors(10)[0], chart_reflectances())


def _development(
    rendering: str, sensor: np.ndarray, power: np.ndarray, stage: Stage, rng: Rng
) -> tuple[np.ndarray, np.ndarray]:
    """White balance (3,) and matrix (3, 3) to the channels that are rendered."""
    white = power @ sensor
    train = stage.charts[rng.choice(len(stage.charts), _TRAINING, replace=False)]
    gains, matrix = develop_matrix(sensor, daylight(rng.uniform(5000, 6600)), train)
    film = rendering in ("print", "page", "slide")
    if film:
        if rng.random() < 0.8:
            gains = white * np.exp(rng.normal(0, 0.07, 3))
    elif rendering == "developed":
        if rng.random() < 0.2:
            gains = white * np.exp(rng.normal(0, 0.05, 3))
    elif rng.random() < 0.85:
        gains = white * np.exp(rng.normal(0, 0.06 if rng.random() < 0.7 else 0.15, 3))
        if rng.random() < 0.3:
            matrix = develop_matrix(sensor, power, train)[1]
    share = 1.0
    if rendering == "undeveloped":
        share = 0.0 if rng.random() < 0.85 else 0.4
    elif film:
        share = rng.uniform(0.5, 1.3)
    elif rendering in ("phone", "camera") and rng.random() < 0.5:
        share = rng.uniform(0.6, 1.15)
    return gains, share * matrix + (1 - share) * np.eye(3)


def draw_world(
    rendering: str, surfaces: np.ndarray, stage: Stage, rng: Rng
) -> tuple[np.ndarray, np.ndarray, int] | None:
    """Encoded colours of surfaces (n, 3) and of the grey ramp (40, 3), and the number of the light; None where none came out."""
    sensor = stage.measured if rng.random() < 0.15 else synthetic_sensor(rng)
    number = int(rng.choice(len(LIGHTS), p=_MET))
    power = stage.lights[number][rng.integers(_EACH_LIGHT)]
    gains, matrix = _development(rendering, sensor, power, stage, rng)
    greys = RAMP[:, None] * np.ones(len(NM))
    light = np.concatenate([surfaces, greys]) @ (power[:, None] * sensor) / gains @ matrix
    bright = (power @ sensor) / gains @ matrix
    if np.any(bright <= 0):
        return None
    developed = rendering == "developed"
    exposure = 0.9 / (bright.max() if developed else bright.mean())
    exposure *= np.exp(rng.normal(0, 0.2) if developed else rng.normal(-0.03, 0.22))
    encoded = _BY_RENDERING[rendering](np.maximum(light * exposure, 1e-6), rng)
    if not np.all(np.isfinite(encoded)):
        return None
    return encoded[: len(surfaces)], encoded[len(surfaces) :], number


assert tuple(_BY_RENDERING) == RENDERINGS
