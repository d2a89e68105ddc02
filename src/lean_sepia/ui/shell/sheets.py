"""The one sheet that may lie beside the zone column: opens it, keeps it in its place, closes it."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, QRect, Signal
from PySide6.QtWidgets import QStackedWidget, QWidget

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.sheet import SHEET_WIDTH, Sheet
from lean_sepia.ui.shell.session import Session

_ABOVE, _BELOW = 10, 8


@guarded
class Sheets(QObject):
    """Sheets over the left edge of the rooms, one at a time; `gap_open` says above which coat the open one lays, None for none."""

    gap_open = Signal(object)

    def __init__(self, session: Session, page: QStackedWidget) -> None:
        super().__init__(page)
        self._session, self._page = session, page
        self.open: Sheet | None = None
        page.installEventFilter(self)

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

    def surface(self) -> None:
        """A sheet that makes zones one surface."""
        from lean_sepia.ui.coats.surface_sheet import SurfaceSheet

        if self._session.zone:
            self.show(SurfaceSheet(self._session, self._session.zone))

    def show(self, sheet: Sheet) -> None:
        """Show a sheet in place of the one that is open."""
        self.close()
        self.open = sheet
        sheet.setParent(self._page)
        sheet.left.connect(self.close)
        self._place()
        sheet.show()
        sheet.raise_()
        first = sheet.nextInFocusChain()
        (first if isinstance(first, QWidget) else sheet).setFocus()

    def close(self) -> None:
        """Put the open sheet away; nothing of it is kept."""
        if self.open is not None:
            sheet, self.open = self.open, None
            sheet.hide()
            sheet.deleteLater()
            self.gap_open.emit(None)

    def _place(self) -> None:
        if self.open is not None:
            height = self._page.height() - _ABOVE - _BELOW
            self.open.setGeometry(QRect(0, _ABOVE, SHEET_WIDTH, height))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if watched is self._page and event.type() == QEvent.Type.Resize:
            self._place()
        return False
