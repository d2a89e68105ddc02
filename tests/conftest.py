"""Fixtures shared by all tests: folders of their own, and the demo rendered once for the whole run."""

import os
import time
from datetime import datetime
from pathlib import Path

import pytest

import lean_sepia

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
assert lean_sepia.__version__  # imported before NumPy, whose linear algebra it keeps to one thread


LONGEST = ("test_tour.py", "test_demo.py")
"""Files that take long though they hold few tests: begun last, they would keep one worker waiting for the other."""


def pytest_collection_modifyitems(items):
    items.sort(key=lambda item: item.path.name not in LONGEST)


@pytest.fixture(autouse=True)
def own_folders(tmp_path, monkeypatch):
    """Nothing a test does reaches the user's own data, cache or state."""
    for name in ("DATA", "CACHE", "STATE", "CONFIG"):
        monkeypatch.setenv(f"XDG_{name}_HOME", str(tmp_path / name.lower()))


@pytest.fixture(autouse=True)
def on_a_monday(monkeypatch):
    """Plans begin on a Monday at six in the evening, whenever the tests are run."""
    monkeypatch.setattr("lean_sepia.answers.plan.present", lambda: datetime(2031, 3, 3, 18, 0))


@pytest.fixture(scope="session")
def demo_master(tmp_path_factory):
    """The demo's folder, made by whichever worker comes first."""
    from lean_sepia.demo.folder import Demo, ensure_demo

    base = tmp_path_factory.getbasetemp()
    if os.environ.get("PYTEST_XDIST_WORKER"):
        base = base.parent
    folder, lock = base / "demo", base / "demo.lock"
    try:
        lock.mkdir()
    except FileExistsError:
        deadline = time.monotonic() + 240
        while not (folder / "tordmule-untouched.sepia").exists():
            assert time.monotonic() < deadline, "the other worker did not make the demo"
            time.sleep(0.2)
        return Demo(folder)
    return ensure_demo(folder)


@pytest.fixture
def demo(demo_master, tmp_path):
    """A copy of the demo to change."""
    import shutil

    from lean_sepia.demo.folder import Demo

    return Demo(Path(shutil.copytree(demo_master.folder, tmp_path / "demo")))


def _document(path):
    from lean_sepia.document.store import ProjectStore

    store = ProjectStore.open(path, reading=True)
    project, _ = store.load()
    store.close()
    return project


@pytest.fixture(scope="session")
def worked(demo_master):
    """The demo's half-worked document."""
    return _document(demo_master.worked)


@pytest.fixture(scope="session")
def off_target(worked):
    """The demo's document with its fades as nobody wants them: the boot topping's left out, the hull's far too thick."""
    from lean_sepia.document.edits.coats import change_coat, switch_coat

    fades = {coat.zone: coat for coat in worked.coats if coat.nature.fades}
    project = switch_coat(worked, fades["boot"].id, False)
    return change_coat(project, fades["hull"].id, passes=fades["hull"].passes + 3)


@pytest.fixture(scope="session")
def bus(demo_master):
    """The demo's second subject."""
    return _document(demo_master.bus)


@pytest.fixture(scope="session")
def shelf_paints(demo_master):
    """The demo's paints."""
    from lean_sepia.shelf.shelf_file import read_shelf

    return read_shelf(demo_master.shelf_file).paints()


@pytest.fixture
def rng():
    """A generator that is the same in every run."""
    import numpy as np

    return np.random.default_rng(12)


@pytest.fixture
def cuts():
    """A function from a document to the strata of every zone."""
    from lean_sepia.answers.strata import strata_of

    return lambda project: {zone.id: strata_of(project, zone.id) for zone in project.zones}


@pytest.fixture
def call(monkeypatch, capsys):
    """Run the command in this process; returns exit code, output and errors."""

    from lean_sepia import cli

    def run(*arguments):
        monkeypatch.setattr("sys.argv", ["lean-sepia", *map(str, arguments)])
        code = 0
        try:
            cli.main()
        except SystemExit as ending:
            code = ending.code or 0
        captured = capsys.readouterr()
        return code, captured.out, captured.err

    return run
