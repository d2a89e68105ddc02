"""Names, notes and paths are shown as they are written: no widget reads tags in them."""

import importlib
import pkgutil
import re
from pathlib import Path
from types import FunctionType

import pytest
from PySide6.QtGui import QTextDocument
from PySide6.QtWidgets import QLabel, QWidget

import lean_sepia.ui
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.shelf import SHELF_NAME, Shelf
from lean_sepia.ui.kit.plain import menu_words, plain_hint

HOSTILE = '<img src="/dev/zero"><b>&lt;Sea</b>'
SOURCES = Path(lean_sepia.ui.__file__).parent


def renamed(value):
    """A document's values with every name and note hostile."""
    if isinstance(value, dict):
        told = {"name", "title", "note", "livery", "source", "light", "process", "line", "words", "prototype"}
        return {
            key: HOSTILE if key in told and isinstance(inner, str) and inner else renamed(inner)
            for key, inner in value.items()
        }
    if isinstance(value, list | tuple):
        return [renamed(inner) for inner in value]
    return value


@pytest.fixture
def hostile(demo):
    store = ProjectStore.open(demo.worked)
    project, _note = store.load()
    store.save(Project.model_validate(renamed(project.model_dump())), "hostile")
    store.close()
    shelf = Shelf(demo.folder / SHELF_NAME)
    shelf.add(
        ShelfContent(tuple({**record, "name": HOSTILE, "note": HOSTILE} for record in shelf.records())),
        replace=True,
    )
    shelf.close()
    return demo.worked


def shown_as_written(text):
    """Whether a tool tip shows what it is given, tags and all, rather than reading them."""
    if "<" not in text:
        return True
    if not text.startswith("<qt>"):
        return False
    document = QTextDocument()
    document.setHtml(text)
    return "￼" not in document.toPlainText() and "<img" not in re.sub("&lt;", "", text)


def test_no_widget_reads_tags(window, hostile):
    assert window.open_project(hostile)
    workspace = window.workspace
    said = []
    workspace.session.refused.connect(said.append)
    workspace.session.refused.emit(HOSTILE)
    for open_page in (*(lambda room=room: workspace.open_room(room) for room in ROOMS), workspace.open_shelf):
        open_page()
        for widget in window.findChildren(QWidget):
            assert shown_as_written(widget.toolTip()), (widget, widget.toolTip())
            if isinstance(widget, QLabel):
                assert widget.textFormat().name == "PlainText", (widget, widget.text())
    assert any(HOSTILE in label.text() for label in window.findChildren(QLabel))


def test_hints_show_tags_as_letters():
    assert plain_hint("Sea <b>green</b> & more\n2") == "<qt>Sea &lt;b&gt;green&lt;/b&gt; &amp; more<br>2</qt>"
    assert plain_hint("Sea green") == "Sea green"
    assert len(plain_hint("x" * 10_000)) < 2100
    assert menu_words("A & B") == "A && B"


def test_tool_tips_and_stock_questions_go_through_one_place():
    for file in SOURCES.rglob("*.py"):
        text = file.read_text(encoding="utf-8")
        if file.name != "plain.py":
            assert ".setToolTip(" not in text, file
        for stock in ("QInputDialog", "QMessageBox", "setHtml", "RichText", "QErrorMessage"):
            assert stock not in text, (file, stock)


def test_every_handler_is_guarded():
    bare = []
    for module in pkgutil.walk_packages([str(SOURCES)], "lean_sepia.ui."):
        if module.name.endswith("system_libraries"):
            continue
        found = importlib.import_module(module.name)
        for cls in vars(found).values():
            if isinstance(cls, type) and cls.__module__ == module.name:
                qt = [base for base in cls.__mro__ if base.__module__.startswith("PySide6")]
                bare += [
                    f"{cls.__name__}.{name}" for name, function in vars(cls).items()
                    if isinstance(function, FunctionType) and name[0] != "_" and any(hasattr(base, name) for base in qt)
                    and not hasattr(function, "guarded")
                ]  # fmt: skip
    assert bare == []
