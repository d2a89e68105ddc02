"""Mixtures under consideration, as rows of whole parts."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import FloatArray, IntArray


@dataclass(frozen=True, eq=False)
class Pool:
    """Mixtures as whole parts (c, n) of all paints, each proportion once, their L*a*b* (c, 3) and ΔE00 (c,)."""

    parts: IntArray
    labs: FloatArray
    de00: FloatArray

    def best(self, count: int) -> Pool:
        """The nearest so many, in order."""
        order = np.argsort(self.de00, kind="stable")[:count]
        return Pool(self.parts[order], self.labs[order], self.de00[order])


def least(parts: IntArray) -> IntArray:
    """The same proportions (c, n) in their smallest whole parts."""
    return np.asarray(parts // np.gcd.reduce(parts, axis=1, keepdims=True))


def once(parts: IntArray) -> IntArray:
    """Each row (c, n) once; the parts stay as they are, since finer steps start from larger numbers."""
    return parts[first_of_each(parts)]


def first_of_each(parts: IntArray) -> IntArray:
    """Where each different row (c, n) is first found; rows are told apart by their sum under random weights."""
    key = parts.astype(float) @ np.random.default_rng(1).random(parts.shape[1])
    return np.unique(np.round(key, 8), return_index=True)[1]


def joined(one: Pool, other: Pool) -> Pool:
    """Both pools, each mixture once."""
    parts = np.concatenate([one.parts, other.parts])
    rows = first_of_each(parts)
    return Pool(
        parts[rows],
        np.concatenate([one.labs, other.labs])[rows],
        np.concatenate([one.de00, other.de00])[rows],
    )
