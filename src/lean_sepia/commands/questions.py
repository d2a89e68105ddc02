"""Small questions: `amount` for an area, `ratio` as it is spoken, `show` whether one colour is seen on another."""

from __future__ import annotations

import math
from typing import Any

import click

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.commands.given import Film, Number, film_options, parse_lab, parse_lab_and_finish
from lean_sepia.commands.recipes import mixed_paint
from lean_sepia.errors import BadInputError
from lean_sepia.language import _, ngettext

# The core is imported inside the commands: help and the window start without it.


@click.command()
@click.option("--area-cm2", type=Number(0.01, 1e6), required=True)
@click.option("--coats", type=Number(0.01, 1000), required=True)
@click.option("--thinner-share", type=Number(0, 0.999), default=0.0, show_default=True)
@click.option("--tool", default="airbrush", show_default=True)
@click.option("--cup-ml", type=Number(0.1, 1e5), default=7.0, show_default=True, help="What one cup holds.")
@json_option
def amount(
    area_cm2: float, coats: float, thinner_share: float, tool: str, cup_ml: float, as_json: bool
) -> None:
    """Say how much to mix for an area."""
    from lean_sepia.paint.tools import TOOLS
    from lean_sepia.recipe.batch import batch_volume
    from lean_sepia.recipe.parts import DROPS_PER_ML, sprayed_out, volume_words

    batch = batch_volume(area_cm2, coats, thinner_share=thinner_share, tool=tool)
    if batch.paint_ml < 0.5 / DROPS_PER_ML:
        batch = batch.at_least(1 / DROPS_PER_ML)
    cups = math.ceil(batch.total_ml / cup_ml - 1e-9)
    answer: dict[str, Any] = {
        "total_ml": batch.total_ml, "paint_ml": batch.paint_ml, "thinner_ml": batch.thinner_ml,
        "reserve_ml": batch.reserve_ml, "cups": cups,
    }  # fmt: skip
    if TOOLS[tool].from_can:
        answer["spray_s"] = sprayed_out(batch.total_ml).spray_s

    def words() -> str:
        if "spray_s" in answer:
            return _("{0:.0f} s of spray, {1:.1f} ml.").format(max(answer["spray_s"], 1), batch.total_ml)
        said = [
            ngettext("{0} in {1} cup", "{0} in {1} cups", cups).format(volume_words(batch.total_ml), cups)
        ]
        said[0] += ": " + _("{0} of paint").format(volume_words(batch.paint_ml))
        if batch.thinner_ml:
            said[0] += ", " + _("{0} of thinner").format(volume_words(batch.thinner_ml))
        return "; ".join([*said, _("{0} of it in reserve").format(volume_words(batch.reserve_ml))]) + "."

    print_answer(answer, as_json, words)


@click.command()
@click.argument("phrase")
@json_option
def ratio(phrase: str, as_json: bool) -> None:
    """Read a ratio or mix as it is spoken, the likelier reading first."""
    from lean_sepia.recipe.phrases.ratio import read_ratio

    readings = read_ratio(phrase)
    answer = {
        "readings": [
            {
                "parts": [{"of": name, "share": share} for name, share in reading.shares],
                "spoken": reading.words,
            }
            for reading in readings
        ]
    }

    def words() -> str:
        return "\n".join(
            f"{reading.words}  ({', '.join(_share_words(name, share) for name, share in reading.shares)})"
            for reading in readings
        )

    print_answer(answer, as_json, words)


def _share_words(name: str, share: float | None) -> str:
    return f"{name} ?" if share is None else f"{name} {100 * share:.1f} %"


@click.command()
@click.option("--ground", required=True, metavar="L,a,b[,finish]", help="What lies below.")
@click.option("--effect", metavar="L,a,b", help="What is to show on it; or a paint of a shelf.")
@click.option("--shelf")
@click.option("--paint", metavar="id")
@film_options
@click.option("--area-share", type=Number(0, 1), help="How much of the ground it covers.")
@click.option(
    "--as",
    "shown",
    type=click.Choice(("field", "soft", "mark", "lettering")),
    default="field",
    show_default=True,
)
@json_option
def show(
    ground: str, effect: str | None, shelf: str | None, paint: str | None, film: Film, area_share: float | None,
    shown: Any, as_json: bool,
) -> None:  # fmt: skip
    """Say whether a colour will show on another."""
    from lean_sepia.colour.ciede2000 import delta_e00
    from lean_sepia.colour.showing import READABLE_L, seen_from_afar, verdict

    below, _finish = parse_lab_and_finish(ground, "--ground")
    if (effect is None) == (shelf is None or paint is None):
        raise BadInputError(_("Say what is to show: --effect L,a,b, or --shelf FILE with --paint id."))
    laid: Any = parse_lab(effect, "--effect") if effect else _laid(ground, str(shelf), str(paint), film)
    mark = float(delta_e00(below, laid))
    lightness = abs(below[0] - float(laid[0]))
    answer: dict[str, Any] = {
        "de00": mark,
        "verdict": verdict(mark, shown),
        "lab": [float(value) for value in laid],
    }
    if area_share is not None:
        answer |= {
            "mark_de00": mark,
            "mean_de00": float(delta_e00(below, seen_from_afar(below, laid, area_share))),
        }
    if shown == "lettering":
        answer |= {"lightness_difference": lightness, "reads": lightness >= READABLE_L}

    def words() -> str:
        said = _("{0:.1f} ΔE00: {1}.").format(mark, _(answer["verdict"]))
        if area_share is not None:
            said += " " + _("Seen as one, the surface changes by {0:.1f} ΔE00.").format(answer["mean_de00"])
        if shown == "lettering":
            reads = _("It reads") if answer["reads"] else _("It does not read")
            said += " " + _("{0}: L* differs by {1:.0f}, reading needs {2:.0f}.").format(
                reads, lightness, READABLE_L
            )
        return said

    print_answer(answer, as_json, words)


def _laid(ground: str, shelf: str, paint: str, film: Film) -> tuple[float, float, float]:
    """What one paint becomes on the ground; a wet coat unless the options say otherwise."""
    from dataclasses import replace

    from lean_sepia.arrays import triple
    from lean_sepia.colour.lab import lab_from_reflectance
    from lean_sepia.paint.kubelka_munk import opaque_reflectance
    from lean_sepia.paint.trust import predict
    from lean_sepia.shelf.shelf_file import read_shelf

    if film.over is not None:
        raise BadInputError(_("What lies below is said with --ground; leave --over out."))
    paints = {one.id: one for one in read_shelf(shelf).paints()}
    laying = replace(film, over=ground).laying()
    if paint in paints and not paints[paint].lies_as_film:  # metallics and powders lie in their own colour
        one = paints[paint]
        return triple(
            lab_from_reflectance(one.surface.under(film.varnish).seen(opaque_reflectance(one.K, one.S)))
        )
    return predict([mixed_paint(paints, paint, alone=True)], [1], laying, []).lab
