"""Acts while jobs run: a real window whose jobs run in threads; each act that was taken is in the document at the end."""

from __future__ import annotations

import random
import shutil
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path
from typing import Any

from fuzzing.part import Part

_SLOWEST_S, _PATIENCE_S = 120.0, 90.0


@dataclass
class _Expected:
    """What was done, as it must be found in the end."""

    photos: set[str] = field(default_factory=set)
    anchors: dict[str, set[str]] = field(default_factory=dict)
    titles: dict[str, str] = field(default_factory=dict)
    traced: set[tuple[str, str]] = field(default_factory=set)
    straightened: int = 0
    stock: dict[str, float] = field(default_factory=dict)

    def missing_in(self, project: Any) -> list[str]:
        """What of it a document lacks."""
        by_id = {photo.id: photo for photo in project.photos}
        lacking = [f"photo {name}" for name in self.photos - {photo.name for photo in project.photos}]
        for photo, names in self.anchors.items():
            lacking += [f"anchor {name}" for name in names - {a.name for a in by_id[photo].anchors}]
        lacking += [f"title {title}" for photo, title in self.titles.items() if by_id[photo].title != title]
        lacking += [f"area {pair}" for pair in self.traced - {(r.photo, r.zone) for r in project.regions}]
        copies = sum(
            "straight" in photo.process or photo.name.count("straight") > 0 for photo in project.photos
        )
        if copies < self.straightened:
            lacking.append(f"{self.straightened - copies} straightened copies")
        return lacking


class _Hands:
    """One window, and quick hands."""

    def __init__(self, rng: random.Random, folder: Path) -> None:
        from PySide6.QtWidgets import QApplication

        from lean_sepia.ui.app import make_app
        from lean_sepia.ui.kit import theme
        from lean_sepia.ui.shell.settings import Settings
        from lean_sepia.ui.shell.window import MainWindow

        self.rng, self.folder, self.done = rng, folder, _Expected()
        self.app = QApplication.instance() or make_app([])
        theme.apply(self.app, theme.DAY)
        self.window = MainWindow(Settings(), remember=False)
        self.window.show()
        self.place = folder / "work.sepia"
        assert self.window.open_project(self.place)
        assert self.window.workspace is not None
        self.space = self.window.workspace
        self.until(lambda: "evidence" in self.space.rooms and self.space.rooms["evidence"].seen is not None)
        self.room = self.space.rooms["evidence"]
        self.count = 0

    def until(self, condition: Callable[[], bool]) -> None:
        """Let the window work until something is so."""
        end = time.monotonic() + _PATIENCE_S
        while not condition():
            self.app.processEvents()
            if time.monotonic() > end:
                raise AssertionError("the window does not come to rest")
            time.sleep(0.001)

    def act(self) -> None:
        """Do one thing, quickly after the last."""
        self.count += 1
        acts = (
            self.drop,
            self.anchor,
            self.anchor,
            self.write,
            self.trace,
            self.straighten,
            self.other_photo,
            self.wait,
            self.sample,
        )
        self.rng.choice(acts)()

    @property
    def photo(self) -> str:
        """The photo that the edits are about."""
        return str(self.room.edits.seen.photo.id)

    def drop(self) -> None:
        """Drop pictures, some of them none."""
        from PIL import Image

        names = []
        for _one in range(self.rng.choice((1, 1, 3))):
            name = f"drop-{self.rng.randrange(10**9)}.png"
            Image.frombytes("RGB", (16, 12), self.rng.randbytes(16 * 12 * 3)).save(self.folder / name)
            names.append(str(self.folder / name))
            self.done.photos.add(name)
        if self.rng.random() < 0.2:
            names.insert(self.rng.randrange(len(names) + 1), "/dev/null")
        self.space.add_photos(names)

    def anchor(self) -> None:
        """Put an anchor somewhere on a photo of the demo."""
        from lean_sepia.document.model import AnchorMark

        if self.photo not in ("f1", "f2"):
            return
        name = f"Anchor {self.count}"
        mark = AnchorMark(id="new", x=1088, y=511, radius=4 + self.count % 3, lightness=65, name=name)
        self.room.edits.add_anchor(mark)
        self.done.anchors.setdefault(self.photo, set()).add(name)

    def write(self) -> None:
        """Write something of the photo, now and then what its colours hang on."""
        title = f"Title {self.count}"
        changes = {
            "title": title,
            **({"like": self.rng.choice(("", "f1", "f2"))} if self.rng.random() < 0.3 else {}),
        }
        if changes.get("like") == self.photo:
            changes["like"] = ""
        self.room.edits.describe_photo(self.photo, changes)
        self.done.titles[self.photo] = title

    def trace(self) -> None:
        """Trace an area for a zone."""
        session = self.space.session
        zone = self.rng.choice(session.project.zones).id
        session.choose_zone(zone)
        self.room.edits.trace_area([(2, 2), (9, 2), (9, 8), (2, 8)], self.rng.random() < 0.3)
        self.done.traced.add((self.photo, zone))

    def straighten(self) -> None:
        """Ask for a straightened copy."""
        if self.photo in ("f1", "f2") and self.done.straightened < 4:
            right = 700 + self.count
            self.room.edits.straighten([(500, 400), (right, 400), (right, 640), (500, 640)], 100.0, 80.0)
            self.done.straightened += 1

    def sample(self) -> None:
        """Sample a disc; what became of it is seen by the eye."""
        self.room.add_sample(6.0, 6.0, 3.0)

    def other_photo(self) -> None:
        """Look at another photo."""
        self.room.choose_photo(self.rng.choice(self.space.session.project.photos).id)

    def wait(self) -> None:
        """Let a few turns pass."""
        for _turn in range(self.rng.randrange(1, 60)):
            self.app.processEvents()

    def close(self) -> None:
        """Close the window while things are in flight, or after."""
        if self.rng.random() < 0.5:
            self.until(lambda: not self.space.session.jobs.acting)
        assert self.window.close(), "the window stays open"
        self.window.deleteLater()
        self.app.processEvents()


def _once(rng: random.Random, folder: Path, kept: Path, told: list[str]) -> None:
    from lean_sepia.document.store import ProjectStore

    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    for name in ("tordmule-untouched.sepia", "shelf.sqlite"):
        shutil.copy(kept / name, folder / name)
    (folder / "tordmule-untouched.sepia").rename(folder / "work.sepia")
    hands = _Hands(rng, folder)
    try:
        for _act in range(rng.randrange(3, 14)):
            hands.act()
    finally:
        hands.close()
    assert not told, told
    store = ProjectStore.open(hands.place, reading=True)
    try:
        lacking = hands.done.missing_in(store.load()[0])
    finally:
        store.close()
    assert not lacking, f"done and lost: {lacking}"


def run(part: Part) -> None:
    """Act and close until the time is over."""
    from lean_sepia.demo.folder import ensure_demo
    from lean_sepia.ui.kit.faults import faults
    from lean_sepia.ui.shell import keeping

    kept, patience = ensure_demo().folder, keeping._PATIENCE_MS
    keeping._PATIENCE_MS = int(1000 * _PATIENCE_S)  # it waits instead of asking
    told: list[str] = []
    faults.forget()
    faults.happened.connect(told.append)
    part.slowest_s = _SLOWEST_S
    try:
        while part.going:
            told.clear()
            part.look("acts", partial(_once, part.rng, part.folder / f"acts-{part.seed}", kept, told))
    finally:
        faults.happened.disconnect(told.append)
        keeping._PATIENCE_MS = patience
    shutil.rmtree(part.folder / f"acts-{part.seed}", ignore_errors=True)
