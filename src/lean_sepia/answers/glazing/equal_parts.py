"""A tint of one paint, or of two in equal parts: what it is called, as one paint, and as a mix to lay."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from lean_sepia.document.edits.mixes import Mix
from lean_sepia.language import _, ngettext
from lean_sepia.paint.paint import Paint, stirred


class Tint(Protocol):
    """Ids of one paint, and perhaps of a second."""

    @property
    def paint(self) -> str:
        """The first."""

    @property
    def second(self) -> str | None:
        """The other, if any."""


def _used(paints: Sequence[Paint], tint: Tint) -> list[Paint]:
    known = {paint.id: paint for paint in paints}
    return [known[name] for name in (tint.paint, tint.second) if name]


def tint_name(paints: Sequence[Paint], tint: Tint) -> str:
    """What a tint is mixed of."""
    return " + ".join(paint.name for paint in _used(paints, tint))


def ratio_words(thinner_parts: float) -> str:
    """A thinning in a few letters, such as "1:20", or that there is none."""
    return f"1:{thinner_parts:g}" if thinner_parts >= 0.1 else _("as it comes")


def cup_words(name: str, thinner_share: float) -> str:
    """How a tint is thinned, such as "1 part Umber : 10 parts thinner", or that it is laid as it comes."""
    parts = round(thinner_share / (1 - thinner_share), 1)
    if parts < 0.1:
        return _("{0}, as it comes.").format(name)
    return ngettext("1 part {0} : {1} part thinner.", "1 part {0} : {1} parts thinner.", round(parts)).format(
        name, f"{parts:g}"
    )


def tint_paint(paints: Sequence[Paint], tint: Tint) -> Paint:
    """A tint as if it were one paint."""
    used = _used(paints, tint)
    return stirred("tint", "tint", used, [1.0] * len(used))


def tint_mix(paints: Sequence[Paint], tint: Tint) -> Mix:
    """A tint as a mix to lay."""
    return Mix.of(paints, [(paint.id, 1) for paint in _used(paints, tint)])
