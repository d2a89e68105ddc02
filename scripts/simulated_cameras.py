"""Photos as a camera would take them: measured sensors, reflectances and lights at 5 nm, developed as for daylight.

The reference tables come from colour-science, a development library. Tuning uses `chart_reflectances`, synthetic sensors and the
sensor that is tabled at 10 nm; figures are for the sensors tabled at 5 nm and `held_out_reflectances`.
"""

from __future__ import annotations

import warnings
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

with warnings.catch_warnings():
    warnings.simplefilter("ignore")  # colour-science speaks of optional libraries
    import colour
    from colour.characterisation import read_training_data_rawtoaces_v1

from lean_sepia.colour.adaptation import BRADFORD
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.lights import white
from lean_sepia.colour.srgb import linear_from_srgb, linear_from_xyz, srgb_from_linear
from lean_sepia.photo.correction.cast import Anchor, Cast
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.stated.picture_kind import PictureKind

NM = np.arange(380, 781, 5)
PHOTO_LIGHTS = ("D65", "D75", "D50", "A", "FL2", "FL11", "LED-B3", "LED-B1")
DAYLIGHTS = ("D65", "D75", "D50")
EXPOSURE = 0.9
PATCH_PX, COLUMNS = 13, 20
_LIGHT_GROUPS = {
    "fluorescent light": (
        "FL1", "FL2", "FL3", "FL4", "FL5", "FL6", "FL7", "FL8", "FL9", "FL3.1", "FL3.2", "FL3.3", "FL3.4", "FL3.5", "FL3.6",
    ),
    "three-band fluorescent light": ("FL10", "FL11", "FL12", "FL3.7", "FL3.8", "FL3.9", "FL3.10", "FL3.11"),
    "LED light": ("LED-B1", "LED-B2", "LED-B3", "LED-B4", "LED-B5", "LED-BH1", "LED-V1", "LED-V2"),
}  # fmt: skip
_DAYLIGHT_KELVIN = (4000, 4500, 5000, 5500, 6000, 6500, 7000, 7500, 8500)
_LAMP_KELVIN = (2300, 2600, 2856, 3000, 3200, 3400, 3800)


def _on_grid(table) -> np.ndarray:
    """A spectral table of the library on `NM`; end values continue, sensors end in darkness."""
    values = np.asarray(table.values)
    if values.ndim == 1:
        return np.interp(NM, table.wavelengths, values)
    return np.stack(
        [np.interp(NM, table.wavelengths, column, left=0, right=0) for column in values.T], axis=1
    )


OBSERVER = _on_grid(colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"])


def light(name: str) -> np.ndarray:
    """A CIE light (81,) on the grid."""
    return _on_grid(colour.SDS_ILLUMINANTS[name])


def measured_sensors(step_nm: int) -> list[np.ndarray]:
    """Measured camera sensitivities (81, 3) that are tabled at this step."""
    tables = colour.MSDS_CAMERA_SENSITIVITIES.values()
    return [_on_grid(table) for table in tables if round(table.shape.interval) == step_nm]


def chart_reflectances() -> np.ndarray:
    """The measured chart sets (n, 81): the 24-patch charts and the set of 30."""
    unique = {id(patches): patches for patches in colour.SDS_COLOURCHECKERS.values()}.values()
    return np.stack([_on_grid(patch) for patches in unique for patch in patches.values()])


def chart_24() -> np.ndarray:
    """The 24-patch chart (24, 81), four rows of six from the dark brown one."""
    return np.stack([_on_grid(patch) for patch in colour.SDS_COLOURCHECKERS["BabelColor Average"].values()])


def held_out_reflectances() -> np.ndarray:
    """The 190-patch set (190, 81), which tuning never sees."""
    return _on_grid(read_training_data_rawtoaces_v1()).T


def xyz_d65(reflectance: np.ndarray) -> np.ndarray:
    """XYZ (n, 3) under D65 on the 5 nm grid, scaled so that the perfect white is the program's."""
    power = light("D65")[:, None] * OBSERVER
    return reflectance @ power / power.sum(axis=0) * white()


def true_labs(reflectance: np.ndarray) -> np.ndarray:
    """L*a*b* (n, 3) of the surfaces themselves."""
    return lab_from_xyz(xyz_d65(reflectance))


def likely_lights(rng: np.random.Generator, each: int) -> Iterator[tuple[str, np.ndarray]]:
    """Lights by family: between two of its table, and tinted smoothly by 6 % as rooms and skies do."""
    groups = {
        "daylight": [daylight(kelvin) for kelvin in _DAYLIGHT_KELVIN],
        "incandescent light": [_planckian(kelvin) for kelvin in _LAMP_KELVIN],
        **{name: [light(key) for key in keys] for name, keys in _LIGHT_GROUPS.items()},
    }
    for name, members in groups.items():
        members = [member / (member @ OBSERVER)[1] for member in members]
        for _ in range(each):
            one, other = rng.integers(len(members), size=2)
            share = rng.beta(0.4, 0.4)
            tilt, bow = rng.normal(0, 0.06, 2)
            x = (NM - 580) / 200
            yield name, ((1 - share) * members[one] + share * members[other]) * np.exp(tilt * x + bow * x**2)


def daylight(kelvin: float) -> np.ndarray:
    """A CIE phase of daylight (81,), 4000 to 25 000 K."""
    return _on_grid(colour.sd_CIE_illuminant_D_series(colour.temperature.CCT_to_xy_CIE_D(kelvin)))


def _planckian(kelvin: float) -> np.ndarray:
    """Planck's radiator, relative."""
    metres = NM * 1e-9
    return metres**-5 / (np.exp(1.4388e-2 / (metres * kelvin)) - 1)


def _bell(peak: float, below: float, above: float) -> np.ndarray:
    return np.exp(-0.5 * ((NM - peak) / np.where(peak > NM, below, above)) ** 2)


def synthetic_sensor(rng: np.random.Generator) -> np.ndarray:
    """A sensor (81, 3) with bell-shaped filters and a little crosstalk, part of the way to the eye's own cones."""
    u = rng.uniform
    red = _bell(rng.normal(600, 9), u(20, 40), u(22, 38)) + u(0, 0.12) * _bell(rng.normal(440, 12), 20, 25)
    red = red + u(0, 0.1) * _bell(520, 30, 30)
    green = _bell(rng.normal(535, 7), u(28, 45), u(28, 45)) + u(0, 0.1) * _bell(450, 25, 25)
    blue = _bell(rng.normal(460, 8), u(18, 32), u(20, 36)) + u(0, 0.06) * _bell(540, 30, 30)
    eye = np.maximum(OBSERVER @ BRADFORD.T, 0)
    share = u(0, 0.35)
    return (1 - share) * np.stack([red, green, blue], axis=1) + share * eye / eye.max(axis=0)


def develop_matrix(
    sensor: np.ndarray, balance: np.ndarray | None = None, training: np.ndarray | None = None
) -> tuple[np.ndarray, np.ndarray]:
    """White balance (3,) for a daylight and the matrix (3, 3) to linear sRGB that keeps white, fitted to a chart."""
    day = light("D65") if balance is None else balance
    surfaces = chart_24() if training is None else training
    gains = day @ sensor
    raw = surfaces @ (day[:, None] * sensor) / gains
    wanted = linear_from_xyz(xyz_d65(surfaces))
    weight = 1 / np.sqrt(0.02 + wanted.mean(axis=1, keepdims=True))
    A, B = raw * weight, wanted * weight
    bordered = np.block([[A.T @ A, np.ones((3, 1))], [np.ones((1, 3)), np.zeros((1, 1))]])
    return gains, np.linalg.solve(bordered, np.vstack([A.T @ B, np.ones((1, 3))]))[:3]


def developed(
    sensor: np.ndarray, power: np.ndarray, reflectance: np.ndarray, development: tuple[np.ndarray, np.ndarray]
) -> tuple[np.ndarray, np.ndarray]:
    """Linear sRGB (n, 3) of surfaces under a light and of the perfect white, its largest channel at 0.9."""
    gains, matrix = development
    rgb = reflectance @ (power[:, None] * sensor) / gains @ matrix
    bright = (power @ sensor) / gains @ matrix
    scale = EXPOSURE / bright.max()
    return rgb * scale, bright * scale


@dataclass(frozen=True)
class Shot:
    """An 8-bit picture of surfaces in a grid, the disc of each, and which have a clipped channel."""

    pixels: np.ndarray
    discs: list[tuple[float, float, float]]
    clipped: np.ndarray


def in_squares(colours: np.ndarray) -> tuple[np.ndarray, list[tuple[float, float, float]]]:
    """Colours (n, 3) as a picture of squares in a grid, black where there is none, and the disc of each."""
    rows = -(-len(colours) // COLUMNS)
    grid = np.zeros((rows * COLUMNS, 3))
    grid[: len(colours)] = colours
    discs = [
        ((i % COLUMNS + 0.5) * PATCH_PX - 0.5, (i // COLUMNS + 0.5) * PATCH_PX - 0.5, PATCH_PX / 2 - 1.5)
        for i in range(len(colours))
    ]
    return np.kron(grid.reshape(rows, COLUMNS, 3), np.ones((PATCH_PX, PATCH_PX, 1))), discs


def shoot(
    sensor: np.ndarray,
    power: np.ndarray,
    reflectance: np.ndarray,
    rng: np.random.Generator,
    development: tuple[np.ndarray, np.ndarray] | None = None,
) -> Shot:
    """Photograph surfaces (n, 81) in a grid of squares, with photon and reading noise."""
    rgb, _ = developed(sensor, power, reflectance, development or develop_matrix(sensor))
    picture, discs = in_squares(rgb)
    rows = len(picture) // PATCH_PX
    picture = picture + rng.normal(size=picture.shape) * np.sqrt(2e-4 * np.clip(picture, 0, 1) + 1e-6)
    pixels = np.round(255 * np.clip(srgb_from_linear(np.clip(picture, 0, 1)), 0, 1)).astype(np.uint8)
    blocks = pixels.reshape(rows, PATCH_PX, COLUMNS, PATCH_PX, 3).transpose(0, 2, 1, 3, 4)
    flat = blocks.reshape(rows * COLUMNS, -1, 3)[: len(rgb)]
    clipped = (((flat >= 253) | (flat <= 2)).mean(axis=1) > 0.02).any(axis=1)
    return Shot(pixels, discs, clipped)


def linear_means(shot: Shot) -> np.ndarray:
    """Mean linear sRGB (n, 3) of every square, for floors and baselines."""
    rows = shot.pixels.shape[0] // PATCH_PX
    blocks = shot.pixels.reshape(rows, PATCH_PX, COLUMNS, PATCH_PX, 3).transpose(0, 2, 1, 3, 4)
    return linear_from_srgb(blocks.reshape(rows * COLUMNS, -1, 3) / 255).mean(axis=1)[: len(shot.discs)]


SIX_PATCHES = (18, 21, 12, 13, 14, 15)
"""White, a grey, and the four primaries of the 24-patch chart."""

_GREY = 0.3


def anchored(
    sensor: np.ndarray,
    power: np.ndarray,
    surfaces: np.ndarray,
    rng: np.random.Generator,
    development: tuple[np.ndarray, np.ndarray] | None = None,
    kind: PictureKind = "developed",
) -> Iterator[tuple[int, np.ndarray, Cast, list[tuple[tuple[float, float, float], np.ndarray]]]]:
    """A photo corrected with one grey of known lightness, with two anchors, and with six; stated to be of a kind.

    Yields the count of anchors, the pixels, the correction, and the disc and true L*a*b* of every surface that has no
    clipped channel.
    """
    patches, grey = chart_24()[list(SIX_PATCHES)], np.full((1, len(NM)), _GREY)
    shot = shoot(sensor, power, np.concatenate([surfaces, patches, grey]), rng, development)
    labs, n = true_labs(np.concatenate([surfaces, patches, grey])), len(surfaces)
    anchors = [Anchor(*disc, *map(float, lab)) for disc, lab in zip(shot.discs[n:], labs[n:], strict=True)]
    second = next(
        (a for a, clipped in zip(anchors[:-1], shot.clipped[n:-1], strict=True) if not clipped), anchors[0]
    )
    discs = [(shot.discs[i], labs[i]) for i in range(n) if not shot.clipped[i]]
    for count, chosen in ((1, anchors[-1:]), (2, [anchors[-1], second]), (6, anchors[:-1])):
        yield count, shot.pixels, fit_cast(shot.pixels, chosen, kind), discs
