"""One coat laid in a plan of 60 steps, of every kind on one zone and on the whole model, against checking that plan once."""

from __future__ import annotations

import time
from statistics import median

from benchmarks.figure import report
from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.mixes import NOTHING_MIXED, Manner, Mix
from lean_sepia.document.edits.steps import add_step
from lean_sepia.document.edits.zones import NewZone, add_zones
from lean_sepia.document.model import Project
from lean_sepia.document.work import plan_steps
from lean_sepia.errors import EditError
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.rules.table import check_plan

_STEPS, _LIMIT_MS = 60, 100.0
_KINDS = (
    "primer", "base", "preshade", "camouflage", "tone", "fade", "gloss-coat", "marking", "filter", "oil-dots", "wash", "pin-wash",
    "chips", "streaks", "matte-coat", "dust", "powder",
)  # fmt: skip


def _mix(kind: str) -> Mix:
    colour = KINDS[kind].covers not in ("varnish", "nothing", "taken")
    return Mix(lab=(45.0, 20.0, 25.0), medium=KINDS[kind].medium) if colour else NOTHING_MIXED


def crowded() -> Project:
    """A project of 60 steps on six zones, all painted and weathered, with a mask and what is drawn out."""
    project, zones = add_zones(Project(title="Crowded"), [NewZone(f"Zone {n}", 60.0) for n in range(6)])
    turn = [(kind, zone) for kind in _KINDS for zone in zones]
    for kind, zone in turn:
        if len(project.steps) >= _STEPS:
            break
        project, _coat = lay(
            project, [zone], kind, _mix(kind), Manner(1, area_share=0.05 if KINDS[kind].in_spots else 1.0)
        )
    while len(project.steps) < _STEPS:
        project, _step = add_step(project, "other", place=len(project.steps))
    return project


def main() -> bool:
    """The slowest of all kinds below 100 ms; how much of a check of the plan it is stands beside."""
    project = crowded()
    steps = plan_steps(project)
    checks = []
    for _round in range(9):
        begin = time.perf_counter()
        check_plan(steps, project.schools)
        checks.append(1e3 * (time.perf_counter() - begin))
    slowest, name = 0.0, ""
    every = tuple(zone.id for zone in project.zones)
    for kind in _KINDS:
        for zones in (every[:1], every):
            begin = time.perf_counter()
            try:
                lay(project, zones, kind, _mix(kind), Manner(1))
            except EditError:
                continue
            took = 1e3 * (time.perf_counter() - begin)
            slowest, name = max((slowest, name), (took, f"{kind} on {len(zones)} zones"))
    check = median(checks)
    return report(
        f"laying one coat in a plan of {len(steps)} steps, the slowest of all kinds", slowest / check, _LIMIT_MS / check, "a check of the plan",
        f"[{name}: {slowest:.0f} ms (goal {_LIMIT_MS:.0f}) against {check:.1f} ms]",
    )  # fmt: skip
