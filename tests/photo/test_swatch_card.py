"""The swatch card: its layout, its marks, and rendered pictures of it read back."""

import json

import numpy as np
import pytest
from pypdf import PdfReader

from lean_sepia import cli
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.demo.card_photo import PAPER, TONER, Shot, photograph_card
from lean_sepia.errors import SampleError, ShelfError
from lean_sepia.paint.kubelka_munk import over_ground
from lean_sepia.paint.saunderson import into_paint, through_surface
from lean_sepia.photo.swatch_card import MOST_FIELDS, PAGE_MM, card_layout, find_marks, read_card
from lean_sepia.shelf.card_shelf import read_names, shelf_from_card
from lean_sepia.shelf.shelf_file import read_shelf


@pytest.fixture(scope="module")
def painted(shelf_paints):
    return [paint for paint in shelf_paints if paint.mixes and paint.medium == "acrylic-water"][:24:2]


@pytest.fixture(scope="module")
def picture(painted):
    return photograph_card(painted, Shot(light="D50", tilt_deg=18, uneven=0.2), 5)


@pytest.mark.parametrize("fields", [1, 2, 12, 13, MOST_FIELDS])
def test_nothing_on_the_card_overlaps_or_leaves_the_page(fields):
    layout = card_layout(fields)
    assert len(layout.fields) == fields
    boxes = [box for _, box in layout.marks] + [layout.grey_frame]
    for field in layout.fields:
        boxes += [field.over_white, field.over_black, field.masstone, field.bare_white, field.bare_black]
        assert field.over_white[2] == field.over_black[0]  # one film over both grounds
    for i, (x0, y0, x1, y1) in enumerate(boxes):
        assert 0 < x0 < x1 < PAGE_MM[0]
        assert 0 < y0 < y1 < PAGE_MM[1]
        for u0, v0, u1, v1 in boxes[i + 1 :]:
            assert x1 <= u0 + 1e-9 or u1 <= x0 + 1e-9 or y1 <= v0 + 1e-9 or v1 <= y0 + 1e-9


@pytest.mark.parametrize("fields", [0, MOST_FIELDS + 1])
def test_cards_that_cannot_be_are_refused(fields):
    with pytest.raises(SampleError, match="1 to 24"):
        card_layout(fields)


def test_the_number_of_fields_is_in_the_marks(shelf_paints):
    for count in (3, 20):
        pixels = photograph_card(shelf_paints[:count], Shot(tilt_deg=8), 1)
        layout, to_photo = find_marks(pixels)
        assert len(layout.fields) == count
        x, _, w = to_photo @ [PAGE_MM[0] / 2, PAGE_MM[1] / 2, 1.0]
        assert 0.3 * pixels.shape[1] < x / w < 0.7 * pixels.shape[1]


def test_a_tilted_unevenly_lit_picture_is_read(picture, painted):
    reading = read_card(picture, 62.0)
    misses = []
    for field, paint in zip(reading.fields, painted, strict=True):
        assert field.doubt == ""
        misses.append(float(delta_e00(field.masstone.lab, paint.masstone_lab())))
        for name, ground in (("over_white", PAPER), ("over_black", TONER)):
            R = through_surface(over_ground(paint.K, paint.S, 1.0, into_paint(ground)), paint.g)
            misses.append(float(delta_e00(getattr(field, name).lab, lab_from_reflectance(R))))
    assert np.median(misses) < 1.5


def test_without_a_grey_card_the_paper_serves(picture, painted):
    reading = read_card(picture)
    misses = [
        delta_e00(f.masstone.lab, p.masstone_lab()) for f, p in zip(reading.fields, painted, strict=True)
    ]
    assert np.median(misses) < 4


def test_a_field_left_bare_and_one_with_glare_are_named(picture, painted):
    layout, to_photo = find_marks(picture)
    spoiled = picture.copy()

    def fill(box, value):
        x0, y0, x1, y1 = box
        corners = np.array([[x0, y0, 1], [x1, y0, 1], [x1, y1, 1], [x0, y1, 1]], dtype=float) @ to_photo.T
        import cv2

        cv2.fillPoly(spoiled, [(corners[:, :2] / corners[:, 2:]).round().astype(np.int32)], value)

    glare = layout.fields[4].masstone
    fill((glare[0], glare[1], glare[2], (glare[1] + glare[3]) / 2), (255, 255, 255))
    doubts = {field.field: field.doubt for field in read_card(spoiled, 62.0).fields}
    assert doubts[5]
    assert doubts[1] == ""


def test_a_picture_without_the_marks_is_refused(picture):
    with pytest.raises(SampleError, match="corner marks"):
        read_card(picture[:, : picture.shape[1] // 2])
    with pytest.raises(SampleError, match="corner marks"):
        read_card(np.full((200, 300, 3), 120, np.uint8))


def names_of(painted):
    rows = [f"{i},{p.id},{p.name},{p.line},{p.medium},{p.finish}" for i, p in enumerate(painted, start=1)]
    return "field,id,name,line,medium,finish\n" + "\n".join(rows) + "\n"


def test_a_shelf_is_read_in_one_go(tmp_path, picture, painted, monkeypatch, capsys):
    import cv2

    photo, names, out = tmp_path / "card.png", tmp_path / "names.csv", tmp_path / "shelf.json"
    cv2.imwrite(str(photo), picture[..., ::-1])
    names.write_text(names_of(painted), encoding="utf-8")
    monkeypatch.setattr(
        "sys.argv",
        [
            "x",
            "shelf",
            "read",
            str(photo),
            "--names",
            str(names),
            "--grey-lightness",
            "62",
            "--out",
            str(out),
            "--json",
        ],
    )
    cli.main()
    found = json.loads(capsys.readouterr().out)
    assert [paint["id"] for paint in found["paints"]] == [paint.id for paint in painted]
    assert found["doubtful"] == []
    paints = read_shelf(out).paints()
    assert {str(paint.knowledge) for paint in paints} == {"two-constant"}
    by_id = {paint.id: paint for paint in paints}
    misses = [delta_e00(by_id[p.id].masstone_lab(), p.masstone_lab()) for p in painted]
    assert np.median(misses) < 2


def test_the_card_is_printed_with_its_layout(tmp_path, monkeypatch, capsys):
    pdf, layout = tmp_path / "card.pdf", tmp_path / "card.json"
    monkeypatch.setattr(
        "sys.argv", ["x", "swatch-card", "--pdf", str(pdf), "--layout", str(layout), "--fields", "9"]
    )
    cli.main()
    assert "9 fields" in capsys.readouterr().out
    page = PdfReader(pdf).pages[0]
    assert float(page.mediabox.width) == pytest.approx(PAGE_MM[0] / 25.4 * 72, abs=0.5)
    words = page.extract_text()
    assert "50 mm" in words
    assert "grey card" in words
    read = json.loads(layout.read_text())
    assert read["page_mm"] == list(PAGE_MM)
    assert len(read["fields"]) == 9
    assert set(read["fields"][0]) >= {"field", "over_white", "over_black", "masstone"}


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("field,id\n1,a\n", "lacks the column"),
        ("field,id,name,medium,finish\n", "names no field"),
        ("field,id,name,medium,finish\nx,a,A,oil,flat\n", "number from 1"),
        ("field,id,name,medium,finish\n1,a,A,oil,flat\n1,b,B,oil,flat\n", "named twice"),
        ("field,id,name,medium,finish\n1,a,A,oil,flat\n2,a,B,oil,flat\n", "the id 'a'"),
        ("field,id,name,medium,finish\n1,a,A,tempera,flat\n", "medium is one of"),
    ],
)
def test_lists_of_names_that_break_a_rule_are_refused(tmp_path, text, said):
    path = tmp_path / "names.csv"
    path.write_text(text, encoding="utf-8")
    with pytest.raises(ShelfError, match=said):
        read_names(path)


def test_names_beyond_the_card_are_refused(picture):
    reading = read_card(picture, 62.0)
    with pytest.raises(ShelfError, match="has 12 fields"):
        shelf_from_card(reading, {13: {"id": "a", "name": "A", "medium": "oil", "finish": "flat"}})
    with pytest.raises(ShelfError, match="coats above 0"):
        shelf_from_card(reading, {}, film_coats=0)


def test_brush_streaks_rims_and_finger_marks_cost_little(painted):
    reading = read_card(photograph_card(painted, Shot(hand=1.0), 9), 62.0)
    misses = [
        float(delta_e00(f.masstone.lab, p.masstone_lab()))
        for f, p in zip(reading.fields, painted, strict=True)
    ]
    assert np.median(misses) < 1.5
    assert not any(field.bare for field in reading.fields)


def test_a_film_laid_far_too_unevenly_is_named(painted):
    reading = read_card(photograph_card(painted, Shot(hand=6.0), 9), 62.0)
    assert any("uneven" in field.doubt for field in reading.fields)
