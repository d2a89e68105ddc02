"""A coat as it is written on the sheet, and how a kind is usually written."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.colour.written import write_colour
from lean_sepia.document.edits.mixes import is_its_own
from lean_sepia.document.model import Coat, Printed, Project
from lean_sepia.document.versions import from_cup
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.profile import RUNS
from lean_sepia.paint.tools import SPECK_MM, TOOLS
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.owned import EVERYTHING, Owned
from lean_sepia.plan.presets import preset
from lean_sepia.recipe.phrases.ratio import spoken

_THIN = 0.85


def laid_kinds() -> tuple[str, ...]:
    """The kinds of step in which a coat is laid or taken away."""
    return tuple(name for name, kind in KINDS.items() if kind.covers != "nothing")


@dataclass(frozen=True)
class Draft:
    """A coat as it is written on the sheet.

    of : what it is mixed of, as people say it; a bottle, a mix, a cup, or a colour; empty for what needs none
    thinned : the thinning as people say it, such as "1:20" or "60 % thinner"; empty for none, None as its kind and its bottle are
        usually thinned
    wiped : of what is drawn out, the share that is taken up again
    printed : of a marking, whether it is ink alone on clear film or has white below or in it; None where it is painted
    speck_mm : of what is flicked on, how broad the specks are in the mean
    finish, medium : of a coat that is only a colour
    rim, rim_share : of what marks have for a light rim, laid before them, and the share of the area it takes besides; none
        where nothing is written
    """

    kind: str
    of: str = ""
    thinned: str | None = ""
    carrier: str | None = None
    tool: str | None = None
    passes: int = 1
    area_share: float = 1.0
    name: str = ""
    profile: str | None = None
    far: float = 0.0
    down_to: str | None = None
    keep: float | None = None
    finish: str = "flat"
    medium: str | None = None
    rim: str = ""
    rim_share: float = 0.0
    printed: Printed | None = None
    wiped: float = 0.0
    speck_mm: float | None = None


def usual_draft(
    kind: str, tool: str | None = None, before: Draft | None = None, owns: Owned = EVERYTHING
) -> Draft:
    """A draft with the usual figures of a kind and tool; what it is mixed of is kept from an earlier one."""
    if tool is None and KINDS[kind].tools:
        tool = owns.usual_tool(kind)
    usual = preset(kind, tool)
    printed: Printed | None = "ink" if KINDS[kind].is_print and tool is None else None
    return Draft(
        kind, before.of if before else "", thinning_words(0.0 if printed else usual.thinner_share), None, tool, usual.passes,
        usual.area_share, before.name if before else "", usual.profile, usual.far,
        finish=before.finish if before else "flat", medium=before.medium if before else None,
        printed=(before.printed or printed) if before and printed else printed,
        speck_mm=SPECK_MM if tool and TOOLS[tool].flicked else None,
    )  # fmt: skip


def usual_thinner(kind: str, tool: str | None, bottle: Paint | None) -> float:
    """The share of thinner that goes to a bottle, or to a mix as one: what a kind usually has, less what it is sold with."""
    wanted = preset(kind, tool).thinner_share
    return wanted if bottle is None else bottle.thinned_to(wanted)


def thinning_words(thinner_share: float) -> str:
    """A thinning as it is written: parts to parts where it is thin, else per cent."""
    if thinner_share <= 0:
        return ""
    said = spoken(1 - thinner_share)
    return said.colour_to_thinner if thinner_share >= _THIN else said.percent_thinner


def draft_of(project: Project, coat: Coat) -> Draft:
    """The draft that would lay a coat as it is."""
    return Draft(
        coat.kind, mix_words(project, coat), thinning_words(coat.thinner_share), coat.carrier, coat.tool, coat.passes, coat.area_share,
        coat.name, coat.profile, coat.far, coat.down_to, coat.keep, coat.finish, coat.medium, printed=coat.printed, wiped=coat.wiped, speck_mm=coat.speck_mm,
    )  # fmt: skip


def mix_words(project: Project, coat: Coat) -> str:
    """What a coat is mixed of, as it can be typed again."""
    if coat.recipe is None:
        return "" if coat.lab is None else write_colour(coat.lab, 2)
    recipe = project.recipe(coat.recipe)
    if not is_its_own(project, coat):
        return from_cup(recipe)
    said = [(count, project.recipe(cup).name) for cup, count in recipe.cups]
    said += [(count, project.paint(version).name) for version, count in recipe.parts]
    if len(said) == 1:
        return said[0][1]
    return " + ".join(f"{count} {name}" for count, name in said)


def run_words(coat: Coat) -> str:
    """How a coat runs out over the zone, such as "from below, 20 % of it at the top"; empty where it is even."""
    if coat.profile is None:
        return ""
    run = RUNS[coat.profile]
    return _("{0}, {1} % of it at: {2}").format(_(run.words), f"{100 * coat.far:.0f}", _(run.far))
