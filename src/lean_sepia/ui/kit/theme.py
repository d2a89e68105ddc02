"""Greys, type and the style sheet of both bench lightings. Surfaces round colours are exact greys."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from importlib.resources import files
from pathlib import Path

from PySide6.QtCore import QByteArray, QEvent, QObject, QTimer
from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication, QStyleFactory, QWidget
from shiboken6 import isValid

from lean_sepia.ui.kit.faults import guarded

FAMILY = "B612"
Role = QPalette.ColorRole

WINDOW, PANEL, RAISED, WELL, HAIRLINE = Role.Window, Role.Base, Role.AlternateBase, Role.Dark, Role.Mid
TEXT, SECOND, THIRD, WELL_TEXT, ACCENT = (
    Role.WindowText,
    Role.Shadow,  # not PlaceholderText: the style sheet thins it to half
    Role.Midlight,
    Role.BrightText,
    Role.Highlight,
)
"""Where custom painting finds each grey: in the palette, so that a change of lighting repaints by itself."""


@dataclass(frozen=True)
class Shades:
    """One lighting: hex colours, all greys but the accent."""

    window: str
    panel: str
    raised: str
    well: str
    hairline: str
    text: str
    second: str
    third: str
    well_text: str
    accent: str


DAY = Shades(
    "#d2d2d2",
    "#dedede",
    "#e6e6e6",
    "#a0a0a0",
    "#b8b8b8",
    "#1c1c1c",
    "#4a4a4a",
    "#5a5a5a",
    "#1c1c1c",
    "#5b3a21",
)
EVENING = Shades(
    "#262626",
    "#2e2e2e",
    "#363636",
    "#606060",
    "#454545",
    "#eaeaea",
    "#b4b4b4",
    "#a0a0a0",
    "#f2f2f2",
    "#c79a6b",
)


def font(size: int = 13, bold: bool = False) -> QFont:
    """The program's face in whole pixels."""
    face = QFont(FAMILY)
    face.setPixelSize(size)
    face.setBold(bold)
    return face


def load_fonts() -> None:
    """Register the shipped faces."""
    folder = files("lean_sepia") / "fonts"
    for name in ("B612-Regular.ttf", "B612-Bold.ttf"):
        QFontDatabase.addApplicationFontFromData(QByteArray((folder / name).read_bytes()))


def palette(shades: Shades) -> QPalette:
    """The palette that both the style sheet and custom painting draw from."""
    answer = QPalette()
    for roles, value in (
        ((WINDOW, Role.Button), shades.window),
        ((PANEL,), shades.panel),
        ((RAISED, Role.ToolTipBase), shades.raised),
        ((WELL,), shades.well),
        ((HAIRLINE,), shades.hairline),
        ((TEXT, Role.Text, Role.ButtonText, Role.ToolTipText), shades.text),
        ((SECOND,), shades.second),
        ((THIRD,), shades.third),
        ((WELL_TEXT,), shades.well_text),
        ((ACCENT,), shades.accent),
        ((Role.HighlightedText,), shades.raised),
    ):
        for role in roles:
            answer.setColor(role, QColor(value))
    for role in (Role.WindowText, Role.Text, Role.ButtonText):
        answer.setColor(QPalette.ColorGroup.Disabled, role, QColor(shades.third))
    return answer


def apply(app: QApplication, shades: Shades) -> None:
    """Dress the whole program in one lighting: what is seen at once, what is hidden in short turns soon after.

    The sheet takes its greys from the palette, so it is read once; another lighting is another palette, which widgets that the
    sheet has dressed take up when they are dressed again.
    """
    if not app.styleSheet():
        app.setStyle(QStyleFactory.create("Fusion"))
        app.setFont(font())
        app.setPalette(palette(shades))
        icons = Path(__file__).parents[1] / "icons"
        app.setStyleSheet(_SHEET.replace("ICONS", icons.as_posix()))
        return
    app.setPalette(palette(shades))
    _Redressing(app)


@guarded
class _Redressing(QObject):
    """Dresses every widget anew: those that are seen at once, the others a few at a time or when they are shown."""

    _AT_A_TIME = 60

    def __init__(self, app: QApplication) -> None:
        super().__init__(app)
        widgets = app.allWidgets()
        self._left = {widget: None for widget in widgets if not widget.isVisible()}
        _dress([widget for widget in widgets if widget.isVisible()])
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._go_on)
        self._timer.start(0)
        app.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Show and isinstance(watched, QWidget) and watched in self._left:
            del self._left[watched]
            _dress([watched])
        return False

    def _go_on(self) -> None:
        now = list(self._left)[: self._AT_A_TIME]
        for widget in now:
            del self._left[widget]
        _dress([widget for widget in now if isValid(widget)])
        if not self._left:
            self._timer.stop()
            self.deleteLater()


def _dress(widgets: Sequence[QWidget]) -> None:
    for widget in widgets:
        style = widget.style()
        style.unpolish(widget)
        style.polish(widget)
        widget.update()


_SHEET = """
QMainWindow, QDialog, #page { background: palette(window); }
QDialogButtonBox { dialogbuttonbox-buttons-have-icons: 0; }
#topbar, #column { background: palette(base); }
#topbar { border-bottom: 1px solid palette(mid); }
#column { border-right: 1px solid palette(mid); }
#advice { background: palette(window); border-top: 1px solid palette(mid); }
QFrame[kind="panel"] { background: palette(base); border: 1px solid palette(mid); border-radius: 4px; }
QFrame[kind="sheet"] { background: palette(base); border: 2px solid palette(window-text); border-radius: 4px; }
QFrame[kind="raised"] { background: palette(alternate-base); border: 1px solid palette(mid); border-radius: 4px; }
QFrame[kind="raised"][chosen="true"] { border: 2px solid palette(window-text); }
QFrame[kind="raised"]:focus { border: 2px solid palette(highlight); }
QScrollArea[kind="read"] { border: 1px solid transparent; }
QScrollArea[kind="read"]:focus { border: 1px solid palette(highlight); }
QFrame[kind="well"] { background: palette(dark); border: none; border-radius: 2px; }
QFrame[kind="rule"] { background: palette(mid); border: none; max-height: 1px; min-height: 1px; }
QPushButton {
    background: palette(alternate-base); border: 1px solid palette(mid); border-radius: 4px; padding: 5px 12px; min-height: 16px;
}
QPushButton:hover { border-color: palette(midlight); }
QPushButton:pressed { background: palette(mid); }
QPushButton:focus { border: 2px solid palette(highlight); padding: 4px 11px; }
QPushButton:checked { border: 2px solid palette(window-text); padding: 4px 11px; }
QPushButton:checked:focus { border: 2px solid palette(highlight); }
QPushButton:disabled { color: palette(midlight); background: palette(base); }
QPushButton[kind="main"] { font-weight: bold; border: 2px solid palette(window-text); padding: 4px 11px; }
QPushButton[kind="main"]:focus { border: 2px solid palette(highlight); }
QPushButton[kind="main"]:disabled { border: 1px solid palette(mid); font-weight: normal; padding: 5px 12px; }
QPushButton[kind="link"] { background: transparent; border: none; padding: 1px 0; text-decoration: underline; text-align: left; }
QPushButton[kind="role"] { background: transparent; border: 1px solid transparent; padding: 0; font-size: 12px; color: palette(shadow); text-align: left; }
QPushButton[kind="role"]:focus, QPushButton[kind="role"]:hover { text-decoration: underline; }
QPushButton[kind="role"]:focus { border: 1px solid palette(highlight); }
QPushButton[kind="link"]:focus { border: 1px solid palette(highlight); }
QPushButton[kind="tool"] { padding: 3px 9px; font-size: 12px; }
QPushButton[kind="tool"]:checked, QPushButton[kind="tool"]:focus { padding: 2px 8px; }
QPushButton[kind="step"] { padding: 0; min-width: 24px; max-width: 24px; min-height: 22px; max-height: 22px; }
QPushButton[kind="tiny"] { padding: 0; min-width: 16px; max-width: 16px; min-height: 15px; max-height: 15px; }
QLineEdit, QPlainTextEdit, QSpinBox, QDoubleSpinBox, QComboBox, QDateTimeEdit {
    background: palette(alternate-base); border: 1px solid palette(mid); border-radius: 3px; padding: 3px 7px; min-height: 18px;
    selection-background-color: palette(midlight); selection-color: palette(alternate-base);
}
QLineEdit:focus, QPlainTextEdit:focus, QSpinBox:focus, QDoubleSpinBox:focus, QComboBox:focus, QDateTimeEdit:focus { border: 2px solid palette(highlight); padding: 2px 6px; }
QLineEdit, QPlainTextEdit { placeholder-text-color: palette(shadow); }
QSpinBox::up-button, QSpinBox::down-button, QDoubleSpinBox::up-button, QDoubleSpinBox::down-button, QDateTimeEdit::up-button, QDateTimeEdit::down-button {
    width: 0; border: none;
}
QComboBox { combobox-popup: 0; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(ICONS/arrow.svg); width: 9px; height: 6px; }
QComboBox QAbstractItemView::item { min-height: 22px; padding: 0 6px; }
QComboBox QAbstractItemView { padding: 0; background: palette(alternate-base); border: 1px solid palette(mid); selection-background-color: palette(mid); selection-color: palette(window-text); outline: none; }
QListWidget { background: palette(alternate-base); border: 1px solid palette(mid); border-radius: 3px; outline: none; }
QListWidget:focus { border: 2px solid palette(highlight); }
QListWidget::item { padding: 4px 6px; border: 2px solid transparent; }
QListWidget::item:selected { background: transparent; color: palette(window-text); border: 2px solid palette(window-text); }
QMenu { background: palette(alternate-base); border: 1px solid palette(mid); padding: 4px; }
QMenu::item { padding: 5px 22px 5px 14px; border-radius: 3px; }
QMenu::item:selected { background: palette(mid); }
QMenu::item:disabled { color: palette(midlight); }
QMenu::separator { height: 1px; background: palette(mid); margin: 4px 6px; }
QToolTip { background: palette(alternate-base); color: palette(window-text); border: 1px solid palette(mid); padding: 4px 6px; }
QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
QScrollBar::handle { background: palette(mid); border-radius: 4px; min-height: 24px; min-width: 24px; }
QScrollBar::handle:hover { background: palette(midlight); }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QSlider::groove:horizontal { height: 2px; background: palette(midlight); }
QSlider::handle:horizontal { background: palette(alternate-base); border: 2px solid palette(window-text); width: 9px; margin: -6px 0; border-radius: 6px; }
QSlider:focus { border: 1px solid palette(highlight); border-radius: 3px; }
QCheckBox::indicator { width: 13px; height: 13px; border: 1px solid palette(midlight); border-radius: 2px; background: palette(alternate-base); }
QCheckBox::indicator:checked { background: palette(window-text); }
QCheckBox:focus { border: 1px solid palette(highlight); border-radius: 3px; }
QProgressBar { background: transparent; border: none; max-height: 2px; min-height: 2px; }
QProgressBar::chunk { background: palette(window-text); }
"""
