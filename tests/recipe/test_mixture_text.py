"""Mixtures as people write them down."""

import pytest

from lean_sepia.errors import ShelfError
from lean_sepia.recipe.phrases.mixture_text import read_mixture

NAMES = {"deep-sea": "Deep sea", "chalk": "Chalk", "warm-black": "Warm black", "warm-grey": "Warm grey", "grey-7": "Grey 7"}  # fmt: skip


@pytest.mark.parametrize(
    ("text", "parts"),
    [
        ("8 Deep sea, 1 Chalk", [("deep-sea", 8), ("chalk", 1)]),
        ("deep-sea=8,chalk=1", [("deep-sea", 8), ("chalk", 1)]),
        ("deep-sea=8 chalk=1", [("deep-sea", 8), ("chalk", 1)]),
        ("8 parts deep sea + 1 drop CHALK", [("deep-sea", 8), ("chalk", 1)]),
        ("8 Deep sea : 2 Chalk", [("deep-sea", 8), ("chalk", 2)]),
        ("Deep sea 8; Chalk × 2", [("deep-sea", 8), ("chalk", 2)]),
        ("chalk", [("chalk", 1)]),
        ("2 deep, 1 deep sea", [("deep-sea", 3)]),
        ("3 Grey 7, 1 chalk", [("grey-7", 3), ("chalk", 1)]),
    ],
)
def test_every_way_of_writing_comes_to_parts(text, parts):
    assert read_mixture(text, NAMES) == parts


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "Say what was mixed"), (" , ", "Say what was mixed"), ("3 nobody", "names no paint"),
        ("2 warm, 1 chalk", "2 paints"), ("deep sea, chalk 2", "no number of parts"), ("0 chalk", "at least 1"),
        ("half chalk", "names no paint"),
    ],
)  # fmt: skip
def test_what_cannot_be_read_is_said(text, said):
    with pytest.raises(ShelfError, match=said):
        read_mixture(text, NAMES)
