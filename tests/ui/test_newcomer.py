"""Someone new, with an empty shelf and nothing but a window, a mouse and keys: how many acts it is to a card on paper."""

import numpy as np
import pytest
from PIL import Image
from pypdf import PdfReader
from PySide6.QtCore import Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QApplication, QDialog, QFileDialog
from tests.ui.looks.cut import settled

CTRL = Qt.KeyboardModifier.ControlModifier
MOST_WITH_A_PHOTO, MOST_WITHOUT = 90, 60
BOTTLES = (("Harbour green", "#3f6f66"), ("Chalk", "#ecebe4"), ("Lamp", "#202124"), ("Straw", "#c9b06a"))


class Hand:
    """Clicks, presses and types, and counts; a word typed is one act, as a key or a click is."""

    def __init__(self, window):
        self.window, self.acts = window, 0

    def at(self):
        """What is in front: an open dialog, else the window."""
        return QApplication.activeModalWidget() or self.window

    def see(self, words, kind=QAbstractButton):
        """The button of this name that is in sight."""
        named = [
            one
            for one in self.at().findChildren(kind)
            if one.isVisible() and words in (one.text().rstrip(), one.accessibleName())
        ]
        assert named, f"no {words!r} in sight"
        assert named[0].isEnabled(), words
        return named[0]

    def click(self, words):
        """Click what reads so."""
        self.acts += 1
        QTest.mouseClick(self.see(words), Qt.MouseButton.LeftButton)
        settled()

    def click_at(self, widget, point):
        """Click a place."""
        self.acts += 1
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, point)
        settled()

    def keyboard(self):
        """What has the keyboard."""
        self.at().activateWindow()
        settled()
        focused = QApplication.focusWidget()
        assert focused is not None, "nothing has the keyboard"
        return focused

    def press(self, key, modifier=Qt.KeyboardModifier.NoModifier):
        """Press a key where the keyboard is."""
        self.acts += 1
        QTest.keyClick(self.keyboard(), key, modifier)
        settled()

    def type(self, words):
        """Type a word where the keyboard is, over what is selected there."""
        self.acts += 1
        QTest.keyClicks(self.keyboard(), words)
        settled()


@pytest.fixture
def hand(window, monkeypatch, tmp_path):
    """A hand in a window without a project; file dialogs answer with what was typed into them, one act each."""
    answer = Hand(window)
    window.activateWindow()
    answer.card = tmp_path / "card.pdf"

    def chosen(*_asked):
        answer.acts += 1
        return [str(tmp_path / "prototype.png")], ""

    def named(*_asked):
        answer.acts += 1
        return str(answer.card), ""

    monkeypatch.setattr(QFileDialog, "getOpenFileNames", chosen)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", named)
    picture = np.full((400, 600, 3), (128, 118, 96), np.uint8)  # a warm light on grey
    picture[100:300, 100:400] = (70, 110, 88)
    Image.fromarray(picture).save(tmp_path / "prototype.png")
    return answer


def write_down(hand, name, colour):
    """A bottle on the shelf: its name and its colour are enough."""
    hand.click("New bottle…")
    hand.press(Qt.Key.Key_Tab)  # from what it is, paint, to its name
    hand.type(name)
    hand.press(Qt.Key.Key_Tab)
    hand.press(Qt.Key.Key_Tab)
    hand.type(colour)
    hand.press(Qt.Key.Key_Return, CTRL)


def print_card(hand):
    """The card, and what it says."""
    hand.press(Qt.Key.Key_P, CTRL)
    return " ".join(page.extract_text() for page in PdfReader(hand.card).pages)


def when_asked(answer, tries=100):
    """Answer the dialog that comes, once it is there."""

    def look(left):
        dialog = QApplication.activeModalWidget()
        if isinstance(dialog, QDialog):
            answer(dialog)
        elif left:
            QTimer.singleShot(50, lambda: look(left - 1))

    QTimer.singleShot(50, lambda: look(tries))


def answered(hand, act):
    """Do what opens a question, and take its first answer with Return."""

    def answer(dialog):
        hand.acts += 1
        QTest.keyClick(dialog, Qt.Key.Key_Return)

    when_asked(answer)
    act()


def test_from_an_empty_shelf_and_a_picture_to_a_card(hand, window, widget_point):
    hand.click("Start from a photo")
    space = window.workspace
    assert space.session.shelf.paints() == []
    hand.click("Shelf")
    for name, colour in BOTTLES:
        write_down(hand, name, colour)
    assert len(space.session.shelf.paints()) == len(BOTTLES)
    hand.click("Back to the rooms")
    hand.click("Add zones")
    hand.type("Hull")
    hand.press(Qt.Key.Key_Return, CTRL)
    zone = next(zone for zone in space.session.project.zones if zone.name == "Hull")
    assert space.session.zone == zone.id
    viewer = space.rooms["evidence"].viewer
    hand.click("Grey")
    answered(hand, lambda: hand.click_at(viewer, widget_point(viewer, 500, 60)))
    hand.click("Disc")
    hand.click_at(viewer, widget_point(viewer, 250, 200))
    assert space.session.cut(zone.id).targets.fresh is not None
    hand.press(Qt.Key.Key_2, CTRL)
    hand.press(Qt.Key.Key_Return, CTRL)
    assert space.session.project.bases_of(zone.id)
    words = print_card(hand)
    assert "Hull" in words
    assert any(name in words for name, _colour in BOTTLES)
    assert hand.acts <= MOST_WITH_A_PHOTO, hand.acts


def test_without_a_photo_from_an_empty_shelf_to_a_card(hand, window):
    def type_colour(dialog):
        hand.acts += 2
        QTest.keyClicks(dialog.text, "#4f7a6c")
        QTest.keyClick(dialog, Qt.Key.Key_Return)

    when_asked(type_colour)
    hand.click("Start from a colour")
    space = window.workspace
    hand.click("Shelf")
    for name, colour in BOTTLES:
        write_down(hand, name, colour)
    hand.click("Back to the rooms")
    hand.press(Qt.Key.Key_2, CTRL)
    hand.press(Qt.Key.Key_Return, CTRL)
    (zone,) = space.session.project.zones
    assert space.session.project.bases_of(zone.id)
    words = print_card(hand)
    assert any(name in words for name, _colour in BOTTLES)
    assert hand.acts <= MOST_WITHOUT, hand.acts
