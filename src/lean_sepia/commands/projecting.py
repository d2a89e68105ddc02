"""A whole project as open JSON, and back: `project show` and `project write`."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from lean_sepia.errors import BadInputError
from lean_sepia.language import _, ngettext

if TYPE_CHECKING:
    from lean_sepia.document.model import Project

# The core is imported inside the commands: help and the window start without it.


@click.group("project")
def project_group() -> None:
    """Show a whole project as open JSON, or write one from it."""


@project_group.command("show")
@click.argument("file")
@click.option("--photos", metavar="DIR", help="Also put its photos there, each under its content hash.")
@click.option("--json", "_as_json", is_flag=True, help="JSON, as always.")
def project_show(file: str, photos: str | None, _as_json: bool) -> None:
    """Print the document of a project by its published schema."""
    from lean_sepia.document.open_form import open_text
    from lean_sepia.document.store import ProjectStore
    from lean_sepia.files.gate import write_whole

    store = ProjectStore.open(file, reading=True)
    try:
        project, _warning = store.load()
        if photos is not None:
            folder = _folder(photos)
            for photo in project.photos:
                write_whole(folder / photo.sha256, store.photo(photo.sha256))
    finally:
        store.close()
    click.echo(open_text(project))


@project_group.command("write")
@click.argument("file")
@click.option("--photos", metavar="DIR", help="Where its photos lie, each under its content hash.")
@click.option("--out", required=True, metavar="X.sepia")
def project_write(file: str, photos: str | None, out: str) -> None:
    """Make a project from a document in open JSON."""
    from lean_sepia.document.open_form import parse_open
    from lean_sepia.document.store import ANY_PICTURE, ProjectStore
    from lean_sepia.files.gate import read_text

    project = parse_open(read_text(file, _("The project"), BadInputError), file)
    bytes_of = _read_photos(project, photos)
    store = ProjectStore.create(out, project)
    try:
        for photo in project.photos:
            if photo.sha256 in bytes_of:
                store.add_photo(photo.sha256, ANY_PICTURE, photo.name, bytes_of[photo.sha256])
    finally:
        store.close()
    if photos is None and project.photos:
        count = len(project.photos)
        words = ngettext(
            "Its {0} photo is named but not put in: name its folder with --photos to do so.",
            "Its {0} photos are named but not put in: name their folder with --photos to do so.", count,
        )  # fmt: skip
        click.echo(words.format(count), err=True)
    click.echo(out)


def _folder(name: str) -> Path:
    folder = Path(name)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise BadInputError(_("The folder {0} cannot be made: {1}.").format(name, error.strerror)) from None
    return folder


def _read_photos(project: Project, folder: str | None) -> dict[str, bytes]:
    """The photos of a document, each checked against its hash; none where no folder is named."""
    import hashlib

    from lean_sepia.document.store import MOST_PHOTO
    from lean_sepia.files.gate import read_bytes

    found: dict[str, bytes] = {}
    for photo in project.photos if folder is not None else ():
        if photo.sha256 in found:
            continue
        file = Path(str(folder)) / photo.sha256
        data = read_bytes(file, _("The photo"), BadInputError, MOST_PHOTO)
        if hashlib.sha256(data).hexdigest() != photo.sha256:
            words = _("{0} is another picture than the project names. Put the right one there.")
            raise BadInputError(words.format(file))
        found[photo.sha256] = data
    return found
