"""Writes docs/rules.md from the table of rules and the table of waits."""

from __future__ import annotations

from pathlib import Path

from lean_sepia.paint.media import MEDIA
from lean_sepia.plan.rules.table import RULES
from lean_sepia.plan.schools import SCHOOLS
from lean_sepia.plan.waits.pair import Wait
from lean_sepia.plan.waits.table import PAIRS

PAGE = Path(__file__).parent.parent / "docs" / "rules.md"
_HEAD = """# What the plan checks

This page is made from the program's own tables (`python -m scripts.rules_page`). Each finding has a code, a severity (`stop`, `warn`, `note`), the
step where it happens and the earlier step it concerns. The rules are common practice without a published source. A note marks what schools
differ on, or what is honest to say of sound work. What lies below a step counts by zone, film, share of the area, medium, age and tool: a full coat or a
varnish shuts off what is under it; chips, streaks, glazes and mists do not.

In the program a finding can be mended with one click where a move or another step ends it, and a finding that is meant stays quiet once a
reason was given.

| code | severity | about | what helps | silent with |
|---|---|---|---|---|
"""
_TIMES = """
`not-cured`, `mask-before-cure` and `too-late` need dates. Steps may carry `start` and `end`; with `--start` and `--evenings` the steps without dates are
taken as done straight through, one after the other, in those evenings: the findings say where waiting is needed. `plan schedule` waits by
itself.

## Waits

What counts is the pair: what lies below and what comes next. The first line that means both decides; what no line means waits until it has set, or for the
full cure of the medium below ({0}). A project's own logged times come first, times
given for a step next, and those hold for all that comes later on its zones: `touch_dry_min` for paint of the same medium, `full_cure_min` for all else. The table's
times hold for what lies on a film while it lies open. One factor lengthens the table's times for thick
coats, cold and damp. All are common practice without a source.

| pair | not before | late after | closed after |
|---|---|---|---|
"""
_FOOT = """
## The schedule

One pair of hands. Hands-on time runs only inside evenings and a step is not split; waits run in real time, also through a change of the clocks. Steps that
share a zone keep the file's order, `after` adds to it, others may interleave; a mask, the sprayed steps that the file puts under it, and the step that takes it
off keep their order whatever their zones. What works on a step, such as blending, is placed so that its second clock is kept where the evenings allow. A plan
of up to ten steps is searched through completely; a larger one starts from three priorities (earliest start, longest tail, file order) and is changed as
long as that helps. Of equal finishes the one with fewer changes of colour in the airbrush is taken. `ready` is the end plus the longest wait that a
following step needs, or the full cure where none follows (a filter is ready after 6 h). The critical path is walked back from the finish through whatever set each
start: a wait, or the hands being busy.

## Placing

A step that is added lands where its phase and the schools put it, and of all places where least speaks against it. *Put in order* moves steps that were not
placed by hand until nothing is left that an order could avoid. Nothing is ever put below the coat that is to be its ground.
"""


def page() -> str:
    """The page as it should be."""
    rules = "".join(
        f"| `{rule.code}` | {' or '.join(rule.severities)} | {rule.why} | {rule.remedy} | {_schools(rule.silent)} |\n"
        for rule in RULES
    )
    waits = (wait for pair in PAIRS for wait in pair.waits() if wait.words != "nothing to wait for")
    cures = ", ".join(f"{medium.words} {_span(medium.full_cure_min)}" for medium in MEDIA.values())
    return _HEAD + rules + _TIMES.format(cures) + "".join(dict.fromkeys(map(_line, waits))) + _FOOT


def _schools(silent: tuple[tuple[str, tuple[str, ...]], ...]) -> str:
    return "; ".join(
        f"{SCHOOLS[question].words}: {', '.join(SCHOOLS[question].choices[choice].words for choice in choices)}"
        for question, choices in silent
    )


def _line(wait: Wait) -> str:
    return f"| {wait.words} | {_span(wait.not_before)} | {_span(wait.late)} | {_span(wait.closed)} |\n"


def _span(minutes: float | None) -> str:
    if minutes is None:
        return ""
    if minutes < 90:
        return f"{minutes:g} min"
    return f"{minutes / 60:g} h" if minutes < 2880 else f"{minutes / 1440:g} days"


if __name__ == "__main__":
    PAGE.write_text(page(), encoding="utf-8")
