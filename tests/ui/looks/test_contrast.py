"""Every word in a window stands out from its ground by 4.5 : 1 at least, in both lightings, also what cannot be used now."""

import numpy as np
import pytest
from colour.blindness import matrix_cvd_Machado2009
from fuzzing.fields import ROOMS
from PySide6.QtGui import QColor, QPalette
from PySide6.QtWidgets import QLabel, QLineEdit, QWidget
from tests.ui.looks.contrast import READABLE, contrast, luminance, too_faint
from tests.ui.looks.cut import settled

from lean_sepia.ui.kit import theme


@pytest.fixture
def evening(qapp):
    theme.apply(qapp, theme.EVENING)
    yield
    theme.apply(qapp, theme.DAY)
    settled()


def test_every_word_of_every_room_and_sheet_can_be_read_in_the_evening(
    evening, window, workspace, each_sheet
):
    found = []
    for room in ROOMS:
        workspace.open_room(room)
        settled()
        found += [f"{room}: {fault}" for fault in too_faint(window)]
    workspace.open_shelf()
    settled()
    found += [f"shelf: {fault}" for fault in too_faint(window)]
    for sheet in each_sheet():
        found += [f"{type(sheet).__name__}: {fault}" for fault in too_faint(sheet)]
    assert found == []


def test_faint_words_are_found_and_clear_ones_are_not(qtbot):
    top = QWidget()
    qtbot.addWidget(top)
    top.resize(200, 120)
    clear, faint, place = QLabel("Clear", top), QLabel("Faint", top), QLineEdit(top)
    place.setPlaceholderText("a place")
    colours = QPalette(faint.palette())
    colours.setColor(QPalette.ColorRole.WindowText, QColor("#a8a8a8"))
    faint.setPalette(colours)
    for row, widget in enumerate((clear, faint, place)):
        widget.setGeometry(10, 10 + 36 * row, 120, 28)
    top.show()
    settled()
    assert [words.split()[1] for words in too_faint(top)] == ["“Faint”"]
    assert contrast(clear) > 2 * READABLE


@pytest.mark.parametrize("deficiency", ["Protanomaly", "Deuteranomaly"])
@pytest.mark.parametrize("shades", [theme.DAY, theme.EVENING])
def test_the_one_colour_of_the_chrome_tells_as_much_without_colour_vision(deficiency, shades):
    """All else in the chrome is an exact grey, which looks the same to everyone; swatches are the subject and are named in words.

    Machado, Oliveira & Fernandes, IEEE TVCG 15 (2009), severity 1; 3 : 1 is asked of what is no text (WCAG 2.1, 1.4.11).
    """
    seen_so = matrix_cvd_Machado2009(deficiency, 1.0)
    accent = np.array([int(shades.accent[place : place + 2], 16) / 255 for place in (1, 3, 5)])
    linear = np.where(accent <= 0.04045, accent / 12.92, ((accent + 0.055) / 1.055) ** 2.4)
    as_seen = float(np.clip(seen_so @ linear, 0, 1) @ [0.2126, 0.7152, 0.0722])
    for ground in (shades.window, shades.panel, shades.raised):
        other = float(luminance(np.array([int(ground[1:], 16)]))[0])
        assert (max(as_seen, other) + 0.05) / (min(as_seen, other) + 0.05) >= 3
