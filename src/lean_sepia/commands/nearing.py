"""Where each miss of a project comes from, and what would bring it nearer: `nearer`."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, Any

import click

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.errors import BadInputError
from lean_sepia.language import _

if TYPE_CHECKING:
    from lean_sepia.document.model import Project
    from lean_sepia.document.store import ProjectStore
    from lean_sepia.paint.paint import Paint

# The core is imported inside the command: help and the window start without it.


@click.command()
@click.argument("file", metavar="X.sepia")
@click.option("--zone", help="Only this zone, by its id or name, and those that share a cup with it.")
@click.option(
    "--shelf", metavar="FILE", help="The bottles there are; without it, those that the project is mixed from."
)
@click.option(
    "--jointly",
    is_flag=True,
    help="Also solve bases, fades, filters and dust of all these zones as a whole: one more offer.",
)
@click.option(
    "--hold", "held", multiple=True, metavar="COAT", help="A coat that is not to be changed, by its id."
)
@click.option("--apply", "number", type=int, metavar="N", help="Lay offer N, from 1, into a new file.")
@click.option("--out", metavar="Y.sepia", help="The new file.")
@json_option
def nearer(
    file: str, zone: str | None, shelf: str | None, number: int | None, out: str | None, as_json: bool, jointly: bool, held: tuple[str, ...],
) -> None:  # fmt: skip
    """Tell what makes each miss, coat by coat, and which changes would bring the finish nearer."""
    from lean_sepia.answers.nearer.change import Planned
    from lean_sepia.answers.nearer.finish import solve
    from lean_sepia.answers.nearer.offers import offers_for
    from lean_sepia.answers.nearer.told import told
    from lean_sepia.document.store import ProjectStore

    if (number is None) != (out is None):
        raise BadInputError(_("--apply and --out go together: which offer to lay, and the file to write."))
    store = ProjectStore.open(file, reading=True)
    try:
        project, _warning = store.load()
        _check_held(project, held)
        bottles, zones = _bottles(project, shelf), _zones(project, zone)
        planned = Planned.of(project, bottles, zones, held)
        found = offers_for(planned)
        whole = solve(project, bottles, zones, held) if jointly else None
        if whole is not None:
            found = replace(
                found, offers=tuple(sorted((whole, *found.offers), key=lambda offer: -offer.gain))
            )
        answer = told(planned, found)
        if number is not None and out is not None:
            if not 1 <= number <= len(found.offers):
                raise BadInputError(
                    _("There are {0} offers; found --apply {1}. Number them from 1.").format(
                        len(found.offers), number
                    )
                )
            _write(store, found.offers[number - 1].edit(project), out)
    finally:
        store.close()
    if shelf is None and not as_json:
        click.echo(
            _("Tried with the bottles the project is mixed from; name a shelf with --shelf to try others."),
            err=True,
        )
    print_answer(answer, as_json, lambda: _words(project, answer))


def _check_held(project: Project, held: tuple[str, ...]) -> None:
    known = {coat.id for coat in project.coats}
    unknown = next((name for name in held if name not in known), None)
    if unknown is not None:
        raise BadInputError(
            _("There is no coat {0!r} to hold. Known: {1}.").format(
                unknown, ", ".join(sorted(known)) or _("none")
            )
        )


def _zones(project: Project, named: str | None) -> list[str]:
    if named is None:
        return []
    zone = next((one for one in project.zones if named in (one.id, one.name, one.short)), None)
    if zone is None:
        known = ", ".join(one.id for one in project.zones) or _("none")
        raise BadInputError(_("There is no zone {0!r} in this project. Known: {1}.").format(named, known))
    return [zone.id]


def _bottles(project: Project, shelf: str | None) -> tuple[Paint, ...]:
    from lean_sepia.document.versions import paint_of
    from lean_sepia.shelf.shelf_file import read_shelf

    if shelf is not None:
        return tuple(read_shelf(shelf).paints())
    newest = {version.shelf_id: paint_of(version) for version in project.paints}
    return tuple(newest.values())


def _write(store: ProjectStore, project: Project, out: str) -> None:
    from lean_sepia.document.store import ProjectStore

    made = ProjectStore.create(out, project)
    try:
        store.hand_photos(project, made)
    finally:
        made.close()


def _words(project: Project, answer: dict[str, Any]) -> str:
    lines = []
    for one in answer["zones"]:
        name = project.zone(one["id"]).name
        for stage in one["stages"]:
            lines.append(
                _("{0}, {1}: {2:.1f} ΔE00 from its target.").format(name, stage["stage"], stage["de00"])
            )
            lines += [
                f"  {part['share_de00']:+6.1f}  {_named(project, part['coat'])}" for part in stage["parts"] if abs(part["share_de00"]) >= 0.05
            ]  # fmt: skip
    for number, offer in enumerate(answer["offers"], start=1):
        lines.append(
            _("{0}. {1}: gains {2:.2f} (±{3:.2f}), {4:+.0f} min").format(
                number, offer["words"], offer["gain"], offer["uncertainty"], offer["minutes"]
            )
        )
        lines += [f"   {harm}" for harm in offer["harms"]]
    return "\n".join([*lines, *answer["remarks"]])


def _named(project: Project, coat: str) -> str:
    from lean_sepia.document.called import coat_name

    return coat_name(project.coat(coat))
