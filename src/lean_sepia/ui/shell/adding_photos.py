"""Photos that are dropped, chosen or pasted: read one after another in the background, each an edit of its own."""

from __future__ import annotations

import io
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path

from PIL import Image
from PySide6.QtCore import QMimeData, QObject, Signal
from PySide6.QtGui import QImage

from lean_sepia.document.edits.items import fresh_id
from lean_sepia.document.edits.photos import add_photo
from lean_sepia.document.model import Photo, Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import JobCancelled, PictureError, SepiaError
from lean_sepia.files.gate import MOST_PICTURE, read_bytes, shown
from lean_sepia.language import _
from lean_sepia.photo.read import Picture, decode_picture
from lean_sepia.ui.kit.job import Job, Progress
from lean_sepia.ui.photo.pictures import Pictures
from lean_sepia.ui.shell.session import Session

_ENCODED = ("image/png", "image/jpeg", "image/tiff", "image/webp", "image/bmp")
_ABOUT = "photos"
_ROWS_AT_ONCE = 128  # of a pasted picture, so that the window answers in between


@dataclass(frozen=True, eq=False)
class ReadPhoto:
    """A photo that was read: what it is called, its picture, and the file."""

    name: str
    picture: Picture
    data: bytes


def read_photo(path: str) -> ReadPhoto:
    """Read a picture file; runs in a job.

    Raises
    ------
    PictureError
        It is none.
    """
    data = read_bytes(path, _("The picture"), PictureError, MOST_PICTURE)
    called = shown(Path(path).name)
    return ReadPhoto(called, decode_picture(data, called), data)


def has_picture(mime: QMimeData) -> bool:
    """Whether what is dropped or pasted may hold pictures."""
    return mime.hasUrls() or mime.hasImage()


def files_in(mime: QMimeData) -> list[str]:
    """The files on this machine among what is dropped or pasted."""
    return [url.toLocalFile() for url in mime.urls() if url.isLocalFile()]


def _image_in(mime: QMimeData) -> Callable[[], bytes] | None:
    """How a picture that comes without a file becomes one, in a job: as it was encoded where that is offered."""
    for form in _ENCODED:
        if mime.hasFormat(form) and not (data := mime.data(form)).isEmpty():
            written = bytes(data.data())
            return lambda: written
    image = mime.imageData()
    if not isinstance(image, QImage) or image.isNull():
        return None
    return lambda: _png_of(image)


def _png_of(image: QImage) -> bytes:
    """A picture as a PNG file. Qt's own writer would hold the interpreter, and with it the window, for many seconds."""
    if image.format() not in (QImage.Format.Format_RGB32, QImage.Format.Format_ARGB32):
        image = image.convertToFormat(QImage.Format.Format_ARGB32)
    form = ("RGB", "BGRX") if image.format() == QImage.Format.Format_RGB32 else ("RGBA", "BGRA")
    width, height, stride, bits = image.width(), image.height(), image.bytesPerLine(), image.constBits()
    picture = Image.new(form[0], (width, height))
    for top in range(0, height, _ROWS_AT_ONCE):
        rows = min(_ROWS_AT_ONCE, height - top)
        band = bytes(bits[top * stride : (top + rows) * stride])
        picture.paste(Image.frombytes(form[0], (width, rows), band, "raw", form[1], stride), (0, top))
    out = io.BytesIO()
    picture.save(out, "PNG", compress_level=1)
    return out.getvalue()


class PhotoAdding(QObject):
    """Adds photos to the open project, in the order they were given; `begun` gets each job and what it does, `added` their first."""

    begun = Signal(object, str)
    added = Signal()

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session = session

    def add_files(self, names: Sequence[str]) -> None:
        """Read picture files and add each as an edit; what is none is told."""
        together = _Together(len(names))
        for place, name in enumerate(names, start=1):
            words = _("Reading photo {0} of {1}").format(place, len(names)) if len(names) > 1 else ""
            self._add(partial(read_photo, name), words, together)

    def add_read(self, photo: ReadPhoto) -> None:
        """Add a photo that was read already."""
        self._add(lambda: photo, "", _Together())

    def add_from(self, mime: QMimeData) -> bool:
        """Add the pictures that were dropped or pasted; False where there are none."""
        if names := files_in(mime):
            self.add_files(names)
            return True
        image = _image_in(mime)
        if image is None:
            return False
        name = _("Pasted {0}.png").format(len(self._session.project.photos) + 1)

        def read() -> ReadPhoto:
            data = image()
            return ReadPhoto(name, decode_picture(data, name), data)

        self._add(read, _("Reading the picture"), _Together())
        return True

    def _add(self, read: Callable[[], ReadPhoto], words: str, together: _Together) -> None:
        session = self._session
        work = partial(_read_and_stored, read, session.store, session.pictures)

        def begun(job: Job) -> None:
            if words:
                self.begun.emit(job, words)

        session.jobs.act(_ABOUT, lambda: work, partial(self._put, together), begun)

    def _put(self, together: _Together, answer: _Stored | SepiaError) -> None:
        together.left -= 1
        if isinstance(answer, SepiaError):
            together.refused.append(str(answer))
        else:
            self._put_photo(answer)
        if not together.left and together.refused:
            self._session.refused.emit(" ".join(dict.fromkeys(together.refused)))

    def _put_photo(self, stored: _Stored) -> None:
        session, name, picture = self._session, stored.name, stored.picture
        if stored.mended and any(known.sha256 == picture.sha256 for known in session.project.photos):
            session.changed.emit()
            session.settled.emit()
            session.refused.emit(_("{0} was damaged in the project and is whole again.").format(name))
        elif session.edit(_("Add photo {0}").format(name), lambda p: _with_photo(p, name, picture)):
            self.added.emit()


@dataclass(frozen=True, eq=False)
class _Stored:
    """A photo whose file is in the project; `mended` where what was there was damaged."""

    name: str
    picture: Picture
    mended: bool


@dataclass
class _Together:
    """Photos that came together: how many are to be read yet, and what is told of them at the end."""

    left: int = 1
    refused: list[str] = field(default_factory=list)


def _read_and_stored(
    read: Callable[[], ReadPhoto], store: ProjectStore, pictures: Pictures, progress: Progress
) -> _Stored | SepiaError:
    """Read a photo and put its file into the project; runs in a job."""
    try:
        photo = read()
        progress(0.8)
        picture = photo.picture
        mended = store.add_photo(picture.sha256, picture.media_type, photo.name, photo.data)
    except JobCancelled:
        raise
    except SepiaError as error:
        return error
    pictures.keep(picture, anew=mended)
    return _Stored(photo.name, picture, mended)


def _with_photo(project: Project, name: str, picture: Picture) -> Project:
    photo = Photo(
        id=fresh_id(project.photos, "f"), sha256=picture.sha256, name=name, title=Path(name).stem,
        width=picture.width, height=picture.height, date=picture.taken or "", notes=picture.notes,
    )  # fmt: skip
    return add_photo(project, photo)
