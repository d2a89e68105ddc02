"""Kills at random instants, and disks that fail below SQLite: whatever was acknowledged as saved must be there."""

from __future__ import annotations

import random
import resource
import shutil
import signal
import sqlite3
from collections.abc import Callable
from functools import partial
from pathlib import Path

from fuzzing.children import heard
from fuzzing.part import Part
from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import ProjectFileError, SaveError


def _edit_for_ever(place: Path, seed: int, fault: str, tell: Callable[[str], None]) -> None:
    """In a child: edit and save, and tell the number of each edit once it is saved."""
    rng = random.Random(seed)
    store = ProjectStore.open(place)
    project, _note = store.load()
    number = int(project.title)
    if fault == "limit":
        signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
        size = place.stat().st_size + rng.randrange(0, 60_000)
        resource.setrlimit(resource.RLIMIT_FSIZE, (size, size))
    elif fault == "full":
        pages = store._db._db.execute("PRAGMA page_count").fetchone()[0]
        store._db._db.execute(f"PRAGMA max_page_count = {pages + rng.randrange(0, 6)}")
    other = sqlite3.connect(place, isolation_level=None, timeout=0) if fault == "locked" else None
    for _edit in range(400 if fault == "kill" else 40):
        number += 1
        changed = project.model_copy(update={"title": str(number)})
        if rng.random() < 0.3 and len(project.zones) < 60:
            changed, _zone = add_zone(changed, f"Zone {number}")
        try:
            if other is not None and rng.random() < 0.3:
                other.execute("BEGIN EXCLUSIVE")
            if rng.random() < 0.1:
                store.add_photo(f"{number:064d}", "image/png", "a.png", rng.randbytes(rng.randrange(200_000)))
            store.save(changed, f"Edit {number}")
        except SaveError:
            pass
        else:
            project = changed
            tell(str(number))
        if other is not None and other.in_transaction:
            other.execute("COMMIT")


def _once(part: Part, place: Path, fault: str) -> None:
    """One child, ended or let end; then the project is opened as anyone would."""
    seed = part.rng.randrange(2**32) ^ part.count
    wait_s = part.rng.random() * 0.25 if fault == "kill" else None
    told = heard(partial(_edit_for_ever, place, seed, fault), killed_after_s=wait_s)
    acknowledged = [int(line) for line in told]
    store = ProjectStore.open(place)
    try:
        project, note = store.load()
        if note:
            raise AssertionError(note)
        if acknowledged and int(project.title) < acknowledged[-1]:
            raise AssertionError(f"{acknowledged[-1]} was acknowledged, {project.title} is there ({fault})")
        store.save(project.model_copy(update={"title": str(int(project.title) + 1)}), "after")
    except ProjectFileError as error:
        raise AssertionError(f"after {fault}: {error}") from None
    finally:
        store.close()
    beside = [file.name for file in place.parent.iterdir() if file != place]
    if beside:
        raise AssertionError(f"left behind: {beside}")


def run(part: Part) -> None:
    """Kill and starve children until the time is over."""
    folder = part.folder / f"kills-{part.seed}"
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    place = folder / "work.sepia"
    ProjectStore.create(place, Project(title="0")).close()
    faults = ("kill", "kill", "kill", "limit", "full", "locked")
    while part.going:
        if place.stat().st_size > 30_000_000:
            place.unlink()
            ProjectStore.create(place, Project(title="0")).close()
        fault = faults[part.count % len(faults)]
        part.look(fault, lambda fault=fault: _once(part, place, fault))
    shutil.rmtree(folder, ignore_errors=True)
