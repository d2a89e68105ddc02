"""The open project as the window sees it: present value, history, store, shelf, pictures."""

from __future__ import annotations

import os
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from lean_sepia.answers.advice import advice, room_states
from lean_sepia.answers.coats.showing import Showing, showings_of
from lean_sepia.answers.coats.stating import ColourList
from lean_sepia.answers.rooms.room import Advice, RoomState
from lean_sepia.answers.strata import Inputs, Strata, same_inputs, strata_inputs, strata_of
from lean_sepia.document.edits.planning import put_remarks_off
from lean_sepia.document.history import History
from lean_sepia.document.keeping.place import SUFFIX, free_name
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import EditError, SaveError, SepiaError, ShelfError
from lean_sepia.files.gate import shown
from lean_sepia.language import _, ngettext
from lean_sepia.plan.traits.kind import Room
from lean_sepia.shelf.shelf import Shelf, shelf_path_for, user_folder
from lean_sepia.ui.kit.job import Jobs
from lean_sepia.ui.photo.pictures import Pictures

if TYPE_CHECKING:
    from lean_sepia.answers.nearer.outcome import Offer

_BUSY_MS = 100
AUTOSAVE_MS = 1200  # two seconds may be lost at most, and a busy window comes late


class Session(QObject):
    """One open project. Views listen to `changed` and `zone_changed`; every edit goes through `edit`.

    `settled` follows `changed` in a turn of its own, for what need not stand beside what the hand just did; `advised` says that
    there may be other advice.
    """

    changed = Signal()
    zone_changed = Signal(str)
    settled = Signal()
    advised = Signal()
    shelf_changed = Signal()
    refused = Signal(str)
    moved = Signal()

    def __init__(self, store: ProjectStore, jobs: Jobs, parent: QObject | None = None) -> None:
        super().__init__(parent)
        project, note = store.load()
        self.store = store
        self.jobs = jobs
        self.history = History(project)
        self.shelf, shelf_note = _shelf_for(store)
        notes = (note, _only_read(store), shelf_note)
        self.opening_note = " ".join(said for said in notes if said) or None
        self.shelf.changed_elsewhere()  # from now on
        self._saved = project
        self._label = _("Opened")
        self.colour_lists: list[ColourList] = []  # that were read to state colours by their names
        self._showings: dict[str, tuple[Strata, dict[str, Showing]]] = {}
        self._cuts: dict[str, tuple[Inputs, Strata]] = {}
        self._nearer: dict[str, Offer] = {}
        self.pictures = Pictures(store)
        self._zone = project.zones[0].id if project.zones else ""
        self._autosave = QTimer(self)
        self._autosave.setSingleShot(True)
        self._autosave.setInterval(AUTOSAVE_MS)
        self._autosave.timeout.connect(self._save_by_itself)
        self.settled.connect(self.look_whether_coats_show)
        self.settled.connect(self.look_what_is_nearer)

    @property
    def project(self) -> Project:
        """The present document."""
        return self.history.present

    @property
    def zone(self) -> str:
        """Id of the chosen zone, or an empty string where there is none."""
        return self._zone

    def choose_zone(self, zone_id: str) -> None:
        """Make a zone the chosen one."""
        if zone_id != self._zone:
            self._zone = zone_id
            self.zone_changed.emit(zone_id)

    def step_zone(self, places: int) -> None:
        """Choose the zone so many places further on, round the end."""
        ids = [zone.id for zone in self.project.zones]
        if ids:
            here = ids.index(self._zone) if self._zone in ids else 0
            self.choose_zone(ids[(here + places) % len(ids)])

    def cut(self, zone_id: str) -> Strata:
        """The strata of a zone as the document is now."""
        inputs = strata_inputs(self.project, zone_id)
        known = self._cuts.get(zone_id)
        if known is None or not same_inputs(known[0], inputs):
            known = self._cuts[zone_id] = inputs, strata_of(self.project, zone_id)
        return known[1]

    def cuts(self) -> Mapping[str, Strata]:
        """The strata of every zone."""
        return {zone.id: self.cut(zone.id) for zone in self.project.zones}

    def advice(self) -> list[Advice]:
        """What the program has noticed."""
        notes = {str(r["id"]): str(r["note"]) for r in self.shelf.records() if r.get("note")}
        shown = {zone: found for zone, (_cut, found) in self._showings.items()}
        return advice(self.project, self.cuts(), shown, notes, self._nearer)

    def put_off(self, remark: Advice) -> bool:
        """Say no more of a remark in this project; what is no longer noticed is forgotten with it."""
        silent = {one.id for one in self.project.put_off} | {remark.key}
        kept = [one.key for one in self.advice() if one.key in silent]
        return self.edit(_("Put a remark off"), lambda project: put_remarks_off(project, kept))

    def take_up(self) -> bool:
        """Say again what was put off."""
        return self.edit(_("Take up what was put off"), lambda project: put_remarks_off(project, ()))

    def look_whether_coats_show(self) -> None:
        """Look in the background how the coats of changed zones show; the advice is told when it is known."""
        project, cuts = self.project, self.cuts()
        self._showings = {zone: known for zone, known in self._showings.items() if zone in cuts}
        changed = [
            zone
            for zone, cut in cuts.items()
            if zone not in self._showings or self._showings[zone][0] is not cut
        ]
        if changed:
            self.jobs.at_rest(
                "showing",
                lambda _p: {zone: (cuts[zone], showings_of(project, zone)) for zone in changed},
                self._shown,
            )

    def _shown(self, found: dict[str, tuple[Strata, dict[str, Showing]]]) -> None:
        self._showings |= found
        self.advised.emit()

    def look_what_is_nearer(self) -> None:
        """Look in the background which change would bring each zone nearer; what was found of another state is told no more."""
        self._nearer = {}
        project, shelf = self.project, tuple(self.shelf.paints())

        def look(_progress: object) -> tuple[Project, dict[str, Offer]]:
            from lean_sepia.answers.nearer.change import (
                Planned,  # half a second that start-up need not wait for
            )
            from lean_sepia.answers.nearer.offers import best_by_zone

            return project, best_by_zone(Planned.of(project, shelf))

        self.jobs.in_idle_time("nearer advice", look, lambda found: self._found_nearer(*found))

    def _found_nearer(self, project: Project, found: dict[str, Offer]) -> None:
        if project is self.project and found:
            self._nearer = found
            self.advised.emit()

    def look_at_shelf(self) -> None:
        """See what another window wrote to the shelf; asked when this one is turned to again."""
        if self.shelf.changed_elsewhere():
            self.shelf_changed.emit()

    def room_states(self) -> dict[Room, RoomState]:
        """How far each room has come."""
        return room_states(self.project, self.cuts())

    def edit(self, name: str, change: Callable[[Project], Project]) -> bool:
        """Apply a named edit; what the core refuses is told to the user and nothing changes."""
        try:
            if self.store.reading_because:
                raise EditError(_only_read(self.store))
            done = self.history.push(name, change(self.project))
        except SepiaError as error:
            self.refused.emit(str(error))
            return False
        if done:
            self._label = name
            self._after_change()
        return done

    def undo(self) -> None:
        """Take the last edit back."""
        name = self.history.undo_name
        if self.history.undo():
            self._label = _("Undo: {0}").format(name)
            self._after_change()

    def redo(self) -> None:
        """Do the undone edit again."""
        name = self.history.redo_name
        if self.history.redo():
            self._label = _("Redo: {0}").format(name)
            self._after_change()

    def _after_change(self) -> None:
        if self._zone not in {zone.id for zone in self.project.zones}:
            self._zone = self.project.zones[0].id if self.project.zones else ""
        if not self._autosave.isActive():
            self._autosave.start(AUTOSAVE_MS)
        self.changed.emit()
        self.jobs.later("settled", self.settled.emit)

    @property
    def unsaved(self) -> bool:
        """Whether the present document is in no file yet."""
        return self.project is not self._saved and self.project != self._saved

    def _save_by_itself(self) -> None:
        """Save once the file is free: a large photo that is being stored must not hold the window."""
        if self.store.busy:
            self._autosave.start(_BUSY_MS)
        else:
            self.save_now()

    def save_now(self) -> SaveError | None:
        """Write the present document as a revision, if it is not written yet; why that failed, where it did.

        Where the file is gone or another's now, the work goes on in a file of its own.
        """
        self._autosave.stop()
        if not self.unsaved:
            return None
        try:
            self.store.save(self.project, self._label)
        except SaveError as error:  # a full disk must not close the window
            if error.lost and self._rescued(error):
                return None
            self.refused.emit(
                _("{0} The work is still in the window and saving is tried again.").format(error)
            )
            self._autosave.start(AUTOSAVE_MS)
            return error
        except Exception:
            self._autosave.start(AUTOSAVE_MS)  # a mistake here must not be the end of saving
            raise
        self._saved = self.project
        return None

    def _rescued(self, error: SaveError) -> bool:
        for place in rescue_places(self.store.path, user_folder() / "projects"):
            if self.save_elsewhere(place):
                words = _("{0} Your work goes on in {1}.").format(error, shown(place))
                if lost := self.store.lacks(self.project):
                    words += ngettext(
                        " {0} photo was lost with it: add it again.",
                        " {0} photos were lost with it: add them again.",
                        lost,
                    ).format(lost)
                self.refused.emit(words)
                return True
        return False

    def save_elsewhere(self, place: Path) -> bool:
        """Go on in another file, with the document as it is now; what stands against it is told."""
        try:
            place.parent.mkdir(parents=True, exist_ok=True)
            self.store.move_to(place, self.project, self._label)
        except (OSError, SepiaError) as error:
            self.refused.emit(str(error))
            return False
        self._saved = self.project
        self.moved.emit()
        return True

    def close(self) -> None:
        """Stop the jobs and close the files. What is not saved by now is given up."""
        self.jobs.close()
        self._autosave.stop()
        self.store.close()
        self.shelf.close()


def rescue_places(path: Path, fallback: Path) -> list[Path]:
    """Where work goes on whose file is gone: beside it under a name of its own, else in the user's own folder."""
    name = _("{0} (kept)").format(path.stem) + SUFFIX
    usable = [
        folder
        for folder in (path.parent, fallback)
        if folder == fallback or os.access(folder, os.W_OK | os.X_OK)
    ]
    return [free_name(folder / name) for folder in usable]


def _only_read(store: ProjectStore) -> str:
    if not store.reading_because:
        return ""
    words = _("{0} can only be read: {1}. Nothing is changed; save a copy to work on.")
    return words.format(shown(store.path), store.reading_because)


def _shelf_for(store: ProjectStore) -> tuple[Shelf, str]:
    """The shelf of a project; an empty one that is kept nowhere, and why, where it cannot be opened."""
    try:
        return Shelf(shelf_path_for(store.path)), ""
    except ShelfError as error:
        words = _("{0} The shelf is empty until then, and nothing put on it is kept.")
        return Shelf(None), words.format(error)
