"""Kinds of wear proposed from the picture: colours that marks have in common, each with a place that shows it and a likely name."""

from __future__ import annotations

from collections.abc import Callable

import cv2
import numpy as np

from lean_sepia.answers.wearing.kinds import WEAR_KINDS
from lean_sepia.answers.wearing.surveying import Pointed, WearQuestion, box_of, inside_of
from lean_sepia.arrays import BoolArray, FloatArray, triple
from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.colour.lights import white
from lean_sepia.errors import BadInputError
from lean_sepia.language import _
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.correction.pictures import CorrectedPicture
from lean_sepia.photo.patch import disc_patch, rectangle
from lean_sepia.photo.read import Pixels
from lean_sepia.plan.kinds import KINDS
from lean_sepia.wear.segment import WORN, segment

_MOST, _PIXELS = 5, 1_500_000
_OF_A_KIND, _NEAR, _MIXED = 11.0, 6.0, 8.0  # ΔE*ab between kinds, and within one
_LEAST_PX, _LEAST_SHARE = 12, 0.0004
_FROM_RIM, _RADIUS = 1.5, 3.0  # pixels: how far inside a mark its own colour is seen
_LONG = 2.0
_WIDE, _UNLIKELY = 0.06, 25.0


def propose(
    question: WearQuestion,
    pixels: Pixels,
    cast: Cast,
    progress: Callable[[float], None] = lambda _share: None,
) -> tuple[Pointed, ...]:
    """Up to five kinds that marks of a traced part have, the most frequent first, none where nothing is unlike the ground.

    Raises
    ------
    BadInputError
        The part is too small to tell marks from grain.
    """
    left, top, right, bottom = _middle(box_of(question.corners))
    part = rectangle(pixels, left, top, right, bottom)
    if min(part.shape[:2]) < 8:
        raise BadInputError(
            _("The part that was traced is too small to find kinds in; trace more, or point at them.")
        )
    look = CorrectedPicture(cast, part)
    inside = inside_of(question.corners, (left, top, right, bottom), part.shape[:2])
    found = segment(
        look, np.array(question.ground.lab), {}, {}, inside, (), lambda share: progress(0.8 * share)
    )
    worn = found.shares[WORN] > 0.5
    lab = lab_from_xyz(found.scene.whole(look) * white()).reshape(*look.shape, 3)
    ground = lab_from_xyz(found.scene.paints[0] * white())
    depth = np.asarray(
        cv2.distanceTransform(np.pad(worn.astype(np.uint8), 1), cv2.DIST_L2, 3)[1:-1, 1:-1], dtype=float
    )
    proposed: list[Pointed] = []
    found_colours = _colours(lab, ground, depth, worn)
    nearest = np.argmin(
        [np.linalg.norm(lab - centre, axis=-1) for centre, _members in found_colours] or [worn], axis=0
    )
    for number, (centre, members) in enumerate(found_colours):
        members &= nearest == number
        if members.sum() < _LEAST_PX:
            continue
        place = np.unravel_index(int(np.where(members, depth, 0).argmax()), depth.shape)
        x, y, radius = (
            left + float(place[1]) + 0.5,
            top + float(place[0]) + 0.5,
            min(_RADIUS, float(depth[place])),
        )
        seen = triple(cast.lab(disc_patch(pixels, x, y, max(1.0, radius)).mean))
        name = _name(centre, members, [one.name for one in proposed])
        proposed.append(Pointed(name, seen, (x, y, max(1.0, radius))))
    progress(1.0)
    return tuple(proposed)


def _middle(box: tuple[float, float, float, float]) -> tuple[float, float, float, float]:
    """The middle of a box, no larger than what can be looked through while someone waits."""
    left, top, right, bottom = box
    less = min(1.0, (_PIXELS / max(1.0, (right - left) * (bottom - top))) ** 0.5)
    x, y, half, tall = (
        (left + right) / 2,
        (top + bottom) / 2,
        (right - left) / 2 * less,
        (bottom - top) / 2 * less,
    )
    return float(round(x - half)), float(round(y - tall)), float(round(x + half)), float(round(y + tall))


def _colours(
    lab: FloatArray, ground: FloatArray, depth: FloatArray, worn: BoolArray
) -> list[tuple[FloatArray, BoolArray]]:
    """Colours (3,) that pixels inside marks have in common, the most frequent first, and the worn pixels (h, w) of each."""
    sure = depth >= _FROM_RIM
    if sure.sum() < _LEAST_PX:
        sure = worn
    left = sure.copy()
    found: list[tuple[FloatArray, BoolArray]] = []
    while len(found) < _MOST and left.sum() >= max(_LEAST_PX, _LEAST_SHARE * worn.size):
        points = lab[left]
        some = points[:: max(1, len(points) // 1500)]
        counts = (np.linalg.norm(some[:, None] - some[None], axis=-1) < _NEAR).sum(axis=1)
        centre = some[int(counts.argmax())]
        for _round in range(4):
            centre = points[np.linalg.norm(points - centre, axis=-1) < _NEAR].mean(axis=0)
        away = np.linalg.norm(lab - centre, axis=-1)
        if all(np.linalg.norm(centre - other) >= _OF_A_KIND for other, _members in found):
            found.append((centre, worn & (away < _OF_A_KIND)))
        left &= away >= _NEAR
    plenty = [one for one in found if one[1].sum() >= max(_LEAST_PX, _LEAST_SHARE * worn.size)]
    pure: list[tuple[FloatArray, BoolArray]] = []
    for one in sorted(plenty, key=lambda one: -float(np.linalg.norm(one[0] - ground))):
        if not any(_is_between(one[0], ground, other) for other, _members in pure):
            pure.append(one)
    return sorted(pure, key=lambda one: -int(one[1].sum()))


def _is_between(lab: FloatArray, ground: FloatArray, kind: FloatArray) -> bool:
    """Whether a colour (3,) may be a rim or a faint mark of a kind on a ground."""
    t = np.linspace(0, 1, 41)[:, None]
    mixes = (1 - t) * xyz_from_lab(ground) + t * xyz_from_lab(kind)
    return bool(np.linalg.norm(lab_from_xyz(mixes) - lab, axis=-1).min() < _MIXED)


def _name(centre: FloatArray, members: BoolArray, taken: list[str]) -> str:
    """The likeliest kind of a colour and form that is not taken."""
    runs, wide = _is_long(members), bool(members.mean() > _WIDE)
    away = {
        name: float(np.linalg.norm((centre - np.array(kind.lab)) * (0.6, 1.0, 1.0)))
        + _UNLIKELY * ((runs != (kind.spreads == "down")) + (wide != KINDS[kind.kind].is_powder))
        for name, kind in WEAR_KINDS.items()
        if name not in taken
    }
    return min(away, key=lambda name: away[name])


def _is_long(members: BoolArray) -> bool:
    """Whether most of an area lies in marks that are clearly longer than broad."""
    _count, _labels, stats, _middles = cv2.connectedComponentsWithStats(
        members.astype(np.uint8), connectivity=8
    )
    area = stats[1:, cv2.CC_STAT_AREA].astype(float)
    across = stats[1:, cv2.CC_STAT_WIDTH] ** 2.0 + stats[1:, cv2.CC_STAT_HEIGHT] ** 2.0
    return bool(area[across > _LONG * 2.5 * area].sum() > 0.5 * area.sum())
