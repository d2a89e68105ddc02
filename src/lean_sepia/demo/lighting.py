"""How the demo's scene is lit."""

from __future__ import annotations

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.demo.canvas import BOOT, HEIGHT, HULL, QUAY, WIDTH, Brush, Kind, Scene, soft_noise


def light_scene(scene: Scene, rng: np.random.Generator, kind: Kind) -> None:
    """How much direct light each place gets: the flare of the hull, roundness of the funnel, shadows."""
    light = scene.light
    y = np.arange(HEIGHT, dtype=np.float32)[:, None]
    x = np.arange(WIDTH, dtype=np.float32)[None, :]
    sky = 1.02 - 0.16 * np.clip((420 - y) / 420, 0, 1) + 0.028 * soft_noise(rng, (HEIGHT, WIDTH), 170)
    light[:] = np.where(y < 690, sky, 0.9 + 0.1 * (y - 690) / 300)
    _light_hull(light, x, y, rng)
    _light_house(light, x, rng)
    _light_fittings(light, x)
    quay = Brush().fill([(0, QUAY + 10), (WIDTH, QUAY - 6), (WIDTH, HEIGHT), (0, HEIGHT)]).mask()
    if kind == "model":
        quay *= 0.0
    grit = 0.07 * soft_noise(rng, (HEIGHT, WIDTH), 5) + 0.08 * soft_noise(rng, (HEIGHT, WIDTH), 48)
    light *= 1 + quay * (grit + 0.05)
    light *= 1 + 0.006 * soft_noise(rng, (HEIGHT, WIDTH), 60)


def _light_hull(light: FloatArray, x: FloatArray, y: FloatArray, rng: np.random.Generator) -> None:
    """Flare, plates between frames, and the strake's shadow."""
    body = np.maximum(Brush().fill(HULL).mask(), Brush().fill(BOOT).mask())
    flare = 1.0 - 0.05 * np.clip((y - 600) / 140, -0.5, 1) + 0.02 * np.sin((x - 200) / 330)
    bow = np.clip((x - 1230) / 120, 0, 1) ** 1.5
    stern = np.clip((300 - x) / 130, 0, 1) ** 1.5
    # Plates between frames are never quite flat.
    buckle = 0.010 * np.sin((x - 260) / 92 * 2 * np.pi) * np.cos((y - 600) / 40) + 0.007 * soft_noise(
        rng, (HEIGHT, WIDTH), 34
    )
    side = flare - 0.30 * bow - 0.20 * stern + buckle
    light[:] = light * (1 - body) + body * side
    under_strake = np.exp(-0.5 * ((y - (624 + (x - 250) * -0.0135 + 12)) / 3.0) ** 2) * (x > 250) * (x < 1276)
    light -= 0.5 * under_strake * body
    top_edge = np.exp(-0.5 * ((y - (622 + (x - 250) * -0.0156 + 2)) / 2.0) ** 2) * (x > 250) * (x < 1276)
    light += 0.25 * top_edge * body


def _light_house(light: FloatArray, x: FloatArray, rng: np.random.Generator) -> None:
    block = (
        Brush()
        .fill([(560, 430), (1000, 430), (1012, 566), (556, 582)])
        .fill([(600, 330), (776, 330), (784, 432), (594, 432)])
        .mask()
    )
    light[:] = light * (1 - block) + block * (
        1.0 + 0.02 * np.sin(x / 140) + 0.006 * soft_noise(rng, (HEIGHT, WIDTH), 40)
    )
    corner = (
        Brush()
        .fill([(968, 430), (1000, 430), (1012, 566), (978, 569)])
        .fill([(760, 330), (776, 330), (784, 432), (766, 432)])
        .mask()
    )
    light *= 1 - 0.26 * corner


def _light_fittings(light: FloatArray, x: FloatArray) -> None:
    """The roundness of the funnel, and the shadows that stand on the house."""
    funnel = Brush().fill([(786, 244), (894, 240), (904, 436), (796, 438)]).mask()
    across = np.clip((x - 846) / 54, -1, 1)
    light[:] = light * (1 - funnel) + funnel * (
        0.55 + 0.47 * np.sqrt(np.clip(1 - (across + 0.25) ** 2, 0, 1))
    )
    shade = Brush().fill([(590, 333), (788, 333), (788, 341), (590, 341)]).mask() * 0.42
    shade += Brush().fill([(592, 432), (786, 432), (786, 443), (592, 443)]).mask() * 0.36
    shade += Brush().fill([(900, 436), (930, 436), (960, 566), (912, 568)]).mask() * 0.14
    light *= 1 - np.asarray(cv2.GaussianBlur(shade, (0, 0), 1.6), dtype=np.float32)
    masts = Brush().line([(420, 562), (418, 170)], 4).line([(1199, 500), (1197, 236)], 3)
    light *= 1 - 0.4 * masts.mask()
    locker = Brush().fill([(1050, 492), (1120, 486), (1122, 536), (1052, 548)]).mask()
    light[:] = light * (1 - locker) + locker
