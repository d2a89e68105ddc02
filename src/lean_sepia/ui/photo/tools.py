"""What a hand can do on a photo, and the keys for it."""

from __future__ import annotations

from typing import Literal

from PySide6.QtCore import Qt

from lean_sepia.ui.photo.marks import Shape

Tool = Literal[
    "look", "sample", "polygon", "brush", "grey", "known", "chart", "region", "feature", "length", "area", "straighten"
]  # fmt: skip
TOOL_KEYS: dict[int, Tool] = {
    Qt.Key.Key_L: "look", Qt.Key.Key_S: "sample", Qt.Key.Key_N: "grey", Qt.Key.Key_K: "known", Qt.Key.Key_C: "chart",
    Qt.Key.Key_R: "region", Qt.Key.Key_A: "area", Qt.Key.Key_T: "straighten", Qt.Key.Key_P: "polygon", Qt.Key.Key_B: "brush",
}  # fmt: skip
FOUR_CORNERS: tuple[Tool, ...] = ("chart", "straighten")
BY_CORNERS: tuple[Tool, ...] = ("polygon", "area", *FOUR_CORNERS)
BY_DRAGGING: tuple[Tool, ...] = ("region", "length")
CURSORS: dict[Tool, Shape] = {"sample": "circle", "brush": "circle", "feature": "diamond"}
