"""How worn a region of a photo is: `wear`."""

from __future__ import annotations

from typing import TYPE_CHECKING

import click

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.commands.evidence import anchor_option, neutral_option
from lean_sepia.commands.given import Number, parse_anchors, parse_numbers
from lean_sepia.errors import BadInputError
from lean_sepia.language import _

if TYPE_CHECKING:
    from lean_sepia.document.worn import WearRecord

# The core is imported inside the commands: help and the window start without it.


@click.command()
@click.argument("photo")
@click.option("--region", required=True, metavar="x0,y0,x1,y1")
@click.option("--base", required=True, metavar="X,Y,R", help="A disc of sound paint.")
@click.option(
    "--class", "classes", multiple=True, metavar="name=X,Y,R", help="A disc that shows one kind of wear."
)
@click.option(
    "--mm-per-px", type=Number(most=1e5), required=True, help="Millimetres on the prototype in a pixel."
)
@click.option("--scale", type=Number(most=1e4), required=True, help="N of 1:N.")
@click.option("--distance-mm", type=Number(most=1e5), default=300.0, show_default=True)
@neutral_option
@anchor_option
@json_option
def wear(
    photo: str, region: str, base: str, classes: tuple[str, ...], mm_per_px: float, scale: float, distance_mm: float,
    neutral: tuple[str, ...], anchor: tuple[str, ...], as_json: bool,
) -> None:  # fmt: skip
    """Measure how worn a region is, and what of it can be seen at scale."""
    from lean_sepia.answers.wear import survey_region
    from lean_sepia.photo.correction.cast_fit import fit_cast
    from lean_sepia.photo.patch import disc_patch
    from lean_sepia.photo.read import read_picture

    picture = read_picture(photo)
    cast = fit_cast(picture.pixels, parse_anchors(neutral, anchor, None))

    spots: dict[str, tuple[float, float, float]] = {}

    def colour(text: str, what: str, of: str) -> tuple[float, float, float]:
        x, y, radius = parse_numbers(text, what, (3,))
        spots[of] = (x, y, radius)
        L, a, b = cast.lab(disc_patch(picture.pixels, x, y, radius).mean)
        return float(L), float(a), float(b)

    named = {}
    for text in classes:
        name, sign, place = text.partition("=")
        if not sign or not name.strip() or name.strip() in named:
            raise BadInputError(_("A class is written name=X,Y,R, each name once; found {0!r}.").format(text))
        named[name.strip()] = colour(place, "--class", name.strip())
    x0, y0, x1, y1 = parse_numbers(region, "--region", (4,))
    _unused, record = survey_region(
        picture.pixels, cast, (x0, y0, x1, y1), colour(base, "--base", ""), named,
        mm_per_px=mm_per_px, scale=scale, distance_mm=distance_mm, spots=spots,
    )  # fmt: skip
    answer = {
        "coverage_percent": record.coverage_percent,
        "classes": [found.model_dump(exclude={"lab"}) for found in record.classes],
        "grade": {"iso_4628_3": record.iso_4628_3, "astm_d610": record.astm_d610},
        "at_scale": {
            "smallest_visible_mm": record.smallest_visible_mm,
            "visible_coverage_percent": record.visible_coverage_percent,
            "tint_lab_shift": record.tint_lab_shift,
        },
        "colours_corrected": bool(neutral or anchor),
        "notes": list(picture.notes),
    }

    corrected = bool(neutral or anchor)
    print_answer(answer, as_json, lambda: _wear_words(record, scale, corrected))


def _wear_words(record: WearRecord, scale: float, corrected: bool) -> str:
    lines = [
        _("{0:.2f} % worn; rust {1} (ISO 4628-3), {2} (ASTM D610)").format(
            record.coverage_percent, record.iso_4628_3, record.astm_d610
        )
    ]
    lines += [
        _("  {0}: {1:.2f} %, {2} marks, median {3:.0f} mm, 90 % below {4:.0f} mm").format(
            c.name, c.coverage_percent, c.count, c.median_mm, c.p90_mm
        )
        for c in record.classes
    ]
    lines.append(
        _("At 1:{0:g} marks below {1:.1f} mm cannot be seen; {2:.2f} % can.").format(
            scale, record.smallest_visible_mm, record.visible_coverage_percent
        )
    )
    if not corrected:
        lines.append(_("No anchor was given: the tint shift is in the picture's own, uncorrected colours."))
    return "\n".join(lines)
