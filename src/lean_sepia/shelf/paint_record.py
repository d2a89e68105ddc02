"""From a paint's record, as a shelf file states it, to a paint the solvers can use."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import checked_lab, lab_from_reflectance
from lean_sepia.colour.spectrum import BANDS, WAVELENGTHS_NM, resample
from lean_sepia.colour.written import read_screen_colour
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.language import _, spoken
from lean_sepia.paint.film import BLACK_GROUND, WHITE_GROUND
from lean_sepia.paint.handling.bodies import USES, coats_to_hide
from lean_sepia.paint.identify import (
    Constants,
    from_drawdown,
    from_lab_films,
    from_lab_tint,
    from_tint,
    internal_from_lab,
    one_constant,
)
from lean_sepia.paint.paint import Knowledge, Paint
from lean_sepia.paint.saunderson import SHEEN, Surface, into_paint
from lean_sepia.recipe.parts import DROPS_PER_ML
from lean_sepia.shelf.record_model import PaintRecord, read_record

_IN_A_BOTTLE = 0.3  # what is sold so thin comes in a bottle and drips, even oil (practice)
# Neither colour nor scattering; never quite none, since their ratio is asked for.
_CLEAR_K, _CLEAR_S = 1e-7, 1e-6
_DRIED = re.compile(r"\bdried (up|out|hard)\b|\bgone hard\b", re.IGNORECASE)


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
    try:
        written = "" if record.get("tint_white") else json.dumps(record, sort_keys=True)
    except (TypeError, ValueError):
        written = ""  # what no file can hold is built anew each time
    return _once_built(written, grounds, spoken()) if written else _built(record, grounds, whites)


@lru_cache(maxsize=512)
def _once_built(written: str, grounds: Grounds, _language: object) -> Paint:
    """The paint of a record as it is written in a file: a shelf is opened more often than a bottle changes."""
    return _built(json.loads(written), grounds, None)


def _built(record: Mapping[str, Any], grounds: Grounds, whites: Mapping[str, Paint] | None) -> Paint:
    given = read_record(record)
    use = USES[given.use]
    unsaid = {"body": use.body, "thinner_share": use.sold_thinned}
    given = given.model_copy(update={field: value for field, value in unsaid.items() if field not in record})
    who = _("Paint {0!r}").format(given.id)
    blank = Paint(given.id, given.name or given.id, given.medium, given.finish, np.zeros(BANDS), np.ones(BANDS),
                  SHEEN[given.finish], Knowledge.SPECTRAL, given.line, given.k1, given.k2,
                  drops_per_ml=given.drops_per_ml or (DROPS_PER_ML if given.thinner_share > _IN_A_BOTTLE else None), can=given.can, retired=given.retired, keep=given.keep, use=given.use, body=given.body, thinner_share=given.thinner_share, cover_said=given.opaque_coats is not None, empty=_is_empty(record), remark=noted.strip() if isinstance(noted := record.get("note"), str) else "")  # fmt: skip
    if given.K is not None or given.S is not None:
        K, S = (_spectrum(given, key, who, least=0.0) for key in ("K", "S"))
        level = next(level for level in Knowledge if str(level) == given.knowledge)
        return replace(blank, K=K, S=S, g=blank.g if given.g is None else given.g, knowledge=level)
    if given.body == "clear":
        return replace(blank, K=np.full(BANDS, _CLEAR_K), S=np.full(BANDS, _CLEAR_S))
    masstone = _masstone(given, blank, who)
    start = one_constant(masstone.R_i, _coats(given, masstone, blank))
    known = _second_constant(given, blank, masstone, start, grounds, whites or {}, who)
    K, S = known or (start[0] * (1 - given.thinner_share), start[1] * (1 - given.thinner_share))
    level = Knowledge.TWO_CONSTANT if known else Knowledge.ONE_CONSTANT
    return replace(blank, K=K, S=S, g=masstone.g, knowledge=level, notes=masstone.notes)


def _second_constant(
    record: PaintRecord,
    paint: Paint,
    masstone: _Masstone,
    start: Constants,
    grounds: Grounds,
    whites: Mapping[str, Paint],
    who: str,
) -> Constants | None:
    """K and S where the record holds a drawdown or a tint, else None."""
    coats = record.film_coats or 1.0
    black = np.full(BANDS, float(into_paint(grounds.black)))
    white = np.full(BANDS, float(into_paint(grounds.white)))
    surface = Surface(masstone.g, paint.k1, paint.k2)
    if record.R_over_black is not None:
        R_film = surface.inwards(_spectrum(record, "R_over_black", who))
        return from_drawdown(masstone.R_i, R_film, black, coats)
    if record.R_tint is not None:
        tint_white, parts = _tint_white(record, whites, who)
        R_tint = surface.inwards(_spectrum(record, "R_tint", who))
        return from_tint(masstone.R_i, R_tint, (tint_white.K, tint_white.S), parts)
    if masstone.lab is None:
        return None
    if record.lab_over_white is not None or record.lab_over_black is not None:
        films = [
            (_lab(record, key, who), ground)
            for key, ground in (("lab_over_white", white), ("lab_over_black", black))
            if getattr(record, key) is not None
        ]
        return from_lab_films(start, surface, masstone.lab, films, coats)
    if record.lab_tint is not None:
        tint_white, parts = _tint_white(record, whites, who)
        return from_lab_tint(
            start, surface, masstone.lab, _lab(record, "lab_tint", who), (tint_white.K, tint_white.S), parts
        )
    return None


def _masstone(record: PaintRecord, paint: Paint, who: str) -> _Masstone:
    if record.R is not None:
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
    if record.lab is not None:
        lab = _lab(record, "lab", who)
    elif record.hex:
        lab = _hex(record.hex, who)
    else:
        raise ShelfError(
            _(
                "{0} has no colour: give K and S, or R, or lab, or hex; what is clear says so as its body."
            ).format(who)
        )
    found = internal_from_lab(lab, paint.g, paint.k1, paint.k2)
    notes = ()
    if found.g < paint.g - 0.02:
        notes = (_("too dark or too strong to have been {0}: taken as shinier").format(paint.finish),)
    elif found.miss_de00 > 0.1:
        notes = (
            _("no surface has exactly this colour; the nearest is {0:.1f} ΔE00 away").format(found.miss_de00),
        )
    return _Masstone(found.R_i, found.g, lab, notes)


def _is_empty(record: Mapping[str, Any]) -> bool:
    """Whether nothing usable is left, as its stock or its owner's note says."""
    stock, note = record.get("stock_ml"), record.get("note")
    none = isinstance(stock, int | float) and not isinstance(stock, bool) and stock <= 0
    return none or (isinstance(note, str) and bool(_DRIED.search(note)))


def _coats(record: PaintRecord, masstone: _Masstone, paint: Paint) -> float:
    """Neat coats in which a paint known by its masstone hides."""
    lab = masstone.lab
    if lab is None:
        lab = lab_from_reflectance(Surface(masstone.g, paint.k1, paint.k2).seen(masstone.R_i))
    return coats_to_hide(lab, record.medium, record.body, record.opaque_coats)


def _tint_white(record: PaintRecord, whites: Mapping[str, Paint], who: str) -> tuple[Paint, float]:
    name = record.tint_white
    if name not in whites:
        raise ShelfError(
            _(
                "{0} has a tint, but its tint_white {1!r} is not in the file (or is itself known by a tint)."
            ).format(who, name)
        )
    parts = record.tint_parts_white
    if parts is None:
        raise ShelfError(
            _(
                "{0} has a tint but no tint_parts_white: say how many parts of white went to one of it."
            ).format(who)
        )
    return whites[name], parts


def _numbers(record: PaintRecord, key: str, who: str) -> FloatArray:
    values = getattr(record, key)
    if values is None:
        raise ShelfError(_("{0}: {1} is a list of numbers; found {2}.").format(who, key, _("nothing")))
    return np.array(values)


def _spectrum(
    record: PaintRecord, key: str, who: str, least: float = 0.0, most: float = np.inf
) -> FloatArray:
    values = _numbers(record, key, who)
    grid = (
        _numbers(record, "wavelengths", who)
        if record.wavelengths is not None
        else WAVELENGTHS_NM.astype(float)
    )
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


def _hex(written: str, who: str) -> FloatArray:
    try:
        return np.array(read_screen_colour(written))
    except ColourError as error:
        raise ShelfError(f"{who}: hex: {error}") from None


def _lab(record: PaintRecord, key: str, who: str) -> FloatArray:
    try:
        return checked_lab(_numbers(record, key, who))
    except ColourError as error:
        raise ShelfError(f"{who}: {key}: {error}") from None
