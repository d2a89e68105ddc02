"""In which turn the entries of a job are laid, and what each works on where nobody says: every entry is read before the first is laid."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from lean_sepia.answers.whole.job_file import Entry, JobFile, On
from lean_sepia.document.serving import serving_kinds
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.placing import phase
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.traits.kind import Kind


def in_turn(job: JobFile) -> list[Entry]:
    """The entries in the order they are laid.

    By phase, what works on others after them, what names a place after what it names; then masks, once it is known what is
    sprayed beside them; last what is to lie on top.
    """
    lay = _with_what_they_serve(job.lay)
    steps = {entry.id: PlanStep(id=entry.id, kind=entry.kind, application=entry.tool) for entry in lay}
    every = list(steps.values())

    def rank(number: int, entry: Entry) -> tuple[bool, bool, int, bool, int]:
        kind = KINDS[entry.kind]
        mine = phase(steps[entry.id], job.schools, [s for s in every if s.id != entry.id])
        return entry.on == "top", kind.is_mask or kind.lifts, mine, entry.kind in serving_kinds(), number

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


def _with_what_they_serve(lay: Iterable[Entry]) -> list[Entry]:
    """The entries, those that work on others and do not say on which with the newest that fit: of those before them in the file if any."""
    entries = list(lay)
    taken: set[tuple[str, str, str]] = set()
    for number, entry in enumerate(entries):
        if entry.kind not in serving_kinds():
            continue
        if not entry.serves and entry.on is None:
            found: dict[str, None] = {}
            for zone in _zones(entries, entry):
                found |= dict.fromkeys(_newest(entries, number, zone, taken))
            entries[number] = entry = entry.model_copy(update={"serves": tuple(found)})
        taken |= {(entry.kind, zone, name) for zone in _zones(entries, entry) for name in entry.serves}
    return entries


def _newest(entries: list[Entry], number: int, zone: str, taken: set[tuple[str, str, str]]) -> list[str]:
    """What an entry works on on a zone."""
    kind = entries[number].kind
    fits = [
        (index, other) for index, other in enumerate(entries)
        if index != number and kind in KINDS[other.kind].served_by and zone in _zones(entries, other)
    ]  # fmt: skip
    fits = [pair for pair in fits if (kind, zone, pair[1].id) not in taken] or fits
    before = [pair for pair in fits if pair[0] < number]
    if not fits:
        return []
    newest = before[-1][1] if before else fits[0][1]
    if _alone(KINDS[newest.kind]):
        return [newest.id]
    return [other.id for _index, other in before or fits if other.kind == newest.kind]


def _alone(kind: Kind) -> bool:
    """Whether of several of a kind on a zone the newest alone can still be worked on."""
    return kind.is_fine and not kind.wet_in_wet


def _zones(entries: Iterable[Entry], entry: Entry) -> Mapping[str, None]:
    """The zones of an entry; of one on all, those that any entry names and one that stands for the rest."""
    if entry.zones != "all":
        return dict.fromkeys(entry.zones)
    named = {zone: None for other in entries if other.zones != "all" for zone in other.zones}
    return {**named, "": None}
