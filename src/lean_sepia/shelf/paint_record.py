"""From a paint's record, as a shelf file states it, to a paint the solvers can use."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import checked_lab
from lean_sepia.colour.spectrum import BANDS, WAVELENGTHS_NM, resample
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.language import _
from lean_sepia.paint.film import BLACK_GROUND, WHITE_GROUND
from lean_sepia.paint.identify import (
    Constants,
    from_drawdown,
    from_lab_films,
    from_lab_tint,
    from_tint,
    internal_from_lab,
    is_white,
    one_constant,
)
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISHES, Knowledge, Paint
from lean_sepia.paint.saunderson import K1, K2, SHEEN, Surface, into_paint

_ID = re.compile(r"[a-z0-9._-]+")


@dataclass(frozen=True)
class Grounds:
    """Measured flat reflectance of the grounds under a file's films."""

    white: float = WHITE_GROUND
    black: float = BLACK_GROUND


USUAL_GROUNDS = Grounds()


@dataclass(frozen=True, eq=False)
class _Masstone:
    """What the opaque paint looks like: internal reflectance, sheen, and its Lab where that is all there is."""

    R_i: FloatArray
    g: float
    lab: FloatArray | None
    notes: tuple[str, ...]


def paint_from_record(
    record: Mapping[str, Any], grounds: Grounds = USUAL_GROUNDS, whites: Mapping[str, Paint] | None = None
) -> Paint:
    """Build a paint from its record.

    Parameters
    ----------
    whites : paints already built, by id, for tints that name their white

    Raises
    ------
    ShelfError
        The record breaks a rule; the message names the paint and the field.
    """
    identity = _text(record, "id", "a paint")
    who = _("Paint {0!r}").format(identity)
    if not _ID.fullmatch(identity):
        raise ShelfError(
            _("{0}: an id has only a–z, 0–9, dot, underscore and hyphen. Rename it.").format(who)
        )
    name = str(record.get("name") or identity)
    medium = _one_of(record, "medium", MEDIA, who)
    finish = _one_of(record, "finish", FINISHES, who)
    k1, k2 = _share(record, "k1", K1, who), _share(record, "k2", K2, who)
    blank = Paint(identity, name, medium, finish, np.zeros(BANDS), np.ones(BANDS), SHEEN[finish],
                  Knowledge.SPECTRAL, str(record.get("line") or ""), k1, k2,
                  drops_per_ml=_positive(record, "drops_per_ml", None, who))  # fmt: skip
    if "K" in record or "S" in record:
        K, S = (_spectrum(record, key, who, least=0.0) for key in ("K", "S"))
        return replace(
            blank, K=K, S=S, g=_share(record, "g", blank.g, who, most=1.0), knowledge=_level(record, who)
        )
    masstone = _masstone(record, blank, who)
    start = one_constant(
        masstone.R_i, medium, _is_white(masstone), _positive(record, "opaque_coats", None, who)
    )
    known = _second_constant(record, blank, masstone, start, grounds, whites or {}, who)
    K, S = known or start
    level = Knowledge.TWO_CONSTANT if known else Knowledge.ONE_CONSTANT
    return replace(blank, K=K, S=S, g=masstone.g, knowledge=level, notes=masstone.notes)


def _second_constant(
    record: Mapping[str, Any],
    paint: Paint,
    masstone: _Masstone,
    start: Constants,
    grounds: Grounds,
    whites: Mapping[str, Paint],
    who: str,
) -> Constants | None:
    """K and S where the record holds a drawdown or a tint, else None."""
    coats = _positive(record, "film_coats", 1.0, who) or 1.0
    black = np.full(BANDS, float(into_paint(grounds.black)))
    white = np.full(BANDS, float(into_paint(grounds.white)))
    surface = Surface(masstone.g, paint.k1, paint.k2)
    if "R_over_black" in record:
        R_film = surface.inwards(_spectrum(record, "R_over_black", who))
        return from_drawdown(masstone.R_i, R_film, black, coats)
    if "R_tint" in record:
        tint_white, parts = _tint_white(record, whites, who)
        R_tint = surface.inwards(_spectrum(record, "R_tint", who))
        return from_tint(masstone.R_i, R_tint, (tint_white.K, tint_white.S), parts)
    if masstone.lab is None:
        return None
    if "lab_over_white" in record or "lab_over_black" in record:
        films = [
            (_lab(record, key, who), ground)
            for key, ground in (("lab_over_white", white), ("lab_over_black", black))
            if key in record
        ]
        return from_lab_films(start, surface, masstone.lab, films, coats)
    if "lab_tint" in record:
        tint_white, parts = _tint_white(record, whites, who)
        return from_lab_tint(
            start, surface, masstone.lab, _lab(record, "lab_tint", who), (tint_white.K, tint_white.S), parts
        )
    return None


def _masstone(record: Mapping[str, Any], paint: Paint, who: str) -> _Masstone:
    if "R" in record:
        R = _spectrum(record, "R", who, most=1.2)
        low, high = paint.g * paint.k1, paint.g * paint.k1 + 1 - paint.k1
        beyond = int(np.sum((low >= R) | (high <= R)))
        notes = (
            (
                _("{0} of its 31 readings were beyond what a {1} surface can reflect").format(
                    beyond, paint.finish
                ),
            )
            if beyond
            else ()
        )
        clipped = np.clip(R, low + 1e-4, high - 1e-4)
        return _Masstone(np.clip(paint.surface.inwards(clipped), 1e-4, 1 - 1e-4), paint.g, None, notes)
    if "lab" not in record:
        raise ShelfError(_("{0} has no colour: give K and S, or R, or lab.").format(who))
    lab = _lab(record, "lab", who)
    found = internal_from_lab(lab, paint.g, paint.k1, paint.k2)
    notes = ()
    if found.g < paint.g - 0.02:
        notes = (_("too dark or too strong to have been {0}: taken as shinier").format(paint.finish),)
    elif found.miss_de00 > 0.1:
        notes = (
            _("no surface has exactly this colour; the nearest is {0:.1f} ΔE00 away").format(found.miss_de00),
        )
    return _Masstone(found.R_i, found.g, lab, notes)


def _is_white(masstone: _Masstone) -> bool:
    lab = masstone.lab
    if lab is None:
        return float(masstone.R_i.min()) > 0.6
    return is_white(lab)


def _tint_white(record: Mapping[str, Any], whites: Mapping[str, Paint], who: str) -> tuple[Paint, float]:
    name = str(record.get("tint_white") or "")
    if name not in whites:
        raise ShelfError(
            _(
                "{0} has a tint, but its tint_white {1!r} is not in the file (or is itself known by a tint)."
            ).format(who, name)
        )
    parts = _positive(record, "tint_parts_white", None, who)
    if parts is None:
        raise ShelfError(
            _(
                "{0} has a tint but no tint_parts_white: say how many parts of white went to one of it."
            ).format(who)
        )
    return whites[name], parts


def _text(record: Mapping[str, Any], key: str, who: str) -> str:
    value = record.get(key)
    if not isinstance(value, str) or not value.strip():
        raise ShelfError(_("{0} has no {1!r}, which every paint needs.").format(who, key))
    return value.strip()


def _one_of(record: Mapping[str, Any], key: str, choices: Collection[str], who: str) -> str:
    value = _text(record, key, who)
    if value not in choices:
        raise ShelfError(
            _("{0}: {1} is one of {2}; found {3!r}.").format(who, key, ", ".join(choices), value)
        )
    return value


def _numbers(record: Mapping[str, Any], key: str, who: str) -> FloatArray:
    try:
        values = np.array([float(value) for value in record[key]])
    except (KeyError, TypeError, ValueError):
        found = "nothing" if key not in record else repr(record[key])[:60]
        raise ShelfError(_("{0}: {1} is a list of numbers; found {2}.").format(who, key, found)) from None
    if not np.all(np.isfinite(values)):
        raise ShelfError(_("{0}: {1} holds a value that is not a finite number.").format(who, key))
    return values


def _spectrum(
    record: Mapping[str, Any], key: str, who: str, least: float = 0.0, most: float = np.inf
) -> FloatArray:
    values = _numbers(record, key, who)
    grid = _numbers(record, "wavelengths", who) if "wavelengths" in record else WAVELENGTHS_NM.astype(float)
    if values.size != grid.size:
        raise ShelfError(
            _("{0}: {1} has {2} values for {3} wavelengths; they must be as many.").format(
                who, key, values.size, grid.size
            )
        )
    if values.min() < least:
        raise ShelfError(
            _("{0}: {1} cannot be below {2:g}; found {3:g}. Measure or type it again.").format(
                who, key, least, values.min()
            )
        )
    if values.max() > most:
        raise ShelfError(
            _("{0}: {1} is a share from 0 to 1; found {2:g}. Divide per cent by 100.").format(
                who, key, values.max()
            )
        )
    if grid.size == BANDS and np.array_equal(grid, WAVELENGTHS_NM):
        return values
    try:
        return resample(grid, values)
    except ValueError as error:
        raise ShelfError(f"{who}: {error}.") from None


def _lab(record: Mapping[str, Any], key: str, who: str) -> FloatArray:
    try:
        return checked_lab(_numbers(record, key, who))
    except ColourError as error:
        raise ShelfError(f"{who}: {key}: {error}") from None


def _share(record: Mapping[str, Any], key: str, default: float, who: str, most: float = 0.999) -> float:
    value = record.get(key, default)
    if isinstance(value, bool) or not isinstance(value, int | float) or not 0 <= value <= most:
        raise ShelfError(
            _("{0}: {1} is a share from 0 to {2}; found {3!r}.").format(
                who, key, "1" if most == 1 else _("below 1"), value
            )
        )
    return float(value)


def _level(record: Mapping[str, Any], who: str) -> Knowledge:
    """How well K and S in a record are known: measured spectra unless it says that they were come by otherwise."""
    name = record.get("knowledge", str(Knowledge.SPECTRAL))
    level = next((level for level in Knowledge if str(level) == name), None)
    if level is None:
        raise ShelfError(
            _("{0}: knowledge is one of {1}; found {2!r}.").format(who, ", ".join(map(str, Knowledge)), name)
        )
    return level


def _positive(record: Mapping[str, Any], key: str, default: float | None, who: str) -> float | None:
    value = record.get(key, default)
    if value is None:
        return None
    if (
        isinstance(value, bool)
        or not isinstance(value, int | float)
        or not (np.isfinite(value) and value > 0)
    ):
        raise ShelfError(_("{0}: {1} is a number greater than 0; found {2!r}.").format(who, key, value))
    return float(value)
