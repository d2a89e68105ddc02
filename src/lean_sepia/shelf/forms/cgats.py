"""CGATS.17 / ISO 28178 text: tables of spectra or L*a*b* as measuring programs write them."""

from __future__ import annotations

import re
import shlex
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from lean_sepia.colour.adaptation import BRADFORD, adaptation_matrix
from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.colour.lights import white
from lean_sepia.colour.spectrum import WAVELENGTHS_NM, resample
from lean_sepia.errors import ShelfError
from lean_sepia.files.gate import one_line, shown
from lean_sepia.files.typed import to_number
from lean_sepia.language import N_, _
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.forms.form import Form
from lean_sepia.shelf.ids import Ids

_BAND = re.compile(r"(?:SPECTRAL_(?:NM_?|DEC)?|NM_?|R_?|SPEC_)([0-9]{3})(?:\.0+)?$", re.IGNORECASE)
_D50 = np.array([0.9642, 1.0, 0.8251])  # ICC.1, the white of the profile connection space
_NAMES = ("SAMPLE_NAME", "SAMPLENAME", "NAME", "SAMPLE_LOC", "SAMPLE_ID", "SAMPLEID")
DEFAULT_MEDIUM, DEFAULT_FINISH = "acrylic-water", "flat"


def readable(text: str) -> bool:
    """Whether a text is such a table."""
    return "BEGIN_DATA_FORMAT" in text and "END_DATA" in text


def read(text: str, file: Path) -> ShelfContent:
    """Paint records from a table: R where there are spectra, else lab (D65, converted where the file says D50).

    Medium and finish are not in such files: they become acrylic-water and flat, and the record's note says so.

    Raises
    ------
    ShelfError
        A part of the table is missing, or a row does not fit it; the message names the line.
    """
    source = shown(file.name)
    table = _table(text, source)
    bands = sorted((int(found[1]), i) for i, name in enumerate(table.fields) if (found := _BAND.match(name)))
    lab = [table.fields.index(name) for name in ("LAB_L", "LAB_A", "LAB_B") if name in table.fields]
    xyz = [table.fields.index(name) for name in ("XYZ_X", "XYZ_Y", "XYZ_Z") if name in table.fields]
    if len(bands) < 6 and len(lab) != 3 and len(xyz) != 3:
        raise ShelfError(
            _(
                "{0} has neither spectra (SPECTRAL_NM400 …) nor LAB_L, LAB_A, LAB_B nor XYZ_X, XYZ_Y, XYZ_Z; found {1}."
            ).format(source, ", ".join(table.fields))
        )
    was = "" if len(bands) >= 6 else _what_it_was(table.header)
    records: list[dict[str, Any]] = []
    ids = Ids()
    for line, row in table.rows:
        name = next(
            (row[table.fields.index(key)] for key in _NAMES if key in table.fields),
            _("Sample {0}").format(len(records) + 1),
        )
        record: dict[str, Any] = {
            "id": ids.fresh(name), "name": name, "medium": DEFAULT_MEDIUM, "finish": DEFAULT_FINISH,
            "note": _("from {0}: medium and finish are guesses{1}").format(source, was),
        }  # fmt: skip
        if len(bands) >= 6:
            record["R"] = _spectrum(
                [nm for nm, _unused in bands],
                [_number(row[i], source, line) for _unused, i in bands],
                source,
                line,
            )
        else:
            values = np.array([_number(row[i], source, line) for i in (lab if len(lab) == 3 else xyz)])
            record["lab"] = _d65_lab(values, table.header, is_lab=len(lab) == 3).round(4).tolist()
        records.append(record)
    if not records:
        raise ShelfError(_("{0} holds no samples between BEGIN_DATA and END_DATA.").format(source))
    return ShelfContent(tuple(records))


@dataclass(frozen=True)
class _Table:
    header: Sequence[str]
    fields: Sequence[str]
    rows: Sequence[tuple[int, Sequence[str]]]


def _table(text: str, source: str) -> _Table:
    header: list[str] = []
    fields: list[str] = []
    rows: list[tuple[int, Sequence[str]]] = []
    inside = ""
    for number, line in enumerate(text.splitlines(), start=1):
        clean = line.strip()
        if not clean or clean.startswith("#"):
            continue
        if clean in ("BEGIN_DATA_FORMAT", "BEGIN_DATA", "END_DATA_FORMAT", "END_DATA"):
            inside = clean.removeprefix("BEGIN_") if clean.startswith("BEGIN") else ""
        elif inside == "DATA_FORMAT":
            fields += [word.upper() for word in clean.split()]
        elif inside == "DATA":
            row = _words(clean, source, number)
            if len(row) != len(fields):
                raise ShelfError(
                    _("{0}, line {1}: {2} values for {3} fields.").format(
                        source, number, len(row), len(fields)
                    )
                )
            rows.append((number, row))
        elif len(words := _words(clean, source, number)) > 1:
            header.append(" ".join(words).upper())
    if not fields:
        raise ShelfError(
            _("{0} names no fields between BEGIN_DATA_FORMAT and END_DATA_FORMAT.").format(source)
        )
    return _Table(header, fields, rows)


def _words(line: str, source: str, number: int) -> list[str]:
    if '"' not in line:
        return line.split()
    try:
        return shlex.split(line, posix=True)
    except ValueError:
        raise ShelfError(_("{0}, line {1}: a quotation mark is not closed.").format(source, number)) from None


def _number(text: str, source: str, line: int) -> float:
    try:
        return to_number(text)
    except ValueError:
        raise ShelfError(_("{0}, line {1}: {2!r} is not a number.").format(source, line, text)) from None


def _spectrum(nm: list[int], values: list[float], source: str, line: int) -> list[float]:
    R = np.array(values)
    if R.max() > 2:  # per cent
        R = R / 100
    if nm[0] > 400 or nm[-1] < 700:
        raise ShelfError(
            _("{0}: its spectra reach from {1} to {2} nm; 400 to 700 nm are needed.").format(
                source, nm[0], nm[-1]
            )
        )
    try:
        return resample(np.array(nm, dtype=float), R).round(6).tolist()
    except ValueError as error:
        raise ShelfError(_("{0}, line {1}: {2}.").format(source, line, error)) from None


def _d65_lab(values: np.ndarray, header: Sequence[str], *, is_lab: bool) -> np.ndarray:
    """L*a*b* (3,) under D65 of values that are under D50 unless the file names D65."""
    daylight = any("D65" in line for line in header)
    reference = white() if daylight else _D50
    xyz = xyz_from_lab(values, reference) if is_lab else values / 100
    return lab_from_xyz(xyz if daylight else adaptation_matrix(_D50, white(), BRADFORD) @ xyz)


def _what_it_was(header: Sequence[str]) -> str:
    """What is said of colours that were measured for another light or observer."""
    said = "" if any("D65" in line for line in header) else _("; converted from D50")
    if any(re.search(r"\b10\s*(?:°|DEG)", line) for line in header):
        said += _("; measured for the 10° observer, which cannot be converted without spectra")
    return said


def write(content: ShelfContent) -> str:
    """The paints' masstones as a table of spectra and L*a*b* (D65, 2° observer)."""
    paints = content.paints()
    fields = [
        "SAMPLE_ID",
        "SAMPLE_NAME",
        "LAB_L",
        "LAB_A",
        "LAB_B",
        *(f"SPECTRAL_NM{nm}" for nm in WAVELENGTHS_NM),
    ]
    lines = [
        "CGATS.17", 'ORIGINATOR "Lean Sepia"', 'DESCRIPTOR "Paint shelf: masstones"', "WEIGHTING_FUNCTION \"ILLUMINANT, D65\"",
        "WEIGHTING_FUNCTION \"OBSERVER, 2 degree\"", f"NUMBER_OF_FIELDS {len(fields)}", "BEGIN_DATA_FORMAT", " ".join(fields),
        "END_DATA_FORMAT", f"NUMBER_OF_SETS {len(paints)}", "BEGIN_DATA",
    ]  # fmt: skip
    for paint in paints:
        name = one_line(paint.name).replace('"', "'").replace("\\", "/")
        figures = [f"{value:.4f}" for value in paint.masstone_lab()]
        spectrum = [f"{value:.6f}" for value in paint.masstone_reflectance()]
        lines.append(" ".join([paint.id, f'"{name}"', *figures, *spectrum]))
    return "\n".join([*lines, "END_DATA", ""])


FORM = Form(
    label=N_("CGATS text"),
    endings=(".txt", ".cgats", ".it8", ".ti3"),
    readable=readable,
    read=read,
    write=write,
)
