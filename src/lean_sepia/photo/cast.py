"""Taking the cast out with whatever is known in the picture, and knowing how far to trust the result.

One model serves every number of anchors: the picture's cone responses are scaled (the cast), raised to an
exponent near 1 (film and camera curves), and mixed a little (crosstalk of dyes and sensors, neutrals kept). How
far each may stray is a prior; the anchors pull it to the photo at hand; what they leave open becomes the range
of every sample. The widths are practice, tuned on rendered photos that no check uses.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files

import numpy as np
import numpy.typing as npt
from scipy.optimize import least_squares

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.adaptation import BRADFORD
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.lights import white
from lean_sepia.colour.srgb import rgb_to_xyz_matrix
from lean_sepia.errors import SampleError
from lean_sepia.photo.patch import Patch, disc_patch
from lean_sepia.photo.read import Pixels

_CURVE, _MIXING = slice(3, 6), slice(6, 12)
_EXPOSURE_WIDTH, _CAST_WIDTH = 0.22, 0.30
_KNOWN_EXPOSURE_WIDTH, _KNOWN_CAST_WIDTH = 1.5, 1.0
_COMMON_CURVE_WIDTH, _CHANNEL_CURVE_WIDTH, _MIXING_WIDTH = 0.09, 0.04, 0.048


def prior_covariance(exposure_width: float = _EXPOSURE_WIDTH, cast_width: float = _CAST_WIDTH) -> FloatArray:
    """Covariance (12, 12) of what pictures do before any anchor is known.

    Log exposure, two log cast ratios, three exponents about 1 that mostly stray together, six mixing terms.
    """
    curve = _COMMON_CURVE_WIDTH**2 * np.ones((3, 3)) + _CHANNEL_CURVE_WIDTH**2 * np.eye(3)
    covariance = np.diag([exposure_width**2, cast_width**2, cast_width**2, 0, 0, 0, *[_MIXING_WIDTH**2] * 6])
    covariance[_CURVE, _CURVE] = curve
    return covariance


STATED_WIDTH = 0.7  # how well people know the Lab of a thing they name as an anchor, per coordinate
UNKNOWN_LIGHTNESS_WIDTH = 7.0  # L* of a neutral of unknown lightness: only the cast is taken from it
UNMODELLED_WIDTH = 0.5  # Lab, per coordinate: what no such model follows (uneven light, reflections)
_CLIPPED_ANCHOR = 0.25
_SMALLEST_RESPONSE = 1e-4


@dataclass(frozen=True)
class Anchor:
    """A disc whose true colour is known: fully (`lab`), as a grey of known L*, or only as grey.

    `lab` is (L*, 0, 0) for a neutral of known lightness and (None, 0, 0) for one of unknown lightness.
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


@dataclass(frozen=True, eq=False)
class Cast:
    """A fitted correction: parameters, their covariance, and how it was come by."""

    theta: FloatArray = field(default_factory=lambda: np.zeros(12))
    covariance: FloatArray = field(default_factory=prior_covariance)
    model: str = "none: as found"
    anchor_error_de00: float | None = None
    warnings: tuple[str, ...] = ()

    def xyz(self, linear_rgb: npt.ArrayLike) -> FloatArray:
        """Corrected XYZ (..., 3), D65, of the picture's linear sRGB (..., 3)."""
        return _corrected(np.asarray(linear_rgb, dtype=float), self.theta)

    def lab(self, linear_rgb: npt.ArrayLike) -> FloatArray:
        """Corrected L*a*b* (..., 3) of the picture's linear sRGB (..., 3)."""
        return lab_from_xyz(self.xyz(linear_rgb))

    def lab_covariance(self, patch: Patch) -> FloatArray:
        """Covariance (3, 3) of a patch's corrected L*a*b*: its own error and what the anchors left open."""
        J_theta = _jacobian(lambda theta: lab_from_xyz(_corrected(patch.mean, theta)), self.theta, 1e-4)
        J_rgb = _jacobian(self.lab, patch.mean, 1e-4)
        return (
            J_theta @ self.covariance @ J_theta.T
            + J_rgb @ patch.cov_of_mean @ J_rgb.T
            + UNMODELLED_WIDTH**2 * np.eye(3)
        )


AS_FOUND = Cast()


def _jacobian(function: Callable[[FloatArray], FloatArray], at: FloatArray, step: float) -> FloatArray:
    """Central differences, (outputs, inputs)."""
    columns = []
    for index in range(at.size):
        shift = np.zeros_like(at)
        shift[index] = step
        columns.append((function(at + shift) - function(at - shift)) / (2 * step))
    return np.stack(columns, axis=-1)


@cache
def _to_cones() -> FloatArray:
    """Linear sRGB to cone responses that are 1 for white."""
    cones = BRADFORD @ rgb_to_xyz_matrix()
    return cones / (BRADFORD @ white())[:, None]


@cache
def _from_cones() -> FloatArray:
    return np.linalg.inv(BRADFORD / (BRADFORD @ white())[:, None])


def _corrected(linear: FloatArray, theta: FloatArray) -> FloatArray:
    cones = np.maximum(linear @ _to_cones().T, _SMALLEST_RESPONSE)
    cast = np.array([theta[1], 0.0, theta[2]])
    scaled = np.exp(theta[0] + cast + (1 + theta[_CURVE]) * np.log(cones))
    off = theta[_MIXING]
    mixing = np.array(
        [
            [-off[0] - off[1], off[0], off[1]],
            [off[2], -off[2] - off[3], off[3]],
            [off[4], off[5], -off[4] - off[5]],
        ]
    )
    return (scaled + scaled @ mixing.T) @ _from_cones().T


def fit_cast(pixels: Pixels, anchors: Sequence[Anchor]) -> Cast:
    """Fit the correction to the anchors on a picture; none leaves the picture as found.

    Raises
    ------
    SampleError
        An anchor lies outside the picture.
    """
    if not anchors:
        return AS_FOUND
    patches = [disc_patch(pixels, anchor.x, anchor.y, anchor.radius) for anchor in anchors]
    theta, covariance = _fit(anchors, patches)
    known = {index: anchor.lab for index, anchor in enumerate(anchors) if anchor.lab is not None}
    warnings = [
        f"anchor {index + 1} at {anchor.x:g}, {anchor.y:g} is clipped in {patch.clipped_share:.0%} of its pixels"
        for index, (anchor, patch) in enumerate(zip(anchors, patches, strict=True))
        if patch.clipped_share > _CLIPPED_ANCHOR
    ]
    error = None
    if len(known) >= 2:
        misses = []
        for left_out, lab in known.items():
            kept = [i for i in range(len(anchors)) if i != left_out]
            trial, _ = _fit([anchors[i] for i in kept], [patches[i] for i in kept])
            seen = lab_from_xyz(_corrected(patches[left_out].mean, trial))
            misses.append(float(delta_e00(seen, lab)))
        error = float(np.mean(misses))
    return Cast(theta, covariance, _model_name(anchors), error, tuple(warnings))


def _model_name(anchors: Sequence[Anchor]) -> str:
    known = [anchor for anchor in anchors if anchor.lightness is not None]
    coloured = [anchor for anchor in known if np.hypot(anchor.a, anchor.b) > 3]
    if not known:
        return "cone scaling, cast only"
    if len(coloured) >= 3:
        return "cone scaling, curves and mixing"
    if len(known) >= 2:
        return "cone scaling and curves"
    return "cone scaling"


def _fit(anchors: Sequence[Anchor], patches: Sequence[Patch]) -> tuple[FloatArray, FloatArray]:
    rgb = np.stack([patch.mean for patch in patches])
    found = lab_from_xyz(_corrected(rgb, np.zeros(12)))
    target = np.array([
        [anchor.lightness if anchor.lightness is not None else found[i, 0], anchor.a, anchor.b]
        for i, anchor in enumerate(anchors)
    ], dtype=float)  # fmt: skip
    width = np.empty_like(target)
    for i, (anchor, patch) in enumerate(zip(anchors, patches, strict=True)):
        J = _jacobian(lambda value: lab_from_xyz(_corrected(value, np.zeros(12))), patch.mean, 1e-4)
        reading = np.diag(J @ patch.cov_of_mean @ J.T)
        width[i] = np.sqrt(STATED_WIDTH**2 + reading)
        if anchor.lightness is None:
            width[i, 0] = UNKNOWN_LIGHTNESS_WIDTH
    # A known lightness sets the exposure, however far off it was, and anything known sets the cast.
    known = any(anchor.lightness is not None for anchor in anchors)
    prior = prior_covariance(_KNOWN_EXPOSURE_WIDTH if known else _EXPOSURE_WIDTH, _KNOWN_CAST_WIDTH)
    whitening = np.linalg.inv(np.linalg.cholesky(prior))

    def residual(theta: FloatArray) -> FloatArray:
        lab = lab_from_xyz(_corrected(rgb, theta))
        return np.concatenate([((lab - target) / width).ravel(), whitening @ theta])

    answer = least_squares(residual, np.zeros(12), method="lm")
    covariance = np.linalg.inv(answer.jac.T @ answer.jac)
    return answer.x, covariance


@cache
def _chart_labs() -> FloatArray:
    with (files("lean_sepia.photo") / "data" / "chart_24.csv").open(encoding="ascii") as file:
        file.readline()
        return np.array([[float(cell) for cell in line.split(",")] for line in file])


def chart_anchors(corners: Sequence[float]) -> list[Anchor]:
    """Anchors of a 24-patch chart from the centres of its four corner patches.

    Parameters
    ----------
    corners : x,y of the dark brown patch, the end of its row, the black patch, the white patch

    Raises
    ------
    SampleError
        Not eight numbers, or the corners do not span an area.
    """
    if len(corners) != 8:
        raise SampleError(f"A chart is given by four corners, eight numbers; found {len(corners)}.")
    brown, row_end, black, white_patch = np.array(corners, dtype=float).reshape(4, 2)
    area = 0.5 * abs(float(np.cross(_3d(black - brown), _3d(white_patch - row_end))[2]))
    if area < 100:
        raise SampleError(
            "The four corners of the chart lie on a line or too close together. Give the centres of the corner patches."
        )
    # Projective map from the unit square: brown (0,0), row end (1,0), black (1,1), white (0,1).
    unit = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], dtype=float)
    rows, right = [], []
    for (u, v), (x, y) in zip(unit, (brown, row_end, black, white_patch), strict=True):
        rows += [[u, v, 1, 0, 0, 0, -u * x, -v * x], [0, 0, 0, u, v, 1, -u * y, -v * y]]
        right += [x, y]
    h = np.append(np.linalg.solve(np.array(rows), np.array(right)), 1).reshape(3, 3)
    step = min(np.hypot(*(row_end - brown)), np.hypot(*(black - white_patch))) / 5
    anchors = []
    for index, (L, a, b) in enumerate(_chart_labs()):
        x, y, w = h @ [index % 6 / 5, index // 6 / 3, 1]
        anchors.append(
            Anchor(float(x / w), float(y / w), max(1.0, 0.28 * step), float(L), float(a), float(b))
        )
    return anchors


def _3d(vector: FloatArray) -> FloatArray:
    return np.append(vector, 0.0)
