"""How far a measured share of the area can be off: the interval that holds the truth 9 times in 10."""

from __future__ import annotations

import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray

_NORMAL_90 = 1.645
_LEAST_POINTS, _PART = 0.038, 0.033  # per cent of the area; of the share
_OF_FAINT = 0.095  # of what is covered by less than a half, or only just
_OF_CONTRAST = 0.57  # of the share, over the contrast in units of the noise


def share_within(share: FloatArray, inside: BoolArray | None, contrast: float) -> float:
    """Half the width, in per cent of the area, of the interval for what shares (h, w) come to.

    contrast : of the class against the ground, in units of the noise

    Fitted to panels drawn for tuning; checked on others.
    """
    size = share.size if inside is None else int(inside.sum())
    here = share[share > 0.02]
    whole = 100 * float(here.sum(dtype=float)) / max(size, 1)
    faint = 100 * float(here[here < 0.85].sum(dtype=float)) / max(size, 1)
    error = np.sqrt(
        _LEAST_POINTS**2
        + (_PART * whole) ** 2
        + (_OF_FAINT * faint) ** 2
        + (_OF_CONTRAST * whole / max(contrast, 3.0)) ** 2
    )
    return float(_NORMAL_90 * error)
