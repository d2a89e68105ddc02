"""Colours and greys from pictures: `sample` and `film`."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import TYPE_CHECKING, Any

import click

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.commands.given import parse_anchors, parse_numbers
from lean_sepia.errors import BadInputError
from lean_sepia.language import _
from lean_sepia.photo.stated.picture_kind import KIND_WORDS, PICTURE_KINDS, PictureKind

if TYPE_CHECKING:
    from lean_sepia.photo.correction.cast import Anchor
    from lean_sepia.photo.correction.kind_guess import KindGuess
    from lean_sepia.photo.read import Pixels
    from lean_sepia.photo.sample import SampledColour

# The core is imported inside the commands: help and the window start without it.


neutral_option = click.option(
    "--neutral", multiple=True, metavar="X,Y,R[,L]", help="Something grey, its L* if known."
)
anchor_option = click.option(
    "--anchor", multiple=True, metavar="X,Y,R,L,a,b", help="Something of known colour."
)


kind_option = click.option(
    "--kind", type=click.Choice(PICTURE_KINDS), default="unknown", show_default=True,
    help="What kind of picture it is; a stated one narrows the ranges.",
)  # fmt: skip


@click.command()
@click.argument("photo")
@kind_option
@neutral_option
@anchor_option
@click.option(
    "--chart", metavar="x,y,x,y,x,y,x,y", help="Centres of the corner patches of the 24-patch chart."
)
@click.option("--area", multiple=True, metavar="x0,y0,x1,y1", help="Plain mean of a rectangle.")
@click.option("--at", multiple=True, metavar="X,Y,R", help="A disc to sample.")
@json_option
def sample(
    photo: str, kind: PictureKind, neutral: tuple[str, ...], anchor: tuple[str, ...], chart: str | None, area: tuple[str, ...],
    at: tuple[str, ...], as_json: bool,
) -> None:  # fmt: skip
    """Sample corrected colours from a photo, each with its range."""
    from lean_sepia.photo.correction.cast_fit import fit_cast
    from lean_sepia.photo.correction.next_evidence import open_words, what_is_open
    from lean_sepia.photo.patch import rectangle_mean
    from lean_sepia.photo.read import read_picture
    from lean_sepia.photo.sample import sample_disc

    if not at and not area:
        raise BadInputError(
            _("Nothing to sample: give --at X,Y,R for a disc or --area x0,y0,x1,y1 for a rectangle.")
        )
    picture = read_picture(photo)
    patches, turned = _chart(picture.pixels, chart)
    cast = fit_cast(picture.pixels, parse_anchors(neutral, anchor) + patches, kind)
    samples: list[dict[str, Any]] = []
    clipping: list[str] = []
    for text in at:
        x, y, radius = parse_numbers(text, "--at", (3,))
        found = sample_disc(picture.pixels, cast, x, y, radius)
        told, words = _told_of(found)
        samples.append({"x": x, "y": y, **told})
        clipping.append(words)
    areas = [
        {
            "lab": [
                float(v)
                for v in cast.lab(rectangle_mean(picture.pixels, *parse_numbers(text, "--area", (4,))))
            ]
        }
        for text in area
    ]
    answer: dict[str, Any] = {
        "correction": {
            "model": cast.model,
            "anchor_error_de00": cast.anchor_error_de00,
            "warnings": list(cast.warnings),
        },
        "samples": samples,
        "notes": [*picture.notes, *turned, *_kind_notes(kind, picture.guess)],
    }
    if areas:
        answer["areas"] = areas

    print_answer(answer, as_json, lambda: _sample_words(answer, clipping, open_words(what_is_open(cast))))


def _chart(pixels: Pixels, corners: str | None) -> tuple[list[Anchor], list[str]]:
    """The patches of a chart as anchors, and in words where its corners were not given in order."""
    from lean_sepia.photo.correction.chart import as_it_lies, chart_anchors

    if not corners:
        return [], []
    given = parse_numbers(corners, "--chart", (8,))
    lies = as_it_lies(pixels, given)
    words = _("the chart lies turned: its corners were taken from its dark brown patch on")
    return chart_anchors(lies), [words] if lies != given else []


def _told_of(found: SampledColour) -> tuple[dict[str, Any], str]:
    """A sample by the keys of the contract, and in words what is clipped or uneven about it, which no key tells."""
    from lean_sepia.photo.sample import clipping_words, uneven_words

    told = asdict(found)
    words = (clipping_words(found.clipped, found.bound), uneven_words(told.pop("uneven")))
    return told, "; ".join(part for part in words if part)


def _kind_notes(kind: PictureKind, guess: KindGuess) -> list[str]:
    """What the picture looks like, where nothing is stated: a guess never narrows a range."""
    if kind != "unknown" or guess.kind == "unknown":
        return []
    words = _("it looks like: {0} ({1}); stated with --kind {2} it would narrow the ranges")
    return [words.format(_(KIND_WORDS[guess.kind]), _(guess.why), guess.kind)]


def _sample_words(answer: Mapping[str, Any], clipping: Sequence[str], still_open: str) -> str:
    from lean_sepia.colour.words import colour_name

    correction = answer["correction"]
    error = correction["anchor_error_de00"]
    held_out = "" if error is None else _(", held-out anchor error {0:.1f}").format(error)
    lines = [_("Correction: {0}{1}").format(correction["model"], held_out)]
    lines += [still_open] if still_open else []
    lines += [_("Note: {0}").format(note) for note in (*answer["notes"], *correction["warnings"])]
    for one, warned in zip(answer["samples"], clipping, strict=True):
        L, a, b = one["lab"]
        name = colour_name(one["lab"])
        lines.append(
            f"{one['x']:g},{one['y']:g}: L* {L:.1f} a* {a:.1f} b* {b:.1f}, ±{one['de00_90']:.1f} ΔE00 (90 %), {name}"
        )
        if warned:
            lines.append(f"  {warned}")
    area = _("area: L* {0:.1f} a* {1:.1f} b* {2:.1f}")
    lines += [area.format(*found["lab"]) for found in answer.get("areas", ())]
    return "\n".join(lines)


@click.command()
@click.option("--shelf", required=True, help="A shelf file, JSON or CSV.")
@click.option("--paint", "chosen", multiple=True, metavar="ID", help="Only these paints.")
@click.option("--emulsion", type=click.Choice(("blue", "ortho", "pan")), required=True)
@click.option(
    "--lens-filter", type=click.Choice(("none", "yellow", "orange", "red")), default="none", show_default=True
)
@click.option("--light", type=click.Choice(("daylight", "tungsten")), default="daylight", show_default=True)
@json_option
def film(
    shelf: str, chosen: tuple[str, ...], emulsion: Any, lens_filter: Any, light: Any, as_json: bool
) -> None:
    """Say what grey each paint gives on black-and-white film."""
    from lean_sepia.colour.film import film_grey
    from lean_sepia.paint.paint import Knowledge
    from lean_sepia.shelf.shelf_file import read_shelf

    paints = {paint.id: paint for paint in read_shelf(shelf).paints()}
    unknown = [name for name in chosen if name not in paints]
    if unknown:
        raise BadInputError(
            _("There is no paint {0!r} on this shelf. Its ids are such as {1}.").format(
                unknown[0], ", ".join(list(paints)[:4])
            )
        )
    greys = [
        {
            "paint": name,
            "grey": float(film_grey(paints[name].masstone_reflectance(), emulsion, lens_filter, light)),
            "estimated": paints[name].knowledge is not Knowledge.SPECTRAL,
        }
        for name in chosen or paints
    ]

    def words() -> str:
        estimated = _("  (spectrum estimated)")
        lines = [
            f"{g['grey']:.3f}  {paints[str(g['paint'])].name}" + (estimated if g["estimated"] else "")
            for g in greys
        ]
        return "\n".join(
            [
                *lines,
                _("0 is black, 1 a perfect white in the same light. A print's own curve comes on top of it."),
            ]
        )

    print_answer({"greys": greys}, as_json, words)
