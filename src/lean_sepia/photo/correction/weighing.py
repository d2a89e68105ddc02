"""Weighing worlds by what anchors say.

One anchor balances the picture: in every world the three channels are scaled so that it comes out as it is known to be, and how
far they had to be scaled says how likely that world is. Every further anchor, on this picture or on another of the same camera or
scan, weighs the worlds again (a heavy-tailed likelihood, so that none is ruled out by one anchor) and moves what they say
(`believed`). What the picture shows as a whole weighs the worlds too (`shown_colours`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, IntArray
from lean_sepia.colour.even import even_from_lab
from lean_sepia.colour.srgb import linear_from_srgb, srgb_from_linear
from lean_sepia.language import _, ngettext
from lean_sepia.photo.correction.believed import (
    EFFECTIVE_WORLDS,
    LEFT_SHARE,
    MOST_WORLDS,
    Believed,
    Observed,
    alike,
    by_coordinate,
    most_likely,
)
from lean_sepia.photo.correction.cast import (
    AS_FOUND,
    Anchor,
    Cast,
    rgb_slopes,
)
from lean_sepia.photo.correction.kinds import range_scale, worlds_of
from lean_sepia.photo.correction.shown_colours import as_surfaces, no_colours
from lean_sepia.photo.correction.worlds import Worlds, root_of_lightness
from lean_sepia.photo.patch import Patch
from lean_sepia.photo.stated.picture_kind import PictureKind

CLIPPED_SHARE = 0.02
"""Share of clipped pixels beyond which an anchor says little."""

_STATED = 0.5  # how well people know the colour of a thing that they name, per coordinate (practice)
_UNKNOWN_LIGHTNESS = 40.0  # so wide that it says nothing
_UNKNOWN_EXPOSURE = 0.5  # how far a picture's exposure is off, as a logarithm of light (practice)
_GUESSED_SHADOW, _GUESSED_GLINT = np.array([7.0, 4.0, 4.0]), np.array([12.0, 9.0, 12.0])  # practice
_CLIPPED_WEAKER = 8.0
_BEYOND_LOW, _BEYOND_HIGH = (
    0.15,
    0.07,
)  # by how much of a root a clipped channel goes on in the mean, and spreads (practice)
_OBSERVED = np.array(
    [1.2, 0.9, 0.9]
)  # light that differs from place to place, and the surface itself (practice)
_OTHER_PICTURE = np.array([2.8, 3.0, 3.0])  # what two pictures of one camera do not share: their light
_SHARED_SCALE = 1.13  # what ranges that rest on another picture are wider by (practice)
_EXPOSURE, _BALANCE = 0.40, 0.06  # of what the first anchor is scaled by, as logarithms
_PLACE_LIGHT, _PLACE_BALANCE = 0.03, 0.008  # by which the light there differs from that elsewhere
_BORROWED_LIGHT, _BORROWED_BALANCE = 0.36, 0.15  # the same for a balance taken from another picture
_ASTRAY = 0.015  # light astray in lens or scanner, as a share of the picture's mean: much of what is black (practice)
_FREEDOM = 4.0
_MISFITS = np.array([0.7, 1.0, 1.4, 2.0, 2.8])
_MISFITS_DIFFER = 0.7  # how far from the usual misfit a picture's is, as a logarithm (practice)
_USUAL_LIGHTNESS = 58.0


@dataclass(frozen=True, eq=False)
class Known:
    """What the anchors of one picture say, n of them.

    encoded : (n, 3) the picture's values in 0–1; target : (n, 3) L*a*b*; width : (n, 3) how sure each is, in even coordinates
    full : (n,) whether its lightness is known; guess, clipped : (n,) whether it is a guess, or says little
    ends : (n, 3) share of it in which a channel lies at its upper end, less that at its lower
    scatter : (n, 3) relative error of reading it
    shown : (p, 3) the different colours of the whole picture
    """

    encoded: FloatArray
    target: FloatArray
    width: FloatArray
    full: BoolArray
    guess: BoolArray
    clipped: BoolArray
    ends: FloatArray
    scatter: FloatArray
    shown: FloatArray

    def __len__(self) -> int:
        return len(self.encoded)

    def chosen(self, which: IntArray) -> Known:
        """Some of them alone, without the picture round them."""
        each = {name: getattr(self, name)[which] for name in self.__dataclass_fields__ if name != "shown"}
        return Known(**each, shown=no_colours())

    @property
    def counted(self) -> int:
        """How many are of known colour and no guess."""
        return int((self.full & ~self.guess).sum())

    @property
    def telling(self) -> BoolArray:
        """Those (n,) of known colour that can be held against the others: no guesses, none that is clipped."""
        return self.full & ~self.guess & ~self.clipped

    @property
    def balancing(self) -> int:
        """The anchor to balance the picture by: grey, of known and middle lightness, surely read, unclipped."""
        grey = np.hypot(self.target[:, 1], self.target[:, 2])
        strange = 0.25 * np.abs(self.target[:, 0] - _USUAL_LIGHTNESS) + 80 * self.scatter.max(axis=1)
        return int(np.argmin(grey + strange + 100 * self.clipped + 200 * ~self.full + 250 * self.guess))


def stated_width() -> FloatArray:
    """How sure the colour of a thing that is stated is (3,), in even coordinates, with the light that differs from place to place."""
    return np.asarray(np.sqrt(_STATED**2 + _OBSERVED**2))


def known_from(anchors: Sequence[Anchor], patches: Sequence[Patch], shown: FloatArray) -> Known:
    """What anchors say, how well each was read, and the colours (p, 3) of the picture that they are on."""
    rgb = np.array([patch.mean for patch in patches])
    found = AS_FOUND.lab(rgb)
    full = np.array([anchor.lightness is not None for anchor in anchors])
    target = np.array([
        [anchor.lightness if anchor.lightness is not None else found[i, 0], anchor.a, anchor.b]
        for i, anchor in enumerate(anchors)
    ], dtype=float)  # fmt: skip
    covariances = np.array([patch.cov_of_mean for patch in patches])
    slopes = rgb_slopes(AS_FOUND, rgb)
    reading = np.einsum("nij,njk,nik->ni", slopes, covariances, slopes)
    guess = np.array([anchor.guess for anchor in anchors])
    guessed = np.where(target[:, :1] < 50, _GUESSED_SHADOW, _GUESSED_GLINT)
    width = np.sqrt(np.where(guess[:, None], guessed, _STATED) ** 2 + _OBSERVED**2 + reading)
    clipped = np.array([patch.clipped_share > CLIPPED_SHARE for patch in patches])
    width[clipped & [patch.all_clipped > CLIPPED_SHARE for patch in patches]] *= _CLIPPED_WEAKER
    width[~full, 0] = _UNKNOWN_LIGHTNESS
    ends = np.array([patch.clipping[1] - patch.clipping[0] for patch in patches]) * clipped[:, None]
    astray = _ASTRAY * linear_from_srgb(shown).mean(axis=0) if len(shown) else np.zeros(3)
    scatter = np.sqrt(np.einsum("nii->ni", covariances) + astray**2) / np.maximum(rgb, 1e-3)
    scatter = np.minimum(scatter, 0.5)
    return Known(srgb_from_linear(rgb), target, width, full, guess, clipped, ends, scatter, shown)


def fitted(known: Known | None, others: Sequence[Known], kind: PictureKind, one_in: int = 1) -> Cast:
    """The correction from what the anchors of a picture, and of others beside it, say; one of both at least.

    one_in : of so many developments one is looked at
    """
    worlds, logs = worlds_of(kind)
    if one_in > 1:
        few = np.arange(0, len(worlds), one_in)
        worlds, logs = worlds.chosen(few), logs[few]
    rng = np.random.default_rng(11)
    heard = []
    for place, one in enumerate([known, *others] if known is not None else others):
        theirs, evidence, rest = _balanced(worlds, one, rng)
        logs = logs + evidence + as_surfaces(_even(worlds, theirs, one.shown))
        if place == 0 and not one.full[one.balancing]:
            which, weights = most_likely(logs, EFFECTIVE_WORLDS, MOST_WORLDS)
            theirs = theirs * _lightness_as_found(worlds.chosen(which), weights, one, theirs[:, which])
        heard.append((theirs, rest, place == 0 and known is not None))
    gains = heard[0][0]
    if known is None:
        stray = _BORROWED_LIGHT * rng.standard_normal(len(worlds)) + _BORROWED_BALANCE * rng.standard_normal(
            gains.shape
        )
        gains = (gains * np.exp(stray / 3)).astype(np.float32)
    seen = [_predicted(worlds, theirs, rest) for theirs, rest, _own in heard]
    for (_theirs, rest, own), predicted in zip(heard, seen, strict=True):
        if len(rest):
            logs = logs + _likelihood(worlds, rest, predicted, own=own)
    which, weights = most_likely(logs, EFFECTIVE_WORLDS, MOST_WORLDS)
    kept, gains, seen = worlds.chosen(which), gains[:, which], [one.chosen(which) for one in seen]
    if known is not None and not known.full.any():
        gains = gains * _lightness_as_found(kept, weights, known, gains)
        seen[0] = _predicted(kept, gains, heard[0][1])
    left = np.sqrt(kept.left**2 @ weights)
    observed = _observed([(rest, own) for _theirs, rest, own in heard], seen, weights, left)
    full = 0 if known is None else known.counted
    count = full + 0.5 * sum(one.counted for one in others)
    scale = range_scale(kind, max(1, round(count))) * (_SHARED_SCALE if others else 1)
    believed = Believed(kept, weights, gains, observed, left, scale)
    return Cast(believed, kind, _model_name(known, others), None, (), full)


def _balanced(worlds: Worlds, known: Known, rng: np.random.Generator) -> tuple[FloatArray, FloatArray, Known]:
    """Gains (3, n) on each world's roots that bring the balancing anchor to what it is known to be, how likely that makes
    the world (n,), and the other anchors."""
    first = known.balancing
    have = np.maximum(worlds.roots(known.encoded[first : first + 1])[:, 0], 0.3)
    want = (
        worlds.roots_that_give(known.target[first])
        if known.full[first]
        else np.broadcast_to(have[1], have.shape)
    )
    logs = 3 * np.log(np.maximum(want, 0.05) / np.maximum(have, 0.03))
    weaker = _CLIPPED_WEAKER if known.clipped[first] else 1.0
    evidence = (
        _heavy_tail((logs[1] / (_EXPOSURE * weaker)) ** 2, 6)
        + _heavy_tail(((logs[0] - logs[1]) / (_BALANCE * weaker)) ** 2, 6)
        + _heavy_tail(((logs[2] - logs[1]) / (_BALANCE * weaker)) ** 2, 6)
    )
    light = _PLACE_LIGHT if known.full[first] else _UNKNOWN_EXPOSURE
    balance = np.full(3, _PLACE_BALANCE * weaker)
    if known.guess[first]:
        light, balance = _light_of(known.target[first, 0], known.width[first])
    stray = light * rng.standard_normal(len(worlds)) + balance[:, None] * rng.standard_normal(logs.shape)
    stray = stray + known.scatter[first][:, None] * rng.standard_normal(logs.shape)
    rest = known.chosen(np.delete(np.arange(len(known)), first))
    return np.exp((logs + stray) / 3).astype(np.float32), evidence, rest


def _light_of(lightness: float, width: FloatArray) -> tuple[float, FloatArray]:
    """By what light (), and the balance of its channels (3,), differ as logarithms where a grey's L*a*b* is known to a width (3,)."""
    root = max(float(root_of_lightness(lightness)), 0.2)
    return 3 * width[0] / (116 * root), 3 * np.array([width[1] / 500, 0.0, width[2] / 200]) / root


def _lightness_as_found(worlds: Worlds, weights: FloatArray, known: Known, gains: FloatArray) -> np.float32:
    """What gains (3, k) are multiplied by so that the balancing anchor stays as light as found, in the mean of k worlds by weight."""
    first = known.balancing
    roots = worlds.roots(known.encoded[first : first + 1]) * gains[:, None]
    lightness = float(worlds.lab(roots)[0, :, 0] @ weights)
    return np.float32(root_of_lightness(float(known.target[first, 0])) / root_of_lightness(lightness))


@dataclass(frozen=True, eq=False)
class _Predicted:
    """Even coordinates (m, n, 3) of anchors in each world; and how these stray together (m, n, 3) where channels are clipped."""

    even: FloatArray
    astray: FloatArray

    def chosen(self, which: IntArray) -> _Predicted:
        """In some of the worlds."""
        return _Predicted(self.even[:, which], self.astray[:, which])


def _even(worlds: Worlds, gains: FloatArray, encoded: FloatArray) -> FloatArray:
    """Even coordinates (m, n, 3) of encoded colours (m, 3) in each world."""
    return even_from_lab(worlds.lab(worlds.roots(encoded) * gains[:, None]))


def _predicted(worlds: Worlds, gains: FloatArray, known: Known) -> _Predicted:
    """Anchors in each world; a clipped channel goes on beyond its end, nobody knows how far."""
    even = _even(worlds, gains, known.encoded)
    astray = np.zeros_like(even)
    out = np.flatnonzero(np.any(known.ends != 0, axis=1))
    if len(out):
        ends = known.ends[out]
        beyond = np.where(ends > 0, _BEYOND_HIGH, _BEYOND_LOW) * ends
        roots = worlds.roots(known.encoded[out]) * gains[:, None] + beyond.T[:, :, None].astype(np.float32)
        astray[out] = even_from_lab(worlds.lab(roots)) - even[out]
    return _Predicted(even + astray, astray)


def _heavy_tail(squared: FloatArray, freedom: float, dimensions: int = 1) -> FloatArray:
    """Log density of Student's distribution at so many squared deviations, up to a constant."""
    return -0.5 * (freedom + dimensions) * np.log1p(squared / freedom)


def _likelihood(worlds: Worlds, known: Known, predicted: _Predicted, *, own: bool) -> FloatArray:
    """Log (n,) of how well each world explains anchors."""
    width = _width(known, own=own)[:, None] ** 2 + (1.5 * LEFT_SHARE * worlds.left.T) ** 2
    missed = predicted.even - even_from_lab(known.target)[:, None]
    # The covariance is diagonal but for one direction in which clipped channels stray (Sherman and Morrison 1950).
    stray = (predicted.astray**2 / width).sum(axis=-1)
    along = (missed * predicted.astray / width).sum(axis=-1)
    squared = (missed**2 / width).sum(axis=-1) - along**2 / (1 + stray)
    spread = np.log(width).sum(axis=-1) + np.log1p(stray)
    return np.asarray((_heavy_tail(squared, _FREEDOM, 3) - 0.5 * spread).sum(axis=0))


def _width(known: Known, *, own: bool) -> FloatArray:
    return known.width if own else np.sqrt(known.width**2 + _OTHER_PICTURE**2)


def _observed(
    heard: Sequence[tuple[Known, bool]], seen: Sequence[_Predicted], weights: FloatArray, left: FloatArray
) -> Observed | None:
    """What further anchors said to the worlds that are kept."""
    even = np.concatenate([one.even for one in seen])
    if not len(even):
        return None
    at = np.einsum("k,mkc->mc", weights, even)
    away = np.ascontiguousarray((even - at[:, None]).transpose(1, 0, 2).reshape(len(weights), -1), np.float32)
    width = np.concatenate([_width(known, own=own) for known, own in heard])
    target = np.concatenate([even_from_lab(known.target) for known, _own in heard])
    astray = np.concatenate([one.astray for one in seen])
    followed = (away * weights[:, None]).T @ away + np.diag((width**2 + (LEFT_SHARE * left) ** 2).ravel())
    for i in np.flatnonzero(np.any(astray, axis=(1, 2))):
        followed[3 * i : 3 * i + 3, 3 * i : 3 * i + 3] += (astray[i] * weights[:, None]).T @ astray[i]
    missed, alone = (target - at).ravel(), by_coordinate(alike(at, at))
    misfit = _misfit(missed, followed, alone)
    return Observed(at, away, missed, followed + misfit**2 * alone, misfit)


def _misfit(missed: FloatArray, followed: FloatArray, alone: FloatArray) -> float:
    """How many times the usual is what no world follows, in the mean of what the anchors make likely.

    missed : (3 m,) their misses; followed, alone : (3 m, 3 m) covariances of what worlds follow, and of the usual misfit
    """
    logs = []
    for times in _MISFITS:
        covariance = followed + times**2 * alone
        usual = (np.log(times) / _MISFITS_DIFFER) ** 2
        logs.append(
            -0.5 * (missed @ np.linalg.solve(covariance, missed) + np.linalg.slogdet(covariance)[1] + usual)
        )
    likely = np.exp(np.array(logs) - max(logs))
    return float(np.sqrt(likely @ _MISFITS**2 / likely.sum()))


def _model_name(known: Known | None, others: Sequence[Known]) -> str:
    if known is None:
        return _("likely developments, as another picture of its kind says")
    count = known.counted + sum(one.counted for one in others)
    if not known.full.any():
        return _("cast only: balanced by a grey")
    if count <= 1:
        return _("likely developments, balanced by one anchor")
    return ngettext(
        "likely developments, weighed by {0} anchor", "likely developments, weighed by {0} anchors", count
    ).format(count)
