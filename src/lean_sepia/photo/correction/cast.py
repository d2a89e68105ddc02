"""Taking the cast out with whatever is known in the picture, and knowing how far to trust the result.

One model serves every number of anchors: worlds that the picture may come from (`worlds`), those of the stated kind where one is
stated (`kinds`), weighed and updated by what the anchors say (`believed`). What all this leaves open becomes the range of every
sample. Without any anchor the colours are shown as found, and the range is what the worlds say of that.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cache, cached_property

import numpy as np
import numpy.typing as npt
from scipy.ndimage import map_coordinates

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.even import even_from_lab, lab_from_even
from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.colour.srgb import srgb_from_linear, xyz_from_linear
from lean_sepia.language import _
from lean_sepia.photo.correction.believed import (
    EFFECTIVE_WORLDS,
    MOST_WORLDS,
    Believed,
    most_likely,
    standard_draws,
)
from lean_sepia.photo.correction.kinds import range_scale, worlds_of
from lean_sepia.photo.patch import Patch
from lean_sepia.photo.stated.picture_kind import PictureKind

_NODES, _COARSE_NODES, _FEW_WORLDS = 25, 7, 64
_FIRST_NODES = 9
_SINGLY = 1500  # colours beyond which they are looked up in a table
Possible = tuple[FloatArray, FloatArray]
"""L*a*b* (n, 3) that a colour may be, and the weight (n,) of each."""


@dataclass(frozen=True)
class Anchor:
    """A disc whose true colour is known: fully (`lab`), as a grey of known L*, or only as grey.

    `lab` is (L*, 0, 0) for a neutral of known lightness and None for one of unknown lightness. A `guess` is what is almost always
    there, such as a deep shadow: it says less, and does not count as known.
    """

    x: float
    y: float
    radius: float
    lightness: float | None = None
    a: float = 0.0
    b: float = 0.0
    guess: bool = False

    @property
    def lab(self) -> FloatArray | None:
        """The known colour (3,), or None where the lightness is unknown."""
        return None if self.lightness is None else np.array([self.lightness, self.a, self.b])

    @property
    def neutral(self) -> bool:
        """Whether it is known to be grey."""
        return float(np.hypot(self.a, self.b)) < 3


@cache
def unanchored(kind: PictureKind) -> Believed:
    """What is believed of a picture of this kind before any anchor: every one of its worlds with the light it was taken in."""
    worlds, met = worlds_of(kind)
    drawn = np.random.default_rng(0).choice(len(worlds), min(MOST_WORLDS, len(worlds)), replace=False)
    which, weights = most_likely(met[drawn], EFFECTIVE_WORLDS, MOST_WORLDS)
    kept = worlds.chosen(drawn[which])
    left = np.sqrt(kept.left**2 @ weights)
    return Believed(kept, weights, np.ones((3, len(kept)), np.float32), None, left, range_scale(kind, 0))


@dataclass(frozen=True, eq=False)
class Cast:
    """A fitted correction: what is believed of the picture's development, and how it was come by.

    `believed` is None for a picture that is taken as found. `known` counts the anchors of known colour. A `first` one was come by
    in haste, to show a picture by until the other is there.
    """

    believed: Believed | None = None
    kind: PictureKind = "unknown"
    model: str = field(default_factory=lambda: _("none: as found"))
    anchor_error_de00: float | None = None
    warnings: tuple[str, ...] = ()
    known: int = 0
    first: bool = False

    @property
    def light(self) -> str | None:
        """The light that explains the anchors best, where one stands out."""
        return self.believed.light if self.believed is not None and self.known else None

    @property
    def development(self) -> Believed:
        """What is believed of how the picture was developed, also where it is taken as found."""
        return unanchored(self.kind) if self.believed is None else self.believed

    def lab(self, linear_rgb: npt.ArrayLike) -> FloatArray:
        """Corrected L*a*b* (..., 3), D65, of the picture's linear sRGB (..., 3); of many from a table between whose nodes
        it is interpolated."""
        linear = np.asarray(linear_rgb, dtype=float)
        if self.believed is None:
            return lab_from_xyz(xyz_from_linear(linear))
        encoded = srgb_from_linear(linear).reshape(-1, 3)
        labs = self.believed.lab(encoded) if len(encoded) <= _SINGLY else self._looked_up(encoded)
        return labs.reshape(linear.shape)

    def xyz(self, linear_rgb: npt.ArrayLike) -> FloatArray:
        """Corrected XYZ (..., 3), D65, of the picture's linear sRGB (..., 3); a little below 0 beyond real colours."""
        if self.believed is None:
            return xyz_from_linear(linear_rgb)
        return xyz_from_lab(self.lab(linear_rgb))

    @cached_property
    def table(self) -> FloatArray:
        """Corrected colours (n, n, n, 3), in even coordinates, on a lattice of encoded red, green and blue; n is 25, of a first one 9.

        A few worlds stand for all; what that leaves out is made good on a coarser lattice.
        """
        assert self.believed is not None
        few = self.believed.thinned(_FEW_WORLDS)
        if self.first:
            return _cube(even_from_lab(few.lab(lattice(_FIRST_NODES))))
        coarse, fine = lattice(_COARSE_NODES), lattice(_NODES)
        left_out = even_from_lab(self.believed.lab(coarse)) - even_from_lab(few.lab(coarse))
        whole = even_from_lab(few.lab(fine)) + _between_nodes(_cube(left_out), fine)
        return _cube(whole)

    def _looked_up(self, encoded: FloatArray) -> FloatArray:
        return lab_from_even(_between_nodes(self.table, encoded))

    def possible_labs(self, patch: Patch) -> Possible:
        """Where a patch's true L*a*b* may lie: colours (n, 3) and their weights (n,).

        They hold the patch's own error, what the anchors left open, and what no world follows.
        """
        labs, weights = self.development.possible(srgb_from_linear(patch.mean))
        slopes = rgb_slopes(self, patch.mean)
        reading = slopes @ patch.cov_of_mean @ slopes.T
        values, vectors = np.linalg.eigh(reading)
        root = vectors * np.sqrt(np.maximum(values, 0))
        return labs + standard_draws(len(weights))[:, 3:] @ root.T, weights


def lattice(nodes: int) -> FloatArray:
    """Encoded colours (nodes³, 3)."""
    axis = np.linspace(0, 1, nodes)
    return np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), axis=-1).reshape(-1, 3)


def _cube(rows: FloatArray) -> FloatArray:
    nodes = round(len(rows) ** (1 / 3))
    return rows.reshape(nodes, nodes, nodes, 3)


def _between_nodes(cube: FloatArray, encoded: FloatArray) -> FloatArray:
    """Values (n, 3) at encoded colours (n, 3) between the nodes of a cube (k, k, k, 3)."""
    places = np.clip(encoded, 0, 1).T * (len(cube) - 1)
    return np.stack(
        [map_coordinates(cube[..., c], places, order=1, mode="nearest") for c in range(3)], axis=-1
    )


AS_FOUND = Cast()


def rgb_slopes(cast: Cast, linear_rgb: FloatArray) -> FloatArray:
    """Slopes (..., 3, 3) of corrected L*a*b* in linear sRGB (..., 3), by central differences."""
    step = 1e-4 * np.concatenate([np.eye(3), -np.eye(3)])
    labs = cast.lab(linear_rgb[..., None, :] + step)
    return np.asarray((labs[..., :3, :] - labs[..., 3:, :]).swapaxes(-1, -2) / 2e-4)
