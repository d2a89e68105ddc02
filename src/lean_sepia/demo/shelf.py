"""The imaginary paint range on the demo's shelf: about fifty bottles, known in different ways."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.spectrum import BANDS
from lean_sepia.demo.pigments import pigment_mixture
from lean_sepia.paint.film import BLACK_GROUND, WHITE_GROUND, thickness_to_hide
from lean_sepia.paint.kubelka_munk import opaque_reflectance, over_ground
from lean_sepia.paint.paint import Mixture
from lean_sepia.paint.saunderson import SHEEN, Surface, into_paint, through_surface
from lean_sepia.shelf.content import Record, ShelfContent


@dataclass(frozen=True)
class Bottle:
    """One invented paint: its pigments by volume, the coats in which it hides, and how its owner knows it."""

    name: str
    pigments: Mapping[str, float]
    coats: float = 2.0
    known: str = "spectral"
    finish: str = "flat"


_TI, _ZN, _BK, _LB, _IB = "titanium white", "zinc white", "bone black", "lamp black", "iron black"
_RO, _VO, _YO, _RS, _RU, _BU = (
    "red oxide",
    "violet oxide",
    "yellow ochre",
    "raw sienna",
    "raw umber",
    "burnt umber",
)
_HY, _CO, _NR, _QU = "hansa yellow", "cadmium orange", "naphthol red", "quinacridone"
_UM, _PB, _PG, _CG = "ultramarine", "phthalo blue", "phthalo green", "chrome oxide"

SUNDRIN = (
    Bottle("Chalk", {_TI: 97, _YO: 0.4}, 3.5),
    Bottle("Bone white", {_TI: 60, _YO: 5, _RU: 1.6}, 3.0, "film"),
    Bottle("Greenish off-white", {_TI: 70, _CG: 5, _YO: 3.2}, 3.0),
    Bottle("Cream", {_TI: 60, _YO: 12, _HY: 1.2}, 3.0),
    Bottle("Buff", {_TI: 30, _YO: 28, _RO: 1.2}, 2.5),
    Bottle("Sand", {_TI: 30, _YO: 14, _RU: 3}, 2.5, "lab"),
    Bottle("Tan", {_TI: 28, _RS: 16, _RO: 2.2, _RU: 2}, 2.5, "film"),
    Bottle("Flesh", {_TI: 40, _RO: 3, _YO: 5}, 2.5),
    Bottle("Ochre", {_YO: 70, _TI: 6, _RS: 8}, 2.0),
    Bottle("Funnel buff", {_TI: 22, _YO: 46, _CO: 2.6}, 2.5),
    Bottle("Signal orange", {_CO: 60, _TI: 5}, 3.0, "film"),
    Bottle("Red lead", {_CO: 36, _RO: 10, _TI: 3}, 2.0),
    Bottle("Boot red", {_RO: 60, _NR: 6, _TI: 1.5}, 2.0),
    Bottle("Oxide", {_RO: 70, _BU: 14}, 2.0),
    Bottle("Red primer", {_RO: 60, _TI: 5, _BU: 4}, 2.0),
    Bottle("Wine", {_QU: 40, _VO: 20, _BK: 3}, 3.0, "lab"),
    Bottle("Raw umber", {_RU: 70, _TI: 1}, 2.0, "lab"),
    Bottle("Sepia", {_BU: 60, _BK: 8}, 2.0, "film"),
    Bottle("Leather", {_RS: 30, _BU: 16, _TI: 4}, 2.0),
    Bottle("Moss", {_CG: 30, _YO: 22, _BK: 1.5, _TI: 3}, 2.0),
    Bottle("Chrome green", {_CG: 70, _TI: 3}, 2.0),
    Bottle("Bottle green", {_PG: 20, _BK: 4, _YO: 14}, 2.5, "lab"),
    Bottle("Slate teal", {_PG: 8, _PB: 5.4, _BK: 2.2, _TI: 11, _YO: 1}, 2.0),
    Bottle("Deep sea", {_PB: 12, _PG: 10, _BK: 5, _TI: 9}, 2.0, "film"),
    Bottle("Sea green", {_PG: 14, _TI: 9}, 2.5),
    Bottle("Kingfisher", {_PB: 9, _TI: 9, _PG: 1.5}, 2.5),
    Bottle("Gull blue", {_TI: 40, _UM: 7, _PB: 0.8, _BK: 1.6}, 2.5),
    Bottle("Harbour blue", {_UM: 26, _PB: 5, _TI: 12, _BK: 2}, 2.0),
    Bottle("Night blue", {_UM: 40, _BK: 9, _TI: 2}, 2.0, "lab"),
    Bottle("Fog grey", {_TI: 44, _BK: 2.6, _YO: 1.6, _CG: 1}, 2.5),
    Bottle("Squall", {_TI: 30, _BK: 4.2, _UM: 2.2}, 2.0, "film"),
    Bottle("Slate", {_TI: 14, _BK: 5.2, _UM: 2.4, _RU: 1.2}, 2.0),
    Bottle("Iron black", {_IB: 60, _TI: 0.6}, 1.5),
    Bottle("Lamp", {_LB: 60, _TI: 0.5}, 1.5),
    Bottle("Warm black", {_IB: 40, _RO: 5, _BU: 8}, 1.5, "film"),
)
KVELDRA = (
    Bottle("Oil titanium", {_TI: 60}, 4.0, finish="satin"),
    Bottle("Oil raw umber", {_RU: 60}, 3.0, finish="satin"),
    Bottle("Oil burnt umber", {_BU: 60}, 3.0, finish="satin"),
    Bottle("Oil ochre", {_YO: 60}, 3.5, finish="satin"),
    Bottle("Oil sienna", {_RS: 50, _RO: 10}, 3.0, finish="satin"),
    Bottle("Oil bone black", {_BK: 60}, 2.5, finish="satin"),
    Bottle("Oil blue-grey", {_TI: 30, _UM: 8, _BK: 3}, 3.0, finish="satin"),
    Bottle("Oil moss", {_CG: 30, _RU: 14, _YO: 10}, 3.0, finish="satin"),
    Bottle("Oil dark rust", {_BU: 36, _RO: 22}, 3.0, finish="satin"),
    Bottle("Oil light rust", {_RS: 30, _CO: 9, _RO: 9}, 3.0, finish="satin"),
)
ASKEL = (
    Bottle("Pigment quay dust", {_TI: 20, _RU: 10, _YO: 8}, 2.0, "lab"),
    Bottle("Pigment fresh rust", {_CO: 16, _RS: 24, _RO: 8}, 2.0, "lab"),
    Bottle("Pigment old rust", {_RO: 24, _BU: 24}, 2.0, "lab"),
    Bottle("Pigment soot", {_LB: 40, _RU: 4}, 2.0, "lab"),
    Bottle("Pigment salt", {_TI: 50, _ZN: 20}, 2.0, "lab"),
)
CLEAR = (("Gloss medium", "gloss"), ("Flat base", "flat"))
"""Binder without pigment, and binder with a matting agent: they change a mixture's sheen, not its colour."""

STEEL = Bottle("Worn steel", {_IB: 10, _TI: 10}, 2.0, "lab", finish="metallic")


def paint_id(name: str) -> str:
    """The shelf id of a bottle."""
    return name.lower().replace(" ", "-")


def bottle_constants(bottle: Bottle) -> tuple[FloatArray, FloatArray]:
    """True K and S (31,) per film unit: the pigment load is such that the bottle hides in its coats."""
    K, S = pigment_mixture(bottle.pigments)
    thickness = thickness_to_hide(Mixture(K, S, Surface()))
    if thickness is None:
        raise AssertionError(f"{bottle.name} never hides")
    factor = thickness / bottle.coats
    return K * factor, S * factor


def _record(bottle: Bottle, line: str, medium: str, stock_ml: float) -> Record:
    K, S = bottle_constants(bottle)
    g = SHEEN[bottle.finish]
    record: Record = {
        "id": paint_id(bottle.name),
        "name": bottle.name,
        "line": line,
        "medium": medium,
        "finish": bottle.finish,
        "stock_ml": stock_ml,
    }
    if bottle.known == "spectral":
        record |= {"K": np.round(K, 5).tolist(), "S": np.round(S, 5).tolist()}
        return record
    record["lab"] = _lab(opaque_reflectance(K, S), g)
    if bottle.known == "film":
        for key, ground in (("lab_over_white", WHITE_GROUND), ("lab_over_black", BLACK_GROUND)):
            record[key] = _lab(over_ground(K, S, 1.0, into_paint(ground)), g)
        record["film_coats"] = 1
    return record


def _medium(name: str, finish: str) -> Record:
    haze = 0.02 if finish == "flat" else 0.004  # a matting agent scatters a little
    return {
        "id": paint_id(name), "name": name, "line": "Sundrin", "medium": "acrylic-water", "finish": finish,
        "K": [0.001] * BANDS, "S": [haze] * BANDS, "stock_ml": 0.0,
    }  # fmt: skip


def _lab(R_i: FloatArray, g: float) -> list[float]:
    return np.round(lab_from_reflectance(through_surface(R_i, g)), 2).tolist()


def demo_shelf() -> ShelfContent:
    """The demo's shelf as a shelf file would hold it."""
    stock = np.random.default_rng(1954).uniform(3, 17, 80).round()
    lines = (
        (SUNDRIN, "Sundrin", "acrylic-water"),
        ((STEEL,), "Sundrin", "acrylic-water"),
        (KVELDRA, "Kveldra", "oil"),
        (ASKEL, "Askel", "pigment"),
    )
    records = [_record(bottle, line, medium, 0.0) for bottles, line, medium in lines for bottle in bottles]
    records += [_medium(name, finish) for name, finish in CLEAR]
    for record, millilitres in zip(records, stock, strict=False):
        record["stock_ml"] = float(millilitres)
    return ShelfContent(tuple(records), {"illuminant": "D65", "observer": "2 degree"})
