"""A ladder of tones of one base for light and shade: steps that look equal, as the films that are laid.

Shares, thinning and tools are common practice without a source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, IntArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import chroma
from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint, Palette
from lean_sepia.recipe.parts import proportions

FEWEST_TONES, MOST_TONES = 3, 7
LIGHTEST_L = 16.0
"""How much lighter than the base the lightest tone of five is (practice)."""

EVEN = 0.15
"""Steps within that share of their mean look even."""

_FALLS = 0.6  # each tone covers so much of what its neighbour nearer to the base covers
_SHADES_APART_DE00 = 3.0  # where there are shades alone
_LEAST_STEP_DE00 = 1.0  # two tones closer than that are one
_DEAD_CHROMA, _DARK_L = 1.5, 35.0
_TRIED_STEPS, _MOST_PARTS, _MOST_DARK_PARTS, _MOST_PASSES = 60, 12, 24, 6
_FAR_FROM_WISH = 0.08  # of unevenness that a step e times as large as wished for costs
_CHEAPER = 0.004  # of unevenness that a pass less is worth


@dataclass(frozen=True)
class Manner:
    """How one tone is laid: tool, thinner share, and passes."""

    tool: str
    thinner_share: float
    passes: int


@dataclass(frozen=True)
class Tone:
    """One tone: parts of base and of what is added, its colour, how it is laid, and the share of the area it may cover.

    step : counted from the base, which is 0; below it the shade
    """

    step: int
    base_parts: int
    added: str | None
    added_parts: int
    lab: tuple[float, float, float]
    area_share: float
    manner: Manner


@dataclass(frozen=True)
class Ladder:
    """Tones from the darkest, ΔE00 between neighbours, and whether these are as even as 15 % of their mean."""

    tones: tuple[Tone, ...]
    steps: tuple[float, ...]

    @property
    def mean(self) -> float:
        """ΔE00 of the mean step."""
        return float(np.mean(self.steps))

    @property
    def uneven(self) -> float:
        """By what share of the mean the worst step differs from it."""
        return float(np.max(np.abs(np.array(self.steps) / self.mean - 1)))

    @property
    def even(self) -> bool:
        """Whether the steps look equal."""
        return self.uneven <= EVEN


def darkener(paints: Sequence[Paint], base: Paint, *, pure: bool = False) -> Paint | None:
    """A dark paint to shade with: the darkest with some colour of its own, so that it does not deaden; or pure black.

    None where there is no dark paint that mixes with the base.
    """
    dark = [
        p for p in paints
        if p.proposed and media_mix(p.medium, base.medium) and p.masstone_lab()[0] < _DARK_L
    ]  # fmt: skip
    tinged = [p for p in dark if float(chroma(p.masstone_lab())) > _DEAD_CHROMA]
    dead = [p for p in dark if float(chroma(p.masstone_lab())) <= _DEAD_CHROMA]
    chosen = (dead or dark) if pure else (tinged or dark)
    return min(chosen, key=lambda p: float(p.masstone_lab()[0])) if chosen else None


def area_shares(tones: int, shades: int = 0) -> tuple[float, ...]:
    """Share of the area of each tone, darkest first: most is the base; the further from it, the smaller the area (practice).

    >>> [round(100 * share) for share in area_shares(5, 1)]
    [22, 36, 22, 13, 8]
    """
    weights = _FALLS ** np.abs(np.arange(tones) - shades)
    return tuple(float(value) for value in weights / weights.sum())


def laid_shares(visible: Sequence[float]) -> tuple[float, ...]:
    """Share with which each tone is laid so that, one over the other, so much of each stays visible."""
    left, laid = 1.0, []
    for share in reversed(visible):
        laid.append(share / left if left > 0 else 0.0)
        left -= share
    return tuple(reversed(laid))


def usual_manner(step: int, highest: int) -> Manner:
    """How a tone is usually laid: the lighter, the thinner and the closer."""
    if step <= 0:
        return Manner("airbrush", 0.7, 2)
    share = step / max(1, highest)
    return Manner("close", round(0.7 + 0.1 * share, 2), 3)


def tone_ladder(
    base: Paint,
    lightener: Paint,
    dark: Paint | None,
    *,
    tones: int = 5,
    shades: int = 1,
    lightest: float | None = None,
    laying: Laying = OPAQUE,
    before: npt.ArrayLike | None = None,
) -> Ladder:
    """Tones from the deepest shade to the highest light, whose steps are as even as whole parts and passes allow.

    Parameters
    ----------
    tones, shades : how many in all, 3 to 7, and how many of them are below the base; without a dark paint none is
    lightest : L* by which the lightest is to be above the base; None for what suits the number of tones
    laying : what each tone lies on; opaque mixtures without a ground
    before : L*a*b* (3,) of the base as it lies; None for the opaque base

    Raises
    ------
    ShelfError
        A number of tones that is no ladder; or a paint too close to the base to make steps that can be told apart.
    """
    if not FEWEST_TONES <= tones <= MOST_TONES:
        raise ShelfError(
            _("A ladder has {0} to {1} tones; found {2}.").format(FEWEST_TONES, MOST_TONES, tones)
        )
    if not 0 <= shades < tones:
        raise ShelfError(
            _("Of {0} tones 0 to {1} may be shades; found {2}.").format(tones, tones - 1, shades)
        )
    shades = 0 if dark is None else shades
    lights = tones - 1 - shades
    start = np.asarray(laying.lab(base) if before is None else before, dtype=float)
    up = _Side(base, lightener, start, laying, lights)
    wanted = (LIGHTEST_L * lights / 3) if lightest is None else lightest
    step = max(up.span_at(wanted) / lights, _LEAST_STEP_DE00) if lights else _SHADES_APART_DE00
    down = _Side(base, dark, start, laying, 0) if dark is not None and shades else None
    above, below = _chosen(up, down, lights, shades, step)
    return _built(tones, shades, start, up, down, above, below)


def _chosen(
    up: _Side, down: _Side | None, lights: int, shades: int, step: float
) -> tuple[list[int], list[int]]:
    """The tones above and below the base whose steps are the most even, near a wished-for step."""
    if lights and up.reach() < _LEAST_STEP_DE00 * lights:
        raise ShelfError(
            _(
                "{0} is too close to the base: laid so, it moves it by {1:.1f} ΔE00, too little for {2} steps that can be told apart. Take another paint, fewer tones, or thin less."
            ).format(up.added.name, up.reach(), lights)
        )
    best: tuple[float, list[int], list[int]] = (float("inf"), [], [])
    steps = step * np.geomspace(0.6, 1.5, _TRIED_STEPS)
    for trial in steps[steps >= _LEAST_STEP_DE00 - 1e-9]:
        above, worst_above = up.chain(float(trial), lights)
        below, worst_below = down.chain(float(trial), shades) if down else ([], 0.0)
        cost = worst_above + worst_below + _FAR_FROM_WISH * abs(float(np.log(trial / step)))
        cost += _CHEAPER * (up.passes(above) + (down.passes(below) if down else 0))
        if cost < best[0]:
            best = (cost, above, below)
    if not best[1] and lights:
        raise ShelfError(_("No steps that can be told apart can be made of these parts. Take fewer tones."))
    return best[1], best[2]


class _Side:
    """What can be made of the base and one paint, towards light or shade: every proportion in every number of passes."""

    def __init__(self, base: Paint, added: Paint, start: FloatArray, laying: Laying, lights: int) -> None:
        self.added = added
        opaque = laying.ground is None
        parts = np.vstack([proportions(2, _MOST_PARTS if lights else _MOST_DARK_PARTS), [[0, 1]]])
        shares = parts / parts.sum(axis=1, keepdims=True)
        mixture = Palette.of([base, added]).mixture(shares)
        self._start = start
        rows: list[tuple[IntArray, Manner, FloatArray]] = []
        manners = (
            [usual_manner(step, lights) for step in range(1, lights + 1)] if lights else [usual_manner(-1, 0)]
        )
        for usual in {(m.tool, m.thinner_share): m for m in manners}.values():
            for passes in [1] if opaque else range(1, _MOST_PASSES + 1):
                X = film_thickness(passes, usual.thinner_share, usual.tool)
                labs = laying.lab(mixture) if opaque else replace(laying, X=X).lab(mixture)
                rows += [
                    (own, replace(usual, passes=passes if not opaque else usual.passes), lab)
                    for own, lab in zip(parts, labs, strict=True)
                ]
        self.rows = rows
        self.labs = np.array([lab for _own, _manner, lab in rows])
        self.away = delta_e00(self.labs, np.broadcast_to(start, self.labs.shape))
        self._passes = np.array([manner.passes for _own, manner, _lab in rows])
        self._from: dict[int, FloatArray] = {}

    def reach(self) -> float:
        """The largest ΔE00 from the base that can be made."""
        return float(self.away.max())

    def span_at(self, lighter: float) -> float:
        """ΔE00 from the base of what is so much lighter, or of the most that can be made."""
        return float(self.away[int(np.argmin(np.abs(self.labs[:, 0] - self._start[0] - lighter)))])

    def passes(self, chain: Sequence[int]) -> int:
        """Passes of a chain in all."""
        return int(self._passes[list(chain)].sum()) if chain else 0

    def _away_from(self, index: int) -> FloatArray:
        """ΔE00 of every row from one; of the many there are, chains meet few."""
        if index not in self._from:
            self._from[index] = delta_e00(self.labs, np.broadcast_to(self.labs[index], self.labs.shape))
        return self._from[index]

    def chain(self, step: float, count: int) -> tuple[list[int], float]:
        """So many tones from the base on, each a step from the one before; and by what share the worst step is off."""
        found: list[int] = []
        worst, at = 0.0, self.away
        far = np.zeros(len(self.rows))
        for _number in range(count):
            # Only further on, never back towards the base.
            onward = self.away > far
            if not onward.any():
                return found, float("inf")
            off = np.where(onward, np.abs(at / step - 1), np.inf)
            index = int(np.argmin(off + _CHEAPER * self._passes))
            worst = max(worst, float(off[index]))
            found.append(index)
            at, far = self._away_from(index), np.full(len(self.rows), self.away[index] + step / 3)
        return found, worst


def _built(
    tones: int,
    shades: int,
    start: FloatArray,
    up: _Side,
    down: _Side | None,
    above: Sequence[int],
    below: Sequence[int],
) -> Ladder:
    visible = area_shares(tones, shades)
    made: list[Tone] = []
    for order, index in enumerate(reversed(below)):
        assert down is not None
        made.append(_tone(down, index, order - shades, visible[order]))
    made.append(Tone(0, 1, None, 0, triple(start), visible[shades], usual_manner(0, 1)))
    for order, index in enumerate(above):
        made.append(_tone(up, index, order + 1, visible[shades + 1 + order]))
    labs = np.array([tone.lab for tone in made])
    return Ladder(tuple(made), tuple(float(value) for value in delta_e00(labs[:-1], labs[1:])))


def _tone(side: _Side, index: int, step: int, share: float) -> Tone:
    parts, manner, lab = side.rows[index]
    return Tone(step, int(parts[0]), side.added.id, int(parts[1]), triple(lab), share, manner)
