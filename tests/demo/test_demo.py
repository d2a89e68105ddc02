"""The demo repeats itself exactly, and the ranges of its slide hold."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.demo.camera import evening_slide, take
from lean_sepia.demo.folder import ensure_demo
from lean_sepia.demo.prototype import true_labs
from lean_sepia.demo.scene import draw_scene
from lean_sepia.demo.shelf import demo_shelf
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.sample import sample_disc

SEEDS = range(20)


@pytest.fixture(scope="module")
def scene():
    return draw_scene()


def samples_of(scene, seed):
    """ΔE00 to the truth, radius, and whether each coordinate's interval holds, for each zone of one slide."""
    pixels = take(scene, evening_slide(seed), seed)
    labs = true_labs()
    plate, locker = scene.spots["lettering"][0], scene.spots["locker"][0]
    anchors = [Anchor(*plate, *labs["lettering"]["fresh"]), Anchor(*locker, labs["locker"]["fresh"][0])]
    cast = fit_cast(pixels, anchors)
    for spot, discs in scene.spots.items():
        if spot in ("lettering", "locker"):
            continue
        zone, state = spot.split()
        truth = labs[zone]["fresh" if state == "sheltered" else "exposed"]
        found = sample_disc(pixels, cast, *discs[0])
        inside = [low <= value <= high for value, (low, high) in zip(truth, found.lab_range90, strict=True)]
        yield float(delta_e00(found.lab, truth)), found.de00_90, inside


def test_ranges_hold_on_twenty_slides(scene):
    """The sampled zone colours lie within their stated 90 % radius, which is that of any picture: the demo's film is a mild one."""
    rows = [row for seed in SEEDS for row in samples_of(scene, seed)]
    held = np.mean([miss <= radius for miss, radius, _ in rows])
    assert held >= 0.85, f"{held:.3f} of {len(rows)}"
    assert np.mean([inside for *_, inside in rows]) >= 0.85
    assert np.median([radius for _, radius, _ in rows]) < 9


def test_pictures_repeat_exactly(scene):
    assert np.array_equal(take(scene, evening_slide(3), 3), take(scene, evening_slide(3), 3))
    assert not np.array_equal(take(scene, evening_slide(3), 3), take(scene, evening_slide(4), 4))
    again = draw_scene()
    assert all(
        np.array_equal(one.mask, two.mask) for one, two in zip(scene.layers, again.layers, strict=True)
    )


def test_the_demo_is_made_once(demo_master):
    before = demo_master.worked.stat().st_mtime_ns
    assert ensure_demo(demo_master.folder).folder == demo_master.folder
    assert demo_master.worked.stat().st_mtime_ns == before
    assert demo_master.truth["wear_percent"]["rust"] > 0


def test_an_interrupted_making_leaves_nothing(tmp_path, monkeypatch):
    import lean_sepia.demo.folder as folder

    def broken():
        raise OSError("disk full")

    monkeypatch.setattr(folder, "draw_scene", broken)
    with pytest.raises(OSError, match="disk full"):
        ensure_demo(tmp_path / "cache" / "demo")
    assert list((tmp_path / "cache").iterdir()) == []


def test_the_shelf_has_about_fifty_believable_paints():
    content = demo_shelf()
    paints = content.paints()
    assert 45 <= len(paints) <= 60
    assert {paint.line for paint in paints} == {"Sundrin", "Kveldra", "Askel"}
    assert {int(paint.knowledge) for paint in paints} == {1, 2, 3}
    for paint in paints:
        assert np.all(paint.K >= 0)
        assert np.all(paint.S > 0)
