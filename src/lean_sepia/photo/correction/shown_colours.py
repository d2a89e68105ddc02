"""What a picture shows as a whole, as evidence of how it was developed.

Whatever is in a picture is a surface: a development that would make of its colours something stronger than any surface is not
likely, unless it lies in a light of its own: sun behind what stands in the shade. A picture of many colours most often holds
something dark and something light. Neither says what kind of picture it is, and both are weak: a few colours may be lamps, and a
picture may lie in fog.
"""

from __future__ import annotations

from functools import cache
from importlib.resources import files

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.even import even_from_lab
from lean_sepia.photo.correction.kind_guess import small
from lean_sepia.photo.read import Pixels

_LONGEST, _LEVELS, _LEAST_PIXELS, _MOST = 128, 14, 2, 40
_WITHIN = (0.01, 0.985)
_STRONGEST_SHARE, _STRONGER_BY = 0.93, 3.0  # of a picture's colours, the one that is looked at (practice)
_DARKEST, _LIGHTEST, _ROWS = 0.0, 106.0, np.arange(-20.0, 201.0, 5.0)
_OTHER_LIGHT = 6.0  # how much less chroma is believed in e times as much light, or as little (practice)
_MANY, _DARK_LIGHT, _SHARES, _WIDE = 24, (20.0, 88.0), (0.05, 0.95), 20.0  # practice
_FREEDOM = 3.0


def no_colours() -> FloatArray:
    """Of a picture that is not looked at as a whole (0, 3)."""
    return np.zeros((0, 3))


def shown_colours(pixels: Pixels) -> FloatArray:
    """The different colours (n, 3) of a picture, encoded in 0–1, at most 40: those that cover a little of it and are not clipped."""
    encoded = small(pixels, _LONGEST).reshape(-1, 3)
    encoded = encoded[np.all((encoded > _WITHIN[0]) & (encoded < _WITHIN[1]), axis=1)]
    if not len(encoded):
        return no_colours()
    cell = (encoded * _LEVELS).astype(int) @ [_LEVELS**2, _LEVELS, 1]
    _cells, number, count = np.unique(cell, return_inverse=True, return_counts=True)
    means = np.stack([np.bincount(number, channel) for channel in encoded.T], axis=1) / count[:, None]
    found = means[count >= min(_LEAST_PIXELS, count.max())]
    return found[np.unique(np.linspace(0, len(found) - 1, _MOST).round().astype(int))]


def as_surfaces(even: FloatArray) -> FloatArray:
    """Log (n,) of how likely it is that surfaces look so: a picture's colours (m, n, 3) in even coordinates, in n worlds."""
    if not len(even):
        return np.zeros(even.shape[1])
    lightness = even[..., 0]
    beyond = np.maximum(np.hypot(even[..., 1], even[..., 2]) - _strongest(even), 0)
    logs = -0.5 * (_ranked(beyond, _STRONGEST_SHARE) / _STRONGER_BY) ** 2
    if len(even) >= _MANY:
        for share, usual in zip(_SHARES, _DARK_LIGHT, strict=True):
            away = (_ranked(lightness, share) - usual) / _WIDE
            logs = logs - 0.5 * (_FREEDOM + 1) * np.log1p(away**2 / _FREEDOM)
    return np.asarray(logs)


def _ranked(values: FloatArray, share: float) -> FloatArray:
    """What a share of values (m, n) lies below, in each column (n,)."""
    place = round(share * (len(values) - 1))
    return np.asarray(np.partition(values, place, axis=0)[place])


def _strongest(even: FloatArray) -> FloatArray:
    """The drawn-in chroma (...) that is believed of a surface at the lightness and hue of colours (..., 3) in even coordinates."""
    believed = _believed_chroma()
    row = np.rint((even[..., 0] - _ROWS[0]) / (_ROWS[1] - _ROWS[0])).astype(np.int32)
    hue = np.rint(np.degrees(np.arctan2(even[..., 2], even[..., 1])) * believed.shape[1] / 360).astype(
        np.int32
    )
    return np.asarray(believed[np.clip(row, 0, len(_ROWS) - 1), hue % believed.shape[1]])


@cache
def _believed_chroma() -> FloatArray:
    """The largest drawn-in chroma (45, 36) of a surface at each L* of `_ROWS` and each hue, in whatever light it may lie.

    Any surface may lie in more or less light than the anchor, which makes L* + 16 and the chroma larger or smaller alike; the
    more so, the less is believed, down below none at all.
    """
    lightness, chroma = _real_surfaces()
    every = np.arange(_DARKEST, _LIGHTEST, 5.0)
    chroma = np.stack([np.interp(every, lightness, one) for one in chroma.T], axis=1)
    times = np.maximum(_ROWS[:, None] + 16, 1) / (every + 16)
    lit = times[..., None] * chroma
    drawn_in = even_from_lab(np.stack([np.zeros_like(lit), lit, np.zeros_like(lit)], axis=-1))[..., 1]
    less = _OTHER_LIGHT * 3 * np.abs(np.log(times))
    return np.asarray((drawn_in - less[..., None]).max(axis=1), dtype=np.float32)


def _real_surfaces() -> tuple[FloatArray, FloatArray]:
    """L* (16,), and the largest chroma (16, 36) of real surfaces by hue.

    M. R. Pointer, The gamut of real surface colours, Color Research and Application 5 (1980) 145–155; its values are for
    illuminant C, taken as they are.
    """
    with (files("lean_sepia.photo") / "data" / "real_surfaces.csv").open(encoding="utf-8") as file:
        table = np.array([[float(cell) for cell in line.split(",")] for line in list(file)[1:]])
    return table[:, 0], table[:, 1:]
