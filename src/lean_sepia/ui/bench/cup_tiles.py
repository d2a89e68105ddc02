"""What goes into the cup: a tile for each paint with its amount, and one for the thinner."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.answers.amounts import Cup, amount_words, cup_notes
from lean_sepia.language import _, ngettext
from lean_sepia.recipe.parts import volume_words
from lean_sepia.ui.kit.panel import Panel, label, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip, Lab

_TILES_IN_LINE = 3


class CupTiles(QWidget):
    """The first cup of a step; others are named."""

    def __init__(self) -> None:
        super().__init__()
        self.tiles = Rows(spacing=10)
        self.words = label("", "second", wrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.tiles)
        column.addWidget(self.words)

    def show_cups(self, cups: Sequence[Cup]) -> None:
        """Show what to mix; nothing where nothing is mixed."""
        self.setVisible(bool(cups))
        if not cups:
            self.tiles.fill(())
            return
        cup = cups[0]
        tiles = [_tile(amount_words(line.amount), line.name, line.lab) for line in cup.lines]
        if cup.thinner_ml > 0:
            tiles.append(_tile(volume_words(cup.thinner_ml), _("thinner")))
        self.tiles.fill(_in_lines(tiles))
        parts = " : ".join(str(line.count) for line in cup.lines)
        said = [_("parts {0}").format(parts) if len(cup.lines) > 1 else "", *cup_notes(cup)]
        more = len(cups) - 1
        if more:
            said.append(
                ngettext("{0} more cup for other zones: see the card", "{0} more cups for other zones: see the card",
                         more).format(more)
            )  # fmt: skip
        self.words.setText(" · ".join(word for word in said if word))


def _tile(figure: str, name: str, lab: Lab | None = None) -> Panel:
    """One thing that goes into the cup: how much, of what, and its colour."""
    tile = Panel(kind="raised", margin=10)
    text = QVBoxLayout()
    text.setSpacing(0)
    text.addWidget(label(figure, "figure"))
    text.addWidget(label(name, "second", wrap=True))
    inner = row(*([Chip(lab, 24, 50)] if lab else []), spacing=8)
    inner.addLayout(text, 1)
    tile.add(inner)
    return tile


def _in_lines(tiles: Sequence[QWidget]) -> Iterator[Item]:
    """Tiles in lines of at most three, as even as can be: four are two and two."""
    lines = -(-len(tiles) // _TILES_IN_LINE)
    each = -(-len(tiles) // lines)
    for start in range(0, len(tiles), each):
        line = row(*tiles[start : start + each], spacing=12)
        for place in range(line.count()):
            line.setStretch(place, 1)
        yield line
