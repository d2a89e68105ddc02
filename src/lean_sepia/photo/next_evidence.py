"""What further sample or anchor would narrow the range of a colour most, and to what.

A further anchor is tried out: the hypotheses of the correction are updated as if it had been found in the picture,
without moving them, and the range is computed anew. What it would say is not known, only how sure it would make.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.photo.correction.cast import Cast, Misfit
from lean_sepia.photo.correction.cast_fit import stated_width
from lean_sepia.photo.correction.cast_model import cones_of, corrected_lab, lab_and_slopes
from lean_sepia.photo.patch import Patch
from lean_sepia.photo.sample import radius90

Kind = Literal["grey", "white", "same colour", "larger sample", "another photo"]


@dataclass(frozen=True)
class Help:
    """Something to look for, the range it would leave, and how much narrower that is."""

    kind: Kind
    de00_90: float
    gain: float


def what_would_help(cast: Cast, patch: Patch) -> list[Help]:
    """Every kind of further evidence for a patch, the one that narrows its range most first."""
    lab = cast.lab(patch.mean)
    now = radius90(lab, cast.possible_labs(patch))
    trials: list[tuple[Kind, float]] = []
    anchors: tuple[tuple[Kind, FloatArray], ...] = (
        ("grey", np.array([55.0, 0.0, 0.0])), ("white", np.array([92.0, 0.0, 1.0])), ("same colour", lab),
    )  # fmt: skip
    for kind, wanted in anchors:
        trials.append((kind, radius90(lab, _with_anchor(cast, wanted).possible_labs(patch))))
    steady = replace(patch, cov_of_mean=patch.cov_of_mean / 8)
    trials.append(("larger sample", radius90(lab, cast.possible_labs(steady))))
    # A second photo as good as this one errs on its own.
    trials.append(("another photo", now / float(np.sqrt(2))))
    found = [Help(kind, min(radius, now), max(0.0, now - radius)) for kind, radius in trials]
    return sorted(found, key=lambda one: -one.gain)


def _with_anchor(cast: Cast, lab: FloatArray) -> Cast:
    """The correction as sure as it would be with one more anchor of this colour.

    It keeps its count of known anchors: the scale of its ranges was measured with that many.
    """
    width = stated_width()
    hypotheses = []
    for one in cast.hypotheses:
        _, slopes = lab_and_slopes(_cones_that_give(lab, one.theta), one.theta[None])
        J = slopes[0] / width[:, None]
        precision = np.linalg.inv(one.covariance) + J.T @ J
        hypotheses.append(replace(one, covariance=np.linalg.inv(precision)))
    return replace(cast, hypotheses=tuple(hypotheses), misfit=_misfit_with(cast.misfit, lab))


def _misfit_with(misfit: Misfit | None, lab: FloatArray) -> Misfit:
    at = lab[None] if misfit is None else np.vstack([misfit.at, lab])
    weights = np.zeros((len(at), 3))
    if misfit is not None:
        weights[:-1] = misfit.weights
    return Misfit.sure_at(at, weights)


def _cones_that_give(lab: FloatArray, theta: FloatArray) -> FloatArray:
    """Cone responses (3,) that a correction takes to L*a*b* (3,), by a few Newton steps in their logs."""
    logs = np.log(np.maximum(cones_of(np.full(3, 0.2)), 1e-3))
    for _ in range(12):
        trials = logs + np.vstack([np.zeros(3), 1e-4 * np.eye(3)])
        labs = corrected_lab(np.exp(trials), theta[None])[0]
        slopes = (labs[1:] - labs[0]).T / 1e-4
        step = np.linalg.lstsq(slopes, lab - labs[0], rcond=None)[0]
        logs = logs + np.clip(step, -1, 1)
    return np.exp(logs)


def best_help(helps: Sequence[Help], least_gain: float = 0.3) -> Help | None:
    """What is worth telling, or None where nothing would change much."""
    return helps[0] if helps and helps[0].gain >= least_gain else None
