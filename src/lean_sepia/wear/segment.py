"""Which pixels of a region are still the base paint, and which are worn, and how."""

from __future__ import annotations

from collections.abc import Mapping

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray
from lean_sepia.colour.lab import xyz_from_lab

WORN = "worn"
"""The one class used when the user names none: whatever is clearly not the base."""

_LEAST_STEP = 6.0  # Lab: below this a mark is within what light and dirt do to one paint
_NOISE_WIDTHS = 4.0


def flattened(lab: FloatArray, base: FloatArray) -> FloatArray:
    """The region's L*a*b* (h, w, 3) with slow drifts of the base taken out, so that it equals `base` (3,).

    Only pixels near the base say how it drifts; the drift is their mean over a quarter of the shorter side.
    """
    distance = np.linalg.norm(lab - np.median(lab.reshape(-1, 3), axis=0), axis=-1)
    to_base = np.linalg.norm(lab - base, axis=-1)
    like_base = (to_base <= max(12.0, float(np.quantile(to_base, 0.3)))) | (distance < 3.0)
    sigma = max(2.0, min(lab.shape[:2]) / 4)
    mask = like_base.astype(np.float32)
    weight = cv2.GaussianBlur(mask, (0, 0), sigma, borderType=cv2.BORDER_REFLECT)
    drift = np.empty_like(lab)
    for channel in range(3):
        values = (lab[..., channel] - base[channel]).astype(np.float32) * mask
        blurred = cv2.GaussianBlur(values, (0, 0), sigma, borderType=cv2.BORDER_REFLECT)
        drift[..., channel] = blurred / np.maximum(weight, 1e-3)
    return lab - drift


def segment(
    lab: FloatArray, base: FloatArray, classes: Mapping[str, FloatArray]
) -> dict[str, tuple[BoolArray, FloatArray]]:
    """For every class of wear the pixels that are mostly of it, and how much of it each pixel is.

    A pixel is a mixture of light, so the share that a mark covers is read in linear XYZ along the line from the
    base to the class; the class is the one whose colour is nearest in Lab. A pixel belongs to a class that covers
    more than half of it, so that at a soft edge areas come out unbiased. Without classes everything further from the
    base than four times its noise, and than 6 Lab units, is one class, "worn", of whole pixels.

    Parameters
    ----------
    lab : (h, w, 3), already flattened
    base : (3,)
    classes : name to L*a*b* (3,)

    Returns
    -------
    Name to a mask (h, w) and shares (h, w) in 0–1
    """
    if not classes:
        near = np.linalg.norm(lab - base, axis=-1) < 12
        sample = lab[near] if near.sum() > 50 else lab.reshape(-1, 3)
        noise = np.maximum(1.4826 * np.median(np.abs(sample - np.median(sample, axis=0)), axis=0), 0.8)
        step = np.linalg.norm(lab - base, axis=-1)
        widths = np.linalg.norm((lab - base) / noise, axis=-1)
        worn = (widths > _NOISE_WIDTHS) & (step > _LEAST_STEP)
        return {WORN: (worn, worn.astype(float))}
    names = list(classes)
    centres = np.array([classes[name] for name in names])
    nearest = np.stack([np.linalg.norm(lab - centre, axis=-1) for centre in centres], axis=-1).argmin(axis=-1)
    light, start = xyz_from_lab(lab), xyz_from_lab(base)
    found: dict[str, tuple[BoolArray, FloatArray]] = {}
    for index, name in enumerate(names):
        way = xyz_from_lab(centres[index]) - start
        share = np.clip((light - start) @ way / max(float(way @ way), 1e-12), 0.0, 1.0)
        found[name] = ((nearest == index) & (share > 0.5), share)
    return found
