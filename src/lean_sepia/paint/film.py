"""How thick a film is, in film units, and whether it hides what lies below.

X = 1 is one unthinned standard coat. Spread factors are common practice, no source.
"""

from __future__ import annotations

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.lights import xyz_from_reflectance
from lean_sepia.paint.kubelka_munk import over_ground
from lean_sepia.paint.saunderson import into_paint, through_surface

SPREAD = {"airbrush": 1.0, "spray-can": 1.0, "brush": 1.5, "sponge": 1.5, "glaze": 0.3, "seam": 1.5}
"""Film laid per pass by application; "glaze" is a filter or wash drawn out over open surface."""

WHITE_GROUND, BLACK_GROUND = 0.80, 0.045
"""Measured flat reflectance of the two grounds of a hiding test."""

HIDES_RATIO, HIDES_DE00 = 0.98, 1.0  # contrast ratio criterion from memory; ISO 6504-3 measures it so


def film_thickness(coats: float, thinner_share: float = 0.0, application: str = "airbrush") -> float:
    """Film thickness X in film units of a number of coats with a thinner share in 0–1."""
    return coats * (1 - thinner_share) * SPREAD[application]


def hiding(K: FloatArray, S: FloatArray, X: float, g: float = 1.0) -> tuple[float, float]:
    """Contrast ratio Y_black/Y_white and ΔE00 between the two grounds under a film of K, S (31,)."""
    seen = [
        through_surface(over_ground(K, S, X, into_paint(ground)), g)
        for ground in (BLACK_GROUND, WHITE_GROUND)
    ]
    y_black, y_white = (float(xyz_from_reflectance(R)[1]) for R in seen)
    return y_black / y_white, float(delta_e00(*(lab_from_reflectance(R) for R in seen)))


def hides(K: FloatArray, S: FloatArray, X: float, g: float = 1.0) -> bool:
    """Whether a film hides both grounds: contrast ratio at least 0.98 and ΔE00 below 1."""
    ratio, de00 = hiding(K, S, X, g)
    return ratio >= HIDES_RATIO and de00 < HIDES_DE00


def thickness_to_hide(K: FloatArray, S: FloatArray, g: float = 1.0, most: float = 60.0) -> float | None:
    """Smallest X at which the film hides, to 1 %, or None where not even `most` film units do."""
    if not hides(K, S, most, g):
        return None
    low, high = 0.0, most
    while high - low > 0.01 * high:
        middle = (low + high) / 2
        low, high = (low, middle) if hides(K, S, middle, g) else (middle, high)
    return high
