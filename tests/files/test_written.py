"""What leaves the program: beside its place first, under a name nobody can foresee, never through a link."""

import os
import stat

import pytest

from lean_sepia.errors import BadInputError
from lean_sepia.files.gate import file_name, write_export, write_whole


def test_partial_files_cannot_be_foreseen(tmp_path, monkeypatch):
    seen = []
    really = os.open
    monkeypatch.setattr(
        os, "open", lambda path, *more, **named: (seen.append(path), really(path, *more, **named))[1]
    )
    for _time in range(3):
        write_whole(tmp_path / "a.txt", b"x")
    beside = [os.path.basename(path) for path in seen if str(path).endswith(".part")]
    assert len(set(beside)) == 3
    assert all(str(os.getpid()) not in name[:12] and "a.txt" not in name for name in beside)
    assert [file.name for file in tmp_path.iterdir()] == ["a.txt"]


def test_a_link_that_lies_in_wait_is_not_followed(tmp_path, monkeypatch):
    precious = tmp_path / "precious"
    precious.write_text("kept")
    names = iter(["ab" * 12, "cd" * 12])
    monkeypatch.setattr("lean_sepia.files.gate.secrets.token_hex", lambda _length: next(names))
    (tmp_path / f".{'ab' * 12}.part").symlink_to(precious)
    write_whole(tmp_path / "a.txt", b"new")
    assert precious.read_text() == "kept"
    assert (tmp_path / "a.txt").read_bytes() == b"new"


@pytest.mark.parametrize("mode", [0o600, 0o640, 0o444, 0o755])
def test_the_mode_of_what_is_replaced_stays(tmp_path, mode):
    file = tmp_path / "a.txt"
    file.write_text("old")
    file.chmod(mode)
    write_whole(file, b"new")
    assert stat.S_IMODE(file.stat().st_mode) == mode
    assert file.read_bytes() == b"new"


def test_a_new_file_has_the_usual_mode(tmp_path):
    before = os.umask(0o027)
    try:
        write_whole(tmp_path / "a.txt", b"x")
    finally:
        os.umask(before)
    assert stat.S_IMODE((tmp_path / "a.txt").stat().st_mode) == 0o640


@pytest.mark.parametrize("there", [True, False])
def test_a_link_is_said_to_be_one(tmp_path, there):
    target = tmp_path / "target.pdf"
    if there:
        target.write_text("kept")
    (tmp_path / "link.pdf").symlink_to(target)
    with pytest.raises(
        BadInputError, match=r"link\.pdf cannot be written: it is a link that leads to .*target\.pdf"
    ):
        write_export(tmp_path / "link.pdf", b"x", BadInputError)
    assert (tmp_path / "link.pdf").is_symlink()
    assert target.exists() == there
    assert not there or target.read_text() == "kept"


def test_every_export_says_so(call, demo, tmp_path):
    (tmp_path / "out").symlink_to(tmp_path / "elsewhere")
    for arguments in (("card", demo.worked, "--pdf"), ("swatch-card", "--pdf")):
        code, _out, err = call(*arguments, tmp_path / "out")
        assert code == 2
        assert "is a link" in err
    assert not (tmp_path / "elsewhere").exists()


@pytest.mark.parametrize(
    ("title", "name"),
    [
        ("Tordmule", "Tordmule.ics"),
        ("/etc/passwd", "etc passwd.ics"),
        ("../../x", "x.ics"),
        ("a\nb\rc\x00d\x1b", "a b c d.ics"),
        ("..", "Project.ics"),
        ("", "Project.ics"),
        ("a\u202eb", "a b.ics"),
    ],
)
def test_a_title_as_a_name(title, name):
    assert file_name(title, ".ics") == name


def test_a_long_title_fits_a_disk(tmp_path):
    name = file_name("ö" * 500, ".sepia")
    assert name.endswith("ö.sepia")
    (tmp_path / name).write_text("x")
