"""Hostile folders: while a project is worked on its folder becomes unreadable, read-only, vanishes, fills up, or files are swapped."""

from __future__ import annotations

import os
import random
import resource
import shutil
import signal
import stat
from collections.abc import Callable
from functools import partial
from pathlib import Path

from fuzzing.children import heard
from fuzzing.part import Part
from fuzzing.privileges import obey_permissions

_OPEN = stat.S_IRWXU


def _acts(rng: random.Random, folder: Path, place: Path) -> list[Callable[[], object]]:
    """What can happen to a folder and a file behind the program's back."""
    other, aside = folder.parent / "other.sepia", folder.parent / f"aside-{rng.randrange(10**6)}"

    def swap_in_place() -> None:
        if place.exists() and not place.is_symlink():
            place.write_bytes(other.read_bytes())

    def swap_by_name() -> None:
        shutil.copy(other, folder / "new")
        (folder / "new").replace(place)

    def full() -> None:
        size = os.stat(place).st_size if os.path.exists(place) else 100_000
        resource.setrlimit(resource.RLIMIT_FSIZE, (size + rng.randrange(3000), resource.RLIM_INFINITY))

    return [
        lambda: folder.chmod(0), lambda: folder.chmod(0o555), lambda: folder.chmod(_OPEN), lambda: folder.chmod(_OPEN),
        lambda: place.chmod(0o444), lambda: place.chmod(0o600), lambda: place.unlink(missing_ok=True),
        lambda: folder.rename(aside), lambda: folder.mkdir(exist_ok=True), swap_in_place, swap_by_name, full,
        lambda: resource.setrlimit(resource.RLIMIT_FSIZE, (resource.RLIM_INFINITY, resource.RLIM_INFINITY)),
        lambda: os.utime(place), lambda: (folder / f"hard-{rng.randrange(10**6)}.sepia").hardlink_to(place),
    ]  # fmt: skip


def _work(folder: Path, seed: int, tell: Callable[[str], None]) -> None:
    """In a child: edit in a session, with things happening to its folder; tell what is saved, and where."""
    obey_permissions()
    signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
    os.environ |= {
        f"XDG_{kind}_HOME": str(folder.parent / kind.lower()) for kind in ("DATA", "STATE", "CACHE")
    }
    from PySide6.QtWidgets import QApplication

    from lean_sepia.document.store import ProjectStore
    from lean_sepia.ui.app import make_app
    from lean_sepia.ui.kit.job import Jobs
    from lean_sepia.ui.shell.session import Session

    _app = QApplication.instance() or make_app([])
    rng = random.Random(seed)
    place = folder / "work.sepia"
    session = Session(ProjectStore.open(place), Jobs(synchronous=True))
    said: list[str] = []
    session.refused.connect(said.append)
    for number in range(1, rng.randrange(4, 16)):
        for _act in range(rng.randrange(3)):
            try:
                rng.choice(_acts(rng, folder, place))()
            except OSError:
                continue
        session.edit("Title", lambda p, number=number: p.model_copy(update={"title": str(number)}))
        before = len(said)
        if session.save_now() is None:
            tell(f"saved {number} {session.store.path}")
        else:
            assert len(said) > before, "a save failed without a word"
            assert session.unsaved
            assert session._autosave.isActive(), "saving is not tried again"
    session.close()


def _title_in(place: Path) -> str:
    from lean_sepia.document.store import ProjectStore

    store = ProjectStore.open(place, reading=True)
    try:
        return store.load()[0].title
    finally:
        store.close()


def _opened(base: Path) -> None:
    """Let everything under a folder be read again."""
    for top, folders, files in os.walk(base):
        for name in (*folders, *files):
            if not os.path.islink(os.path.join(top, name)):
                os.chmod(os.path.join(top, name), _OPEN)


def _once(base: Path, kept: Path, seed: int) -> None:
    shutil.rmtree(base, ignore_errors=True)
    folder = base / "bench"
    folder.mkdir(parents=True)
    for name in ("work", "other"):
        shutil.copy(kept / f"{name}.sepia", (folder if name == "work" else base) / f"{name}.sepia")
    told = [line.split(" ", 2) for line in heard(partial(_work, folder, seed)) if line.startswith("saved ")]
    _opened(base)
    if not told:
        return
    _saved, number, path = told[-1]
    # What was saved last is in the file that was named then, unless that file was taken away or written over afterwards.
    places = [Path(path), *base.rglob("*.sepia")]
    found = {_title_in(place) for place in places if place.exists() and place.stat().st_size}
    assert found & {number, "other"}, f"{number} was saved into {path}; found {sorted(found)}"


def run(part: Part) -> None:
    """Hinder sessions until the time is over."""
    from lean_sepia.document.model import Project
    from lean_sepia.document.store import ProjectStore

    base, kept = part.folder / f"folders-{part.seed}", part.folder / f"folders-{part.seed}-kept"
    shutil.rmtree(kept, ignore_errors=True)
    kept.mkdir(parents=True)
    for name in ("work", "other"):
        ProjectStore.create(kept / f"{name}.sepia", Project(title="0" if name == "work" else "other")).close()
    while part.going:
        part.look("folder", partial(_once, base, kept, part.rng.randrange(2**32)))
        _opened(base)
    for left in (base, kept):
        shutil.rmtree(left, ignore_errors=True)
