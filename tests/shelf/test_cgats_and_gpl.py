"""Tables of other programs, in and out."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.errors import ShelfError
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.shelf_file import read_shelf, write_shelf

LAB = """CGATS.17
ORIGINATOR "somebody"
{weighting}
NUMBER_OF_FIELDS 5
BEGIN_DATA_FORMAT
SAMPLE_ID SAMPLE_NAME LAB_L LAB_A LAB_B
END_DATA_FORMAT
NUMBER_OF_SETS 2
BEGIN_DATA
1 "Hull green" 45.0 -20.0 5.0
# a remark
2 "Hull green" 80 0 0
END_DATA
"""


def shelf_of(tmp_path, text, name="a.txt"):
    path = tmp_path / name
    path.write_text(text, encoding="utf-8")
    return read_shelf(path)


def test_lab_under_d65_is_taken_as_it_is(tmp_path):
    found = shelf_of(
        tmp_path,
        LAB.format(weighting='WEIGHTING_FUNCTION "ILLUMINANT, D65"\nWEIGHTING_FUNCTION "OBSERVER, 2 degree"'),
    )
    first, second = found.records
    assert first["lab"] == pytest.approx([45, -20, 5], abs=1e-3)
    assert (first["id"], second["id"]) == ("hull-green", "hull-green-2")
    assert "guesses" in first["note"]
    assert "D50" not in first["note"]


def test_lab_under_d50_is_converted_and_says_so(tmp_path):
    found = shelf_of(tmp_path, LAB.format(weighting='WEIGHTING_FUNCTION "OBSERVER, 10 degree"'))
    first, grey = found.records
    assert grey["lab"] == pytest.approx([80, 0, 0], abs=0.05)
    assert first["lab"] != pytest.approx([45, -20, 5], abs=0.2)
    assert float(delta_e00(first["lab"], [45, -20, 5])) < 4
    assert "converted from D50" in first["note"]
    assert "10° observer" in first["note"]


def test_xyz_is_read(tmp_path):
    xyz = 100 * xyz_from_lab([45.0, -20.0, 5.0])
    text = LAB.format(weighting="LIGHT D65").replace("LAB_L LAB_A LAB_B", "XYZ_X XYZ_Y XYZ_Z")
    text = text.replace("45.0 -20.0 5.0", " ".join(f"{value:.6f}" for value in xyz))
    assert shelf_of(tmp_path, text).records[0]["lab"] == pytest.approx([45, -20, 5], abs=1e-2)


def test_spectra_in_per_cent_and_in_other_steps(tmp_path):
    bands = range(380, 740, 20)
    text = (
        "CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_NAME " + " ".join(f"SPECTRAL_NM{nm}" for nm in bands)
        + "\nEND_DATA_FORMAT\nBEGIN_DATA\nGrey " + " ".join("50.0" for _ in bands) + "\nEND_DATA\n"
    )  # fmt: skip
    record = shelf_of(tmp_path, text).records[0]
    assert record["R"] == pytest.approx([0.5] * 31, abs=1e-3)


def test_what_is_written_is_read_back(tmp_path, demo_master):
    shelf = read_shelf(demo_master.shelf_file)
    paints = shelf.paints()
    for name, tolerance in (("out.txt", 0.05), ("out.csv", 0.05), ("out.gpl", 1.5)):
        write_shelf(tmp_path / name, shelf)
        back = read_shelf(tmp_path / name)
        assert len(back.records) == len(paints)
        for record, paint in list(zip(back.records, paints, strict=True))[::7]:
            seen = record.get("lab")
            if seen is None:
                from lean_sepia.colour.lab import lab_from_reflectance

                seen = lab_from_reflectance(np.array(record["R"]))
            if name != "out.gpl" or float(np.hypot(*paint.masstone_lab()[1:])) < 40:
                assert float(delta_e00(seen, paint.masstone_lab())) < tolerance


def test_csv_keeps_films_and_stock(tmp_path, demo_master):
    shelf = read_shelf(demo_master.shelf_file)
    write_shelf(tmp_path / "out.csv", shelf)
    by_id = {record["id"]: record for record in read_shelf(tmp_path / "out.csv").records}
    for record in shelf.records:
        if "lab_over_black" in record:
            assert by_id[record["id"]]["lab_over_black"] == pytest.approx(record["lab_over_black"], abs=1e-3)
        if "stock_ml" in record:
            assert by_id[record["id"]]["stock_ml"] == record["stock_ml"]


def test_a_palette_is_read(tmp_path):
    text = "GIMP Palette\nName: Test\nColumns: 4\n# remark\n255 255 255\tWhite\n 10  20  30 Night blue\n128 128 128\n"
    records = shelf_of(tmp_path, text, "a.gpl").records
    assert [record["name"] for record in records] == ["White", "Night blue", "Colour 3"]
    assert records[0]["lab"] == pytest.approx([100, 0, 0], abs=0.05)
    assert records[2]["lab"] == pytest.approx(lab_from_xyz(0.215861 * xyz_from_lab([100, 0, 0])), abs=0.05)
    assert len(shelf_of(tmp_path, text, "a.gpl").paints()) == 3


@pytest.mark.parametrize(
    ("text", "said"),
    [
        (LAB.format(weighting="").replace('45.0 -20.0 5.0', "45.0 -20.0"), "4 values for 5 fields"),
        (LAB.format(weighting="").replace("-20.0", "green"), "not a number"),
        (LAB.format(weighting="").replace("LAB_L", "CMYK_C"), "neither spectra"),
        (LAB.format(weighting="").replace('"Hull green" 45', '"Hull green 45'), "quotation mark"),
        ("BEGIN_DATA_FORMAT\nEND_DATA_FORMAT\nBEGIN_DATA\nEND_DATA\n", "names no fields"),
        ("GIMP Palette\n300 0 0 Red\n", "line 2"),
        ("GIMP Palette\nName: none\n", "no colours"),
    ],
)  # fmt: skip
def test_tables_that_do_not_fit_are_refused(tmp_path, text, said):
    with pytest.raises(ShelfError, match=said):
        shelf_of(tmp_path, text)


@pytest.mark.parametrize("suffix", [".txt", ".gpl", ".csv", ".json"])
def test_names_that_break_lines_or_run_stay_names(tmp_path, suffix, demo_master):
    content = read_shelf(demo_master.shelf_file)
    names = ["=1+1", "+cmd", "-x", "@SUM(A1)", "\tTab", "Sea\ngreen", 'Qu"ote', "back\\slash", "\u202eold"]
    records = tuple({**record, "name": name} for record, name in zip(content.records, names, strict=False))
    write_shelf(tmp_path / f"a{suffix}", ShelfContent(records, content.extra))
    text = (tmp_path / f"a{suffix}").read_text(encoding="utf-8")
    read = [record["name"] for record in read_shelf(tmp_path / f"a{suffix}").records]
    assert len(read) == len(names)
    if suffix == ".json":
        assert read == names
    elif suffix == ".csv":
        assert [name.strip() for name in read[:5]] == [name.strip() for name in names[:5]]
        assert not [
            line
            for line in text.splitlines()
            if line.split(",")[1:2] and line.split(",")[1].lstrip('"')[:1] in tuple("=+@\t")
        ]
    else:
        assert read[0] == "=1+1"
        assert "Sea green" in read
        assert len(text.splitlines()) < len(names) + 14
