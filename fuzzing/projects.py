"""Hostile projects: bytes of the file changed, documents changed field by field, schemas with things that run."""

from __future__ import annotations

import json
import random
import sqlite3
from copy import deepcopy
from pathlib import Path
from typing import Any

from fuzzing.part import Part
from fuzzing.texts import mutated, small_document

_VALUES: tuple[Any, ...] = (
    None, True, -1, 0, 1e300, -1e300, 1e-300, 10**18, "", "x" * 5000, "\x00", "<img src=/dev/zero>", [], {}, [[]], [1e9] * 3,
    "2031-03-03T19:00+02:00", "9999-12-31", "z1", "s1", "r1", "m1", float("nan"), float("inf"), ["z1", "z1"], "../../x",
)  # fmt: skip
_SCHEMAS = (
    "CREATE TRIGGER t AFTER INSERT ON revision BEGIN DELETE FROM photo; END",
    "CREATE VIEW v AS SELECT * FROM revision",
    "CREATE VIRTUAL TABLE f USING fts5(x)",
    "CREATE TABLE other (x)",
    "CREATE INDEX i ON revision (length(document))",
    "ALTER TABLE photo ADD COLUMN extra",
    "DROP TABLE photo",
    "UPDATE revision SET document = CAST(document AS BLOB)",
    "UPDATE revision SET document = zeroblob(100000000)",
    "UPDATE revision SET saved_at = 'yesterday', label = x'ff'",
    "PRAGMA user_version = 99",
    "PRAGMA application_id = 7",
    "PRAGMA journal_mode = WAL",
)


def changed_document(rng: random.Random, text: str) -> str:
    """A document with values replaced anywhere in it, items doubled or taken away, or its text changed."""
    if rng.random() < 0.2:
        return mutated(rng, text)
    data = json.loads(text)
    for _change in range(rng.choice((1, 1, 2, 5))):
        _change_somewhere(rng, data)
    return json.dumps(data)


def _change_somewhere(rng: random.Random, data: Any) -> None:
    while True:
        keys = list(data) if isinstance(data, dict) else list(range(len(data)))
        if not keys:
            return
        key = rng.choice(keys)
        if isinstance(data[key], dict | list) and data[key] and rng.random() < 0.85:
            data = data[key]
            continue
        kind = rng.randrange(5)
        if kind == 0 and isinstance(data, list):
            data.append(deepcopy(data[key]))
        elif kind == 1:
            del data[key]
        elif kind == 2:
            data[key] = deepcopy(rng.choice(_VALUES))
        else:
            data[key] = _another(rng, data[key])
        return


def _another(rng: random.Random, value: Any) -> Any:
    """A value of the same kind, near enough to be let in."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, int):
        return rng.choice((0, 1, 2, value + 1, value * 1000))
    if isinstance(value, float):
        return value * rng.choice((0.0, 1e-9, 0.5, 2.0, -1.0, 1000.0))
    if isinstance(value, str):
        return rng.choice(
            (
                "",
                "z1",
                "z2",
                value.upper(),
                value + "é<b>&",
                "mask",
                "wash",
                "oil",
                "sponge",
                "gloss",
                "2031-01-01",
            )
        )
    return deepcopy(rng.choice(_VALUES))


def write_hostile(rng: random.Random, place: Path, whole: Path, text: str) -> None:
    """Make one hostile project at `place` from a whole one."""
    place.unlink(missing_ok=True)
    data = bytearray(whole.read_bytes())
    kind = rng.randrange(3)
    if kind == 0:
        for _change in range(rng.choice((1, 3, 30, 300))):
            data[rng.randrange(len(data))] = rng.randrange(256)
        if rng.random() < 0.2:
            del data[rng.randrange(len(data)) :]
    place.write_bytes(data)
    if kind == 0:
        return
    db = sqlite3.connect(place)
    try:
        if kind == 1:
            db.execute("UPDATE revision SET document = ?", (changed_document(rng, text),))
        else:
            db.execute(rng.choice(_SCHEMAS))
        db.commit()
    except (sqlite3.Error, UnicodeEncodeError):
        pass
    finally:
        db.close()


def use(place: Path) -> None:
    """Open a project and ask of it what the rooms ask."""
    from lean_sepia.answers import amounts, bench, plan
    from lean_sepia.answers.advice import advice, room_states
    from lean_sepia.answers.strata import strata_of
    from lean_sepia.document.store import ProjectStore
    from lean_sepia.report.bench_card import bench_card

    store = ProjectStore.open(place)
    try:
        project, _note = store.load()
        store.revisions()
        cuts = {zone.id: strata_of(project, zone.id) for zone in project.zones}
        advice(project, cuts)
        room_states(project, cuts)
        bench.bench_steps(project, cuts, plan.answer(plan.ask(project)))
        amounts.cups_of(project, [coat for coat in project.coats if coat.recipe])
        bench_card(project)
        store.save(project, "again")
    finally:
        store.close()


def run(part: Part) -> None:
    """Open hostile projects until the time is over."""
    from lean_sepia.document.migrate import parse_document
    from lean_sepia.document.store import ProjectStore

    part.folder.mkdir(parents=True, exist_ok=True)
    whole, place = (part.folder / f"projects-{part.seed}-{name}.sepia" for name in ("whole", "hostile"))
    text = small_document()
    whole.unlink(missing_ok=True)
    store = ProjectStore.create(whole, parse_document(text))
    store.add_photo("ab" * 32, "image/png", "a.png", b"picture")
    store.close()
    while part.going:
        write_hostile(part.rng, place, whole, text)
        part.look("project", lambda: use(place), place.read_bytes())
    for left in (whole, place):
        left.unlink(missing_ok=True)
