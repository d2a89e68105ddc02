"""What a varnish leaves of loose powder, learnt from a swatch that was measured before and after."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.errors import ColourError
from lean_sepia.language import _

PALE_L, KEPT_DARK, KEPT_PALE = 50.0, 0.8, 0.5
"""From which L* a powder is pale, and what the first varnish over it leaves of dark and of pale powder (practice)."""
_LEAST = 0.01  # of XYZ between ground and powdered swatch: less is not to be told from noise


def usual_keep(L: float) -> float:
    """The share of powder of a lightness L* that the first varnish leaves, where nothing was learnt."""
    return KEPT_PALE if L >= PALE_L else KEPT_DARK


def learnt_keep(
    ground: npt.ArrayLike,
    before: npt.ArrayLike,
    after: npt.ArrayLike,
    ground_after: npt.ArrayLike | None = None,
) -> float:
    """The share of powder, 0–1, that the first varnish left.

    ground, before, after : L*a*b* (3,) of the bare ground, of the powdered swatch, and of it under the varnish
    ground_after : of the ground under the varnish, where that was measured too

    Shares of area add in linear XYZ, so the powder's own colour falls out.

    Raises
    ------
    ColourError
        The powder hardly showed before the varnish: nothing can be learnt from it.

    >>> round(learnt_keep((40, 0, 0), (60, 0, 0), (60, 0, 0)), 2)
    1.0
    """
    bare = xyz_from_lab(ground)
    put = xyz_from_lab(before) - bare
    left = xyz_from_lab(after) - (bare if ground_after is None else xyz_from_lab(ground_after))
    if float(np.linalg.norm(put)) < _LEAST:
        raise ColourError(
            _("Before the varnish the powder hardly showed on this swatch. Put on more and measure again.")
        )
    return float(np.clip(left @ put / (put @ put), 0.0, 1.0))
