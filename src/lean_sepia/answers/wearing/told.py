"""What was measured of wear, in words and in bars."""

from __future__ import annotations

import numpy as np

from lean_sepia.answers.wearing.kinds import wear_words
from lean_sepia.arrays import FloatArray, IntArray
from lean_sepia.document.worn import WearClass, WearRecord
from lean_sepia.language import _, ngettext
from lean_sepia.wear.survey import Survey

_UPRIGHT_DEG = 15


def doubts_words(found: Survey) -> list[str]:
    """What makes a survey doubtful."""
    words = {
        "ground-rare": _("What was pointed at as the ground covers only {0} % of the region: was a mark pointed at?"),
        "other-large": _("{0} % of the region is neither the ground nor a kind that was named: it may reach over two zones, or a kind is missing."),
        "no-ground": _("Hardly any ground is left in the region: the shares are of all of it."),
    }  # fmt: skip
    return [words[doubt.code].format(f"{100 * doubt.share:.0f}") for doubt in found.doubts]


def worn_words(record: WearRecord) -> str:
    """How much is worn, in a sentence, kind by kind where several were named."""
    much = f"{record.coverage_percent:.1f}"
    parts = ", ".join(f"{wear_words(one.name)} {one.coverage_percent:.1f}" for one in record.classes)
    if len(record.classes) < 2:
        return _("{0} % of this part is worn.").format(much)
    return _("{0} % of this part is worn: {1}.").format(much, parts)


def where_words(found: WearClass) -> str:
    """How many marks of a kind there are, which way they run, and how many sit at the border."""
    if found.direction_deg is None:
        way = _("round, no direction")
    elif abs(found.direction_deg) < _UPRIGHT_DEG:
        way = _("straight down")
    else:
        side = _("right") if found.direction_deg > 0 else _("left")
        way = _("{0}° to the {1} of straight down").format(f"{abs(found.direction_deg):.0f}", side)
    return _("{0}: {1}, {2}; {3} % at the border.").format(
        wear_words(found.name).capitalize(),
        ngettext("{0} mark", "{0} marks", found.count).format(found.count),
        way,
        f"{100 * found.edge_share:.0f}",
    )


def size_bars(sizes_mm: FloatArray, limit_mm: float) -> tuple[FloatArray, IntArray]:
    """Edges (n + 1,) in mm of bars a factor of √2 wide, from a power of two up, and the marks (n,) in each.

    sizes_mm : of at least one mark; limit_mm : the smallest that can be seen on the model, which a bar takes in
    """
    first = 2.0 ** np.floor(np.log2(max(float(sizes_mm.min()), 0.02)))
    if limit_mm > 0.25 * first:
        first = min(first, 2.0 ** np.floor(np.log2(limit_mm)))
    octaves = max(3, int(np.ceil(np.log2(float(sizes_mm.max()) / first))) + 1)
    edges = first * 2.0 ** (np.arange(0, 2 * octaves - 1) / 2)
    return edges, np.histogram(sizes_mm, edges)[0]
