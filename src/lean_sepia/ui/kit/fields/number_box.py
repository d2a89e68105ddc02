"""Fields for numbers: a point and a comma both mark decimals, whatever the language, and no mark is ever dropped."""

from __future__ import annotations

import re
from math import copysign, floor

from PySide6.QtCore import QLocale, Qt
from PySide6.QtGui import QKeyEvent, QKeySequence, QValidator
from PySide6.QtWidgets import QAbstractSpinBox, QDoubleSpinBox, QSpinBox

from lean_sepia.files.typed import to_number
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.wheel import WheelNeedsFocus

_BEGUN = re.compile(r"[+\-−]?[0-9]{0,12}(?:[.,][0-9]{0,12})?")
_State = QValidator.State


def plain_number(text: str) -> float | None:
    """The number that a text says, a point or a comma before its decimals; None where it says none yet."""
    try:
        return to_number(text)
    except ValueError:
        return None


def _judged(text: str, low: float, high: float) -> QValidator.State:
    """Whether what is typed is a number in a range, may become one, or is none: a key that is refused would change what was meant."""
    if not _BEGUN.fullmatch(text):
        return _State.Invalid
    number = plain_number(text)
    return _State.Acceptable if number is not None and low <= number <= high else _State.Intermediate


def _rounded(number: float, decimals: int) -> float:
    """Rounded as people do, halves away from nothing."""
    whole = floor(abs(number) * 10**decimals + 0.5)
    return copysign(whole / 10**decimals, number) if whole else 0.0


def _plainly(box: QAbstractSpinBox) -> None:
    box.setLocale(QLocale.c())
    box.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
    box.setGroupSeparatorShown(False)


def _bare(box: QSpinBox | QDoubleSpinBox, text: str) -> str:
    return text.removeprefix(box.prefix()).removesuffix(box.suffix()).strip()


@guarded
class NumberBox(WheelNeedsFocus, QDoubleSpinBox):
    """A number with decimals. What lies beyond its range becomes the nearest that does not, when it is left."""

    def __init__(self) -> None:
        super().__init__()
        _plainly(self)

    def bare(self, text: str) -> str:
        """What is typed without what stands before and behind it."""
        return _bare(self, text)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """What stands where nothing was said gives way to what is typed."""
        if self._says_nothing(self.text()) and (
            event.text() or event.matches(QKeySequence.StandardKey.Paste)
        ):
            self.lineEdit().selectAll()
        super().keyPressEvent(event)

    def _says_nothing(self, text: str) -> bool:
        """Whether the words for nothing stand there, or nothing at all where there are such words."""
        return bool(self.specialValueText()) and (text == self.specialValueText() or not self.bare(text))

    def validate(self, text: str, position: int) -> tuple[QValidator.State, str, int]:
        if self._says_nothing(text):
            return _State.Acceptable, text, position
        return _judged(self.bare(text), self.minimum(), self.maximum()), text, position

    def valueFromText(self, text: str) -> float:
        if self._says_nothing(text):
            return self.minimum()
        number = plain_number(self.bare(text))
        return self.value() if number is None else _rounded(number, self.decimals())

    def fixup(self, text: str) -> str:
        number = plain_number(self.bare(text))
        if number is None:
            return self.textFromValue(self.value())
        return self.textFromValue(max(self.minimum(), min(self.maximum(), number)))


@guarded
class CountBox(WheelNeedsFocus, QSpinBox):
    """A whole number; decimals that are typed all the same are rounded."""

    def __init__(self) -> None:
        super().__init__()
        _plainly(self)

    def validate(self, text: str, position: int) -> tuple[QValidator.State, str, int]:
        return _judged(_bare(self, text), self.minimum(), self.maximum()), text, position

    def valueFromText(self, text: str) -> int:
        number = plain_number(_bare(self, text))
        return self.value() if number is None else int(_rounded(number, 0))

    def fixup(self, text: str) -> str:
        number = plain_number(_bare(self, text))
        if number is None:
            return self.textFromValue(self.value())
        return self.textFromValue(max(self.minimum(), min(self.maximum(), int(_rounded(number, 0)))))
