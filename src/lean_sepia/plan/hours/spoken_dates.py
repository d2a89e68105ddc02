"""Dates and times as people write them: "tomorrow 19:00", "Sat 10:00", "30 Nov", "30.11. 7 pm", "2026-11-30T19:00"."""

from __future__ import annotations

import re
from datetime import date, datetime, time, timedelta

from lean_sepia.errors import PlanError
from lean_sepia.language import _, month_name, weekday
from lean_sepia.plan.hours.evenings import YEARS, in_our_time

_USUAL = time(19)
_LONGEST = 60
_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_WEEK = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
_TIME = re.compile(r"(?<![\d.:-])([0-2]?\d)(?:[:.]([0-5]\d))?\s*(am|pm|h|o'clock|:)?(?![\d.:-])")
_ISO = re.compile(r"(\d{4})-(\d{1,2})-(\d{1,2})")
_DOTTED = re.compile(r"\b(\d{1,2})[./](\d{1,2})(?:[./](\d{4})?)?(?=\s|,|$)")
_NAMED = re.compile(r"\b(\d{1,2})\.?\s+([a-zà-ÿ]{3,})\.?(?:\s+(\d{4}))?")
_NAMED_FIRST = re.compile(
    r"\b([a-zà-ÿ]{3,})\.?\s+(\d{1,2})(?:st|nd|rd|th)?(?!\s*:|\s*(?:am|pm|h)\b)(?:,?\s+(\d{4}))?"
)


def parse_spoken(text: str, now: datetime) -> datetime:
    """The moment a text names, seen from now; without a time of day seven in the evening, without a year the next such day.

    Raises
    ------
    PlanError
        Nothing can be made of it.
    """
    said = " ".join(text.casefold().split())
    if not said or len(said) > _LONGEST:
        raise PlanError(_fault(text))
    try:
        moment = datetime.fromisoformat(text.strip())
    except ValueError:
        pass
    else:
        if "t" in said or ":" in said:
            return _checked(moment.replace(tzinfo=None), text)
    try:
        day, rest = _day(said, now.date())
        return _checked(datetime.combine(day, _time(rest)), text)
    except ValueError:
        raise PlanError(_fault(text)) from None


def _checked(moment: datetime, text: str) -> datetime:
    if not in_our_time(moment):
        raise PlanError(_("A plan lies in the years {0} to {1}; found {2!r}.").format(*YEARS, text))
    return moment


def _fault(text: str) -> str:
    return _(
        'A date is written "tomorrow 19:00", "Sat 10:00", "30 Nov 19:00" or "2026-11-30 19:00"; found {0!r}.'
    ).format(text[:40])


def _day(said: str, today: date) -> tuple[date, str]:
    """The day that is named, and what is left of the text."""
    for words, ahead in (
        (_("today"), 0),
        (_("tonight"), 0),
        (_("tomorrow"), 1),
        ("today", 0),
        ("tonight", 0),
        ("tomorrow", 1),
    ):
        if said.startswith(words.casefold()):
            return today + timedelta(days=ahead), said[len(words) :]
    if found := _ISO.search(said):
        return date(*(int(part) for part in found.groups())), _without(said, found)
    if found := _DOTTED.search(said):
        return _next(int(found[1]), int(found[2]), found[3], today), _without(said, found)
    if (found := _NAMED.search(said)) and (month := _month(found[2])):
        return _next(int(found[1]), month, found[3], today), _without(said, found)
    if (found := _NAMED_FIRST.search(said)) and (month := _month(found[1])):
        return _next(int(found[2]), month, found[3], today), _without(said, found)
    for number, names in enumerate(_weekdays()):
        for name in names:
            if re.match(rf"{re.escape(name)}[a-zà-ÿ]*\b", said):
                ahead = (number - today.weekday()) % 7
                return today + timedelta(days=ahead), re.sub(r"^[a-zà-ÿ]+\.?", "", said)
    raise ValueError(said)


def _without(said: str, found: re.Match[str]) -> str:
    return f"{said[: found.start()]} {said[found.end() :]}"


def _weekdays() -> list[tuple[str, ...]]:
    monday = datetime(2029, 1, 1)
    return [
        (weekday(monday + timedelta(days=number)).casefold(), english) for number, english in enumerate(_WEEK)
    ]


def _month(name: str) -> int | None:
    for number in range(1, 13):
        here = month_name(number).casefold()
        if name[:3] == _MONTHS[number - 1] or (len(name) >= 3 and here.startswith(name)):
            return number
    return None


def _next(day: int, month: int, year: str | None, today: date) -> date:
    if year:
        return date(int(year), month, day)
    found = date(today.year, month, day)
    return found if found >= today - timedelta(days=31) else date(today.year + 1, month, day)


def _time(rest: str) -> time:
    found = _TIME.search(rest)
    if found is None:
        if re.search(r"\d", rest):
            raise ValueError(rest)
        return _USUAL
    hour, minute = int(found[1]), int(found[2] or 0)
    if found[3] == "pm" and hour < 12:
        hour += 12
    elif found[3] == "am" and hour == 12:
        hour = 0
    return time(hour, minute)
