"""The one way to words: gettext, bound to the user's language when the program starts.

`_` translates a sentence, `ngettext` one that counts; `N_` only marks a word in a table, to be translated where it is shown.
"""

from __future__ import annotations

import gettext
import os
from datetime import datetime
from importlib.resources import files

_DOMAIN = "lean_sepia"
_current: gettext.NullTranslations | None = None


def use_language(translations: gettext.NullTranslations | None = None) -> None:
    """Speak through these translations; without any, through the catalogue of the environment's language, else English."""
    global _current
    if translations is None:
        wanted = [os.environ.get(name, "") for name in ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG")]
        languages = next((value for value in wanted if value), "").split(":")
        folder = str(files("lean_sepia") / "locale")
        translations = gettext.translation(_DOMAIN, folder, languages=languages, fallback=True)
    _current = translations


def spoken() -> gettext.NullTranslations:
    """The translations that are spoken through: what keeps sentences keeps them by these."""
    if _current is None:
        use_language()
    assert _current is not None
    return _current


def _(words: str) -> str:
    """A sentence in the user's language."""
    return spoken().gettext(words) if words else ""


def ngettext(one: str, many: str, count: int) -> str:
    """The form of a counted sentence that the language wants for this number."""
    return spoken().ngettext(one, many, count)


def N_(words: str) -> str:  # noqa: N802 - the usual name of the marker
    """Mark words for the catalogue without translating them yet."""
    return words


_DAYS = (N_("Mon"), N_("Tue"), N_("Wed"), N_("Thu"), N_("Fri"), N_("Sat"), N_("Sun"))
_LONG_DAYS = (
    N_("Monday"), N_("Tuesday"), N_("Wednesday"), N_("Thursday"), N_("Friday"), N_("Saturday"), N_("Sunday"),
)  # fmt: skip


def month_name(number: int) -> str:
    """A month by its number, 1 to 12; the number itself where it is none."""
    return _(_MONTHS[number - 1]) if 1 <= number <= len(_MONTHS) else str(number)


_MONTHS = (
    N_("January"), N_("February"), N_("March"), N_("April"), N_("May"), N_("June"), N_("July"), N_("August"),
    N_("September"), N_("October"), N_("November"), N_("December"),
)  # fmt: skip


def clock(moment: datetime) -> str:
    """The time of day, such as "19:05"."""
    return f"{moment:%H:%M}"


def day(moment: datetime) -> str:
    """A day in a few letters, such as "Mon 30 November"."""
    return _("{0} {1} {2}").format(_(_DAYS[moment.weekday()]), moment.day, _(_MONTHS[moment.month - 1]))


def weekday(moment: datetime) -> str:
    """The day of the week in a few letters."""
    return _(_DAYS[moment.weekday()])


def weekday_and_time(moment: datetime) -> str:
    """A moment within the week, such as "Mon 19:05"."""
    return _("{0} {1}").format(_(_DAYS[moment.weekday()]), clock(moment))


def day_and_time(moment: datetime) -> str:
    """A moment as people say it, such as "Monday 30 November, 19:05"."""
    said = _("{0} {1} {2}, {3}")
    return said.format(
        _(_LONG_DAYS[moment.weekday()]), moment.day, _(_MONTHS[moment.month - 1]), clock(moment)
    )


def signed(value: float, decimals: int = 0) -> str:
    """A number with its sign and a true minus; nothing has no sign.

    >>> signed(-3.2), signed(-0.2), signed(1.25, 1)
    ('−3', '0', '+1.2')
    """
    said = f"{value:+.{decimals}f}".replace("-", "−")
    return said if said.strip("+−0.") else said[1:]


def plain(value: float, decimals: int = 0) -> str:
    """A number with a true minus, a plus left out; nothing has no sign."""
    return signed(value, decimals).lstrip("+")
