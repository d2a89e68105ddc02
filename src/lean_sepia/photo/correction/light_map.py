"""Where a picture is lit by other light: what greys and other anchors still miss, spread over the picture."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.read import Pixels
from lean_sepia.photo.stated.picture_kind import PictureKind

_DISAGREE = 4.0
_POWER, _NEAR_SHARE = 2.0, 0.05


@dataclass(frozen=True, eq=False)
class LightMap:
    """How far the light at each neutral anchor is off the common balance.

    places : (n, 2) x and y; off : (n, 2) a* and b* that the grey there still shows; size : width and height of the picture
    """

    places: FloatArray
    off: FloatArray
    size: tuple[int, int]

    def over(self, columns: int, rows: int) -> FloatArray:
        """a* and b* (rows, columns, 2) by which the light is off over the picture: the anchors weighed by inverse squared distance."""
        width, height = self.size
        x, y = np.meshgrid(
            (np.arange(columns) + 0.5) * width / columns, (np.arange(rows) + 0.5) * height / rows
        )
        away = np.hypot(x[..., None] - self.places[:, 0], y[..., None] - self.places[:, 1])
        weights = 1 / (away + _NEAR_SHARE * max(self.size)) ** _POWER
        return np.asarray((weights / weights.sum(axis=-1, keepdims=True)) @ self.off)


def light_map(pixels: Pixels, anchors: Sequence[Anchor], kind: PictureKind = "unknown") -> LightMap | None:
    """The map of a picture whose greys disagree; None where they agree, or where there are fewer than two.

    Each grey is seen as the first one alone would correct it, so that none of the disagreement is taken for a curve.
    """
    greys = [anchor for anchor in anchors if anchor.neutral and not anchor.guess]
    if len(greys) < 2:
        return None
    cast = fit_cast(pixels, greys[:1], kind)
    patches = [disc_patch(pixels, one.x, one.y, one.radius) for one in greys]
    labs = np.array([cast.lab(patch.mean) for patch in patches])
    off = labs[:, 1:] - np.array([(one.a, one.b) for one in greys])
    apart = np.hypot(*(off[:, None] - off[None]).transpose(2, 0, 1)).max()
    if apart < _DISAGREE:
        return None
    height, width = pixels.shape[:2]
    return LightMap(np.array([(one.x, one.y) for one in greys]), off, (width, height))
