"""The same work without a window: JSON with --json, plain words otherwise; exit 2 on bad input."""

from __future__ import annotations

import os
import sys
from pathlib import Path
from typing import NoReturn

import click

from lean_sepia import __version__
from lean_sepia.commands.evidence import film, sample
from lean_sepia.commands.exporting import command_of
from lean_sepia.commands.nearing import nearer
from lean_sepia.commands.planning import job, plan_group
from lean_sepia.commands.projecting import project_group
from lean_sepia.commands.questions import amount, ratio, show
from lean_sepia.commands.recipes import fade, fit, glaze, mix, predict
from lean_sepia.commands.shelving import shelf, swatch_card
from lean_sepia.commands.spoken import speak
from lean_sepia.commands.stacking import strata
from lean_sepia.commands.wearing import wear
from lean_sepia.errors import BadInputError, SepiaError, ShelfError
from lean_sepia.language import _
from lean_sepia.report.export import EXPORTS

# Everything heavy is imported inside the commands: `lean-sepia --help` and the window start without it.


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="lean-sepia")
def cli() -> None:
    """Match a scale model's finish to reference photos."""


for _command in (
    sample,
    film,
    mix,
    predict,
    fit,
    fade,
    glaze,
    wear,
    job,
    plan_group,
    project_group,
    swatch_card,
    shelf,
    amount,
    ratio,
    show,
    strata,
    nearer,
):
    cli.add_command(_command)


for _name, _export in EXPORTS.items():
    cli.add_command(command_of(_name, _export))


@cli.command()
@click.argument("folder")
def tour(folder: str) -> None:
    """Walk the main job through the real window on the demo: one picture per view, and the bench card."""
    if not folder.strip():
        raise BadInputError(_("The tour needs a folder to put its pictures into."))
    _check_libraries(window=False)
    from lean_sepia.ui.tour import run_tour

    for file in run_tour(Path(folder), report=lambda message: click.echo(message, err=True)):
        click.echo(file)


@cli.command()
@click.argument("project", required=False)
def run(project: str | None) -> None:
    """Open the program, or a project."""
    _open_window(Path(project) if project else None)


def _open_window(project: Path | None) -> NoReturn:
    if not _forced_platform() and not display_available():
        raise BadInputError(
            _("There is no display to open a window on. Set DISPLAY, or use the tour command.")
        )
    _check_libraries(window=True)
    from lean_sepia.ui.app import run_app

    sys.exit(run_app(project))


def _forced_platform() -> str:
    return os.environ.get("QT_QPA_PLATFORM", "")


def _check_libraries(*, window: bool) -> None:
    """Say in one line what of the system is missing, before anything is imported, drawn or rendered."""
    from lean_sepia.ui.system_libraries import advice, lacking_for

    on_x = window and _forced_platform() in ("", "xcb") and not os.environ.get("WAYLAND_DISPLAY")
    if lacking := lacking_for(window=on_x):
        raise BadInputError(advice(lacking))


@cli.command()
def demo() -> None:
    """Open the program on its demo; without a display walk through it and say where the pictures are."""
    window = display_available()
    _check_libraries(window=window)
    from lean_sepia.demo.folder import ensure_demo

    def report(message: str) -> None:
        click.echo(f"{message} …", err=True)

    if window:
        _open_window(ensure_demo(progress=report).worked)
    from lean_sepia.files.own_folders import own_folder
    from lean_sepia.ui.tour import run_tour

    folder = own_folder("cache") / "tour"
    files = run_tour(folder, report=report)
    click.echo(
        _(
            "There is no display here, so the demo was walked through without one. {0} files are in {1}:"
        ).format(len(files), folder)
    )
    for file in files:
        click.echo(f"  {file.name}")


def display_available() -> bool:
    """Whether a window can be shown: a Wayland or X11 socket, or a display on another machine."""
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
    speak(cli)
    try:
        cli.main(prog_name="lean-sepia", standalone_mode=False)
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
