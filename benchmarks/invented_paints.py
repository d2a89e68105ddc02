"""Shelves of any size for measuring: random mixtures of the demo's pigments, each a paint of its own."""

from __future__ import annotations

import numpy as np

from lean_sepia.demo.pigments import PIGMENTS
from lean_sepia.paint.paint import Knowledge, Paint
from lean_sepia.paint.saunderson import SHEEN


def invented_paints(count: int, rng: np.random.Generator) -> list[Paint]:
    """Paints of one to three pigments each, about half of them with white; the first five are white, black and strong ones."""
    names = list(PIGMENTS)
    plain = ["titanium white", "bone black", "phthalo blue", "hansa yellow", "naphthol red"]
    paints = []
    for number in range(count):
        if number < len(plain):
            shares = {plain[number]: 1.0}
        else:
            chosen = rng.choice(names, rng.integers(1, 4), replace=False)
            shares = dict(zip(chosen.tolist(), rng.dirichlet(np.ones(len(chosen))), strict=True))
            if rng.random() < 0.5:
                shares = {name: 0.4 * share for name, share in shares.items()}
                shares["titanium white"] = shares.get("titanium white", 0.0) + 0.6
        K = sum((PIGMENTS[name][0] * share for name, share in shares.items()), np.zeros(31))
        S = sum((PIGMENTS[name][1] * share for name, share in shares.items()), np.zeros(31))
        finish = str(rng.choice(["flat", "flat", "satin", "gloss"]))
        paints.append(
            Paint(
                f"p{number:03}",
                f"Paint {number}",
                "acrylic-water",
                finish,
                K,
                S,
                SHEEN[finish],
                Knowledge.SPECTRAL,
            )
        )
    return paints
