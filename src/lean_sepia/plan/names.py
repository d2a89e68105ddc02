"""The names of the tables as fields of documents and plan files: checked wherever one is read."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import AfterValidator

from lean_sepia.language import N_, _
from lean_sepia.paint.handling.bodies import BODIES, USES
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.profile import RUNS
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.kinds import KINDS

Finish = Literal["flat", "satin", "gloss", "metallic"]
Place = Literal["indoors-extracted", "indoors", "outdoors"]
_OLD_KINDS = {"resist-chips": "resist"}
_NO_OLD: Mapping[str, str] = {}


def _named_in(table: Mapping[str, Any], old: Mapping[str, str] = _NO_OLD) -> AfterValidator:
    """A name of the table; an old name of one is read as the present one."""

    def check(name: str) -> str:
        name = old.get(name, name)
        if name not in table:
            raise ValueError(_("it is one of {0}").format(", ".join(table)))
        return name

    return AfterValidator(check)


KindName = Annotated[str, _named_in(KINDS, _OLD_KINDS)]
MediumName = Annotated[str, _named_in(MEDIA)]
ToolName = Annotated[str, _named_in(TOOLS)]
ProfileName = Annotated[str, _named_in(RUNS)]
UseName = Annotated[str, _named_in(USES)]
BodyName = Annotated[str, _named_in(BODIES)]
PLACE_WORDS: dict[Place, str] = {
    "indoors-extracted": N_("booth, extracted"), "indoors": N_("indoors"), "outdoors": N_("outdoors"),
}  # fmt: skip
