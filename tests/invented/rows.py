"""A medium and a kind that nobody has: each one row, as somebody would add them to the tables."""

from lean_sepia.paint.handling.undo import Undo
from lean_sepia.paint.media import Bite, Medium
from lean_sepia.plan.traits.kind import Kind
from lean_sepia.plan.traits.said import Look, Pause, Phase, Preset

INK, VEIL = "drawing-ink", "ink-veil"

INK_ROW = {
    "words": "drawing ink",
    "carrier": "water",
    "stirs_with": frozenset({INK, "acrylic-water"}),
    "hides_coats": 10,
    "dries": "quick",
    "full_cure_min": 45,
    "over_itself_min": 7,
    "workable_min": 3,
    "softens_after_min": 0,
    "bitten_by": {
        "alcohol": Bite("warn", "makes it run"),
        "white-spirit": None,
        "lacquer-thinner": Bite("stop", "takes it off"),
    },
    "coat_undone": (Undo(None, "Scrub the ink off with alcohol."),),
    "glaze_undone": (Undo(2, "Blot the ink."), Undo(None, "Lift the ink with alcohol.", False)),
    "varnish_undone": (Undo(None, "Ink is no varnish.", False),),
    "cleaned": "Rinse the pen.",
    "disposed": "Dry the ink out.",
    "said": ("india ink",),
}
VEIL_ROW = {
    "title": "Ink veil",
    "family": "glaze",
    "covers": "tint",
    "hands_on_min": 12,
    "room": "glaze",
    "tools": ("glaze", "brush"),
    "medium": INK,
    "stage": "seen",
    "phase": Phase.FILTERING,
    "cloths": True,
    "masks": False,
    "looks": (Look(9, "Is the veil even?"),),
    "sets_min": 55,
    "over_itself": Pause(4, "veil before the next veil"),
    "served_by": ("wipe-back",),
    "undone": None,
    "next": "chips",
    "wet": True,
    "usual": Preset(2, 0.9),
    "heed": ("Ink stains hands.",),
    "ready": ("Shake the ink.",),
}
INK_RECORD = {
    "id": "ink", "name": "Sepia ink", "line": "Kveldra", "medium": INK, "finish": "flat", "lab": [22.0, 9.0, 14.0],
}  # fmt: skip


def ink() -> Medium:
    """The row of the medium."""
    return Medium(**INK_ROW)


def veil() -> Kind:
    """The row of the kind."""
    return Kind(**VEIL_ROW)
