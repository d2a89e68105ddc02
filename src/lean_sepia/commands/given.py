"""What the command line is given, read and checked: numbers, colours, mixtures, anchors."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import wraps
from typing import TYPE_CHECKING, Any

import click

from lean_sepia.errors import BadInputError, ColourError
from lean_sepia.files.gate import csv_rows, read_text
from lean_sepia.files.typed import LARGEST, to_number
from lean_sepia.language import _

if TYPE_CHECKING:
    from lean_sepia.arrays import FloatArray
    from lean_sepia.paint.laying import Laying
    from lean_sepia.paint.paint import Paint
    from lean_sepia.paint.stack import Covers
    from lean_sepia.photo.correction.cast import Anchor

# The core is imported inside the functions, so that `lean-sepia --help` does not wait for it.

FINISHES = ("flat", "satin", "gloss")
_COUNT = re.compile(r"0*[1-9][0-9]{0,5}")


class Number(click.ParamType[float]):
    """A finite number of an option, within bounds where they are given."""

    name = "number"

    def __init__(self, least: float = -LARGEST, most: float = LARGEST) -> None:
        self._least, self._most = least, most

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> float:
        """Click's hook."""
        try:
            number = value if isinstance(value, float) else to_number(str(value))
        except ValueError:
            self.fail(_("{0!r} is not a number from −1e9 to 1e9.").format(str(value)[:40]), param, ctx)
        if not self._least <= number <= self._most:
            words = _("{0:g} is not between {1:g} and {2:g}.")
            self.fail(words.format(number, self._least, self._most), param, ctx)
        return number


def parse_numbers(text: str, what: str, counts: tuple[int, ...]) -> list[float]:
    """Numbers with commas between them, as many as one of `counts` says."""
    try:
        values = [to_number(part) for part in text.split(",")]
    except ValueError:
        raise BadInputError(
            _("{0} is written as numbers with commas between them; found {1!r}.").format(what, text)
        ) from None
    if len(values) not in counts:
        wanted = " or ".join(str(count) for count in counts)
        raise BadInputError(_("{0} takes {1} numbers; found {2!r}.").format(what, wanted, text))
    return values


def parse_lab(text: str, what: str) -> tuple[float, float, float]:
    """A colour `L,a,b` that a surface can have."""
    from lean_sepia.colour.lab import checked_lab

    L, a, b = checked_lab(parse_numbers(text, what, (3,)))
    return float(L), float(a), float(b)


def parse_lab_and_finish(text: str, what: str) -> tuple[tuple[float, float, float], str]:
    """`L,a,b[,finish]`, flat by default."""
    parts = text.split(",")
    finish = parts.pop().strip() if len(parts) == 4 else "flat"
    if finish not in FINISHES:
        raise BadInputError(
            _("{0}: the finish is one of {1}; found {2!r}.").format(what, ", ".join(FINISHES), finish)
        )
    return parse_lab(",".join(parts), what), finish


def parse_parts(text: str) -> list[tuple[str, int]]:
    """A mixture `id=parts,id=parts`, whole parts of at least 1, each paint once."""
    answer = []
    for piece in text.split(","):
        name, sign, count = piece.partition("=")
        if not sign or not (found := _COUNT.fullmatch(count.strip())):
            raise BadInputError(
                _(
                    "A mixture is written id=parts,id=parts with whole parts of at least 1; found {0!r}."
                ).format(piece)
            )
        answer.append((name.strip(), int(found[0])))
    names = [name for name, _unused in answer]
    if len(set(names)) < len(names):
        raise BadInputError(_("A mixture names each paint once; found {0!r}.").format(text))
    return answer


def parse_anchors(neutral: tuple[str, ...], anchor: tuple[str, ...]) -> list[Anchor]:
    """Anchors of a photo from --neutral and --anchor."""
    from lean_sepia.colour.lab import checked_lab
    from lean_sepia.photo.correction.cast import Anchor

    found = []
    for text in neutral:
        x, y, radius, *lightness = parse_numbers(text, "--neutral", (3, 4))
        if lightness:
            checked_lab([lightness[0], 0, 0])
        found.append(Anchor(x, y, radius, lightness[0] if lightness else None))
    for text in anchor:
        x, y, radius, L, a, b = parse_numbers(text, "--anchor", (6,))
        checked_lab([L, a, b])
        found.append(Anchor(x, y, radius, L, a, b))
    return found


@dataclass(frozen=True)
class Film:
    """How a coat is laid, as the options say it: --over, --coats, --thinner-share, --tool and --varnish."""

    over: str | None
    coats: float | None
    thinner_share: float | None
    tool: str | None
    varnish: str | None

    def laying(self) -> Laying:
        """The laying; opaque without --over."""
        from lean_sepia.paint.laying import Laying
        from lean_sepia.paint.stack import Coating, Opaque, Stack
        from lean_sepia.paint.tools import TOOLS

        if self.over is None:
            if self.coats is not None or self.thinner_share is not None or self.tool is not None:
                raise BadInputError(
                    _(
                        "--coats, --thinner-share and --tool describe a film: say with --over L,a,b what lies below."
                    )
                )
            return Laying(varnish=self.varnish)
        tool = self.tool or "airbrush"
        coats = 1.0 if self.coats is None else self.coats
        X = _thickness(coats, self.thinner_share or 0.0, "--coats", "--thinner-share", tool)
        ground = Stack().lay(Coating("film", Opaque.of_lab(*parse_lab_and_finish(self.over, "--over"))))
        covers: Covers = "tint" if TOOLS[tool].drawn_out else "film"
        return ground.laying(Coating(covers, X=X), self.varnish)

    def before(self, base: Paint) -> FloatArray:
        """L*a*b* (3,) from which a wish for lighter starts: what lies below, else the opaque base, under the same varnish."""
        import numpy as np

        from lean_sepia.paint.laying import Laying
        from lean_sepia.paint.stack import Coating, Opaque, Stack

        if self.over is None:
            return Laying(varnish=self.varnish).lab(base)
        ground = Stack().lay(Coating("film", Opaque.of_lab(*parse_lab_and_finish(self.over, "--over"))))
        seen = ground.lab(self.varnish)
        assert seen is not None
        return np.array(seen)


def film_options(command: Callable[..., None]) -> Callable[..., None]:
    """The options that say how a coat is laid; the command gets them as one `film`."""
    from lean_sepia.paint.tools import TOOLS

    @click.option("--over", metavar="L,a,b[,finish]", help="What lies below.")
    @click.option("--coats", type=Number())
    @click.option("--thinner-share", type=Number())
    @click.option("--tool", type=click.Choice(tuple(TOOLS)), help="airbrush unless said.")
    @click.option("--varnish", type=click.Choice(FINISHES))
    @wraps(command)
    def wrapped(
        over: str | None, coats: float | None, thinner_share: float | None, tool: str | None,
        varnish: str | None, **others: object,
    ) -> None:  # fmt: skip
        command(film=Film(over, coats, thinner_share, tool, varnish), **others)

    return wrapped


def parse_film(text: str) -> tuple[list[tuple[str, int]], float]:
    """A film `id=parts,...;coats[;thinner share]`: its parts and its thickness X."""
    mixture, *numbers = text.split(";")
    if not 1 <= len(numbers) <= 2:
        raise BadInputError(
            _(
                "A film is written id=parts,id=parts;coats or with ;thinner-share behind it; found {0!r}."
            ).format(text)
        )
    values = [parse_numbers(number, _("A film's coats and thinner share"), (1,))[0] for number in numbers]
    coats, thinner_share = values if len(values) == 2 else (values[0], 0.0)
    return parse_parts(mixture), _thickness(
        coats, thinner_share, "A film's coats", _("A film's thinner share")
    )


def _thickness(
    coats: float, thinner_share: float, coats_name: str, share_name: str, tool: str = "airbrush"
) -> float:
    from lean_sepia.paint.film import film_thickness

    if not coats > 0:
        raise BadInputError(_("{0} is greater than 0; found {1:g}.").format(coats_name, coats))
    if not 0 <= thinner_share < 1:
        raise BadInputError(
            _("{0} is a share from 0 to below 1, such as 0.6; found {1:g}.").format(share_name, thinner_share)
        )
    return film_thickness(coats, thinner_share, tool)


def parse_target_rows(path: str) -> list[tuple[float, float, float]]:
    """Targets from a CSV file with the header L,a,b."""
    text = read_text(path, _("The targets"), ColourError)
    rows = []
    for line, cells in csv_rows(text, path, _("The targets"), "Lab", ColourError):
        try:
            rows.append(parse_lab(",".join(cells[key] for key in "Lab"), "a target"))
        except BadInputError as error:
            raise ColourError(_("{0}, line {1}: {2}").format(path, line, error)) from None
    if not rows:
        raise ColourError(_("The targets {0} list no colour.").format(path))
    return rows


def parse_moment(text: str) -> datetime:
    """A date and time in ISO form, without a time zone."""
    from lean_sepia.plan.hours.evenings import YEARS, in_our_time

    try:
        moment = datetime.fromisoformat(text).replace(tzinfo=None)
    except ValueError:
        moment = None
    if moment is None or not in_our_time(moment):
        words = _("--start is a date and time such as 2031-03-03T19:00, from {1} to {2}; found {0!r}.")
        raise BadInputError(words.format(text, *YEARS)) from None
    return moment
