"""A project is worked on by one at a time; the lock goes with whoever held it."""

import multiprocessing
import os

import pytest

from lean_sepia.errors import InUseError
from lean_sepia.files.in_use import hold, lock_place


def _hold_and_die(place):
    hold(place)
    os._exit(1)


def test_the_second_is_told_who_has_it(tmp_path):
    first = hold(tmp_path / "a.sepia")
    with pytest.raises(InUseError, match="since"):
        hold(tmp_path / "a.sepia")
    first.release()
    assert list(tmp_path.iterdir()) == []
    hold(tmp_path / "a.sepia").release()
    first.release()  # twice does no harm


def test_a_killed_holder_holds_nothing(tmp_path):
    child = multiprocessing.get_context("spawn").Process(target=_hold_and_die, args=(tmp_path / "a.sepia",))
    child.start()
    child.join()
    assert lock_place(tmp_path / "a.sepia").exists()
    hold(tmp_path / "a.sepia").release()
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize(
    "content", [b"", b"\xff\xfe", b"[1]", b'{"user": 1, "machine": 2, "since": 3}', b"{" * 3000]
)
def test_a_lock_that_says_nothing_is_one_all_the_same(tmp_path, content):
    first = hold(tmp_path / "a.sepia")
    lock_place(tmp_path / "a.sepia").write_bytes(content)
    with pytest.raises(InUseError, match="another window"):
        hold(tmp_path / "a.sepia")
    first.release()


def test_a_link_is_not_followed(tmp_path):
    (tmp_path / "precious").write_text("kept")
    lock_place(tmp_path / "a.sepia").symlink_to(tmp_path / "precious")
    with pytest.raises(OSError, match="symbolic"):
        hold(tmp_path / "a.sepia")
    assert (tmp_path / "precious").read_text() == "kept"
