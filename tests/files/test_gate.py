"""What comes in from files: regular ones, of a size, in text that means something; and what goes out whole."""

import csv
import io
import os

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_sepia.errors import BadInputError, SepiaError
from lean_sepia.files.gate import (
    csv_rows,
    one_line,
    plain_cell,
    read_bytes,
    read_json,
    read_text,
    safe_cell,
    shown,
    strict_json,
    write_whole,
)
from lean_sepia.files.typed import to_count, to_number


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda place: place.mkdir(), "a folder|Is a directory"),
        (os.mkfifo, "a device or a pipe"),
        (lambda place: place.symlink_to("/dev/zero"), "a device or a pipe"),
        (lambda place: place.symlink_to(place), "cannot be read"),
        (lambda place: place.write_bytes(bytes(101)), "larger than"),
        (lambda _place: None, "There is no file"),
    ],
)
def test_only_regular_files_of_a_size_are_read(tmp_path, make, words):
    make(tmp_path / "a")
    with pytest.raises(BadInputError, match=words):
        read_bytes(tmp_path / "a", "The list", BadInputError, most=100)


def test_paths_that_are_none(tmp_path):
    for path in ("", "a\0b", "x" * 5000, tmp_path / os.fsdecode(b"\xff.txt")):
        with pytest.raises(BadInputError) as caught:
            read_bytes(path, "The list", BadInputError)
        str(caught.value).encode()  # it can be shown
    assert shown(os.fsdecode(b"a\xff\n.jpg")) == "a??.jpg"


def test_a_file_is_read_to_its_end(tmp_path):
    (tmp_path / "a").write_bytes(b"x" * 100)
    assert read_bytes(tmp_path / "a", "The list", BadInputError, most=100) == b"x" * 100
    (tmp_path / "b").write_bytes(b"\xef\xbb\xbfabc")
    assert read_text(tmp_path / "b", "The list", BadInputError) == "abc"


@pytest.mark.parametrize(
    "text",
    ["NaN", "[Infinity]", "[-Infinity]", "1e400", "9" * 5000, "[" * 100_000, '{"a":' * 5000, '"\\ud800"', '{"\\udfff": 1}', "", "{", "[1,]"],
)  # fmt: skip
def test_json_that_cannot_be_meant(text, tmp_path):
    with pytest.raises(ValueError, match=r".+"):
        strict_json(text)
    (tmp_path / "a.json").write_text(text)
    with pytest.raises(BadInputError, match=r"a\.json"):
        read_json(tmp_path / "a.json", "The list", BadInputError)


def test_json_as_people_write_it():
    assert strict_json('{"a": [1, -2.5, "é", null, true]}') == {"a": [1, -2.5, "é", None, True]}


@given(st.text(max_size=40))
def test_cells_come_back_as_they_were(text):
    assert plain_cell(str(safe_cell(text))) == text


@pytest.mark.parametrize("text", ["=1+1", "+1", "-x", "@SUM", "\tx", "\rx", "'=1", "''=x", "=-1.5"])
def test_no_cell_is_a_formula(text):
    out = io.StringIO()
    csv.writer(out).writerow([safe_cell(text)])
    assert next(csv.reader(io.StringIO(out.getvalue())))[0][0] == "'"
    assert plain_cell(str(safe_cell(text))) == text


def test_numbers_stay_numbers():
    assert safe_cell("-13.9") == "-13.9"
    assert safe_cell(-13.9) == -13.9


def test_rows_that_are_no_table():
    for text in ('a,b\n"' + "x" * 200_000 + '",1', "a,b\n1,2,3"):
        with pytest.raises(BadInputError, match="line"):
            list(csv_rows(text, "f.csv", "The list", "ab", BadInputError))
    assert [cells for _line, cells in csv_rows("a;b\n1,5;'=x\n", "f", "The list", "ab", BadInputError)] == [
        {"a": "1,5", "b": "=x"}
    ]


def test_names_become_one_line():
    assert one_line("Sea\n green\u202e\tdeep ") == "Sea green deep"


@pytest.mark.parametrize("place", ["", ".", "folder", "pipe", "missing/a", "x" * 400, "nul\0"])
def test_places_that_cannot_be_written_leave_nothing(tmp_path, place, monkeypatch):
    monkeypatch.chdir(tmp_path)
    (tmp_path / "folder").mkdir()
    os.mkfifo(tmp_path / "pipe")
    with pytest.raises(OSError):  # noqa: PT011 - the system has a word of its own for each
        write_whole(place, b"x")
    assert sorted(os.listdir(tmp_path)) == ["folder", "pipe"]


def test_what_is_written_is_whole_or_as_before(tmp_path, monkeypatch):
    (tmp_path / "a").write_bytes(b"old")
    monkeypatch.setattr(
        "os.fsync", lambda _handle: (_ for _ in ()).throw(OSError(28, "No space left on device"))
    )
    with pytest.raises(OSError, match="No space"):
        write_whole(tmp_path / "a", b"new")
    assert os.listdir(tmp_path) == ["a"]
    assert (tmp_path / "a").read_bytes() == b"old"


@pytest.mark.parametrize(
    ("text", "value"), [("1,5", 1.5), ("−3", -3), (" 2. ", 2), ("1e3", 1000), (".5", 0.5)]
)
def test_numbers_as_people_type_them(text, value):
    assert to_number(text) == value


@pytest.mark.parametrize(
    "text", ["", "nan", "inf", "1e10", "1_000", "١٢", "²", "0x1", "9" * 5000, "1,5,2", "1 2", "--1"]
)
def test_what_is_no_number(text):
    with pytest.raises(ValueError, match=r".*"):
        to_number(text)
    if text not in ("1 2",):
        with pytest.raises(ValueError, match=r".*"):
            to_count(text)


def test_a_message_has_a_length():
    assert len(str(SepiaError("x" * 10_000))) < 710
    assert str(SepiaError("short")) == "short"
