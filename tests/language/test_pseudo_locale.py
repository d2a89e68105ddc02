"""Every sentence goes through gettext: rooms, card and commands in a language that shows what does not."""

import json

import pytest
from pypdf import PdfReader
from PySide6.QtWidgets import QAbstractButton, QComboBox, QLabel, QLineEdit, QPlainTextEdit, QWidget
from tests.language.pseudo import NEVER_TRANSLATED, Pseudo, untranslated, words_of

from lean_sepia import language
from lean_sepia.answers.advice import ROOMS
from lean_sepia.report.bench_card import write_bench_card
from lean_sepia.ui.shell.settings import Settings
from lean_sepia.ui.shell.window import MainWindow


@pytest.fixture
def pseudo(monkeypatch):
    """The program speaks in brackets."""
    monkeypatch.setattr(language, "_current", Pseudo())


def names_in(value) -> list[str]:
    """Every string in a document or a list of records."""
    if isinstance(value, str):
        return [value]
    if isinstance(value, dict):
        return [name for item in value.values() for name in names_in(item)]
    if isinstance(value, list | tuple):
        return [name for item in value for name in names_in(item)]
    return []


def shown(page: QWidget):
    """What a page says: texts, tool tips, names for those who listen, entries to choose from."""
    for child in (page, *page.findChildren(QWidget)):
        if isinstance(child, QLabel | QAbstractButton):
            yield child, child.text()
        if isinstance(child, QLineEdit | QPlainTextEdit):
            yield child, child.placeholderText()
        if isinstance(child, QComboBox):
            for index in range(child.count()):
                yield child, child.itemText(index)
        yield child, child.toolTip()
        yield child, child.accessibleName()
        yield child, child.accessibleDescription()


@pytest.fixture
def spoken(pseudo, demo, qtbot):
    window = MainWindow(Settings(), synchronous=True, remember=False)
    window.resize(1280, 800)
    window.show()
    yield window
    window.close()
    window.deleteLater()


def names_of(workspace) -> frozenset[str]:
    session = workspace.session
    document = json.loads(session.project.model_dump_json())
    return NEVER_TRANSLATED | words_of(*names_in(document), *names_in(session.shelf.records()))


@pytest.mark.parametrize("file", ["worked", "untouched"])
def test_every_room_speaks_the_language(spoken, demo, file):
    assert spoken.open_project(getattr(demo, file))
    workspace = spoken.workspace
    for room in ROOMS:
        workspace.open_room(room)
    workspace.open_shelf()
    known = names_of(workspace)
    found = {
        (type(widget).__name__, text) for widget, text in shown(spoken) if text and untranslated(text, known)
    }
    assert "\n".join(f"{kind}: {text}" for kind, text in sorted(found)) == ""


def test_the_first_page_and_the_menu_speak_the_language(spoken):
    texts = [text for _, text in shown(spoken)] + [action.text() for action in spoken.menu.actions()]
    assert "\n".join(text for text in texts if untranslated(text, NEVER_TRANSLATED)) == ""


def test_the_card_speaks_the_language(pseudo, worked, tmp_path):
    write_bench_card(worked, tmp_path / "card.pdf")
    known = NEVER_TRANSLATED | words_of(*names_in(json.loads(worked.model_dump_json())))
    text = " ".join(page.extract_text() for page in PdfReader(tmp_path / "card.pdf").pages)
    # The card's face has no brackets: what they become marks the sentences all the same.
    assert untranslated(text.replace("\n", " "), known) == []
