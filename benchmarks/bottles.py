"""Bottles typed by one colour: how the films and mixtures predicted from it stand to those of the spectral paints they were."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from benchmarks.figure import report
from benchmarks.invented_paints import invented_paints
from benchmarks.simulated_bottles import known_by_one_colour
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.film import film_thickness, thickness_to_hide
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint, Palette
from lean_sepia.paint.saunderson import Surface
from lean_sepia.paint.trust import predict
from lean_sepia.shelf.paint_record import paint_from_record

PAINTS, MEDIAN, SPREAD, LEAST, MOST = 300, 2.0, 0.35, 1.3, 5.0
FILMS = {
    "a drawn 1:20 filter": film_thickness(1, 20 / 21, "glaze"),
    "a 90 % mist": film_thickness(1, 0.9, "mist"),
    "a 60 % base coat": film_thickness(1, 0.6),
}
GROUNDS = {"light": (75.0, 2.0, 12.0), "dark": (32.0, -2.0, 3.0)}
BANDS = ((0, 40), (40, 65), (65, 100))
FLAT = Surface()


def true_paints(rng: np.random.Generator) -> list[Paint]:
    """Flat spectral paints that hide in 1.3 to 5 coats, drawn from a lognormal of median two."""
    paints = []
    for paint in invented_paints(PAINTS, rng):
        flat = replace(paint, finish="flat", g=1.0)
        thickness = thickness_to_hide(flat)
        if thickness is None:
            continue
        coats = float(np.clip(MEDIAN * np.exp(rng.normal(0, SPREAD)), LEAST, MOST))
        paints.append(replace(flat, K=flat.K * thickness / coats, S=flat.S * thickness / coats))
    return paints


def shifts(paint: Paint, ground: FloatArray, X: float) -> float:
    """ΔE00 by which a film moves a ground."""
    before = Laying(ground, 0.0, None, FLAT).lab(paint)
    return float(delta_e00(before, Laying(ground, X, None, FLAT).lab(paint)))


def ratios(true: list[Paint]) -> Iterator[tuple[str, float, float]]:
    """Film, masstone lightness, and the typed film's shift over the true one; without films that nobody sees."""
    grounds = [internal_from_lab(lab).R_i for lab in GROUNDS.values()]
    for paint in true:
        typed = known_by_one_colour(paint)
        for name, X in FILMS.items():
            for ground in grounds:
                real = shifts(paint, ground, X)
                if real > 0.15:
                    yield name, float(paint.masstone_lab()[0]), shifts(typed, ground, X) / real


def held(true: list[Paint], rng: np.random.Generator) -> dict[str, float]:
    """How often the true colour lies within the stated radius of the typed one: of each film, and of mixtures of two."""
    grounds = [internal_from_lab(lab).R_i for lab in GROUNDS.values()]
    typed = [known_by_one_colour(paint, rng) for paint in true]
    within: dict[str, list[bool]] = {name: [] for name in (*FILMS, "a mixture of two")}
    for known, paint in zip(typed, true, strict=True):
        for name, X in FILMS.items():
            for ground in grounds:
                laying = Laying(ground, X, None, FLAT)
                found = predict([known], [1], laying)
                within[name].append(float(delta_e00(found.lab, laying.lab(paint))) <= found.de00_90)
    for _mixture in range(len(true)):
        pair, parts = rng.choice(len(true), 2, replace=False), rng.integers(1, 6, 2)
        found = predict([typed[one] for one in pair], parts.tolist())
        lab = Laying().lab(Palette.of([true[one] for one in pair]).mixture(parts / parts.sum()))
        within["a mixture of two"].append(float(delta_e00(found.lab, lab)) <= found.de00_90)
    return {name: float(np.mean(those)) for name, those in within.items()}


def practice() -> list[bool]:
    """A black in white, dark filters on mid tones, and three coats over a primer, by typed bottles."""

    def typed(lab: tuple[float, float, float], medium: str = "acrylic-water") -> Paint:
        return paint_from_record({"id": "typed", "medium": medium, "finish": "flat", "lab": list(lab)})

    black, white = typed((18.0, 0.0, 0.0)), typed((94.0, 0.0, 3.0))
    grey = float(Laying().lab(Palette.of([black, white]).mixture(np.array([0.1, 0.9])))[0])
    print(f"one part of typed black in nine of white: L* {grey:.0f} (40 to 76: {_said(40 <= grey <= 76)})")
    tones = [internal_from_lab(lab).R_i for lab in ((55.0, 0.0, 2.0), (52.0, 8.0, 22.0), (50.0, -12.0, 4.0))]
    dark = [typed(lab, "oil") for lab in ((30.0, 8.0, 12.0), (36.0, 2.0, 6.0), (26.0, 1.0, 2.0))]
    moved = [shifts(paint, tone, FILMS["a drawn 1:20 filter"]) for paint in dark for tone in tones]
    print(
        f"dark filters 1:20 on mid tones: {min(moved):.1f} to {max(moved):.1f} ΔE00 a pass (0.3 to 3.5: {_said(min(moved) >= 0.3 and max(moved) <= 3.5)})"
    )
    primer, worst = internal_from_lab((58.0, 0.0, 0.0)).R_i, 0.0
    for lab in (
        (70.0, 5.0, 22.0),
        (45.0, -14.0, 6.0),
        (38.0, 18.0, 14.0),
        (52.0, 0.0, 0.0),
        (60.0, -8.0, 18.0),
    ):
        paint = typed(lab)
        worst = max(
            worst,
            float(
                delta_e00(Laying(primer, film_thickness(3, 0.6), None, FLAT).lab(paint), paint.masstone_lab())
            ),
        )
    print(
        f"three coats at 60 % thinner of usual bodies over a mid-grey primer: worst {worst:.1f} ΔE00 from the masstone (at most 4: {_said(worst <= 4)})"
    )
    return [40 <= grey <= 76, min(moved) >= 0.3 and max(moved) <= 3.5, worst <= 4]


def _said(reached: bool) -> str:
    return "reached" if reached else "NOT REACHED"


def main() -> bool:
    """Ratios by film and band of lightness, and what practice says."""
    true = true_paints(np.random.default_rng(28))
    found = list(ratios(true))
    reached = practice()
    shares = held(true, np.random.default_rng(29))
    for name, share in shares.items():
        print(f"typed ranges hold, {name}: {100 * share:.0f} %")
    whole = float(np.mean(list(shares.values())))
    reached.append(0.85 <= whole <= 0.95)
    print(f"typed ranges hold, all: {100 * whole:.0f} %  (85 to 95: {_said(reached[-1])})")
    for name in FILMS:
        for low, high in BANDS:
            those = np.array([ratio for film, L, ratio in found if film == name and low <= L < high])
            middle = float(np.median(those))
            fits = 0.75 <= middle <= 1.33
            reached.append(fits)
            print(
                f"typed / true shift, {name}, L* {low} to {high}, {len(those)} films: median {middle:.2f}  (0.75 to 1.33: {_said(fits)})"
            )
    every = np.array([ratio for _film, _L, ratio in found])
    beyond = float(np.mean((every > 2.5) | (every < 1 / 2.5)))
    return report(
        "typed films beyond a factor of 2.5, of all",
        beyond / 0.1,
        1.0,
        "one in ten",
        f"[{100 * beyond:.0f} % of {len(every)}]",
    ) and all(reached)
