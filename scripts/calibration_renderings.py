"""Renderings that the worlds were looked at with while they were drawn up, and that ranges are scaled by: two to five of a kind.

Each takes what a sensor saw, linear and balanced (n, 3), and gives encoded values in 0–1, by formulas that neither the worlds
(`simulated_worlds.py`) nor the pictures for judging (`benchmarks/renderings.py`) use.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np

from lean_sepia.colour.srgb import srgb_from_linear
from lean_sepia.photo.stated.picture_kind import PictureKind

Rng = np.random.Generator
Rendering = Callable[[np.ndarray, Rng], np.ndarray]


def _level(encoded: np.ndarray) -> np.ndarray:
    return (encoded @ np.array([0.3, 0.59, 0.11]))[:, None]


def _encoded(light: np.ndarray) -> np.ndarray:
    return srgb_from_linear(np.clip(light, 0, 1))


def _hyperbolic(light: np.ndarray, rng: Rng) -> np.ndarray:
    """Light over itself plus one, up to a white point; weak colours made stronger."""
    white, light = rng.uniform(1.5, 4), light * rng.uniform(1, 1.8)
    pressed = light * (1 + light / white**2) / (1 + light)
    encoded = np.clip(1.24 * pressed / (1 + 1 / white**2), 0, 1) ** (1 / rng.uniform(2.0, 2.4))
    away = encoded - _level(encoded)
    strength = np.abs(away).max(axis=1, keepdims=True)
    return _level(encoded) + away * (1 + rng.uniform(0.15, 0.5) * np.exp(-strength / 0.15))


def _logarithmic(light: np.ndarray, rng: Rng) -> np.ndarray:
    """Lights pressed by a logarithm, shadows opened; red and blue differences each made stronger."""
    reach = rng.uniform(3, 12)
    encoded = np.clip(np.log1p(reach * light * rng.uniform(1, 1.4)) / np.log1p(reach), 0, 1) ** rng.uniform(
        0.62, 0.8
    )
    level = (encoded @ np.array([0.22, 0.7, 0.08]))[:, None]
    return level + (encoded - level) * rng.uniform([1, 1, 1], [1.25, 1, 1.25]) * rng.uniform(1, 1.2)


def _soft(light: np.ndarray, rng: Rng) -> np.ndarray:
    encoded = 0.5 + (_encoded(light) - 0.5) * rng.uniform(0.72, 0.92) + rng.uniform(-0.03, 0.06)
    return _level(encoded) + (encoded - _level(encoded)) * rng.uniform(0.75, 1.0)


def _muted(light: np.ndarray, rng: Rng) -> np.ndarray:
    encoded = 0.08 * rng.random() + _encoded(light) * rng.uniform(0.82, 0.95)
    away = encoded - encoded.mean(axis=1, keepdims=True)
    return encoded - away + away * (rng.uniform(0.65, 0.9) + 0.15 * away)


def _hard(light: np.ndarray, rng: Rng) -> np.ndarray:
    """Strong in linear light, then a hyperbolic tangent."""
    strong = np.clip(_level(light) + rng.uniform(1.1, 1.45) * (light - _level(light)), 0, 1)
    steep = rng.uniform(1.2, 2.2)
    return 0.5 + 0.5 * np.tanh(1.1 * steep * (_encoded(strong) - 0.5)) / np.tanh(0.55 * steep)


def _crisp(light: np.ndarray, rng: Rng) -> np.ndarray:
    """A sine's worth of contrast; channels pushed from the middle of the largest and the smallest."""
    encoded = _encoded(light * 1.02)
    encoded = encoded - rng.uniform(0.1, 0.22) * np.sin(2 * np.pi * encoded) / np.pi
    middle = (encoded.max(axis=1, keepdims=True) + encoded.min(axis=1, keepdims=True)) / 2
    return middle + (encoded - middle) * rng.uniform(1.1, 1.4)


def _flat(light: np.ndarray, rng: Rng) -> np.ndarray:
    if rng.random() < 0.5:
        return _encoded(light)
    reach = rng.uniform(30, 200)
    return np.log1p(reach * np.clip(light, 0, 1)) / np.log1p(reach)


def _video(light: np.ndarray, rng: Rng) -> np.ndarray:
    if rng.random() < 0.5:
        return 0.08 + 0.85 * np.log10(1 + 30 * np.clip(light, 0, 1)) / np.log10(31)
    return np.where(light < 0.018, 4.5 * light, 1.099 * np.clip(light, 0.018, 1) ** 0.45 - 0.099)


def _lightness_print(light: np.ndarray, rng: Rng) -> np.ndarray:
    """Cube roots raised to powers, mixed, on a yellowed paper."""
    roots = np.clip(np.cbrt(np.clip(light, 0, 1.2)), 0, 1.02) ** (
        rng.uniform(0.9, 1.35) * np.exp(rng.normal(0, 0.04, 3))
    )
    mixing = np.eye(3) + rng.uniform(-0.03, 0.16, (3, 3)) * (1 - np.eye(3))
    paper = np.array([0.93, 0.91, 0.86]) ** rng.uniform(0.3, 1.6)
    return _encoded((roots @ (mixing / mixing.sum(axis=0))) ** 3 * paper + rng.uniform(0.003, 0.025))


def _layered_print(light: np.ndarray, rng: Rng) -> np.ndarray:
    """Layers whose side absorptions add in quadrature."""
    logs = np.clip(np.log10(np.clip(light, 1e-3, 1.2)) + 1, -2, 1.1)
    steep = rng.uniform(0.9, 1.5)
    density = np.maximum(1 - steep * logs + 0.0733 * steep * logs**3 * (np.abs(logs) < 1.1), 0.05)
    one, other = rng.uniform(0.05, 0.3), rng.uniform(0, 0.2)
    density = np.sqrt(density**2 + (one * density[:, [1, 2, 0]]) ** 2 + (other * density[:, [2, 0, 1]]) ** 2)
    density = density + rng.uniform(0, 0.08, 3)
    return _encoded(10 ** -(density - 0.6 * density.min()) * rng.uniform(0.85, 1))


def _washed_print(light: np.ndarray, rng: Rng) -> np.ndarray:
    """Powers of encoded values by channel, drawn together, blacks lifted unevenly."""
    encoded = _encoded(light) ** (rng.uniform(0.7, 1.1) * np.exp(rng.normal(0, 0.08, 3)))
    mixing = np.eye(3) * rng.uniform(0.7, 0.95)
    encoded = encoded @ (mixing + (1 - mixing.sum(axis=0)) / 3)
    low = rng.uniform(0, 0.12, 3)
    return low + (rng.uniform(0.9, 1, 3) - low) * encoded


def _old_print(light: np.ndarray, rng: Rng) -> np.ndarray:
    """Contrast lost, and a veil that grows with the light."""
    encoded, top = _encoded(light), rng.uniform(0.85, 0.98) * np.array([1, 0.97, 0.9])
    encoded = top - rng.uniform(0.6, 0.85, 3) * np.array([1, 1, 0.95]) * top * (1 - encoded)
    return _level(encoded) + (encoded - _level(encoded)) * rng.uniform(0.75, 1.05)


def _banded_page(light: np.ndarray, rng: Rng) -> np.ndarray:
    """Three inks of broad bands whose light is averaged without regard to dots."""
    cover = np.clip(1 - np.clip(light, 0, 1) ** (1 / rng.uniform(1.7, 2.3)), 0, 1) ** rng.uniform(0.7, 1.0)
    low = [[0.03, 0.4, 0.6], [0.65, 0.04, 0.25], [0.85, 0.7, 0.04]]
    high = [[0.12, 0.75, 0.85], [0.9, 0.14, 0.55], [0.97, 0.9, 0.15]]
    seen = np.prod(1 - cover[:, :, None] * (1 - rng.uniform(low, high)[None]), axis=1)
    return _encoded(seen * np.array([0.9, 0.87, 0.8]) ** rng.uniform(0.5, 1.4))


def _veiled_page(light: np.ndarray, rng: Rng) -> np.ndarray:
    """Inks that draw each other to grey."""
    encoded = np.clip(light, 0, 1) ** (1 / rng.uniform(1.8, 2.2))
    grey = 0.5 * encoded.min(axis=1, keepdims=True) + 0.5 * encoded.mean(axis=1, keepdims=True)
    encoded = encoded + rng.uniform(0.25, 0.6) * (grey - encoded)
    without_red = 1 - encoded[:, :1]
    encoded = encoded - encoded * without_red * rng.uniform([0, 0, 0], [1e-9, 0.12, 0.1])
    return (
        0.1 + np.clip(encoded, 0, 1) ** rng.uniform(0.95, 1.3) * np.array([0.84, 0.82, 0.76])
    ) * rng.uniform(0.93, 1.03)


def _bent_slide(light: np.ndarray, rng: Rng) -> np.ndarray:
    """A hyperbola in density, dyes gone by different shares."""
    density = -np.log10(np.clip(light, 1e-4, 1.3))
    density = (
        rng.uniform(1.1, 1.8) * density / np.sqrt(1 + (np.maximum(density, 0) / rng.uniform(1.5, 3.0)) ** 2)
    )
    density = density * rng.uniform([0.6, 0.75, 0.65], 1) + rng.uniform(0, 0.1, 3)
    encoded = 10 ** -(np.maximum(density, 0) ** 1.0)
    encoded = encoded ** (1 / 2.2)
    return _level(encoded) + (encoded - _level(encoded)) * rng.uniform(0.8, 1.1)


def _veiled_slide(light: np.ndarray, rng: Rng) -> np.ndarray:
    """A power of light by channel, under a coloured veil."""
    seen = np.clip(light * 1.05, 0, 1) ** (rng.uniform(1.15, 1.7) * np.exp(rng.normal(0, 0.05, 3)))
    veil, taken = rng.uniform(0, [0.06, 0.03, 0.04]), rng.uniform(0, 0.06)
    seen = (seen * (1 - veil) + veil) @ (np.eye(3) * (1 + 3 * taken) - taken)
    return _encoded(np.clip(seen, 1e-3, 1) ** rng.uniform(0.85, 1.05))


RENDERINGS: Mapping[PictureKind, tuple[Rendering, ...]] = {
    "phone": (_hyperbolic, _logarithmic),
    "camera": (_soft, _muted, _hard, _crisp),
    "undeveloped": (_flat, _video),
    "print": (_lightness_print, _layered_print, _washed_print, _old_print, _banded_page, _veiled_page),
    "slide": (_bent_slide, _veiled_slide),
}
