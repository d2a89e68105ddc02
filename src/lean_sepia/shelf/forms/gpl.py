"""GPL palettes: lists of screen colours. They carry a colour each and nothing else."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import numpy as np

from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.srgb import linear_from_srgb, rgb_to_xyz_matrix, screen_rgb
from lean_sepia.errors import ShelfError
from lean_sepia.files.gate import one_line, shown
from lean_sepia.language import N_, _
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.forms.cgats import DEFAULT_FINISH, DEFAULT_MEDIUM
from lean_sepia.shelf.forms.form import Form
from lean_sepia.shelf.ids import Ids

_HEAD = "GIMP Palette"  # the first line that the format asks for
_LINE = re.compile(r"\s*([0-9]{1,3})\s+([0-9]{1,3})\s+([0-9]{1,3})(?![0-9])\s*(.*)$")


def readable(text: str) -> bool:
    """Whether a text is such a palette."""
    return text.lstrip("\ufeff").startswith(_HEAD)


def read(text: str, file: Path) -> ShelfContent:
    """Paint records from a palette, each known by its screen colour only.

    Raises
    ------
    ShelfError
        A line is no colour; the message names it.
    """
    source = shown(file.name)
    records: list[dict[str, Any]] = []
    ids = Ids()
    for number, line in enumerate(text.splitlines()[1:], start=2):
        if not line.strip() or line.lstrip().startswith("#") or re.match(r"\s*(Name|Columns)\s*:", line):
            continue
        found = _LINE.match(line)
        if found is None or any(int(value) > 255 for value in found.groups()[:3]):
            raise ShelfError(
                _("{0}, line {1}: a colour is three numbers from 0 to 255 and a name; found {2!r}.").format(
                    source, number, line.strip()
                )
            )
        rgb = np.array([int(value) for value in found.groups()[:3]]) / 255
        name = one_line(found[4]) or _("Colour {0}").format(len(records) + 1)
        lab = lab_from_xyz(rgb_to_xyz_matrix() @ linear_from_srgb(rgb))
        records.append(
            {
                "id": ids.fresh(name), "name": name, "medium": DEFAULT_MEDIUM, "finish": DEFAULT_FINISH,
                "lab": lab.round(3).tolist(), "note": _("from {0}: a screen colour; medium and finish are guesses").format(source),
            }
        )  # fmt: skip
    if not records:
        raise ShelfError(_("{0} lists no colours.").format(source))
    return ShelfContent(tuple(records))


def write(content: ShelfContent) -> str:
    """The paints' masstones as screen colours; what a screen cannot show becomes the nearest that it can."""
    lines = [_HEAD, "Name: Paint shelf", "Columns: 0", "#"]
    for paint in content.paints():
        L, a, b = (float(value) for value in paint.masstone_lab())
        (red, green, blue), _unused = screen_rgb((L, a, b))
        lines.append(f"{red:3d} {green:3d} {blue:3d}\t{one_line(paint.name)}")
    return "\n".join([*lines, ""])


FORM = Form(label=N_("Palette"), endings=(".gpl",), readable=readable, read=read, write=write)
