"""How paint ages in the open: chalking, bleaching, yellowing and dirt, and which of them explain what is seen.

Each share runs from 0 to 1. Chalk is a film of white scatter on top, S·X equal to the share; bleach takes that share of K away;
yellow is a film that absorbs blue; dirt is a thin brown-grey film on top of all. The shapes of the two absorbing films are common
practice without a source. Films over an opaque ground: Kubelka, J. Opt. Soc. Am. 38 (1948).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import astuple, dataclass, replace
from functools import cache
from itertools import combinations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, IntArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.spectrum import WAVELENGTHS_NM
from lean_sepia.language import N_
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.kubelka_munk import layer, opaque_reflectance, ratio_of_opaque
from lean_sepia.paint.saunderson import SHEEN, Surface

Lab = tuple[float, float, float]
Film = tuple[FloatArray, FloatArray]
CAUSES: dict[str, str] = {"chalk": N_("chalking"), "bleach": N_("bleaching"), "yellow": N_("yellowing"), "dirt": N_("dirt")}  # fmt: skip
NOISE_LAB = 0.35
"""Standard deviation of L*, a* and b* between two readings of 0.25 each, where nothing else is known."""

_YELLOW_K = 3.0 * np.exp(-(WAVELENGTHS_NM - 400.0) / 55.0)
_DIRT_K = 0.9 - 0.5 * (WAVELENGTHS_NM - 400.0) / 300.0
_DIRT_S = np.full(len(WAVELENGTHS_NM), 0.22)
_TWO = tuple(combinations(CAUSES, 2))
_SETS: tuple[tuple[str, ...], ...] = (*((name,) for name in CAUSES), *_TWO)
_STEP, _MOST_SHARE = 0.02, 0.8
_CLEARLY, _LEAST_LIKELY = 3.0, 0.01
_SEEN_DE00 = 1.0


@dataclass(frozen=True)
class Ageing:
    """Shares 0–1 of each cause."""

    chalk: float = 0.0
    bleach: float = 0.0
    yellow: float = 0.0
    dirt: float = 0.0

    @property
    def causes(self) -> tuple[str, ...]:
        """What there is of it, the largest share first."""
        shares = {name: float(getattr(self, name)) for name in CAUSES}
        return tuple(sorted((name for name in shares if shares[name] > 0), key=lambda name: -shares[name]))

    def internal(self, R_inf: npt.ArrayLike) -> FloatArray:
        """Internal reflectance (..., 31) of an opaque paint of internal reflectance R_inf (..., 31) once it has aged."""
        return _aged(R_inf, self.chalk, self.bleach, self.yellow, self.dirt)

    def lab(self, fresh: npt.ArrayLike, finish: str = "flat") -> Lab:
        """The colour L*a*b* that a surface of a fresh colour (3,) takes on by it."""
        found = internal_from_lab(fresh, SHEEN[finish])
        return triple(lab_from_reflectance(Surface(found.g).seen(self.internal(found.R_i))))


@dataclass(frozen=True)
class Explanation:
    """One or two causes: their shares, with 90 % intervals by cause; how likely just these are; how far off they come.

    likely : 0–1 among all sets of one or two causes; de00 : between the colours they give and those seen, in the mean
    """

    ageing: Ageing
    ranges90: dict[str, tuple[float, float]]
    likely: float
    de00: float


@dataclass(frozen=True)
class Diagnosis:
    """What explains a change best, the best rival of other causes, and what is odd about the pair.

    odd : "" or "equal" where nothing has changed, "darker" where the exposed colour is darker, though sun bleaches
    """

    best: Explanation
    rival: Explanation | None
    odd: str

    @property
    def sure(self) -> bool:
        """Whether the rival is clearly less likely."""
        return self.rival is None or self.best.likely > _CLEARLY * self.rival.likely


@dataclass(frozen=True, eq=False)
class Pair:
    """One colour L*a*b* sheltered and exposed; and the internal reflectance (31,) of its paint, where a mix for it is known.

    A colour alone leaves its spectrum open, and with it what bleaching or a blue-absorbing film would do to it.
    """

    fresh: Lab
    exposed: Lab
    R_inf: FloatArray | None = None


def explain(pairs: Sequence[Pair], noise: float = NOISE_LAB) -> Diagnosis:
    """What explains that fresh colours became the exposed ones, the same for all pairs.

    Every single cause and every two are weighed at all shares, each set as likely before as the next of its size: so few causes
    are preferred. The shares given are the means of the likeliest set. noise : standard deviation of each of L*, a*, b* of a pair
    """
    grid, sets = _hypotheses()
    chi2, misses = np.zeros(len(grid)), np.zeros(len(grid))
    changes = []
    for pair in pairs:
        fresh, exposed = np.asarray(pair.fresh), np.asarray(pair.exposed)
        R, g = _known(pair)
        surface = Surface(g)
        # A mix for a colour misses it a little: what ages is the mix, and the miss stays.
        missed = fresh - lab_from_reflectance(surface.seen(R))
        labs = lab_from_reflectance(surface.seen(_under(_grid_films(), R, grid[:, 1:2]))) + missed
        chi2 += (((labs - exposed) / noise) ** 2).sum(axis=1)
        misses += delta_e00(labs, np.broadcast_to(exposed, labs.shape)) / len(pairs)
        changes.append((float(delta_e00(fresh, exposed)), float(exposed[0] - fresh[0])))
    if max(de00 for de00, _lighter in changes) < _SEEN_DE00:
        unchanged = float(np.mean([de00 for de00, _lighter in changes]))
        return Diagnosis(Explanation(Ageing(), {}, 1.0, unchanged), None, "equal")
    weight = np.exp(-0.5 * (chi2 - chi2.min())) / np.bincount(sets)[sets]
    weight[sets >= len(CAUSES)] *= len(CAUSES) / len(_TWO)
    weight /= weight.sum()
    order = [int(number) for number in np.argsort(-np.bincount(sets, weight))]
    best = _explained(order[0], grid, sets, weight, misses)
    others = [number for number in order[1:] if not set(_SETS[order[0]]) <= set(_SETS[number])]
    rival = _explained(others[0], grid, sets, weight, misses)
    odd = "darker" if float(np.mean([lighter for _de00, lighter in changes])) < -_SEEN_DE00 else ""
    return Diagnosis(best, rival if rival.likely > _LEAST_LIKELY else None, odd)


def _explained(
    number: int, grid: FloatArray, sets: IntArray, weight: FloatArray, misses: FloatArray
) -> Explanation:
    """The mean of one set of causes, and where 90 % of its weight lies."""
    mine = sets == number
    likely = float(weight[mine].sum())
    if likely <= _LEAST_LIKELY:
        return Explanation(Ageing(), {}, 0.0, float(misses[mine].min()))
    own, rows = weight[mine] / likely, grid[mine]
    means = dict(zip(CAUSES, (float(value) for value in own @ rows), strict=True))
    ranges = {}
    for column, name in enumerate(CAUSES):
        if name in _SETS[number]:
            order = np.argsort(rows[:, column])
            reached = np.cumsum(own[order])
            low, high = (float(rows[order[np.searchsorted(reached, q)], column]) for q in (0.05, 0.95 - 1e-9))
            ranges[name] = (low, high)
    return Explanation(Ageing(**means), ranges, likely, float(own @ misses[mine]))


@cache
def _grid_films() -> tuple[Film, ...]:
    """The films of every hypothesis: they are the same for all colours."""
    grid, _sets = _hypotheses()
    return _films(grid[:, 0:1], grid[:, 2:3], grid[:, 3:4])


@cache
def _hypotheses() -> tuple[FloatArray, IntArray]:
    """Shares (n, 4) of every set of one or two causes, and the number (n,) of the set each belongs to."""
    axis = np.arange(_STEP / 2, _MOST_SHARE, _STEP)
    both = np.stack(np.meshgrid(axis, axis, indexing="ij"), axis=-1).reshape(-1, 2)
    rows, numbers = [], []
    for number, chosen in enumerate(_SETS):
        values = axis[:, None] if len(chosen) == 1 else both
        shares = np.zeros((len(values), len(CAUSES)))
        shares[:, [list(CAUSES).index(name) for name in chosen]] = values
        rows.append(shares)
        numbers.append(np.full(len(values), number))
    return np.vstack(rows), np.concatenate(numbers)


def _aged(
    R_inf: npt.ArrayLike,
    chalk: npt.ArrayLike,
    bleach: npt.ArrayLike,
    yellow: npt.ArrayLike,
    dirt: npt.ArrayLike,
) -> FloatArray:
    """Internal reflectance (..., 31) of an opaque paint (31,) or (..., 31) aged by shares (..., 1)."""
    return _under(_films(chalk, yellow, dirt), R_inf, bleach)


def _films(chalk: npt.ArrayLike, yellow: npt.ArrayLike, dirt: npt.ArrayLike) -> tuple[Film, ...]:
    """Reflectance and transmittance of the three films, from below upwards."""
    none, one = np.zeros_like(_DIRT_S), np.ones_like(_DIRT_S)
    return layer(_YELLOW_K, none, yellow), layer(none, one, chalk), layer(_DIRT_K, _DIRT_S, dirt)


def _under(films: tuple[Film, ...], R_inf: npt.ArrayLike, bleach: npt.ArrayLike) -> FloatArray:
    """A bleached opaque paint under films: R = R_0 + T²·R/(1 − R_0·R), one after another (Kubelka 1948, eq. 30)."""
    K = ratio_of_opaque(R_inf) * (1 - np.asarray(bleach))
    R = opaque_reflectance(K, np.ones_like(K))
    for R_0, T in films:
        R = R_0 + T**2 * R / (1 - R_0 * R)
    return R


def _known(pair: Pair) -> tuple[FloatArray, float]:
    """The internal reflectance (31,) of the fresh colour, and the sheen at which it has it."""
    if pair.R_inf is not None:
        return pair.R_inf, SHEEN["flat"]
    found = internal_from_lab(pair.fresh, SHEEN["flat"])
    return found.R_i, found.g


def a_step_chalkier(lab: npt.ArrayLike, step: float = 0.05) -> Lab:
    """A colour L*a*b* (3,) after one more step of chalking (practice)."""
    return replace(Ageing(), chalk=step).lab(lab)


def shares(ageing: Ageing) -> tuple[float, float, float, float]:
    """The four shares in the order of `CAUSES`."""
    return astuple(ageing)
