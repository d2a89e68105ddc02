"""The sheets that may lie beside the zone column: which of them opens for what."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QStackedWidget

from lean_sepia.answers.coats.draft import Draft
from lean_sepia.document.model import Project
from lean_sepia.ui.kit.sheet import SheetPlace
from lean_sepia.ui.shell.session import Session


class Sheets(SheetPlace):
    """Sheets over the left edge of the rooms; `gap_open` says above which coat the open one lays, None for none."""

    gap_open = Signal(object)

    def __init__(self, session: Session, page: QStackedWidget) -> None:
        super().__init__(page)
        self._session = session
        self.closed.connect(lambda: self.gap_open.emit(None))

    def lay(self, kind: str, above: str | None = None) -> None:
        """A sheet to lay a coat of a kind on the chosen zone, on a coat of it or where the kind usually comes."""
        from lean_sepia.ui.coats.lay_sheet import LaySheet

        if self._session.zone:
            sheet = LaySheet(self._session, self._session.zone, kind=kind, above=above)
            self.show(sheet)
            self.gap_open.emit(above)

    def change(self, coat: str) -> None:
        """A sheet to change a coat."""
        from lean_sepia.ui.coats.lay_sheet import LaySheet

        zone = self._session.project.coat(coat).zone
        self.show(LaySheet(self._session, zone, coat=coat))

    def zone(self) -> None:
        """A sheet about the chosen zone."""
        from lean_sepia.ui.coats.zone_sheet import ZoneSheet

        if self._session.zone:
            self.show(ZoneSheet(self._session, self._session.zone))

    def zones(self) -> None:
        """A sheet to make zones in a row."""
        from lean_sepia.ui.coats.zones_sheet import ZonesSheet

        self.show(ZonesSheet(self._session))

    def cups(self) -> None:
        """A sheet of the project's cups."""
        from lean_sepia.ui.coats.cups_sheet import CupsSheet

        sheet = CupsSheet(self._session)
        sheet.lay_wanted.connect(self._lay_mix)
        self.show(sheet)

    def _lay_mix(self, words: str) -> None:
        from lean_sepia.ui.coats.lay_sheet import LaySheet

        if self._session.zone:
            sheet = LaySheet(self._session, self._session.zone, kind="base")
            sheet.lines.of.setText(words)
            self.show(sheet)

    def lay_draft(self, draft: Draft) -> None:
        """A sheet on which a coat is written already, as far as it is known."""
        from lean_sepia.ui.coats.lay_sheet import LaySheet

        if self._session.zone:
            sheet = LaySheet(self._session, self._session.zone, kind=draft.kind)
            sheet.lines.fill(draft)
            sheet.lines.changed.emit()
            self.show(sheet)

    def surface(self) -> None:
        """A sheet that makes zones one surface."""
        from lean_sepia.ui.coats.surface_sheet import SurfaceSheet

        if self._session.zone:
            self.show(SurfaceSheet(self._session, self._session.zone))

    def nearer(self) -> None:
        """What would bring the chosen zone nearer to its targets."""
        from lean_sepia.ui.coats.nearer_sheet import NearerSheet

        if self._session.zone:
            self.show(NearerSheet(self._session))

    def heaviness(self) -> None:
        """How heavy the whole model is weathered."""
        from lean_sepia.ui.coats.whole_sheet import WholeSheet

        self.show(WholeSheet(self._session))

    def finish(self, project: Project) -> None:
        """A closer look at the chosen zone as a document finishes it."""
        from lean_sepia.ui.preview.finish_sheet import FinishSheet

        if self._session.zone:
            self.show(FinishSheet(self._session, self._session.zone, project))
