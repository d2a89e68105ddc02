"""What is cut or overlaps in a window: texts wider than their place, controls that stick out of it or lie on each other."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import QPoint, QRect, Qt
from PySide6.QtGui import QFontMetrics
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractScrollArea,
    QAbstractSpinBox,
    QApplication,
    QCheckBox,
    QComboBox,
    QLabel,
    QLayout,
    QLineEdit,
    QRadioButton,
    QScrollArea,
    QStyle,
    QStyleOptionComboBox,
    QWidget,
)

from lean_sepia.ui.kit.panel import Panel

_SLACK, _BELOW = 1, 40
_CONTROLS = (QLabel, QAbstractButton, QComboBox, QLineEdit, QAbstractSpinBox)


def faults_in(top: QWidget) -> list[str]:
    """A line for everything that is cut, sticks out or overlaps."""
    shown = [
        widget for widget in top.findChildren(QWidget)
        if isinstance(widget, _CONTROLS) and widget.isVisible() and not isinstance(widget.parentWidget(), QComboBox | QAbstractSpinBox)
    ]  # fmt: skip
    found = [f"{_name(widget)}: {words}" for widget in shown for words in _cut(widget)]
    found += [
        f"{_name(widget)}: sticks out of {type(widget.parentWidget()).__name__}"
        for widget in shown
        if _sticks_out(widget)
    ]
    found += [
        f"{_name(widget)}: {by} px lie sideways out of what scrolls"
        for widget in shown
        if (by := _hidden_sideways(widget)) > _SLACK
    ]
    drawn = [widget for widget in top.findChildren(QWidget) if widget.isVisible() and _is_laid_out(widget)]
    found += [f"{_name(one)} lies on {_name(two)}" for one, two in _overlaps(drawn)]
    return found


def _name(widget: QWidget) -> str:
    said = (
        getattr(widget, "text", lambda: "")()
        or widget.accessibleName()
        or getattr(widget, "currentText", lambda: "")()
    )
    return f"{type(widget).__name__} “{' '.join(str(said).split())[:50]}”"


def _cut(widget: QWidget) -> Iterator[str]:
    metrics = QFontMetrics(widget.font())
    if isinstance(widget, QLabel):
        if widget.pixmap() and not widget.pixmap().isNull():
            return
        if widget.wordWrap():
            needed = widget.heightForWidth(widget.width())
            if needed > widget.height() + _SLACK:
                yield f"needs {needed} px of height, has {widget.height()}"
        elif widget.text() and widget.sizeHint().width() > widget.width() + _SLACK:
            yield f"needs {widget.sizeHint().width()} px, has {widget.width()}"
    elif isinstance(widget, QComboBox):
        option = QStyleOptionComboBox()
        widget.initStyleOption(option)
        field = widget.style().subControlRect(
            QStyle.ComplexControl.CC_ComboBox, option, QStyle.SubControl.SC_ComboBoxEditField, widget
        )
        if (needed := metrics.horizontalAdvance(widget.currentText())) > field.width() + _SLACK:
            yield f"“{widget.currentText()}” needs {needed} px, has {field.width()}"
    elif isinstance(widget, QAbstractSpinBox):
        line = widget.lineEdit()
        if (needed := metrics.horizontalAdvance(widget.text())) > line.width():
            yield f"needs {needed} px, has {line.width()}"
    elif isinstance(widget, QLineEdit):
        room = widget.contentsRect().width() - 20
        if (
            not widget.text()
            and (needed := metrics.horizontalAdvance(widget.placeholderText())) > room + _SLACK
        ):
            yield f"placeholder “{widget.placeholderText()}” needs {needed} px, has {room}"
    elif isinstance(widget, QAbstractButton) and widget.text():
        words = max(metrics.horizontalAdvance(line) for line in widget.text().replace("&", "").split("\n"))
        room = widget.width() - (20 if isinstance(widget, QCheckBox | QRadioButton) else 0)
        if words > room + _SLACK:
            yield f"needs {words} px, has {room}"


def _sticks_out(widget: QWidget) -> bool:
    """Whether part of it lies outside of what it is in, where that does not scroll."""
    parent = widget.parentWidget()
    if parent is None or isinstance(parent.parentWidget(), QAbstractScrollArea):
        return False
    return not parent.rect().adjusted(-_SLACK, -_SLACK, _SLACK, _SLACK).contains(widget.geometry())


def _hidden_sideways(widget: QWidget) -> int:
    """How many pixels of it lie to the right of an area that only scrolls down."""
    area = next((one for one in _parents(widget) if isinstance(one, QAbstractScrollArea)), None)
    if area is None or area.horizontalScrollBarPolicy() != Qt.ScrollBarPolicy.ScrollBarAlwaysOff:
        return 0
    view = area.viewport()
    return widget.mapTo(view, QPoint(widget.width(), 0)).x() - view.width()


def _is_laid_out(widget: QWidget) -> bool:
    """Whether a layout or a hand put it beside others; what scrolls, lies over a window on purpose or belongs to a control is none of it."""
    parent = widget.parentWidget()
    if (
        parent is None
        or widget.isWindow()
        or isinstance(parent, QAbstractScrollArea | QComboBox | QAbstractSpinBox | QLineEdit)
    ):
        return False
    if isinstance(parent.parentWidget(), QAbstractScrollArea) and parent.layout() is None:
        return False
    return isinstance(widget, _CONTROLS) or _in_layout(parent.layout(), widget)


def _in_layout(layout: QLayout | None, widget: QWidget) -> bool:
    """Whether a widget stands in a layout or in one of those inside it."""
    if layout is None:
        return False
    return layout.indexOf(widget) >= 0 or any(
        inner.indexOf(widget) >= 0 for inner in layout.findChildren(QLayout)
    )


def _overlaps(shown: list[QWidget]) -> Iterator[tuple[QWidget, QWidget]]:
    by_parent: dict[int, list[QWidget]] = {}
    for widget in shown:
        by_parent.setdefault(id(widget.parentWidget()), []).append(widget)
    for siblings in by_parent.values():
        for i, one in enumerate(siblings):
            for two in siblings[i + 1 :]:
                both = one.geometry().intersected(two.geometry())
                if both.width() > _SLACK and both.height() > _SLACK:
                    yield one, two


def headings_over_nothing(top: QWidget) -> list[str]:
    """Panels that are seen with a heading and nothing below it."""
    empty = []
    for panel in top.findChildren(Panel):
        if not panel.isVisible() or not panel.caption.text():
            continue
        below = [
            widget for widget in panel.findChildren(QWidget)
            if widget.isVisible() and (isinstance(widget, _CONTROLS) or not widget.findChildren(QWidget)) and not panel._head.isAncestorOf(widget)
        ]  # fmt: skip
        if not any(
            widget.height() > 4 and not (isinstance(widget, QLabel) and not widget.text()) for widget in below
        ):
            empty.append(panel.caption.text())
    return empty


def scrolls_into_nothing(top: QWidget) -> list[str]:
    """Areas whose end shows nothing: they scroll on below the last of what is in them."""
    found = []
    for area in top.findChildren(QScrollArea):
        bar, inner = area.verticalScrollBar(), area.widget()
        if not area.isVisible() or inner is None or bar.maximum() == 0:
            continue
        lowest = max(
            (one.mapTo(inner, QPoint(0, one.height())).y() for one in inner.findChildren(QWidget)
             if one.isVisible() and not one.findChildren(QWidget)),
            default=0,
        )  # fmt: skip
        if inner.height() - lowest > _BELOW:
            found.append(
                f"{type(area.parentWidget()).__name__}: {inner.height() - lowest} px of nothing at the end"
            )
    return found


def out_of_reach(top: QWidget) -> list[str]:
    """Controls that no scrolling brings into a window."""
    found = []
    for widget in top.findChildren(QWidget):
        if (
            not isinstance(widget, QAbstractButton | QComboBox | QLineEdit | QAbstractSpinBox)
            or not widget.isVisible()
        ):
            continue
        if any(isinstance(parent, QAbstractScrollArea) for parent in _parents(widget)):
            continue
        box = QRect(widget.mapTo(top, QPoint()), widget.size())
        if not top.rect().adjusted(-_SLACK, -_SLACK, _SLACK, _SLACK).contains(box):
            found.append(_name(widget))
    return found


def _parents(widget: QWidget) -> Iterator[QWidget]:
    while (parent := widget.parentWidget()) is not None:
        yield parent
        widget = parent


def settled() -> None:
    """Let layouts take their places."""
    for _turn in range(3):
        QApplication.processEvents()
