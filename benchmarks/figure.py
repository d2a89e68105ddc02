"""One line per figure: what was reached, what was asked, and the time beside it."""

from __future__ import annotations


def report(name: str, value: float, limit: float | None, baseline: str, beside: str = "") -> bool:
    """Print a figure that must not exceed `limit`; returns whether it was reached."""
    reached = limit is None or value <= limit
    verdict = "" if limit is None else f"  (at most {limit:g}: {'reached' if reached else 'NOT REACHED'})"
    print(f"{name}: {value:.2f} × {baseline}{verdict}  {beside}".rstrip(), flush=True)
    return reached
