"""Panels, captions and rules: the few pieces every room is laid out with."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal, SignalInstance
from PySide6.QtGui import QFocusEvent, QFont, QKeyEvent, QPalette, QResizeEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QPlainTextEdit,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.number_box import CountBox, NumberBox
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.theme import ACCENT, SECOND, TEXT, THIRD, WELL_TEXT, font

GUTTER, COLUMN_WIDTH = 18, 268
_FITS = 36  # letters that surely fit in a line of the side column


_FACES: dict[str, tuple[int, bool, QPalette.ColorRole]] = {
    "": (13, False, TEXT), "caption": (11, True, THIRD), "second": (12, False, SECOND), "strong": (13, True, TEXT),
    "title": (15, True, TEXT), "large": (17, False, TEXT), "statement": (17, True, TEXT), "figure": (26, True, TEXT), "huge": (30, True, TEXT),
    "wordmark": (17, True, ACCENT), "well": (13, False, WELL_TEXT),
}  # fmt: skip
"""Size in pixels, weight and ink of each kind of label. Set on the label: a rule of the style sheet costs twice the time."""


def _set_face(words: QLabel, kind: str) -> None:
    size, bold, ink = _FACES[kind]
    face = font(size, bold)
    if kind == "caption":
        face.setLetterSpacing(QFont.SpacingType.AbsoluteSpacing, 1)
    words.setFont(face)
    words.setForegroundRole(ink)
    words.setTextFormat(Qt.TextFormat.PlainText)


def label(text: str = "", kind: str = "", wrap: bool = False) -> QLabel:
    """A label of one of the kinds: caption, second, strong, title, statement, figure, well, or plain."""
    answer = QLabel(text)
    _set_face(answer, kind)
    answer.setWordWrap(wrap)
    if wrap:
        answer.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
    return answer


@guarded
class ElidedLabel(QLabel):
    """One line that ends in an ellipsis where it does not fit; the whole of it is its tool tip."""

    def __init__(self, kind: str = "") -> None:
        super().__init__()
        _set_face(self, kind)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self._whole = ""

    def show_text(self, text: str) -> None:
        """Show a text, shortened to the width there is."""
        self._whole = text
        hint(self, text)
        self._fit()

    def _fit(self) -> None:
        self.setText(self.fontMetrics().elidedText(self._whole, Qt.TextElideMode.ElideRight, self.width()))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()


def line(text: str, kind: str = "") -> QLabel:
    """A label in the side column, which wraps only where it must: what may wrap asks for more height than it needs."""
    return label(text, kind, wrap=len(text) > _FITS)


def button(text: str, kind: str = "", tip: str = "") -> QPushButton:
    """A push button; its text says what happens."""
    answer = QPushButton(text)
    answer.setProperty("kind", kind)
    answer.setCursor(Qt.CursorShape.PointingHandCursor)
    if tip:
        hint(answer, tip)
    return answer


def rule() -> QFrame:
    """A hairline."""
    answer = QFrame()
    answer.setProperty("kind", "rule")
    return answer


def row(*items: QWidget | int | None, spacing: int = 8) -> QHBoxLayout:
    """Widgets side by side; None is a stretch, a number a fixed gap."""
    answer = QHBoxLayout()
    answer.setContentsMargins(0, 0, 0, 0)
    answer.setSpacing(spacing)
    for item in items:
        if item is None:
            answer.addStretch(1)
        elif isinstance(item, int):
            answer.addSpacing(item)
        elif isinstance(item, QLabel) and item.wordWrap():
            answer.addWidget(item, 1)
        else:
            answer.addWidget(item)
    return answer


_BY_KEYBOARD = (
    Qt.FocusReason.TabFocusReason,
    Qt.FocusReason.BacktabFocusReason,
    Qt.FocusReason.ShortcutFocusReason,
)


def count_box(low: int, high: int, value: int, name: str) -> CountBox:
    """A small box for a whole number; its name is spoken and shown as a hint."""
    box = CountBox()
    box.setRange(low, high)
    box.setValue(value)
    box.setFixedWidth(46)
    box.setAlignment(Qt.AlignmentFlag.AlignRight)
    box.setAccessibleName(name)
    hint(box, name)
    box.setKeyboardTracking(False)
    return box


def measure_box(
    low: float, high: float, value: float, unit: str, name: str, decimals: int = 1, width: int = 76
) -> NumberBox:
    """A small box for a length or volume with its unit, figures at the right as in `count_box`."""
    box = NumberBox()
    box.setRange(low, high)
    box.setDecimals(decimals)
    box.setValue(value)
    box.setSuffix(f" {unit} ")  # the sheet's padding does not reach a suffix
    box.setFixedWidth(width)
    box.setAlignment(Qt.AlignmentFlag.AlignRight)
    box.setAccessibleName(name)
    hint(box, name)
    box.setKeyboardTracking(False)
    return box


@guarded
class NoteBox(QPlainTextEdit):
    """A text of two lines. Enter, or leaving it, ends the editing; Tab goes on to the next control."""

    editing_finished = Signal()

    def __init__(self, name: str, hint: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setPlaceholderText(hint)
        self.setTabChangesFocus(True)
        self.setFixedHeight(2 * self.fontMetrics().lineSpacing() + 16)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.document().setDocumentMargin(2)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.editing_finished.emit()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.editing_finished.emit()


class KeyboardRing:
    """For painted widgets: `ring` is set while the focus came by keyboard or a key was used since."""

    ring = False

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.ring = event.reason() in _BY_KEYBOARD
        super().focusInEvent(event)  # type: ignore[misc]

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.ring = False
        super().focusOutEvent(event)  # type: ignore[misc]


def _capitals(text: str) -> str:
    """Capital letters, but for symbols that mean something else in capitals."""
    return text if "*" in text else text.upper()


class Panel(QFrame):
    """A framed area with a caption at the left and a short remark at the right."""

    def __init__(self, caption: str = "", remark: str = "", kind: str = "panel", margin: int = 13) -> None:
        super().__init__()
        self.setProperty("kind", kind)
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(margin, margin - 2, margin, margin - 1)
        self.body.setSpacing(6)
        self.caption, self.remark = label("", "caption"), label("", "caption")
        self._head = holder(row(self.caption, None, self.remark))
        self.body.addWidget(self._head)
        self.set_caption(caption, remark)

    def set_caption(self, caption: str, remark: str = "") -> None:
        """Name the panel; without a name it has no line above."""
        self.caption.setText(_capitals(caption))
        self.remark.setText(_capitals(remark))
        self._head.setVisible(bool(caption))

    def set_remark(self, text: str) -> None:
        """Change the short remark."""
        self.remark.setText(_capitals(text))

    def seen_with(self, filled: SignalInstance) -> None:
        """Be there only while something is: a heading over nothing says nothing. filled : tells whether there is anything"""
        self.hide()
        filled.connect(self.setVisible)

    def add(self, item: QWidget | QLayout, stretch: int = 0) -> None:
        """Put a widget or layout below what is there."""
        if isinstance(item, QWidget):
            self.body.addWidget(item, stretch)
        else:
            self.body.addLayout(item, stretch)


def holder(layout: QLayout) -> QWidget:
    """A widget that only holds a layout."""
    widget = QWidget()
    layout.setContentsMargins(0, 0, 0, 0)
    widget.setLayout(layout)
    return widget


def scrolled(
    content: QWidget | QLayout, sideways: bool = False, area: QScrollArea | None = None, by_keys: bool = False
) -> QScrollArea:
    """A frameless area, of a kind of its own where one is given, that scrolls down, or only sideways, when its content does not fit.

    It follows the controls in it that the keyboard comes to; where it holds words alone, it is a stop of its own to be scrolled `by_keys`.
    """
    area = area or QScrollArea()
    area.setFocusPolicy(Qt.FocusPolicy.StrongFocus if by_keys else Qt.FocusPolicy.NoFocus)
    area.setProperty("kind", "read" if by_keys else "")
    area.setWidgetResizable(True)
    area.setFrameShape(QFrame.Shape.NoFrame)
    inner = content if isinstance(content, QWidget) else holder(content)
    area.setWidget(inner)
    for surface in (inner, area.viewport()):
        surface.setAutoFillBackground(False)
    off = Qt.ScrollBarPolicy.ScrollBarAlwaysOff
    if sideways:
        area.setVerticalScrollBarPolicy(off)
    else:
        area.setHorizontalScrollBarPolicy(off)
    return area
