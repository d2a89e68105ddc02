"""The shelf: files in and out, and a whole shelf from one photo."""

import json

import numpy as np
from PySide6.QtCore import Qt

from lean_sepia.colour.ciede2000 import delta_e00


def test_shelf_imports_all_or_nothing(workspace, tmp_path, qtbot):
    workspace.open_shelf()
    page = workspace.rooms["shelf"]
    count = len(page._shown)
    good = {
        "id": "pier-blue",
        "name": "Pier blue",
        "medium": "acrylic-water",
        "finish": "flat",
        "lab": [40, -5, -25],
    }
    (tmp_path / "bad.json").write_text(
        json.dumps({"paints": [good, {**good, "id": "x", "lab": [400, 0, 0]}]})
    )
    page.import_file(tmp_path / "bad.json")
    assert len(page._shown) == count
    assert "L*" in workspace.advice._text.text()
    (tmp_path / "good.json").write_text(json.dumps({"paints": [good]}))
    page.import_file(tmp_path / "good.json")
    assert len(page._shown) == count + 1
    page.order_by("name")
    names = [paint.name.casefold() for paint in page._shown]
    assert names == sorted(names)
    qtbot.keyClick(page.list, Qt.Key.Key_Right)
    assert page._name.text() == page._shown[1].name
    page.back.emit()
    assert workspace.room == "evidence"
    assert workspace.column.isVisible()


def test_the_shelf_goes_out_in_every_form(workspace, tmp_path):
    workspace.open_shelf()
    page = workspace.rooms["shelf"]
    said = []
    workspace.session.refused.connect(said.append)
    for name in ("out.json", "out.csv", "out.txt", "out.gpl"):
        page.export_file(tmp_path / name)
        assert (tmp_path / name).stat().st_size > 500
    page.export_file(tmp_path / "nowhere" / "out.json")
    assert "cannot be written" in said[0]


def test_a_shelf_is_read_from_one_photo(workspace, tmp_path, shelf_paints, monkeypatch):
    import cv2

    from lean_sepia.demo.card_photo import Shot, photograph_card
    from lean_sepia.ui.card_dialog import CardDialog

    painted = [paint for paint in shelf_paints if paint.mixes][:6]
    photo = tmp_path / "card.png"
    cv2.imwrite(str(photo), photograph_card(painted, Shot(), 3)[..., ::-1])
    workspace.open_shelf()
    page = workspace.rooms["shelf"]
    before = len(workspace.session.shelf.records())

    def named(dialog):
        assert len(dialog.rows) == 6
        dialog.rows[0].name.setText("My white")
        dialog.rows[5].taken.setChecked(False)
        dialog.rows[1].finish.setCurrentIndex(dialog.rows[1].finish.findData("satin"))
        return 1

    monkeypatch.setattr(CardDialog, "exec", named)
    page.cards.read_paints(photo, 62.0)
    records = workspace.session.shelf.records()
    assert len(records) == before + 5
    added = {record["id"]: record for record in records[before:]}
    assert added["my-white"]["knowledge"] == "two-constant"
    assert added["paint-2"]["finish"] == "satin"
    read = next(paint for paint in workspace.session.shelf.paints() if paint.id == "my-white")
    assert float(delta_e00(read.masstone_lab(), painted[0].masstone_lab())) < 3
    page.cards.print_card(tmp_path / "card.pdf")
    assert (tmp_path / "card.pdf").read_bytes().startswith(b"%PDF")


def test_a_photo_without_a_card_is_refused(workspace, tmp_path):
    import cv2

    photo = tmp_path / "grey.png"
    cv2.imwrite(str(photo), np.full((200, 300, 3), 90, np.uint8))
    workspace.open_shelf()
    said = []
    workspace.session.jobs.failed.connect(said.append)
    workspace.rooms["shelf"].cards.read_paints(photo, None)
    assert "corner marks" in said[0]
