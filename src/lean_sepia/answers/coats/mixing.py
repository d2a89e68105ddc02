"""What the words for a coat's mix and thinning mean, against the shelf and the cups there are."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lean_sepia.answers.coats.draft import Draft, usual_thinner
from lean_sepia.answers.coats.from_shelf import primer_of, varnish_of
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.targets import model_target, target_for
from lean_sepia.colour.written import is_colour, read_colour
from lean_sepia.document.edits.mixes import Mix, mix_paint
from lean_sepia.document.model import Project
from lean_sepia.errors import EditError, SepiaError
from lean_sepia.language import _
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Paint
from lean_sepia.plan.kinds import KINDS
from lean_sepia.recipe.phrases.ratio import read_ratio
from lean_sepia.recipe.phrases.spoken_mix import SpokenMix, also_called, read_spoken_mix


@dataclass(frozen=True)
class LayQuestion:
    """The document, the zones, the draft, and where it goes.

    above : the coat it lies on, `LOWEST`, or None for where its kind usually comes; replacing : the coat that is edited
    serves : the steps it works on, where they are said
    bottles : the shelf as it is used; retired : names of bottles that are not, by id
    """

    project: Project
    zones: tuple[str, ...]
    draft: Draft
    bottles: tuple[Paint, ...]
    above: str | None = None
    replacing: str | None = None
    retired: Mapping[str, str] | None = None
    serves: tuple[str, ...] = ()


def read_mix(question: LayQuestion) -> tuple[Mix, float | None, str]:
    """What the words for a mix mean; the thinner that is in them, if any, and what was assumed.

    Raises
    ------
    SepiaError
        They mean nothing, or what cannot be mixed.
    """
    draft, text = question.draft, question.draft.of.strip()
    project, zone = question.project, question.zones[0]
    if not text:
        return _unsaid(question), None, ""
    if is_colour(text):
        lab = read_colour(text)
        return Mix(lab=lab, finish=draft.finish, medium=draft.medium), None, ""  # type: ignore[arg-type]
    bottles = _that_fit(draft.kind, question.bottles)
    names = {paint.id: paint.name for paint in bottles}
    cups = cup_names(project)
    base = next((c.recipe for c in project.bases_of(zone) if c.recipe), "")
    own = project.coat(question.replacing).recipe if question.replacing else None
    text = _with_names(question, text)
    text = text.replace("“", "").replace("”", "").removeprefix(_("from the cup “{0}”").split("“")[0])
    try:
        spoken = _spoken(question, text, names, cups, base if base and base != own else "")
    except SepiaError:
        _say_if_retired(question, text)
        raise
    if len(spoken.cups) == 1 and not spoken.parts:
        return Mix(recipe=spoken.cups[0][0]), spoken.thinner_share, spoken.assumed
    if any(cup == own for cup, _count in spoken.cups) and own is not None:
        raise EditError(_("A mix cannot be made from itself. Name another cup, or its paints."))
    chosen = [paint for paint in question.bottles if paint.id in dict(spoken.parts)]
    _check_mixes(chosen, bool(spoken.cups))
    mix = Mix.of(chosen, spoken.parts, cups=spoken.cups)
    return mix, spoken.thinner_share, spoken.assumed


def _spoken(
    question: LayQuestion, text: str, names: Mapping[str, str], cups: Mapping[str, str], base: str
) -> SpokenMix:
    """The mix that a text means of what suits the kind of coat, else of any bottle."""
    rates = {paint.id: paint.drops_per_ml for paint in question.bottles if paint.drops_per_ml}
    try:
        return read_spoken_mix(text, names, cups, base, rates)
    except SepiaError:
        if len(names) == len(question.bottles):
            raise
    return read_spoken_mix(text, {paint.id: paint.name for paint in question.bottles}, cups, base, rates)


def _that_fit(kind: str, bottles: Sequence[Paint]) -> list[Paint]:
    """Bottles that a kind of coat is made of: loose where it is usually of powder, never loose where it is a film."""
    nature = KINDS[kind]
    usual = nature.medium is not None and MEDIA[nature.medium].loose
    if nature.is_powder or usual:
        fitting = [paint for paint in bottles if MEDIA[paint.medium].loose]
        return fitting or list(bottles)
    return [paint for paint in bottles if not MEDIA[paint.medium].loose] or list(bottles)


def cup_names(project: Project) -> dict[str, str]:
    """What each mix is called, by its id, and what else: the names of the coats that are laid with it."""
    called = {recipe.id: recipe.name for recipe in project.recipes}
    for coat in project.coats:
        if coat.recipe and coat.name:
            called[also_called(coat.recipe, coat.name)] = coat.name
    return called


def _with_names(question: LayQuestion, text: str) -> str:
    """Bare figures, such as 70/20/10, on a coat that is changed: they are of what it is mixed of now, in that order."""
    figures = re.findall(r"\d+(?:[.,]\d+)?", text)
    if not question.replacing or not re.fullmatch(r"[\d.,\s]+(?:[:/][\d.,\s]+)+", text):
        return text
    recipe = question.project.coat(question.replacing).recipe
    parts = question.project.recipe(recipe).parts if recipe else ()
    if len(parts) != len(figures):
        return text
    names = [question.project.paint(version).name for version, _count in parts]
    return " + ".join(
        f"{figure.replace(',', '.')} {name}" for figure, name in zip(figures, names, strict=True)
    )


def read_free_mix(text: str, project: Project, bottles: Sequence[Paint]) -> Mix:
    """A mix that is made for itself, of bottles and of cups there are.

    Raises
    ------
    SepiaError
        The words mean nothing, or what cannot be mixed.
    """
    names = {paint.id: paint.name for paint in bottles}
    spoken = read_spoken_mix(text, names, {recipe.id: recipe.name for recipe in project.recipes})
    chosen = [paint for paint in bottles if paint.id in dict(spoken.parts)]
    _check_mixes(chosen, bool(spoken.cups))
    return Mix.of(chosen, spoken.parts, cups=spoken.cups)


def _say_if_retired(question: LayQuestion, text: str) -> None:
    for name in (question.retired or {}).values():
        if name.casefold() in text.casefold():
            words = _(
                "“{0}” is retired: it stands on the shelf but is not used. Take it back there, or choose another."
            )
            raise EditError(words.format(name))


def _check_mixes(chosen: Sequence[Paint], with_cup: bool) -> None:
    if len(chosen) + with_cup < 2:
        return
    if not with_cup and all(MEDIA[paint.medium].loose for paint in chosen):
        return  # powders are mingled dry
    for paint in chosen:
        if paint.can:
            words = _("{0} comes from a spray can: its colour cannot be mixed. Lay it alone.")
            raise EditError(words.format(paint.name))
        if not paint.mixes:
            words = _(
                "{0} is laid alone: metallics and pencils do not go into a mix, powder only with powder."
            )
            raise EditError(words.format(paint.name))


def _unsaid(question: LayQuestion) -> Mix:
    """What a coat is of where nothing is written: nothing for what needs none, else the sampled colour of its kind."""
    draft = question.draft
    nature = KINDS[draft.kind]
    if nature.is_varnish:
        return varnish_of(draft.kind, question.bottles, draft.tool, draft.medium)
    if nature.lays_nothing:
        return Mix(medium=draft.medium)
    if nature.is_found:
        there = model_target(question.project, question.zones[0])
        if there is None:
            words = _(
                "Say what is there: sample it in a photo of the model, or write a colour such as #4f7a6c or a bottle."
            )
            raise EditError(words)
        return Mix(lab=there.lab, finish=draft.finish, medium=draft.medium)  # type: ignore[arg-type]
    target, _about = target_for(
        strata_of(question.project, question.zones[0]).targets, draft.kind, draft.name
    )
    if target is not None and (nature.roles):
        return Mix(lab=target.lab, medium=draft.medium)
    if nature.is_primer and (
        mix := primer_of(question.bottles, draft.tool, question.project.schools.get(draft.kind, ""))
    ):
        return mix
    if nature.colour is not None:
        return Mix(lab=nature.colour, finish="metallic", medium=nature.medium)
    raise EditError(
        _(
            "Say what it is mixed of: a bottle, a mix such as “3 sand + 1 ochre”, a cup, or a colour such as #4f7a6c."
        )
    )


def thinner_of(project: Project, draft: Draft, in_mix: float | None, mix: Mix) -> tuple[float, list[str]]:
    """The thinner share of what is written, and the other way it may have been meant."""
    if mix.lab is not None and not (draft.thinned or "").strip():
        return 0.0, []
    if in_mix is not None:
        return in_mix, [_("Thinned as the mix says: {0} % thinner.").format(f"{100 * in_mix:.0f}")]
    if draft.thinned is None:
        return usual_thinner(draft.kind, draft.tool, mix_paint(project, mix)), []
    if not draft.thinned.strip():
        return 0.0, []
    readings = read_ratio(draft.thinned, thinning=True)
    shares = [reading.thinner for reading in readings if reading.thinner is not None]
    if not shares:
        raise EditError(
            _("“{0}” does not say how much thinner there is. Write it as 1:20 or 60 % thinner.").format(
                draft.thinned
            )
        )
    if shares[0] >= 1:
        raise EditError(_("All of it would be thinner. Leave some paint in it, such as 1:20."))
    said = []
    thin = KINDS[draft.kind].is_glaze and shares[0] > shares[-1]  # nobody lays a filter of 95 % paint
    if len(shares) > 1 and abs(shares[1] - shares[0]) > 0.02 and not thin:
        said.append(
            _(
                "Read as {0} % thinner; it may also mean {1} %. Write “thinner” or “paint” with it to be sure."
            ).format(f"{100 * shares[0]:.0f}", f"{100 * shares[1]:.0f}")
        )
    return shares[0], said
