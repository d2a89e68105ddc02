"""Colours as people write them down."""

import pytest

from lean_sepia.colour.written import read_colour
from lean_sepia.errors import ColourError


@pytest.mark.parametrize(
    ("text", "lab"),
    [
        ("45.8, -13.9, -6.1", (45.8, -13.9, -6.1)), ("45.8, −13.9, −6.1", (45.8, -13.9, -6.1)), ("50,0,0", (50, 0, 0)),
        ("lab 46 -14 -6", (46, -14, -6)), ("Lab(46, -14, -6)", (46, -14, -6)), ("46; -14; -6", (46, -14, -6)), ("45,8; -13,9; -6,1", (45.8, -13.9, -6.1)),
        ("#ffffff", (100, 0, 0)), ("#000", (0, 0, 0)), ("rgb 255 255 255", (100, 0, 0)), ("rgb(0, 0, 0)", (0, 0, 0)),
    ],
)  # fmt: skip
def test_what_is_read(text, lab):
    assert read_colour(text) == pytest.approx(lab, abs=0.02)


def test_a_screen_colour_against_the_standard():
    """IEC 61966-2-1: pure red is L* 53.2, a* 80.1, b* 67.2."""
    assert read_colour("#FF0000") == pytest.approx((53.24, 80.09, 67.2), abs=0.1)
    assert read_colour("rgb 255, 0, 0") == pytest.approx(read_colour("#f00"))


@pytest.mark.parametrize(
    "text",
    [
        "",
        "green",
        "50, 0",
        "150, 0, 0",
        "#12345",
        "rgb 300 0 0",
        "nan, 0, 0",
        "1,2,3,4",
        "9" * 500,
        "50, 0, 0x1",
    ],
)
def test_what_is_none(text):
    with pytest.raises(ColourError):
        read_colour(text)
