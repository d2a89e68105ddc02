"""How far a bottle covers and what it is for."""

import pytest

from lean_sepia.paint.handling.bodies import BODIES, USES, body_said, coats_to_hide, use_said
from lean_sepia.paint.media import MEDIA

GREY, WHITE, BLACK = (55, 0, 0), (94, 0, 3), (16, 1, -1)
YELLOW, RED, ORANGE = (75, 8, 62), (42, 52, 34), (58, 40, 48)


@pytest.mark.parametrize("medium", MEDIA)
def test_a_usual_paint_hides_at_the_coats_of_its_medium_however_light_it_is(medium):
    for lab in (GREY, (30, 4, 6), (80, 2, 14), (35, -12, 8)):
        assert coats_to_hide(lab, medium) == MEDIA[medium].hides_coats


def test_common_practice_for_whites_blacks_and_strong_colours():
    assert coats_to_hide(WHITE, "acrylic-water") == 4
    assert coats_to_hide(YELLOW, "acrylic-water") == 4
    assert coats_to_hide(RED, "acrylic-water") == 3
    assert coats_to_hide(ORANGE, "oil") == 3
    assert coats_to_hide(BLACK, "acrylic-water") == 1
    assert coats_to_hide((75, 6, 40), "acrylic-water") == 2  # a dull yellow is no strong one
    assert coats_to_hide((94, 0, 14), "acrylic-water") == 2  # a cream is no white


def test_what_is_stated_wins_over_the_body_and_the_body_over_the_colour():
    assert coats_to_hide(WHITE, "acrylic-water", "opaque") == 1.3
    assert coats_to_hide(BLACK, "acrylic-water", "thin") == 4
    assert coats_to_hide(GREY, "lacquer", "transparent") == 10
    assert coats_to_hide(GREY, "lacquer", "transparent", 2.5) == 2.5


@pytest.mark.parametrize(
    ("said", "name"),
    [
        ("Opaque", "opaque"),
        (" covers well ", "opaque"),
        ("translucent", "transparent"),
        ("gouache", "gouache"),
    ],
)
def test_bodies_are_said_in_everyday_words(said, name):
    assert body_said(said) == name


@pytest.mark.parametrize(
    ("said", "name"),
    [("Primer", "primer"), ("flat base", "medium"), ("ready wash", "wash"), ("glue", "glue")],
)
def test_uses_are_said_in_everyday_words(said, name):
    assert use_said(said) == name


def test_only_paints_and_inks_are_proposed():
    assert {name for name, use in USES.items() if use.proposed} == {"paint", "ink"}
    assert next(iter(BODIES)) == "usual"
