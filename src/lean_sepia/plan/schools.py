"""Questions on which practice divides, and the answers each school gives; the first is taken where nothing was chosen."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.errors import EditError
from lean_sepia.language import N_, _


@dataclass(frozen=True)
class Choice:
    """One school's answer, and why it is given."""

    words: str
    reason: str


@dataclass(frozen=True)
class Question:
    """What is asked, and the choices by their codes."""

    words: str
    choices: dict[str, Choice]

    @property
    def usual(self) -> str:
        """The choice that is taken where nothing was chosen."""
        return next(iter(self.choices))


SCHOOLS: dict[str, Question] = {
    "decals": Question(N_("gloss before lettering"), {
        "gloss-first": Choice(N_("gloss or satin first"), N_("No silvering, and a wash runs on it; costs a coat and its wait.")),
        "smooth": Choice(N_("none, thin smooth paint"), N_("Thin smooth paint and setting solutions hold the film; saves a wait.")),
        "on-matte": Choice(N_("on matte, strong solutions"), N_("Strong solutions draw the film in; what stays visible is matted afterwards."))}),
    "primer": Question(N_("primer"), {
        "prototype": Choice(N_("as the prototype"), N_("Its colour keeps the coat above warm, and shows truly where it wears through.")),
        "black": Choice(N_("black"), N_("Shadows are there from the start, and unlike materials become one; it greys what is thin.")),
        "white": Choice(N_("white or grey"), N_("Thin bright colours stay bright."))}),
    "camouflage": Question(N_("camouflage"), {
        "base-first": Choice(N_("base first"), N_("Each tone is seen against the one below while it is laid.")),
        "reverse": Choice(N_("reverse, base last"), N_("Less to mask where the base is large; the tones are shaded without seeing the whole."))}),
    "light": Question(N_("light"), {
        "post-shade": Choice(N_("post-shade"), N_("Very thin light paint over the finished coat, as much as is wanted.")),
        "pre-shade": Choice(N_("pre-shade"), N_("Shadows lie under the coat and show through it; nothing more to match.")),
        "none": Choice(N_("none, the wash does it"), N_("The wash darkens the recesses; the surface stays even."))}),
    "chips": Question(N_("chips"), {
        "before-wash": Choice(N_("before the wash"), N_("The wash tones them and ties them in.")),
        "after-wash": Choice(N_("after the wash"), N_("They stay bright and sharp.")),
        "resist": Choice(N_("built in with a resist"), N_("Real edges of real layers; what is rubbed off cannot be put back."))}),
    "varnish": Question(N_("varnish between layers"), {
        "often": Choice(N_("often"), N_("Every layer can be wiped without reaching the one below; each costs a wait.")),
        "rarely": Choice(N_("rarely"), N_("Fewer films, finer detail; what goes wrong goes deeper.")),
        "not-over-matte": Choice(N_("never over matte for pigment"), N_("Pigment holds on matte and vanishes under a varnish."))}),
    "red-lightener": Question(N_("fade of red"), {
        "by-sample": Choice(N_("decide from samples"), N_("The sheltered and the faded paint of the photo say where the red went.")),
        "white": Choice(N_("white"), N_("Faded red is pink.")),
        "greenish": Choice(N_("off-white leaning green"), N_("It takes red lighter without pink."))}),
    "filter-hue": Question(N_("filter hue"), {
        "related": Choice(N_("related hues"), N_("The surface stays one colour.")),
        "opposite": Choice(N_("opposite hues"), N_("More variety in one surface."))}),
    "dots": Question(N_("oil dots"), {
        "blended": Choice(N_("drawn out until none is left"), N_("A soft shift of tone, no marks.")),
        "streaks": Choice(N_("left as streaks"), N_("They follow the water."))}),
    "oil-rest": Question(N_("rest before blending"), {
        "none": Choice(N_("none needed"), N_("Oils can be worked for hours.")),
        "rest": Choice(N_("some 20 minutes"), N_("The surface draws some oil in, and the dots move less."))}),
    "amount": Question(N_("amount"), {
        "as-photo": Choice(N_("as heavy as the photo"), N_("The photo is measured.")),
        "subtle": Choice(N_("subtle"), N_("On a small model less reads as more.")),
        "taste": Choice(N_("to taste"), N_("The model is a picture, not a record."))}),
    "fidelity": Question(N_("fidelity"), {
        "one": Choice(N_("one prototype"), N_("Every mark can be shown.")),
        "sisters": Choice(N_("amalgam of sisters"), N_("What one photo lacks another has; the label says so.")),
        "what-if": Choice(N_("what if"), N_("Nothing to follow but likelihood; the label says so."))}),
    "scale-effect": Question(N_("scale effect"), {
        "none": Choice(N_("none"), N_("At the usual distance haze is far below what the eye sees.")),
        "haze": Choice(N_("haze law"), N_("Contrast falls with distance as air has it.")),
        "customary": Choice(N_("customary lightening"), N_("A small model in full colour looks too dark to many."))}),
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
