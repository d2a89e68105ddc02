"""What to mix, lighten and glaze with: `mix`, `fade` and `glaze`."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, replace
from typing import TYPE_CHECKING, Any

import click

from lean_sepia.commands.answer import json_option, print_answer
from lean_sepia.commands.given import (
    Film,
    Number,
    film_options,
    parse_film,
    parse_lab,
    parse_lab_and_finish,
    parse_parts,
    parse_target_rows,
)
from lean_sepia.errors import BadInputError
from lean_sepia.language import _, ngettext

if TYPE_CHECKING:
    from lean_sepia.paint.paint import Paint
    from lean_sepia.paint.trust import Prediction
    from lean_sepia.recipe.fades.fade import Goal, Lightener
    from lean_sepia.recipe.knowing import ToKnow

# The core is imported inside the commands: help and the window start without it.


@click.command()
@click.option("--shelf", required=True, help="A shelf file, JSON or CSV.")
@click.option("--target", metavar="L,a,b")
@click.option("--targets", metavar="FILE.csv", help="Many targets: header L,a,b.")
@click.option("--max-paints", type=click.IntRange(1, 5), default=3, show_default=True)
@click.option("--max-parts", type=click.IntRange(1, 60), default=10, show_default=True)
@click.option("--count", type=click.IntRange(1, 200), default=5, show_default=True)
@film_options
@click.option("--only", multiple=True, metavar="id", help="Choose among these paints. May be repeated.")
@click.option("--forbid", multiple=True, metavar="id", help="Leave this paint out. May be repeated.")
@click.option("--must", multiple=True, metavar="id", help="This paint is in every recipe. May be repeated.")
@click.option(
    "--cup-ml",
    type=Number(most=1e5),
    help="What will be mixed: a stray drop is one in it, and stock_ml is kept to.",
)
@json_option
def mix(
    shelf: str, target: str | None, targets: str | None, max_paints: int, max_parts: int, count: int, film: Film,
    only: tuple[str, ...], forbid: tuple[str, ...], must: tuple[str, ...], cup_ml: float | None, as_json: bool,
) -> None:  # fmt: skip
    """Find whole parts of paints on a shelf that give a colour."""
    from lean_sepia.recipe.limits import Limits
    from lean_sepia.recipe.mix import MixSolver
    from lean_sepia.recipe.parts import DROPS_PER_ML
    from lean_sepia.recipe.reasons import media_cautions
    from lean_sepia.shelf.content import stock_ml
    from lean_sepia.shelf.shelf_file import read_shelf

    if (target is None) == (targets is None):
        raise BadInputError(_("Give one of --target L,a,b and --targets FILE.csv."))
    goals = [parse_lab(target, "--target")] if target is not None else parse_target_rows(str(targets))
    if cup_ml is not None and not 0 < cup_ml < 10_000:
        raise BadInputError(_("--cup-ml is a volume in millilitres above 0; found {0:g}.").format(cup_ml))
    content = read_shelf(shelf)
    paints = content.paints()
    names = {paint.id: paint.name for paint in paints}
    media = {paint.id: paint.medium for paint in paints}
    stock = stock_ml(content.records)
    limits = Limits(frozenset(only) or None, frozenset(forbid), frozenset(must), stock, cup_ml or 0.0)
    solver = MixSolver(
        paints, film.laying(), max_paints=max_paints, max_parts=max_parts,
        limits=limits, cup_drops=round(cup_ml * DROPS_PER_ML) if cup_ml else None,
    )  # fmt: skip
    results: list[dict[str, Any]] = []
    for goal in goals:
        recipes = [
            {
                "parts": [{"paint": name, "parts": parts} for name, parts in recipe.parts],
                "lab": recipe.lab, "de00": recipe.de00, "one_drop_de00": recipe.one_drop_de00,
                "lights": recipe.lights, "lights_estimated": True, "knowledge": str(recipe.knowledge),
                "cautions": media_cautions([media[name] for name, _unused in recipe.parts], tool=film.tool or "airbrush"),
            }
            for recipe in solver.solve(goal, count)
        ]  # fmt: skip
        results.append({"target": goal, "recipes": recipes})

    print_answer({"results": results}, as_json, lambda: _mix_words(results, names))


def _mix_words(results: Sequence[Mapping[str, Any]], names: Mapping[str, str]) -> str:
    lines = []
    for result in results:
        lines.append(_("Target L* {:.1f} a* {:.1f} b* {:.1f}").format(*result["target"]))
        for recipe in result["recipes"]:
            parts = " : ".join(f"{p['parts']} {names[p['paint']]}" for p in recipe["parts"])
            said = _("  {0:5.2f} ΔE00  {1}  (a stray part: {2:.1f})")
            lines.append(said.format(recipe["de00"], parts, recipe["one_drop_de00"]))
    lines += dict.fromkeys(
        said for result in results for recipe in result["recipes"] for said in recipe["cautions"]
    )
    return "\n".join(lines)


@click.command()
@click.option("--shelf", required=True)
@click.option("--base", required=True, metavar="id=parts,...")
@click.option("--target", metavar="L,a,b")
@click.option(
    "--lighter",
    type=Number(),
    metavar="DL",
    help="So much more L* at the same hue angle, in place of a target.",
)
@click.option(
    "--lighteners",
    type=click.IntRange(1, 2),
    default=1,
    show_default=True,
    help="How many may be stirred in at once.",
)
@click.option("--max-parts", type=click.IntRange(2, 60), default=12, show_default=True)
@film_options
@click.option("--path", "as_path", is_flag=True, help="Say too what each coat does, and after which to stop.")
@json_option
def fade(
    shelf: str, base: str, target: str | None, lighter: float | None, lighteners: int, max_parts: int, film: Film, as_path: bool,
    as_json: bool,
) -> None:  # fmt: skip
    """Choose the paint that takes a base to its faded colour without turning its hue."""
    from lean_sepia.recipe.fades.fade import Goal, base_mixture, choose_lighteners
    from lean_sepia.shelf.shelf_file import read_shelf

    if (target is None) == (lighter is None):
        raise BadInputError(_("Give one of --target L,a,b and --lighter DL."))
    paints = read_shelf(shelf).paints()
    names = {paint.id: paint.name for paint in paints}
    cup = base_mixture(paints, parse_parts(base))
    laying = film.laying()
    if target is not None:
        goal = Goal(parse_lab(target, "--target"))
    else:
        goal = Goal.lighter(film.before(cup), _lighter(lighter or 0.0))
    found = choose_lighteners(paints, cup, goal, max_parts=max_parts, laying=laying, most=lighteners)

    def words() -> str:
        lines = []
        for option in found:
            turn = "" if option.hue_shift_deg is None else _(", hue {0:+.0f}°").format(option.hue_shift_deg)
            added = f"{option.lightener_parts} {names[option.paint]}"
            if option.second:
                added += f" : {option.second_parts} {names[option.second]}"
            lines.append(
                _("{0:5.2f} ΔE00  {1} base : {2}{3}").format(option.de00, option.base_parts, added, turn)
            )
        return "\n".join(lines)

    answer = [asdict(option) for option in found]
    if as_path:
        answer = [one | _path(film, paints, cup, goal, o) for one, o in zip(answer, found, strict=True)]
    print_answer({"lighteners": answer}, as_json, words)


def _path(film: Film, paints: list[Paint], cup: Paint, goal: Goal, option: Lightener) -> dict[str, Any]:
    """What each coat of a film does, and after which to stop; nothing of an opaque mix."""
    from lean_sepia.recipe.fades.mists import mixed_of, path_of

    if film.over is None:
        raise BadInputError(_("--path follows a film coat by coat: say with --over L,a,b what lies below."))
    coats = max(1, round(film.coats or 1.0))
    once = replace(film, coats=(film.coats or 1.0) / coats)
    path = path_of(mixed_of(cup, paints, option), once.laying(), film.before(cup), goal, coats)
    return {"path": {"labs": path.labs, "away": path.away, "stop": path.stop}}


def _lighter(by: float) -> float:
    if not 0 < abs(by) <= 100:
        raise BadInputError(
            _("--lighter is from 0 to 100 L*, or below 0 for darker; found {0:g}.").format(by)
        )
    return by


@click.command()
@click.option("--shelf", required=True)
@click.option("--base", multiple=True, required=True, metavar="L,a,b[,finish]")
@click.option("--target", multiple=True, required=True, metavar="L,a,b")
@click.option(
    "--tints",
    type=click.IntRange(1, 2),
    default=1,
    show_default=True,
    help="2 tries equal parts of two paints too.",
)
@json_option
def glaze(shelf: str, base: tuple[str, ...], target: tuple[str, ...], tints: int, as_json: bool) -> None:
    """Choose one filter that brings several bases nearer to their targets."""
    from lean_sepia.recipe.tints.glaze import Ground, choose_glazes
    from lean_sepia.shelf.shelf_file import read_shelf

    paints = read_shelf(shelf).paints()
    names = {paint.id: paint.name for paint in paints}
    grounds = [Ground.of_lab(*parse_lab_and_finish(text, "--base")) for text in base]
    found = choose_glazes(paints, grounds, [parse_lab(text, "--target") for text in target], tints)
    answer = [
        {
            "paint": g.paint, "paint_parts": 1, "thinner_parts": g.thinner_parts, "passes": g.passes,
            "labs": g.labs, "de00_mean": g.de00_mean, **({"second": g.second} if tints > 1 else {}),
        }
        for g in found
    ]  # fmt: skip

    def words() -> str:
        return "\n".join(
            ngettext(
                "{1:5.2f} ΔE00 mean  {2}, {0} pass", "{1:5.2f} ΔE00 mean  {2}, {0} passes", g.passes
            ).format(
                g.passes,
                g.de00_mean,
                _cup(" + ".join(names[name] for name in (g.paint, g.second) if name), g.thinner_parts),
            )
            for g in found
        )

    print_answer({"glazes": answer}, as_json, words)


@click.command()
@click.option("--shelf", required=True)
@click.option(
    "--parts", "mixtures", multiple=True, required=True, metavar="id=n,id=n", help="May be repeated."
)
@film_options
@click.option(
    "--film",
    "films",
    multiple=True,
    metavar="id=n,id=n;COATS[;THINNER]",
    help="A film laid before it over what --over names; repeat from the lowest up.",
)
@json_option
def predict(
    shelf: str, mixtures: tuple[str, ...], film: Film, films: tuple[str, ...], as_json: bool,
) -> None:  # fmt: skip
    """Say what colour a mixture will have, and how far to trust that."""
    from lean_sepia.paint.trust import Film as LowerFilm
    from lean_sepia.paint.trust import predict as predicted
    from lean_sepia.recipe.knowing import to_know_next
    from lean_sepia.recipe.reasons import media_cautions
    from lean_sepia.shelf.shelf_file import read_shelf

    paints = {paint.id: paint for paint in read_shelf(shelf).paints()}
    if films and film.over is None:
        raise BadInputError(_("--film lies on something: say with --over L,a,b on what."))
    laying = film.laying()
    below = []
    for text in films:
        parts, X = parse_film(text)
        used = tuple(mixed_paint(paints, name, alone=len(parts) == 1) for name, _unused in parts)
        below.append(LowerFilm(used, tuple(float(count) for _unused, count in parts), X))
    found, said, next_ones = [], [], []
    for text in mixtures:
        parts = parse_parts(text)
        top = [mixed_paint(paints, name, alone=len(parts) == 1) for name, _unused in parts]
        said.append(media_cautions([paint.medium for paint in top], tool=film.tool or "airbrush"))
        counts = [count for _unused, count in parts]
        found.append(predicted(top, counts, laying, below))
        next_ones.append(to_know_next(top, counts, laying, found[-1].de00_90) if not below else None)

    answer = [
        {
            "lab": one.lab,
            "de00_90": one.de00_90,
            "knowledge": str(one.knowledge),
            "cautions": cautions,
            "to_know_next": then
            and {"what": then.what, "paint": then.paint.id if then.paint else None, "de00_90": then.de00_90},
        }
        for one, cautions, then in zip(found, said, next_ones, strict=True)
    ]

    def words() -> str:
        told = (_told(*one) for one in zip(mixtures, found, next_ones, strict=True))
        return "\n".join([*told, *dict.fromkeys(caution for cautions in said for caution in cautions)])

    print_answer({"predictions": answer}, as_json, words)


def _told(text: str, one: Prediction, then: ToKnow | None) -> str:
    """A prediction in words, and what is cheapest to find out next."""
    from lean_sepia.recipe.knowing import WHAT

    words = _("{0}: L* {1:.1f} a* {2:.1f} b* {3:.1f}, within ±{4:.1f} ΔE00 nine times in ten (known by: {5})")
    said = words.format(text, *one.lab, one.de00_90, one.knowledge)
    if then is None:
        return said
    what = _(WHAT[then.what]).format(then.paint.name if then.paint else "")
    return said + "\n" + _("Cheapest to know next: {0}; then ±{1}.").format(what, f"{then.de00_90:.1f}")


def _cup(name: str, thinner_parts: int) -> str:
    return (
        _("1 {0} : {1} thinner").format(name, thinner_parts)
        if thinner_parts
        else _("{0} as it comes").format(name)
    )


def mixed_paint(paints: Mapping[str, Paint], name: str, *, alone: bool = False) -> Paint:
    """A paint of a shelf that can be part of a mixture; alone, one from a spray can too."""
    if name not in paints:
        raise BadInputError(_("{0!r} is not on this shelf. Check the id.").format(name))
    if paints[name].retired:
        raise BadInputError(
            _(
                "{0!r} is retired: it stands on the shelf but is not used. Take it back, or choose another."
            ).format(name)
        )
    if paints[name].can and not alone:
        raise BadInputError(_("{0!r} comes from a spray can: its colour cannot be mixed.").format(name))
    if not paints[name].lies_as_film:
        raise BadInputError(
            _("{0!r} is a {1} {2} paint, which is laid alone, not mixed.").format(
                name, paints[name].finish, paints[name].medium
            )
        )
    return paints[name]


@click.command()
@click.option("--shelf", required=True)
@click.option(
    "--swatches", required=True, metavar="FILE.json", help="Painted mixtures with their measured colour."
)
@click.option("--out", required=True, metavar="FILE.json", help="The shelf with refined paints.")
@json_option
def fit(shelf: str, swatches: str, out: str, as_json: bool) -> None:
    """Refine the paints of a shelf from swatches mixed of them."""
    from lean_sepia.paint.fit import fit_paints
    from lean_sepia.shelf.content import with_refined
    from lean_sepia.shelf.shelf_file import read_shelf, write_shelf
    from lean_sepia.shelf.swatch_file import read_swatches

    content, painted = read_shelf(shelf), read_swatches(swatches)
    found = fit_paints(content.paints(), painted)
    write_shelf(out, with_refined(content, found))
    before, after = found.before_de00, found.after_de00
    contradicted = found.contradicting()

    def words() -> str:
        lines = [
            ngettext(
                "{0} swatch: predicted within {1:.2f} ΔE00 before, {2:.2f} after (each from the others). Wrote {3}.",
                "{0} swatches: predicted within {1:.2f} ΔE00 before, {2:.2f} after (each from the others). Wrote {3}.",
                len(painted),
            ).format(len(painted), before, after, out)
        ]
        if not found.gains:
            lines.append(
                _(
                    "Nothing is gained: the swatches contradict each other, or say too little of these paints. Check their parts and colours."
                )
            )
        lines += [
            _("Swatch {0} contradicts the others by {1:.1f} ΔE00 and counts little: check it.").format(
                number + 1, found.left_out[number]
            )
            for number in contradicted
        ]
        return "\n".join(lines)

    answer = {
        "swatches": len(painted), "before_de00": before, "after_de00": after, "paints": sorted(found.doubt),
        "contradicting": [number + 1 for number in contradicted],
    }  # fmt: skip
    print_answer(answer, as_json, words)
