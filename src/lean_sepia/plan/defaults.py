"""Usual times of each kind of step, in minutes (common practice, no source; the user edits them)."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Times:
    """Hands busy, safe to overlay with the same paint, safe for anything, and still removable until."""

    hands_on_min: float
    touch_dry_min: float
    full_cure_min: float
    removable_until_min: float | None = None


_DAY = 24 * 60.0
_DEFAULT = Times(20, 20, 12 * 60.0)
_BY_KIND = {
    "wash-model": Times(15, 120, 120),
    "primer": Times(20, 60, _DAY),
    "base": Times(30, 20, 12 * 60.0),
    "preshade": Times(30, 20, 12 * 60.0),
    "tone": Times(30, 20, 12 * 60.0),
    "camouflage": Times(45, 20, 12 * 60.0),
    "mask": Times(30, 0, 0),
    "unmask": Times(10, 0, 0),
    "marking": Times(40, 60, 12 * 60.0),
    "setting-solution": Times(10, 60, 12 * 60.0),
    "fade": Times(25, 20, 60),
    "filter": Times(15, 20, 6 * 60.0, 60),
    "wash": Times(25, 60, _DAY, 12 * 60.0),
    "pin-wash": Times(30, 60, _DAY, 12 * 60.0),
    "oil-dots": Times(40, 20, _DAY, 12 * 60.0),
    "chips": Times(40, 20, 60),
    "resist-chips": Times(30, 10, 30),
    "streaks": Times(30, 60, _DAY, 12 * 60.0),
    "powder": Times(20, 0, 60),
    "pastel": Times(20, 0, 60),
    "dust": Times(20, 0, 60),
    "soot": Times(15, 0, 60),
    "graphite": Times(10, 0, 0),
    "gloss-coat": Times(15, 30, 12 * 60.0),
    "satin-coat": Times(15, 30, 12 * 60.0),
    "matte-coat": Times(15, 30, _DAY),
    "assemble": Times(30, 0, 60),
}
_OIL_CURE = 36 * 60.0


def usual_times(kind: str, medium: str | None = None) -> Times:
    """Usual times of a kind of step; paint coats in oil need longer."""
    times = _BY_KIND.get(kind, _DEFAULT)
    if medium == "oil" and kind in ("base", "tone", "fade"):
        return Times(times.hands_on_min, 6 * 60.0, _OIL_CURE)
    return times
