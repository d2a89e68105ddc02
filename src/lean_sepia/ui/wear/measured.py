"""What was measured of the marks: their sizes as bars in millimetres of the model, and how high they sit."""

from __future__ import annotations

from lean_sepia.answers.wearing.told import size_bars
from lean_sepia.arrays import FloatArray
from lean_sepia.document.entities.worn import WearRecord
from lean_sepia.language import _
from lean_sepia.ui.kit.panel import Panel, label
from lean_sepia.ui.kit.plots.bars import HeightBars, SizeBars


class SizesPanel(Panel):
    """Bars of sizes with the line below which the eye sees nothing."""

    def __init__(self) -> None:
        super().__init__(_("Size on the model"), "mm")
        self.bars = SizeBars()
        self.words = label("", "second", wrap=True)
        self.add(self.bars)
        self.add(self.words)

    def show_nothing(self) -> None:
        """Nothing is measured yet."""
        self.words.setText("")
        self.bars.show_sizes([], [], 0)
        self.setVisible(False)

    def show_sizes(self, sizes_mm: FloatArray, record: WearRecord | None, scale: float) -> None:
        """Sizes (n,) of marks on the model in mm; nothing where none are known."""
        self.setVisible(bool(sizes_mm.size))
        if not sizes_mm.size or record is None:
            return
        limit = record.smallest_visible_mm / scale
        edges, counts = size_bars(sizes_mm, limit)
        self.bars.show_sizes(edges.tolist(), counts.tolist(), limit)
        hidden = int((sizes_mm < limit).sum())
        self.words.setVisible(hidden > 0)
        self.words.setText(
            _("Left of the line a mark cannot be seen at 30 cm: {0} of {1}.").format(hidden, sizes_mm.size)
        )


class HeightsPanel(Panel):
    """How much of each fifth of a region is worn, from above, kind by kind."""

    def __init__(self) -> None:
        super().__init__(_("By height"), _("% worn"))
        self.bars = HeightBars()
        self.add(self.bars)

    def show_record(self, record: WearRecord) -> None:
        """Show a record; nothing where it holds no heights."""
        kinds = [(one.lab, one.by_height) for one in record.classes if one.by_height]
        self.setVisible(bool(kinds))
        self.bars.show_heights(kinds)
