"""Buttons that take up the tools of a photo: any number of rows may stand where their tools belong, and only one tool is taken up."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PySide6.QtWidgets import QPushButton, QWidget

from lean_sepia.ui.kit.fields.flow import Flow
from lean_sepia.ui.kit.panel import button
from lean_sepia.ui.photo.tools import Tool
from lean_sepia.ui.photo.viewer import PhotoViewer


class ToolRow(QWidget):
    """A button for each tool, with its words and a hint; what else is given stands behind them."""

    def __init__(
        self, viewer: PhotoViewer, tools: Sequence[tuple[Tool, str, str]], *others: QWidget, spacing: int = 5
    ) -> None:
        super().__init__()
        self.buttons: dict[Tool, QPushButton] = {}
        for tool, words, tip in tools:
            choice = self.buttons[tool] = button(words, "tool", tip)
            choice.setCheckable(True)
            choice.clicked.connect(partial(self._take, tool))
        self._viewer = viewer
        self.setLayout(Flow(*self.buttons.values(), *others, spacing=spacing))
        viewer.tool_changed.connect(self._show)
        self._show(viewer.tool)

    def _take(self, tool: Tool, _checked: bool = False) -> None:
        self._viewer.set_tool(tool)

    def _show(self, taken: str) -> None:
        for tool, choice in self.buttons.items():
            choice.setChecked(tool == taken)
