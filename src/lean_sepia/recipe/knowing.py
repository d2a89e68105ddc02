"""What to find out next about the bottles of a mix, so that its colour is surer: the cheapest that helps."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from lean_sepia.language import N_
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Knowledge, Paint
from lean_sepia.paint.trust import predict

WHAT: dict[str, str] = {
    "coats": N_("in how many coats {0} hides"), "drawdown": N_("a drawdown of {0} over black and white"),
    "swatch": N_("a swatch of this mix, laid so"),
}  # fmt: skip
_HELPS = 0.75  # of the radius there is now, to be worth finding out (practice)
_SWATCH_DE00 = 1.0  # what a measured swatch leaves open


@dataclass(frozen=True)
class ToKnow:
    """What to find out, of which bottle, and the radius that holds the colour 9 times in 10 once it is known.

    paint : None of a swatch of the mix itself
    """

    what: Literal["coats", "drawdown", "swatch"]
    paint: Paint | None
    de00_90: float


def to_know_next(
    paints: Sequence[Paint], parts: Sequence[float], laying: Laying = OPAQUE, radius: float | None = None
) -> ToKnow | None:
    """The cheapest thing that makes a mix markedly surer; None where nothing would, or where no bottle of it
    is known by one colour only.

    radius : that of the mix now, where it is known already
    """
    if all(paint.knowledge is not Knowledge.ONE_CONSTANT for paint in paints):
        return None
    now = predict(paints, parts, laying).de00_90 if radius is None else radius
    for what, better in _WAYS:
        found = [
            ToKnow(
                what, paint, predict([better(p) if p is paint else p for p in paints], parts, laying).de00_90
            )
            for paint in paints
            if paint.knowledge is Knowledge.ONE_CONSTANT and not (what == "coats" and paint.cover_said)
        ]
        best = min(found, key=lambda one: one.de00_90, default=None)
        if best is not None and best.de00_90 <= _HELPS * now:
            return best
    return ToKnow("swatch", None, _SWATCH_DE00) if _HELPS * now >= _SWATCH_DE00 else None


def _with_coats(paint: Paint) -> Paint:
    return replace(paint, cover_said=True)


def _with_a_drawdown(paint: Paint) -> Paint:
    return replace(paint, knowledge=Knowledge.TWO_CONSTANT)


_WAYS: tuple[tuple[Literal["coats", "drawdown"], Callable[[Paint], Paint]], ...] = (
    ("coats", _with_coats), ("drawdown", _with_a_drawdown),
)  # fmt: skip
"""From the cheapest up."""
