"""Colour schemes of the invented service for the print of 1951, rivals of the first livery among them."""

from __future__ import annotations

from collections.abc import Mapping

from lean_sepia.arrays import FloatArray
from lean_sepia.demo.camera import ortho_print, take
from lean_sepia.demo.canvas import Scene
from lean_sepia.demo.prototype import PAINTS, TruePaint
from lean_sepia.photo.correction.cast import AS_FOUND
from lean_sepia.photo.grey_evidence import PrintGrey
from lean_sepia.photo.patch import disc_patch

_RIVALS: Mapping[str, TruePaint] = {
    "sea-green hull": TruePaint(
        {"phthalo green": 3, "titanium white": 9.6, "bone black": 2.4, "phthalo blue": 2}
    ),
    "dun hull": TruePaint({"yellow ochre": 24, "titanium white": 9, "raw umber": 6.2, "bone black": 0.8}),
    "signal-orange hull": TruePaint({"cadmium orange": 30, "red oxide": 4, "titanium white": 3}),
    "pale blue hull": TruePaint({"ultramarine": 6, "titanium white": 24, "bone black": 1.2}),
    "black hull": TruePaint({"bone black": 30, "titanium white": 1}),
}
_AREAS = {"hull": "old hull", "house": "old house", "funnel": "band", "boot": "boot"}
KNOWN_AREAS = ("locker", "lettering")
"""Areas whose colour does not depend on the livery."""


def demo_schemes() -> dict[str, dict[str, FloatArray]]:
    """By scheme, the reflectance (31,) of each area. The first livery is what the print shows."""

    def scheme(**changed: TruePaint) -> dict[str, FloatArray]:
        return {area: changed.get(area, PAINTS[name]).reflectance() for area, name in _AREAS.items()}

    second = {area: PAINTS[area] for area in ("hull", "house", "funnel", "boot")}
    return {
        "first livery": scheme(),
        "second livery": scheme(**second),
        "third livery": scheme(hull=_RIVALS["signal-orange hull"], funnel=PAINTS["funnel"]),
        "trial in sea-green": scheme(hull=_RIVALS["sea-green hull"]),
        "trial in dun": scheme(hull=_RIVALS["dun hull"]),
        "trial in pale blue": scheme(hull=_RIVALS["pale blue hull"]),
        "all in black": scheme(hull=_RIVALS["black hull"], house=PAINTS["funnel"]),
    }


def known_reflectances() -> dict[str, FloatArray]:
    """Reflectance (31,) of the areas that are certain."""
    return {area: PAINTS[area].reflectance() for area in KNOWN_AREAS}


def greys_of_print(scene: Scene, seed: int) -> dict[str, PrintGrey]:
    """What an orthochromatic print of a scene shows of each area; unfaded places, where there are any."""
    pixels = take(scene, ortho_print(seed), seed)
    found = {}
    for area in (*_AREAS, *KNOWN_AREAS):
        spots = (f"{area} sheltered", f"{area} exposed", area)
        discs = next(scene.spots[spot] for spot in spots if spot in scene.spots)
        found[area] = PrintGrey.of([float(AS_FOUND.lab(disc_patch(pixels, *disc).mean)[0]) for disc in discs])
    return found
