"""The finish as a patch and on a photo: the means that the figures have, seeded, with coats looked through."""

import numpy as np
import pytest

from lean_sepia.answers.evidence import cast_of
from lean_sepia.answers.preview.on_photo import finish_on_photo, photo_to_paint, repainted
from lean_sepia.answers.preview.patch import patch_picture
from lean_sepia.answers.preview.texture import Frame
from lean_sepia.answers.strata import strata_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.srgb import linear_from_srgb, xyz_from_linear
from lean_sepia.document.edits.coats import change_coat, lay, pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.panels import set_panels
from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.entities.panels import PanelGrid
from lean_sepia.document.model import Project, Region
from lean_sepia.photo.preview import CorrectionTable

KINDS = (
    ("tone", "bone-white", Manner(2, 0.7, "close", 0.25)), ("fade", "chalk", Manner(2, 0.8, "airbrush", 0.4, profile="panels")),
    ("filter", "oil-raw-umber", Manner(2, 20 / 21)), ("oil-dots", "oil-ochre", Manner(1, 0.0, "glaze", 0.12)),
    ("chips", "oxide", Manner(1, 0.0, "sponge", 0.03)), ("streaks", "oil-sienna", Manner(1, 0.8, "brush", 0.05)),
    ("pin-wash", "oil-burnt-umber", Manner(1, 10 / 11, "seam", 0.05)), ("fade", "sand", Manner(2, 0.8, profile="above", far=0.2)),
    ("wash", "oil-moss", Manner(1, 10 / 11, "flood", 1.0, profile="recess", far=0.2)),
)  # fmt: skip


def seen_of(pixels):
    return lab_from_xyz(xyz_from_linear(linear_from_srgb(pixels / 255.0)).reshape(-1, 3).mean(axis=0))


@pytest.fixture
def hull(shelf_paints):
    project, zone = add_zone(Project(title="Any"), "Hull")
    return pin_base(project, zone, Mix.of(shelf_paints, [("slate-teal", 1)]), Manner(3)), zone


@pytest.mark.parametrize("seed", range(8))
def test_any_stack_has_the_mean_of_its_figures(hull, shelf_paints, seed):
    """Within 0.3 ΔE00, on the screen too."""
    project, zone = hull
    rng = np.random.default_rng(seed)
    for number in rng.choice(len(KINDS), 4, replace=False):
        kind, paint, manner = KINDS[number]
        project, _coat = lay(project, [zone], kind, Mix.of(shelf_paints, [(paint, 1)]), manner)
    picture = patch_picture(project, zone, Frame(160, 110, 5.0, seed))
    seen = strata_of(project, zone).seen
    assert float(delta_e00(picture.mean, seen)) < 0.3
    if picture.all_shown:
        assert float(delta_e00(seen_of(picture.pixels), seen)) < 0.3


def test_the_demo_has_the_mean_of_its_figures(worked):
    for zone in worked.zones:
        picture = patch_picture(worked, zone.id, Frame(200, 120, 5.0))
        assert float(delta_e00(picture.mean, strata_of(worked, zone.id).seen)) < 0.3


def test_the_same_seed_is_the_same_patch_and_another_is_not(worked):
    one, same, other = (patch_picture(worked, "hull", Frame(80, 60, 5.0, seed)).pixels for seed in (3, 3, 4))
    assert np.array_equal(one, same)
    assert not np.array_equal(one, other)


def test_what_is_marked_stands_out_and_can_be_looked_through(hull, shelf_paints):
    project, zone = hull
    chips, coat = lay(project, [zone], "chips", Mix(lab=(85.0, 0.0, 5.0)), Manner(area_share=0.04))
    frame = Frame(200, 150, 8.0)
    with_them, without = patch_picture(chips, zone, frame), patch_picture(chips, zone, frame, {coat})
    bright = with_them.pixels.astype(float).mean(axis=2) > 170
    assert bright.mean() == pytest.approx(0.04, abs=0.005)
    plain = patch_picture(project, zone, frame)
    assert np.array_equal(without.pixels, plain.pixels)
    off = change_coat(chips, coat, on=False)
    assert np.array_equal(patch_picture(off, zone, frame).pixels, plain.pixels)


def test_enlarged_marks_are_larger(hull):
    project, zone = hull
    chips, _coat = lay(project, [zone], "chips", Mix(lab=(85.0, 0.0, 5.0)), Manner(area_share=0.05))

    def edges(px_per_mm):
        bright = patch_picture(chips, zone, Frame(240, 180, px_per_mm)).pixels.astype(int).mean(axis=2) > 170
        return int(np.abs(np.diff(bright.astype(int), axis=1)).sum())

    assert edges(16.0) < 0.6 * edges(4.0)


def test_panels_lie_where_they_were_drawn(hull, shelf_paints):
    project, zone = hull
    project = set_panels(project, zone, PanelGrid(rows=1, columns=4, replaced=(2,), levels=1))
    project, _coat = lay(
        project,
        [zone],
        "fade",
        Mix.of(shelf_paints, [("chalk", 1)]),
        Manner(2, 0.7, "airbrush", 0.75, profile="panels"),
    )
    light = patch_picture(project, zone, Frame(200, 60, 5.0)).pixels.astype(float).mean(axis=(0, 2))
    quarters = light.reshape(4, 50).mean(axis=1)
    assert int(np.argmin(quarters)) == 2
    assert quarters[2] < quarters[[0, 1, 3]].min() - 10


def test_a_bare_zone_has_no_patch():
    project, zone = add_zone(Project(title="Any"), "Hull")
    assert patch_picture(project, zone, Frame(40, 30, 5.0)) is None


def test_a_photo_is_repainted_in_the_mean_with_its_own_light(hull, rng):
    project, zone = hull
    light = np.linspace(0.6, 1.4, 120)[None, :, None]
    pixels = np.clip(90 * light + rng.normal(0, 4, (80, 120, 3)), 0, 255).astype(np.uint8)
    corners = ((10.0, 10.0), (110.0, 10.0), (110.0, 70.0), (10.0, 70.0))
    region = Region(id="r", zone=zone, photo="f", corners=corners, seen=(40.0, 0.0, 0.0))
    cuts = {zone: strata_of(project, zone)}
    found = repainted(pixels, [region], cuts)
    assert found.zones == (zone,)
    inside = found.pixels[12:69, 12:109]
    assert float(delta_e00(seen_of(inside), cuts[zone].seen)) < 0.6
    assert np.array_equal(found.pixels[:8], pixels[:8])
    before, after = (part[40, 15:105].astype(float).mean(axis=1) for part in (pixels, found.pixels))
    assert np.corrcoef(before, after)[0, 1] > 0.95


def test_a_zone_that_is_not_known_stays_as_it_is(rng):
    project, zone = add_zone(Project(title="Any"), "Hull")
    pixels = rng.integers(0, 255, (40, 40, 3)).astype(np.uint8)
    region = Region(id="r", zone=zone, photo="f", corners=((5, 5), (30, 5), (30, 30)), seen=(40.0, 0.0, 0.0))
    found = repainted(pixels, [region], {zone: strata_of(project, zone)})
    assert found.unknown == (zone,)
    assert np.array_equal(found.pixels, pixels)


def test_the_demos_photo_is_painted_by_its_plan(worked, demo):
    from lean_sepia.document.store import ProjectStore
    from lean_sepia.photo.read import decode_picture

    photo = photo_to_paint(worked, "hull")
    store = ProjectStore.open(demo.worked, reading=True)
    pixels = decode_picture(store.photo(photo.sha256), photo.name).pixels
    store.close()
    found = finish_on_photo(worked, photo, pixels, CorrectionTable(cast_of(photo, pixels)), 600)
    assert max(found.pixels.shape[:2]) <= 600
    assert "hull" in found.zones
    assert photo_to_paint(worked, "band") is None
