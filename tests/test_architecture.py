"""Imports run downwards only, the core runs without Qt, and start-up imports nothing heavy."""

import ast
import json
import pkgutil
import re
import subprocess
import sys
import tomllib
from pathlib import Path

import pytest

import lean_sepia

ROOT = Path(__file__).parent.parent
SRC = Path(lean_sepia.__file__).parent


def run(code: str) -> str:
    done = subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, timeout=120, check=False
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


def test_import_contract():
    tool = Path(sys.executable).with_name("lint-imports")
    done = subprocess.run([tool, "--no-cache"], cwd=ROOT, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout


def test_core_runs_with_qt_unimportable():
    names = [
        info.name
        for info in pkgutil.walk_packages([str(SRC)], "lean_sepia.")
        if not info.name.startswith("lean_sepia.ui") and info.name != "lean_sepia.__main__"
    ]
    assert len(names) > 50
    code = (
        "import sys, importlib\nfor name in ('PySide6', 'shiboken6', 'pyqtgraph'): sys.modules[name] = None\n"
    )
    run(code + f"for name in {names!r}: importlib.import_module(name)")


def test_start_page_imports_nothing_heavy():
    code = (
        "import sys, json\nimport lean_sepia.ui.app\n"
        "print(json.dumps([m for m in ('numpy', 'scipy', 'cv2', 'pydantic', 'PIL', 'reportlab') if m in sys.modules]))"
    )
    assert json.loads(run(code)) == []


def test_linear_algebra_keeps_to_one_thread():
    """Jobs run side by side; and to look for the libraries later can wait for ever for an import in another thread."""
    code = (
        "import lean_sepia.photo.correction.cast, lean_sepia.wear.survey, scipy.linalg, threadpoolctl\n"
        "print([one['num_threads'] for one in threadpoolctl.threadpool_info() if one['user_api'] == 'blas'])"
    )
    threads = json.loads(run(code))
    assert threads
    assert set(threads) == {1}
    assert all("threadpoolctl" not in path.read_text(encoding="utf-8") for path in SRC.rglob("*.py"))


def test_pins_are_exact_and_name_no_address():
    for name in ("run.txt", "dev.txt"):
        for line in (ROOT / "requirements" / name).read_text().splitlines():
            assert line.startswith("#") or re.fullmatch(r"[A-Za-z0-9_.-]+==[A-Za-z0-9.]+", line), line


def test_every_public_function_of_the_core_has_a_docstring():
    public = ast.FunctionDef | ast.ClassDef
    bare = []
    for path in SRC.rglob("*.py"):
        if "ui" in path.relative_to(SRC).parts:
            continue
        tree = ast.parse(path.read_text(encoding="utf-8"))
        named = [node for node in tree.body if isinstance(node, public) and not node.name.startswith("_")]
        named += [
            m
            for c in named
            if isinstance(c, ast.ClassDef)
            for m in c.body
            if isinstance(m, public) and not m.name.startswith("_")
        ]
        bare += [f"{path.name}:{node.name}" for node in named if not ast.get_docstring(node)]
    assert bare == []


@pytest.mark.parametrize("folder", ["src", "tests", "docs", "benchmarks", "scripts"])
def test_no_machine_paths(folder):
    for path in (ROOT / folder).rglob("*"):
        if path.suffix in {".py", ".md", ".sh"}:
            assert "/work/" + "main" not in path.read_text(encoding="utf-8")


def test_nothing_grows_too_large():
    """No file of more than 400 lines, no function of more than 50, no folder of more than 15 files."""
    for file in SRC.rglob("*.py"):
        text = file.read_text(encoding="utf-8")
        assert len(text.splitlines()) <= 400, file
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.FunctionDef):
                assert (node.end_lineno or 0) - node.lineno < 50, (file, node.name)
    for folder in {file.parent for file in SRC.rglob("*.py")}:
        assert len(list(folder.glob("*.py"))) <= 15, folder


def test_pictures_and_files_are_opened_in_one_place():
    """Nothing is decoded by a format that is not on the list, and nothing is read past the gate."""
    allowed = {"Image.open(": {"photo/formats.py"}, "imread(": {"photo/optional_formats.py"}, "imdecode(": {"photo/read.py", "demo/card_photo.py"},
               ".read_text(": {"demo/folder.py"}, ".read_bytes(": {"report/fonts.py", "ui/kit/theme.py", "demo/canvas.py"},
               "sqlite3.connect(": {"files/sqlite.py", "document/store.py", "shelf/shelf.py"}}  # fmt: skip
    for call, files in allowed.items():
        found = {
            str(path.relative_to(SRC))
            for path in SRC.rglob("*.py")
            if call in path.read_text(encoding="utf-8")
        }
        assert found <= files, call


def test_the_page_about_the_house_is_true():
    """Every path on it is there, and its rooms are those of the import contract, from the ground up."""
    page = (ROOT / "docs" / "architecture.md").read_text(encoding="utf-8")
    named = set(re.findall(r"`((?:src|tests|docs|fuzzing|scripts)/[\w./-]+)`", page))
    assert len(named) > 30
    assert [path for path in sorted(named) if not (ROOT / path).exists()] == []
    settings = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))
    layers = settings["tool"]["importlinter"]["contracts"][0]["layers"]
    contract = [
        set(layer.split(" : ")) if " : " in layer else set(layer.split(" | ")) for layer in reversed(layers)
    ]
    rows = re.findall(r"^\| (`lean_sepia[^|]*) \|", page, re.MULTILINE)
    rooms = [name for row in rows for name in re.findall(r"`(lean_sepia\.\w+)`", row)]
    assert set(rooms) == set().union(*contract)
    floor = {room: number for number, layer in enumerate(contract) for room in layer}
    shown = [
        floor[room]
        for room in rooms
        if room not in ("lean_sepia.cli", "lean_sepia.commands", "lean_sepia.ui")
    ]
    assert shown == sorted(shown)
    folders = {f"lean_sepia.{folder.name}" for folder in SRC.iterdir() if (folder / "__init__.py").exists()}
    assert folders <= set(rooms)


def test_the_page_of_words_names_each_once():
    page = (ROOT / "docs" / "words.md").read_text(encoding="utf-8")
    words = [
        word.strip()
        for row in re.findall(r"^\| ([^|]+) \|", page, re.MULTILINE)[2:]
        for word in row.split(",")
    ]
    assert len(words) == len(set(words)) > 40
