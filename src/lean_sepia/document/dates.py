"""When a photo was taken against when a scheme was worn."""

from __future__ import annotations

import calendar
import re
from datetime import date
from functools import lru_cache
from typing import Literal

from lean_sepia.errors import EditError
from lean_sepia.language import _

Verdict = Literal["possible", "unlikely", "contradicted", "unknown"]
_DATE = re.compile(r"([0-9]{4})(?:-([0-9]{1,2}))?(?:-([0-9]{1,2}))?$")
_LIKELY_SHARE = 0.5


def date_span(text: str) -> tuple[date, date] | None:
    """Earliest and latest day of a date such as 1957, 1957-09, 1957-09-14 or 1956/1958; None of an empty one.

    Raises
    ------
    EditError
        Not a date, or one that ends before it begins.
    """
    words = text.strip()
    if not words:
        return None
    first, _unused, last = words.partition("/")
    begin, end = _span_of(first, text), _span_of(last or first, text)
    if end[1] < begin[0]:
        raise EditError(
            _(
                "The date {0!r} ends before it begins. Write the earlier year first, such as 1956/1958."
            ).format(text)
        )
    return begin[0], end[1]


@lru_cache(maxsize=4096)
def _span_of(word: str, whole: str) -> tuple[date, date]:
    found = _DATE.fullmatch(word.strip())
    try:
        if found is None:
            raise ValueError
        year, month, day = (int(part) if part else None for part in found.groups())
        if year is None or not 1826 <= year <= 2200:
            raise ValueError
        if month is None:
            return date(year, 1, 1), date(year, 12, 31)
        if day is None:
            return date(year, month, 1), date(year, month, calendar.monthrange(year, month)[1])
        return date(year, month, day), date(year, month, day)
    except ValueError:
        raise EditError(
            _(
                "{0!r} is no date of a photo. Write a year, a month or a day, or two with a stroke: 1957, 1957-09, 1956/1958."
            ).format(whole)
        ) from None


def verdict(taken: str, worn_from: str, worn_to: str) -> Verdict:
    """Whether a photo of this date can show a scheme worn from one date to another; open ends are empty.

    Possible where at least half of the photo's span lies in the scheme's, unlikely where less does, contradicted where none does.

    >>> verdict("1951-06", "1954", "1963")
    'contradicted'
    """
    span = date_span(taken)
    start, end = date_span(worn_from), date_span(worn_to)
    if span is None or (start is None and end is None):
        return "unknown"
    first = max(span[0], start[0]) if start else span[0]
    last = min(span[1], end[1]) if end else span[1]
    days = (last - first).days + 1
    if days <= 0:
        return "contradicted"
    return "possible" if days >= _LIKELY_SHARE * ((span[1] - span[0]).days + 1) else "unlikely"
