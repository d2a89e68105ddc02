"""Questions on which practice divides, and the answers each school gives; the first is taken where nothing was chosen."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.errors import EditError
from lean_sepia.language import N_, _


@dataclass(frozen=True)
class Question:
    """What is asked, and the words of each choice by its code."""

    words: str
    choices: dict[str, str]

    @property
    def usual(self) -> str:
        """The choice that is taken where nothing was chosen."""
        return next(iter(self.choices))


SCHOOLS: dict[str, Question] = {
    "decals": Question(N_("gloss before lettering"), {
        "gloss-first": N_("gloss or satin first"), "smooth": N_("none, thin smooth paint"), "on-matte": N_("on matte, strong solutions")}),
    "primer": Question(N_("primer"), {
        "prototype": N_("as the prototype"), "black": N_("black"), "white": N_("white or grey")}),
    "camouflage": Question(N_("camouflage"), {"base-first": N_("base first"), "reverse": N_("reverse, base last")}),
    "light": Question(N_("light"), {
        "post-shade": N_("post-shade"), "pre-shade": N_("pre-shade"), "none": N_("none, the wash does it")}),
    "chips": Question(N_("chips"), {
        "before-wash": N_("before the wash"), "after-wash": N_("after the wash"), "resist": N_("built in with a resist")}),
    "varnish": Question(N_("varnish between layers"), {
        "often": N_("often"), "rarely": N_("rarely"), "not-over-matte": N_("never over matte for pigment")}),
    "red-lightener": Question(N_("fade of red"), {
        "by-sample": N_("decide from samples"), "white": N_("white"), "greenish": N_("off-white leaning green")}),
    "filter-hue": Question(N_("filter hue"), {"related": N_("related hues"), "opposite": N_("opposite hues")}),
    "dots": Question(N_("oil dots"), {"blended": N_("drawn out until none is left"), "streaks": N_("left as streaks")}),
    "oil-rest": Question(N_("rest before blending"), {"none": N_("none needed"), "rest": N_("some 20 minutes")}),
    "amount": Question(N_("amount"), {
        "as-photo": N_("as heavy as the photo"), "subtle": N_("subtle"), "taste": N_("to taste")}),
    "fidelity": Question(N_("fidelity"), {
        "one": N_("one prototype"), "sisters": N_("amalgam of sisters"), "what-if": N_("what if")}),
    "scale-effect": Question(N_("scale effect"), {
        "none": N_("none"), "haze": N_("haze law"), "customary": N_("customary lightening")}),
}  # fmt: skip


def checked_school(question: str, choice: str) -> None:
    """Refuse a question or a choice that is not in the table.

    Raises
    ------
    EditError
        There is no such question, or no such choice.
    """
    if question not in SCHOOLS:
        raise EditError(
            _("Schools differ on {0}; there is no question {1!r}.").format(", ".join(SCHOOLS), question)
        )
    if choice not in SCHOOLS[question].choices:
        choices = ", ".join(SCHOOLS[question].choices)
        raise EditError(_("On {0!r} the schools are {1}; found {2!r}.").format(question, choices, choice))
