"""The order of work: `plan check` and `plan schedule`."""

from __future__ import annotations

from dataclasses import asdict

import click

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.commands.given import parse_moment
from lean_sepia.errors import BadInputError
from lean_sepia.language import _, clock, day, day_and_time, weekday_and_time

# The core is imported inside the commands: help and the window start without it.


@click.group("plan")
def plan_group() -> None:
    """Check the order of work, or put it on a calendar."""


@plan_group.command("check")
@click.argument("file")
@click.option("--start", metavar="ISO")
@click.option("--evenings", metavar='"mon-fri 19:00-21:30,..."')
@json_option
def plan_check(file: str, start: str | None, evenings: str | None, as_json: bool) -> None:
    """Find what one step would do to the others."""
    from lean_sepia.plan.hours.evenings import parse_evenings
    from lean_sepia.plan.plan_file import read_plan
    from lean_sepia.plan.rules.finding import SEVERITY_WORDS
    from lean_sepia.plan.rules.table import check_plan
    from lean_sepia.plan.schedule.build import lay_without_waiting

    if (start is None) != (evenings is None):
        raise BadInputError(_("--start and --evenings go together: give both or neither."))
    plan = read_plan(file)
    steps = list(plan.steps)
    if start is not None and evenings is not None:
        steps = lay_without_waiting(steps, parse_moment(start), parse_evenings(evenings))
    findings = check_plan(steps, plan.schools, plan.drying)

    def words() -> str:
        return "\n".join(f"{_(SEVERITY_WORDS[f.severity])}: {f.message} [{f.code}]" for f in findings) or _(
            "Nothing found against this order."
        )

    print_answer({"findings": [asdict(finding) for finding in findings]}, as_json, words)


@plan_group.command("schedule")
@click.argument("file")
@click.option("--start", required=True, metavar="ISO")
@click.option("--evenings", required=True, metavar='"mon-fri 19:00-21:30,..."')
@click.option("--calendar", metavar="OUT.ics", help="Also write the schedule as a calendar file.")
@json_option
def plan_schedule(file: str, start: str, evenings: str, calendar: str | None, as_json: bool) -> None:
    """Place every step in the evenings there are."""
    from lean_sepia.plan.hours.evenings import parse_evenings
    from lean_sepia.plan.plan_file import read_plan
    from lean_sepia.plan.schedule.build import build_schedule

    plan = read_plan(file)
    steps = plan.steps
    schedule = build_schedule(steps, parse_moment(start), parse_evenings(evenings), plan.drying)
    if calendar is not None:
        from lean_sepia.report.calendar_file import write_calendar

        write_calendar(steps, schedule, calendar)
    answer = {
        "steps": [
            {"id": s.id, "start": s.start.isoformat(), "end": s.end.isoformat(), "ready": s.ready.isoformat()}
            for s in schedule.steps
        ],
        "finish": schedule.finish.isoformat(),
        "critical_path": list(schedule.critical_path),
    }
    titles = {step.id: step.name for step in steps}

    def words() -> str:
        lines = [
            _("{0}, {1} – {2}  {3} (ready {4})").format(
                day(s.start), clock(s.start), clock(s.end), titles[s.id], weekday_and_time(s.ready)
            )
            for s in schedule.steps
        ]
        return "\n".join(
            [*lines, _("Finished {0}, {1}.").format(day_and_time(schedule.finish), schedule.finish.year)]
        )

    print_answer(answer, as_json, words)


@click.command()
@click.argument("file")
@click.option("--shelf", required=True)
@click.option("--out", metavar="X.sepia", help="Also keep it as a project.")
@json_option
def job(file: str, shelf: str, out: str | None, as_json: bool) -> None:
    """Lay a whole job from an open file, and say what comes of it."""
    from lean_sepia.answers.whole.job_file import parse_job
    from lean_sepia.answers.whole.laying_jobs import lay_job
    from lean_sepia.answers.whole.told import told
    from lean_sepia.files.gate import read_json
    from lean_sepia.shelf.shelf_file import read_shelf

    bottles = [paint for paint in read_shelf(shelf).paints() if not paint.retired]
    state = lay_job(parse_job(read_json(file, _("The job"), BadInputError)), bottles)
    if out is not None:
        from pathlib import Path

        from lean_sepia.document.store import ProjectStore

        if Path(out).exists():
            raise BadInputError(_("{0} is there already. Name another file.").format(out))
        ProjectStore.create(Path(out), state.project).close()
    answer = told(state)

    def words() -> str:
        lines = [
            _("{0}  {1}, {2:.0f} min: {3}").format(
                s["start"][:16].replace("T", " "), s["title"], s["minutes"], ", ".join(s["lays"])
            )
            for s in answer["steps"]
        ]
        lines += [f"{f['severity']}: {f['message']} [{f['code']}]" for f in answer["findings"]]
        lines += [_("refused: {0}: {1}").format(r["id"], r["message"]) for r in answer["refused"]]
        return "\n".join(lines)

    print_answer(answer, as_json, words)
