"""In which role a colour is sampled: what the place on the photo stands for."""

from __future__ import annotations

from typing import Literal, get_args

from lean_sepia.language import N_

Role = Literal[
    "base", "sheltered", "faded", "undercoat", "patch", "replaced", "rust", "dust", "soot", "early-marking", "late-marking",
]  # fmt: skip
ROLE_WORDS: dict[str, str] = {
    "base": N_("base"), "sheltered": N_("sheltered"), "faded": N_("faded"), "undercoat": N_("undercoat"), "patch": N_("patch"),
    "replaced": N_("replaced"), "rust": N_("rust"), "dust": N_("dust"), "soot": N_("soot"),
    "early-marking": N_("early marking"), "late-marking": N_("late marking"),
}  # fmt: skip
ROLES: tuple[Role, ...] = get_args(Role)
