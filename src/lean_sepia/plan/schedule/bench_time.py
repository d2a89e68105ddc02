"""The hands' calendar in minutes: evenings, less what is already placed in them.

Time runs in real minutes from the start of the plan, so a night in which the clocks change is an hour shorter or longer, as a
drying film finds it; what people read is the time on the wall.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right, insort
from dataclasses import dataclass, field
from datetime import datetime

from lean_sepia.errors import PlanError
from lean_sepia.language import _
from lean_sepia.plan.hours.evenings import Evenings
from lean_sepia.plan.hours.wall_clock import later, minutes_between


@dataclass(frozen=True)
class WallClock:
    """Minutes since the start of a plan, to and from the time on the wall where the program runs."""

    start: datetime

    def minutes(self, moment: datetime) -> float:
        """Real minutes from the start to a time on the wall."""
        return minutes_between(self.start, moment)

    def moment(self, minutes: float) -> datetime:
        """The time on the wall so many real minutes after the start."""
        return later(self.start, minutes)


class Hours:
    """Stretches of time in which something can be done, read as far as they are asked for."""

    def __init__(self, evenings: Evenings, clock: WallClock) -> None:
        self._source = evenings.windows(clock.start)
        self._clock = clock
        self.begins: list[float] = []
        self.ends: list[float] = []

    def __getitem__(self, index: int) -> tuple[float, float]:
        while len(self.ends) <= index:
            window = next(self._source, None)
            if window is None:
                raise PlanError(
                    _("The plan does not end within three years of these evenings. Add bench time.")
                )
            self.begins.append(self._clock.minutes(window.start))
            self.ends.append(self._clock.minutes(window.end))
        return self.begins[index], self.ends[index]

    def first_after(self, moment: float) -> int:
        """Index of the first stretch that ends after a moment, as far as they were read."""
        return bisect_left(self.ends, moment)


@dataclass
class Bench:
    """What the hands do when, sorted by time."""

    begins: list[float] = field(default_factory=list)
    busy: list[tuple[float, float, int]] = field(default_factory=list)

    def copy(self) -> Bench:
        """The same, to be filled on."""
        return Bench(list(self.begins), list(self.busy))

    def earliest(self, hours: Hours, bound: float, length: float) -> tuple[float, int | None]:
        """First start at or after `bound` that fits whole into a stretch of time, and the step that was in the way."""
        blocker = None
        index = hours.first_after(bound)
        while True:
            begin, end = hours[index]
            index += 1
            moment = max(bound, begin)
            if moment + length > end + _SLACK:
                continue
            moment, blocking = self._past_what_is_busy(moment, length, end)
            blocker = blocker if blocking is None else blocking
            if moment + length <= end + _SLACK:
                return moment, blocker

    def _past_what_is_busy(self, moment: float, length: float, limit: float) -> tuple[float, int | None]:
        blocker = None
        place = max(0, bisect_right(self.begins, moment) - 1)
        for begin, end, step in self.busy[place:]:
            if begin >= limit or begin >= moment + length - _SLACK:
                break
            if end > moment + _SLACK:
                moment, blocker = end, step
        return moment, blocker

    def take(self, start: float, length: float, step: int) -> None:
        """Mark the hands as busy."""
        if length:
            insort(self.begins, start)
            insort(self.busy, (start, start + length, step))


_SLACK = 1e-6
