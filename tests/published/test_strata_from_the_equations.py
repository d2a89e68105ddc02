"""`strata` against a computation of the same stack written from the equations alone, on random stacks of two to nine coats.

Layers over grounds: Kubelka and Munk (1931), Kubelka, J. Opt. Soc. Am. 38 (1948); the surface: Saunderson, J. Opt. Soc. Am. 32
(1942); mixtures: K and S are volume means (Duncan 1940). Nothing of the program computes the expected value but the tables of
the observer and the light.
"""

import json
from types import SimpleNamespace

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.lights import weights
from lean_sepia.shelf.shelf_file import read_shelf

SPREAD = {
    "airbrush": 1.0, "close": 0.5, "mist": 0.15, "spray-can": 1.3, "brush": 1.5, "glaze": 0.3, "flood": 1.0, "seam": 5.0,
}  # fmt: skip
SHEEN = {"flat": 1.0, "satin": 0.5, "gloss": 0.1}
UNDER = {"matte-coat": 0.8, "satin-coat": 0.5, "gloss-coat": 0.1}
K1, K2 = 0.04, 0.6


def film(K, S, X, ground):
    """Reflectance of a film of thickness X on a ground."""
    S = np.maximum(S, 1e-9)
    a = 1 + K / S
    b = np.sqrt(np.maximum(a * a - 1, 1e-12))
    coth = 1 / np.tanh(np.clip(b * S * X, 1e-9, 300))
    return (1 - ground * (a - b * coth)) / (a - ground + b * coth)


def seen_through(R, g):
    """Measured reflectance of an internal one under a surface of which a share g reaches the eye."""
    return g * K1 + (1 - K1) * (1 - K2) * R / (1 - K2 * R)


def xyz_of(R):
    return np.asarray(weights()).T @ R if np.asarray(weights()).shape[0] == 31 else np.asarray(weights()) @ R


def expected(stack, paints, ground):
    """Mean XYZ of a stack of films, tints and spots under its last varnish."""
    patches = [(1.0, ground, SHEEN["flat"])]
    sheen, varnish = SHEEN["flat"], None
    for coat in stack:
        kind = coat["kind"]
        if kind in UNDER:
            varnish = UNDER[kind]
            continue
        used = [(paints[name], count) for name, count in coat["parts"].items()]
        total = sum(count for _paint, count in used)
        K = sum(paint.K * count for paint, count in used) / total
        S = sum(paint.S * count for paint, count in used) / total
        g = sum(paint.g * count for paint, count in used) / total
        X = coat["passes"] * (1 - coat["thinner_share"]) * SPREAD[coat["tool"]]
        share = coat["area_share"]
        if kind in ("chips", "streaks", "marking"):
            largest = max(patches, key=lambda patch: patch[0])
            patches = [(size * (1 - share), R, own) for size, R, own in patches]
            patches.append((share, film(K, S, X, largest[1]), g))
            continue
        tint = kind in ("filter", "wash")
        covered = [(size * share, film(K, S, X, R), own if tint else g) for size, R, own in patches]
        left = [(size * (1 - share), R, own) for size, R, own in patches] if share < 1 else []
        patches = covered + left
        sheen = sheen if tint else g
    return sum(
        size * xyz_of(seen_through(R, sheen if varnish is None else varnish)) for size, R, _own in patches
    )


@pytest.fixture(scope="module")
def shelf(demo_master):
    paints = {paint.id: paint for paint in read_shelf(demo_master.shelf_file).paints()}
    return {
        name: paint
        for name, paint in paints.items()
        if paint.mixes and (paint.k1, paint.k2) == (K1, K2) and paint.S.min() > 1e-3
    }


def random_stack(rng, names):
    coats = []
    for number in range(int(rng.integers(2, 10))):
        kind = (
            "base"
            if number == 0
            else str(
                rng.choice(
                    ["base", "fade", "tone", "filter", "wash", "chips", "marking", "matte-coat", "satin-coat"]
                )
            )
        )
        if kind in UNDER:
            coats.append({"kind": kind})
            continue
        chosen = rng.choice(names, int(rng.integers(1, 4)), replace=False)
        coats.append({
            "kind": kind, "parts": {str(name): int(rng.integers(1, 7)) for name in chosen}, "passes": int(rng.integers(1, 4)),
            "thinner_share": round(float(rng.uniform(0, 0.95)), 3), "tool": str(rng.choice(list(SPREAD))),
            "area_share": round(float(rng.uniform(0.01, 0.3)), 3) if kind in ("chips", "marking") else 1.0,
        })  # fmt: skip
    return coats


def test_two_hundred_random_stacks(call, shelf, demo_master, tmp_path, monkeypatch):
    paints = read_shelf(demo_master.shelf_file).paints()  # built once, not for each stack
    ready = SimpleNamespace(paints=lambda: paints)
    monkeypatch.setattr("lean_sepia.shelf.shelf_file.read_shelf", lambda _path: ready)
    rng = np.random.default_rng(11)
    worst = 0.0
    light = [name for name in shelf if shelf[name].masstone_lab()[0] > 70]
    for _stack in range(200):
        coats = random_stack(rng, sorted(shelf))
        # The lowest coat lies on nothing and is opaque: its masstone is the ground of the rest.
        first = {"kind": "primer", "parts": {str(rng.choice(light)): 1}}
        paint = shelf[next(iter(first["parts"]))]
        ratio = paint.K / np.maximum(paint.S, 1e-9)
        ground = 1 + ratio - np.sqrt(ratio * ratio + 2 * ratio)
        (tmp_path / "stack.json").write_text(json.dumps({"coats": [first, *coats]}))
        code, out, err = call("strata", tmp_path / "stack.json", "--shelf", demo_master.shelf_file, "--json")
        assert code == 0, err
        mine = lab_from_xyz(expected(coats, shelf, ground))
        worst = max(worst, float(delta_e00(mine, json.loads(out)["seen"])))
    assert worst < 0.3


def test_the_stack_says_where_each_coat_lies(call, demo_master, tmp_path):
    stack = {
        "ground": {"lab": [80, 0, 5], "finish": "satin"},
        "coats": [
            {"kind": "base", "parts": {"deep-sea": 7, "chalk": 2}, "passes": 3}, {"kind": "resist", "area_share": 0.1},
            {"kind": "camouflage", "lab": [60, 5, 20]}, {"kind": "remove-resist"}, {"kind": "dust", "lab": [70, 2, 12], "area_share": 0.25},
            {"kind": "matte-coat"}, {"kind": "filter", "parts": {"chalk": 1}, "on": False},
        ],
    }  # fmt: skip
    (tmp_path / "stack.json").write_text(json.dumps(stack))
    code, out, err = call("strata", tmp_path / "stack.json", "--shelf", demo_master.shelf_file, "--json")
    assert code == 0, err
    found = json.loads(out)
    assert set(found) == {"coats", "fresh", "exposed", "seen"}
    assert [coat["lab"] is None for coat in found["coats"]] == [False, True, False, True, False, False, True]
    assert (
        float(delta_e00(found["coats"][2]["lab"], [60, 5, 20])) < 1.5
    )  # under the matte coat a little darker
    assert found["fresh"] is not None


@pytest.mark.parametrize(
    "stack",
    [
        [], {}, {"coats": [{"kind": "base", "parts": {"nope": 1}}]}, {"coats": [{"kind": "base", "area_share": 2}]},
        {"coats": [{"kind": "varnishing"}]}, {"coats": [{"kind": "base", "parts": {}}]}, {"coats": [{"parts": {"chalk": 1}}]},
        {"coats": [{"kind": "base", "parts": {"chalk": 1}, "lab": [50, 0, 0]}]}, {"coats": [{"kind": "base", "passes": 0}]},
        {"ground": {"lab": [500, 0, 0]}, "coats": []}, {"coats": [{"kind": "base", "tool": "roller"}]},
    ],
)  # fmt: skip
def test_stacks_that_cannot_be(call, demo_master, tmp_path, stack):
    (tmp_path / "stack.json").write_text(json.dumps(stack))
    code, out, err = call("strata", tmp_path / "stack.json", "--shelf", demo_master.shelf_file, "--json")
    assert (code, out) == (2, "")
    assert len(err.strip().splitlines()) == 1
