"""The tour through the real window, offscreen in a process of its own, and the main journey on a real X display."""

import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from click.testing import CliRunner
from PIL import Image
from pypdf import PdfReader

from lean_sepia.cli import cli
from lean_sepia.ui.system_libraries import X_DISPLAY, advice, missing_packages


def run(arguments, demo_master, tmp_path, **environment):
    cache = tmp_path / "cache" / "lean-sepia"
    cache.mkdir(parents=True, exist_ok=True)
    from lean_sepia.demo.folder import EDITION

    if not (cache / f"demo-{EDITION}").exists():
        shutil.copytree(demo_master.folder, cache / f"demo-{EDITION}")
    values = {**os.environ, **environment}
    return subprocess.run(
        [sys.executable, *arguments], env=values, capture_output=True, text=True, timeout=200, check=False
    )


def test_the_demo_without_a_display_says_so_and_walks(demo_master, tmp_path):
    """What it walks is the tour: a picture per view, and the card."""
    environment = {"DISPLAY": "", "WAYLAND_DISPLAY": ""}
    done = run(["-m", "lean_sepia", "demo"], demo_master, tmp_path, **environment)
    assert done.returncode == 0, done.stderr
    assert "no display" in done.stdout
    folder = Path(done.stdout.split(" are in ")[1].split(":")[0])
    assert len(PdfReader(folder / "bench-card.pdf").pages) >= 2
    pictures = sorted(folder.glob("*.png"))
    names = {path.stem for path in pictures}
    assert names >= {
        "start",
        "evidence",
        "match",
        "tone",
        "glaze",
        "wear",
        "plan",
        "bench",
        "shelf",
        "evening",
        "lay",
        "bus",
    }
    for path in pictures:
        with Image.open(path) as picture:
            assert picture.size == (1280, 800)
            assert len(picture.convert("RGB").resize((160, 100)).getcolors(16000)) > 20


def test_the_tour_writes_where_it_is_told(tmp_path, monkeypatch):
    asked = []
    monkeypatch.setattr(
        "lean_sepia.ui.tour.run_tour", lambda folder, report: asked.append(folder) or [folder / "start.png"]
    )
    done = CliRunner().invoke(cli, ["tour", str(tmp_path / "out")])
    assert done.exit_code == 0, done.output
    assert asked == [tmp_path / "out"]
    assert "start.png" in done.output


JOURNEY = """
import sys, time
from pathlib import Path
from PySide6.QtCore import Qt, QPointF
from PySide6.QtTest import QTest
from lean_sepia.ui.app import make_app
from lean_sepia.ui.kit import theme
from lean_sepia.ui.match.recipe_card import _PaintDrops
from lean_sepia.ui.shell.settings import Settings
from lean_sepia.ui.shell.window import MainWindow
from lean_sepia.document.model import AnchorMark
from lean_sepia.report.bench_card import write_bench_card

app = make_app([])
assert app.platformName() == "xcb", app.platformName()
theme.apply(app, theme.DAY)
window = MainWindow(Settings(), remember=False)
window.show()
assert QTest.qWaitForWindowExposed(window)
assert window.open_project(Path(sys.argv[1]))
space = window.workspace
def wait(seconds):
    # QTest's own waiting keeps the lock that threads of Python need.
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        app.processEvents()
        time.sleep(0.01)
def settle():
    for _ in range(600):
        wait(0.1)
        if space.session.jobs.idle:
            return
    raise SystemExit("jobs did not end")
settle()
room = space.rooms["evidence"]
room.edits.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Locker"))
settle()
space.session.choose_zone("funnel")
QTest.keyClick(room.viewer, Qt.Key.Key_S)
spot = (QPointF(836, 372) * room.viewer._scale + room.viewer._offset).toPoint()
QTest.mouseClick(room.viewer, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, spot)
assert len(space.session.project.samples) == 1
space.open_room("match")
settle()
QTest.mouseClick(space.rooms["match"].pin, Qt.MouseButton.LeftButton)
settle()
assert space.session.cut("funnel").fresh is not None
match = space.rooms["match"]

def point(widget):
    return widget.mapToGlobal(widget.rect().center()) * window.devicePixelRatio()

def drag(source, goal, until):
    # A hand of its own: it moves the display's pointer while the program's own loop runs the drag.
    import threading
    from Xlib import X, display
    from Xlib.ext import xtest
    start, end = point(source), point(goal)
    def move():
        screen = display.Display()
        def step(kind, detail=0, x=0, y=0):
            xtest.fake_input(screen, kind, detail, x=x, y=y)
            screen.sync()
            time.sleep(0.03)
        step(X.MotionNotify, x=start.x(), y=start.y())
        step(X.ButtonPress, 1)
        for share in range(1, 21):
            there = start + (end - start) * share / 20
            step(X.MotionNotify, x=there.x(), y=there.y())
        step(X.ButtonRelease, 1)
        screen.close()
    hand = threading.Thread(target=move)
    hand.start()
    for _ in range(200):
        wait(0.05)
        if until():
            break
    hand.join()
    assert until(), "the dragged drop did not arrive"

card = match._cards.widgets[0]
parts = dict(match.answer.choices[0].recipe.parts)
chip = next(chip for chip in match.rack._row.widgets if chip.paint.id not in parts)
name = chip.paint.id
drag(chip, card, lambda: dict(match.answer.choices[0].recipe.parts).get(name) == 1)
wait(0.2)
card = match._cards.widgets[0]
drops = next(d for d in card.findChildren(_PaintDrops) if d._paint_id == name)
drag(drops, match._pair, lambda: name not in dict(match.answer.choices[0].recipe.parts))
for name in ("tone", "glaze", "wear", "plan", "bench"):
    space.open_room(name)
    settle()
write_bench_card(space.session.project, sys.argv[2])
window.close()
print("journey done")
"""


def test_main_journey_on_a_real_display(demo, demo_master, tmp_path):
    server = shutil.which("Xvfb")
    if server is None and os.environ.get("CI") != "true":
        pytest.skip("Xvfb is not installed: apt-get install xvfb")
    lacking = missing_packages(X_DISPLAY)
    if lacking and os.environ.get("CI") != "true":
        pytest.skip(advice(lacking))
    assert server, "Xvfb is missing: .ci/run installs it"
    read, write = os.pipe()
    screen = subprocess.Popen(
        [server, "-displayfd", str(write), "-screen", "0", "1280x800x24", "-nolisten", "tcp"],
        pass_fds=(write,), stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    os.close(write)
    try:
        with os.fdopen(read) as answer:
            number = answer.readline().strip()
        done = run(
            ["-c", JOURNEY, str(demo.untouched), str(tmp_path / "card.pdf")], demo_master, tmp_path,
            DISPLAY=f":{number}", QT_QPA_PLATFORM="xcb",
        )  # fmt: skip
    finally:
        screen.terminate()
        screen.wait(20)
    assert done.returncode == 0, done.stderr
    assert "journey done" in done.stdout
    assert (tmp_path / "card.pdf").read_bytes().startswith(b"%PDF")
