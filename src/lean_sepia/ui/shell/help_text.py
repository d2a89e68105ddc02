"""What F1 says in each room."""

from __future__ import annotations

from lean_sepia.language import N_, _

_TEXTS = {
    "evidence": N_(
        "Evidence: colours from photos.\n\n"
        "1. Mark something known: a grey card, white lettering. The cast is taken out.\n"
        "2. Choose a zone at the left and a role, then click its paint in the photo.\n"
        "Each sample says within how much the true colour lies, 9 times in 10.\n\n"
        "With the photo in focus: L look, S sample, N known grey, K known colour, C chart, A area, T straighten; "
        "plus and minus zoom, 0 fits, arrows move, Return places, Esc leaves the tool."
    ),
    "match": N_(
        "Match: a recipe from your own shelf.\n\n"
        "The two fields that touch are the target and the recipe, under the final varnish. "
        "Choose a card and pin it to the zone; drops are counted for the amount you want to mix. Drag drops into a card and out of it, "
        "or use plus and minus; the chip of a paint opens what can be done with its bottle."
    ),
    "tone": N_(
        "Tone: the faded colour.\n\n"
        "Each row takes the base in steps to its faded colour with another lightener. "
        "The figure is the remaining difference; the words say when the hue turns, as red does to pink."
    ),
    "glaze": N_(
        "Glaze: one thin tint over several zones.\n\n"
        "In each field: before, after, what the photo shows. The best filter lowers the mean of all zones."
    ),
    "wear": N_(
        "Wear: how much, how large.\n\n"
        "Trace a part of the zone on the photo, point at sound paint and at each kind of wear, say how long a pixel is, and measure. "
        "Below, the photo and the plan lie edge to edge: draw the slider to how heavy you want it. "
        "As planned shows the whole zone: click where it is trodden or wet, say what is worn, then lay it. "
        "On the model measures your own work and says what is off. "
        "What is too small to be seen at your scale becomes a tint."
    ),
    "plan": N_(
        "Plan: the order of work.\n\n"
        "Each evening is a sheet with its steps; dashed threads are what dries, brackets what is masked. "
        "Arrows choose a step, Ctrl and arrows or dragging move it, Enter opens it, Delete removes it. "
        "What was found can be mended, or kept with a reason."
    ),
    "bench": N_(
        "Bench: one step at a time.\n\n"
        "Space or Page Down marks the step as done, starts its clocks and shows the next; Page Up goes back. "
        "Clocks run on while the program is closed. Print the card to work from paper."
    ),
    "shelf": N_(
        "Shelf: the paints you own.\n\n"
        "Measure a whole shelf from one photo of a painted card, or import a shelf file. Left field: a thin coat over white and over black; right: opaque."
    ),
}


def help_for(room: str) -> str:
    """What a room is for, and its keys."""
    return _(_TEXTS[room])
