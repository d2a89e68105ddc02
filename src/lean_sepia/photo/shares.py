"""How much of a region each colour covers, and how strongly the colours differ."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.errors import SampleError
from lean_sepia.language import _
from lean_sepia.photo.patch import Area
from lean_sepia.photo.read import Pixels

_OTHER_DE00 = 18.0
_GRAIN_SIGMA_PX = 1.0
_SNAP_MARGIN = 0.06


@dataclass(frozen=True)
class ToneShare:
    """One colour of a region: its share of the area, 0–1, and the mean L*a*b* of what counts as it."""

    name: str
    share: float
    lab: tuple[float, float, float]


@dataclass(frozen=True)
class Contrast:
    """How two colours of a region differ."""

    first: str
    second: str
    delta_lightness: float
    de00: float


def area_shares(
    xyz: FloatArray, inside: BoolArray, tones: Mapping[str, Sequence[float]]
) -> tuple[list[ToneShare], float]:
    """Share of each tone in a region, and the share that is like none of them.

    Parameters
    ----------
    xyz : (h, w, 3) corrected, D65
    inside : (h, w) the region
    tones : by name, the L*a*b* that stands for it

    Raises
    ------
    SampleError
        No tone is named, or the region is empty.
    """
    if not tones:
        raise SampleError(_("Name at least one tone by a disc or a colour to measure its share."))
    if not inside.any():
        raise SampleError(_("The region is empty."))
    # Grain is averaged before classes are told apart, in linear light.
    smooth = cv2.GaussianBlur(np.ascontiguousarray(xyz), (0, 0), _GRAIN_SIGMA_PX)
    labs = lab_from_xyz(smooth[inside])
    apart = np.stack([delta_e00(labs, np.array(lab, dtype=float)) for lab in tones.values()], axis=-1)
    nearest = apart.argmin(axis=-1)
    other = apart.min(axis=-1) > _OTHER_DE00
    answer = []
    for index, (name, lab) in enumerate(tones.items()):
        mine = (nearest == index) & ~other
        mean = lab_from_xyz(xyz[inside][mine].mean(axis=0)) if mine.any() else np.array(lab, dtype=float)
        answer.append(ToneShare(name, float(mine.mean()), (float(mean[0]), float(mean[1]), float(mean[2]))))
    return answer, float(other.mean())


def contrasts(shares: Sequence[ToneShare]) -> list[Contrast]:
    """Every pair of tones, the strongest contrast first."""
    found = [
        Contrast(a.name, b.name, b.lab[0] - a.lab[0], float(delta_e00(a.lab, b.lab)))
        for index, a in enumerate(shares)
        for b in shares[index + 1 :]
    ]
    return sorted(found, key=lambda pair: -pair.de00)


def shares_missed(prototype: Sequence[ToneShare], model: Sequence[ToneShare]) -> dict[str, float]:
    """By tone, how much more (positive) or less of the area the model has than the prototype, in shares."""
    painted = {tone.name: tone.share for tone in model}
    return {tone.name: painted.get(tone.name, 0.0) - tone.share for tone in prototype}


def snap_to_edges(pixels: Pixels, corners: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """A polygon drawn roughly round an area, moved to where the colours change (graph cut of colour models).

    Rother, Kolmogorov & Blake, "GrabCut", ACM Trans. Graph. 23 (2004), as in OpenCV. Where nothing is found the
    polygon is given back as it was.

    Raises
    ------
    SampleError
        As for `Area.of_polygon`.
    """
    as_drawn = [(float(x), float(y)) for x, y in corners]
    size = np.ptp(np.array(as_drawn), axis=0).max() if as_drawn else 0
    margin = max(6, round(_SNAP_MARGIN * size))
    area = Area.of_polygon((pixels.shape[0], pixels.shape[1]), corners, 2 * margin)
    part = np.ascontiguousarray(area.of(pixels))
    if part.dtype != np.uint8:
        part = (part // 257).astype(np.uint8)
    inside = area.mask.astype(np.uint8)
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * margin + 1, 2 * margin + 1))
    sure, possible = cv2.erode(inside, disc), cv2.dilate(inside, disc)
    guess = np.where(
        sure, cv2.GC_FGD, np.where(inside, cv2.GC_PR_FGD, np.where(possible, cv2.GC_PR_BGD, cv2.GC_BGD))
    )
    guess = guess.astype(np.uint8)
    if not sure.any() or not (guess == cv2.GC_BGD).any():
        return as_drawn
    cv2.setRNGSeed(4)
    cv2.grabCut(part, guess, (0, 0, 1, 1), np.zeros((1, 65)), np.zeros((1, 65)), 3, cv2.GC_INIT_WITH_MASK)
    found = np.isin(guess, (cv2.GC_FGD, cv2.GC_PR_FGD)).astype(np.uint8)
    lines, _unused = cv2.findContours(found, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
    if not lines:
        return as_drawn
    outline = cv2.approxPolyDP(max(lines, key=cv2.contourArea), 1.2, True)[:, 0, :]
    if len(outline) < 3:
        return as_drawn
    return [(float(x + area.columns.start), float(y + area.rows.start)) for x, y in outline]
