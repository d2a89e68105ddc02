"""What a black-and-white photo allows: the project's schemes ranked by its greys."""

from __future__ import annotations

from collections.abc import Iterator

from lean_sepia.answers.evidence import rank_project_schemes
from lean_sepia.colour.film import Emulsion, LensFilter
from lean_sepia.document.edits.zones import set_schemes
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.photo.grey_evidence import SchemeFit, what_greys_tell
from lean_sepia.ui.evidence.schemes_dialog import SchemesDialog
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import Panel, button, label, row, rule
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.photo.seen_photo import Seen
from lean_sepia.ui.shell.session import Session

_SHOWN = 4


class GreysPanel(Panel):
    """Film and filter to choose, a ranking, and plain words on what it can and cannot tell."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.set_caption(_("What the greys allow"))
        self._session = session
        self._seen: Seen | None = None
        self.emulsion, self.filter = ChoiceBox(), ChoiceBox()
        emulsions: tuple[tuple[str, Emulsion], ...] = (
            (_("orthochromatic"), "ortho"), (_("blue-sensitive"), "blue"), (_("panchromatic"), "pan"),
        )  # fmt: skip
        filters: tuple[tuple[str, LensFilter], ...] = (
            (_("no filter"), "none"), (_("yellow"), "yellow"), (_("orange"), "orange"), (_("red"), "red"),
        )  # fmt: skip
        for box, entries, name in (
            (self.emulsion, emulsions, _("Kind of film")), (self.filter, filters, _("Filter on the lens")),
        ):  # fmt: skip
            for words, key in entries:
                box.addItem(words, key)
            box.setAccessibleName(name)
            box.currentIndexChanged.connect(lambda _i: self._rank())
        line = row(self.emulsion, self.filter, spacing=5)
        line.setStretch(0, 1)
        self.add(line)
        self._list = Rows(spacing=3)
        self.add(self._list)
        self._words = label("", "second", wrap=True)
        self.add(self._words)
        schemes = button(_("Schemes…"), "tool", _("Liveries to compare, with the colour of each zone"))
        schemes.clicked.connect(self._edit_schemes)
        self.add(row(schemes, None))
        self.ranked: list[SchemeFit] = []

    def show_greys(self, seen: Seen | None) -> None:
        """Rank for a photo; hidden for any that is not black and white."""
        self._seen = seen
        self.setVisible(seen is not None and seen.photo.tones == "black-and-white")
        self._rank()

    def _edit_schemes(self) -> None:
        dialog = SchemesDialog(self._session.project, self)
        if dialog.exec():
            schemes = dialog.schemes()
            self._session.edit(_("Schemes"), lambda p: set_schemes(p, schemes))

    def _rank(self) -> None:
        self._list.fill(())
        self.ranked = []
        if self._seen is None or self._seen.photo.tones != "black-and-white":
            return
        try:
            self.ranked = rank_project_schemes(
                self._session.project, self._seen.photo, self._seen.picture.pixels, self.emulsion.currentData(),
                self.filter.currentData(),
            )  # fmt: skip
        except SepiaError as error:
            self._words.setText(str(error))
            return
        self._list.fill(self._fit_rows())
        said = [words for code, words in what_greys_tell(self.ranked) if code != "contradicted"]
        self._words.setText(". ".join(word[:1].upper() + word[1:] for word in said) + ".")

    def _fit_rows(self) -> Iterator[Item]:
        for fit in self.ranked[:_SHOWN]:
            figure = label(_("{0} L* off").format(f"{fit.rms_lightness:.1f}"), "second")
            yield row(label(fit.scheme, "strong" if fit is self.ranked[0] else ""), None, figure)
            yield rule()
