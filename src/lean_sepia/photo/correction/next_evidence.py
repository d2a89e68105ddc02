"""What is not known of a picture's development, and what further sample or anchor would narrow the range of a colour most.

A further anchor is tried out: what is believed is updated as if it had been found in the picture, without moving it, and the range
is computed anew. What it would say is not known, only how sure it would make.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.even import even_from_lab
from lean_sepia.language import _
from lean_sepia.photo.combine import error_of_mean
from lean_sepia.photo.correction.believed import Believed, Observed, alike, by_coordinate
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.correction.kinds import range_scale
from lean_sepia.photo.correction.weighing import stated_width
from lean_sepia.photo.patch import Patch
from lean_sepia.photo.sample import radius90

Kind = Literal[
    "its lightness", "grey", "white", "same colour", "strong colour", "larger sample", "another photo"
]
Open = Literal["lightness", "saturation", "contrast", "cast in the dark"]

_STRONG = np.array([48.0, 42.0, 22.0])
_AT_HAND = 0.4  # of the best gain: enough for what takes one number
_FEW, _NEWTON_STEPS, _NEWTON_STEP = 64, 10, 0.01
_MID_STRONG = np.array([0.62, 0.42, 0.36]), np.array([0.36, 0.45, 0.58])
_DARK, _MIDDLE, _LIGHT = np.full(3, 0.22), np.full(3, 0.5), np.full(3, 0.82)
_OPEN_LIGHTNESS, _OPEN_SATURATION, _OPEN_CONTRAST, _OPEN_CAST = 7.0, 0.10, 2.6, 2.4


@dataclass(frozen=True)
class Help:
    """Something to look for, the range it would leave, and how much narrower that is."""

    kind: Kind
    de00_90: float
    gain: float


def what_would_help(cast: Cast, patch: Patch, neutral: Patch | None = None) -> list[Help]:
    """Every kind of further evidence for a patch, the one that narrows its range most first.

    neutral : a neutral of unknown lightness that the picture has already
    """
    lab = cast.lab(patch.mean)
    now = radius90(lab, cast.possible_labs(patch))
    trials: list[tuple[Kind, float]] = []
    anchors: list[tuple[Kind, FloatArray]] = [
        ("grey", np.array([55.0, 0.0, 0.0])), ("white", np.array([92.0, 0.0, 1.0])), ("same colour", lab),
        ("strong colour", _STRONG),
    ]  # fmt: skip
    if neutral is not None:
        anchors.append(("its lightness", cast.lab(neutral.mean) * [1, 0, 0]))
    for kind, wanted in anchors:
        trials.append((kind, radius90(lab, _with_anchor(cast, wanted).possible_labs(patch))))
    steady = replace(patch, cov_of_mean=patch.cov_of_mean / 8)
    trials.append(("larger sample", radius90(lab, cast.possible_labs(steady))))
    trials.append(("another photo", error_of_mean([now, now])))
    found = [Help(kind, min(radius, now), max(0.0, now - radius)) for kind, radius in trials]
    return sorted(found, key=lambda one: -one.gain)


def what_is_open(cast: Cast) -> tuple[Open, ...]:
    """What the anchors and the kind of picture leave open, the widest first."""
    believed = cast.development

    def spread(encoded: FloatArray) -> FloatArray:
        labs, weights = believed.possible(encoded)
        even = even_from_lab(labs)
        return np.asarray(np.sqrt(weights @ (even - weights @ even) ** 2))

    strengths = []
    for encoded in _MID_STRONG:
        labs, weights = believed.possible(encoded)
        chroma = np.log(np.maximum(np.hypot(labs[:, 1], labs[:, 2]), 1.0))
        strengths.append(float(np.sqrt(weights @ (chroma - weights @ chroma) ** 2)))
    dark, middle, light = spread(_DARK), spread(_MIDDLE), spread(_LIGHT)
    beside_exposure = np.sqrt(max(dark[0], light[0], middle[0]) ** 2 - middle[0] ** 2)
    found: list[tuple[float, Open]] = [
        (float(middle[0]) / _OPEN_LIGHTNESS, "lightness"),
        (float(np.mean(strengths)) / _OPEN_SATURATION, "saturation"),
        (float(beside_exposure) / _OPEN_CONTRAST, "contrast"),
        (float(np.hypot(dark[1], dark[2])) / _OPEN_CAST, "cast in the dark"),
    ]
    return tuple(name for much, name in sorted(found, reverse=True) if much > 1)


def open_words(still_open: Sequence[Open]) -> str:
    """What of a picture's development is not known, in a sentence; empty where nothing is open."""
    if not still_open:
        return ""
    words = {
        "lightness": _("how light it is"), "saturation": _("how strong its colours are"), "contrast": _("how hard it is"),
        "cast in the dark": _("whether its shadows lean to a colour"),
    }  # fmt: skip
    return _("Not known: {0}.").format(", ".join(words[one] for one in still_open))


def _with_anchor(cast: Cast, lab: FloatArray) -> Cast:
    """The correction as sure as it would be with one more anchor of this colour."""
    believed = cast.development
    encoded = _encoded_that_gives(believed, lab)
    members = believed.predicted(encoded[None])[:, 0]
    at = members @ believed.weights
    away = (members - at[:, None]).T.astype(np.float32)
    seen = believed.observed
    width = np.diag(stated_width() ** 2)
    weighed = (away * believed.weights[:, None]).T
    misfit = 1.0 if seen is None else seen.misfit
    own = weighed @ away + by_coordinate(np.ones((1, 1)), misfit) + width
    if seen is None:
        observed = Observed(at[None], away, np.zeros(3), own)
    else:
        both = weighed @ seen.away + by_coordinate(alike(at[None], seen.at), misfit)
        observed = Observed(
            np.vstack([seen.at, at]), np.hstack([seen.away, away]),
            np.concatenate([seen.missed, both @ seen.solved(seen.missed)]),
            np.block([[seen.covariance, both.T], [both, own]]), misfit,
        )  # fmt: skip
    scale = range_scale(cast.kind, max(1, cast.known) + 1)
    return replace(cast, believed=replace(believed, observed=observed, scale=scale))


def _encoded_that_gives(believed: Believed, lab: FloatArray) -> FloatArray:
    """Encoded colour (3,) that is corrected to about L*a*b* (3,), by a few Newton steps."""
    few, found = believed.thinned(_FEW), np.full(3, 0.5)
    for _step in range(_NEWTON_STEPS):
        labs = few.lab(np.clip(found + _NEWTON_STEP * np.vstack([np.zeros(3), np.eye(3)]), 0, 1))
        slopes = (labs[1:] - labs[0]).T / _NEWTON_STEP
        step = np.linalg.lstsq(slopes, lab - labs[0], rcond=0.02)[0]
        found = np.clip(found + np.clip(step, -0.15, 0.15), 0.02, 0.97)
    return found


def best_help(helps: Sequence[Help], least_gain: float = 0.3) -> Help | None:
    """What is worth telling, or None where nothing would change much; what takes one number before what takes looking for."""
    if not helps or helps[0].gain < least_gain:
        return None
    at_hand = next((one for one in helps if one.kind == "its lightness"), helps[0])
    return at_hand if at_hand.gain >= _AT_HAND * helps[0].gain else helps[0]
