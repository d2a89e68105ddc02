"""Shelves typed in ten minutes: any usual header, everyday words, bodies and uses, and what is kept of the rest."""

import json

import pytest

from lean_sepia.errors import ShelfError
from lean_sepia.paint.film import thickness_to_hide
from lean_sepia.recipe.mix import MixSolver
from lean_sepia.shelf.shelf_file import read_shelf, write_shelf

TYPED = """Name;Colour;Type;Finish;Hides in;What it is;Covers;Left;Bought at
Quay white;#ece9e1;acrylic;matt;;;;12,5 ml;the fair
Quay white;#e8e4da;acrylic;matt;3 coats;;;;
Mud;#6d5c47;oil paint;satin;;;thin;;
Clear satin;;acrylic;satin;;varnish;clear;;
Grey primer;#8f9291;acrylic;matt;;undercoat;;;
Dark wash;#3d3129;enamel;satin;;ready wash;;0;
"""


@pytest.fixture
def typed(tmp_path):
    file = tmp_path / "typed.csv"
    file.write_text(TYPED)
    return file


def test_headers_and_cells_in_everyday_words_are_read(typed):
    content = read_shelf(typed)
    paints = {paint.id: paint for paint in content.paints()}
    assert list(paints) == ["quay-white", "quay-white-2", "mud", "clear-satin", "grey-primer", "dark-wash"]
    assert thickness_to_hide(paints["quay-white"]) == pytest.approx(4, rel=0.03)  # as whites do
    assert thickness_to_hide(paints["quay-white-2"]) == pytest.approx(3, rel=0.03)  # as it says
    assert thickness_to_hide(paints["mud"]) == pytest.approx(4, rel=0.05)  # a thin body
    assert paints["mud"].medium == "oil"
    assert paints["clear-satin"].clear
    assert paints["grey-primer"].use == "primer"
    assert paints["dark-wash"].empty
    assert content.records[0]["stock_ml"] == 12.5


def test_columns_that_mean_nothing_come_back(typed, tmp_path):
    content = read_shelf(typed)
    assert content.records[0]["Bought at"] == "the fair"
    for name in ("again.csv", "again.json"):
        write_shelf(tmp_path / name, content)
        again = read_shelf(tmp_path / name)
        assert again.records[0]["Bought at"] == "the fair"
        assert [paint.id for paint in again.paints()] == [paint.id for paint in content.paints()]
        assert [paint.body for paint in again.paints()] == [paint.body for paint in content.paints()]


def test_only_what_is_meant_for_it_is_mixed_unless_it_is_asked_for(typed):
    paints = read_shelf(typed).paints()
    proposed = {paint.id for paint in paints if paint.proposed}
    assert proposed == {"quay-white", "quay-white-2", "mud"}
    used = {name for recipe in MixSolver(paints).solve((60, 2, 8), count=5) for name, _count in recipe.parts}
    assert used <= proposed


def test_without_a_medium_and_a_finish_they_are_guessed_and_it_is_said(tmp_path):
    file = tmp_path / "short.csv"
    file.write_text("paint,color\nSea green,#4f7a6c\n")
    record = read_shelf(file).records[0]
    assert (record["medium"], record["finish"]) == ("acrylic-water", "flat")
    assert "not said" in record["note"]


@pytest.mark.parametrize(
    ("head", "words"),
    [
        ("Name;Type", "one for the colour: hex"),
        ("Colour;Type", "needs a column id or name"),
        ("Name;Colour;Color", "mean the same"),
        ("Name;L*;a*", "lacks the column 'lab_b'"),
    ],
)
def test_what_cannot_be_a_shelf_says_what_it_lacks(tmp_path, head, words):
    file = tmp_path / "shelf.csv"
    file.write_text(f"{head}\n{';'.join('abc'[: head.count(';') + 1])}\n")
    with pytest.raises(ShelfError, match=words):
        read_shelf(file)


def test_a_cell_that_cannot_be_read_is_named_with_its_line(tmp_path):
    file = tmp_path / "shelf.csv"
    file.write_text("Name;Colour;Hides in\nMud;#6d5c47;quite soon\n")
    with pytest.raises(ShelfError, match=r"line 2, Hides in: .quite soon. is no number"):
        read_shelf(file)


def test_a_screen_colour_in_json_is_a_colour(tmp_path):
    file = tmp_path / "shelf.json"
    record = {"id": "mud", "medium": "oil", "finish": "satin", "hex": "6d5c47", "body": "opaque"}
    file.write_text(json.dumps({"paints": [record]}))
    assert thickness_to_hide(read_shelf(file).paints()[0]) == pytest.approx(1.3, rel=0.03)
    for wrong in ("brown", 5, "#12"):
        file.write_text(json.dumps({"paints": [{**record, "hex": wrong}]}))
        with pytest.raises(ShelfError, match="hex"):
            read_shelf(file).paints()


@pytest.mark.parametrize(("field", "wrong"), [("use", "glue"), ("body", 3), ("use", None)])
def test_a_use_or_a_body_that_there_is_not_says_which_there_are(tmp_path, field, wrong):
    file = tmp_path / "shelf.json"
    file.write_text(
        json.dumps(
            {"paints": [{"id": "mud", "medium": "oil", "finish": "satin", "hex": "6d5c47", field: wrong}]}
        )
    )
    with pytest.raises(ShelfError, match=f"{field} is one of"):
        read_shelf(file).paints()


def test_a_bottle_that_dried_up_is_not_proposed(tmp_path):
    file = tmp_path / "shelf.csv"
    file.write_text(
        "Name;Colour;Note\nMud;#6d5c47;dried up in spring\nSand;#b39b74;never empty it into a drain\n"
    )
    mud, sand = read_shelf(file).paints()
    assert not mud.proposed
    assert sand.proposed


def test_nothing_coloured_is_no_recipe(tmp_path):
    file = tmp_path / "shelf.csv"
    file.write_text("Name;Colour;Cover\nGloss;;clear\n")
    with pytest.raises(ShelfError, match="clear and has no colour"):
        MixSolver(read_shelf(file).paints())
    file.write_text("Name;Colour\n")
    with pytest.raises(ShelfError, match="lists no paints"):
        read_shelf(file)
