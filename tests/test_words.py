"""Sentences that people read keep to the table of words, and count in the plural only what may be several."""

import re
from pathlib import Path

import pytest
from babel.messages.pofile import read_po

ROOT = Path(__file__).parents[1]
COUNTED = (
    "coats|parts|drops|steps|zones|photos|bottles|passes|cups|minutes|hours|samples|paints|tones|mists|marks|dots|targets|swatches"
    "|fields|anchors|kinds|files|remarks"
)
FROM_TWO = {"{0} tones", "{0} times"}  # never of one


def sentences():
    """Every sentence and every plural of one, with the place it stands at."""
    with (ROOT / "src/lean_sepia/locale/lean_sepia.pot").open("rb") as file:
        for message in read_po(file):
            for words in [message.id] if isinstance(message.id, str) else message.id:
                if words:
                    yield words, message, message.locations[0][0]


def banned():
    table = (ROOT / "docs/words.md").read_text(encoding="utf-8").split("| never | but |")[1]
    rows = re.findall(r"^\| ([a-z][^|]*) \| ([^|]*) \|$", table, re.MULTILINE)
    return [(word.strip(), instead) for words, instead in rows for word in words.split(",")]


def said(word, sentence):
    """Whether a word stands in a sentence; a key that is called so is written with a capital."""
    return re.search(rf"(?<![\w-]){re.escape(word)}(?![\w-])", sentence) is not None


def test_the_table_of_words_is_read():
    assert len(banned()) > 30
    assert said("goal", "far from the goal.")
    assert not said("goal", "goals")
    assert not said("delete", "Delete removes it")


@pytest.mark.parametrize(("word", "instead"), banned(), ids=[word for word, _instead in banned()])
def test_no_sentence_says(word, instead):
    found = [f"{place}: {words}" for words, _message, place in sentences() if said(word, words)]
    assert found == [], f"say {instead}"


def test_what_may_be_one_is_not_counted_in_the_plural():
    one_of_two = re.compile(rf"^\{{\d\}} (?:\w+ )?(?:{COUNTED})\b")
    found = [
        f"{place}: {words}"
        for words, message, place in sentences()
        if isinstance(message.id, str)
        and one_of_two.search(words)
        and words not in FROM_TWO
        and "{1" not in words
    ]
    assert found == []
    assert not any("(s)" in words for words, _message, _place in sentences())
