"""Change one small thing at a time in a room of the core and see whether that room's own tests notice.

    python -m scripts.mutants [COUNT] [SEED] [ROOM...]

Each mutant is one changed comparison, operator, number, condition or `and`/`or` in a random line of a function in plan/, document/, report/
or recipe/, in a copy of the sources. A mutant that its room's tests let pass is printed: either a test is missing, or the
change changes nothing.
"""

from __future__ import annotations

import ast
import functools
import os
import random
import shutil
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
ROOMS = {
    "plan": ("tests/plan", "tests/answers"),
    "document": ("tests/document", "tests/answers"),
    "report": ("tests/report",),
    "recipe": ("tests/recipe", "tests/answers"),
}
_COMPARE = {
    ast.Lt: ast.GtE, ast.GtE: ast.Lt, ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
_OPERATE = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.FloorDiv: ast.Mult,
}  # fmt: skip


@dataclass(frozen=True)
class Mutant:
    """One change: the file, its line, what it says, and the whole text after it."""

    file: Path
    line: int
    words: str
    text: str


def mutants_of(file: Path) -> list[Mutant]:
    """All small changes to one file that still parse."""
    source = file.read_text(encoding="utf-8")
    found = []
    for index, original in enumerate(ast.walk(ast.parse(source))):
        if getattr(original, "lineno", 0) in data_lines(source):
            continue
        tree = ast.parse(source)
        node = list(ast.walk(tree))[index]
        words = _change(node)
        if words:
            found.append(Mutant(file, getattr(node, "lineno", 0), words, ast.unparse(tree)))
    return found


@functools.cache
def data_lines(source: str) -> frozenset[int]:
    """Lines of tables and constants outside all functions: data, which other checks compare with its sources."""
    inside: set[int] = set()
    tree = ast.parse(source)
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef):
            inside |= set(range(node.body[0].lineno, (node.end_lineno or 0) + 1))
    return frozenset(set(range(1, len(source.splitlines()) + 1)) - inside)


def _change(node: ast.AST) -> str:
    """Change a node in place; the words say how, empty where there is nothing to change."""
    if isinstance(node, ast.Compare) and type(node.ops[0]) in _COMPARE:
        before = type(node.ops[0])
        node.ops[0] = _COMPARE[before]()
        return f"{before.__name__} to {type(node.ops[0]).__name__}"
    if isinstance(node, ast.BinOp) and type(node.op) in _OPERATE:
        before_op = type(node.op)
        node.op = _OPERATE[before_op]()
        return f"{before_op.__name__} to {type(node.op).__name__}"
    if isinstance(node, ast.BoolOp):
        node.op = ast.Or() if isinstance(node.op, ast.And) else ast.And()
        return "and to or, or or to and"
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        node.op = ast.UAdd()
        node.operand = ast.Call(ast.Name("bool", ast.Load()), [node.operand], [])
        ast.fix_missing_locations(node)
        return "not taken away"
    if isinstance(node, ast.Constant) and type(node.value) in (int, float):
        before_value = node.value
        node.value = before_value + 1
        return f"{before_value} to {node.value}"
    if isinstance(node, ast.Constant) and isinstance(node.value, bool):
        node.value = not node.value
        return "true to false, or back"
    return ""


def survives(mutant: Mutant, room: str, copy: Path) -> bool:
    """Whether the room's tests pass with the change."""
    place = copy / "src" / mutant.file.relative_to(ROOT / "src")
    before = place.read_text(encoding="utf-8")
    place.write_text(mutant.text, encoding="utf-8")
    environment = {**os.environ, "PYTHONPATH": str(copy / "src"), "PYTHONDONTWRITEBYTECODE": "1"}
    try:
        done = subprocess.run(
            [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *ROOMS[room]],
            cwd=copy, env=environment, capture_output=True, timeout=300, check=False,
        )  # fmt: skip
    except subprocess.TimeoutExpired:
        return False  # a change that hangs is noticed
    finally:
        place.write_text(before, encoding="utf-8")
    return done.returncode == 0


def main() -> None:
    """Draw mutants, evenly over the rooms, and print those that live."""
    given = [int(text) for text in sys.argv[1:3]]
    count, seed = (*given, *(100, 9)[len(given) :])
    rooms = sys.argv[3:] or list(ROOMS)
    drawing = random.Random(seed)
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder)
        for name in ("src", "tests", "scripts", "benchmarks", "docs"):
            shutil.copytree(ROOT / name, copy / name)
        for name in ("pyproject.toml", "README.md"):
            shutil.copy(ROOT / name, copy / name)
        killed = tried = 0
        for room in rooms:
            pool = [
                m for file in sorted((ROOT / "src/lean_sepia" / room).rglob("*.py")) for m in mutants_of(file)
            ]
            for mutant in drawing.sample(pool, count // len(rooms)):
                tried += 1
                if survives(mutant, room, copy):
                    print(f"lives: {mutant.file.relative_to(ROOT)}:{mutant.line}: {mutant.words}", flush=True)
                else:
                    killed += 1
    print(f"{killed} of {tried} killed")


if __name__ == "__main__":
    main()
