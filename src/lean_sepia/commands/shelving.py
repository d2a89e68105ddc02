"""A shelf from one photo: `swatch-card` prints the card, `shelf read` reads its picture."""

from __future__ import annotations

import click

from lean_sepia.commands.answer import json_option, print_answer

# The core is imported inside the commands: help and the window start without it.


@click.command("swatch-card")
@click.option("--pdf", required=True, metavar="OUT.pdf")
@click.option("--layout", metavar="OUT.json", help="Where its fields lie, in millimetres.")
@click.option("--fields", type=click.IntRange(1, 24), default=12, show_default=True)
@click.option(
    "--film-coats",
    type=float,
    default=1.0,
    show_default=True,
    help="The film it is meant for, printed on it.",
)
@click.option("--thinner-share", type=float, default=0.0, show_default=True)
@json_option
def swatch_card(
    pdf: str, layout: str | None, fields: int, film_coats: float, thinner_share: float, as_json: bool
) -> None:
    """Print a card to paint and photograph: from it a whole shelf is measured."""
    from lean_sepia.report.swatch_card import write_swatch_card

    write_swatch_card(pdf, layout, fields, film_coats, thinner_share)
    print_answer(
        {"pdf": pdf, "layout": layout, "fields": fields}, as_json, lambda: f"Wrote {pdf}: {fields} fields."
    )


@click.group()
def shelf() -> None:
    """The paint shelf."""


@shelf.command("read")
@click.argument("photo")
@click.option("--names", required=True, metavar="FILE.csv", help="field,id,name,line,medium,finish")
@click.option(
    "--grey-lightness",
    type=click.FloatRange(5, 100),
    help="L* of the grey card in the frame; else the paper is the neutral.",
)
@click.option("--film-coats", type=float, default=1.0, show_default=True)
@click.option("--thinner-share", type=float, default=0.0, show_default=True)
@click.option("--out", required=True, metavar="FILE.json")
@json_option
def read(
    photo: str,
    names: str,
    grey_lightness: float | None,
    film_coats: float,
    thinner_share: float,
    out: str,
    as_json: bool,
) -> None:
    """Measure every paint of a painted, photographed swatch card."""
    from lean_sepia.photo.read import read_picture
    from lean_sepia.photo.swatch_card import read_card
    from lean_sepia.project.card_shelf import read_names, shelf_from_card
    from lean_sepia.project.shelf_file import ShelfContent, write_shelf

    named = read_names(names)
    reading = read_card(read_picture(photo).pixels, grey_lightness)
    found = shelf_from_card(reading, named, film_coats, thinner_share)
    write_shelf(out, ShelfContent(tuple(paint.record for paint in found.paints)))
    answer = {
        "paints": [
            {
                "id": paint.record["id"], "masstone": paint.masstone, "over_white": paint.over_white,
                "over_black": paint.over_black, "de00_90": paint.de00_90,
            }
            for paint in found.paints
        ],
        "doubtful": [{"field": field, "reason": reason} for field, reason in found.doubtful],
    }  # fmt: skip

    def words() -> str:
        lines = [f"{len(found.paints)} paints measured. Wrote {out}."]
        for paint in found.paints:
            L, a, b = paint.masstone
            lines.append(
                f"  {paint.field:2}  {paint.record['name']}: L* {L:.1f} a* {a:.1f} b* {b:.1f}, ±{paint.de00_90:.1f}"
            )
        lines += [f"  Look at field {field}: {reason}." for field, reason in found.doubtful]
        return "\n".join(lines)

    print_answer(answer, as_json, words)
