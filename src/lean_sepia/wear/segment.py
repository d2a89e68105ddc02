"""Which pixels of a region are still the ground, and which are worn, and how: the scene is fitted, then read pixel by pixel."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray
from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.wear.fitting import fit_scene
from lean_sepia.wear.scene import Look, Scene, Spot, encoded, whitening
from lean_sepia.wear.shares import shares_of

NOWHERE: Mapping[str, Spot] = MappingProxyType({})
WORN = "worn"
"""The one class used when the user names none: whatever is clearly not the base."""

_FAINT_WIDTHS = 4.0  # of the noise
_LEAST_STEP = 0.035  # encoded: below this a mark is within what light and dirt do to one paint


@dataclass(frozen=True, eq=False)
class Segmented:
    """A region read: by class how much of each pixel (h, w) it covers, the scene, and which pixels belong to the region (None: all).

    ground : share of the region that is ground; other : share that is neither the ground nor of a class
    """

    shares: Mapping[str, FloatArray]
    scene: Scene
    inside: BoolArray | None
    ground: float
    other: float

    def core(self, name: str) -> BoolArray:
        """Pixels (h, w) that are for the greater part of a class."""
        return np.asarray(self.shares[name] > 0.5)

    def contrast(self, name: str) -> float:
        """How far a class is from the ground, in units of the noise."""
        if name not in self.shares or name == WORN:
            return np.inf
        number = 1 + list(self.shares).index(name)
        whiten = whitening(self.scene.spread)
        return float(
            np.linalg.norm((encoded(self.scene.paints[number]) - encoded(self.scene.paints[0])) @ whiten)
        )


def segment(
    look: Look,
    base: FloatArray,
    classes: Mapping[str, FloatArray],
    spots: Mapping[str, Spot] = NOWHERE,
    inside: BoolArray | None = None,
    said: Sequence[tuple[str, BoolArray]] = (),
    progress: Callable[[float], None] = lambda _share: None,
) -> Segmented:
    """For every class of wear how much of each pixel it covers.

    Without classes everything that is clearly not the ground is one class, "worn", of whole pixels.

    Parameters
    ----------
    base : L*a*b* (3,) of the ground
    classes : name to L*a*b* (3,)
    spots : where in the region colours were pointed at, by the class's name, "" for the ground; what is missing is known otherwise
    inside : (h, w) pixels of the region; all where it is None
    said : what pixels (h, w) show, by class, "" for the ground, whatever they look like
    progress : told how far it is, 0–1
    """
    names = list(classes)
    colours = xyz_from_lab(np.array([base, *(classes[name] for name in names)]))
    scene = fit_scene(look, colours, [spots.get(name) for name in ("", *names)], inside)
    progress(0.3)
    if not names:
        worn = _only(_unlike_ground(look, scene), inside)
        return Segmented({WORN: worn}, scene, inside, 1 - _mean(worn, inside), 0.0)
    shares = shares_of(look, scene, lambda share: progress(0.3 + 0.6 * share), inside)
    for name, where in said:
        for number, one in enumerate(("", *names)):
            shares[number][where] = float(one == name)
    ground = _mean(shares[0], inside)
    found = {name: _only(share, inside) for name, share in zip(names, shares[1:], strict=False)}
    other = max(0.0, 1 - ground - sum(_mean(share, inside) for share in found.values()))
    return Segmented(found, scene, inside, ground, other)


def _unlike_ground(look: Look, scene: Scene) -> FloatArray:
    """Whether each pixel (h, w) is clearly not the ground, as 0 or 1."""
    away = np.linalg.norm(encoded(scene.whole(look)) - encoded(scene.paints[0]), axis=-1)
    noise = np.sqrt(np.trace(scene.spread) / 3)
    return np.asarray((away > max(_FAINT_WIDTHS * noise, _LEAST_STEP)).astype(np.float32).reshape(look.shape))


def _mean(share: FloatArray, inside: BoolArray | None) -> float:
    return float(share.mean() if inside is None else share[inside].mean())


def _only(share: FloatArray, inside: BoolArray | None) -> FloatArray:
    return share if inside is None else np.where(inside, share, np.float32(0))
