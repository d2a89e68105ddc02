"""Real minutes on the time of the wall: a night in which the clocks change is an hour shorter or longer, as a drying film finds it.

A moment on the wall carries no zone; of the hour that comes twice in autumn `fold` says which it is (PEP 495).
"""

from __future__ import annotations

from datetime import datetime


def later(moment: datetime, minutes: float) -> datetime:
    """The time on the wall so many real minutes after a moment on the wall."""
    return datetime.fromtimestamp(round(moment.timestamp() + 60 * minutes, 3))


def minutes_between(start: datetime, end: datetime) -> float:
    """Real minutes from one moment on the wall to another."""
    return (end.timestamp() - start.timestamp()) / 60


def written(moment: datetime) -> str:
    """A moment on the wall as a document keeps it: to the second, with its offset only where the wall says it twice."""
    plain = datetime.fromtimestamp(
        moment.timestamp()
    )  # a time that the wall leaves out in spring becomes one it has
    return (plain.astimezone() if plain.fold else plain).isoformat(timespec="seconds")


def read_written(text: str) -> datetime:
    """A moment that `written` wrote, on the wall of here.

    Raises
    ------
    ValueError
        It is none.
    """
    moment = datetime.fromisoformat(text)
    return moment if moment.tzinfo is None else datetime.fromtimestamp(moment.timestamp())
