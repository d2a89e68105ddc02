"""The gallery has a picture of every room and sheet, as large as it says."""

from PySide6.QtGui import QImage
from scripts.gallery import ROOMS, _of_one


def test_one_lighting_and_size_of_it(qapp, demo, tmp_path, monkeypatch):
    files = list(_of_one(tmp_path, {"bus": demo.bus}, "day", (1100, 700, 2)))
    assert [file.stem.split("-")[-1] for file in files] == [*ROOMS, "shelf"]
    for file in files:
        picture = QImage(str(file))
        assert (picture.width(), picture.height()) == (2200, 1400)
    monkeypatch.setattr("scripts.gallery.ROOMS", ("plan",))
    sheets = [
        file
        for file in _of_one(tmp_path, {"demo": demo.worked}, "day", (1100, 700, 1))
        if "sheet" in file.name
    ]
    assert len(sheets) > 12
    assert len({file.read_bytes() for file in sheets}) == len(sheets)  # each is seen, none stands for another
