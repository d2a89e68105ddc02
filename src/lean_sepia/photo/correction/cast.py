"""Taking the cast out with whatever is known in the picture, and knowing how far to trust the result.

One model serves every number of anchors (`cast_model`). Before any anchor, a picture may be of several families
(`cast_families`): the light it was taken in, and film or camera. Each family is fitted to the anchors (most probable
parameters, then a normal distribution about them); how well it explains them decides how much it counts. What the anchors
still miss after that is spread to like colours by kriging, but only where anchors held out say that it helps. What
all this leaves open becomes the range of every sample.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import chroma, lab_from_xyz, xyz_from_lab
from lean_sepia.language import _
from lean_sepia.photo.correction.cast_families import as_found, range_scale
from lean_sepia.photo.correction.cast_model import (
    cones_of,
    corrected_xyz,
    lab_and_slopes,
)
from lean_sepia.photo.patch import Patch

MISFIT_REACH = 22.0
"""Over what distance in L*a*b* that which no such model follows stays alike."""

_USUAL_DOUBT = 0.25
_GREY_MISFIT, _FULL_MISFIT_CHROMA = 0.35, 14.0


@dataclass(frozen=True)
class Anchor:
    """A disc whose true colour is known: fully (`lab`), as a grey of known L*, or only as grey.

    `lab` is (L*, 0, 0) for a neutral of known lightness and None for one of unknown lightness.
    """

    x: float
    y: float
    radius: float
    lightness: float | None = None
    a: float = 0.0
    b: float = 0.0

    @property
    def lab(self) -> FloatArray | None:
        """The known colour (3,), or None where the lightness is unknown."""
        return None if self.lightness is None else np.array([self.lightness, self.a, self.b])

    @property
    def neutral(self) -> bool:
        """Whether it is known to be grey."""
        return float(np.hypot(self.a, self.b)) < 3


@dataclass(frozen=True, eq=False)
class Hypothesis:
    """One family fitted to the anchors: how much it counts, its parameters (21,) and their covariance (21, 21).

    misfit : (3,) what the family's model does not follow, in L*, a*, b*
    """

    family: str
    share: float
    theta: FloatArray
    covariance: FloatArray
    misfit: tuple[float, float, float]


@dataclass(frozen=True, eq=False)
class Misfit:
    """What the anchors still miss, spread to colours like theirs (simple kriging with a Gaussian covariance).

    at : L*a*b* (n, 3) where the anchors come out; weights : (n, 3); inverse : (3, n, n), one for each coordinate
    """

    at: FloatArray
    weights: FloatArray
    inverse: FloatArray

    @classmethod
    def sure_at(cls, at: FloatArray, weights: FloatArray, doubt: FloatArray | None = None) -> Misfit:
        """Kriging on anchors at L*a*b* (n, 3); `doubt` (n, 3) is their variance in shares of the misfit's."""
        noise = np.full(at.shape, _USUAL_DOUBT) if doubt is None else doubt
        alike = _alike(at, at)
        return cls(at, weights, np.stack([np.linalg.inv(alike + np.diag(noise[:, c])) for c in range(3)]))

    def shift(self, lab: FloatArray) -> FloatArray:
        """What to add to L*a*b* (..., 3)."""
        return _alike(lab, self.at) @ self.weights

    def left(self, lab: FloatArray) -> FloatArray:
        """The share (3,) of the misfit's variance that is left at one L*a*b* (3,)."""
        near = _alike(lab, self.at)
        return 1 - np.einsum("i,cij,j->c", near, self.inverse, near)


def _alike(lab: FloatArray, at: FloatArray) -> FloatArray:
    """How alike (..., n) the misfit is at L*a*b* (..., 3) and at the anchors (n, 3): 1 at the same place."""
    squared = ((lab[..., None, :] - at) ** 2).sum(axis=-1)
    return np.exp(-0.5 * squared / MISFIT_REACH**2)


def _unlike_grey(lab: FloatArray) -> float:
    """Share of the misfit that applies at one L*a*b* (3,): sensors and dyes err least on greys (practice)."""
    return float(_GREY_MISFIT + (1 - _GREY_MISFIT) * (1 - np.exp(-chroma(lab) / _FULL_MISFIT_CHROMA)))


def _unanchored() -> tuple[Hypothesis, ...]:
    family = as_found()
    return (Hypothesis(family.name, 1.0, family.mean, family.covariance, family.misfit),)


@dataclass(frozen=True, eq=False)
class Cast:
    """A fitted correction: its hypotheses, the misfit it takes out, and how it was come by.

    `known` counts the anchors of known colour.
    """

    hypotheses: tuple[Hypothesis, ...] = field(default_factory=_unanchored)
    misfit: Misfit | None = None
    model: str = field(default_factory=lambda: _("none: as found"))
    anchor_error_de00: float | None = None
    warnings: tuple[str, ...] = ()
    known: int = 0

    @property
    def light(self) -> str | None:
        """The family that explains the anchors best, where one stands out."""
        best = max(self.hypotheses, key=lambda one: one.share)
        return best.family if self.known and best.share > 0.6 else None

    def lab(self, linear_rgb: npt.ArrayLike) -> FloatArray:
        """Corrected L*a*b* (..., 3), D65, of the picture's linear sRGB (..., 3)."""
        lab = mean_lab(self.hypotheses, cones_of(linear_rgb))
        return lab if self.misfit is None else lab + self.misfit.shift(lab)

    def xyz(self, linear_rgb: npt.ArrayLike) -> FloatArray:
        """Corrected XYZ (..., 3), D65, of the picture's linear sRGB (..., 3); a little below 0 beyond real colours."""
        if self.misfit is None:
            return _mean_xyz(self.hypotheses, cones_of(linear_rgb))
        return xyz_from_lab(self.lab(linear_rgb))

    def possible_labs(self, patch: Patch) -> tuple[tuple[float, FloatArray, FloatArray], ...]:
        """Where a patch's true L*a*b* may lie: for each hypothesis its share, mean (3,) and covariance (3, 3).

        The covariance holds the patch's own error, what the anchors left open, and what the model does not follow.
        """
        cones = cones_of(patch.mean)
        seen = self.lab(patch.mean)
        shift = np.zeros(3) if self.misfit is None else self.misfit.shift(seen)
        left = np.ones(3) if self.misfit is None else self.misfit.left(seen)
        left = left * _unlike_grey(seen) ** 2
        slopes_rgb = rgb_slopes(self, patch.mean)
        reading = slopes_rgb @ patch.cov_of_mean @ slopes_rgb.T
        answer = []
        labs, all_slopes = lab_and_slopes(cones, np.stack([one.theta for one in self.hypotheses]))
        for one, lab, slopes in zip(self.hypotheses, labs, all_slopes, strict=True):
            spread = slopes @ one.covariance @ slopes.T + np.diag(np.square(one.misfit) * left)
            scale = np.diag(range_scale(one.family, self.known))
            answer.append((one.share, lab + shift, reading + scale @ spread @ scale))
        return tuple(answer)


def _mean_xyz(hypotheses: Sequence[Hypothesis], cones: FloatArray) -> FloatArray:
    """Mean XYZ (..., 3) over hypotheses, by their shares, of cones (..., 3)."""
    theta = np.stack([one.theta for one in hypotheses])
    shares = np.array([one.share for one in hypotheses])
    return np.asarray(np.tensordot(shares, corrected_xyz(cones, theta), axes=1))


def mean_lab(hypotheses: Sequence[Hypothesis], cones: FloatArray) -> FloatArray:
    """The mean L*a*b* (..., 3) of cones (..., 3), each hypothesis counted by its share."""
    return lab_from_xyz(_mean_xyz(hypotheses, cones))


AS_FOUND = Cast()


def rgb_slopes(cast: Cast, linear_rgb: FloatArray) -> FloatArray:
    """Slopes (..., 3, 3) of corrected L*a*b* in linear sRGB (..., 3), by central differences."""
    step = 1e-4 * np.concatenate([np.eye(3), -np.eye(3)])
    labs = cast.lab(linear_rgb[..., None, :] + step)
    return np.asarray((labs[..., :3, :] - labs[..., 3:, :]).swapaxes(-1, -2) / 2e-4)
