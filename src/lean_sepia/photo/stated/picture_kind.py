"""Kinds of picture, as a user may state them."""

from __future__ import annotations

from typing import Literal, get_args

from lean_sepia.language import N_

PictureKind = Literal["camera", "phone", "print", "slide", "developed", "undeveloped", "unknown"]
PICTURE_KINDS: tuple[PictureKind, ...] = get_args(PictureKind)
KIND_WORDS: dict[PictureKind, str] = {
    "camera": N_("camera file"), "phone": N_("phone picture"), "print": N_("scan of a print or page"),
    "slide": N_("scan of a slide"), "developed": N_("raw, developed here"), "undeveloped": N_("raw, undeveloped"),
    "unknown": N_("kind not known"),
}  # fmt: skip
