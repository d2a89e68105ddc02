"""A whole stack of coats from a file: `strata`, as the strata column predicts it."""

from __future__ import annotations

from typing import Annotated, Any

import click
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.commands.recipes import mixed_paint
from lean_sepia.document.bounds import Lab, Parts, Share
from lean_sepia.errors import BadInputError
from lean_sepia.language import _
from lean_sepia.plan.names import Finish, KindName, ProfileName, ToolName

# The core is imported inside the command: help and the window start without it.


class _Ground(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    lab: Lab
    finish: Finish = "flat"


class _Coat(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    kind: KindName
    parts: dict[str, Parts] | None = None
    lab: Lab | None = None
    thinner_share: Annotated[float, Field(ge=0, lt=1)] = 0.0
    tool: ToolName = "airbrush"
    passes: Annotated[int, Field(ge=1, le=1000)] = 1
    area_share: Share = 1.0
    finish: Finish = "flat"
    on: bool = True
    down_to: Annotated[int, Field(ge=1)] | None = None
    profile: ProfileName | None = None
    far: Share = 0.0
    keep: Share | None = None


class _Stack(BaseModel):
    model_config = ConfigDict(extra="forbid")

    ground: _Ground | None = None
    coats: Annotated[tuple[_Coat, ...], Field(max_length=500)]


@click.command()
@click.argument("file")
@click.option("--shelf", required=True)
@json_option
def strata(file: str, shelf: str, as_json: bool) -> None:
    """Predict a whole stack of coats: each where it lies, and what is seen in the end."""
    from lean_sepia.answers.strata import strata_of
    from lean_sepia.document.check import plain_fault
    from lean_sepia.files.gate import read_json
    from lean_sepia.shelf.shelf_file import read_shelf

    data = read_json(file, _("The stack"), BadInputError)
    try:
        stack = _Stack.model_validate(data)
    except ValidationError as error:
        raise BadInputError(_("The stack {0}: {1}.").format(file, plain_fault(error))) from None
    project = _project(stack, {paint.id: paint for paint in read_shelf(shelf).paints()})
    cut = strata_of(project, "z1")
    bands = cut.bands[1:] if stack.ground else cut.bands
    answer: dict[str, Any] = {
        "coats": [{"kind": band.coat.kind, "lab": band.lab} for band in bands],
        "fresh": cut.fresh, "exposed": cut.exposed, "seen": cut.seen,
    }  # fmt: skip

    def words() -> str:
        lines = [f"{band.name}: {_colour(band.lab)}" for band in reversed(bands)]
        return "\n".join([*lines, _("Seen as one: {0}").format(_colour(cut.seen))])

    print_answer(answer, as_json, words)


def _colour(lab: tuple[float, float, float] | None) -> str:
    return _("no colour of its own") if lab is None else "L* {:.1f} a* {:.1f} b* {:.1f}".format(*lab)


def _project(stack: _Stack, paints: dict[str, Any]) -> Any:
    """The document of one zone with these coats, in the order of the file."""
    from lean_sepia.document.edits.zones import add_zone
    from lean_sepia.document.entities.mixed import Recipe
    from lean_sepia.document.entities.planned import Step
    from lean_sepia.document.model import Coat, Project
    from lean_sepia.document.versions import version_of

    project, zone = add_zone(Project(title="Stack"), "Stack")
    coats = (
        [Coat(id="c0", zone=zone, step="s0", kind="found", lab=stack.ground.lab, finish=stack.ground.finish)]
        if stack.ground
        else []
    )
    recipes: list[Recipe] = []
    versions: dict[str, Any] = {}
    for number, given in enumerate(stack.coats, start=1):
        if given.parts is not None and given.lab is not None:
            raise BadInputError(_("Coat {0} has parts and lab; give one of them.").format(number))
        recipe = None
        if given.parts is not None:
            if not given.parts:
                raise BadInputError(_("Coat {0} is mixed from nothing: name its paints.").format(number))
            mixed = {name: version_of(_one(paints, name, len(given.parts))) for name in given.parts}
            versions |= {version.id: version for version in mixed.values()}
            recipe = Recipe(
                id=f"r{number}",
                name="",
                parts=tuple((mixed[name].id, count) for name, count in given.parts.items()),
            )
            recipes.append(recipe)
        coats.append(
            Coat(
                id=f"c{number}", zone=zone, step=f"s{number}", kind=given.kind, recipe=recipe.id if recipe else None, lab=given.lab,
                passes=given.passes, thinner_share=given.thinner_share, tool=given.tool, area_share=given.area_share,
                finish=given.finish, on=given.on, down_to=_named(given.down_to, number), profile=given.profile, far=given.far,
                keep=given.keep,
            )
        )  # fmt: skip
    steps = tuple(Step(id=coat.step, kind=coat.kind) for coat in coats)
    return project.model_copy(
        update={
            "coats": tuple(coats),
            "steps": steps,
            "recipes": tuple(recipes),
            "paints": tuple(versions.values()),
        }
    )


def _named(coat: int | None, number: int) -> str | None:
    """The id of a coat that another goes down to, by its place in the file."""
    if coat is not None and coat >= number:
        raise BadInputError(
            _("Coat {0} goes down to coat {1}, which is not laid before it.").format(number, coat)
        )
    return None if coat is None else f"c{coat}"


def _one(paints: dict[str, Any], name: str, count: int) -> Any:
    """A paint of the shelf; what does not mix may still be laid alone."""
    if count == 1 and name in paints:
        return paints[name]
    return mixed_paint(paints, name)
