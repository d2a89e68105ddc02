"""What a picture shows as a whole, as evidence of how it was developed.

Whatever is in a picture is a surface: a development that would make of its colours something stronger than any surface is not
likely. A picture of many colours most often holds something dark and something light. Neither says what kind of picture it is,
and both are weak: a few colours may be lamps, and a picture may lie in fog.
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
_LIGHTEST = 105.0
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
    beyond += 0.5 * np.maximum(lightness - _LIGHTEST, 0) + 0.5 * np.maximum(-lightness, 0)
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
    """The drawn-in chroma (...) of the strongest surface of about the lightness and hue of colours (..., 3) in even coordinates."""
    lightness, step, chroma = _gamut()
    row = np.rint((even[..., 0] - lightness[0]) / (lightness[1] - lightness[0])).astype(np.int32)
    hue = np.rint(np.degrees(np.arctan2(even[..., 2], even[..., 1])) / step).astype(np.int32)
    return np.asarray(chroma[np.clip(row, 0, len(chroma) - 1), hue % chroma.shape[1]])


@cache
def _gamut() -> tuple[FloatArray, float, FloatArray]:
    """L* (16,), the step of hue in degrees, and the largest drawn-in chroma (16, 36) of real surfaces.

    M. R. Pointer, The gamut of real surface colours, Color Research and Application 5 (1980) 145–155; its values are for
    illuminant C, taken as they are.
    """
    with (files("lean_sepia.photo") / "data" / "real_surfaces.csv").open(encoding="utf-8") as file:
        table = np.array([[float(cell) for cell in line.split(",")] for line in list(file)[1:]])
    chroma = table[:, 1:]
    drawn_in = even_from_lab(np.stack([np.zeros_like(chroma), chroma, np.zeros_like(chroma)], axis=-1))[
        ..., 1
    ]
    return table[:, 0].astype(np.float32), 360 / chroma.shape[1], drawn_in.astype(np.float32)
