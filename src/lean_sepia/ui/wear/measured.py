"""What was measured of the marks: their sizes as bars, which way they run, and where they sit."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QWidget

from lean_sepia.answers.wearing.told import size_bars, where_words
from lean_sepia.arrays import FloatArray
from lean_sepia.document.worn import WearRecord
from lean_sepia.language import _
from lean_sepia.ui.kit.panel import Panel, label
from lean_sepia.ui.kit.plots.bars import SizeBars


class Measured(QWidget):
    """Two panels beside each other, filled from one record."""

    def __init__(self) -> None:
        super().__init__()
        sizes = Panel(_("Size of marks on the prototype"), "mm")
        self.bars = SizeBars()
        self.size_words = label("", "second", wrap=True)
        sizes.add(self.bars, 1)
        sizes.add(self.size_words)
        where = Panel(_("Which way, and where"))
        self.where = label("", "", wrap=True)
        self.signature = label("", "second", wrap=True)
        where.add(self.where)
        where.add(self.signature)
        where.body.addStretch(1)
        both = QHBoxLayout(self)
        both.setContentsMargins(0, 0, 0, 0)
        both.setSpacing(12)
        both.addWidget(sizes, 1)
        both.addWidget(where, 1)

    def show_nothing(self) -> None:
        """Nothing is measured yet."""
        for words in (self.where, self.size_words, self.signature):
            words.setText("")
        self.bars.show_sizes([], [], 0)

    def show_record(self, record: WearRecord, sizes_mm: FloatArray, signature: str) -> None:
        """A record, the sizes (n,) of its marks, and what people know the subject by."""
        self.where.setText("\n".join(where_words(found) for found in record.classes))
        self.signature.setText(_("Signature, goes first: {0}.").format(signature) if signature else "")
        limit = record.smallest_visible_mm
        if not sizes_mm.size:
            self.bars.show_sizes([], [], limit)
            self.size_words.setText("")
            return
        edges, counts = size_bars(sizes_mm, limit)
        self.bars.show_sizes(edges.tolist(), counts.tolist(), limit)
        hidden = int((sizes_mm < limit).sum())
        if not hidden:
            words = _("{0} marks, all large enough to be seen on the model.").format(sizes_mm.size)
        else:
            words = _("{0} marks; left of the line you cannot see one on the model: {1} of them.")
            words = words.format(sizes_mm.size, hidden)
        self.size_words.setText(words)
