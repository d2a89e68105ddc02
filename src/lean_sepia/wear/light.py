"""Light and dust over a region, so that each paint of it has one colour wherever it lies.

A pixel is light × ((1 − veil) × paint + veil × dust), in linear light; light and veil are smooth and the same for all paints of
the region. Both are fitted to scattered single pixels by expectation maximisation: which paint, or which half-covered mixture of
the ground with one, each pixel shows, and what fields make that likeliest. What is like none of them has a small constant
likelihood of its own. Everything is told relative to where the ground was pointed at.

Source: mixture models by expectation maximisation, Dempster, Laird, Rubin, J. R. Stat. Soc. B 39 (1977); the smoothness and the
colour of dust are common practice.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.colour.lights import white

Spot = tuple[float, float, float]
"""x, y and radius of a disc in a region, in pixels."""

DUST_LAB = (60.0, 4.0, 13.0)
_LIGHT_WAVES, _VEIL_WAVES = (5, 4), (3, 3)
_SAMPLED, _ROUNDS = 8000, 14
_STARTS = (0.03, 0.06, 0.12)  # noise to begin with: too sure or too unsure a start can end elsewhere
_LEAST_NOISE = 0.007
_COVERED = (0.2, 0.4, 0.6, 0.8)
_OTHER_SHARE, _OTHER_WIDTH = 0.1, 0.35
_STIFF, _LIGHT_VARIES, _VEIL_VARIES = 60.0, 0.15, 0.1
_SEED = 17


def encoded(p: FloatArray) -> FloatArray:
    """Linear values (...) as the eye and files weigh them: by their cube root."""
    return np.cbrt(np.maximum(p, 1e-4))


@dataclass(frozen=True, eq=False)
class Scene:
    """Paints of a region in the light of the ground spot, and the fields of light and veil over it.

    paints : (k, 3) XYZ over the white's, the ground first; noise : of a pixel, encoded; likelihood : mean log density, to compare fits
    """

    paints: FloatArray
    noise: float
    likelihood: float
    _light: FloatArray
    _veil: FloatArray
    _origin: tuple[FloatArray, FloatArray]

    def flattened(self, xyz: FloatArray) -> FloatArray:
        """Pixels XYZ (h, w, 3) of the region as they would be in the light of the ground spot, over the white's, in single precision."""
        height, width, _channels = xyz.shape
        u, v = _axis(np.arange(width), width), _axis(np.arange(height), height)
        light = _over(u, v, _LIGHT_WAVES, self._light) + (1 - float(self._origin[0] @ self._light))
        veil = _over(u, v, _VEIL_WAVES, self._veil) - float(self._origin[1] @ self._veil)
        lit = (xyz / white()).astype(np.float32)
        lit -= veil[..., None].astype(np.float32) * _dust().astype(np.float32)
        lit /= np.clip(light, 0.3, 3.0)[..., None].astype(np.float32)
        return np.maximum(lit, np.float32(1e-4))


def _dust() -> FloatArray:
    return np.asarray(xyz_from_lab(np.array(DUST_LAB)) / white())


def _axis(places: npt.ArrayLike, length: int) -> FloatArray:
    return 2 * np.asarray(places, dtype=float) / max(1, length - 1) - 1


def _waves(places: FloatArray, count: int) -> FloatArray:
    """Cosines (..., count) of half waves, the first constant."""
    return np.cos(np.pi * np.arange(count) * (places[..., None] + 1) / 2)


def _basis(u: FloatArray, v: FloatArray, waves: tuple[int, int]) -> FloatArray:
    """Products of waves (n, count) without the constant one."""
    both = _waves(u, waves[0])[:, :, None] * _waves(v, waves[1])[:, None, :]
    return np.asarray(both.reshape(len(u), -1)[:, 1:])


def _over(u: FloatArray, v: FloatArray, waves: tuple[int, int], weights: FloatArray) -> FloatArray:
    """A field (v, u) from its weights."""
    table = np.concatenate([[0.0], weights]).reshape(waves)
    return np.asarray(_waves(v, waves[1]) @ table.T @ _waves(u, waves[0]).T)


def _stiffness(waves: tuple[int, int]) -> FloatArray:
    return np.asarray((np.arange(waves[0])[:, None] ** 2 + np.arange(waves[1]) ** 2).ravel()[1:], dtype=float)


def fit_scene(xyz: FloatArray, colours: FloatArray, spots: Sequence[Spot | None]) -> Scene:
    """The likeliest scene of a region.

    Parameters
    ----------
    xyz : (h, w, 3), Y = 1 for white
    colours : XYZ (k, 3) of the ground and of each kind, as they were seen where they were pointed at
    spots : where that was in the region; None of a colour that is known otherwise
    """
    tried = [_fitted(xyz, colours, spots, start) for start in _STARTS]
    return max(tried, key=lambda scene: scene.likelihood)


def _fitted(xyz: FloatArray, colours: FloatArray, spots: Sequence[Spot | None], noise: float) -> Scene:
    height, width, _channels = xyz.shape
    rng = np.random.default_rng(_SEED)
    rows, columns = rng.integers(0, height, _SAMPLED), rng.integers(0, width, _SAMPLED)
    pixels, seen = xyz[rows, columns] / white(), colours / white()
    u, v = _axis(columns, width), _axis(rows, height)
    light, veil = _basis(u, v, _LIGHT_WAVES), _basis(u, v, _VEIL_WAVES)
    at = [_at(spots, width, height, waves) for waves in (_LIGHT_WAVES, _VEIL_WAVES)]
    origin = (at[0][0].copy(), at[1][0].copy())
    known = [spot is not None for spot in spots]
    light, veil = light - origin[0], veil - origin[1]
    at_light, at_veil = (
        np.where(np.array(known)[:, None], one - start, 0.0) for one, start in zip(at, origin, strict=True)
    )
    count, dust = len(seen), _dust()
    a, b = np.zeros(light.shape[1]), np.zeros(veil.shape[1])
    total = count + len(_COVERED) * (count - 1)
    prior = np.full(total, 0.3 / total)
    prior[:count] = 0.7 / count
    paints, likelihood = seen, 0.0
    for number in range(_ROUNDS):
        paints = np.maximum(
            (seen - (at_veil @ b)[:, None] * dust) / np.clip(1 + at_light @ a, 0.3, 3)[:, None], 0.002
        )
        every = np.concatenate(
            [
                paints,
                *((1 - t) * paints[:1] + t * paints[k : k + 1] for k in range(1, count) for t in _COVERED),
            ]
        )
        flat = encoded((pixels - (veil @ b)[:, None] * dust) / np.clip(1 + light @ a, 0.3, 3)[:, None])
        away = ((flat[:, None] - encoded(every)[None]) ** 2).sum(axis=-1)
        likely = np.log(prior + 1e-9) - away / (2 * noise**2) - 3 * np.log(noise)
        other = np.log(_OTHER_SHARE) - 3 * np.log(_OTHER_WIDTH)
        most = np.maximum(likely.max(axis=1), other)
        belongs = np.exp(likely - most[:, None])
        whole = belongs.sum(axis=1) + np.exp(other - most)
        likelihood = float((most + np.log(whole)).mean())
        belongs /= whole[:, None]
        prior = 0.5 * prior + 0.5 * np.maximum(belongs.mean(axis=0), 0.002)
        if number < 3:  # at first only whole paints say how the light falls
            belongs[:, count:] = 0
        a, b = _fields(pixels, every, belongs, light, veil, noise)
        spread = np.sqrt((belongs * away).sum() / (3 * max(float(belongs.sum()), 1.0)))
        noise = max(_LEAST_NOISE, min(noise, max(float(spread) * 1.05, noise * 0.75)))
    return Scene(paints, noise, likelihood, a, b, origin)


def _at(spots: Sequence[Spot | None], width: int, height: int, waves: tuple[int, int]) -> FloatArray:
    """The waves (k, count) where colours were pointed at; nothing of them where a colour is known otherwise."""
    found = np.zeros((len(spots), waves[0] * waves[1] - 1))
    for number, spot in enumerate(spots):
        if spot is not None:
            x, y = _axis(np.array([spot[0]]), width), _axis(np.array([spot[1]]), height)
            found[number] = _basis(x, y, waves)[0]
    return found


def _fields(
    pixels: FloatArray,
    every: FloatArray,
    belongs: FloatArray,
    light: FloatArray,
    veil: FloatArray,
    noise: float,
) -> tuple[FloatArray, FloatArray]:
    """The weights of both fields that fit the pixels best: a linear problem once it is known what each pixel shows."""
    dust, lights = _dust(), light.shape[1]
    weight = belongs / (0.02 + pixels.mean(axis=1) ** (4 / 3))[:, None]
    size = lights + veil.shape[1]
    matrix, right = np.zeros((size, size)), np.zeros(size)
    for number, paint in enumerate(every):
        own = weight[:, number, None]
        lit, veiled = light * own, veil * own
        matrix[:lights, :lights] += (paint @ paint) * (lit.T @ light)
        matrix[:lights, lights:] += (paint @ dust) * (lit.T @ veil)
        matrix[lights:, lights:] += (dust @ dust) * (veiled.T @ veil)
        left = pixels - paint
        right[:lights] += lit.T @ (left @ paint)
        right[lights:] += veiled.T @ (left @ dust)
    matrix[lights:, :lights] = matrix[:lights, lights:].T
    loose = _STIFF * max(noise, 0.01) ** 2
    stiff = np.concatenate([
        _stiffness(_LIGHT_WAVES) * loose / _LIGHT_VARIES**2, _stiffness(_VEIL_WAVES) * loose / _VEIL_VARIES**2
    ])  # fmt: skip
    found = np.linalg.solve(matrix + np.diag(stiff), right)
    return found[:lights], found[lights:]
