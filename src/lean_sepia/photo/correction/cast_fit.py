"""Fitting the correction of a picture to its anchors: what they are read to say, weighed (`weighing`), and doubted (`doubts`)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lean_sepia.photo.correction.cast import Anchor, Cast
from lean_sepia.photo.correction.doubts import doubts
from lean_sepia.photo.correction.shown_colours import shown_colours
from lean_sepia.photo.correction.weighing import fitted, known_from
from lean_sepia.photo.patch import Patch, disc_patch
from lean_sepia.photo.read import Pixels
from lean_sepia.photo.stated.picture_kind import PictureKind

_FIRST_IN = 2  # of so many developments one is looked at for a first answer


def fit_cast(
    pixels: Pixels,
    anchors: Sequence[Anchor],
    kind: PictureKind = "unknown",
    beside: Sequence[tuple[Pixels, Sequence[Anchor]]] = (),
    *,
    first: bool = False,
) -> Cast:
    """Fit the correction to the anchors on a picture; none leaves the picture as found.

    kind : what kind of picture it is stated to be
    beside : further pictures of the same camera or the same scan, with their anchors: they share how it was developed
    first : whether it is to be there soon: from fewer developments, its anchors not held out and doubted

    Raises
    ------
    SampleError
        An anchor lies outside its picture.
    """
    patches = _read(pixels, anchors)
    others = [
        known_from(theirs, _read(other, theirs), shown_colours(other)) for other, theirs in beside if theirs
    ]
    if not anchors and not others:
        return Cast(kind=kind)
    known = known_from(anchors, patches, shown_colours(pixels)) if anchors else None
    if first:
        return replace(fitted(known, others, kind, one_in=_FIRST_IN), first=True)
    cast = fitted(known, others, kind)
    return doubts(cast, anchors, patches, known) if known is not None else cast


def _read(pixels: Pixels, anchors: Sequence[Anchor]) -> list[Patch]:
    """The discs of anchors."""
    return [disc_patch(pixels, anchor.x, anchor.y, anchor.radius) for anchor in anchors]
