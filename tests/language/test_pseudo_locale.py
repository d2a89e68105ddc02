"""Every sentence goes through gettext: rooms, card and commands in a language that shows what does not."""

import json
import sys

import click
import pytest
from pypdf import PdfReader
from PySide6.QtWidgets import QAbstractButton, QComboBox, QLabel, QLineEdit, QPlainTextEdit, QWidget
from scripts.messages import TEMPLATE, template
from tests.language.pseudo import NEVER_TRANSLATED, Pseudo, untranslated, words_of

from lean_sepia import language
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.cli import cli, main
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


def test_the_template_for_translators_holds_every_sentence():
    """`python -m scripts.messages` writes it anew."""
    assert TEMPLATE.read_bytes() == template()


@pytest.fixture
def said(pseudo, demo, tmp_path, capsys):
    """What a command says, in words; refusals too."""
    spoken = {
        id(command): (command.help, [p.help for p in command.params if hasattr(p, "help")])
        for command in commands()
    }

    def run(*arguments: str) -> str:
        monkey = sys.argv
        sys.argv = ["lean-sepia", *arguments]
        try:
            main()
        except SystemExit:
            pass
        finally:
            sys.argv = monkey
        out = capsys.readouterr()
        return f"{out.out}\n{out.err}"

    yield run
    for command in commands():  # help is translated in place
        command.help, helps = spoken[id(command)]
        for parameter, text in zip([p for p in command.params if hasattr(p, "help")], helps, strict=True):
            parameter.help = text


def commands(group: click.Group = cli):
    """Every command and subcommand."""
    for command in group.commands.values():
        yield command
        if isinstance(command, click.Group):
            yield from commands(command)


@pytest.fixture
def shelf_words(demo):
    records = json.loads(demo.shelf_file.read_text(encoding="utf-8"))["paints"]
    return NEVER_TRANSLATED | words_of(*names_in(records)) | words_of(str(demo.folder))


@pytest.mark.parametrize(
    "line",
    [
        "mix --shelf SHELF --target 50,-10,-5", "mix --shelf SHELF --target 50,-10", "mix --shelf nowhere.json --target 50,0,0",
        "predict --shelf SHELF --parts chalk=2,slate-teal=1 --over 40,0,0 --coats 1 --tool mist",
        "predict --shelf SHELF --parts chalk=2,oil-raw-umber=1", "predict --shelf SHELF --parts nobody=1",
        "fade --shelf SHELF --base slate-teal=3 --target 60,-10,-5", "fade --shelf SHELF --base chalk=x --target 60,0,0",
        "glaze --shelf SHELF --base 50,-18,-3 --target 48,-16,-2", "glaze --shelf SHELF --base 50,0,0,shiny --target 48,0,0",
        "film --shelf SHELF --emulsion ortho --paint chalk", "film --shelf SHELF --emulsion ortho --paint nobody",
        "sample SLIDE --neutral 1088,511,5,65 --at 560,606,9", "sample SLIDE", "sample SHELF --at 1,1,1",
        "wear SLIDE --region 480,640,1240,688 --base 560,606,9 --mm-per-px 38 --scale 96",
        "wear SLIDE --region 0,0,9,9 --base 1,1,1 --mm-per-px 0 --scale 96",
        "plan check PLAN", "plan check PLAN --start 2031-03-03T19:00", "plan check nowhere.json",
        "plan schedule PLAN --start 2031-03-03T19:00 --evenings daily-19:00-21:30",
        "card PROJECT --pdf OUT.pdf", "card SHELF --pdf OUT.pdf", "swatch-card --pdf OUT.pdf", "fit --shelf SHELF --swatches PLAN --out OUT.json",
    ],
)  # fmt: skip
def test_commands_speak_the_language(said, demo, shelf_words, tmp_path, line):
    plan = tmp_path / "plan.json"
    plan.write_text(json.dumps({"steps": [
        {"id": "s1", "kind": "base", "material": {"medium": "enamel"}}, {"id": "s2", "kind": "wash", "material": {"medium": "oil"}},
        {"id": "s3", "kind": "powder"}, {"id": "s4", "kind": "matte-coat", "material": {"medium": "lacquer"}},
    ]}))  # fmt: skip
    places = {
        "SHELF": str(demo.shelf_file), "SLIDE": str(demo.folder / "slide-1957.jpg"), "PLAN": str(plan), "OUT": str(tmp_path / "out"),
        "PROJECT": str(demo.worked),
    }  # fmt: skip
    words = []
    for word in line.split():
        for name, place in places.items():
            word = word.replace(name, place)
        words.append(word.replace("daily-", "daily "))
    known = shelf_words | words_of(*words) | CODES
    assert untranslated(said(*words), known) == []


CODES = words_of(
    "base wash matte powder unsealed under wet solvent attacks base fades varnish hue D65 coats thinner share tool film over"
    " Lab mix paint parts id start evenings help shelf target"
)
"""Finding codes, and options and fields as they are typed."""


@pytest.mark.parametrize("line", [["--help"], *([*name.split(), "--help"] for name in (
    "mix", "predict", "fade", "glaze", "film", "sample", "wear", "plan check", "plan schedule", "fit", "card", "shelf read", "swatch-card"))])  # fmt: skip
def test_help_speaks_the_language(said, line):
    """Click's own words come from its own catalogue; ours are in brackets."""
    text = said(*line)
    ours = [
        part
        for command in commands()
        for part in (command.help, *(getattr(p, "help", None) for p in command.params))
        if part
    ]
    assert ours
    assert all(part.startswith("«") for part in ours)
    assert "«" in text
