"""The model measured like the prototype: too much, too little, too large, too even, and where; and what one more step would do."""

from __future__ import annotations

from dataclasses import dataclass
from math import log, sqrt

from lean_sepia.answers.wearing.kinds import wear_words
from lean_sepia.document.worn import WearClass, WearRecord
from lean_sepia.language import N_, _
from lean_sepia.wear.tools import marks_per_cm2

_CLEARLY_LARGER, _EVEN = 1.3, 0.5
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


def compare(asked: WearRecord, found: WearRecord, scale: float) -> tuple[Verdict, ...]:
    """Each kind that was asked for, on the model; sizes on the model are brought to the prototype by 1:N."""
    there = {one.name: one for one in found.classes}
    return tuple(_verdict(one, there.get(one.name), scale, found.mm_per_px) for one in asked.classes)


def _verdict(asked: WearClass, found: WearClass | None, scale: float, mm_per_px: float | None) -> Verdict:
    if found is None:
        return Verdict(
            asked.name, "little", 0.0, None, even=False, where=None, asked=asked.coverage_percent, found=0.0
        )
    (low, high), (least, most) = _range(asked), _range(found)
    amount = "much" if least > high else "little" if most < low else "right"
    larger = (
        found.median_mm * scale / asked.median_mm
        if asked.median_mm and found.median_mm and mm_per_px
        else None
    )
    ratio = found.coverage_percent / asked.coverage_percent if asked.coverage_percent else float("inf")
    return Verdict(
        asked.name, amount, ratio, larger, _unevenness(found) < _EVEN * _unevenness(asked), _where(asked, found),
        asked.coverage_percent, found.coverage_percent,
    )  # fmt: skip


def _range(one: WearClass) -> tuple[float, float]:
    return one.coverage_range90 or (one.coverage_percent, one.coverage_percent)


def _unevenness(one: WearClass) -> float:
    """How differently the fifths from above are covered: deviation over mean."""
    if not one.by_height or not sum(one.by_height):
        return 0.0
    mean = sum(one.by_height) / len(one.by_height)
    return sqrt(sum((share - mean) ** 2 for share in one.by_height) / len(one.by_height)) / mean


def _where(asked: WearClass, found: WearClass) -> int | None:
    if not asked.by_height or len(asked.by_height) != len(found.by_height):
        return None
    off = [abs(log((b + 1e-3) / (a + 1e-3))) for a, b in zip(asked.by_height, found.by_height, strict=True)]
    furthest = max(range(len(off)), key=lambda fifth: off[fifth])
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
            _("About {0} more marks of {1} mm on each square centimetre would do.").format(
                f"{more:.0f}", f"{model_mm:.1f}"
            )
        )
    if verdict.amount == "much":
        words.append(
            _("Touch in a share of {0} of them with the base, or mist it over once.").format(
                f"{1 - 1 / max(verdict.ratio, 1.01):.0%}"
            )
        )
    return " ".join(words)
