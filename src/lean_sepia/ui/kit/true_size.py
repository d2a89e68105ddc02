"""How many pixels of this screen make a millimetre: as the screen says, or as the user measured with a ruler."""

from __future__ import annotations

from PySide6.QtWidgets import QApplication, QWidget

LEAST, MOST = 1.5, 40.0
_MEASURED = "pixelsPerMillimetre"
_USUAL = 96 / 25.4


def measured_px_per_mm() -> float | None:
    """What the user measured; None before that."""
    app = QApplication.instance()
    value = app.property(_MEASURED) if app else None
    return float(value) if isinstance(value, (int, float)) else None


def remember_px_per_mm(value: float | None) -> None:
    """Keep what the user measured; what no screen has is not kept."""
    app = QApplication.instance()
    if app and value is not None and LEAST <= value <= MOST:
        app.setProperty(_MEASURED, float(value))


def px_per_mm(widget: QWidget) -> float:
    """Pixels to a millimetre on the screen a widget is shown on."""
    measured = measured_px_per_mm()
    if measured is not None:
        return measured
    screen = widget.screen()
    said = float(screen.physicalDotsPerInchX()) / 25.4 if screen else _USUAL
    return said if LEAST <= said <= MOST else _USUAL
