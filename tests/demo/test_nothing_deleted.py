"""What a user did in the demo's folder is never taken away."""

import shutil

import pytest

from lean_sepia.demo.folder import FILES, ensure_demo


@pytest.fixture
def worked_on(demo_master, tmp_path, monkeypatch):
    """A demo that was worked on, and a making of it that takes no time."""
    monkeypatch.setattr(
        "lean_sepia.demo.folder._make",
        lambda folder, _progress: shutil.copytree(demo_master.folder, folder, dirs_exist_ok=True),
    )
    folder = tmp_path / "cache" / "demo"
    ensure_demo(folder)
    (folder / "tordmule.sepia").write_bytes(b"many evenings of work")
    (folder / "my own boat.sepia").write_bytes(b"more work")
    return folder


@pytest.mark.parametrize("missing", FILES)
def test_a_missing_file_is_put_back_and_the_rest_left(worked_on, demo_master, missing):
    (worked_on / missing).unlink()
    before = {file.name: file.read_bytes() for file in worked_on.iterdir()}
    ensure_demo(worked_on)
    after = {file.name: file.read_bytes() for file in worked_on.iterdir()}
    assert after.pop(missing) == (demo_master.folder / missing).read_bytes()
    assert after == before
    assert [file.name for file in worked_on.parent.iterdir()] == ["demo"]


def test_every_file_of_the_demo_is_known(demo_master):
    assert {file.name for file in demo_master.folder.iterdir()} == set(FILES)
