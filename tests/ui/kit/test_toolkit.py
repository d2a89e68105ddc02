"""The few pieces every room is laid out with, and what the pinned toolkit must not do."""

import sys

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetrics
from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from lean_sepia.ui.kit import theme
from lean_sepia.ui.kit.named_pair import NamedPair
from lean_sepia.ui.kit.panel import Panel
from lean_sepia.ui.kit.plain import fitting
from lean_sepia.ui.kit.rows import Rows
from lean_sepia.ui.shell.subject_dialog import ScaleBox


def test_calls_into_the_toolkit_keep_the_count_of_none(qtbot):
    """PySide6 6.12.0 loses a reference to None with every such call on Python 3.11: an evening's work would end it."""
    shown = QLabel("drop")
    qtbot.addWidget(shown)
    before = sys.getrefcount(None)
    for _ in range(2000):
        shown.setText("drop")
        shown.update()
    assert abs(sys.getrefcount(None) - before) < 200


def test_rows_are_made_anew_as_one(qtbot):
    rows = Rows(spacing=3, across=True, even=True)
    qtbot.addWidget(rows)
    first = [QLabel("a"), QLabel("b")]
    rows.fill(first)
    assert list(rows.widgets) == first
    rows.fill([QLabel("c"), None])
    assert len(rows.widgets) == 1
    assert rows.widgets[0].text() == "c"
    rows.fill(())
    assert rows.widgets == ()


@pytest.mark.parametrize("shades", [theme.EVENING, theme.DAY])
def test_another_lighting_reaches_what_was_hidden_when_it_is_shown(qtbot, qapp, shades):
    page = QWidget()
    qtbot.addWidget(page)
    inside = Panel("Cast")
    QVBoxLayout(page).addWidget(inside)
    page.show()
    page.hide()
    theme.apply(qapp, shades)
    page.show()
    for role, colour in ((theme.THIRD, shades.third), (theme.PANEL, shades.panel)):
        assert inside.caption.palette().color(role).name() == colour
    assert inside.grab().toImage().pixelColor(6, 6).name() == shades.panel
    qtbot.wait(100)
    theme.apply(qapp, theme.DAY)
    qtbot.wait(50)


@pytest.mark.parametrize(("typed", "scale"), [("1:12", 12), ("12", 12), ("1:7,5", 7.5)])
def test_a_scale_is_typed_over_what_is_selected(qtbot, typed, scale):
    box = ScaleBox(96)
    qtbot.addWidget(box)
    box.show()
    box.selectAll()
    qtbot.keyClicks(box, typed)
    qtbot.keyClick(box, Qt.Key.Key_Return)
    assert box.value() == scale
    assert box.text() == f"1:{scale:g}"


def test_compared_colours_are_heard_as_what_they_are_and_how_they_differ(qtbot):
    pair = NamedPair(40)
    qtbot.addWidget(pair)
    pair.show_pair([(42.0, -14.0, -6.0), (42.0, -14.0, -3.0)], "Target", "Recipe")
    said = pair.fields.accessibleDescription()
    assert said.startswith("Target: ")
    assert "L* 42" in said
    assert "Recipe: " in said
    assert "yellower" in said.split("Recipe")[1]
    pair.show_pair([None, None], "No target yet")
    assert pair.fields.accessibleDescription() == "No target yet: not known; not known"


def test_words_that_do_not_fit_end_with_a_clause(qapp):
    metrics = QFontMetrics(theme.font(12))
    words = "no turn, within the sample's range · 2 mists"
    assert fitting(metrics, words, 1000) == words
    assert (
        fitting(metrics, words, metrics.horizontalAdvance(words) - 1) == "no turn, within the sample's range"
    )
    assert fitting(metrics, words, 60) == "no turn"
    short = fitting(metrics, words, 30)
    assert short.endswith("…")
    assert metrics.horizontalAdvance(short) <= 30
