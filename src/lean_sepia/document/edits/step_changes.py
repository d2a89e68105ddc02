"""What is said of a step is changed: its own fields, and kind, tool, medium and zones of the coats that are laid in it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from lean_sepia.document.called import title_of
from lean_sepia.document.edits.coats import copy_coat, remove_coat
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.sittings import work_on
from lean_sepia.document.entities.planned import Step
from lean_sepia.document.model import Coat, Project
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS

_OF_THE_STEP = ("title", "after", "mask", "place", "hands_on_min", "touch_dry_min", "full_cure_min", "workable_until_min",
                "removable_until_min", "note", "remark", "carrier")  # fmt: skip


def change_step(project: Project, step_id: str, changes: Mapping[str, Any]) -> Project:
    """Change what is said of a step: its own fields, and kind, tool, medium and zones of it or of the coats laid in it.

    Raises
    ------
    EditError
        A coat mixed from paints has the medium of its paints, a kind does not fit, or a step would lose its last zone.
    """
    step = project.step(step_id)
    own = {name: value for name, value in changes.items() if name in _OF_THE_STEP}
    coats = project.laid_in(step_id)
    if "kind" in changes and changes["kind"] != step.kind:
        project = _with_kind(project, step, coats, changes["kind"])
        own["kind"] = changes["kind"]
    if "tool" in changes:
        own |= {} if coats else {"tool": changes["tool"]}
        tool = changes["tool"] or project.owns.usual_tool(own.get("kind", step.kind))
        project = _with_coats(project, step_id, {"tool": tool})
    if "medium" in changes:
        if any(coat.recipe for coat in coats) and changes["medium"] is not None:
            raise EditError(
                _("“{0}” has the medium of the paints it is mixed from. Mix it from others to change that.").format(
                    title_of(project, step)
                )
            )  # fmt: skip
        own |= {} if coats else {"medium": changes["medium"]}
        project = _with_coats(project, step_id, {"medium": changes["medium"]})
    project = put(project, "steps", Step.model_validate({**project.step(step_id).model_dump(), **own}))
    if "zones" in changes:
        project = _with_zones(project, step_id, tuple(changes["zones"]))
    if "serves" in changes:
        project = work_on(project, step_id, changes["serves"])
    return project


def _with_kind(project: Project, step: Step, coats: Sequence[Coat], kind: str) -> Project:
    one, other = step.nature, KINDS[kind]
    if coats and other.covers == "nothing":
        raise EditError(
            _("A coat is laid in “{0}”, and {1} lays none. Take the coat away, or add a step beside it.").format(
                title_of(project, step), _(other.title)
            )
        )  # fmt: skip
    if not coats and one.covers == "nothing":
        return project
    return _with_coats(project, step.id, {"kind": kind})


def _with_coats(project: Project, step_id: str, changes: Mapping[str, Any]) -> Project:
    for coat in project.coats:
        if coat.step == step_id:
            project = put(project, "coats", Coat.model_validate({**coat.model_dump(), **changes}))
    return project


def _with_zones(project: Project, step_id: str, zones: tuple[str, ...]) -> Project:
    """A step on other zones: its coat is laid on new ones as on the first, and taken off those that are no longer named."""
    coats = project.laid_in(step_id)
    if not coats:
        return put(project, "steps", project.step(step_id).model_copy(update={"zones": zones}))
    if not zones:
        raise EditError(
            _("A coat is laid somewhere: “{0}” needs a zone. Remove the step to take it away.").format(
                title_of(project, project.step(step_id))
            )
        )
    new = [zone for zone in zones if zone not in {coat.zone for coat in coats}]
    project = copy_coat(project, coats[0].id, new)
    for coat in coats:
        if coat.zone not in zones:
            project = remove_coat(project, coat.id)
    return put(project, "steps", project.step(step_id).model_copy(update={"zones": ()}))
