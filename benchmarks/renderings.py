"""Pictures as people bring them, for judging alone: eight renderings, each by formulas of its own that no prior shares.

A rendering takes what a sensor saw, linear and balanced, and gives what the file holds, encoded in 0–1.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.srgb import srgb_from_linear

Rendering = Callable[[FloatArray, np.random.Generator], FloatArray]
_LUMA = np.array([0.2126, 0.7152, 0.0722])


def _saturated(rgb: FloatArray, times: float) -> FloatArray:
    grey = (rgb @ _LUMA)[:, None]
    return grey + times * (rgb - grey)


def _density(linear: FloatArray) -> FloatArray:
    return np.asarray(-np.log10(np.clip(linear, 3e-4, 1.2)))


def phone(linear: FloatArray, rng: np.random.Generator) -> FloatArray:
    """A rational filmic curve with a lifted toe, then a little more saturation in the encoded values."""
    x = linear * rng.uniform(0.9, 1.5)
    curve = x * (2.51 * x + 0.03) / (x * (2.43 * x + 0.59) + 0.14)
    encoded = srgb_from_linear(np.clip(0.75 * curve + 0.25 * x, 0, 1))
    return _saturated(encoded, rng.uniform(1.05, 1.25))


def portrait(linear: FloatArray, rng: np.random.Generator) -> FloatArray:
    """A soft curve in stops about middle grey; cool colours are muted more than warm ones."""
    stops = np.log2(np.maximum(linear, 1e-4) / 0.18)
    soft = rng.uniform(0.75, 0.9) * stops + rng.uniform(0.05, 0.25)
    encoded = srgb_from_linear(np.clip(0.18 * 2.0**soft, 0, 1))
    warm = np.clip((encoded[:, :1] - encoded[:, 2:]) * 2 + 0.5, 0, 1)
    return _saturated(encoded, 1.0) * warm + _saturated(encoded, rng.uniform(0.7, 0.85)) * (1 - warm)


def vivid(linear: FloatArray, rng: np.random.Generator) -> FloatArray:
    """Encoded values drawn towards a smooth step, and colours pushed away from their brightest channel."""
    encoded = srgb_from_linear(np.clip(linear * rng.uniform(0.95, 1.15), 0, 1))
    share = rng.uniform(0.35, 0.7)
    stepped = (1 - share) * encoded + share * encoded**2 * (3 - 2 * encoded)
    top = stepped.max(axis=1, keepdims=True)
    return top - (top - stepped) * rng.uniform(1.2, 1.45)


def undeveloped(linear: FloatArray, rng: np.random.Generator) -> FloatArray:
    """The sensor's own channels without a matrix, by a plain power."""
    return np.clip(linear * rng.uniform(0.7, 1.0), 0, 1) ** (1 / rng.uniform(1.9, 2.3))


def print_scan(linear: FloatArray, rng: np.random.Generator) -> FloatArray:
    """Three dyes on paper: an arc-tangent curve in density, dyes that take a little of each other's light, a yellowed base."""
    steep = rng.uniform(1.2, 1.6) * rng.uniform(0.95, 1.05, 3)
    dyes = 1.05 + 0.62 * np.arctan(steep * (_density(linear) - 0.72) * 1.6)
    shared = np.eye(3) + rng.uniform(0.03, 0.12, (3, 3)) * (1 - np.eye(3))
    density = np.clip(dyes, 0.02, 2.1) @ (shared / shared.sum(axis=0)) + np.array(
        [0.0, 0.015, 0.05]
    ) * rng.uniform(0.5, 2)
    return srgb_from_linear(np.clip(0.92 * 10**-density + 0.006, 0, 1))


def old_slide(linear: FloatArray, rng: np.random.Generator) -> FloatArray:
    """A steep film whose dyes have gone by different shares, with a stain and light that strays in the scanner."""
    density = np.clip(rng.uniform(1.25, 1.5) * (_density(linear) - 0.15), 0.05, 3.0)
    left = np.array([rng.uniform(0.62, 0.9), rng.uniform(0.8, 1.0), rng.uniform(0.7, 0.95)])
    density = density * left + np.array([0.02, 0.05, 0.09]) * rng.uniform(0.3, 1.5)
    return srgb_from_linear(np.clip(10**-density * 1.1 + rng.uniform(0.001, 0.006), 0, 1))


def magazine(linear: FloatArray, rng: np.random.Generator) -> FloatArray:
    """Dots of three inks that gain in size, mixed by the eye as Neugebauer's primaries under Yule and Nielsen's exponent."""
    cover = 1 - np.clip(linear * 1.05, 0, 1) ** (1 / 1.9)
    cover = np.clip(cover + rng.uniform(0.1, 0.2) * 4 * cover * (1 - cover) * 0.6, 0, 1)
    inks = np.array([[0.08, 0.38, 0.62], [0.62, 0.08, 0.22], [0.86, 0.74, 0.08]]) * rng.uniform(
        0.85, 1.15, (3, 3)
    )
    n, seen = 1.7, np.zeros_like(linear)
    for on in np.ndindex(2, 2, 2):
        share = np.prod(np.where(np.array(on), cover, 1 - cover), axis=1)
        solid = np.prod(np.where(np.array(on)[:, None], inks, 1.0), axis=0) * np.array([0.84, 0.82, 0.76])
        seen += share[:, None] * solid ** (1 / n)
    return srgb_from_linear(np.clip(seen**n, 0, 1))


def faded_negative(linear: FloatArray, rng: np.random.Generator) -> FloatArray:
    """A print from a negative whose layers have lost contrast unevenly: colours cross over from shadow to light."""
    logs = np.log10(np.clip(linear, 1e-3, 1.2))
    slopes = rng.uniform(0.75, 0.95) * np.array([1.0, rng.uniform(0.88, 1.0), rng.uniform(0.8, 0.95)])
    shifts = np.array([0.0, rng.uniform(-0.06, 0.0), rng.uniform(-0.1, 0.02)])
    return _saturated(
        srgb_from_linear(np.clip(10 ** (logs * slopes + shifts) * 0.92 + 0.03, 0, 1)), rng.uniform(0.7, 0.9)
    )


FAMILIES: dict[str, Rendering] = {
    "phone": phone, "portrait": portrait, "vivid": vivid, "undeveloped": undeveloped, "print scan": print_scan,
    "old slide": old_slide, "magazine": magazine, "faded negative": faded_negative,
}  # fmt: skip
"""By name; `undeveloped` is given the sensor's own channels, the others what a matrix makes of them."""
