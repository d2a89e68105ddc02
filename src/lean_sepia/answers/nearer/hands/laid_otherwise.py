"""Coats laid otherwise: a pass more or fewer, thinner or thicker, less of the area, under another varnish, left out."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import partial

from lean_sepia.answers.coats.from_shelf import varnish_of
from lean_sepia.answers.nearer.change import Change, Planned
from lean_sepia.answers.nearer.course import Effect, Touch
from lean_sepia.answers.predicting.run import Laid
from lean_sepia.document.called import coat_name
from lean_sepia.document.edits.coats import change_coat, switch_coat
from lean_sepia.document.edits.mixes import with_recipe, without_unused
from lean_sepia.document.edits.step_changes import change_step
from lean_sepia.document.model import Coat, Project
from lean_sepia.language import _, ngettext
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.paint import Knowledge, Paint
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.kinds import KINDS

SPRAYED = (0.5, 0.6, 0.7, 0.8, 0.85, 0.9, 0.95)
BRUSHED = (0.0, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8)
"""Shares of thinner at which paint is sprayed and brushed, a step apart (practice)."""
TINT_PARTS = (8, 10, 12, 15, 20, 25, 30, 40, 60)
"""Parts of thinner to one of a tint, a step apart (practice)."""
OF_A_SHARE = (0.5, 0.75, 1.25, 1.5)
"""How many times as much of the area a mark is tried on."""


def laid_otherwise(planned: Planned) -> Iterator[Change]:
    """Every coat that may still be changed, laid otherwise by a step."""
    for one in planned.free_laid:
        yield from _passes([one], planned)
        yield from _share(one, planned)
        yield from _left_out(one, planned)
    for group in _of_one_cup(planned):
        if len(group) > 1:
            yield from _passes(group, planned)
        yield from _thinned(group, planned)
    for zone in planned.zones:
        yield from _heaviness(zone, planned)
    yield from _varnishes(planned)


def _is_film(one: Laid) -> bool:
    coat, coating = one
    return (
        coating.covers in ("film", "tint")
        and coating.body is not None
        and coat.printed is None
        and bool(coat.recipe)
    )


def _of_one_cup(planned: Planned) -> list[list[Laid]]:
    """The films that are laid in one step from one cup: they are thinned as one."""
    groups: dict[tuple[str, str | None, float], list[Laid]] = {}
    for course in planned.courses.values():
        for one in course.zone.laid:
            if _is_film(one):
                groups.setdefault((one[0].step, one[0].recipe, one[0].thinner_share), []).append(one)
    looked_at = {coat.id for coat, _coating in planned.free_laid}
    return [
        group for group in groups.values()
        if any(coat.id in looked_at for coat, _c in group) and all(planned.free(coat) for coat, _c in group)
    ]  # fmt: skip


def where(planned: Planned, coats: Sequence[Coat]) -> str:
    """A coat and the zones it is on, as an offer names it."""
    zones = list(dict.fromkeys(planned.project.zone(coat.zone).short for coat in coats))
    named = ", ".join(zones[:3]) + (" …" if len(zones) > 3 else "")
    return _("{0}, {1}").format(coat_name(coats[0]), named)


def film_of(one: Laid, passes: int, thinner: float) -> float:
    """The film of a coat laid in other passes or otherwise thinned."""
    coat, coating = one
    now = film_thickness(coat.passes, coat.thinner_share, coat.tool)
    return coating.X * film_thickness(passes, thinner, coat.tool) / now if now else coating.X


def _changed(project: Project, ids: Sequence[str], **fields: object) -> Project:
    for coat in ids:
        project = change_coat(project, coat, **fields)
    return project


def _touching(group: Sequence[Laid], touches: Sequence[Touch]) -> dict[str, Effect]:
    found: dict[str, dict[str, Touch]] = {}
    for (coat, _coating), touch in zip(group, touches, strict=True):
        found.setdefault(coat.zone, {})[coat.id] = touch
    return {zone: Effect(mine) for zone, mine in found.items()}


def _passes(group: Sequence[Laid], planned: Planned) -> Iterator[Change]:
    if not all(_is_film(one) for one in group):
        return
    coats = [coat for coat, _coating in group]
    for step in (1, -1):
        if any(coat.passes + step < 1 for coat in coats) or len({coat.passes for coat in coats}) > 1:
            continue
        passes = coats[0].passes + step
        touches = [Touch(X=film_of((coat, coating), passes, coat.thinner_share)) for coat, coating in group]
        ids = [coat.id for coat in coats]
        yield Change(
            partial(_passes_words, planned, coats, passes), ("passes", step, *ids), _touching(group, touches), partial(_changed, ids=ids, passes=passes),
            known=_least_known(planned, coats),
        )  # fmt: skip


def _passes_words(planned: Planned, coats: Sequence[Coat], passes: int) -> str:
    more = (
        ngettext("{0}: {1} pass in place of {2}", "{0}: {1} passes in place of {2}", passes)
        if TOOLS[coats[0].tool].drawn_out
        else ngettext("{0}: {1} coat in place of {2}", "{0}: {1} coats in place of {2}", passes)
    )
    return more.format(where(planned, coats), passes, coats[0].passes)


def _least_known(planned: Planned, coats: Sequence[Coat]) -> Knowledge:
    known = (planned.cups.known(planned.cups.share_of(coat.recipe)) for coat in coats if coat.recipe)
    return min(known, default=Knowledge.SPECTRAL)


def _thinned(group: Sequence[Laid], planned: Planned) -> Iterator[Change]:
    coats = [coat for coat, _coating in group]
    now = coats[0].thinner_share
    tint = group[0][1].covers == "tint"
    ladder = thinnings_for(group[0])
    lower = [share for share in ladder if share < now - 0.004]
    higher = [share for share in ladder if share > now + 0.004]
    for step, thinner in ((-1, lower[-1:]), (1, higher[:1])):
        for share in thinner:
            touches = [Touch(X=film_of((coat, coating), coat.passes, share)) for coat, coating in group]
            words = partial(
                _in_place_of, planned, coats, *(thinning_words(one, tint=tint) for one in (share, now))
            )
            ids = [coat.id for coat in coats]
            yield Change(
                words, ("thinner", step, *ids), _touching(group, touches), partial(_changed, ids=ids, thinner_share=share),
                known=_least_known(planned, coats),
            )  # fmt: skip


def thinnings_for(one: Laid) -> list[float]:
    """The shares of thinner at which a coat may be laid with its tool."""
    coat, coating = one
    if coating.covers == "tint":
        return [parts / (1 + parts) for parts in TINT_PARTS]
    return list(SPRAYED if TOOLS[coat.tool].sprayed else BRUSHED)


def _in_place_of(planned: Planned, coats: Sequence[Coat], then: str, now: str) -> str:
    return _("{0}: {1} in place of {2}").format(where(planned, coats), then, now)


def thinning_words(share: float, *, tint: bool) -> str:
    """How thin something is laid, as people say it of paint and of tints."""
    if tint:
        return f"1:{share / (1 - share):.0f}"
    return _("{0} % thinner").format(f"{100 * share:.0f}")


def _share(one: Laid, planned: Planned) -> Iterator[Change]:
    coat, coating = one
    if (
        coat.nature.is_marking
        or coating.covers not in ("spots", "loose", "film", "tint")
        or coat.area_share >= 1
        or coating.body is None
    ):
        return
    for times in OF_A_SHARE:
        share = min(1.0, coat.area_share * times)
        if share == coat.area_share or share < 1e-4:
            continue
        then, now = (
            _("{0} % of the area").format(f"{100 * value:.1f}") for value in (share, coat.area_share)
        )
        yield Change(
            partial(_in_place_of, planned, [coat], then, now), ("share", times > 1, coat.id), {coat.zone: Effect({coat.id: Touch(share=share)})},
            partial(_changed, ids=[coat.id], area_share=share),
        )  # fmt: skip


def _heaviness(zone: str, planned: Planned) -> Iterator[Change]:
    """All marks of a zone lighter or heavier together."""
    marks = [
        (coat, coating) for coat, coating in planned.laid(zone)
        if planned.free(coat) and coat.nature.marks and coating.covers in ("spots", "loose") and coating.body is not None
    ]  # fmt: skip
    if len(marks) < 2:
        return
    for times in OF_A_SHARE:
        shares = [min(1.0, coat.area_share * times) for coat, _coating in marks]
        each = {coat.id: Touch(share=share) for (coat, _c), share in zip(marks, shares, strict=True)}
        yield Change(
            partial(_heaviness_words, planned, zone, times), ("heaviness", zone, times > 1), {zone: Effect(each)},
            partial(_with_shares, shares=[(coat.id, share) for (coat, _c), share in zip(marks, shares, strict=True)]),
        )  # fmt: skip


def _heaviness_words(planned: Planned, zone: str, times: float) -> str:
    words = (
        _("All wear of {0} lighter: {1} times as much of the area")
        if times < 1
        else _("All wear of {0} heavier: {1} times as much of the area")
    )
    return words.format(planned.project.zone(zone).short, f"{times:g}")


def _with_shares(project: Project, shares: Sequence[tuple[str, float]]) -> Project:
    for coat, share in shares:
        project = change_coat(project, coat, area_share=share)
    return project


def may_be_left_out(coat: Coat) -> bool:
    """Whether a finish stands without a coat: what shades, glazes or wears; not its colours, its lettering, its varnish."""
    nature = coat.nature
    return nature.shades or nature.is_glaze or nature.marks or nature.covers == "taken"


def _left_out(one: Laid, planned: Planned) -> Iterator[Change]:
    coat, _coating = one
    if may_be_left_out(coat):
        yield Change(
            partial(_without_words, planned, coat), ("out", coat.id), {coat.zone: Effect({coat.id: Touch(out=True)})},
            partial(switch_coat, coat_id=coat.id, on=False), known=_least_known(planned, [coat]),
        )  # fmt: skip


def _without_words(planned: Planned, coat: Coat) -> str:
    return _("Without {0}").format(where(planned, [coat]))


def _varnishes(planned: Planned) -> Iterator[Change]:
    """The last varnish of a zone of another sheen, on all that it is laid on at once."""
    last = {}
    for zone in planned.zones:
        varnished = [coat for coat, _coating in planned.laid(zone) if coat.nature.is_varnish]
        if varnished and planned.free(varnished[-1]):
            last[varnished[-1].step] = varnished[-1]
    for step, first in last.items():
        group = [
            one for course in planned.courses.values() for one in course.zone.laid if one[0].step == step
        ]
        if not all(planned.free(coat) for coat, _c in group) or first.nature.finish is None:
            continue
        for kind, nature in KINDS.items():
            if not nature.is_varnish or nature.finish == first.nature.finish:
                continue
            mix = varnish_of(kind, planned.shelf, first.tool)
            if first.recipe and not mix.parts:
                continue  # none of that sheen is on the shelf
            touches = [Touch(coat=coat.model_copy(update={"kind": kind})) for coat, _coating in group]
            words = partial(_varnish_words, planned, [coat for coat, _c in group], nature.title)
            yield Change(
                words, ("varnish", step), _touching(group, touches), partial(_other_varnish, step=step, kind=kind, shelf=planned.shelf),
                bottles=tuple(paint.name for paint in mix.paints if paint.name not in {v.name for v in planned.project.paints}),
            )  # fmt: skip


def _varnish_words(planned: Planned, coats: Sequence[Coat], title: str) -> str:
    return _("{0} in place of {1}").format(_(title), where(planned, coats))


def _other_varnish(project: Project, step: str, kind: str, shelf: Sequence[Paint]) -> Project:
    project = change_step(project, step, {"kind": kind, "title": ""})
    for coat in project.laid_in(step):
        mix = varnish_of(kind, shelf, coat.tool)
        changed, recipe = with_recipe(project, coat.zone, kind, mix, None) if mix.parts else (project, None)
        project = change_coat(changed, coat.id, recipe=recipe, name="")
    return without_unused(project)
