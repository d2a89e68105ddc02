"""Light, film and camera: from the scene's spectra to the pixels of an old slide, a print, or a phone."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray, Image8
from lean_sepia.colour.lights import light_power, xyz_from_reflectance
from lean_sepia.colour.spectrum import WAVELENGTHS_NM
from lean_sepia.colour.srgb import linear_from_xyz, srgb_from_linear
from lean_sepia.demo.canvas import Scene, soft_noise
from lean_sepia.demo.prototype import PAINTS, SEASONED, sky_reflectance

_NM = WAVELENGTHS_NM.astype(float)


def planck(kelvin: float) -> FloatArray:
    """Relative power (31,) of a black body, 1 at 560 nm."""

    def radiance(nm: FloatArray | float) -> FloatArray:
        return np.asarray(1.0 / (np.asarray(nm) ** 5 * (np.exp(1.4388e7 / (np.asarray(nm) * kelvin)) - 1)))

    return radiance(_NM) / radiance(560.0)


def daylight() -> FloatArray:
    """Relative power (31,) of D65, 1 at 560 nm."""
    return light_power("D65", _NM) / 100


def _bell(peak: float, below: float, above: float) -> FloatArray:
    width = np.where(peak > _NM, below, above)
    return np.exp(-0.5 * ((_NM - peak) / width) ** 2)


SLIDE_FILM = np.stack([_bell(622, 44, 30), _bell(546, 36, 32), _bell(448, 28, 32)], axis=1)
PRINT_FILM = np.stack([_bell(632, 44, 26), _bell(548, 36, 32), _bell(450, 28, 32)], axis=1)
PHONE = np.stack([_bell(600, 34, 38), _bell(535, 42, 40), _bell(460, 26, 34)], axis=1)
ORTHO = np.repeat((_bell(440, 40, 55) + 0.55 * _bell(550, 30, 18))[:, None], 3, axis=1)
"""Spectral sensitivities (31, 3), red first."""


@dataclass(frozen=True, eq=False)
class Exposure:
    """One picture's conditions: lights, sensitivity, curve, dyes, and the faults of time."""

    direct: FloatArray
    ambient: FloatArray
    ambient_share: float
    sensitivity: FloatArray
    stops: float = 0.0
    contrast: float = 1.0
    crosstalk: float = 0.0
    aged: tuple[float, float, float] = (0.0, 0.0, 0.0)
    grain: float = 0.008
    grain_size: float = 1.6
    vignette: float = 0.2
    softness: float = 0.7
    white_balance: bool = False


def paint_reflectance(name: str, seasoned: bool) -> FloatArray:
    """Reflectance (31,) of a paint in the scene."""
    if name == "sky":
        return sky_reflectance()
    return PAINTS[name].reflectance(exposed=seasoned and name in SEASONED)


def _working_matrix(sensitivity: FloatArray) -> FloatArray:
    """Matrix (3, 3) of the maker of film or camera, from responses to linear sRGB, right for white."""
    if np.ptp(sensitivity, axis=1).max() < 1e-9:
        return np.eye(3)
    paints = np.stack([paint.reflectance() for paint in PAINTS.values()] + [np.ones_like(_NM)])
    white = daylight() @ sensitivity
    responses = (paints * daylight()) @ sensitivity / white
    wanted = linear_from_xyz(xyz_from_reflectance(paints))
    weight = np.ones(len(paints))
    weight[-1] = 50
    solution = np.linalg.lstsq(responses * weight[:, None], wanted * weight[:, None], rcond=None)[0]
    return solution.T


@lru_cache(maxsize=2)
def _cover(scene: Scene) -> tuple[tuple[tuple[str, bool], ...], FloatArray]:
    """The paints of a scene, and how much of each pixel each is seen on (n, h · w)."""
    keys = tuple(dict.fromkeys((layer.paint, layer.seasoned) for layer in scene.layers))
    shown = np.zeros((len(keys), *scene.light.shape), dtype=np.float32)
    for layer in scene.layers:
        window = layer.window()
        mask = layer.mask[window]
        shown[(slice(None), *window)] *= 1 - mask
        shown[keys.index((layer.paint, layer.seasoned))][window] += mask
    return keys, shown.reshape(len(keys), -1)


def expose(scene: Scene, exposure: Exposure) -> FloatArray:
    """Linear response (h, w, 3) of film or sensor, 1 for a perfect white in daylight of standard exposure."""
    white = daylight() @ exposure.sensitivity
    keys, cover = _cover(scene)
    R = np.stack([paint_reflectance(*key) for key in keys])
    lights = (exposure.direct, exposure.ambient)
    seen = np.concatenate([(R * light) @ exposure.sensitivity / white for light in lights], axis=1)
    both = (cover.T @ seen.astype(np.float32)).reshape(*scene.light.shape, 6)
    direct, ambient = both[..., :3], both[..., 3:]
    share = np.float32(exposure.ambient_share)
    image = (1 - share) * direct * scene.light[..., None]
    image += share * ambient * (0.5 + 0.5 * scene.light[..., None])
    return _with_reflection(scene, image)


def _with_reflection(scene: Scene, image: FloatArray) -> FloatArray:
    """Water mirrors what stands above it, broken by its ripples."""
    h, w = image.shape[:2]
    rows, columns = np.mgrid[0:h, 0:w].astype(np.float32)
    alongside = np.clip(np.minimum(columns - 232, 1276 - columns) / 6, 0, 1)
    waterline = 686 + 54 * alongside
    depth = np.clip(rows - waterline, 0, None)
    mirrored_row = np.clip(waterline - depth * 1.05 + scene.ripples * (4 + depth * 0.14), 0, h - 1).astype(
        np.float32
    )
    mirrored_column = np.clip(columns + scene.ripples * (2 + depth * 0.03), 0, w - 1).astype(np.float32)
    mirror = cv2.remap(image.astype(np.float32), mirrored_column, mirrored_row, cv2.INTER_LINEAR)
    share = np.clip(0.34 + 0.16 * scene.ripples, 0.05, 0.72) * scene.water * (rows > waterline)
    mixed = image * (1 - share[..., None]) + mirror * share[..., None]
    return np.asarray(mixed * (1 + 0.05 * scene.water * scene.ripples)[..., None])


def develop(linear: FloatArray, exposure: Exposure, rng: np.random.Generator) -> Image8:
    """8-bit sRGB (h, w, 3) from linear responses: lens, grain, curve, dyes, age."""
    h, w = linear.shape[:2]
    image = np.asarray(
        cv2.GaussianBlur(linear.astype(np.float32), (0, 0), exposure.softness), dtype=np.float32
    )
    y, x = np.mgrid[0:h, 0:w].astype(np.float32)
    radius2 = ((x - w / 2) ** 2 + (y - h / 2) ** 2) / ((w / 2) ** 2 + (h / 2) ** 2)
    image *= 2.0**exposure.stops * (1 - exposure.vignette * radius2**1.3)[..., None]
    matrix = _working_matrix(exposure.sensitivity).astype(np.float32)
    if exposure.white_balance:
        # A phone balances on the picture's own average and gets most of the way.
        mean = image.reshape(-1, 3).mean(axis=0)
        image *= (mean[1] / mean) ** 0.75
    image = np.maximum(image @ matrix.T, 1e-5)
    density = -np.log10(image)
    density = _curve(density, exposure.contrast)
    mix = (1 - 2 * exposure.crosstalk) * np.eye(3) + exposure.crosstalk * (np.ones((3, 3)) - np.eye(3))
    aged = np.array(exposure.aged, dtype=np.float32)
    density = density @ mix.T.astype(np.float32) * (1 + aged) - np.float32(0.25) * aged
    # Grain is partly common to the three layers, and wider than a pixel.
    fine = rng.standard_normal((h, w, 3), dtype=np.float32)
    clumps = np.stack([soft_noise(rng, (h, w), exposure.grain_size) for _ in range(3)], axis=-1)
    noise = 0.6 * clumps + 0.5 * fine + 0.35 * fine.mean(axis=-1, keepdims=True)
    encoded = srgb_from_linear(np.power(np.float32(10), -density)) + exposure.grain * noise
    return np.clip(encoded * 255, 0, 255).round().astype(np.uint8)


def _curve(density: FloatArray, contrast: float) -> FloatArray:
    """A film's curve in density: contrast about mid-grey, with a shoulder and a toe."""
    pivot = 0.74
    straight = pivot + contrast * (density - pivot)
    shoulder = np.log1p(np.exp((straight - 0.03) * 16)) / 16 + 0.03
    return 2.6 - np.log1p(np.exp((2.6 - shoulder) * 6)) / 6


def evening_slide(seed: int) -> Exposure:
    """A colour slide in low sun: warm, contrasty, its dyes a little faded. The seed varies light, film and age."""
    rng = np.random.default_rng([seed, 1957])
    return Exposure(
        direct=planck(rng.uniform(3900, 4700)),
        ambient=planck(rng.uniform(7000, 10000)),
        ambient_share=float(rng.uniform(0.12, 0.24)),
        sensitivity=SLIDE_FILM,
        stops=float(rng.uniform(-0.50, -0.30)),
        contrast=float(rng.uniform(1.0, 1.12)),
        crosstalk=float(rng.uniform(0.0, 0.03)),
        aged=(
            float(rng.uniform(-0.05, 0.03)),
            float(rng.uniform(-0.02, 0.03)),
            float(rng.uniform(-0.04, 0.03)),
        ),
        grain=float(rng.uniform(0.010, 0.016)),
        vignette=float(rng.uniform(0.12, 0.26)),
    )


def overcast_print(seed: int) -> Exposure:
    """A colour print under an even sky: soft, cool, washed out and yellowed."""
    rng = np.random.default_rng([seed, 1958])
    sky = planck(rng.uniform(6600, 7800))
    return Exposure(
        direct=sky, ambient=sky, ambient_share=0.75, sensitivity=PRINT_FILM,
        stops=float(rng.uniform(-0.35, -0.1)), contrast=float(rng.uniform(0.88, 0.97)),
        crosstalk=float(rng.uniform(0.01, 0.04)),
        aged=(float(rng.uniform(-0.08, -0.02)), float(rng.uniform(-0.03, 0.02)), float(rng.uniform(0.0, 0.06))),
        grain=float(rng.uniform(0.012, 0.02)), grain_size=2.0, vignette=0.08, softness=0.95,
    )  # fmt: skip


def ortho_print(seed: int) -> Exposure:
    """An orthochromatic black-and-white print in daylight."""
    rng = np.random.default_rng([seed, 1951])
    return Exposure(
        direct=daylight(), ambient=planck(8000), ambient_share=0.3, sensitivity=ORTHO, stops=0.1,
        contrast=float(rng.uniform(0.98, 1.1)), grain=0.018, grain_size=2.2, vignette=0.22, softness=0.9,
    )  # fmt: skip


def phone_picture(seed: int) -> Exposure:
    """A phone picture by a window and a lamp, balanced by the phone, nearly right and not quite."""
    rng = np.random.default_rng([seed, 2026])
    window, lamp = planck(rng.uniform(5200, 6800)), planck(3000)
    mixed = window + rng.uniform(0.15, 0.4) * lamp
    return Exposure(
        direct=mixed / mixed[16], ambient=window, ambient_share=0.35, sensitivity=PHONE,
        stops=float(rng.uniform(-0.15, 0.1)), contrast=float(rng.uniform(1.02, 1.1)), grain=0.005, grain_size=1.2,
        vignette=0.1, softness=0.5, white_balance=True,
    )  # fmt: skip


def take(scene: Scene, exposure: Exposure, seed: int) -> Image8:
    """The finished picture (h, w, 3), 8-bit sRGB."""
    return develop(expose(scene, exposure), exposure, np.random.default_rng([seed, 7]))
