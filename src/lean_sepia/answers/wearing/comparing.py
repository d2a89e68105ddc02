"""The model measured like the prototype: too much, too little, too large, too even, and where; and what one more step would do."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import log

import numpy as np

from lean_sepia.answers.wearing.kinds import wear_words
from lean_sepia.answers.wearing.places import weights_of
from lean_sepia.answers.wearing.planning import WearRow
from lean_sepia.answers.wearing.surveying import measured_region
from lean_sepia.arrays import FloatArray
from lean_sepia.document.entities.worn import WearClass, WearPlan, WearRecord
from lean_sepia.document.model import Project
from lean_sepia.language import N_, _, ngettext
from lean_sepia.wear.tools import marks_per_cm2

_CLEARLY_LARGER, _EVEN = 1.3, 0.5
_OFF, _OFF_POINTS = 0.2, 0.2  # of what is asked, and in points: less is not seen (practice)
_GRID = (40, 60)
_FIFTHS = (
    N_("at the top"),
    N_("above the middle"),
    N_("in the middle"),
    N_("below the middle"),
    N_("at the bottom"),
)


@dataclass(frozen=True)
class Verdict:
    """How one kind on the model compares with what it should be.

    amount : "much", "little" or "right"; ratio : of its share to what was asked; larger : of its median size on the model's scale
    even : whether it is spread clearly more evenly; where : number of the fifth from above that is furthest off, None where none is
    """

    kind: str
    amount: str
    ratio: float
    larger: float | None
    even: bool
    where: int | None
    asked: float
    found: float


@dataclass(frozen=True)
class Asked:
    """What one kind is to be on the model: its share in per cent and how far it may be off, median size in mm, shares of the fifths from above."""

    kind: str
    percent: float
    range90: tuple[float, float]
    model_mm: float | None = None
    by_height: tuple[float, ...] = ()


def asked_of(project: Project, zone_id: str, plan: WearPlan, rows: Sequence[WearRow]) -> tuple[Asked, ...]:
    """What a plan asks of the model: as far off as the photo was, or as nobody sees; spread as measured, or as its sources say."""
    region = measured_region(project, zone_id)
    measured = {one.name: one for one in region.wear.classes} if region and region.wear else {}
    weights = weights_of(project, project.zone(zone_id), plan, [row.kind for row in rows], _GRID)
    return tuple(_asked(row, measured.get(row.kind), weights.get(row.kind)) for row in rows if row.share > 0)


def _asked(row: WearRow, measured: WearClass | None, weights: FloatArray | None) -> Asked:
    percent = 100 * row.share
    off = max(_OFF_POINTS, _OFF * percent)
    low, high = percent - off, percent + off
    by_height: tuple[float, ...] = ()
    if measured is not None and measured.coverage_percent > 0:
        times = percent / measured.coverage_percent
        by_height = tuple(min(1.0, times * share) for share in measured.by_height)
        if measured.coverage_range90 is not None:
            low, high = (
                min(low, times * measured.coverage_range90[0]),
                max(high, times * measured.coverage_range90[1]),
            )
    elif weights is not None:
        fifths = weights.reshape(5, -1).mean(axis=1)
        by_height = tuple((row.share * fifths / fifths.mean()).tolist())
    return Asked(row.kind, percent, (max(0.0, low), high), row.model_mm, by_height)


def compare(asked: Iterable[Asked], found: WearRecord) -> tuple[Verdict, ...]:
    """Each kind that was asked for, on a photo of the model."""
    there = {one.name: one for one in found.classes}
    return tuple(_verdict(one, there.get(one.kind)) for one in asked)


def _verdict(asked: Asked, found: WearClass | None) -> Verdict:
    if found is None:
        return Verdict(
            asked.kind, "little", 0.0, None, even=False, where=None, asked=asked.percent, found=0.0
        )
    (low, high), (least, most) = asked.range90, _range(found)
    amount = "much" if least > high else "little" if most < low else "right"
    larger = found.median_mm / asked.model_mm if asked.model_mm and found.median_mm else None
    ratio = found.coverage_percent / asked.percent if asked.percent else float("inf")
    even = _unevenness(found.by_height) < _EVEN * _unevenness(asked.by_height)
    where = _where(asked.by_height, found.by_height, found.coverage_percent / max(asked.percent, 1e-9))
    return Verdict(asked.kind, amount, ratio, larger, even, where, asked.percent, found.coverage_percent)


def _range(one: WearClass) -> tuple[float, float]:
    return one.coverage_range90 or (one.coverage_percent, one.coverage_percent)


def _unevenness(by_height: Sequence[float]) -> float:
    """How differently the fifths from above are covered: deviation over mean."""
    if not by_height or not sum(by_height):
        return 0.0
    shares = np.array(by_height)
    return float(shares.std() / shares.mean())


def _where(asked: Sequence[float], found: Sequence[float], ratio: float) -> int | None:
    """The fifth that is furthest off, to the side to which the whole is off; None where none stands out."""
    if not asked or len(asked) != len(found):
        return None
    off = np.log((np.array(found) + 1e-3) / (np.array(asked) + 1e-3))
    if ratio < 1:
        off = -off
    furthest = int(off.argmax())
    return furthest if off[furthest] > log(_CLEARLY_LARGER) else None


def verdict_words(verdict: Verdict, model_mm: float | None = None) -> str:
    """A verdict as a sentence or two, and what one more step would do.

    model_mm : median size of marks to add, on the model
    """
    name = wear_words(verdict.kind).capitalize()
    heads = {
        "much": _("{0}: too much, {1} % where {2} % was asked."),
        "little": _("{0}: too little, {1} % where {2} % was asked."),
        "right": _("{0}: right, {1} % where {2} % was asked."),
    }
    words = [heads[verdict.amount].format(name, f"{verdict.found:.1f}", f"{verdict.asked:.1f}")]
    if verdict.larger is not None and verdict.larger > _CLEARLY_LARGER:
        words.append(_("Its marks are {0} times too large.").format(f"{verdict.larger:.1f}"))
    if verdict.even:
        words.append(_("It is too even: gather it where the thing is used."))
    if verdict.where is not None and verdict.amount != "right":
        words.append(_("Most so {0}.").format(_(_FIFTHS[verdict.where])))
    if verdict.amount == "little" and model_mm:
        more = marks_per_cm2((verdict.asked - verdict.found) / 100, model_mm)
        words.append(
            ngettext(
                "About {0} more mark of {1} mm on each square centimetre would do.",
                "About {0} more marks of {1} mm on each square centimetre would do.",
                round(more),
            ).format(round(more), f"{model_mm:.1f}")
        )
    if verdict.amount == "much":
        words.append(
            _("Touch in a share of {0} of them with the base, or mist it over once.").format(
                f"{1 - 1 / max(verdict.ratio, 1.01):.0%}"
            )
        )
    return " ".join(words)
