"""What leaves a project, one command for each row of the table of exports: `card`, `calendar`, `stop-marks`."""

from __future__ import annotations

from operator import attrgetter
from typing import TYPE_CHECKING, Any

import click

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.language import _
from lean_sepia.report.export import Export, Leaving

if TYPE_CHECKING:
    from lean_sepia.document.model import Project

# The core is imported inside the functions: help and the window start without it.


def command_of(name: str, export: Export) -> click.Command:
    """The command that writes an export; its file is given by an option called like its ending."""
    option = export.ending.removeprefix(".")
    metavar = f"OUT{export.ending}"
    about_zone = export.about == "zone"

    @json_option
    def write(project: str, as_json: bool, **given: Any) -> None:
        place = given[option]
        document, note = _opened(project)
        zone = _zone_of(document, given["zone"]) if about_zone else ""
        paints = _paints(document, given["shelf"]) if about_zone else ()
        export.write(Leaving(document, zone, paints), place)
        print_answer(
            {option: place, "note": note},
            as_json,
            lambda: _("Wrote {0}.").format(place) + (f" {note}" if note else ""),
        )

    params: list[click.Parameter] = [
        click.Argument(["project"]),
        click.Option([f"--{option}"], required=True, metavar=metavar),
    ]
    if about_zone:
        params += [
            click.Option(["--zone"], metavar="ID|NAME", help="The first one unless said."),
            click.Option(["--shelf"], metavar="FILE", help="The project's own paints unless given."),
        ]
    written = click.command(name, help=export.help)(write)
    written.params = [*params, *written.params]
    return written


def _opened(project: str) -> tuple[Project, str | None]:
    from lean_sepia.document.store import ProjectStore

    store = ProjectStore.open(project)
    try:
        return store.load()
    finally:
        store.close()


def _zone_of(project: Project, named: str | None) -> str:
    """The zone of an id, a name or the first part of one; the first zone where none is named.

    Raises
    ------
    BadInputError
        There is none, or several are called so.
    """
    from lean_sepia.errors import BadInputError

    if not project.zones:
        raise BadInputError(_("The project has no zone yet. Name one in the program first."))
    if named is None:
        return project.zones[0].id
    called = [[zone.id for zone in project.zones if own(zone) == named] for own in (_id, _name, _short)]
    found = next((zones for zones in called if zones), [])
    if len(found) == 1:
        return found[0]
    there = ", ".join(f"{zone.id} ({zone.name})" for zone in project.zones)
    if found:
        words = _("{0} zones are called {1!r}. Give the id of one: {2}.")
        raise BadInputError(words.format(len(found), named, there))
    raise BadInputError(_("There is no zone {0!r}. The zones of this project: {1}.").format(named, there))


_id, _name, _short = attrgetter("id"), attrgetter("name"), attrgetter("short")


def _paints(project: Project, shelf: str | None) -> list[Any]:
    from lean_sepia.document.versions import paint_of
    from lean_sepia.shelf.shelf_file import read_shelf

    return read_shelf(shelf).paints() if shelf else [paint_of(version) for version in project.paints]
