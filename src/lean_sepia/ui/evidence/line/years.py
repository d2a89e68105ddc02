"""Where dates and spans of years lie on the dated line, and how photos are hung above it without covering each other."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from lean_sepia.document.dates import date_span
from lean_sepia.document.model import Photo, Project
from lean_sepia.errors import EditError
from lean_sepia.language import _, month_name

_DAYS = 365.2425
_FEWEST_YEARS, _LONGEST_GAP = 6, 25


@dataclass(frozen=True)
class Span:
    """A livery's years, by name."""

    name: str
    begin: float
    end: float


def span_of(text: str) -> tuple[float, float] | None:
    """A date as years with fractions, such as 1957.0 to 1958.0; None of an empty or strange one."""
    try:
        found = date_span(text)
    except EditError:
        return None
    return None if found is None else (_year(found[0]), _year(found[1]))


def _year(day: date) -> float:
    return day.year + (day - date(day.year, 1, 1)).days / _DAYS


def liveries(project: Project) -> list[Span]:
    """The liveries whose years are known, from schemes and, where no scheme has its name, from the models."""
    named = {scheme.name: (scheme.worn_from, scheme.worn_to) for scheme in project.schemes}
    for subject in project.subjects:
        if subject.livery:
            named.setdefault(subject.livery, (subject.livery_from, subject.livery_to))
    found = []
    for name, (begins, ends) in named.items():
        begin, end = span_of(begins), span_of(ends)
        if begin and end:
            found.append(Span(name, begin[0], end[1]))
    return sorted(found, key=lambda span: span.begin)


def years_shown(photos: Sequence[Photo], spans: Sequence[Span]) -> tuple[int, int] | None:
    """First and last year of the line; None where no date is known. Photos of the model do not count, nor what lies far off."""
    dates = [span for photo in photos if not photo.of_model and (span := span_of(photo.date))]
    ends = sorted(
        [end for span in dates for end in span] + [end for span in spans for end in (span.begin, span.end)]
    )
    if not ends:
        return None
    kept = [ends[0]]
    for end in ends[1:]:
        if end - kept[-1] > _LONGEST_GAP:
            break
        kept.append(end)
    first, last = int(kept[0]) - 1, int(kept[-1]) + 1
    short = max(0, _FEWEST_YEARS - (last - first))
    return first - short // 2, last + (short + 1) // 2


def hung(wanted: Sequence[float], width: float, room: float) -> list[float]:
    """Left edges for things of a width that would be centred at places (in rising order), moved apart until none covers another."""
    if not wanted:
        return []
    lefts = [place - width / 2 for place in wanted]
    for index in range(1, len(lefts)):
        lefts[index] = max(lefts[index], lefts[index - 1] + width)
    over = lefts[-1] + width - room
    if over > 0:
        lefts[-1] -= over
        for index in range(len(lefts) - 2, -1, -1):
            lefts[index] = min(lefts[index], lefts[index + 1] - width)
    if lefts[0] < 0:  # more than there is room for: side by side
        return [index * width for index in range(len(lefts))]
    return lefts


def said_date(text: str) -> str:
    """A photo's date as people say it: September 1957, 1956 to 1958."""
    first, _stroke, last = text.strip().partition("/")
    if last:
        return _("{0} to {1}").format(said_date(first), said_date(last))
    parts = first.split("-")
    try:
        numbers = [int(part) for part in parts]
    except ValueError:
        return text
    if len(numbers) == 3:
        return _("{0} {1} {2}").format(numbers[2], month_name(numbers[1]), numbers[0])
    if len(numbers) == 2:
        return _("{0} {1}").format(month_name(numbers[1]), numbers[0])
    return first
