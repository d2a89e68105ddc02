"""The clocks that run since steps were done: what is ready, what closes, what to look at again."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from datetime import datetime

from lean_sepia.answers.bench import Timer
from lean_sepia.language import _, weekday_and_time
from lean_sepia.plan.hours.wall_clock import minutes_between
from lean_sepia.ui.kit.panel import label, row
from lean_sepia.ui.kit.rows import Item, Rows

_SHOWN = 5
_OLD_MIN = 12 * 60


class ClockRows(Rows):
    """The next few clocks, counted down to the second in their last hour; those that have run out are told once."""

    def __init__(self, tell: Callable[[str, str], object]) -> None:
        self._tell = tell
        self._timers: tuple[Timer, ...] = ()
        self._told: set[str] = set()
        self._labels: list[tuple[Timer, object]] = []
        super().__init__(spacing=8)

    def show_timers(self, timers: Sequence[Timer], now: datetime) -> None:
        """Show clocks; what ran out before they were first seen is not told any more."""
        known = {timer.key for timer in self._timers}
        self._told |= {timer.key for timer in timers if _is_past(timer, now) and timer.key not in known}
        self._timers = tuple(timers)
        self._draw(now)

    def _draw(self, now: datetime) -> None:
        self._labels = []
        self.fill(self._items(now))

    def _items(self, now: datetime) -> Iterator[Item]:
        shown = [t for t in self._timers if not _is_past(t, now)][:_SHOWN]
        passed = [
            t for t in self._timers if -_OLD_MIN < minutes_between(now, t.moment) <= 0 and t.kind == "ready"
        ][-1:]
        for timer in [*passed, *shown]:
            past = _is_past(timer, now)
            figure = label(left_words(timer.moment, now), "title")
            self._labels.append((timer, figure))
            yield row(figure, None, label(weekday_and_time(timer.moment), "second"))
            yield label(timer.over if past else timer.words, "second", wrap=True)
        if not shown and not passed:
            yield label(
                _("No clock runs. They start when a step is done, and go on while the program is closed."),
                "second",
                wrap=True,
            )

    def tick(self, now: datetime) -> None:
        """A second has passed: count down, and tell what has run out."""
        due = [timer for timer in self._timers if _is_past(timer, now) and timer.key not in self._told]
        for timer in due:
            self._told.add(timer.key)
            self._tell(_KIND_WORDS[timer.kind](), timer.over)
        if due:
            self._draw(now)
            return
        for timer, figure in self._labels:
            words = left_words(timer.moment, now)
            if figure.text() != words:  # type: ignore[attr-defined]
                figure.setText(words)  # type: ignore[attr-defined]


_KIND_WORDS: dict[str, Callable[[], str]] = {
    "ready": lambda: _("Ready"), "closes": lambda: _("The time to work on it is over"), "look": lambda: _("Look again"),
}  # fmt: skip


def _is_past(timer: Timer, now: datetime) -> bool:
    return minutes_between(now, timer.moment) <= 0


def left_words(moment: datetime, now: datetime) -> str:
    """How long it is until a moment, to the second in the last hour."""
    seconds = int(60 * minutes_between(now, moment))
    if seconds <= 0:
        return _("now")
    if seconds < 3600:
        return f"{seconds // 60}:{seconds % 60:02d}"
    if seconds < 48 * 3600:
        return _("{0} h {1}").format(seconds // 3600, f"{seconds // 60 % 60:02d}")
    return _("{0} days").format(round(seconds / 86400))
