"""Fitting the correction of a picture to its anchors, and telling anchors that do not fit.

The families are fitted as `cast` says; what the anchors still miss is spread to like colours by kriging, but only where anchors
held out say that it helps.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, IntArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.language import _
from lean_sepia.photo.correction.cast import AS_FOUND, Anchor, Cast, Hypothesis, Misfit, mean_lab, rgb_slopes
from lean_sepia.photo.correction.cast_families import Family, families
from lean_sepia.photo.correction.cast_model import PARAMETERS, cones_of, corrected_lab, lab_and_slopes
from lean_sepia.photo.patch import Patch, disc_patch
from lean_sepia.photo.read import Pixels

STATED_WIDTH = 0.5
"""How well people know the L*a*b* of a thing they name as an anchor, per coordinate (practice)."""

UNKNOWN_LIGHTNESS_WIDTH = 7.0
"""L* of a neutral of unknown lightness: only the cast is taken from it."""

_FIT_MISFIT = np.array([0.3, 0.7, 0.7])  # the part of the misfit that the parameters must not chase
_CLIPPED_ANCHOR, _CLIPPED_WEAKER = 0.02, 8.0
_STEPS, _LONGEST_STEP, _SETTLED = 8, 0.7, 5e-3
_SMALLEST_SHARE, _HELD_OUT_SHARE = 0.005, 0.03
_OUTLIER_DE00, _OUTLIER_TIMES, _SUSPECTS = 4.0, 2.5, 3
_ONE_COLOUR_DE00 = 4.0
_NAMED_SINGLY = 3


@dataclass(frozen=True, eq=False)
class _Known:
    """What the anchors say: cones (n, 3), L*a*b* (n, 3), how sure each is (n, 3), and which lightness is known (n,).

    grain : the usual relative scatter of pixels in their discs
    """

    cones: FloatArray
    target: FloatArray
    width: FloatArray
    full: BoolArray
    grain: float

    def without(self, index: int) -> _Known:
        keep = np.arange(len(self.cones)) != index
        return _Known(self.cones[keep], self.target[keep], self.width[keep], self.full[keep], self.grain)


def stated_width() -> FloatArray:
    """How sure a further anchor's L*a*b* (3,) would be, with what the model does not follow."""
    return np.asarray(np.sqrt(STATED_WIDTH**2 + _FIT_MISFIT**2))


def fit_cast(pixels: Pixels, anchors: Sequence[Anchor]) -> Cast:
    """Fit the correction to the anchors on a picture; none leaves the picture as found.

    Raises
    ------
    SampleError
        An anchor lies outside the picture.
    """
    if not anchors:
        return AS_FOUND
    patches = [disc_patch(pixels, anchor.x, anchor.y, anchor.radius) for anchor in anchors]
    known = _reading(anchors, patches)
    hypotheses = _hypotheses(known)
    cast = Cast(
        hypotheses, None, _model_name(anchors), None, _clipping(anchors, patches), int(known.full.sum())
    )
    if cast.known < 2:
        return cast
    plain, pulled = _held_out(known, hypotheses)
    use_misfit = cast.known >= 3 and pulled.mean() < plain.mean()
    misses = pulled if use_misfit else plain
    return Cast(
        hypotheses,
        _misfit(known, cast) if use_misfit else None,
        cast.model + (_(", pulled to the anchors") if use_misfit else ""),
        float(misses.mean()),
        (*cast.warnings, *_doubts(anchors, known, cast, misses)),
        cast.known,
    )


def _reading(anchors: Sequence[Anchor], patches: Sequence[Patch]) -> _Known:
    rgb = np.stack([patch.mean for patch in patches])
    found = AS_FOUND.lab(rgb)
    full = np.array([anchor.lightness is not None for anchor in anchors])
    target = np.array([
        [anchor.lightness if anchor.lightness is not None else found[i, 0], anchor.a, anchor.b]
        for i, anchor in enumerate(anchors)
    ], dtype=float)  # fmt: skip
    slopes = rgb_slopes(AS_FOUND, rgb)
    reading = np.einsum("nij,njk,nik->ni", slopes, np.array([patch.cov_of_mean for patch in patches]), slopes)
    width = np.sqrt(stated_width() ** 2 + reading)
    width[[patch.clipped_share > _CLIPPED_ANCHOR for patch in patches]] *= _CLIPPED_WEAKER
    width[~full, 0] = UNKNOWN_LIGHTNESS_WIDTH
    scatter = [float(np.mean(patch.spread / np.maximum(patch.mean, 0.01))) for patch in patches]
    return _Known(cones_of(rgb), target, width, full, float(np.median(scatter)))


def _hypotheses(known: _Known) -> tuple[Hypothesis, ...]:
    """Every family fitted, those that explain the anchors hardly at all left out."""
    return _shared(_fit_families(families(bool(known.full.any())), known))


def _shared(fitted: Sequence[tuple[Hypothesis, float]]) -> tuple[Hypothesis, ...]:
    logs = np.array([evidence for _unused, evidence in fitted])
    shares = np.exp(logs - logs.max())
    shares /= shares.sum()
    kept = shares > _SMALLEST_SHARE
    total = shares[kept].sum()
    return tuple(
        replace(one, share=float(share / total))
        for (one, _unused), share, keep in zip(fitted, shares, kept, strict=True)
        if keep
    )


def _fit_families(
    among: Sequence[Family],
    known: _Known,
    starts: FloatArray | None = None,
    steps: int = _STEPS,
    left_out: IntArray | None = None,
) -> list[tuple[Hypothesis, float]]:
    """Most probable parameters by Gauss–Newton, and the log of how well each family explains the anchors (Laplace).

    left_out : for each family of `among`, which may repeat, the index of the anchor that it does not see
    """
    means = np.stack([family.mean for family in among])
    precisions = np.stack([family.precision for family in among])
    theta = means.copy() if starts is None else starts.copy()
    counts = np.ones((len(among), len(known.cones)))
    if left_out is not None:
        counts[np.arange(len(among)), left_out] = 0
    weight = (counts[..., None] / known.width).reshape(len(among), -1)
    hessians = precisions
    for _unused in range(steps):
        labs, slopes = lab_and_slopes(known.cones, theta)
        J = slopes.reshape(len(among), -1, PARAMETERS) * weight[..., None]
        residuals = (labs - known.target).reshape(len(among), -1) * weight
        hessians = J.transpose(0, 2, 1) @ J + precisions
        pull = (precisions @ (theta - means)[..., None])[..., 0]
        downhill = (J.transpose(0, 2, 1) @ residuals[..., None])[..., 0] + pull
        step = np.linalg.solve(hessians, downhill[..., None])[..., 0]
        longest = np.abs(step).max(axis=1, keepdims=True)
        theta = theta - step * np.minimum(1.0, _LONGEST_STEP / np.maximum(longest, 1e-12))
        if longest.max() < _SETTLED:
            break
    residuals = (corrected_lab(known.cones, theta) - known.target).reshape(len(among), -1) * weight
    away = theta - means
    surprise = (residuals**2).sum(axis=1) + np.einsum("ti,tij,tj->t", away, precisions, away)
    evidence = 0.5 * (np.linalg.slogdet(precisions)[1] - np.linalg.slogdet(hessians)[1] - surprise)
    evidence += [np.log(family.share) + family.grain_evidence(known.grain) for family in among]
    covariances = np.linalg.inv(hessians)
    return [
        (Hypothesis(family.name, 1.0, theta[i], covariances[i], family.misfit), float(evidence[i]))
        for i, family in enumerate(among)
    ]


def _misfit(known: _Known, cast: Cast) -> Misfit:
    """The kriging of what a correction still misses at the anchors of known colour."""
    labs = mean_lab(cast.hypotheses, known.cones[known.full])
    width = np.einsum(
        "t,tc->c", [one.share for one in cast.hypotheses], [one.misfit for one in cast.hypotheses]
    )
    doubt = np.maximum(known.width[known.full] ** 2 - _FIT_MISFIT**2, 0.1) / width**2
    bare = Misfit.sure_at(labs, np.zeros_like(labs), doubt)
    return replace(bare, weights=np.einsum("cij,jc->ic", bare.inverse, known.target[known.full] - labs))


def _held_out(known: _Known, hypotheses: Sequence[Hypothesis]) -> tuple[FloatArray, FloatArray]:
    """ΔE00 (n,) by which each anchor of known colour is missed when it is left out: without and with the misfit."""
    possible = {one.family: one for one in hypotheses if one.share > _HELD_OUT_SHARE}
    among = [family for family in families(True) if family.name in possible]
    full = np.flatnonzero(known.full)
    starts = np.tile(np.stack([possible[family.name].theta for family in among]), (len(full), 1))
    left_out = np.repeat(full, len(among))
    fitted = _fit_families(among * len(full), known, starts, steps=2, left_out=left_out)
    plain, pulled = np.empty((len(full), 3)), np.empty((len(full), 3))
    for turn, index in enumerate(full.tolist()):
        trial = Cast(_shared(fitted[turn * len(among) : (turn + 1) * len(among)]))
        plain[turn] = pulled[turn] = mean_lab(trial.hypotheses, known.cones[index])
        if len(full) >= 3:
            pulled[turn] += _misfit(known.without(index), trial).shift(plain[turn])
    misses = delta_e00(np.stack([plain, pulled]), known.target[full])
    return misses[0], misses[1]


def _clipping(anchors: Sequence[Anchor], patches: Sequence[Patch]) -> tuple[str, ...]:
    clipped = [i for i, patch in enumerate(patches) if patch.clipped_share > _CLIPPED_ANCHOR]
    if len(clipped) > _NAMED_SINGLY:
        return (_("{0} of {1} anchors are clipped and count little").format(len(clipped), len(anchors)),)
    return tuple(
        _("anchor {0} at {1:g}, {2:g} is clipped in {3:.0%} of its pixels and counts little").format(
            i + 1, anchors[i].x, anchors[i].y, patches[i].clipped_share
        )
        for i in clipped
    )


def _doubts(anchors: Sequence[Anchor], known: _Known, cast: Cast, misses: FloatArray) -> list[str]:
    """Anchors that do not fit the others, named with what may be wrong; and anchors that say the same thing."""
    said = []
    if cast.known == 2 and misses.mean() > 2 * _OUTLIER_DE00:
        said.append(
            _(
                "the two anchors contradict each other by {0:.1f} ΔE00: one may lie in another light, or be stated wrong"
            ).format(misses.mean())
        )
    for index, miss in _outliers(known, misses):
        said.append(
            _("anchor {0} at {1:g}, {2:g} is missed by {3:.1f} ΔE00 from the others: {4}").format(
                index + 1, anchors[index].x, anchors[index].y, miss, _reason(anchors[index], known, index)
            )
        )
    table = known.target[known.full]
    if cast.known >= 3 and float(delta_e00(table[:, None], table[None]).max()) < _ONE_COLOUR_DE00:
        said.append(
            _("all anchors are of about one colour: a second one of another colour would tell far more")
        )
    return said


def _outliers(known: _Known, misses: FloatArray) -> list[tuple[int, float]]:
    """Indices of anchors of known colour that the rest contradicts, with ΔE00 from the rest; the rest agrees without them."""
    found: list[tuple[int, float]] = []
    places, rest = np.arange(len(known.cones)), known
    while rest.full.sum() > 3 and misses.max() > _OUTLIER_DE00:
        # A bad anchor spoils the held-out error of the good ones too: try leaving out each of the worst.
        full = np.flatnonzero(rest.full)
        trials = []
        for worst in full[np.argsort(-misses)[:_SUSPECTS]].tolist():
            others = rest.without(worst)
            plain, pulled = _held_out(others, _hypotheses(others))
            trials.append((float(np.minimum(plain, pulled).mean()), worst, others, np.minimum(plain, pulled)))
        mean, worst, others, left = min(trials, key=lambda trial: trial[0])
        miss = float(misses[np.flatnonzero(full == worst)[0]])
        if miss < _OUTLIER_TIMES * mean or mean > 0.7 * misses.mean():
            break
        found.append((int(places[worst]), miss))
        places, rest, misses = np.delete(places, worst), others, left
    return found


def _reason(anchor: Anchor, known: _Known, index: int) -> str:
    """What the miss of an outlying anchor looks like."""
    rest = known.without(index)
    seen = mean_lab(_hypotheses(rest), known.cones[index])
    dL, da, db = seen - known.target[index]
    if dL < -4 and abs(dL) > np.hypot(da, db) and db < 2:
        return _("it may lie in the shade while they are in the sun")
    if anchor.neutral and np.hypot(da, db) > abs(dL):
        return _("it may be lit by another light")
    return _("check what is stated of it, or remove it")


def _model_name(anchors: Sequence[Anchor]) -> str:
    known = [anchor for anchor in anchors if anchor.lightness is not None]
    if not known:
        return _("cone scaling, cast only")
    if len(known) == 1:
        return _("cone scaling, mixing of likely lights")
    return _("cone scaling, curves and mixing of likely lights")
