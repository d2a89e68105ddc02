"""Thin tints over several grounds: what each pass does, when it shows, when it is a wash, and which brings them nearer to a goal."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np
import numpy.typing as npt
from scipy.interpolate import BarycentricInterpolator

from lean_sepia.arrays import FloatArray, IntArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import Laying, Matter
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint, Palette
from lean_sepia.paint.saunderson import Surface
from lean_sepia.paint.stack import Opaque
from lean_sepia.recipe.mixture_table import local_metric

THINNER_PARTS = (10, 12, 15, 20, 25, 30, 40)
"""Parts of thinner to one of paint that are tried; 10 is a wash, 20 a filter (practice)."""

READY_PARTS = (0, 1, 2, 3)
"""Parts of thinner to one of a ready wash: it is thin as it comes (practice)."""

MOST_PASSES = 3
"""More passes than that are no filter any more: another mix does it better (practice)."""

JUST_SHOWS_DE00 = 1.0
"""From how far apart two adjoining fields are told apart."""

HELPS_DE00 = 0.5
"""What a filter must gain to be worth laying (practice)."""

WASH_FILM = film_thickness(1, 10 / 11, "flood")
"""Film of a wash: one part in ten of thinner, left wet (practice)."""

_AS_GOOD_DE00 = 0.01
_NODES, _EXACT_EACH, _EXACT_PAIRS, _KEPT = 7, 3, 600, 200


@dataclass(frozen=True)
class Glaze:
    """A filter: one part of paint, or of two in equal parts, its thinner, the passes, and the colour each ground becomes."""

    paint: str
    thinner_parts: int
    passes: int
    labs: tuple[tuple[float, float, float], ...]
    de00_mean: float
    second: str | None = None


@dataclass(frozen=True, eq=False)
class Ground(Opaque):
    """What a glaze lies on: its internal reflectance (31,), and the surface it is finally seen through.

    lying : how a glaze lies there, where more of that is known: what will come on it, and other places of the zone
    """

    lying: Laying | None = None

    def under(self, X: npt.ArrayLike) -> Laying:
        """How a film of thickness X, one number or (..., 1), lies on it."""
        return replace(self.lying or Laying(self.R_i, kept=self.surface), X=X)


def glaze_labs(matter: Matter, grounds: Sequence[Ground], X: npt.ArrayLike) -> FloatArray:
    """L*a*b* (..., n, 3) of n grounds under a film of thickness X (...) of a paint; the ground's surface stays."""
    films = np.asarray(X, dtype=float)[..., None, None]
    if any(ground.lying for ground in grounds):
        return np.concatenate([ground.under(films).lab(matter) for ground in grounds], axis=-2)
    R_g = np.stack([ground.R_i for ground in grounds])
    kept = Surface(*(np.array([getattr(one.surface, name) for one in grounds]) for name in ("g", "k1", "k2")))
    return Laying(R_g, films, kept=kept).lab(matter)


def glaze_film(thinner_parts: float, passes: float) -> float:
    """Film thickness X of passes of one part paint in `thinner_parts` parts thinner, drawn out thin."""
    return film_thickness(passes, thinner_parts / (1 + thinner_parts), "glaze")


def passes_until_a_wash(thinner_parts: float, sold_thinned: float = 0.0) -> int:
    """From which pass on so much paint lies there that it gathers at edges as a wash does; `sold_thinned` is the share sold with it."""
    return max(1, int(np.ceil(WASH_FILM / (glaze_film(thinner_parts, 1) * (1 - sold_thinned)) - 1e-9)))


def just_shows_on(
    passes: int,
    matter: Matter,
    grounds: Sequence[Ground],
    most_parts: int = 200,
    least_parts: int = THINNER_PARTS[0],
) -> int | None:
    """Parts of thinner to one of paint with which a filter first shows on that pass, on the ground it shows most on.

    None where not even a mix as strong as a wash shows by then.
    """
    parts = np.arange(least_parts, most_parts + 1)
    before = glaze_labs(matter, grounds, np.zeros(1))[0]

    def moved(count: int) -> FloatArray:
        films = np.array([glaze_film(float(thinner), count) for thinner in parts])
        return delta_e00(glaze_labs(matter, grounds, films), before).max(axis=1)

    shows = moved(passes) >= JUST_SHOWS_DE00
    hidden = moved(passes - 1) < JUST_SHOWS_DE00 if passes > 1 else np.ones(len(parts), bool)
    fitting = np.flatnonzero(shows & hidden)
    return int(parts[fitting[0]]) if len(fitting) else None


def contrasts(labs: npt.ArrayLike) -> FloatArray:
    """ΔE00 (n, n) between every two of several colours L*a*b* (n, 3)."""
    one = np.asarray(labs, dtype=float)
    return delta_e00(one[:, None], one[None, :])


def drawn_together(labs: npt.ArrayLike, share: float = 0.15) -> FloatArray:
    """Goals L*a*b* (n, 3) for grounds that have none of their own: each a share of the way to their mean."""
    one = np.asarray(labs, dtype=float)
    return one + share * (one.mean(axis=0) - one)


def choose_glazes(
    paints: Sequence[Paint], grounds: Sequence[Ground], targets: Sequence[npt.ArrayLike], most: int = 1
) -> list[Glaze]:
    """The best thinning and number of passes of every paint, the paint with the lowest mean ΔE00 first.

    Parameters
    ----------
    grounds : what the glaze lies on
    targets : L*a*b* (3,) for each ground, in the same order
    most : 2 tries equal parts of every two paints too; those are among the answers that come nearer than either alone

    Raises
    ------
    ColourError
        There are not as many targets as bases.
    ShelfError
        The shelf has no paint that can be thinned to a glaze.
    """
    if len(grounds) != len(targets):
        raise ColourError(
            _("Each base needs its own target: found {0} bases and {1} targets.").format(
                len(grounds), len(targets)
            )
        )
    usable = [paint for paint in paints if paint.tints and not paint.ready]
    ready = [paint for paint in paints if paint.tints and paint.ready]
    if not usable and not ready:
        raise ShelfError(
            _("No paint on this shelf can be thinned to a glaze: metallics and powders are laid alone.")
        )
    goals = np.array(targets, dtype=float)
    found = []
    if ready:
        as_they_come = _Search(ready, grounds, goals, READY_PARTS)
        found = as_they_come.exactly(*as_they_come.near_singles())
    if not usable:
        return sorted(found, key=lambda glaze: glaze.de00_mean)
    search = _Search(usable, grounds, goals)
    found += search.exactly(*search.near_singles())
    alone = {glaze.paint: glaze.de00_mean for glaze in found}
    if most > 1 and len(usable) > 1:
        found += [
            both
            for both in search.exactly(*search.near_pairs(), most=_KEPT)
            if both.de00_mean < min(alone[both.paint], alone[both.second or both.paint]) - _AS_GOOD_DE00
        ]
    return sorted(found, key=lambda glaze: glaze.de00_mean)


class _Search:
    """Every paint, and every two in equal parts, at every thinning and number of passes.

    Colours are first estimated: of single paints by interpolation over the film, of two as the sum of what half a film of
    each does; ΔE00 by the ellipsoid round each goal. Only what comes near is computed, by the film itself.
    """

    def __init__(
        self,
        paints: Sequence[Paint],
        grounds: Sequence[Ground],
        goals: FloatArray,
        parts: Sequence[int] = THINNER_PARTS,
    ) -> None:
        self._palette, self._grounds, self._goals = Palette.of(paints), grounds, goals
        # Passes first: of two that are equally near, the fewest passes are chosen, then the weaker mix.
        self._choices = [(n, p) for p in range(1, MOST_PASSES + 1) for n in reversed(parts)]
        self._films = np.array([glaze_film(thinner, passes) for thinner, passes in self._choices])
        self._metric = [local_metric(goal) for goal in goals]
        nodes = self._films.max() * (1 - np.cos(np.pi * np.arange(_NODES) / (_NODES - 1))) / 2
        count = len(paints)
        rows = np.eye(count)[:, None, None].repeat(_NODES, 1)
        labs = self._labs(rows.reshape(-1, 1, count), np.tile(nodes, count)).reshape(
            count, _NODES, len(grounds), 3
        )
        self._moved = BarycentricInterpolator(nodes, labs, axis=1)
        self._before = labs[0, 0]

    def _labs(self, shares: FloatArray, films: FloatArray) -> FloatArray:
        """L*a*b* (n, grounds, 3) of mixtures by shares (n, 1, paints) in films (n,)."""
        return glaze_labs(self._palette.mixture(shares), self._grounds, films)

    def near_singles(self) -> tuple[IntArray, IntArray]:
        """Each paint as a pair with itself (n, 2), with a choice (n,) that looks best for it."""
        labs = self._moved(self._films)
        away = np.zeros(labs.shape[:2])
        for ground, metric in enumerate(self._metric):
            away += np.linalg.norm((labs[:, :, ground] - self._goals[ground]) @ metric.T, axis=-1)
        chosen = np.argsort(away, axis=1)[:, :_EXACT_EACH]
        paints = np.repeat(np.arange(len(labs)), chosen.shape[1])
        return np.column_stack([paints, paints]), chosen.ravel()

    def near_pairs(self) -> tuple[IntArray, IntArray]:
        """Pairs of paints (n, 2) that can be stirred together, with choices (n,), that look nearest to the goals."""
        half = self._moved(self._films / 2)
        count = half.shape[0]
        away = np.zeros((len(self._films), count, count))
        for ground, metric in enumerate(self._metric):
            start = (self._before[ground] - self._goals[ground]) @ metric.T / 2
            steps = (half[:, :, ground] - self._before[ground]) @ metric.T + start
            steps = steps.transpose(1, 0, 2)
            length = (steps**2).sum(axis=-1)
            square = length[:, :, None] + length[:, None, :] + 2 * steps @ steps.transpose(0, 2, 1)
            away += np.sqrt(np.maximum(square, 0))
        first, second = np.triu_indices(count, 1)
        media = [paint.medium for paint in self._palette.paints]
        mixes = {pair: media_mix(*pair) for pair in {*combinations(media, 2)}}
        stirred = np.array([mixes[media[i], media[j]] for i, j in zip(first, second, strict=True)])
        first, second = first[stirred], second[stirred]
        near = away[:, first, second]
        best = np.argsort(near, axis=None)[:_EXACT_PAIRS]
        choice, pair = np.unravel_index(best, near.shape)
        return np.column_stack([first[pair], second[pair]]), choice

    def exactly(self, pairs: IntArray, choices: IntArray, most: int | None = None) -> list[Glaze]:
        """The best choice of each pair of paints among those given, computed; a pair of one paint is that paint alone."""
        if not len(pairs):
            return []
        count = len(self._palette.paints)
        shares = (np.eye(count)[pairs[:, 0]] + np.eye(count)[pairs[:, 1]]) / 2
        labs = self._labs(shares[:, None], self._films[choices])
        mean = delta_e00(labs, self._goals).mean(axis=1)
        # Of those about as near as the best of their pair, the first choice; then the nearest pairs.
        keys = pairs[:, 0] * count + pairs[:, 1]
        _unique, which = np.unique(keys, return_inverse=True)
        least = np.full(which.max() + 1, np.inf)
        np.minimum.at(least, which, mean)
        good = np.flatnonzero(mean <= least[which] + _AS_GOOD_DE00)
        good = good[np.lexsort((choices[good], which[good]))]
        rows = good[np.unique(which[good], return_index=True)[1]]
        return [
            self._glaze(pairs[row], choices[row], labs[row], mean[row])
            for row in rows[np.argsort(mean[rows])[:most]]
        ]

    def _glaze(self, pair: IntArray, choice: int, labs: FloatArray, mean: float) -> Glaze:
        first, second = (self._palette.paints[int(number)].id for number in pair)
        thinner, passes = self._choices[int(choice)]
        seen = tuple(triple(lab) for lab in labs)
        return Glaze(first, thinner, passes, seen, float(mean), second if second != first else None)
