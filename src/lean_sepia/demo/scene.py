"""The buoy tender drawn as layers of paint: what lies where, how it is lit, and where it can be sampled."""

from __future__ import annotations

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.demo.canvas import (
    BOOT,
    HEIGHT,
    HULL,
    QUAY,
    SCUPPERS,
    WIDTH,
    Brush,
    Kind,
    Layer,
    Scene,
    soft_noise,
)
from lean_sepia.demo.lighting import light_scene


def _deck_y(x: float) -> float:
    """Height of the sheer line."""
    xs, ys = zip(*HULL[:6], strict=True)
    return float(np.interp(x, xs, ys))


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
            Layer("lettering", Brush().text(1090, 560, "TORDMULE", 22, 21, -0.18).mask(), False)
        )
    else:
        _lettering(scene)
    if kind == "second livery":
        _wear(scene, rng)
    light_scene(scene, rng, kind)
    _spots(scene, kind)
    return scene


def _workbench(scene: Scene) -> None:
    scene.layers.append(Layer("wall", np.ones((HEIGHT, WIDTH), dtype=np.float32), False))
    top = Brush().fill([(0, 726), (WIDTH, 716), (WIDTH, HEIGHT), (0, HEIGHT)]).mask()
    scene.layers.append(Layer("bench", top, False))
    grain = Brush()
    for index in range(14):
        y = 744 + index * 19
        grain.line([(0, y + 6), (700, y - 2), (WIDTH, y + 3)], 1.2)
    scene.layers.append(Layer("wood", grain.mask(0.14), False))
    shadow = Brush().fill([(236, 742), (1270, 742), (1330, 772), (300, 772)]).mask(0.55)
    scene.layers.append(
        Layer("grime", np.asarray(cv2.GaussianBlur(shadow, (0, 0), 7), dtype=np.float32), False)
    )
    card = Brush().fill([(1120, 806), (1392, 800), (1410, 950), (1124, 958)]).mask()
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
    sheds, roofs = Brush(), Brush()
    for x, top, width in ((40, 580, 118), (1368, 572, 104), (1440, 606, 80)):
        sheds.fill([(x, top + 24), (x + width, top + 24), (x + width, 690), (x, 690)])
        roofs.fill([(x - 6, top + 26), (x + width * 0.45, top), (x + width + 6, top + 26)])
    for mask, paint in ((sheds.mask(0.62), "shed"), (roofs.mask(0.6), "grime")):
        scene.layers.append(
            Layer(paint, np.asarray(cv2.GaussianBlur(mask, (0, 0), 1.6), dtype=np.float32), False)
        )
    jetty = Brush().fill([(0, 664), (w, 658), (w, 690), (0, 690)]).mask(0.8)
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
    body = Brush().fill(HULL).mask()
    scene.layers.append(Layer(paint, body))
    # Under the rubbing strake the sun never gets at the paint.
    sheltered = Brush().fill([(300, 633), (1230, 622), (1230, 652), (300, 655)]).mask()
    scene.layers.append(Layer(paint, np.minimum(sheltered, body), False))
    scene.layers.append(Layer(boot, Brush().fill(BOOT).mask()))
    # Behind the stern mooring fender the boot topping has kept its colour too.
    scene.layers.append(
        Layer(boot, Brush().fill([(262, 692), (338, 692), (338, 716), (262, 716)]).mask(), False)
    )
    scene.layers.append(
        Layer("wood", Brush().fill([(250, 622), (1276, 606), (1276, 621), (250, 634)]).mask(), False)
    )
    plates = Brush()
    for x in range(260, 1300, 92):
        plates.line([(x, _deck_y(x) + 4), (x + 6, 690)], 0.8)
    plates.line([(200, 600), (1325, 560)], 0.8).line([(226, 664), (1296, 662)], 0.8).line(
        [(232, 716), (1274, 716)], 0.8
    )
    scene.layers.append(Layer("grime", plates.mask(0.30), False))
    rail_edge = Brush().line([(x, _deck_y(x) + 3) for x in range(174, 1352, 6)], 5)
    scene.layers.append(Layer(paint, rail_edge.mask(), False))
    holes = Brush()
    for x in (356, 430, 1100, 1166, 1226):
        holes.disc(x, _deck_y(x) + 66, 8)
    scene.layers.append(Layer("glass", holes.mask(), False))
    slots = Brush()
    for x, y in SCUPPERS:
        slots.fill([(x - 13, y - 4), (x + 13, y - 4), (x + 13, y + 2), (x - 13, y + 2)])
    scene.layers.append(Layer("glass", slots.mask(0.9), False))


def _house(scene: Scene, paint: str, funnel: str) -> None:
    funnel_mask = Brush().fill([(792, 268), (890, 262), (902, 434), (800, 436)]).mask()
    scene.layers.append(Layer(funnel, funnel_mask))
    band = Brush().fill([(791, 250), (889, 244), (893, 300), (794, 306)]).mask()
    scene.layers.append(Layer("band", band))
    block = Brush().fill([(560, 430), (1000, 430), (1012, 566), (556, 582)])
    scene.layers.append(Layer(paint, block.mask()))
    bridge = Brush().fill([(600, 330), (776, 330), (784, 432), (594, 432)])
    scene.layers.append(Layer(paint, bridge.mask()))
    scene.layers.append(Layer(paint, Brush().fill([(586, 322), (790, 322), (790, 332), (586, 332)]).mask()))
    windows = Brush()
    for x in range(612, 770, 40):
        windows.fill([(x, 350), (x + 27, 350), (x + 27, 382), (x, 382)])
    for x in (600, 690, 930):
        windows.disc(x, 480, 9)
    windows.fill([(850, 474), (888, 474), (888, 566), (850, 568)])
    scene.layers.append(Layer("glass", windows.mask(), False))
    seams = (
        Brush()
        .line([(556, 470), (1010, 462)], 0.8)
        .line([(744, 432), (746, 574)], 0.8)
        .line([(840, 466), (846, 572)], 0.8)
    )
    scene.layers.append(Layer("grime", seams.mask(0.28), False))
    sills = Brush()
    for x in range(612, 770, 40):
        sills.line([(x - 2, 384), (x + 29, 384)], 2).line([(x - 2, 349), (x + 29, 349)], 1.2)
    scene.layers.append(Layer("grime", sills.mask(0.5), False))
    panes = Brush()
    for x in range(612, 770, 40):
        panes.fill([(x + 3, 379), (x + 14, 353), (x + 21, 353), (x + 9, 379)])
    scene.layers.append(Layer("sky", panes.mask(0.16), False))
    vents = Brush().fill([(930, 400), (944, 400), (944, 432), (930, 432)]).disc(937, 396, 13, 12)
    vents.fill([(966, 404), (978, 404), (978, 432), (966, 432)]).disc(972, 401, 11, 10)
    scene.layers.append(Layer(paint, vents.mask(), True))
    mouths = Brush().disc(941, 396, 7, 9).disc(976, 401, 6, 8)
    scene.layers.append(Layer("boot", mouths.mask(), True))
    ladder = Brush().line([(806, 430), (803, 330)], 1.2).line([(818, 430), (815, 330)], 1.2)
    for y in range(338, 430, 9):
        ladder.line([(804, y), (817, y)], 1.0)
    scene.layers.append(Layer("grime", ladder.mask(0.8), False))
    bridge_rail = Brush()
    for x in range(790, 1004, 22):
        bridge_rail.line([(x, 430), (x, 402)], 1.2)
    bridge_rail.line([(784, 402), (1002, 402)], 1.2).line([(784, 416), (1002, 416)], 1.1)
    scene.layers.append(Layer("lettering", bridge_rail.mask(0.85), False))
    locker = Brush().fill([(1050, 492), (1120, 486), (1122, 536), (1052, 548)])
    scene.layers.append(Layer("locker", locker.mask(), False))


def _rigging(scene: Scene) -> None:
    gear = (
        Brush()
        .line([(416, 562), (414, 170)], 12)
        .line([(420, 520), (206, 268)], 9)
        .line([(1196, 500), (1194, 236)], 8)
    )
    gear.fill([(380, 536), (452, 540), (450, 566), (382, 562)]).fill(
        [(386, 250), (442, 250), (440, 266), (388, 266)]
    )
    scene.layers.append(Layer("gear", gear.mask()))
    wires = (
        Brush()
        .line([(414, 176), (206, 268)], 1.1)
        .line([(414, 180), (600, 332)], 1.1)
        .line([(1194, 240), (1340, 440)], 1.0)
    )
    wires.line([(206, 268), (212, 520)], 1.2).line([(1194, 244), (900, 270)], 1.0)
    rails = Brush()
    for x in range(186, 1352, 24):
        if not 548 < x < 1030:
            rails.line([(x, _deck_y(x)), (x, _deck_y(x) - 30)], 1.4)
    for lift in (15, 30):
        rails.line([(x, _deck_y(x) - lift) for x in range(182, 552, 8)], 1.3)
        rails.line([(x, _deck_y(x) - lift) for x in range(1030, 1350, 8)], 1.3)
    scene.layers.append(Layer("grime", wires.mask(0.85), False))
    scene.layers.append(Layer("lettering", rails.mask(0.9), False))


def _quay(scene: Scene) -> None:
    quay = Brush().fill([(0, QUAY + 10), (WIDTH, QUAY - 6), (WIDTH, HEIGHT), (0, HEIGHT)])
    scene.layers.append(Layer("stone", quay.mask(), False))
    joints = Brush()
    for x in range(-40, WIDTH, 170):
        joints.line([(x + 60, QUAY + 4), (x, HEIGHT)], 1.6)
    joints.line([(0, QUAY + 40), (WIDTH, QUAY + 26)], 1.6)
    bollard = Brush().fill([(322, 872), (362, 872), (368, 930), (316, 930)]).disc(342, 872, 30, 11)
    rope = Brush().line([(342, 880), (300, 800), (236, 690), (206, 560)], 2.2)
    scene.layers.append(Layer("grime", joints.mask(0.5), False))
    scene.layers.append(Layer("grime", rope.mask(0.9), False))
    scene.layers.append(Layer("band", bollard.mask(), False))
    scene.water *= 1 - np.maximum(quay.mask(), bollard.mask())


def _lettering(scene: Scene) -> None:
    old = Brush().text(300, 604, "SKARRHOLM", 26, 26, 0.03)
    scene.layers.append(Layer("old lettering", old.mask(0.88), False))
    new = Brush().text(1052, 572, "TORDMULE", 27, 25, -0.16)
    scene.layers.append(Layer("lettering", new.mask(), False))
    plate = Brush().fill([(796, 442), (848, 442), (848, 468), (796, 468)])
    scene.layers.append(Layer("lettering", plate.mask(), False))


def _wear(scene: Scene, rng: np.random.Generator) -> None:
    body = Brush().fill(HULL).mask()
    for x, y in SCUPPERS:
        _streak(scene, rng, x, y + 2, float(rng.uniform(62, 96)), float(rng.uniform(9, 14)), body)
    for source in (416.0, 760.0, 1140.0):
        _streak(scene, rng, source, 636, float(rng.uniform(28, 46)), 5.0, body)
    dark, light = Brush(), Brush()
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
    house = Brush().fill([(560, 430), (1000, 430), (1012, 566), (556, 582)]).mask()
    scene.layers.append(Layer("grime", (np.clip(runs * 1.5, 0, 0.26) * house).astype(np.float32), False))
    foot = np.clip((row - 530) / 44, 0, 1) * 0.42 * house
    scene.layers.append(Layer("grime", foot.astype(np.float32), False))
    cloud = 1 + 0.4 * soft_noise(rng, (HEIGHT, WIDTH), 40)
    side = np.maximum(body, Brush().fill(BOOT).mask())
    tide = np.clip((row - 706) / 36, 0, 1) ** 1.2 * 0.78 + np.exp(-0.5 * ((row - 686) / 5) ** 2) * 0.4
    scene.layers.append(
        Layer("grime", np.asarray(np.clip(tide * cloud, 0, 0.8) * side, dtype=np.float32), False)
    )
    soot = (
        np.exp(-0.5 * (((np.arange(WIDTH)[None, :] - 846) / 40) ** 2))
        * np.clip((262 - row) / 20 + 1, 0, 1)
        * (row > 240)
    )
    funnel = Brush().fill([(791, 244), (893, 244), (895, 290), (791, 290)]).mask()
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
