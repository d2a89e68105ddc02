"""A laid job as open values: steps in order of time, coats of every zone, findings, offers, cups."""

from __future__ import annotations

from typing import Any

from lean_sepia.answers.amounts import at_one_go, cups_of
from lean_sepia.answers.plan import PlanAnswer, answer, ask
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.whole.laying_jobs import Laid
from lean_sepia.answers.working.mending import mend_of
from lean_sepia.document.called import title_of
from lean_sepia.document.serving import served, zones_of
from lean_sepia.plan.schedule.build import Placed


def told(state: Laid) -> dict[str, Any]:
    """Everything that came of a job, under the ids of its file."""
    plan = answer(ask(state.project))
    return {
        "steps": _steps(state, plan), "zones": _zones(state), "findings": _findings(state, plan), "offers": _offers(state, plan),
        "cups": _cups(state), "refused": [{"id": name, "message": message} for name, message in state.refused],
        "finish": plan.schedule.finish.isoformat() if plan.schedule else None,
    }  # fmt: skip


def _steps(state: Laid, plan: PlanAnswer) -> list[dict[str, Any]]:
    """What is done without a break, in order of time: a sitting is one step of several parts, long work several steps of one entry."""
    if plan.schedule is None:
        return []
    project = state.project
    by_id = {step.id: step for step in project.steps}
    blocks: dict[tuple[str, int], list[tuple[Placed, int]]] = {}
    for one in plan.schedule.steps:
        named = by_id[one.id].sitting
        for number in range(len(one.parts)):
            key = (f"sitting {named}", number) if named else (one.id, number)
            blocks.setdefault(key, []).append((one, number))
    made: list[dict[str, Any]] = []
    for key, members in blocks.items():
        members.sort(key=lambda member: member[0].parts[member[1]][0])
        made.extend(_step(state, key, run) for run in _runs(members))
    return sorted(made, key=lambda step: (step["start"], step["end"]))


def _runs(members: list[tuple[Placed, int]]) -> list[list[tuple[Placed, int]]]:
    """Members that follow each other without a break."""
    runs: list[list[tuple[Placed, int]]] = []
    for one, number in members:
        last = runs[-1][-1] if runs else None
        if last is not None and abs((one.parts[number][0] - last[0].parts[last[1]][1]).total_seconds()) < 1:
            runs[-1].append((one, number))
        else:
            runs.append([(one, number)])
    return runs


def _step(state: Laid, key: tuple[str, int], members: list[tuple[Placed, int]]) -> dict[str, Any]:
    project = state.project
    first = project.step(members[0][0].id)
    lays = [name for one, _number in members for name in state.entries_of(one.id)]
    spans = [one.parts[number] for one, number in members]
    parts = []
    for one, (begin, end) in zip([m[0] for m in members], spans, strict=True):
        entries = state.entries_of(one.id) or [one.id]
        minutes = (end - begin).total_seconds() / 60
        parts += [
            {"id": name, "start": begin.isoformat(), "minutes": round(minutes / len(entries), 1)}
            for name in entries
        ]
    works_on = {
        name
        for one, _number in members
        for step in served(project, project.step(one.id))
        for name in state.entries_of(step)
    }
    zones = sorted({zone for one, _number in members for zone in zones_of(project, project.step(one.id))})
    return {
        "id": first.id if key[1] == 0 else f"{first.id}-{key[1] + 1}", "title": title_of(project, first), "kind": first.kind,
        "zones": [_zone(state, zone) for zone in zones], "lays": list(dict.fromkeys(lays)), "parts": parts,
        "serves": sorted(works_on - set(lays)), "start": spans[0][0].isoformat(), "end": spans[-1][1].isoformat(),
        "ready": max(one.ready for one, _number in members).isoformat(),
        "minutes": round(sum((end - begin).total_seconds() for begin, end in spans) / 60, 1),
    }  # fmt: skip


def _zone(state: Laid, zone: str) -> str:
    return next(name for name, own in state.zones.items() if own == zone)


def _entry_of_coat(state: Laid, coat: str) -> str | None:
    return next((name for name, coats in state.coats_of.items() if coat in coats), None)


def _zones(state: Laid) -> list[dict[str, Any]]:
    answer = []
    for name, zone in state.zones.items():
        cut = strata_of(state.project, zone)
        coats, layers = [], 0
        for band in cut.bands:
            entry = _entry_of_coat(state, band.coat.id)
            if band.coat.nature.is_found and entry is None:
                layers += 1
                entry = f"found-{layers}"
            coats.append({"id": entry or band.coat.id, "kind": band.coat.kind, "lab": band.lab})
        answer.append(
            {"id": name, "coats": coats, "fresh": cut.fresh, "exposed": cut.exposed, "seen": cut.seen}
        )
    return answer


def _findings(state: Laid, plan: PlanAnswer) -> list[dict[str, Any]]:
    return [
        {
            "code": one.code, "severity": one.severity, "step": one.step, "after": one.after,
            "entries": [name for step in (one.step, one.after) if step for name in state.entries_of(step)], "message": one.message,
        }
        for one in plan.findings
    ]  # fmt: skip


def _offers(state: Laid, plan: PlanAnswer) -> list[dict[str, Any]]:
    offers = []
    for one in plan.findings:
        mend = mend_of(state.project, one)
        if mend is not None:
            turned = {_zone(state, zone): round(away, 2) for zone, away in mend.turned.items()}
            offers.append(
                {
                    "code": one.code,
                    "words": mend.words,
                    "keeps": not turned,
                    "asks": bool(turned),
                    "de00": turned,
                }
            )
    return [offer for i, offer in enumerate(offers) if offer not in offers[:i]]


def _cups(state: Laid) -> list[dict[str, Any]]:
    """Every cup once, for all the entries that are laid from it."""
    cups = []
    for coats in at_one_go(state.project):
        for cup in cups_of(state.project, coats):
            names = {_entry_of_coat(state, coat.id) for coat in cup.coats}
            cups.append(
                {
                    "name": cup.name, "for": sorted(name for name in names if name), "paint_ml": round(cup.paint_ml, 3),
                    "thinner_ml": round(cup.thinner_ml, 3), "reserve_ml": round(cup.reserve_ml, 3),
                }
            )  # fmt: skip
    return cups
