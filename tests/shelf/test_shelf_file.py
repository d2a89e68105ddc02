"""Shelf files in both forms and all three states of knowledge, and what is refused."""

import json

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ShelfError
from lean_sepia.paint.kubelka_munk import opaque_reflectance, over_ground
from lean_sepia.paint.paint import Knowledge
from lean_sepia.paint.saunderson import into_paint, through_surface
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.shelf import Shelf, shelf_path_for
from lean_sepia.shelf.shelf_file import read_shelf, write_shelf

LAB = {"id": "teal", "name": "Teal", "medium": "acrylic-water", "finish": "flat", "lab": [48, -18, -4]}
SPECTRAL = {"id": "grey", "medium": "enamel", "finish": "satin", "K": [0.8] * 31, "S": [1.2] * 31}


def shelf_of(tmp_path, *records, **extra):
    file = tmp_path / "shelf.json"
    file.write_text(json.dumps({"paints": list(records), **extra}), encoding="utf-8")
    return read_shelf(file)


def test_one_colour(tmp_path):
    paint = shelf_of(tmp_path, LAB).paints()[0]
    assert paint.knowledge == Knowledge.ONE_CONSTANT
    assert float(delta_e00(paint.masstone_lab(), LAB["lab"])) < 0.1


def test_spectra_with_a_grid_of_their_own(tmp_path):
    coarse = {
        **SPECTRAL,
        "wavelengths": list(range(400, 701, 20)),
        "K": [0.8] * 16,
        "S": list(np.linspace(1, 2, 16)),
    }
    paint = shelf_of(tmp_path, coarse).paints()[0]
    assert paint.knowledge == Knowledge.SPECTRAL
    assert np.allclose(paint.S[[0, 15, 30]], [1, 1.5, 2], atol=0.01)


def test_masstone_spectrum_with_a_drawdown(tmp_path):
    K, S = np.linspace(0.4, 2.0, 31), np.linspace(1.4, 0.8, 31)
    masstone = through_surface(opaque_reflectance(K, S))
    film = through_surface(over_ground(K, S, 1.0, into_paint(0.045)))
    record = {"id": "a", "medium": "enamel", "finish": "flat", "R": masstone.tolist()}
    alone = shelf_of(tmp_path, record).paints()[0]
    assert alone.knowledge == Knowledge.ONE_CONSTANT
    both = shelf_of(tmp_path, {**record, "R_over_black": film.tolist(), "film_coats": 1}).paints()[0]
    assert both.knowledge == Knowledge.TWO_CONSTANT
    assert np.allclose(both.S, S, rtol=0.05)
    assert np.allclose(both.K, K, rtol=0.05)


def test_colours_of_films_and_tints(tmp_path):
    films = {**LAB, "lab_over_white": [50, -19, -4], "lab_over_black": [44, -15, -5]}
    white = {"id": "white", "medium": "acrylic-water", "finish": "flat", "lab": [95, 0, 2]}
    tint = {**LAB, "id": "tinted", "lab_tint": [80, -9, -2], "tint_white": "white", "tint_parts_white": 4}
    first, second, third = shelf_of(tmp_path, films, tint, white).paints()  # the white may come last
    assert first.knowledge == second.knowledge == Knowledge.TWO_CONSTANT
    assert third.knowledge == Knowledge.ONE_CONSTANT
    mixed = opaque_reflectance(second.K + 4 * third.K, second.S + 4 * third.S)
    from lean_sepia.colour.lab import lab_from_reflectance

    assert float(delta_e00(lab_from_reflectance(through_surface(mixed)), [80, -9, -2])) < 1.0


def test_unknown_fields_are_kept(tmp_path):
    content = shelf_of(tmp_path, {**LAB, "shop": "harbour"}, illuminant="D65", made_by="me")
    write_shelf(tmp_path / "out.json", content)
    again = json.loads((tmp_path / "out.json").read_text(encoding="utf-8"))
    assert again["paints"][0]["shop"] == "harbour"
    assert again["made_by"] == "me"


@pytest.mark.parametrize("delimiter", [",", ";"])
def test_csv(tmp_path, delimiter):
    file = tmp_path / "shelf.csv"
    rows = [
        "id,name,medium,finish,lab_L,lab_a,lab_b,stock_ml",
        "a,Ærø grey,enamel,flat,50,1,-2,12",
        "",
        "b,B,oil,satin,30,5,8,",
    ]
    file.write_text("\ufeff" + "\n".join(rows).replace(",", delimiter), encoding="utf-8")
    content = read_shelf(file)
    assert content.records[0]["name"] == "Ærø grey"
    assert content.records[0]["stock_ml"] == 12
    assert "stock_ml" not in content.records[1]
    assert [paint.id for paint in content.paints()] == ["a", "b"]


@pytest.mark.parametrize(
    ("record", "words"),
    [
        ({**SPECTRAL, "K": [-0.1, *[0.8] * 30]}, "cannot be below 0"),
        ({**SPECTRAL, "S": [1.2] * 30}, "as many"),
        ({key: value for key, value in SPECTRAL.items() if key != "S"}, "S is a list of numbers"),
        ({**SPECTRAL, "K": [float("inf"), *[0.8] * 30]}, "finite"),
        ({**LAB, "lab": [150, 0, 0]}, "L\\*"),
        ({**LAB, "lab": [50, "x", 0]}, "list of numbers"),
        ({**LAB, "medium": "gouache"}, "medium is one of"),
        ({**LAB, "finish": "shiny"}, "finish is one of"),
        ({**LAB, "id": "Two Words"}, "an id has only"),
        ({key: value for key, value in LAB.items() if key != "lab"}, "has no colour"),
        ({key: value for key, value in LAB.items() if key != "id"}, "has no 'id'"),
        ({**LAB, "lab_tint": [80, 0, 0], "tint_white": "nobody", "tint_parts_white": 4}, "tint_white"),
        ({**LAB, "k1": 3}, "k1 is a share"),
        ({**LAB, "opaque_coats": 0}, "greater than 0"),
        ({**LAB, "R": [0.5] * 30 + [60.0]}, "Divide per cent"),
    ],
)
def test_records_that_break_a_rule(tmp_path, record, words):
    with pytest.raises(ShelfError, match=words):
        shelf_of(tmp_path, record).paints()


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"{", "not JSON"),
        (b'{"bottles": []}', 'no list "paints"'),
        (b'{"paints": []}', "lists no paints"),
        (b'{"paints": [3]}', "not a paint"),
        (b"id,medium,finish,lab_L,lab_a\na,oil,flat,1,2", "lacks the column 'lab_b'"),
        (b"id,medium,finish,lab_L,lab_a,lab_b\na,oil,flat,x,2,3", "line 2, lab_L: .x. is no number"),
        ("id,name,medium,finish,lab_L,lab_a,lab_b\nå,Blå,oil,flat,50,0,0".encode("latin-1"), "UTF-8"),
        ("id,medium".encode("utf-16"), "UTF-8"),
    ],
)
def test_files_that_are_no_shelves(tmp_path, data, words):
    file = tmp_path / "shelf.any"
    file.write_bytes(data)
    with pytest.raises(ShelfError, match=words):
        read_shelf(file)


def test_duplicate_ids(tmp_path):
    with pytest.raises(ShelfError, match="Two paints"):
        shelf_of(tmp_path, LAB, LAB).paints()


def test_grounds_are_checked(tmp_path):
    with pytest.raises(ShelfError, match="must reflect more"):
        shelf_of(tmp_path, LAB, ground_white=0.1, ground_black=0.5).paints()


def test_a_dark_flat_paint_is_taken_as_shinier_and_says_so(tmp_path):
    paint = shelf_of(tmp_path, {**LAB, "lab": [14, 0, 0]}).paints()[0]
    assert paint.g < 0.9
    assert "shinier" in paint.notes[0]


def test_the_shelf_takes_all_or_nothing(tmp_path):
    shelf = Shelf(tmp_path / "shelf.sqlite")
    assert shelf.add(ShelfContent((LAB, SPECTRAL))) == 2
    with pytest.raises(ShelfError, match="already"):
        shelf.add(ShelfContent((LAB,)))
    with pytest.raises(ShelfError):
        shelf.add(ShelfContent(({**LAB, "id": "fine"}, {**SPECTRAL, "id": "bad", "K": [-1] * 31})))
    assert [record["id"] for record in shelf.records()] == ["teal", "grey"]
    shelf.remove(["teal"])
    assert [paint.id for paint in shelf.paints()] == ["grey"]
    shelf.close()
    again = Shelf(tmp_path / "shelf.sqlite")
    assert [paint.id for paint in again.paints()] == ["grey"]
    again.close()
    (tmp_path / "junk.sqlite").write_bytes(b"junk" * 300)
    with pytest.raises(ShelfError, match="cannot be opened"):
        Shelf(tmp_path / "junk.sqlite")


def test_a_folder_may_have_a_shelf_of_its_own(tmp_path):
    assert shelf_path_for(tmp_path / "a.sepia").parent != tmp_path
    Shelf(tmp_path / "shelf.sqlite").close()
    assert shelf_path_for(tmp_path / "a.sepia") == tmp_path / "shelf.sqlite"
