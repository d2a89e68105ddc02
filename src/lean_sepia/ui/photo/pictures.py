"""The decoded pictures of an open project, shared by the jobs that ask for them."""

from __future__ import annotations

import threading
from collections import OrderedDict

from lean_sepia.document.model import Photo
from lean_sepia.document.store import ProjectStore
from lean_sepia.photo.pyramid import Pyramid, build_pyramid
from lean_sepia.photo.read import Picture, decode_picture

_KEPT, _KEPT_BYTES = 4, 600 << 20


class Pictures:
    """Keeps the last few pictures and their pyramids. Any thread may ask; who asks while another decodes waits for it."""

    def __init__(self, store: ProjectStore) -> None:
        self._store = store
        self._lock = threading.RLock()
        self._pictures: OrderedDict[str, Picture] = OrderedDict()
        self._pyramids: dict[str, Pyramid] = {}

    def has(self, photo: Photo) -> bool:
        """Whether the decoded picture of a photo is in memory."""
        return photo.sha256 in self._pictures

    def bytes_of(self, photo: Photo) -> bytes:
        """The stored file of a photo."""
        return self._store.photo(photo.sha256)

    def picture(self, photo: Photo) -> Picture:
        """The decoded picture of a photo. May take a while: call it in a job."""
        with self._lock:
            if photo.sha256 not in self._pictures:
                self.keep(decode_picture(self.bytes_of(photo), photo.name))
            self._pictures.move_to_end(photo.sha256)
            return self._pictures[photo.sha256]

    def keep(self, picture: Picture, *, anew: bool = False) -> None:
        """Keep a picture that was decoded already, until a few others are asked for; `anew` in place of a damaged one."""
        with self._lock:
            if anew:
                self._pictures.pop(picture.sha256, None)
                self._pyramids.pop(picture.sha256, None)
            self._pictures.setdefault(picture.sha256, picture)
            self._pictures.move_to_end(picture.sha256)
            while len(self._pictures) > 1 and (
                len(self._pictures) > _KEPT
                or sum(kept.pixels.nbytes for kept in self._pictures.values()) > _KEPT_BYTES
            ):
                oldest, _picture = self._pictures.popitem(last=False)
                self._pyramids.pop(oldest, None)

    def pyramid(self, photo: Photo) -> Pyramid:
        """The picture in halves. May take a while: call it in a job."""
        with self._lock:
            if photo.sha256 not in self._pyramids:
                self._pyramids[photo.sha256] = build_pyramid(self.picture(photo).pixels)
            return self._pyramids[photo.sha256]
