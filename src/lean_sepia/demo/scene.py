"""The buoy tender drawn as layers of paint: what lies where, how it is lit, and where it can be sampled."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass, field
from importlib.resources import files
from typing import Literal

import cv2
import numpy as np
from PIL import Image, ImageDraw, ImageFont

from lean_sepia.arrays import FloatArray

WIDTH, HEIGHT = 1500, 1000
_FINE = 2  # drawn at twice the size, then averaged: soft true edges
MM_PER_PX = 38.0
"""The tender is 44 m long and 1160 pixels wide in the picture."""

Point = tuple[float, float]

_HULL = [(172, 528), (430, 566), (700, 578), (960, 560), (1180, 508), (1352, 436), (1338, 520), (1312, 622), (1282, 690), (226, 690), (196, 610)]  # fmt: skip
_BOOT = [(226, 690), (1282, 690), (1264, 742), (238, 742)]
_WATERLINE, _QUAY = 742, 905
_SCUPPERS = ((505, 586), (668, 592), (842, 586), (1010, 570))


@dataclass(frozen=True, eq=False)
class Layer:
    """Paint over what lies below: coverage (h, w) in 0–1, the paint, and whether the season has worked on it."""

    paint: str
    mask: FloatArray
    seasoned: bool = True
    wear: bool = False

    def window(self) -> tuple[slice, slice]:
        """Rows and columns outside which the layer covers nothing."""
        rows, columns = np.flatnonzero(self.mask.any(axis=1)), np.flatnonzero(self.mask.any(axis=0))
        if rows.size == 0:
            return slice(0, 0), slice(0, 0)
        return slice(int(rows[0]), int(rows[-1]) + 1), slice(int(columns[0]), int(columns[-1]) + 1)


@dataclass(eq=False)
class Scene:
    """Layers from back to front, the light on them (h, w), and places with known paint."""

    layers: list[Layer] = field(default_factory=list)
    light: FloatArray = field(default_factory=lambda: np.ones((HEIGHT, WIDTH), dtype=np.float32))
    water: FloatArray = field(default_factory=lambda: np.zeros((HEIGHT, WIDTH), dtype=np.float32))
    ripples: FloatArray = field(default_factory=lambda: np.zeros((HEIGHT, WIDTH), dtype=np.float32))
    spots: dict[str, list[tuple[float, float, float]]] = field(default_factory=dict)

    def wear_coverage(self, x0: int, y0: int, x1: int, y1: int) -> dict[str, float]:
        """Per cent of a rectangle that each worn paint covers."""
        cover: dict[str, float] = {}
        for layer in self.layers:
            if layer.wear:
                share = 100 * float(layer.mask[y0:y1, x0:x1].mean())
                cover[layer.paint] = cover.get(layer.paint, 0.0) + share
        return cover


class _Brush:
    """Draws shapes at double size and hands them out as soft masks."""

    def __init__(self) -> None:
        self._canvas = np.zeros((HEIGHT * _FINE, WIDTH * _FINE), dtype=np.uint8)

    @staticmethod
    def _points(points: Sequence[Point]) -> list[np.ndarray]:
        return [np.round(np.array(points) * _FINE * 16).astype(np.int32)]

    def fill(self, points: Sequence[Point]) -> _Brush:
        cv2.fillPoly(self._canvas, self._points(points), (255,), cv2.LINE_AA, 4)
        return self

    def line(self, points: Sequence[Point], width: float) -> _Brush:
        cv2.polylines(
            self._canvas, self._points(points), False, (255,), max(1, round(width * _FINE)), cv2.LINE_AA, 4
        )
        return self

    def disc(self, x: float, y: float, rx: float, ry: float | None = None, angle: float = 0.0) -> _Brush:
        centre = (round(x * _FINE * 16), round(y * _FINE * 16))
        axes = (max(8, round(rx * _FINE * 16)), max(8, round((ry or rx) * _FINE * 16)))
        cv2.ellipse(self._canvas, centre, axes, angle, 0, 360, (255,), -1, cv2.LINE_AA, 4)
        return self

    def text(self, x: float, y: float, words: str, size: float, spacing: float, slope: float) -> _Brush:
        font_file = files("lean_sepia") / "fonts" / "B612-Bold.ttf"
        font = ImageFont.truetype(io.BytesIO(font_file.read_bytes()), round(size * _FINE))
        sheet = Image.fromarray(self._canvas)
        draw = ImageDraw.Draw(sheet)
        for index, letter in enumerate(words):
            place = ((x + index * spacing) * _FINE, (y + index * spacing * slope) * _FINE)
            draw.text(place, letter, font=font, fill=255, anchor="mm")
        self._canvas = np.array(sheet)
        return self

    def mask(self, strength: float = 1.0) -> FloatArray:
        small = cv2.resize(self._canvas, (WIDTH, HEIGHT), interpolation=cv2.INTER_AREA)
        return np.asarray(small, dtype=np.float32) * np.float32(strength / 255)


def _deck_y(x: float) -> float:
    """Height of the sheer line."""
    xs, ys = zip(*_HULL[:6], strict=True)
    return float(np.interp(x, xs, ys))


def soft_noise(rng: np.random.Generator, shape: tuple[int, int], size: float) -> FloatArray:
    """Smooth random field (h, w) of unit deviation with features of about `size` pixels."""
    small = (max(4, int(shape[0] / size) + 3), max(4, int(shape[1] / size) + 3))
    coarse = rng.standard_normal(small).astype(np.float32)
    field_ = cv2.resize(coarse, (shape[1], shape[0]), interpolation=cv2.INTER_CUBIC)
    return np.asarray(field_ / max(float(field_.std()), 1e-6), dtype=np.float32)


Kind = Literal["second livery", "first livery", "model"]


def draw_scene(seed: int = 1957, kind: Kind = "second livery") -> Scene:
    """The tender at the quay, or its model on the bench beside a grey card.

    The same seed gives the same rust; the first livery is earlier and cleaner, the model not yet weathered.
    """
    rng = np.random.default_rng(seed)
    scene = Scene()
    hull, boot, house, funnel = {
        "second livery": ("hull", "boot", "house", "funnel"),
        "first livery": ("old hull", "boot", "old house", "band"),
        "model": ("model hull", "model boot", "model house", "model funnel"),
    }[kind]
    if kind == "model":
        _workbench(scene)
    else:
        _backdrop(scene, rng)
    _hull(scene, hull, boot)
    _house(scene, house, funnel)
    _rigging(scene)
    if kind != "model":
        _quay(scene)
    if kind == "first livery":
        scene.layers.append(
            Layer("lettering", _Brush().text(1090, 560, "TORDMULE", 22, 21, -0.18).mask(), False)
        )
    else:
        _lettering(scene)
    if kind == "second livery":
        _wear(scene, rng)
    _light(scene, rng, kind)
    _spots(scene, kind)
    return scene


def _workbench(scene: Scene) -> None:
    scene.layers.append(Layer("wall", np.ones((HEIGHT, WIDTH), dtype=np.float32), False))
    top = _Brush().fill([(0, 726), (WIDTH, 716), (WIDTH, HEIGHT), (0, HEIGHT)]).mask()
    scene.layers.append(Layer("bench", top, False))
    grain = _Brush()
    for index in range(14):
        y = 744 + index * 19
        grain.line([(0, y + 6), (700, y - 2), (WIDTH, y + 3)], 1.2)
    scene.layers.append(Layer("wood", grain.mask(0.14), False))
    shadow = _Brush().fill([(236, 742), (1270, 742), (1330, 772), (300, 772)]).mask(0.55)
    scene.layers.append(
        Layer("grime", np.asarray(cv2.GaussianBlur(shadow, (0, 0), 7), dtype=np.float32), False)
    )
    card = _Brush().fill([(1120, 806), (1392, 800), (1410, 950), (1124, 958)]).mask()
    scene.layers.append(Layer("card", card, False))


def _backdrop(scene: Scene, rng: np.random.Generator) -> None:
    h, w = HEIGHT, WIDTH
    scene.layers.append(Layer("sky", np.ones((h, w), dtype=np.float32), False))
    for level, rise, strength, blur in ((452, 40, 0.30, 2.6), (520, 30, 0.52, 2.0)):
        shape = np.interp(np.arange(w), np.linspace(0, w, 8), rng.standard_normal(8))
        ridge = (
            level + rise * shape + 4 * soft_noise(rng, (1, w), 30)[0] + 1.5 * soft_noise(rng, (1, w), 7)[0]
        )
        hills = (np.arange(h)[:, None] > ridge[None, :]).astype(np.float32)
        texture = 1 + 0.10 * soft_noise(rng, (h, w), 14)
        soft = cv2.GaussianBlur(hills, (0, 0), blur) * strength * texture
        scene.layers.append(Layer("hill", np.clip(soft, 0, 1).astype(np.float32), False))
    sheds, roofs = _Brush(), _Brush()
    for x, top, width in ((40, 580, 118), (1368, 572, 104), (1440, 606, 80)):
        sheds.fill([(x, top + 24), (x + width, top + 24), (x + width, 690), (x, 690)])
        roofs.fill([(x - 6, top + 26), (x + width * 0.45, top), (x + width + 6, top + 26)])
    for mask, paint in ((sheds.mask(0.62), "shed"), (roofs.mask(0.6), "grime")):
        scene.layers.append(
            Layer(paint, np.asarray(cv2.GaussianBlur(mask, (0, 0), 1.6), dtype=np.float32), False)
        )
    jetty = _Brush().fill([(0, 664), (w, 658), (w, 690), (0, 690)]).mask(0.8)
    scene.layers.append(
        Layer("stone", np.asarray(cv2.GaussianBlur(jetty, (0, 0), 1.4), dtype=np.float32), False)
    )
    water = np.zeros((h, w), dtype=np.float32)
    water[684:] = 1
    scene.layers.append(Layer("water", water, False))
    coarse = soft_noise(rng, (h, w // 5), 9)
    fine = soft_noise(rng, (h, w // 4), 4)
    depth = np.linspace(0.35, 1.25, h - 684, dtype=np.float32)[:, None]
    waves = np.asarray(cv2.resize(coarse, (w, h)) * 0.7 + cv2.resize(fine, (w, h)) * 0.5, dtype=np.float32)
    scene.ripples[684:] = waves[684:] * depth
    scene.water[684:] = 1


def _hull(scene: Scene, paint: str, boot: str) -> None:
    body = _Brush().fill(_HULL).mask()
    scene.layers.append(Layer(paint, body))
    # Under the rubbing strake the sun never gets at the paint.
    sheltered = _Brush().fill([(300, 633), (1230, 622), (1230, 652), (300, 655)]).mask()
    scene.layers.append(Layer(paint, np.minimum(sheltered, body), False))
    scene.layers.append(Layer(boot, _Brush().fill(_BOOT).mask()))
    # Behind the stern mooring fender the boot topping has kept its colour too.
    scene.layers.append(
        Layer(boot, _Brush().fill([(262, 692), (338, 692), (338, 716), (262, 716)]).mask(), False)
    )
    scene.layers.append(
        Layer("wood", _Brush().fill([(250, 622), (1276, 606), (1276, 621), (250, 634)]).mask(), False)
    )
    plates = _Brush()
    for x in range(260, 1300, 92):
        plates.line([(x, _deck_y(x) + 4), (x + 6, 690)], 0.8)
    plates.line([(200, 600), (1325, 560)], 0.8).line([(226, 664), (1296, 662)], 0.8).line(
        [(232, 716), (1274, 716)], 0.8
    )
    scene.layers.append(Layer("grime", plates.mask(0.30), False))
    rail_edge = _Brush().line([(x, _deck_y(x) + 3) for x in range(174, 1352, 6)], 5)
    scene.layers.append(Layer(paint, rail_edge.mask(), False))
    holes = _Brush()
    for x in (356, 430, 1100, 1166, 1226):
        holes.disc(x, _deck_y(x) + 66, 8)
    scene.layers.append(Layer("glass", holes.mask(), False))
    slots = _Brush()
    for x, y in _SCUPPERS:
        slots.fill([(x - 13, y - 4), (x + 13, y - 4), (x + 13, y + 2), (x - 13, y + 2)])
    scene.layers.append(Layer("glass", slots.mask(0.9), False))


def _house(scene: Scene, paint: str, funnel: str) -> None:
    funnel_mask = _Brush().fill([(792, 268), (890, 262), (902, 434), (800, 436)]).mask()
    scene.layers.append(Layer(funnel, funnel_mask))
    band = _Brush().fill([(791, 250), (889, 244), (893, 300), (794, 306)]).mask()
    scene.layers.append(Layer("band", band))
    block = _Brush().fill([(560, 430), (1000, 430), (1012, 566), (556, 582)])
    scene.layers.append(Layer(paint, block.mask()))
    bridge = _Brush().fill([(600, 330), (776, 330), (784, 432), (594, 432)])
    scene.layers.append(Layer(paint, bridge.mask()))
    scene.layers.append(Layer(paint, _Brush().fill([(586, 322), (790, 322), (790, 332), (586, 332)]).mask()))
    windows = _Brush()
    for x in range(612, 770, 40):
        windows.fill([(x, 350), (x + 27, 350), (x + 27, 382), (x, 382)])
    for x in (600, 690, 930):
        windows.disc(x, 480, 9)
    windows.fill([(850, 474), (888, 474), (888, 566), (850, 568)])
    scene.layers.append(Layer("glass", windows.mask(), False))
    seams = (
        _Brush()
        .line([(556, 470), (1010, 462)], 0.8)
        .line([(744, 432), (746, 574)], 0.8)
        .line([(840, 466), (846, 572)], 0.8)
    )
    scene.layers.append(Layer("grime", seams.mask(0.28), False))
    sills = _Brush()
    for x in range(612, 770, 40):
        sills.line([(x - 2, 384), (x + 29, 384)], 2).line([(x - 2, 349), (x + 29, 349)], 1.2)
    scene.layers.append(Layer("grime", sills.mask(0.5), False))
    panes = _Brush()
    for x in range(612, 770, 40):
        panes.fill([(x + 3, 379), (x + 14, 353), (x + 21, 353), (x + 9, 379)])
    scene.layers.append(Layer("sky", panes.mask(0.16), False))
    vents = _Brush().fill([(930, 400), (944, 400), (944, 432), (930, 432)]).disc(937, 396, 13, 12)
    vents.fill([(966, 404), (978, 404), (978, 432), (966, 432)]).disc(972, 401, 11, 10)
    scene.layers.append(Layer(paint, vents.mask(), True))
    mouths = _Brush().disc(941, 396, 7, 9).disc(976, 401, 6, 8)
    scene.layers.append(Layer("boot", mouths.mask(), True))
    ladder = _Brush().line([(806, 430), (803, 330)], 1.2).line([(818, 430), (815, 330)], 1.2)
    for y in range(338, 430, 9):
        ladder.line([(804, y), (817, y)], 1.0)
    scene.layers.append(Layer("grime", ladder.mask(0.8), False))
    bridge_rail = _Brush()
    for x in range(790, 1004, 22):
        bridge_rail.line([(x, 430), (x, 402)], 1.2)
    bridge_rail.line([(784, 402), (1002, 402)], 1.2).line([(784, 416), (1002, 416)], 1.1)
    scene.layers.append(Layer("lettering", bridge_rail.mask(0.85), False))
    locker = _Brush().fill([(1050, 492), (1120, 486), (1122, 536), (1052, 548)])
    scene.layers.append(Layer("locker", locker.mask(), False))


def _rigging(scene: Scene) -> None:
    gear = (
        _Brush()
        .line([(416, 562), (414, 170)], 12)
        .line([(420, 520), (206, 268)], 9)
        .line([(1196, 500), (1194, 236)], 8)
    )
    gear.fill([(380, 536), (452, 540), (450, 566), (382, 562)]).fill(
        [(386, 250), (442, 250), (440, 266), (388, 266)]
    )
    scene.layers.append(Layer("gear", gear.mask()))
    wires = (
        _Brush()
        .line([(414, 176), (206, 268)], 1.1)
        .line([(414, 180), (600, 332)], 1.1)
        .line([(1194, 240), (1340, 440)], 1.0)
    )
    wires.line([(206, 268), (212, 520)], 1.2).line([(1194, 244), (900, 270)], 1.0)
    rails = _Brush()
    for x in range(186, 1352, 24):
        if not 548 < x < 1030:
            rails.line([(x, _deck_y(x)), (x, _deck_y(x) - 30)], 1.4)
    for lift in (15, 30):
        rails.line([(x, _deck_y(x) - lift) for x in range(182, 552, 8)], 1.3)
        rails.line([(x, _deck_y(x) - lift) for x in range(1030, 1350, 8)], 1.3)
    scene.layers.append(Layer("grime", wires.mask(0.85), False))
    scene.layers.append(Layer("lettering", rails.mask(0.9), False))


def _quay(scene: Scene) -> None:
    quay = _Brush().fill([(0, _QUAY + 10), (WIDTH, _QUAY - 6), (WIDTH, HEIGHT), (0, HEIGHT)])
    scene.layers.append(Layer("stone", quay.mask(), False))
    joints = _Brush()
    for x in range(-40, WIDTH, 170):
        joints.line([(x + 60, _QUAY + 4), (x, HEIGHT)], 1.6)
    joints.line([(0, _QUAY + 40), (WIDTH, _QUAY + 26)], 1.6)
    bollard = _Brush().fill([(322, 872), (362, 872), (368, 930), (316, 930)]).disc(342, 872, 30, 11)
    rope = _Brush().line([(342, 880), (300, 800), (236, 690), (206, 560)], 2.2)
    scene.layers.append(Layer("grime", joints.mask(0.5), False))
    scene.layers.append(Layer("grime", rope.mask(0.9), False))
    scene.layers.append(Layer("band", bollard.mask(), False))
    scene.water *= 1 - np.maximum(quay.mask(), bollard.mask())


def _lettering(scene: Scene) -> None:
    old = _Brush().text(300, 604, "SKARRHOLM", 26, 26, 0.03)
    scene.layers.append(Layer("old lettering", old.mask(0.88), False))
    new = _Brush().text(1052, 572, "TORDMULE", 27, 25, -0.16)
    scene.layers.append(Layer("lettering", new.mask(), False))
    plate = _Brush().fill([(796, 442), (848, 442), (848, 468), (796, 468)])
    scene.layers.append(Layer("lettering", plate.mask(), False))


def _wear(scene: Scene, rng: np.random.Generator) -> None:
    body = _Brush().fill(_HULL).mask()
    for x, y in _SCUPPERS:
        _streak(scene, rng, x, y + 2, float(rng.uniform(62, 96)), float(rng.uniform(9, 14)), body)
    for source in (416.0, 760.0, 1140.0):
        _streak(scene, rng, source, 636, float(rng.uniform(28, 46)), 5.0, body)
    dark, light = _Brush(), _Brush()
    centres = [(x, _deck_y(x) + 7, 16) for x in rng.uniform(1196, 1335, 20)]
    centres += [(x, _deck_y(x) + 5, 20) for x in rng.uniform(180, 1330, 70)]
    centres += [(x, rng.uniform(652, 690), 20) for x in rng.uniform(240, 1270, 60)]
    centres += [(x, rng.uniform(600, 618), 16) for x in rng.uniform(260, 1270, 14)]
    for cx, cy, spread in centres:
        for _ in range(int(rng.integers(2, 8))):
            size = float(np.clip(rng.lognormal(-0.05, 0.55), 0.5, 4.0))
            px, py = cx + rng.normal(0, spread), cy + abs(rng.normal(0, spread / 5))
            shape = (size, size * rng.uniform(0.6, 1.0), rng.uniform(0, 180))
            if rng.random() < 0.35:
                light.disc(px, py, *shape)
            else:
                dark.disc(px, py, *shape)
    scene.layers.append(Layer("scratch", light.mask() * body, False, wear=True))
    scene.layers.append(Layer("rust", dark.mask() * body, False, wear=True))
    row = np.arange(HEIGHT, dtype=np.float32)[:, None]
    runs = np.repeat(np.clip(soft_noise(rng, (1, WIDTH), 7) - 0.7, 0, 2), HEIGHT, axis=0)
    broken = np.clip(soft_noise(rng, (HEIGHT // 4, WIDTH), 26), 0, 1)
    runs = runs * np.asarray(cv2.resize(broken, (WIDTH, HEIGHT)), dtype=np.float32) * 0.10
    scene.layers.append(Layer("grime", (np.clip(runs, 0, 0.22) * body).astype(np.float32), False))
    house = _Brush().fill([(560, 430), (1000, 430), (1012, 566), (556, 582)]).mask()
    scene.layers.append(Layer("grime", (np.clip(runs * 1.5, 0, 0.26) * house).astype(np.float32), False))
    foot = np.clip((row - 530) / 44, 0, 1) * 0.42 * house
    scene.layers.append(Layer("grime", foot.astype(np.float32), False))
    cloud = 1 + 0.4 * soft_noise(rng, (HEIGHT, WIDTH), 40)
    side = np.maximum(body, _Brush().fill(_BOOT).mask())
    tide = np.clip((row - 706) / 36, 0, 1) ** 1.2 * 0.78 + np.exp(-0.5 * ((row - 686) / 5) ** 2) * 0.4
    scene.layers.append(
        Layer("grime", np.asarray(np.clip(tide * cloud, 0, 0.8) * side, dtype=np.float32), False)
    )
    soot = (
        np.exp(-0.5 * (((np.arange(WIDTH)[None, :] - 846) / 40) ** 2))
        * np.clip((262 - row) / 20 + 1, 0, 1)
        * (row > 240)
    )
    funnel = _Brush().fill([(791, 244), (893, 244), (895, 290), (791, 290)]).mask()
    scene.layers.append(Layer("glass", np.asarray(0.5 * soot * funnel, dtype=np.float32), False))


def _streak(
    scene: Scene, rng: np.random.Generator, x: float, y: float, length: float, width: float, body: FloatArray
) -> None:
    """A rust run that starts at a source and follows gravity, fading out below."""
    rows = np.arange(HEIGHT, dtype=np.float32)[:, None] - np.float32(y)
    columns = np.arange(WIDTH, dtype=np.float32)[None, :] - np.float32(x)
    along = np.clip(rows / length, 0, 1)
    wobble = 1.2 * soft_noise(rng, (HEIGHT, 1), 18)
    half = width / 2 * (1 - 0.55 * along)
    profile = 1 / (1 + np.exp(np.minimum((np.abs(columns - wobble) - half) / 0.9, 30)))
    fingers = np.clip(1 + 0.25 * soft_noise(rng, (1, WIDTH), 3), 0.3, 1.4)
    strength = np.where((rows > 0) & (rows < length), (1 - along) ** 0.7, 0) * 0.92
    mask = np.clip(profile * strength * fingers, 0, 1) * body
    paint = "rust" if rng.random() < 0.6 else "light rust"
    scene.layers.append(Layer(paint, mask.astype(np.float32), False, wear=True))


def _light(scene: Scene, rng: np.random.Generator, kind: Kind) -> None:
    """How much direct light each place gets: the flare of the hull, roundness of the funnel, shadows."""
    light = scene.light
    y = np.arange(HEIGHT, dtype=np.float32)[:, None]
    x = np.arange(WIDTH, dtype=np.float32)[None, :]
    sky = 1.02 - 0.16 * np.clip((420 - y) / 420, 0, 1) + 0.028 * soft_noise(rng, (HEIGHT, WIDTH), 170)
    light[:] = np.where(y < 690, sky, 0.9 + 0.1 * (y - 690) / 300)
    body = np.maximum(_Brush().fill(_HULL).mask(), _Brush().fill(_BOOT).mask())
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
    block = (
        _Brush()
        .fill([(560, 430), (1000, 430), (1012, 566), (556, 582)])
        .fill([(600, 330), (776, 330), (784, 432), (594, 432)])
        .mask()
    )
    light[:] = light * (1 - block) + block * (
        1.0 + 0.02 * np.sin(x / 140) + 0.006 * soft_noise(rng, (HEIGHT, WIDTH), 40)
    )
    corner = (
        _Brush()
        .fill([(968, 430), (1000, 430), (1012, 566), (978, 569)])
        .fill([(760, 330), (776, 330), (784, 432), (766, 432)])
        .mask()
    )
    light *= 1 - 0.26 * corner
    funnel = _Brush().fill([(786, 244), (894, 240), (904, 436), (796, 438)]).mask()
    across = np.clip((x - 846) / 54, -1, 1)
    light[:] = light * (1 - funnel) + funnel * (
        0.55 + 0.47 * np.sqrt(np.clip(1 - (across + 0.25) ** 2, 0, 1))
    )
    shade = _Brush().fill([(590, 333), (788, 333), (788, 341), (590, 341)]).mask() * 0.42
    shade += _Brush().fill([(592, 432), (786, 432), (786, 443), (592, 443)]).mask() * 0.36
    shade += _Brush().fill([(900, 436), (930, 436), (960, 566), (912, 568)]).mask() * 0.14
    light *= 1 - np.asarray(cv2.GaussianBlur(shade, (0, 0), 1.6), dtype=np.float32)
    masts = _Brush().line([(420, 562), (418, 170)], 4).line([(1199, 500), (1197, 236)], 3)
    light *= 1 - 0.4 * masts.mask()
    locker = _Brush().fill([(1050, 492), (1120, 486), (1122, 536), (1052, 548)]).mask()
    light[:] = light * (1 - locker) + locker
    quay = _Brush().fill([(0, _QUAY + 10), (WIDTH, _QUAY - 6), (WIDTH, HEIGHT), (0, HEIGHT)]).mask()
    if kind == "model":
        quay *= 0.0
    grit = 0.07 * soft_noise(rng, (HEIGHT, WIDTH), 5) + 0.08 * soft_noise(rng, (HEIGHT, WIDTH), 48)
    light *= 1 + quay * (grit + 0.05)
    light *= 1 + 0.006 * soft_noise(rng, (HEIGHT, WIDTH), 60)


def _spots(scene: Scene, kind: Kind) -> None:
    """Discs with one paint and little else, by paint and state, for samples, anchors and checks."""
    scene.spots = {
        "hull exposed": [(560, 606, 9), (740, 599, 7), (936, 592, 7), (870, 604, 8)],
        "hull sheltered": [(900, 643, 4), (640, 646, 4), (1000, 642, 4)],
        "boot sheltered": [(300, 702, 6)],
        "boot exposed": [(420, 703, 7), (760, 703, 7), (1090, 702, 7)],
        "house exposed": [(640, 520, 12), (790, 520, 12), (960, 510, 12), (690, 404, 9)],
        "funnel exposed": [(836, 372, 11), (840, 340, 10), (832, 402, 9)],
        "band exposed": [(838, 288, 7), (846, 284, 6)],
        "gear exposed": [(416, 551, 7), (414, 430, 3.5)],
        "locker": [(1088, 511, 5)],
        "lettering": [(822, 455, 8)],
    }
    if kind == "model":
        scene.spots = {
            "model hull": scene.spots["hull exposed"],
            "model boot": scene.spots["boot exposed"],
            "model house": scene.spots["house exposed"],
            "model funnel": scene.spots["funnel exposed"],
            "card": [(1260, 880, 34)],
        }
