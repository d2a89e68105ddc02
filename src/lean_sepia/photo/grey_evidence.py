"""Which colours a black-and-white print allows: schemes ranked by how well their greys fit.

A print's tone curve is unknown, so the order of the greys and their ties are the evidence: the curve between exposure
and print may be any that rises, and no steeper than papers are; of two that fit alike the one that bends less is
believed a little more. Areas whose true colour is known pin it. Fit: least squares over such curves (isotonic
regression with bounded slopes and a penalty on bends).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.film import Emulsion, FilmLight, LensFilter, film_grey
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.lights import white
from lean_sepia.errors import SampleError
from lean_sepia.language import _

STEEPEST = 3.0
"""L* of the print for one L* of the surface: hard paper (practice)."""

USUAL_BEND = 0.12
"""By how much the slope of a print's curve changes over one L*, as a standard deviation (practice)."""

PRINT_WIDTH = 2.0
"""L* by which equal areas of a print differ through vignette, dodging and scanning (practice)."""

PREDICTION_WIDTH = 0.04
"""Relative error of a predicted exposure: the emulsion's curve is only known by its class (practice)."""

_DARKEST_EXPOSURE = 0.005
_TOLD_APART = 3.84  # χ² of one degree of freedom at 95 %
_CONTRADICTED = 9.0


@dataclass(frozen=True)
class PrintGrey:
    """What the print shows of an area: its L* and how sure that is."""

    lightness: float
    width: float = 0.5

    @classmethod
    def of(cls, lightnesses: Sequence[float]) -> PrintGrey:
        """The grey of an area from the L* of its samples: their mean, and how they scatter besides 0.5 of reading."""
        return cls(float(np.mean(lightnesses)), 0.5 + float(np.std(lightnesses)))


@dataclass(frozen=True)
class SchemeFit:
    """How a scheme fits: misfit as χ² and as L* in the mean, its share of belief, and the areas that speak against it."""

    scheme: str
    chi_squared: float
    rms_lightness: float
    share: float
    greys: Mapping[str, float]
    against: tuple[tuple[str, str], ...]


def rank_schemes(
    print_greys: Mapping[str, PrintGrey],
    schemes: Mapping[str, Mapping[str, FloatArray]],
    known: Mapping[str, FloatArray],
    emulsion: Emulsion,
    lens_filter: LensFilter = "none",
    light: FilmLight = "daylight",
) -> list[SchemeFit]:
    """Rank schemes by how well a print's greys fit, best first.

    Parameters
    ----------
    print_greys : by area, what the print shows
    schemes : by scheme, the reflectance (31,) of each area under that scheme; areas it does not name are left out
    known : areas whose reflectance (31,) is certain, whatever the scheme

    Raises
    ------
    SampleError
        Fewer than three areas are shared by the print and a scheme, or no scheme is given.
    """
    if not schemes:
        raise SampleError(_("No scheme to test: name at least two, each with the colours of its areas."))
    fits = []
    for name, colours in schemes.items():
        reflectances = {area: known.get(area, colours.get(area)) for area in print_greys}
        areas = [area for area, reflectance in reflectances.items() if reflectance is not None]
        if len(areas) < 3:
            raise SampleError(
                _(
                    "Scheme {0!r} shares {1} areas with the print; order needs at least three greys to be evidence."
                ).format(name, len(areas))
            )
        lit = [np.asarray(reflectances[area]) for area in areas]
        exposures = np.array([float(film_grey(R, emulsion, lens_filter, light)) for R in lit])
        seen = np.array([print_greys[area].lightness for area in areas])
        width = np.array([np.hypot(print_greys[area].width, PRINT_WIDTH) for area in areas])
        curve, value = best_curve(exposures, seen, width)
        fits.append((name, areas, exposures, seen, width, seen - curve, value))
    chi = np.array([fit[-1] for fit in fits])
    shares = np.exp(-0.5 * (chi - chi.min()))
    shares /= shares.sum()
    answer = [
        SchemeFit(
            name, value, float(np.sqrt(np.mean(misses**2))), float(share),
            dict(zip(areas, exposures.tolist(), strict=True)), _against(areas, exposures, seen, width),
        )
        for (name, areas, exposures, seen, width, misses, value), share in zip(fits, shares, strict=True)
    ]  # fmt: skip
    return sorted(answer, key=lambda fit: fit.chi_squared)


def best_curve(exposures: FloatArray, lightness: FloatArray, width: FloatArray) -> tuple[FloatArray, float]:
    """The rising curve that lies nearest to a print's L* (n,) at exposures (n,) in 0–1: its L* (n,), and χ²."""
    from scipy.optimize import lsq_linear  # a third of a second, which no start should pay

    order = np.argsort(exposures, kind="stable")
    x, y = _lightness(exposures[order]), lightness[order]
    gaps = np.diff(x)
    error = np.hypot(width[order], _lightness(exposures[order] * (1 + PREDICTION_WIDTH)) - x)
    n = len(x)
    # The unknowns are the first L* and the slope of every stretch.
    curve = np.hstack(
        [np.ones((n, 1)), np.vstack([np.zeros(n - 1), np.tril(np.ones((n - 1, n - 1))) * gaps])]
    )
    bends = np.diff(np.eye(n), axis=0)[1:]
    over = np.sqrt(np.maximum((gaps[1:] + gaps[:-1]) / 2, 1e-6))
    matrix = np.vstack([curve / error[:, None], bends / (USUAL_BEND * over)[:, None]])
    right = np.concatenate([y / error, np.zeros(n - 2)])
    low = np.concatenate([[-np.inf], np.zeros(n - 1)])
    high = np.concatenate([[np.inf], np.full(n - 1, STEEPEST)])
    found = lsq_linear(matrix, right, bounds=(low, high), method="bvls")
    answer = np.empty(n)
    answer[order] = curve @ found.x
    return answer, float(2 * found.cost)


def _lightness(exposures: FloatArray) -> FloatArray:
    """L* (...) of a grey surface of these exposures: even steps to the eye."""
    return lab_from_xyz(np.multiply.outer(np.maximum(exposures, _DARKEST_EXPOSURE), white()))[..., 0]


def _against(
    areas: Sequence[str], exposures: FloatArray, seen: FloatArray, width: FloatArray
) -> tuple[tuple[str, str], ...]:
    """Pairs (darker, lighter) by the scheme that the print shows clearly the other way round."""
    pairs = []
    for i, darker in enumerate(areas):
        for j, lighter in enumerate(areas):
            clearly = exposures[j] > exposures[i] * (1 + 2 * PREDICTION_WIDTH)
            if clearly and seen[i] - seen[j] > 2 * np.hypot(width[i], width[j]):
                pairs.append((darker, lighter))
    return tuple(pairs)


Telling = Literal["best", "alike", "contradicted", "none fits", "limits"]


def what_greys_tell(ranked: Sequence[SchemeFit]) -> tuple[tuple[Telling, str], ...]:
    """What the ranking says and what it cannot say: a code and a plain sentence each."""
    best, *others = ranked
    said: list[tuple[Telling, str]] = [
        (
            "best",
            _("{0} fits best: its greys are missed by {1:.1f} L* on average").format(
                best.scheme, best.rms_lightness
            ),
        )
    ]
    alike = [fit.scheme for fit in others if fit.chi_squared - best.chi_squared < _TOLD_APART]
    if alike:
        words = _("the print cannot tell it from {0}: on this film their greys are in the same order")
        said.append(("alike", words.format(", ".join(alike))))
    for fit in others:
        if fit.against and fit.chi_squared - best.chi_squared > _CONTRADICTED:
            darker, lighter = fit.against[0]
            words = _("{0} is contradicted: its {1} would be darker than its {2}, the print shows it lighter")
            said.append(("contradicted", words.format(fit.scheme, darker, lighter)))
    if best.chi_squared > _CONTRADICTED * max(1, len(best.greys) - 2):
        words = _(
            "none of these fits well: the print may show another scheme, or its film is of another class"
        )
        said.append(("none fits", words))
    said.append(("limits", _("a grey tells neither hue nor strength: many colours give the same one")))
    return tuple(said)
