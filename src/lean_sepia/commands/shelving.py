"""A shelf from one photo: `swatch-card` prints the card, `shelf read` reads its picture."""

from __future__ import annotations

from typing import TYPE_CHECKING

import click

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.commands.given import Number
from lean_sepia.errors import BadInputError
from lean_sepia.language import _, ngettext

if TYPE_CHECKING:
    from lean_sepia.photo.swatch_card import CardReading

# The core is imported inside the commands: help and the window start without it.


@click.command("swatch-card")
@click.option("--pdf", required=True, metavar="OUT.pdf")
@click.option("--layout", metavar="OUT.json", help="Where its fields lie, in millimetres.")
@click.option("--fields", type=click.IntRange(1, 24), default=12, show_default=True)
@click.option(
    "--film-coats",
    type=Number(),
    default=1.0,
    show_default=True,
    help="The film it is meant for, printed on it.",
)
@click.option("--thinner-share", type=Number(), default=0.0, show_default=True)
@json_option
def swatch_card(
    pdf: str, layout: str | None, fields: int, film_coats: float, thinner_share: float, as_json: bool
) -> None:
    """Print a card to paint and photograph: from it a whole shelf is measured."""
    from lean_sepia.report.swatch_card import write_swatch_card

    write_swatch_card(pdf, layout, fields, film_coats, thinner_share)
    print_answer(
        {"pdf": pdf, "layout": layout, "fields": fields},
        as_json,
        lambda: ngettext("Wrote {0}: {1} field.", "Wrote {0}: {1} fields.", fields).format(pdf, fields),
    )


@click.group()
def shelf() -> None:
    """The paint shelf."""


@shelf.command("read")
@click.argument("photo")
@click.option("--names", metavar="FILE.csv", help="New paints: field,id,name,line,medium,finish")
@click.option("--mixtures", metavar="FILE.csv", help="Test swatches instead: field,parts; needs --shelf.")
@click.option("--shelf", "shelf_file", metavar="FILE", help="The shelf the mixtures were mixed from.")
@click.option(
    "--grey-lightness",
    type=Number(5, 100),
    help="L* of the grey card in the frame; else the paper is the neutral.",
)
@click.option("--film-coats", type=Number(), default=1.0, show_default=True)
@click.option("--thinner-share", type=Number(), default=0.0, show_default=True)
@click.option("--out", required=True, metavar="FILE.json")
@json_option
def read(
    photo: str,
    names: str | None,
    mixtures: str | None,
    shelf_file: str | None,
    grey_lightness: float | None,
    film_coats: float,
    thinner_share: float,
    out: str,
    as_json: bool,
) -> None:
    """Measure every paint, or every test swatch, of a painted, photographed swatch card."""
    from lean_sepia.photo.read import read_picture
    from lean_sepia.photo.swatch_card import read_card

    if (names is None) == (mixtures is None):
        raise BadInputError(
            _("Give one of --names FILE.csv, for new paints, and --mixtures FILE.csv, for test swatches.")
        )
    if mixtures is not None and shelf_file is None:
        raise BadInputError(_("--mixtures names paints of a shelf: give it with --shelf FILE."))
    if mixtures is not None:
        from lean_sepia.shelf.card_swatches import read_mixtures
        from lean_sepia.shelf.shelf_file import read_shelf

        called = {paint.id: paint.name for paint in read_shelf(str(shelf_file)).paints()}
        mixed = read_mixtures(mixtures, called)
        _read_swatches(read_card(read_picture(photo).pixels, grey_lightness), mixed, called, out, as_json)
    else:
        from lean_sepia.shelf.card_shelf import read_names

        named = read_names(str(names))
        reading = read_card(read_picture(photo).pixels, grey_lightness)
        _read_paints(reading, named, (film_coats, thinner_share), out, as_json)


def _read_paints(
    reading: CardReading,
    named: dict[int, dict[str, str]],
    film: tuple[float, float],
    out: str,
    as_json: bool,
) -> None:
    from lean_sepia.shelf.card_shelf import shelf_from_card
    from lean_sepia.shelf.content import ShelfContent
    from lean_sepia.shelf.shelf_file import write_shelf

    found = shelf_from_card(reading, named, *film)
    write_shelf(out, ShelfContent(tuple(paint.record for paint in found.paints)))
    answer = {
        "paints": [
            {
                "id": paint.record["id"], "masstone": paint.masstone, "over_white": paint.over_white,
                "over_black": paint.over_black, "de00_90": paint.de00_90,
            }
            for paint in found.paints
        ],
        "doubtful": _doubtful(found.doubtful),
    }  # fmt: skip
    lines = [
        (paint.field, str(paint.record["name"]), paint.masstone, paint.de00_90) for paint in found.paints
    ]
    print_answer(answer, as_json, lambda: _listing("paints", lines, found.doubtful, out))


def _read_swatches(
    reading: CardReading,
    mixed: dict[int, list[tuple[str, int]]],
    called: dict[str, str],
    out: str,
    as_json: bool,
) -> None:
    from lean_sepia.shelf.card_swatches import swatches_from_card
    from lean_sepia.shelf.swatch_file import write_swatches

    found = swatches_from_card(reading, mixed)
    records = [swatch.record() for swatch in found.swatches]
    write_swatches(out, records)
    answer = {"swatches": records, "doubtful": _doubtful(found.doubtful)}
    lines = [
        (one.field, " : ".join(f"{count} {called[name]}" for name, count in one.parts), one.masstone, one.de00_90)
        for one in found.swatches
    ]  # fmt: skip
    print_answer(answer, as_json, lambda: _listing("swatches", lines, found.doubtful, out))


def _doubtful(fields: tuple[tuple[int, str], ...]) -> list[dict[str, int | str]]:
    return [{"field": field, "reason": reason} for field, reason in fields]


def _listing(
    what: str,
    read: list[tuple[int, str, tuple[float, float, float], float]],
    doubtful: tuple[tuple[int, str], ...],
    out: str,
) -> str:
    lines = [f"{len(read)} {what} measured. Wrote {out}."]
    for field, name, (L, a, b), radius in read:
        lines.append(f"  {field:2}  {name}: L* {L:.1f} a* {a:.1f} b* {b:.1f}, ±{radius:.1f}")
    lines += [_("  Look at field {0}: {1}.").format(field, reason) for field, reason in doubtful]
    return "\n".join(lines)
