"""What a picture shows as a whole, and what clipped anchors and misses say of its development."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.even import even_from_lab
from lean_sepia.colour.srgb import linear_from_srgb, srgb_from_lab, srgb_from_linear
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.correction.shown_colours import as_surfaces, no_colours, shown_colours
from lean_sepia.photo.sample import sample_disc

SIDE = 24
GREY = (62.0, 0.0, 0.0)
DULL = [(L, a, b) for L in (30, 45, 60, 75) for a, b in ((3, 4), (-3, 2), (0, -4), (1, 7), (-4, 6))]
STRONG = [
    (L, C * np.cos(h), C * np.sin(h))
    for L, C in ((42, 45), (55, 62), (68, 48))
    for h in np.arange(0, 6.2, 0.9)
]
SAMPLED = (48.0, -12.0, 18.0)


def squares(labs, depth=8):
    """A row of flat squares of stated colours, as a standard development shows them."""
    encoded = np.clip(srgb_from_lab(np.array(labs, dtype=float)), 0, 1)
    most, kind = (255, np.uint8) if depth == 8 else (65535, np.uint16)
    return np.kron((encoded * most).round()[None], np.ones((SIDE, SIDE, 1))).astype(kind)


def place(index):
    return SIDE * (index + 0.5) - 0.5, SIDE / 2 - 0.5, SIDE / 2 - 3


def test_every_colour_of_a_picture_is_seen_once():
    pixels = squares([GREY, *DULL])
    found, want = shown_colours(pixels), srgb_from_lab(np.array([GREY, *DULL]))
    deep = shown_colours(squares([GREY, *DULL], depth=16))
    for seen in (found, deep):
        assert len(want) * 0.7 < len(seen) <= len(want)  # neighbours may share a cell
        nearest = np.abs(want[:, None] - seen[None]).max(axis=2).min(axis=1)
        assert nearest.max() < 0.06


def test_what_is_clipped_or_hardly_there_is_not_looked_at():
    pixels = squares([GREY, (0, 0, 0), (100, 0, 0)])
    assert shown_colours(pixels) == pytest.approx(srgb_from_lab(np.array([GREY])), abs=0.01)
    assert shown_colours(np.zeros((40, 30, 3), np.uint8)).shape == (0, 3)
    assert len(shown_colours(np.full((1, 1, 3), 120, np.uint8))) == 1
    many = np.random.default_rng(5).integers(20, 230, (90, 90, 3)).astype(np.uint8)
    assert len(shown_colours(many)) <= 40


def test_colours_stronger_than_surfaces_speak_against_a_world():
    labs = np.array(STRONG)
    worlds = np.stack([labs * [1, times, times] for times in (0.5, 0.8, 2.2)], axis=1)
    weak, usual, too_strong = as_surfaces(even_from_lab(worlds))
    assert weak == pytest.approx(usual, abs=0.3)
    assert too_strong < usual - 3
    assert as_surfaces(np.zeros((0, 7, 3))) == pytest.approx(np.zeros(7))


def test_what_lies_in_the_sun_behind_does_not_speak_against_a_world():
    """Light other than the anchor's makes lightness + 16 and chroma larger alike: no surface is needed that is stronger than real ones."""
    labs = np.array(STRONG + DULL)
    white = np.array([16.0, 0, 0])
    lit = labs.copy()
    lit[::4] = (labs[::4] + white) * 4 ** (1 / 3) - white
    strong = labs * [1, 2.2, 2.2]
    usual, sunlit, too_strong = as_surfaces(even_from_lab(np.stack([labs, lit, strong], axis=1)))
    assert lit[:, 0].max() > 110
    assert sunlit > usual - 4
    assert too_strong < sunlit - 5


def test_a_window_behind_does_not_spoil_what_one_grey_says():
    """The grey lies in the shade, and a third of the picture in five times as much light."""
    sunlit = [
        (L, 3 - C / 4, C)
        for L, C in ((98, 4), (97, 12), (96, 22), (95, 30), (93, 40), (90, 30), (88, 50), (84, 60), (80, 30))
    ]
    dark = squares([GREY, SAMPLED, *DULL, *STRONG[::3]])
    linear = linear_from_srgb(dark / 255.0) / 5
    shaded = np.clip(255 * srgb_from_linear(linear), 0, 255).round().astype(np.uint8)
    shown, missed = [SAMPLED, *DULL, *STRONG[::3]], []
    for behind in ([], sunlit):
        pixels = np.concatenate([shaded, squares(behind)] if behind else [shaded], axis=1)
        cast = fit_cast(pixels, [Anchor(*place(0), *GREY)])
        found = [sample_disc(pixels, cast, *place(1 + i)).lab for i in range(len(shown))]
        missed.append(float(delta_e00(np.array(found), np.array(shown)).mean()))
    assert missed[1] < missed[0] + 0.3


def test_only_a_picture_of_many_colours_is_held_to_have_dark_and_light():
    ladder = np.stack([np.linspace(20, 88, 30), np.zeros(30), np.zeros(30)], axis=1)
    flat = ladder * [0.15, 1, 1] + [45, 0, 0]
    both = even_from_lab(np.stack([ladder, flat], axis=1))
    of_many, of_few = as_surfaces(both), as_surfaces(both[::5])
    assert of_many[0] > of_many[1] + 1
    assert of_few[0] == pytest.approx(of_few[1])


def test_strong_colours_round_a_sample_narrow_its_range():
    found = {}
    for name, others in (("dull", DULL[:6]), ("strong", STRONG)):
        pixels = squares([GREY, SAMPLED, *others])
        cast = fit_cast(pixels, [Anchor(*place(0), *GREY)])
        found[name] = sample_disc(pixels, cast, *place(1))
    assert found["strong"].de00_90 < 0.92 * found["dull"].de00_90
    assert delta_e00(found["strong"].lab, SAMPLED) < found["strong"].de00_90


def test_an_anchor_with_one_clipped_channel_still_tells_of_the_others():
    strong = (52.0, 62.0, 48.0)  # its green and blue fit, its red does not
    pixels = squares([GREY, SAMPLED, strong, (80, 0, 0)])
    pixels[:, 2 * SIDE : 3 * SIDE, 0] = 255
    greys = [Anchor(*place(0), *GREY), Anchor(*place(3), 80.0)]
    without = sample_disc(pixels, fit_cast(pixels, greys), *place(1))
    cast = fit_cast(pixels, [*greys, Anchor(*place(2), *strong)])
    assert any("clipped" in words for words in cast.warnings)
    assert sample_disc(pixels, cast, *place(1)).de00_90 < 0.85 * without.de00_90


def test_what_no_world_explains_widens_more_than_what_one_does():
    labs = np.array([GREY, (85, 0, 0), (35, 0, 0), (50, 40, 25), (50, -30, 5), (45, 5, -35)])
    pixels = squares(labs)
    turned = labs.copy()
    turned[3:, 1:] = turned[[4, 5, 3], 1:]  # each said to have its neighbour's hue
    fine, strange = (
        fit_cast(pixels, [Anchor(*place(i), *map(float, lab)) for i, lab in enumerate(told)]).believed
        for told in (labs, turned)
    )
    assert fine.observed.misfit < 1
    assert strange.observed.misfit > 2


def test_a_picture_that_is_not_looked_at_says_nothing():
    assert no_colours().shape == (0, 3)
    assert as_surfaces(even_from_lab(np.zeros((0, 3, 3)))).shape == (3,)
