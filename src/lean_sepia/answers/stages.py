"""At which stages a zone is compared with its targets, and how far it is from each: one figure for one stage, in every room."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.answers.strata import Strata
from lean_sepia.answers.targets import Target, Targets
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Project
from lean_sepia.language import N_

STAGES = ("fresh", "exposed", "seen")
STAGE_WORDS = {
    "fresh": N_("fresh"), "exposed": N_("faded, without marks"), "seen": N_("as seen, wear and dirt included"),
}  # fmt: skip
"""Where the colour of a stage is looked for on the model."""

AWAY_WORDS = {
    "fresh": N_("{0:.1f} from the fresh colour"), "exposed": N_("{0:.1f} from the faded colour"), "seen": N_("{0:.1f} from what is to be seen"),
}  # fmt: skip
"""How far a stage is from its target."""


@dataclass(frozen=True)
class Compared:
    """A target of a zone beside the colour predicted for its stage; None where nothing is laid that would have one."""

    stage: str
    target: Target
    predicted: Lab | None

    @property
    def de00(self) -> float | None:
        """How far apart they are."""
        return None if self.predicted is None else float(delta_e00(self.predicted, self.target.lab))


def aims(targets: Targets, *, fades: bool) -> dict[str, Target]:
    """The target of each stage that has one of its own; one sample that serves for both fresh and exposed counts once.

    It is then that of the exposed surface, as it was photographed, unless a fade is laid, which goes beyond it, or the user stated it
    as fresh.
    """
    found = {"fresh": targets.fresh, "exposed": targets.exposed, "seen": targets.seen}
    if targets.fresh is not None and targets.fresh == targets.exposed:
        del found["exposed" if fades or targets.fresh.stated else "fresh"]
    return {stage: target for stage, target in found.items() if target is not None}


def compared(cut: Strata) -> tuple[Compared, ...]:
    """A zone beside its targets, in the order of the stages."""
    fades = any(band.coat.on and band.coat.nature.fades for band in cut.bands)
    predicted = {"fresh": cut.fresh, "exposed": cut.exposed, "seen": cut.seen}
    return tuple(
        Compared(stage, target, predicted[stage]) for stage, target in aims(cut.targets, fades=fades).items()
    )


def last_compared(cut: Strata) -> Compared | None:
    """What is shown at the foot of the strata: the last stage that has a target and a colour; None where none has."""
    return next((one for one in reversed(compared(cut)) if one.predicted is not None), None)


def aimed_at(project: Project, zone_id: str, targets: Targets, stage: str) -> tuple[str, Target] | None:
    """The stage at which what belongs to a stage is judged, and its target: its own, else the next later that has one, else an earlier."""
    fades = any(coat.on and coat.nature.fades for coat in project.coats_of(zone_id))
    known = aims(targets, fades=fades)
    first = STAGES.index(stage)
    chosen = next((name for name in (*STAGES[first:], *reversed(STAGES[:first])) if name in known), None)
    return None if chosen is None else (chosen, known[chosen])
