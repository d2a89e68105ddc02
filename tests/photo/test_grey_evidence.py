"""What a black-and-white print allows."""

import numpy as np
import pytest

from lean_sepia.colour.film import film_grey
from lean_sepia.demo.scene import draw_scene
from lean_sepia.demo.schemes import demo_schemes, greys_of_print, known_reflectances
from lean_sepia.errors import SampleError
from lean_sepia.photo.grey_evidence import PrintGrey, best_curve, rank_schemes, what_greys_tell


def test_the_first_livery_ranks_first_on_the_press_print():
    """At least six schemes, two of them within 0.05 of its greys; three prints."""
    schemes, known = demo_schemes(), known_reflectances()
    scene = draw_scene(1951, "first livery")
    for seed in (1957, 11, 12):
        ranked = rank_schemes(greys_of_print(scene, seed), schemes, known, "ortho")
        assert len(ranked) >= 6
        assert ranked[0].scheme == "first livery"
        close = [
            fit
            for fit in ranked[1:]
            if all(abs(fit.greys[a] - ranked[0].greys[a]) < 0.05 for a in ranked[0].greys)
        ]
        assert len(close) >= 2
        told = what_greys_tell(ranked)
        assert told[0][0] == "best"
        assert {"alike", "contradicted", "limits"} <= {code for code, _ in told}
        assert any("second livery" in words for code, words in told if code == "contradicted")
    assert sum(fit.share for fit in ranked) == pytest.approx(1)


def test_any_rising_curve_fits_its_own_order(rng):
    exposures = np.sort(rng.uniform(0.02, 0.9, 8))
    lightness = 20 + 70 * exposures**0.6
    curve, chi = best_curve(exposures, lightness, np.full(8, 2.0))
    assert np.abs(curve - lightness).max() < 1.5
    assert chi < 1.5
    shuffled, worse = best_curve(exposures, lightness[::-1], np.full(8, 2.0))
    assert worse > 50
    assert (np.diff(shuffled) > -1e-9).all()


def test_a_tie_that_the_print_breaks_counts_against_a_scheme():
    grey, dark = np.full(31, 0.2), np.full(31, 0.05)
    seen = {"a": PrintGrey(50), "b": PrintGrey(62), "c": PrintGrey(25)}
    ranked = rank_schemes(
        seen,
        {"tied": {"a": grey, "b": grey, "c": dark}, "apart": {"a": grey, "b": np.full(31, 0.33), "c": dark}},
        {},
        "pan",
    )
    assert ranked[0].scheme == "apart"
    assert ranked[1].chi_squared > ranked[0].chi_squared + 4
    assert ranked[0].greys["a"] == pytest.approx(float(film_grey(grey, "pan")))


def test_too_few_areas_are_no_evidence():
    with pytest.raises(SampleError, match="at least three"):
        rank_schemes({"a": PrintGrey(40)}, {"one": {"a": np.full(31, 0.2)}}, {}, "pan")
    with pytest.raises(SampleError, match="No scheme"):
        rank_schemes({"a": PrintGrey(40)}, {}, {}, "pan")
