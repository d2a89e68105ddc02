"""The decoded pictures of an open project, shared by the jobs that ask for them."""

from __future__ import annotations

import threading
from collections import OrderedDict

from lean_sepia.document.model import Photo
from lean_sepia.document.store import ProjectStore
from lean_sepia.photo.pyramid import Pyramid, build_pyramid
from lean_sepia.photo.read import Picture, decode_picture

_KEPT = 4


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
                picture = decode_picture(self.bytes_of(photo), photo.name)
                while len(self._pictures) >= _KEPT:
                    oldest, _picture = self._pictures.popitem(last=False)
                    self._pyramids.pop(oldest, None)
                self._pictures[photo.sha256] = picture
            self._pictures.move_to_end(photo.sha256)
            return self._pictures[photo.sha256]

    def pyramid(self, photo: Photo) -> Pyramid:
        """The picture in halves. May take a while: call it in a job."""
        with self._lock:
            if photo.sha256 not in self._pyramids:
                self._pyramids[photo.sha256] = build_pyramid(self.picture(photo).pixels)
            return self._pyramids[photo.sha256]
