"""In which turn the entries of a job are laid, and what each works on where nobody says: every entry is read before the first is laid."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from lean_sepia.answers.whole.job_file import Entry, JobFile, On
from lean_sepia.document.serving import serving_kinds
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.placing import phase
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.traits.kind import Kind


def in_turn(job: JobFile) -> list[Entry]:
    """The entries in the order they are laid.

    By phase, what works on others after them, what names a place after what it names; a resist once the coats are known that it
    comes between; then masks, and what takes them or a resist off, once it is known what is sprayed; last what is to lie on top.
    """
    lay = _with_what_they_serve(job, job.lay)
    steps = {entry.id: PlanStep(id=entry.id, kind=entry.kind, application=entry.tool) for entry in lay}
    every = list(steps.values())

    def rank(number: int, entry: Entry) -> tuple[bool, int, int, bool, int]:
        kind = KINDS[entry.kind]
        late = 2 if kind.is_mask or kind.unmasks else 1 if kind.resists else 0
        mine = phase(steps[entry.id], job.schools, [s for s in every if s.id != entry.id])
        return entry.on == "top", late, mine, entry.kind in serving_kinds(), number

    waiting = [
        entry
        for _rank, entry in sorted(((rank(n, e), e) for n, e in enumerate(lay)), key=lambda pair: pair[0])
    ]
    placed: list[Entry] = []
    open_names = {entry.id for entry in lay}
    while waiting:
        entry = next((e for e in waiting if not named_by(e) & open_names - {e.id}), waiting[0])
        placed.append(entry)
        waiting.remove(entry)
        open_names.discard(entry.id)
    return placed


def named_by(entry: Entry) -> set[str]:
    """The entries that one refers to."""
    on = {entry.on.after, entry.on.before} if isinstance(entry.on, On) else set()
    return {name for name in (*on, entry.down_to, *entry.serves) if name}


def in_a_circle(lay: Sequence[Entry]) -> tuple[str, ...]:
    """The entries that refer to themselves, by way of others or without."""
    names = {entry.id: named_by(entry) for entry in lay}

    def comes_back(start: str) -> bool:
        met, ahead = set[str](), [start]
        while ahead:
            for name in names.get(ahead.pop(), ()):
                if name == start:
                    return True
                if name not in met:
                    met.add(name)
                    ahead.append(name)
        return False

    return tuple(name for name in names if comes_back(name))


def _with_what_they_serve(job: JobFile, lay: Sequence[Entry]) -> list[Entry]:
    """The entries, those that work on others and do not say on which with the newest by phase that fit, zone by zone.

    Several of one kind share out what fits in the order of the file, what wants them most first; the order of the file decides
    nothing else.
    """
    served: dict[str, dict[str, None]] = {entry.id: {} for entry in lay}
    for kind in sorted({entry.kind for entry in lay} & serving_kinds()):
        servers = [entry for entry in lay if entry.kind == kind]
        open_ones = [entry for entry in servers if not entry.serves and entry.on is None]
        for zone in dict.fromkeys(zone for entry in open_ones for zone in _zones(lay, entry)):
            mine = [entry for entry in open_ones if zone in _zones(lay, entry)]
            taken = {name for entry in servers if zone in _zones(lay, entry) for name in entry.serves}
            fits = [e for e in lay if kind in KINDS[e.kind].served_by and zone in _zones(lay, e)]
            groups = _groups(job, [e for e in fits if e.id not in taken] or fits)
            wanted = sorted(groups, key=lambda group: _eagerness(KINDS[kind], KINDS[group[0].kind]))[
                : len(mine)
            ]
            chosen = [group for group in groups if group in wanted]
            for number, entry in enumerate(mine):
                if chosen:
                    served[entry.id] |= dict.fromkeys(e.id for e in chosen[min(number, len(chosen) - 1)])
    return [e.model_copy(update={"serves": tuple(served[e.id])}) if served[e.id] else e for e in lay]


def _groups(job: JobFile, fits: Sequence[Entry]) -> list[list[Entry]]:
    """What is worked on at once, by phase: all of a kind, but of several washes each by itself."""
    groups: dict[tuple[int, str, int], list[Entry]] = {}
    for number, entry in enumerate(fits):
        mine = phase(PlanStep(id=entry.id, kind=entry.kind, application=entry.tool), job.schools)
        groups.setdefault((mine, entry.kind, number if _alone(KINDS[entry.kind]) else 0), []).append(entry)
    return [groups[key] for key in sorted(groups)]


def _eagerness(kind: Kind, laid: Kind) -> tuple[int, int]:
    """What of several is worked on first.

    Dots, which want drawing out, then what else is laid wet in wet; of what is wiped, washes, which are cleaned up, then powder;
    else the newest by phase.
    """
    if kind.draws_out:
        wants = 0 if laid.is_dots else 1 if laid.wet_in_wet else 2
    else:
        wants = 0 if laid.runs else 1 if laid.is_powder else 2
    return wants, -laid.phase


def _alone(kind: Kind) -> bool:
    """Whether of several of a kind on a zone the newest alone can still be worked on."""
    return kind.is_fine and not kind.wet_in_wet


def _zones(entries: Iterable[Entry], entry: Entry) -> Mapping[str, None]:
    """The zones of an entry; of one on all, those that any entry names and one that stands for the rest."""
    if entry.zones != "all":
        return dict.fromkeys(entry.zones)
    named = {zone: None for other in entries if other.zones != "all" for zone in other.zones}
    return {**named, "": None}
