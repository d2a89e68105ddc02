"""Hostile journals: what lies beside a project or shelf is changed, made up and put there at any moment; nothing else may go."""

from __future__ import annotations

import os
import random
import shutil
import struct
from pathlib import Path

from fuzzing.part import Part

_MAGIC = bytes.fromhex("d9d505f920a163d7")
_SECTOR, _NONCE, _STEP = 512, 12345, 200


def hot_journal(file: Path, victim: Path | None, *, pages_before: int | None = None) -> Path:
    """Put a rollback journal beside a file that SQLite would roll back, with its first page as it is now.

    victim : the file it names as its super-journal, which rolling back deletes; pages_before : what it says the file's size was
    """
    data = file.read_bytes()
    page = int.from_bytes(data[16:18], "big")
    page = 65536 if page == 1 else page
    before = len(data) // page if pages_before is None else pages_before
    head = _MAGIC + struct.pack(">IIIII", 1, _NONCE, before, _SECTOR, page)
    first = data[:page]
    check = _NONCE + sum(first[place] for place in range(page - _STEP, 0, -_STEP))
    body = struct.pack(">I", 1) + first + struct.pack(">I", check & 0xFFFFFFFF)
    tail = b""
    if victim is not None:
        name = os.fsencode(victim)
        tail = (
            struct.pack(">I", (1 << 30) // page + 1)
            + name
            + struct.pack(">II", len(name), sum(name) & 0xFFFFFFFF)
            + _MAGIC
        )
    journal = Path(f"{file}-journal")
    journal.write_bytes(head.ljust(_SECTOR, b"\0") + body + tail)
    return journal


def _changed(rng: random.Random, data: bytes) -> bytes:
    """A journal with bytes changed, cut, doubled or added."""
    changed = bytearray(data)
    for _change in range(rng.choice((0, 0, 1, 3, 20))):
        changed[rng.randrange(len(changed))] = rng.randrange(256)
    kind = rng.randrange(5)
    if kind == 0:
        del changed[rng.randrange(len(changed)) :]
    elif kind == 1:
        changed += bytes(changed)
    elif kind == 2:
        changed += rng.randbytes(rng.randrange(600)) + _MAGIC
    return bytes(changed)


def _lay_beside(rng: random.Random, file: Path, victim: Path) -> None:
    """Put something beside a file."""
    journal = hot_journal(
        file,
        victim if rng.random() < 0.7 else None,
        pages_before=rng.choice((None, None, 0, 1, 3, 2**31 - 2, 0xFFFFFFFF)),
    )
    data = journal.read_bytes()
    journal.unlink()
    place = Path(f"{file}{rng.choice(('-journal', '-journal', '-journal', '-wal', '-shm'))}")
    kind = rng.randrange(12)
    if kind == 0:
        place.mkdir()
    elif kind == 1:
        os.mkfifo(place)
    elif kind == 2:
        place.symlink_to(victim)
    else:
        place.write_bytes(_changed(rng, data))


def _use(rng: random.Random, place: Path, shelf: Path, victim: Path) -> None:
    """Open, read, save, copy and print with something lying beside, put there before or meanwhile."""
    from lean_sepia.document.store import ProjectStore
    from lean_sepia.errors import SepiaError
    from lean_sepia.shelf.shelf import Shelf

    late = rng.random() < 0.3
    target = rng.choice((place, place, shelf))
    if not late:
        _lay_beside(rng, target, victim)
    if target == shelf and not late:
        Shelf(shelf).close()
        return
    store = ProjectStore.open(place, reading=rng.random() < 0.3)
    try:
        if late:
            _lay_beside(rng, place, victim)
        project, _note = store.load()
        store.revisions()
        copy = place.with_name("copy.sepia")
        if rng.random() < 0.5:
            shutil.copy(place, copy)
            _lay_beside(rng, copy, victim)
        if not store.reading_because:
            store.save(project, "again")
        try:
            store.save_copy(copy)
        except SepiaError:
            return
        again = ProjectStore.open(copy)
        again.load()
        again.close()
    finally:
        store.close()


def run(part: Part) -> None:
    """Lay things beside projects and shelves until the time is over."""
    from fuzzing.texts import small_document
    from lean_sepia.document.migrate import parse_document
    from lean_sepia.document.store import ProjectStore
    from lean_sepia.shelf.shelf import Shelf

    folder = part.folder / f"journals-{part.seed}"
    shutil.rmtree(folder, ignore_errors=True)
    (folder / "kept").mkdir(parents=True)
    ProjectStore.create(folder / "kept" / "a.sepia", parse_document(small_document())).close()
    Shelf(folder / "kept" / "shelf.sqlite").close()
    victim = folder / "precious"
    while part.going:
        bench = folder / "bench"
        shutil.rmtree(bench, ignore_errors=True)
        shutil.copytree(folder / "kept", bench)
        victim.write_bytes(b"\0")
        place, shelf = bench / "a.sepia", bench / "shelf.sqlite"
        part.look("journal", lambda place=place, shelf=shelf: _use(part.rng, place, shelf, victim))
        if not victim.exists() or victim.read_bytes() != b"\0":
            part.fail("journal", "another file was deleted or written into")
        if place.stat().st_size > 1 << 30:
            part.fail("journal", "the project was blown up")
    shutil.rmtree(folder, ignore_errors=True)
