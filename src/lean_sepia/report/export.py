"""What leaves a project as a file for others: the one table. Buttons, the menu and the command line are made from it."""

from __future__ import annotations

import importlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from lean_sepia.language import N_, _

if TYPE_CHECKING:
    from lean_sepia.document.model import Project
    from lean_sepia.paint.paint import Paint


@dataclass(frozen=True, eq=False)
class Leaving:
    """What an export is made from: a project; of what is about one zone, that zone, and the paints on the shelf."""

    project: Project
    zone: str = ""
    paints: Sequence[Paint] = ()


@dataclass(frozen=True, kw_only=True)
class Export:
    """One file that leaves a project.

    label, hint : on its button and in the menu; keys : in the menu; help : of its command
    about : whether it is of the whole project or of one zone
    kind, ending : of the file
    called : the name a dialog offers, without the ending
    writes : the module of this package and the function in it that writes it; named here, imported when it is asked for
    """

    label: str
    hint: str
    help: str
    about: Literal["project", "zone"]
    kind: str
    ending: str
    called: Callable[[Leaving], str]
    writes: str
    keys: str = ""

    def write(self, leaving: Leaving, place: str | Path) -> None:
        """Write it, whole or not at all.

        Raises
        ------
        BadInputError
            There is nothing to write, or the place cannot be written to.
        """
        module, function = self.writes.split(":")
        getattr(importlib.import_module(f"lean_sepia.report.{module}"), function)(leaving, place)


def _dated(leaving: Leaving) -> str:
    title = leaving.project.title.lower()
    safe = "".join(letter if letter.isalnum() else "-" for letter in title).strip("-")
    return f"{safe or 'card'}-bench-card-{datetime.now():%Y-%m-%d}"


def _titled(leaving: Leaving) -> str:
    return leaving.project.title


def _of_zone(leaving: Leaving) -> str:
    return _("stop-marks-{0}").format(leaving.project.zone(leaving.zone).short.lower())


EXPORTS: dict[str, Export] = {
    "card": Export(
        label=N_("Print the bench card…"),
        hint=N_("Zones, parts, drops, order with dates, waits and cautions on A4"),
        help=N_("Print the bench card of a project."),
        about="project", kind=N_("PDF"), ending=".pdf", called=_dated, writes="bench_card:write_card", keys="Ctrl+P",
    ),
    "calendar": Export(
        label=N_("Calendar file…"),
        hint=N_("The evenings and the looks again, for a calendar"),
        help=N_("Write the evenings of a project, and when to look again, as a calendar file."),
        about="project", kind=N_("Calendar"), ending=".ics", called=_titled, writes="calendar_file:write_evenings",
    ),
    "stop-marks": Export(
        label=N_("Stop marks…"),
        hint=N_("On paper at true size, to hold beside the model"),
        help=N_("Print the planned wear of a zone at rising shares and true size, to hold beside the model."),
        about="zone", kind=N_("PDF"), ending=".pdf", called=_of_zone, writes="wear_chart:write_stop_marks",
    ),
}  # fmt: skip
