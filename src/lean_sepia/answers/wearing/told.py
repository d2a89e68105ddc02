"""What was measured of wear, in words and in bars."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lean_sepia.answers.wearing.kinds import wear_words
from lean_sepia.answers.wearing.planning import FAR_OFF_DE00, WearRow
from lean_sepia.arrays import FloatArray, IntArray
from lean_sepia.document.entities.worn import WearClass, WearRecord
from lean_sepia.language import _, ngettext
from lean_sepia.wear.grade import is_rust
from lean_sepia.wear.survey import Survey

_UPRIGHT_DEG = 15


def doubts_words(found: Survey) -> list[str]:
    """What makes a survey doubtful."""
    words = {
        "ground-rare": _("What was pointed at as the ground covers only {0} % of the region: was a mark pointed at?"),
        "ground-elsewhere": _("What was pointed at as the ground is unlike the {0} % of the region that most looks alike: was a mark pointed at?"),
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
    """How many marks of a kind there are, which way they run and how surely, and how many sit at the border."""
    parts = [ngettext("{0} whole mark", "{0} whole marks", found.count).format(found.count)]
    if found.direction_deg is not None:
        parts.append(way_words(found.direction_deg, found.direction_within_deg))
    parts.append(_("{0} % at the border").format(f"{100 * found.edge_share:.0f}"))
    return ", ".join(parts)


def way_words(direction_deg: float, within_deg: float | None) -> str:
    """Which way marks run, and within what that is sure."""
    side = _("right") if direction_deg > 0 else _("left")
    way = _("{0}° to the {1} of straight down").format(f"{abs(direction_deg):.0f}", side)
    if abs(direction_deg) < _UPRIGHT_DEG:
        way = _("straight down")
    return way + (_(" ± {0}°").format(f"{max(1.0, within_deg):.0f}") if within_deg else "")


def grade_words(record: WearRecord) -> str:
    """The grade of rust to both standards; empty where none was named."""
    if not any(is_rust(one.name) for one in record.classes):
        return ""
    words = _("Rust: {0} to ISO 4628-3, grade {1} to ASTM D610.")
    return words.format(record.iso_4628_3, record.astm_d610)


def beside_words(record: WearRecord, name: str, other: WearRecord) -> str:
    """How much of each kind there is on another photo of the same, or on the other side."""
    here = {one.name for one in record.classes}
    there = [f"{wear_words(one.name)} {one.coverage_percent:.1f}" for one in other.classes]
    lacking = [wear_words(name) for name in here - {one.name for one in other.classes}]
    words = _("{0}: {1} %").format(name, ", ".join(there))
    return words + (_("; {0} was not pointed at there").format(", ".join(sorted(lacking))) if lacking else "")


def heeded(row: WearRow) -> Iterator[str]:
    """What to heed of planned wear: a tool too coarse for its marks, marks too small to be seen, a colour that will not show."""
    if row.made.too_coarse and not row.veil:
        yield _("Its smallest mark, {0} mm, is {1} mm on the prototype: too coarse.").format(
            f"{row.made.smallest_mm:g}", f"{row.made.on_prototype_mm:.0f}"
        )
    if not row.visible and not row.veil:
        yield _("Too small to be seen: make it a tint in Glaze.")
    if row.showing is not None and not row.shows:
        yield _("Vanishes on this ground: {0:.1f} ΔE00.").format(row.showing.now)
    if row.away >= FAR_OFF_DE00:
        yield _("The nearest this shelf has is {0:.0f} ΔE00 off.").format(row.away)


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
