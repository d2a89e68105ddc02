"""How tools are cleaned after a step, and where what is left goes; common practice without a source, and local rules decide."""

from __future__ import annotations

from lean_sepia.language import _
from lean_sepia.paint.media import MEDIA
from lean_sepia.plan.step import PlanStep


def clearing(step: PlanStep) -> tuple[str, ...]:
    """What to clean and what to put where once a step is done; nothing of a step that handles no medium."""
    medium = step.medium or step.nature.medium
    if not step.nature.to_do or medium is None:
        return ()
    matter = MEDIA[medium]
    return (_(matter.cleaned), _(matter.disposed))
