"""Bottles written by hand, and tables in everyday words."""

import pytest

from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.shelf.bottles import Bottle, bottle_of, record_of
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.ids import Ids
from lean_sepia.shelf.shelf import Shelf
from lean_sepia.shelf.shelf_file import read_shelf, write_shelf


def test_a_bottle_is_written_and_read_back():
    bottle = Bottle("Sea green", "Mine", "enamel", "satin", "#4f7a6c", 0.4, 18.0, 0.0, "2026", "stains", True)
    record = record_of(bottle, None, [])
    assert record["id"] == "sea-green"
    assert record["lab"] == pytest.approx((48.0, -18.5, 4.4), abs=2.5)
    again = bottle_of(record)
    assert (again.name, again.medium, again.finish, again.thinner_share) == (
        "Sea green",
        "enamel",
        "satin",
        0.4,
    )
    assert (again.drops_per_ml, again.stock_ml, again.opened, again.note, again.can) == (
        18.0,
        0.0,
        "2026",
        "stains",
        True,
    )
    assert again.colour == ""


def test_what_was_measured_stays_unless_a_colour_is_written():
    old = {
        "id": "a",
        "name": "A",
        "medium": "oil",
        "finish": "flat",
        "K": [1.0] * 31,
        "S": [1.0] * 31,
        "mine": 7,
    }
    kept = record_of(Bottle("B", medium="oil"), old, [])
    assert (kept["K"], kept["name"], kept["mine"]) == (old["K"], "B", 7)
    written = record_of(Bottle("B", medium="oil", colour="50, 1, 2"), old, [])
    assert "K" not in written
    assert written["lab"] == [50.0, 1.0, 2.0]


def test_a_bottle_needs_a_name_and_a_colour():
    with pytest.raises(ShelfError, match="needs a name"):
        record_of(Bottle(" ", colour="#fff"), None, [])
    with pytest.raises(ShelfError, match="needs a colour"):
        record_of(Bottle("A"), None, [])
    with pytest.raises(ColourError):
        record_of(Bottle("A", colour="greenish"), None, [])


def test_ids_are_made_of_names_and_never_taken_twice():
    assert Ids([]).fresh("Élan №5") == "lan-5"
    assert Ids([]).fresh("☂") == "paint"
    assert Ids({"a", "a-2"}).fresh("a") == "a-3"
    assert len(Ids([]).fresh("x" * 500)) <= 60


def test_a_retired_bottle_stays_on_the_shelf_and_is_not_used():
    shelf = Shelf(None)
    records = [
        record_of(Bottle(name, colour=hexed), None, [])
        for name, hexed in (("A", "#804020"), ("B", "#208040"))
    ]
    shelf.add(ShelfContent(tuple(records)))
    shelf.add(ShelfContent(({**records[0], "retired": True},)), replace=True)
    assert [paint.id for paint in shelf.paints()] == ["b"]
    assert [paint.id for paint in shelf.all_paints()] == ["a", "b"]
    assert [paint.mixes for paint in shelf.all_paints()] == [False, True]
    shelf.close()


def test_a_ready_wash_is_as_thin_as_it_is_sold():
    records = [
        {
            "id": name,
            "name": name,
            "medium": "oil",
            "finish": "flat",
            "lab": [30, 5, 8],
            "thinner_share": share,
        }
        for name, share in (("tube", 0.0), ("wash", 0.9))
    ]
    tube, wash = ShelfContent(tuple(records)).paints()
    assert pytest.approx(0.1 * tube.K) == wash.K
    assert pytest.approx(0.1 * tube.S) == wash.S
    assert wash.masstone_lab() == pytest.approx(tube.masstone_lab())


def test_a_table_in_everyday_words_with_decimal_commas_and_hex(tmp_path):
    file = tmp_path / "mine.csv"
    file.write_text(
        "id;name;medium;finish;hex;stock_ml;can;note\n"
        "a;Sand;Acrylic;Matt;#c8b48c;7,5;no;\n"
        "b;Rust wash;oil paint;semi-gloss;6b3a22;;;stains\n"
        "c;Sky;enamel;gloss;#88aacc;;yes;\n",
        encoding="utf-8",
    )
    records = read_shelf(file).records
    assert [(r["medium"], r["finish"]) for r in records] == [
        ("acrylic-water", "flat"), ("oil", "satin"), ("enamel", "gloss"),
    ]  # fmt: skip
    assert records[0]["stock_ml"] == 7.5
    assert [r.get("can") for r in records] == [False, None, True]
    write_shelf(tmp_path / "out.csv", read_shelf(file))
    assert [paint.can for paint in read_shelf(tmp_path / "out.csv").paints()] == [False, False, True]


@pytest.mark.parametrize(
    ("row", "said"),
    [
        ("a;gouache;flat;#fff", "line 2, medium: .gouache. is none of"),
        ("a;oil;wet;#fff", "line 2, finish: .wet. is none of"),
        ("a;oil;flat;#ggg", "line 2, hex"),
    ],
)
def test_a_word_that_names_nothing_is_said_with_its_line(tmp_path, row, said):
    file = tmp_path / "mine.csv"
    file.write_text(f"id;medium;finish;hex\n{row}\n")
    with pytest.raises(ShelfError, match=said):
        read_shelf(file).paints()


@pytest.mark.parametrize("field", ["can", "retired"])
def test_yes_and_no_are_true_and_false_in_json(field):
    record = {"id": "a", "name": "A", "medium": "oil", "finish": "flat", "lab": [50, 0, 0], field: "perhaps"}
    with pytest.raises(ShelfError, match=f"{field} is true or false"):
        ShelfContent((record,)).paints()
