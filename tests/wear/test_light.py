"""Light and dust over a region: shares come out as drawn, also where most of it is worn."""

import cv2
import numpy as np
import pytest

from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.colour.lights import white
from lean_sepia.wear.fitting import fit_scene
from lean_sepia.wear.scene import XyzLook
from lean_sepia.wear.survey import survey

BASE, RUST, WOOD = (45.0, -16.0, -6.0), (36.0, 22.0, 24.0), (72.0, 6.0, 24.0)
HEIGHT, WIDTH = 260, 360


def panel(rng, shares, light=0.25, veil=0.25, noise=0.015):
    """Blobs of kinds on the ground under uneven light and dust; XYZ, masks, and where each colour lies plainly."""
    taken = np.zeros((HEIGHT, WIDTH), bool)
    paint = np.broadcast_to(xyz_from_lab(np.array(BASE)), (HEIGHT, WIDTH, 3)).copy()
    masks = {}
    for (name, lab), share in zip((("rust", RUST), ("wood", WOOD)), shares, strict=False):
        field = cv2.GaussianBlur(rng.standard_normal((HEIGHT, WIDTH)), (0, 0), 6)
        field[taken] = np.inf
        mask = field <= np.quantile(field, share)
        taken |= mask
        paint[mask] = xyz_from_lab(np.array(lab))
        masks[name] = mask
    across, down = np.linspace(-1, 1, WIDTH)[None, :, None], np.linspace(0, 1, HEIGHT)[:, None, None]
    dust = xyz_from_lab(np.array([58.0, 5.0, 15.0]))
    seen = (1 + light * across) * ((1 - veil * down) * paint + veil * down * dust)
    seen = cv2.GaussianBlur(seen, (0, 0), 0.7) * (1 + rng.normal(0, noise, seen.shape))
    spots = {name: spot_in(rng, mask) for name, mask in {"": ~taken, **masks}.items()}
    return seen, masks, spots


def spot_in(rng, mask):
    ys, xs = np.nonzero(cv2.erode(mask.astype(np.uint8), np.ones((5, 5))))
    chosen = rng.integers(len(ys))
    return float(xs[chosen]), float(ys[chosen]), 2.0


def lab_at(xyz, spot):
    from lean_sepia.colour.lab import lab_from_xyz

    x, y, r = (int(value) for value in spot)
    return lab_from_xyz(np.median(xyz[y - r : y + r + 1, x - r : x + r + 1].reshape(-1, 3), axis=0))


@pytest.mark.parametrize("shares", [(0.05, 0.03), (0.3,), (0.65,), (0.55, 0.08)])
@pytest.mark.parametrize("seed", [1, 2, 3])
def test_shares_under_uneven_light_and_dust(shares, seed):
    rng = np.random.default_rng(seed)
    xyz, masks, spots = panel(rng, shares)
    classes = {name: lab_at(xyz, spots[name]) for name in masks}
    found = survey(XyzLook(xyz), lab_at(xyz, spots[""]), classes, mm_per_px=4, scale=96, spots=spots)
    for measure in found.classes:
        truth = 100 * masks[measure.name].mean()
        assert measure.coverage_percent == pytest.approx(truth, abs=max(0.15, 0.1 * truth)), measure.name


def test_a_flattened_paint_has_one_colour(rng):
    xyz, masks, spots = panel(rng, (0.1,), noise=0.004)
    colours = np.array([xyz_from_lab(lab_at(xyz, spots[name])) for name in ("", "rust")])
    scene = fit_scene(XyzLook(xyz), colours, [spots[""], spots["rust"]])
    ground = cv2.erode((~masks["rust"]).astype(np.uint8), np.ones((5, 5))) > 0
    before, after = (
        part[ground] / part[ground].mean(axis=0)
        for part in (
            xyz / white(),
            scene.flattened(XyzLook(xyz), np.arange(HEIGHT * WIDTH)).reshape(xyz.shape),
        )
    )
    assert after.std() < 0.25 * before.std()


def test_a_region_of_one_colour_and_a_tiny_one_are_no_wear(rng):
    plain = np.broadcast_to(xyz_from_lab(np.array(BASE)), (40, 50, 3)) * (
        1 + rng.normal(0, 0.005, (40, 50, 3))
    )
    assert (
        survey(
            XyzLook(plain), np.array(BASE), {"rust": np.array(RUST)}, mm_per_px=4, scale=96
        ).coverage_percent
        < 0.1
    )
    tiny = survey(XyzLook(plain[:3, :3]), np.array(BASE), {"rust": np.array(RUST)}, mm_per_px=4, scale=96)
    assert tiny.coverage_percent < 0.1
