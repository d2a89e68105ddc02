"""A shelf that two windows write to, lists that are read again, and changes that are taken back."""

import pytest

from lean_sepia.errors import ShelfError
from lean_sepia.shelf.bottles import bottle_of, record_of
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.shelf import Shelf, with_own_words

TEAL = {"id": "teal", "name": "Teal", "medium": "acrylic-water", "finish": "flat", "lab": [45, -13, -6]}
GREY = {"id": "grey", "name": "Grey", "medium": "acrylic-water", "finish": "flat", "lab": [60, 0, 0]}
TINT = {
    "id": "tint", "name": "Tint", "medium": "acrylic-water", "finish": "flat", "lab": [40, 20, 10],
    "lab_tint": [70, 9, 5], "tint_white": "white", "tint_parts_white": 10,
}  # fmt: skip
WHITE = {"id": "white", "name": "White", "medium": "acrylic-water", "finish": "flat", "lab": [96, 0, 1]}


@pytest.fixture
def windows(tmp_path):
    first = Shelf(tmp_path / "shelf.sqlite")
    first.add(ShelfContent((TEAL, GREY)))
    second = Shelf(tmp_path / "shelf.sqlite")
    for shelf in (first, second):
        shelf.changed_elsewhere()
    yield first, second
    first.close()
    second.close()


def bottle(shelf, name):
    return shelf.by_id()[name]


def test_each_window_writes_what_it_changed(windows):
    first, second = windows
    seen_by_first, seen_by_second = bottle(first, "teal"), bottle(second, "teal")
    first.change((seen_by_first, {**seen_by_first, "stock_ml": 4.0}))
    second.change((seen_by_second, {**seen_by_second, "note": "curdles"}))
    assert bottle(second, "teal") == {**TEAL, "stock_ml": 4.0, "note": "curdles"}
    assert first.changed_elsewhere()
    assert not first.changed_elsewhere()
    assert bottle(first, "teal") == {**TEAL, "stock_ml": 4.0, "note": "curdles"}
    second.changed_elsewhere()
    second.remove(["grey"])
    assert not second.changed_elsewhere()  # its own change is none


def test_a_sheet_that_was_open_meanwhile_takes_nothing_back(windows):
    first, second = windows
    old = bottle(first, "teal")
    second.change((old, {**old, "stock_ml": 2.0, "opened": "2031-03"}))
    written = record_of(bottle_of(old), old, {})
    first.change((old, {**written, "note": "stains"}))
    assert bottle(first, "teal")["stock_ml"] == 2.0
    assert bottle(first, "teal")["note"] == "stains"


def test_a_bottle_taken_off_elsewhere_is_kept_by_who_changes_it(windows):
    first, second = windows
    old = bottle(first, "grey")
    second.remove(["grey"])
    first.change((old, {**old, "note": "still here"}))
    assert bottle(first, "grey") == {**GREY, "note": "still here"}


def test_a_change_that_breaks_a_rule_changes_nothing(windows):
    first, _second = windows
    teal, grey = bottle(first, "teal"), bottle(first, "grey")
    with pytest.raises(ShelfError):
        first.change((grey, {**grey, "note": "x"}), (teal, {**teal, "lab": [1, 2]}))
    assert bottle(first, "teal") == TEAL
    assert bottle(first, "grey") == GREY
    assert bottle(Shelf(first.path), "grey") == GREY


def test_what_is_known_by_a_tint_can_be_changed(windows):
    first, _second = windows
    first.add(ShelfContent((WHITE, TINT)))
    tint = bottle(first, "tint")
    first.change((tint, {**tint, "stock_ml": 3.0}))
    assert bottle(first, "tint") == {**TINT, "stock_ml": 3.0}


@pytest.mark.parametrize("mine", [True, False])
def test_a_list_read_again_keeps_what_was_written_or_not_and_can_be_taken_back(windows, mine):
    first, _second = windows
    teal = bottle(first, "teal")
    first.change((teal, {**teal, "stock_ml": 7.5, "opened": "2030", "note": "mine", "retired": True}))
    before = first.records()
    listed = ({**TEAL, "lab": [44, -12, -5], "stock_ml": 100.0}, WHITE)
    if mine:
        listed = tuple(with_own_words(record, first.by_id().get(record["id"])) for record in listed)
    first.add(ShelfContent(listed), replace=True)
    now = bottle(first, "teal")
    assert now["lab"] == [44, -12, -5]
    assert (now["stock_ml"], now.get("note")) == ((7.5, "mine") if mine else (100.0, None))
    now = bottle(first, "grey")
    first.change((now, {**now, "note": "since"}))
    first.undo()
    assert bottle(first, "grey") == GREY
    first.undo()
    assert first.records() == before
    first.undo()
    first.undo()
    assert not first.can_undo
    assert first.records() == []


def test_taking_back_leaves_what_another_window_wrote_since(windows):
    first, second = windows
    first.add(ShelfContent(({**TEAL, "name": "Teal new"},)), replace=True)
    seen = bottle(Shelf(first.path), "teal")
    second.change((seen, {**seen, "stock_ml": 1.0}))
    first.undo()
    assert bottle(first, "teal") == {**TEAL, "stock_ml": 1.0}


def test_what_is_taken_off_comes_back_to_its_place(windows):
    first, _second = windows
    first.add(ShelfContent((WHITE,)))
    first.remove(["grey"])
    first.undo()
    assert [record["id"] for record in first.records()] == ["teal", "grey", "white"]
