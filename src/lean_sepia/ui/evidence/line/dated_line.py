"""The dated line: every photo hung at its date above the years, with the liveries worn in them, and a way to add more."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QWidget

from lean_sepia.answers.rooms.evidence import contradiction
from lean_sepia.document.model import Photo, Project
from lean_sepia.language import _
from lean_sepia.photo.read import shrunk
from lean_sepia.ui.evidence.line.hung_photo import HEIGHT, WIDTH, HungPhoto
from lean_sepia.ui.evidence.line.years import Span, hung, liveries, said_date, span_of, years_shown
from lean_sepia.ui.kit.dialogs.file_filters import pictures
from lean_sepia.ui.kit.dialogs.files import ask_files
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import button, scrolled
from lean_sepia.ui.kit.theme import HAIRLINE, RAISED, SECOND, TEXT, font
from lean_sepia.ui.photo.pictures import Pictures
from lean_sepia.ui.photo.screen_image import to_image
from lean_sepia.ui.shell.session import Session

_THUMB_SIDE = 280
_LEADER, _BAR, _AXIS, _ADD_WIDTH = 14, 16, 18, 104
_LEAST_WORDS = 34.0  # px of a livery's bar below which it has no name on it
_LINE_HEIGHT = HEIGHT + _LEADER + _BAR + _AXIS
_GUTTER = 8


@guarded
class _Line(QWidget):
    """The years, the liveries in them, and the leaders from the photos to their dates."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(_LINE_HEIGHT)
        self.cards: list[HungPhoto] = []
        self.spans: list[Span] = []
        self.shown: tuple[int, int] | None = None

    def place(self) -> None:
        """Hang the photos for the width there is."""
        dated = [card for card in self.cards if self._date_of(card) is not None]
        rest = [card for card in self.cards if self._date_of(card) is None]
        for card, left in zip(
            dated,
            hung([self._middle(card) for card in dated], WIDTH, self._dated_room(len(rest))),
            strict=True,
        ):
            card.move(round(left), 0)
        begin = max([self._dated_room(len(rest)), *(card.x() + WIDTH for card in dated)]) if rest else 0
        for number, card in enumerate(rest):
            card.move(round(begin + number * WIDTH), 0)
        self.update()

    def least_width(self) -> int:
        """What all photos side by side need."""
        return len(self.cards) * WIDTH + 2 * _GUTTER

    def _dated_room(self, beside: int) -> float:
        return self.width() - beside * WIDTH

    def _date_of(self, card: HungPhoto) -> tuple[float, float] | None:
        """The span of a photo's date where it is on the line."""
        span = None if card.photo.of_model else span_of(card.photo.date)
        if span is None or self.shown is None or span[1] < self.shown[0] or span[0] > self.shown[1] + 1:
            return None
        return span

    def _middle(self, card: HungPhoto) -> float:
        span = self._date_of(card)
        return self._x(sum(span) / 2) if span else 0.0

    def _x(self, year: float) -> float:
        if self.shown is None:
            return 0.0
        first, last = self.shown
        room = self._dated_room(sum(self._date_of(card) is None for card in self.cards)) - 2 * _GUTTER
        return _GUTTER + (year - first) / (last - first) * room

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.place()

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self.shown is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._draw_years(painter)
        self._draw_liveries(painter)
        self._draw_leaders(painter)

    def _draw_years(self, painter: QPainter) -> None:
        assert self.shown is not None
        first, last = self.shown
        y = HEIGHT + _LEADER + _BAR
        painter.setPen(QPen(self.palette().color(TEXT), 1))
        painter.drawLine(round(self._x(first)), y, round(self._x(last)), y)
        painter.setFont(font(11))
        step = next(
            (step for step in (1, 2, 5, 10, 20, 50) if (last - first) / step <= max(2.0, self.width() / 70)),
            100,
        )
        for year in range(first + (-first) % step, last + 1, step):
            x = self._x(year)
            painter.setPen(QPen(self.palette().color(TEXT), 1))
            painter.drawLine(round(x), y, round(x), y + 4)
            box = QRectF(x - 22, y + 4, 44, 14)
            box.moveLeft(min(max(box.left(), 0.0), self.width() - box.width()))
            painter.setPen(self.palette().color(SECOND))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(year))

    def _draw_liveries(self, painter: QPainter) -> None:
        y = HEIGHT + _LEADER
        painter.setFont(font(11))
        begins = sorted(self._x(span.begin) for span in self.spans)
        for span in self.spans:
            left, right = self._x(span.begin), self._x(span.end)
            until = min([right, *(begin for begin in begins if begin > left)])  # the next one lies over it
            bar = QRectF(left, y, max(2.0, right - left), _BAR - 2)
            painter.fillRect(bar, self.palette().color(RAISED))
            painter.setPen(QPen(self.palette().color(HAIRLINE), 1))
            painter.drawRect(bar)
            if until - left < _LEAST_WORDS:
                continue
            words = painter.fontMetrics().elidedText(
                span.name, Qt.TextElideMode.ElideRight, int(until - left - 8)
            )
            painter.setPen(self.palette().color(SECOND))
            painter.drawText(bar.adjusted(4, 0, -4, 0), Qt.AlignmentFlag.AlignVCenter, words)

    def _draw_leaders(self, painter: QPainter) -> None:
        y = HEIGHT + _LEADER + _BAR
        for card in self.cards:
            span = self._date_of(card)
            if span is None:
                continue
            begin, end = self._x(span[0]), self._x(span[1])
            painter.setPen(QPen(self.palette().color(TEXT), 1))
            painter.drawLine(round(card.x() + WIDTH / 2), HEIGHT, round((begin + end) / 2), y - 2)
            painter.fillRect(QRectF(begin, y - 2, max(3.0, end - begin), 4), self.palette().color(TEXT))


@guarded
class DatedLine(QWidget):
    """The line with its photos; small pictures are made in the background, once."""

    chosen = Signal(str)
    photos_wanted = Signal(list)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shown: object = None
        self._line = _Line()
        self._scroll = scrolled(self._line, sideways=True)
        self._add = button(_("Add photos…"), "tool", _("Or drop them anywhere in the window"))
        self._add.setFixedWidth(_ADD_WIDTH)
        self._add.clicked.connect(lambda _checked=False: self._ask_photos())
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(8)
        layout.addWidget(self._scroll, 1)
        layout.addWidget(self._add, 0, Qt.AlignmentFlag.AlignVCenter)
        self.setFixedHeight(_LINE_HEIGHT + 2)

    def show_photos(self, current: str) -> None:
        """Show the document's photos, the current one marked."""
        project = self._session.project
        states = [
            (photo, said_date(photo.date) or photo.title, _status(project, photo), photo.id == current)
            for photo in project.photos
        ]
        spans = liveries(project)
        if (states, spans) == self._shown:
            return
        self._shown = (states, spans)
        for card in self._line.cards:
            card.setParent(None)
            card.deleteLater()
        states.sort(key=lambda state: (span_of(state[0].date) or (9999.0, 9999.0), state[0].title))
        self._line.cards = [HungPhoto(*state, self._line) for state in states]
        self._line.spans = spans
        self._line.shown = years_shown(project.photos, spans)
        self._line.setMinimumWidth(self._line.least_width())
        self._make_room()
        for card in self._line.cards:
            card.image = _THUMBS.get(card.photo.sha256)
            card.chosen.connect(self.chosen)
            card.show()
        self._line.place()
        self._make_thumbs([card.photo for card in self._line.cards if card.image is None])

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._make_room()

    def _make_room(self) -> None:
        """Where the line scrolls, its bar lies below the years and not on them."""
        room = self.width() - _ADD_WIDTH - 8
        bar = (
            self._scroll.horizontalScrollBar().sizeHint().height() if self._line.minimumWidth() > room else 0
        )
        self.setFixedHeight(_LINE_HEIGHT + 2 + bar)

    def _make_thumbs(self, missing: Sequence[Photo]) -> None:
        if missing:
            store = self._session.pictures
            self._session.jobs.start(
                "thumbs", lambda _progress: _thumbs(store, tuple(missing)), self._thumbs_made
            )

    def _thumbs_made(self, thumbs: dict[str, QImage]) -> None:
        _THUMBS.update(thumbs)
        while len(_THUMBS) > _MOST_THUMBS:
            _THUMBS.pop(next(iter(_THUMBS)))
        for card in self._line.cards:
            card.image = _THUMBS.get(card.photo.sha256)
            card.update()

    def _ask_photos(self) -> None:
        names = ask_files(self, _("Photos"), pictures())
        if names:
            self.photos_wanted.emit(names)


_THUMBS: dict[str, QImage] = {}
"""Small pictures by content, kept for photos that are returned to; only the interface thread writes here."""
_MOST_THUMBS = 400


def _status(project: Project, photo: Photo) -> str:
    """One word on a photo: whether the years contradict it, how sure it is, or that it is of the model."""
    if any(contradiction(photo, subject) for subject in project.subjects):
        return _("contradicted")
    if photo.of_model:
        return _("the model")
    used = photo.id in {sample.photo for sample in project.samples}
    trust = {"sure": _("sure"), "likely": _("likely"), "doubtful": _("doubtful")}.get(photo.trust, "")
    words = (trust, _("in use") if used else "")
    return " · ".join(word for word in words if word) or (photo.process or photo.title)


def _thumbs(store: Pictures, photos: tuple[Photo, ...]) -> dict[str, QImage]:
    """Small pictures by content; runs in a job."""
    return {photo.sha256: to_image(shrunk(store.picture(photo).pixels, _THUMB_SIDE)) for photo in photos}
