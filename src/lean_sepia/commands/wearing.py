"""How worn a region of a photo is: `wear`."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

import click

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.commands.evidence import anchor_option, kind_option, neutral_option
from lean_sepia.commands.given import Number, parse_anchors, parse_numbers
from lean_sepia.errors import BadInputError
from lean_sepia.language import _, ngettext
from lean_sepia.photo.stated.picture_kind import PictureKind

if TYPE_CHECKING:
    from lean_sepia.document.entities.worn import WearRecord
    from lean_sepia.wear.survey import Survey

_TOLD = {
    "name",
    "coverage_percent",
    "coverage_range90",
    "median_mm",
    "p90_mm",
    "count",
    "direction_deg",
    "edge_share",
}

# The core is imported inside the commands: help and the window start without it.


@click.command()
@click.argument("photo")
@click.option("--region", required=True, metavar="x0,y0,x1,y1")
@click.option("--base", required=True, metavar="X,Y,R", help="A disc of sound paint.")
@click.option(
    "--class", "classes", multiple=True, metavar="name=X,Y,R", help="A disc that shows one kind of wear."
)
@click.option(
    "--mm-per-px",
    type=Number(most=1e5),
    help="Millimetres on the prototype in a pixel; without it sizes are not told.",
)
@click.option("--scale", type=Number(most=1e4), required=True, help="N of 1:N.")
@click.option("--distance-mm", type=Number(most=1e5), default=300.0, show_default=True)
@kind_option
@neutral_option
@anchor_option
@json_option
def wear(
    photo: str, region: str, base: str, classes: tuple[str, ...], mm_per_px: float | None, scale: float, distance_mm: float,
    kind: PictureKind, neutral: tuple[str, ...], anchor: tuple[str, ...], as_json: bool,
) -> None:  # fmt: skip
    """Measure how worn a region is, and what of it can be seen at scale."""
    from lean_sepia.answers.wearing.surveying import survey_region
    from lean_sepia.answers.wearing.told import doubts_words
    from lean_sepia.photo.correction.cast_fit import fit_cast
    from lean_sepia.photo.patch import corners_of, disc_patch
    from lean_sepia.photo.read import read_picture

    picture = read_picture(photo)
    cast = fit_cast(picture.pixels, parse_anchors(neutral, anchor), kind)

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
    box = parse_numbers(region, "--region", (4,))
    found, record, _look = survey_region(
        picture.pixels, cast, corners_of(*box), colour(base, "--base", ""), named,
        mm_per_px=mm_per_px, scale=scale, distance_mm=distance_mm, spots=spots,
    )  # fmt: skip
    answer = _told(found, record, corrected=bool(neutral or anchor), notes=picture.notes)
    corrected = bool(neutral or anchor)
    print_answer(
        answer,
        as_json,
        lambda: "\n".join([*_wear_lines(record, scale), *doubts_words(found), *_uncorrected(corrected)]),
    )


def _told(found: Survey, record: WearRecord, *, corrected: bool, notes: Iterable[str]) -> dict[str, object]:
    from lean_sepia.answers.wearing.told import doubts_words

    return {
        "coverage_percent": record.coverage_percent,
        "classes": [one.model_dump(include=_TOLD) for one in record.classes],
        "grade": {"iso_4628_3": record.iso_4628_3, "astm_d610": record.astm_d610},
        "at_scale": {
            "smallest_visible_mm": record.smallest_visible_mm,
            "visible_coverage_percent": record.visible_coverage_percent,
            "tint_lab_shift": record.tint_lab_shift,
        },
        "colours_corrected": corrected,
        "notes": [*notes, *doubts_words(found)],
    }


def _uncorrected(corrected: bool) -> list[str]:
    return (
        []
        if corrected
        else [_("No anchor was given: the tint shift is in the picture's own, uncorrected colours.")]
    )


def _wear_lines(record: WearRecord, scale: float) -> list[str]:
    from lean_sepia.answers.wearing.told import grade_words, way_words

    lines = [_("{0:.2f} % worn").format(record.coverage_percent)]
    if grade := grade_words(record):
        lines.append(grade)
    for c in record.classes:
        low, high = c.coverage_range90 or (c.coverage_percent, c.coverage_percent)
        words = _("  {0}: {1:.2f} % (9 in 10 within {2:.2f}–{3:.2f})").format(
            c.name, c.coverage_percent, low, high
        )
        if c.count:
            words += ", " + ngettext("{0} whole mark", "{0} whole marks", c.count).format(c.count)
        if c.count and c.median_mm is not None and c.p90_mm is not None:
            words += _(", median {0:.0f} mm, 90 % below {1:.0f} mm").format(c.median_mm, c.p90_mm)
        if c.direction_deg is not None:
            words += ", " + way_words(c.direction_deg, c.direction_within_deg)
        lines.append(words)
    if record.visible_coverage_percent is None:
        lines.append(
            _("No length is known in this picture: shares only, no sizes. Give --mm-per-px for them.")
        )
    else:
        lines.append(
            _("At 1:{0:g} marks below {1:.1f} mm cannot be seen; {2:.2f} % can.").format(
                scale, record.smallest_visible_mm, record.visible_coverage_percent
            )
        )
    return lines
