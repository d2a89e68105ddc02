"""The hours someone has at the bench: parsing "mon-fri 19:00-21:30,sat 10:00-16:00"."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, time, timedelta

from lean_sepia.errors import PlanError
from lean_sepia.language import _

_DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
_FORM = re.compile(
    r"([a-z]{3,9})(?:\s*[-–]\s*([a-z]{3,9}))?\s+([0-9]{1,2})[:.]([0-9]{2})\s*[-–]\s*([0-9]{1,2})[:.]([0-9]{2})"
)
_LONGEST = 1000
YEARS = (1900, 2199)
"""Years that a plan may lie in: beyond them a date is a slip."""

_HORIZON = timedelta(days=3 * 366)


def in_our_time(moment: datetime) -> bool:
    """Whether a moment lies in a year that a plan may."""
    return YEARS[0] <= moment.year <= YEARS[1]


@dataclass(frozen=True)
class Window:
    """One stretch of bench time."""

    start: datetime
    end: datetime


@dataclass(frozen=True)
class Evenings:
    """Bench hours per weekday, as minutes from midnight; an end past 1440 runs into the next day."""

    spans: tuple[tuple[tuple[int, int], ...], ...]
    text: str = ""

    def within(self, others: Evenings) -> Evenings:
        """What of these hours lies in others too."""
        spans = tuple(
            tuple(
                (max(begin, low), min(end, high))
                for begin, end in mine
                for low, high in theirs
                if max(begin, low) < min(end, high)
            )
            for mine, theirs in zip(self.spans, others.spans, strict=True)
        )
        return Evenings(spans, self.text)

    @property
    def longest_min(self) -> int:
        """Minutes of the longest evening."""
        return max((end - start for day in self.spans for start, end in day), default=0)

    def windows(self, start: datetime) -> Iterator[Window]:
        """Stretches of bench time from `start` on, in order, merged where they touch; three years of them."""
        midnight = datetime.combine(start.date(), time()) - timedelta(days=1)
        pending: Window | None = None
        for offset in range(_HORIZON.days):
            day = midnight + timedelta(days=offset)
            for begin, end in self.spans[day.weekday()]:
                window = Window(max(start, day + timedelta(minutes=begin)), day + timedelta(minutes=end))
                if window.end <= start:
                    continue
                if pending and window.start <= pending.end:
                    pending = Window(pending.start, max(pending.end, window.end))
                else:
                    if pending:
                        yield pending
                    pending = window
        if pending:
            yield pending


def parse_evenings(text: str) -> Evenings:
    """Read bench hours such as "mon-fri 19:00-21:30,sat 10:00-16:00"; "daily" means every day.

    Raises
    ------
    PlanError
        A part has another form, names an unknown day or an impossible time.
    """
    if len(text) > _LONGEST:
        raise PlanError(_("Evenings are a short line; found {0} letters.").format(len(text)))
    spans: list[list[tuple[int, int]]] = [[] for _unused in _DAYS]
    for part in text.lower().split(","):
        first, last, begin, end = _read_part(part.strip())
        index, stop = _DAYS.index(first), _DAYS.index(last)
        while True:
            spans[index].append((begin, end))
            if index == stop:
                break
            index = (index + 1) % 7
    return Evenings(tuple(tuple(sorted(day)) for day in spans), text)


def _read_part(part: str) -> tuple[str, str, int, int]:
    """First and last day of one part, and its minutes from midnight; an end past 1440 runs into the next day."""
    match = _FORM.fullmatch(part.replace("daily", "mon-sun").replace("every day", "mon-sun"))
    if match is None:
        raise PlanError(
            _('Evenings are written "mon-fri 19:00-21:30,sat 10:00-16:00"; found {0!r}.').format(part)
        )
    first, last, *clock = match.groups()
    days = [name[:3] for name in (first, last or first)]
    for day in days:
        if day not in _DAYS:
            raise PlanError(_("Days are mon, tue, wed, thu, fri, sat, sun; found {0!r}.").format(day))
    hours = [int(value) for value in clock]
    begin, end = hours[0] * 60 + hours[1], hours[2] * 60 + hours[3]
    if max(hours[1], hours[3]) > 59 or max(begin, end) > 1440:
        raise PlanError(_("There is no such time as in {0!r}.").format(part))
    if begin == end:
        raise PlanError(_("An evening needs a length; {0!r} has none.").format(part))
    return days[0], days[1], begin, end if end > begin else end + 1440


@dataclass(frozen=True)
class Hours:
    """One line of bench hours: on which days of the week, Monday first, from when to when in minutes from midnight."""

    days: tuple[bool, ...]
    begin: int
    end: int


def hours_of(evenings: Evenings) -> tuple[Hours, ...]:
    """Bench hours as lines, one for each pair of times, in the order of the week."""
    times = dict.fromkeys(span for day in evenings.spans for span in day)
    return tuple(Hours(tuple(span in day for day in evenings.spans), *span) for span in times)


def written_hours(lines: Sequence[Hours]) -> str:
    """Lines of bench hours as they are written, such as "mon-fri 19:00-21:30,sat 10:00-16:00".

    Raises
    ------
    PlanError
        No line has a day, or one begins when it ends.
    """
    parts = []
    for hours in lines:
        for first, last in _runs(hours.days):
            days = _DAYS[first] if first == last else f"{_DAYS[first]}-{_DAYS[last]}"
            parts.append(f"{days} {_clock(hours.begin)}-{_clock(hours.end)}")
    if not parts:
        raise PlanError(_("There is no hour at the bench. Give at least one day its hours."))
    text = ",".join(parts)
    parse_evenings(text)
    return text


def _runs(days: Sequence[bool]) -> Iterator[tuple[int, int]]:
    """First and last of each run of days."""
    first = None
    for index, on in enumerate([*days, False]):
        if on and first is None:
            first = index
        elif not on and first is not None:
            yield first, index - 1
            first = None


def _clock(minutes: int) -> str:
    return f"{minutes // 60 % 24:02d}:{minutes % 60:02d}" if minutes != 1440 else "24:00"
