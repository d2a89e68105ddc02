"""What is to be doubted of a correction: anchors that do not fit the others, say too little, or contradict every rendering."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, IntArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.even import even_from_lab, lab_from_even
from lean_sepia.language import _
from lean_sepia.photo.correction.believed import Believed
from lean_sepia.photo.correction.cast import Anchor, Cast
from lean_sepia.photo.correction.weighing import Known, fitted
from lean_sepia.photo.patch import Patch

_OUTLIER_DE00, _OUTLIER_TIMES, _SUSPECTS = 4.0, 2.5, 3
_SURPRISING = 16.3  # χ² of three degrees of freedom that one anchor in a thousand exceeds
_CONTRADICTING_DE00, _NOTHING_FITS_DE00 = 7.0, 9.0
_ONE_COLOUR_DE00 = 4.0
_NAMED_SINGLY = 3
_TOLD_LIGHTNESS, _TOLD_LEVEL = 12.0, 0.06
_CHANNELS_CLIPPED = 0.3
_MOSTLY_ASTRAY = 0.2  # of what an anchor shows, in its worst channel
_MOST_TIMES = 6.0  # as bright or as dark as its kind is usually taken (practice)


def doubts(cast: Cast, anchors: Sequence[Anchor], patches: Sequence[Patch], known: Known) -> Cast:
    """The correction with its held-out error, and with words on what is to be doubted."""
    said = [
        *_clipping(anchors, patches, known), *_all_clipped(patches), *_nearly_black(anchors, known), *_far_off(cast, anchors, known),
    ]  # fmt: skip
    if known.telling.sum() < 2:
        return replace(cast, warnings=tuple(said))
    missed = held_out(cast, known)
    said += _disagreements(cast, anchors, known, missed)
    return replace(cast, anchor_error_de00=float(missed.de00.mean()), warnings=tuple(said))


@dataclass(frozen=True, eq=False)
class HeldOut:
    """How anchors are missed when the others alone speak: which ones (n,), ΔE00 (n,), and how surprising it is (n,) as χ²."""

    which: IntArray
    de00: FloatArray
    surprise: FloatArray


def held_out(cast: Cast, known: Known) -> HeldOut:
    """Each anchor that tells, left out in turn; of two, only the one that does not balance the picture.

    A lone dark or light anchor balances badly: what it says of the other is no measure of either.
    """
    first = known.balancing
    rest = np.delete(np.arange(len(known)), first)
    seen, surprise = known.target.copy(), np.zeros(len(known))
    assert cast.believed is not None
    assert cast.believed.observed is not None
    missed, surprising = (table[: len(rest)] for table in cast.believed.observed.held_out())
    seen[rest] = lab_from_even(even_from_lab(known.target[rest]) - missed)
    surprise[rest] = surprising
    which = np.flatnonzero(known.telling)
    if len(which) > 2:
        believed = fitted(known.chosen(rest), (), cast.kind).believed
        assert believed is not None
        seen[first] = believed.lab(known.encoded[first : first + 1])[0]
        surprise[first] = _surprise(believed, known, first)
    else:
        which = which[which != first]
    return HeldOut(which, delta_e00(seen[which], known.target[which]), surprise[which])


def _surprise(believed: Believed, known: Known, index: int) -> float:
    """How surprising an anchor is to what is believed without it, as χ² of three degrees of freedom."""
    labs, weights = believed.possible(known.encoded[index])
    even = even_from_lab(labs)
    middle = weights @ even
    covariance = ((even - middle).T * weights) @ (even - middle) + np.diag(known.width[index] ** 2)
    away = even_from_lab(known.target[index : index + 1])[0] - middle
    return float(away @ np.linalg.solve(covariance, away))


def _clipping(anchors: Sequence[Anchor], patches: Sequence[Patch], known: Known) -> tuple[str, ...]:
    clipped = np.flatnonzero(known.clipped)
    if len(clipped) > _NAMED_SINGLY:
        return (_("{0} of {1} anchors are clipped and count little").format(len(clipped), len(anchors)),)
    return tuple(
        _("anchor {0} at {1:g}, {2:g} is clipped in {3:.0%} of its pixels and counts little").format(
            i + 1, anchors[i].x, anchors[i].y, patches[i].clipped_share
        )
        for i in clipped.tolist()
    )


def _far_off(cast: Cast, anchors: Sequence[Anchor], known: Known) -> list[str]:
    """Whether the anchor that balances the picture would make it many times darker or lighter than pictures are taken."""
    first = known.balancing
    if cast.believed is None or not known.full[first]:
        return []
    times = float(np.exp(3 * np.log(cast.believed.gains[1]) @ cast.believed.weights))
    if 1 / _MOST_TIMES < times < _MOST_TIMES:
        return []
    anchor = anchors[first]
    words = (
        _(
            "anchor {0} at {1:g}, {2:g} is shown far lighter than its stated L* {3:g}: check what is stated of it"
        )
        if times < 1
        else _(
            "anchor {0} at {1:g}, {2:g} is shown far darker than its stated L* {3:g}: check what is stated of it"
        )
    )
    return [words.format(first + 1, anchor.x, anchor.y, anchor.lightness)]


def _nearly_black(anchors: Sequence[Anchor], known: Known) -> list[str]:
    """Whether the anchor that balances the picture is so dark that it hardly tells of the light."""
    first = known.balancing
    if known.guess[first] or known.clipped[first] or known.scatter[first].max() < _MOSTLY_ASTRAY:
        return []
    anchor = anchors[first]
    words = _(
        "anchor {0} at {1:g}, {2:g} is nearly black: much of what it shows is light astray in the lens; a lighter grey would tell far more"
    )
    return [words.format(first + 1, anchor.x, anchor.y)]


def _all_clipped(patches: Sequence[Patch]) -> list[str]:
    """Channels that every anchor has at an end of the scale."""
    names = (_("red"), _("green"), _("blue"))
    held: BoolArray = np.all([patch.clipping.max(axis=0) > _CHANNELS_CLIPPED for patch in patches], axis=0)
    words = _(
        "every anchor is clipped in {0}: nothing says how much of it the light had; add an anchor that is darker or less strong"
    )
    out = [name for name, all_out in zip(names, held.tolist(), strict=True) if all_out]
    return [words.format(", ".join(out))] if out else []


def _turned_over(known: Known) -> list[str]:
    """Whether anchors that are lighter are darker in the picture."""
    lightness, seen = known.target[known.telling, 0], known.encoded[known.telling].mean(axis=1)
    if np.ptp(lightness) < _TOLD_LIGHTNESS or np.ptp(seen) < _TOLD_LEVEL:
        return []
    if float(np.corrcoef(lightness, seen)[0, 1]) > -0.6:
        return []
    return [
        _(
            "what is stated as lighter is darker in the picture: a negative scanned as a positive? Turn it into a positive first"
        )
    ]


def _disagreements(cast: Cast, anchors: Sequence[Anchor], known: Known, missed: HeldOut) -> list[str]:
    """Anchors that do not fit the others, named with what may be wrong; and anchors that say the same thing."""
    said = _turned_over(known)
    misses = missed.de00
    if cast.known == 2 and misses.mean() > _CONTRADICTING_DE00:
        said.append(
            _(
                "the two anchors contradict each other by {0:.1f} ΔE00: one may lie in another light, or be stated wrong"
            ).format(misses.mean())
        )
    outliers = _outliers(cast, known, missed)
    for index, miss in outliers:
        said.append(
            _("anchor {0} at {1:g}, {2:g} is missed by {3:.1f} ΔE00 from the others: {4}").format(
                index + 1,
                anchors[index].x,
                anchors[index].y,
                miss,
                _reason(anchors[index], known, index, cast),
            )
        )
    if cast.known > 2 and not outliers and misses.mean() > _NOTHING_FITS_DE00:
        worst = int(missed.which[misses.argmax()])
        words = _(
            "no way of taking a picture explains these anchors: they are missed by {0:.1f} ΔE00 on average, anchor {1} by the most; "
            "check what is stated of them, or whether the picture was coloured by hand or turned into a negative"
        )
        said.append(words.format(misses.mean(), worst + 1))
    table = known.target[known.full]
    if cast.known >= 3 and float(delta_e00(table[:, None], table[None]).max()) < _ONE_COLOUR_DE00:
        said.append(
            _("all anchors are of about one colour: a second one of another colour would tell far more")
        )
    return said


def _outliers(cast: Cast, known: Known, missed: HeldOut) -> list[tuple[int, float]]:
    """Numbers of anchors of known colour that the rest contradicts, with ΔE00 from the rest; the rest agrees without them."""
    found: list[tuple[int, float]] = []
    places, rest = np.arange(len(known)), known
    while rest.telling.sum() > 3 and np.any((missed.de00 > _OUTLIER_DE00) & (missed.surprise > _SURPRISING)):
        # A bad anchor spoils the held-out error of the good ones too: try leaving out each of the worst.
        trials = []
        for worst in missed.which[np.argsort(-missed.surprise)[:_SUSPECTS]].tolist():
            others = rest.chosen(np.delete(np.arange(len(rest)), worst))
            left = held_out(fitted(others, (), cast.kind), others)
            trials.append((float(left.surprise.sum()), worst, others, left))
        _total, worst, others, left = min(trials, key=lambda trial: trial[0])
        miss = float(missed.de00[missed.which == worst][0])
        if miss < _OUTLIER_TIMES * left.de00.mean() or left.de00.mean() > 0.8 * missed.de00.mean():
            break
        found.append((int(places[worst]), miss))
        places, rest, missed = np.delete(places, worst), others, left
    return found


def _reason(anchor: Anchor, known: Known, index: int, cast: Cast) -> str:
    """What the miss of an outlying anchor looks like."""
    rest = known.chosen(np.delete(np.arange(len(known)), index))
    believed = fitted(rest, (), cast.kind).believed
    assert believed is not None
    dL, da, db = believed.lab(known.encoded[index : index + 1])[0] - known.target[index]
    if dL < -4 and abs(dL) > np.hypot(da, db) and db < 2:
        return _("it may lie in the shade while they are in the sun")
    if anchor.neutral and np.hypot(da, db) > abs(dL):
        return _("it may be lit by another light")
    return _("check what is stated of it, or remove it")
