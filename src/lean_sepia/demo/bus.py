"""The second demo subject: the service's harbour motor bus no. 3 at 1:43, a finished model made over without a single photo.

All of it is written as a person would write it on the sheets. The colours are invented.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lean_sepia.answers.coats.draft import Draft, usual_draft
from lean_sepia.answers.coats.laying import laid
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.coats.stating import read_stated
from lean_sepia.answers.coats.worn import worn_draft
from lean_sepia.answers.strata import strata_of
from lean_sepia.document.edits.coats import LOWEST
from lean_sepia.document.edits.steps import add_step
from lean_sepia.document.edits.zones import NewZone, add_zones, group_zones, name_feature, state_target
from lean_sepia.document.model import Project, Subject
from lean_sepia.paint.paint import Paint

_ZONES = (
    NewZone("Lower body", 46.0),
    NewZone("Upper body", 33.0),
    NewZone("Roof", 40.0),
    NewZone("Wings", 9.0),
    NewZone("Bumpers", 3.0),
)
_FOUND = {
    "Lower body": ("#2d6e77", "gloss"), "Upper body": ("#ece2c4", "gloss"), "Roof": ("#e4e2da", "satin"),
    "Wings": ("#232527", "gloss"), "Bumpers": ("#a8aaac", "metallic"),
}  # fmt: skip
_STATED = (
    ("Lower body", "fresh", "deep sea", 3.0), ("Lower body", "exposed", "48, -13, -5", 3.0), ("Upper body", "fresh", "cream", 2.0),
    ("Roof", "fresh", "bone white", 2.0), ("Roof", "seen", "80, 3, 14", 4.0),
)  # fmt: skip


class _Bench:
    """Lays one coat after another, as the sheets do."""

    def __init__(self, project: Project, paints: Sequence[Paint]) -> None:
        self.project, self.paints = project, tuple(paints)

    def lay(self, names: Sequence[str], draft: Draft) -> None:
        """Lay a draft on zones, in one step, on top of what lies on the first of them; what is there already lies lowest."""
        zones = tuple(next(zone.id for zone in self.project.zones if zone.name == name) for name in names)
        coats = self.project.coats_of(zones[0])
        above = coats[-1].id if coats else LOWEST
        self.project = laid(LayQuestion(self.project, zones, draft, self.paints, above)).project

    def worn(self, name: str, kind: str, amount: int, share: float | None = None) -> None:
        """Lay wear of a kind, subtle, usual or heavy, or on a share of the area."""
        zone = next(zone.id for zone in self.project.zones if zone.name == name)
        targets = strata_of(self.project, zone).targets
        draft = worn_draft(targets, kind, amount, self.paints)
        self.lay([name], draft if share is None else replace(draft, area_share=share))


def bus_project(paints: Sequence[Paint]) -> Project:
    """The bus as far as it is thought through: what is there, what is to come, and in which order."""
    subject = Subject(
        id="m1",
        name="Harbour bus no. 3",
        scale=43,
        livery="second livery",
        livery_from="1954",
        livery_to="1963",
        what_if=False,
    )
    project = Project(title="Harbour bus no. 3", subjects=(subject,))
    project, _made = add_zones(project, _ZONES)
    ids = {zone.name: zone.id for zone in project.zones}
    for name, target, written, radius in _STATED:
        lab, origin = read_stated(written, project, paints)
        project = state_target(project, ids[name], lab, target, radius, origin)  # type: ignore[arg-type]
    project = group_zones(project, "Body sides", {ids["Lower body"]: 0.58, ids["Upper body"]: 0.42})
    project = name_feature(project, "A pale roof, rain-streaked at the gutters")
    bench = _Bench(project, paints)
    _found(bench)
    _finished(bench)
    project, _step = add_step(bench.project, "test-piece", title="Try white spirit inside the floor")
    return project


def _found(bench: _Bench) -> None:
    for name, (colour, finish) in _FOUND.items():
        medium = None if finish == "metallic" else "unknown"
        bench.lay([name], Draft("found", colour, finish=finish, medium=medium))


def _finished(bench: _Bench) -> None:
    painted = ["Lower body", "Upper body", "Roof", "Wings"]
    bench.lay(painted, usual_draft("satin-coat"))
    for name, bottle in (("Lower body", "deep sea"), ("Upper body", "cream"), ("Roof", "bone white")):
        bench.lay([name], Draft("base", bottle, "60 % thinner", None, "airbrush", 3))
    bench.lay(
        ["Lower body"], Draft("marking", "cream", "20 % thinner", None, "brush", 2, 0.015, "Service name")
    )
    bench.lay(
        ["Lower body"],
        Draft(
            "fade",
            "1 gloss medium + 1 greenish off-white",
            "80 % thinner",
            None,
            "mist",
            3,
            profile="above",
            far=0.3,
        ),
    )
    bench.lay(["Roof"], Draft("fade", "2:1:10 tan, flat base, alcohol", "", None, "mist", 2))
    bench.lay(["Upper body", "Lower body"], Draft("filter", "oil raw umber", "1:20", None, "glaze", 2))
    bench.lay(painted, usual_draft("matte-coat"))
    bench.worn("Roof", "streaks", 0)
    bench.worn("Lower body", "undercoat", 0)
    bench.worn("Roof", "soot", 1, 0.12)
    bench.lay(
        ["Lower body", "Wings"],
        Draft("dust", "quay dust", "", None, "brush", 1, 0.25, profile="below", far=0.1),
    )
