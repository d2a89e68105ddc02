"""A laid job as open values: steps in order of time, coats of every zone, findings, offers, cups."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from lean_sepia.answers.amounts import at_one_go, cups_of
from lean_sepia.answers.plan import PlanAnswer, answer, ask
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.whole.laying_jobs import Laid
from lean_sepia.answers.working.mending import mend_of
from lean_sepia.answers.working.stretches import Stretch, stretches
from lean_sepia.document.called import title_of
from lean_sepia.document.check import plan_moment
from lean_sepia.document.serving import served, zones_of


def told(state: Laid) -> dict[str, Any]:
    """Everything that came of a job, under the ids of its file."""
    begin = plan_moment(state.project.plan_start)  # a job begins when it says, however long ago that is
    plan = answer(ask(state.project, begin and begin - timedelta(hours=1)))
    return {
        "steps": _steps(state, plan), "zones": _zones(state), "findings": _findings(state, plan), "offers": _offers(state, plan),
        "cups": _cups(state), "refused": [{"id": name, "message": message} for name, message in state.refused],
        "finish": _moment(plan.schedule.finish) if plan.schedule else None,
    }  # fmt: skip


def _steps(state: Laid, plan: PlanAnswer) -> list[dict[str, Any]]:
    """What is done without a break, in order of time: a sitting is one step of several parts, long work several steps of one entry."""
    return [_step(state, plan, stretch) for stretch in stretches(plan)]


def _moment(moment: datetime) -> str:
    return moment.isoformat(timespec="seconds")


def _step(state: Laid, plan: PlanAnswer, stretch: Stretch) -> dict[str, Any]:
    project = state.project
    first = project.step(stretch.lead.id)
    parts = []
    for name, (begin, end) in zip(stretch.ids, stretch.spans, strict=True):
        entries = state.entries_of(name) or [name]
        minutes = round((end - begin).total_seconds() / 60 / len(entries), 1)
        parts += [{"id": entry, "start": _moment(begin), "minutes": minutes} for entry in entries]
    lays = list(dict.fromkeys(entry for name in stretch.ids for entry in state.entries_of(name)))
    works_on = {
        entry
        for name in stretch.ids
        for step in served(project, project.step(name))
        for entry in state.entries_of(step)
    }
    zones = sorted({zone for name in stretch.ids for zone in zones_of(project, project.step(name))})
    return {
        "id": first.id if stretch.piece == 0 else f"{first.id}-{stretch.piece + 1}", "title": title_of(project, first),
        "kind": first.kind, "zones": [_zone(state, zone) for zone in zones], "lays": lays, "parts": parts,
        "serves": sorted(works_on - set(lays)), "start": _moment(stretch.start), "end": _moment(stretch.end),
        "ready": _moment(max(plan.placed[name].ready for name in stretch.ids)),
        "minutes": round((stretch.end - stretch.start).total_seconds() / 60, 1),
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
    for finding in plan.findings:
        mend = mend_of(state.project, finding)
        if mend is not None:
            turned = {_zone(state, zone): round(one.de00, 2) for zone, one in mend.turned.items()}
            offers.append(
                {
                    "code": finding.code,
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
