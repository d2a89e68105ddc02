"""The same work without a window: JSON with --json, plain words otherwise; exit 2 on bad input."""

from __future__ import annotations

import json
import sys
from collections.abc import Callable, Mapping
from dataclasses import asdict
from pathlib import Path
from typing import Any, NoReturn

import click

from lean_sepia import __version__
from lean_sepia.command_input import (
    FINISHES,
    parse_anchors,
    parse_lab,
    parse_lab_and_sheen,
    parse_laying,
    parse_moment,
    parse_numbers,
    parse_parts,
    parse_target_rows,
)
from lean_sepia.errors import BadInputError, SepiaError, ShelfError

# Everything heavy is imported inside the commands: `lean-sepia --help` and the window start without it.

_DECIMALS = 4


def _rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, _DECIMALS) + 0.0
    if isinstance(value, Mapping):
        return {key: _rounded(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [_rounded(item) for item in value]
    return value


def _print(answer: dict[str, Any], as_json: bool, words: Callable[[], str]) -> None:
    click.echo(json.dumps(_rounded(answer), ensure_ascii=False) if as_json else words())


_json_option = click.option("--json", "as_json", is_flag=True, help="Print JSON instead of words.")


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="lean-sepia")
def cli() -> None:
    """Match a scale model's finish to reference photos."""


_neutral = click.option(
    "--neutral", multiple=True, metavar="X,Y,R[,L]", help="Something grey, its L* if known."
)
_anchor = click.option("--anchor", multiple=True, metavar="X,Y,R,L,a,b", help="Something of known colour.")


@cli.command()
@click.argument("photo")
@_neutral
@_anchor
@click.option(
    "--chart", metavar="x,y,x,y,x,y,x,y", help="Centres of the corner patches of the 24-patch chart."
)
@click.option("--area", multiple=True, metavar="x0,y0,x1,y1", help="Plain mean of a rectangle.")
@click.option("--at", multiple=True, metavar="X,Y,R", help="A disc to sample.")
@_json_option
def sample(
    photo: str, neutral: tuple[str, ...], anchor: tuple[str, ...], chart: str | None, area: tuple[str, ...],
    at: tuple[str, ...], as_json: bool,
) -> None:  # fmt: skip
    """Sample corrected colours from a photo, each with its range."""
    from lean_sepia.colour.words import colour_name
    from lean_sepia.photo.cast import fit_cast
    from lean_sepia.photo.patch import rectangle_mean
    from lean_sepia.photo.read import read_picture
    from lean_sepia.photo.sample import sample_disc

    if not at and not area:
        raise BadInputError(
            "Nothing to sample: give --at X,Y,R for a disc or --area x0,y0,x1,y1 for a rectangle."
        )
    picture = read_picture(photo)
    cast = fit_cast(picture.pixels, parse_anchors(neutral, anchor, chart))
    samples: list[dict[str, Any]] = []
    for text in at:
        x, y, radius = parse_numbers(text, "--at", (3,))
        samples.append({"x": x, "y": y, **asdict(sample_disc(picture.pixels, cast, x, y, radius))})
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
        "notes": list(picture.notes),
    }
    if areas:
        answer["areas"] = areas

    def words() -> str:
        error = (
            "" if cast.anchor_error_de00 is None else f", held-out anchor error {cast.anchor_error_de00:.1f}"
        )
        lines = [f"Correction: {cast.model}{error}"]
        lines += [f"Note: {note}" for note in (*picture.notes, *cast.warnings)]
        for s in samples:
            L, a, b = s["lab"]
            lines.append(
                f"{s['x']:g},{s['y']:g}: L* {L:.1f} a* {a:.1f} b* {b:.1f}, ±{s['de00_90']:.1f} ΔE00 (90 %), {colour_name(s['lab'])}"
            )
        lines += [f"area: L* {v['lab'][0]:.1f} a* {v['lab'][1]:.1f} b* {v['lab'][2]:.1f}" for v in areas]
        return "\n".join(lines)

    _print(answer, as_json, words)


@cli.command()
@click.option("--shelf", required=True, help="A shelf file, JSON or CSV.")
@click.option("--target", metavar="L,a,b")
@click.option("--targets", metavar="FILE.csv", help="Many targets: header L,a,b.")
@click.option("--max-paints", type=click.IntRange(1, 5), default=3, show_default=True)
@click.option("--max-parts", type=click.IntRange(1, 60), default=10, show_default=True)
@click.option("--count", type=click.IntRange(1, 200), default=5, show_default=True)
@click.option("--over", metavar="L,a,b[,finish]", help="What lies below.")
@click.option("--coats", type=float)
@click.option("--thinner-share", type=float)
@click.option("--varnish", type=click.Choice(FINISHES))
@_json_option
def mix(
    shelf: str, target: str | None, targets: str | None, max_paints: int, max_parts: int, count: int, over: str | None,
    coats: float | None, thinner_share: float | None, varnish: str | None, as_json: bool,
) -> None:  # fmt: skip
    """Find whole parts of paints on a shelf that give a colour."""
    from lean_sepia.project.shelf_file import read_shelf
    from lean_sepia.recipe.mix import MixSolver

    if (target is None) == (targets is None):
        raise BadInputError("Give one of --target L,a,b and --targets FILE.csv.")
    goals = [parse_lab(target, "--target")] if target is not None else parse_target_rows(str(targets))
    paints = read_shelf(shelf).paints()
    names = {paint.id: paint.name for paint in paints}
    solver = MixSolver(
        paints, parse_laying(over, coats, thinner_share, varnish), max_paints=max_paints, max_parts=max_parts
    )
    results: list[dict[str, Any]] = []
    for goal in goals:
        recipes = [
            {
                "parts": [{"paint": name, "parts": parts} for name, parts in recipe.parts],
                "lab": recipe.lab, "de00": recipe.de00, "one_drop_de00": recipe.one_drop_de00,
                "lights": recipe.lights, "lights_estimated": True, "knowledge": str(recipe.knowledge),
            }
            for recipe in solver.solve(goal, count)
        ]  # fmt: skip
        results.append({"target": goal, "recipes": recipes})

    def words() -> str:
        lines = []
        for result in results:
            lines.append("Target L* {:.1f} a* {:.1f} b* {:.1f}".format(*result["target"]))
            for recipe in result["recipes"]:
                parts = " : ".join(f"{p['parts']} {names[p['paint']]}" for p in recipe["parts"])
                lines.append(
                    f"  {recipe['de00']:5.2f} ΔE00  {parts}  (a stray part: {recipe['one_drop_de00']:.1f})"
                )
        return "\n".join(lines)

    _print({"results": results}, as_json, words)


@cli.command()
@click.option("--shelf", required=True)
@click.option("--base", required=True, metavar="id=parts,...")
@click.option("--target", required=True, metavar="L,a,b")
@click.option("--max-parts", type=click.IntRange(2, 60), default=12, show_default=True)
@_json_option
def fade(shelf: str, base: str, target: str, max_parts: int, as_json: bool) -> None:
    """Choose the paint that takes a base to its faded colour without turning its hue."""
    from lean_sepia.project.shelf_file import read_shelf
    from lean_sepia.recipe.fade import choose_lighteners

    paints = read_shelf(shelf).paints()
    names = {paint.id: paint.name for paint in paints}
    found = choose_lighteners(paints, parse_parts(base), parse_lab(target, "--target"), max_parts=max_parts)

    def words() -> str:
        lines = []
        for option in found:
            turn = "" if option.hue_shift_deg is None else f", hue {option.hue_shift_deg:+.0f}°"
            lines.append(
                f"{option.de00:5.2f} ΔE00  {option.base_parts} base : {option.lightener_parts} {names[option.paint]}{turn}"
            )
        return "\n".join(lines)

    _print({"lighteners": [asdict(option) for option in found]}, as_json, words)


@cli.command()
@click.option("--shelf", required=True)
@click.option("--base", multiple=True, required=True, metavar="L,a,b[,finish]")
@click.option("--target", multiple=True, required=True, metavar="L,a,b")
@_json_option
def glaze(shelf: str, base: tuple[str, ...], target: tuple[str, ...], as_json: bool) -> None:
    """Choose one filter that brings several bases nearer to their targets."""
    from lean_sepia.project.shelf_file import read_shelf
    from lean_sepia.recipe.glaze import choose_glazes

    paints = read_shelf(shelf).paints()
    names = {paint.id: paint.name for paint in paints}
    bases = [parse_lab_and_sheen(text, "--base") for text in base]
    found = choose_glazes(paints, bases, [parse_lab(text, "--target") for text in target])
    answer = [
        {
            "paint": g.paint, "paint_parts": 1, "thinner_parts": g.thinner_parts, "passes": g.passes,
            "labs": g.labs, "de00_mean": g.de00_mean,
        }
        for g in found
    ]  # fmt: skip

    def words() -> str:
        return "\n".join(
            f"{g.de00_mean:5.2f} ΔE00 mean  1 {names[g.paint]} : {g.thinner_parts} thinner, {g.passes} pass{'es' if g.passes > 1 else ''}"
            for g in found
        )

    _print({"glazes": answer}, as_json, words)


@cli.command()
@click.argument("photo")
@click.option("--region", required=True, metavar="x0,y0,x1,y1")
@click.option("--base", required=True, metavar="X,Y,R", help="A disc of sound paint.")
@click.option(
    "--class", "classes", multiple=True, metavar="name=X,Y,R", help="A disc that shows one kind of wear."
)
@click.option("--mm-per-px", type=float, required=True, help="Millimetres on the prototype in a pixel.")
@click.option("--scale", type=float, required=True, help="N of 1:N.")
@click.option("--distance-mm", type=float, default=300.0, show_default=True)
@_neutral
@_anchor
@_json_option
def wear(
    photo: str, region: str, base: str, classes: tuple[str, ...], mm_per_px: float, scale: float, distance_mm: float,
    neutral: tuple[str, ...], anchor: tuple[str, ...], as_json: bool,
) -> None:  # fmt: skip
    """Measure how worn a region is, and what of it can be seen at scale."""
    from lean_sepia.photo.cast import fit_cast
    from lean_sepia.photo.patch import disc_patch
    from lean_sepia.photo.read import read_picture
    from lean_sepia.project.questions import survey_region

    picture = read_picture(photo)
    cast = fit_cast(picture.pixels, parse_anchors(neutral, anchor, None))

    def colour(text: str, what: str) -> tuple[float, float, float]:
        L, a, b = cast.lab(disc_patch(picture.pixels, *parse_numbers(text, what, (3,))).mean)
        return float(L), float(a), float(b)

    named = {}
    for text in classes:
        name, sign, place = text.partition("=")
        if not sign or not name.strip() or name.strip() in named:
            raise BadInputError(f"A class is written name=X,Y,R, each name once; found {text!r}.")
        named[name.strip()] = colour(place, "--class")
    x0, y0, x1, y1 = parse_numbers(region, "--region", (4,))
    _, record = survey_region(
        picture.pixels, cast, (x0, y0, x1, y1), colour(base, "--base"), named,
        mm_per_px=mm_per_px, scale=scale, distance_mm=distance_mm,
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

    def words() -> str:
        lines = [
            f"{record.coverage_percent:.2f} % worn; rust {record.iso_4628_3} (ISO 4628-3), {record.astm_d610} (ASTM D610)"
        ]
        lines += [
            f"  {c.name}: {c.coverage_percent:.2f} %, {c.count} marks, median {c.median_mm:.0f} mm, 90 % below {c.p90_mm:.0f} mm"
            for c in record.classes
        ]
        lines.append(
            f"At 1:{scale:g} marks below {record.smallest_visible_mm:.1f} mm cannot be seen; {record.visible_coverage_percent:.2f} % can."
        )
        if not (neutral or anchor):
            lines.append("No anchor was given: the tint shift is in the picture's own, uncorrected colours.")
        return "\n".join(lines)

    _print(answer, as_json, words)


@cli.group()
def plan() -> None:
    """Check the order of work, or put it on a calendar."""


@plan.command("check")
@click.argument("file")
@click.option("--start", metavar="ISO")
@click.option("--evenings", metavar='"mon-fri 19:00-21:30,..."')
@_json_option
def plan_check(file: str, start: str | None, evenings: str | None, as_json: bool) -> None:
    """Find what one step would do to the others."""
    from lean_sepia.plan.evenings import parse_evenings
    from lean_sepia.plan.rules import check_plan
    from lean_sepia.plan.schedule import lay_without_waiting
    from lean_sepia.plan.step import read_plan

    if (start is None) != (evenings is None):
        raise BadInputError("--start and --evenings go together: give both or neither.")
    steps = list(read_plan(file))
    if start is not None and evenings is not None:
        steps = lay_without_waiting(steps, parse_moment(start), parse_evenings(evenings))
    findings = check_plan(steps)

    def words() -> str:
        return (
            "\n".join(f"{f.severity}: {f.message} [{f.code}]" for f in findings)
            or "Nothing found against this order."
        )

    _print({"findings": [asdict(finding) for finding in findings]}, as_json, words)


@plan.command("schedule")
@click.argument("file")
@click.option("--start", required=True, metavar="ISO")
@click.option("--evenings", required=True, metavar='"mon-fri 19:00-21:30,..."')
@_json_option
def plan_schedule(file: str, start: str, evenings: str, as_json: bool) -> None:
    """Place every step in the evenings there are."""
    from lean_sepia.plan.evenings import parse_evenings
    from lean_sepia.plan.schedule import build_schedule
    from lean_sepia.plan.step import read_plan

    steps = read_plan(file)
    schedule = build_schedule(steps, parse_moment(start), parse_evenings(evenings))
    answer = {
        "steps": [
            {"id": s.id, "start": s.start.isoformat(), "end": s.end.isoformat(), "ready": s.ready.isoformat()}
            for s in schedule.steps
        ],
        "finish": schedule.finish.isoformat(),
        "critical_path": list(schedule.critical_path),
    }
    titles = {step.id: step.name for step in steps}

    def words() -> str:
        lines = [
            f"{s.start:%a %d %b %H:%M} – {s.end:%H:%M}  {titles[s.id]} (ready {s.ready:%a %H:%M})"
            for s in schedule.steps
        ]
        return "\n".join([*lines, f"Finished {schedule.finish:%A %d %B %Y, %H:%M}."])

    _print(answer, as_json, words)


@cli.command()
@click.argument("project")
@click.option("--pdf", required=True, metavar="OUT.pdf")
@_json_option
def card(project: str, pdf: str, as_json: bool) -> None:
    """Print the bench card of a project."""
    from lean_sepia.project.store import ProjectStore
    from lean_sepia.report.bench_card import write_bench_card

    store = ProjectStore.open(project)
    try:
        document, note = store.load()
    finally:
        store.close()
    write_bench_card(document, pdf)
    _print({"pdf": pdf, "note": note}, as_json, lambda: f"Wrote {pdf}." + (f" {note}" if note else ""))


@cli.command()
@click.argument("folder")
def tour(folder: str) -> None:
    """Walk the main job through the real window on the demo: one picture per view, and the bench card."""
    from lean_sepia.ui.tour import run_tour

    for file in run_tour(Path(folder), report=lambda message: click.echo(message, err=True)):
        click.echo(file)


@cli.command()
@click.argument("project", required=False)
def run(project: str | None) -> None:
    """Open the program, or a project."""
    _open_window(Path(project) if project else None)


def _open_window(project: Path | None) -> NoReturn:
    import os

    from lean_sepia.ui.system_libraries import X_DISPLAY, advice, missing_packages

    forced = os.environ.get("QT_QPA_PLATFORM", "")
    if not forced and not display_available():
        raise BadInputError("There is no display to open a window on. Set DISPLAY, or use the tour command.")
    if (
        forced in ("", "xcb")
        and not os.environ.get("WAYLAND_DISPLAY")
        and (lacking := missing_packages(X_DISPLAY))
    ):
        raise BadInputError(advice(lacking))
    from lean_sepia.ui.app import run_app

    sys.exit(run_app(project))


@cli.command()
def demo() -> None:
    """Open the program on its demo; without a display walk through it and say where the pictures are."""
    from lean_sepia.demo.folder import ensure_demo

    def report(message: str) -> None:
        click.echo(f"{message} …", err=True)

    if display_available():
        _open_window(ensure_demo(progress=report).worked)
    from platformdirs import user_cache_path

    from lean_sepia.ui.tour import run_tour

    folder = user_cache_path("lean-sepia", appauthor=False) / "tour"
    files = run_tour(folder, report=report)
    click.echo(
        f"There is no display here, so the demo was walked through without one. {len(files)} files are in {folder}:"
    )
    for file in files:
        click.echo(f"  {file.name}")


def display_available() -> bool:
    """Whether a window can be shown: a Wayland or X11 socket, or a display on another machine."""
    import os

    runtime, wayland = os.environ.get("XDG_RUNTIME_DIR"), os.environ.get("WAYLAND_DISPLAY")
    if wayland and (Path(runtime or "/") / wayland).exists():
        return True
    display = os.environ.get("DISPLAY", "")
    host, colon, number = display.partition(":")
    if not colon:
        return False
    if host and host != "unix":
        return True
    return Path(f"/tmp/.X11-unix/X{number.split('.')[0]}").exists()


def main() -> None:
    """Entry point: every fault the user can mend ends in one line and exit code 2."""
    try:
        cli.main(standalone_mode=False)
    except click.exceptions.Exit as ending:
        sys.exit(ending.exit_code)
    except click.Abort:
        sys.exit(130)
    except click.ClickException as error:
        _refuse(error.format_message())
    except (SepiaError, ShelfError) as error:
        _refuse(str(error))
    except BrokenPipeError:
        sys.stderr.close()
        sys.exit(141)


def _refuse(message: str) -> None:
    click.echo(" ".join(message.split()), err=True)
    sys.exit(2)


if __name__ == "__main__":
    main()
