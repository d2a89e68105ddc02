"""A typed shelf at work: what each bottle is for decides where it is proposed, how it is thinned, measured out and laid."""

import math
from dataclasses import replace

import numpy as np
import pytest

from lean_sepia.answers import match
from lean_sepia.answers.amounts import amount_words, cups_of, needed
from lean_sepia.answers.coats.draft import Draft, usual_draft
from lean_sepia.answers.coats.laying import answer, laid
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.coats.worn import nearest_bottle
from lean_sepia.answers.glazing import filters
from lean_sepia.answers.glazing.washes import lay_wash, washes_for
from lean_sepia.answers.match_told import remarks, sureness
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.toning import fading
from lean_sepia.answers.toning.panels import panel_plan
from lean_sepia.answers.toning.wishes import Aim
from lean_sepia.answers.toning.zone import may_be_used
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.document.edits.coats import lay_found
from lean_sepia.document.edits.zones import add_zone, change_zone, state_target
from lean_sepia.document.entities.panels import PanelGrid
from lean_sepia.document.model import Project
from lean_sepia.document.work import plan_steps
from lean_sepia.errors import SepiaError
from lean_sepia.paint.ink import ink_of_lab
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import stirred
from lean_sepia.plan.care.rescue import undoing
from lean_sepia.plan.owned import Owned
from lean_sepia.plan.waits.table import table_wait
from lean_sepia.recipe.batch import correct_batch
from lean_sepia.recipe.covering import what_covers
from lean_sepia.recipe.fades.fade import Goal, choose_lighteners
from lean_sepia.recipe.knowing import to_know_next
from lean_sepia.recipe.limits import NO_LIMITS
from lean_sepia.recipe.mix import MixSolver
from lean_sepia.recipe.tints.dots import choose_dots
from lean_sepia.recipe.tints.glaze import choose_glazes
from lean_sepia.recipe.tints.wash import choose_washes
from lean_sepia.shelf.content import build_paints

AREA = 140.0


def _bottle(identity, name, lab=None, medium="acrylic-water", finish="flat", **more):
    return {
        "id": identity,
        "name": name,
        "medium": medium,
        "finish": finish,
        **({"lab": lab} if lab else {}),
        **more,
    }


RECORDS = [
    _bottle("white", "Quay white", [92.7, -0.2, 2.6]), _bottle("buff", "Buff", [70.0, 4.0, 24.0]),
    _bottle("grey", "Shed grey", [56.0, -0.5, -1.5]), _bottle("black", "Coal", [16.0, 0.0, 0.0]),
    _bottle("red", "Strake red", [36.0, 45.0, 29.0], finish="satin"), _bottle("green", "Pale green", [68.0, -10.0, 14.0]),
    _bottle("yellow", "Mast yellow", [71.0, 8.0, 66.0]), _bottle("blue", "Funnel blue", [36.0, -1.0, -27.0], finish="satin"),
    _bottle("steel", "Plate steel", [57.0, 0.0, -1.0], finish="metallic"),
    _bottle("dry", "Fog", [75.0, 0.0, 0.0], note="dried up"), _bottle("out", "Rope", [70.0, 3.0, 18.0], stock_ml=0),
    _bottle("primer", "Grey primer", [60.0, 0.0, 0.0], use="primer"), _bottle("wprimer", "White primer", [93.0, 0.0, 2.0], use="primer"),
    _bottle("cprimer", "Can primer", [62.0, 0.0, 0.0], "lacquer", use="primer", can=True),
    _bottle("canred", "Can red", [34.0, 42.0, 25.0], "lacquer", "satin", can=True),
    _bottle("ready", "Bilge wash", [26.0, 4.0, 9.0], "enamel", "satin", use="wash"),
    _bottle("owhite", "Oil white", [93.5, 0.0, 3.0], "oil", "satin"), _bottle("oumber", "Oil umber", [26.0, 5.0, 10.0], "oil", "satin"),
    _bottle("osienna", "Oil sienna", [36.0, 22.0, 27.0], "oil", "satin"), _bottle("osand", "Oil sand", [64.0, 6.0, 26.0], "oil", "satin"),
    _bottle("pblack", "Powder black", [17.0, 0.0, 0.0], "pigment"), _bottle("pgrey", "Powder grey", [60.0, 0.0, 1.0], "pigment"),
    _bottle("pgreen", "Powder green", [42.0, -11.0, 17.0], "pigment"), _bottle("chalk", "Chalk stick", [82.0, 1.0, 9.0], "pastel"),
    _bottle("vgloss", "Gloss clear", finish="gloss", use="varnish", body="clear"),
    _bottle("vflat", "Flat clear", use="varnish", body="clear"), _bottle("base", "Flat base", use="medium", body="clear"),
    _bottle("canflat", "Can flat clear", medium="lacquer", use="varnish", body="clear", can=True),
]  # fmt: skip
NEVER = {
    "dry",
    "out",
    "primer",
    "wprimer",
    "cprimer",
    "canred",
    "ready",
    "pblack",
    "pgrey",
    "pgreen",
    "chalk",
    "vgloss",
    "vflat",
    "base",
    "canflat",
    "steel",
}


@pytest.fixture(scope="module")
def shelf():
    return build_paints(RECORDS)


@pytest.fixture(scope="module")
def known(shelf):
    return {paint.id: paint for paint in shelf}


@pytest.fixture
def hull():
    """A hull of a size, with a factory finish on it."""
    project, zone = add_zone(Project(), "Hull")
    project = change_zone(project, project.zone(zone).model_copy(update={"area_cm2": AREA}))
    return lay_found(project, zone, (45.0, -12.0, 8.0)), zone


def _lay(project, zone, shelf, kind, **figures):
    draft = replace(usual_draft(kind, figures.pop("tool", None)), **figures)
    found = laid(LayQuestion(project, (zone,), draft, tuple(shelf)))
    return found.project, found.project.coat(found.coat)


def test_uses_decide_what_is_stirred_anywhere(shelf, known, hull):
    """No primer, wash, varnish, powder or can in a mixture, none empty or dried, whichever solver stirs it."""
    project, zone = hull
    stirred_in = set()
    for target in ((60, 4, 18), (92, 0, 3), (40, 20, 15), (30, 0, 0)):
        stirred_in |= {n for r in MixSolver(shelf).solve(target, count=8) for n, _c in r.parts}
    stirred_in |= {o.paint for o in choose_lighteners(shelf, known["red"], (60, 30, 20))}
    stirred_in |= {n for c in correct_batch(shelf, {"grey": 3.0}, (60, 4, 18)) for n, _d in c.drops}
    ground = filters.ask(project, zone, shelf).zones[0].ground
    stirred_in |= {oil.paint for oil in choose_dots(shelf, ground, (45, -12, 8), (52, -8, 10)).oils}
    assert not stirred_in & NEVER
    tints = {g.paint for g in choose_glazes(shelf, [ground], [(42, -10, 9)], most=2)}
    tints |= {w.paint for w in choose_washes(shelf, ground, (45, -12, 8), count=20)}
    assert tints & NEVER == {"ready"}  # a ready wash is a tint of its own
    assert not {w.second for w in choose_washes(shelf, ground, (45, -12, 8), count=40)} & NEVER
    for lab in ((60, 0, 0), (93, 0, 2), (62, 0, 0), (75, 0, 0), (70, 3, 18)):
        assert nearest_bottle(lab, shelf).id not in {"primer", "wprimer", "cprimer", "dry", "out", "ready"}


def test_what_is_asked_for_by_name_is_stirred_all_the_same(shelf, hull):
    project, zone = hull
    done, coat = _lay(project, zone, shelf, "fade", of="1:1 flat clear, quay white", tool="mist")
    recipe = done.recipe(coat.recipe)
    assert {done.paint(v).shelf_id: n for v, n in recipe.parts} == {"vflat": 1, "white": 1}
    done, coat = _lay(project, zone, shelf, "fade", of="2:1:10 buff, flat base, alcohol", tool="mist")
    assert {done.paint(v).shelf_id: n for v, n in done.recipe(coat.recipe).parts} == {"buff": 2, "base": 1}
    assert coat.thinner_share == pytest.approx(10 / 13)


def test_a_clear_part_thins_the_colour_and_sets_the_sheen(known):
    """One part of gloss in three of flat paint: two thirds of the colour in the film, and g = 1 − 0.9 · m."""
    made = stirred("m", "m", [known["grey"], known["vgloss"]], [3, 1])
    assert pytest.approx(0.75 * known["grey"].S, rel=1e-4) == made.S
    assert made.g == pytest.approx(1 - 0.9 * 0.25)


def test_what_is_sold_thinned_is_counted_once(shelf, known, hull):
    """A ready wash goes on as it comes, and its film is that of the paint in it."""
    project, zone = hull
    thick = build_paints([{**RECORDS[15], "use": "paint", "thinner_share": 0.0}])[0]
    assert known["ready"].thinner_share == pytest.approx(0.9)
    assert pytest.approx(0.1 * thick.K) == known["ready"].K
    found = washes_for(project, zone, shelf, "pin-wash")
    wash = next(w for w in found.washes if w.paint == "ready")
    assert (wash.thinner_share, wash.second) == (0.0, None)
    done = lay_wash(project, found, wash, "pin-wash")
    assert done.coats[-1].thinner_share == 0
    _done, coat = _lay(project, zone, shelf, "pin-wash", of="bilge wash", thinned=None)
    assert coat.thinner_share == 0
    _done, umber = _lay(project, zone, shelf, "pin-wash", of="oil umber", thinned=None)
    assert umber.thinner_share == pytest.approx(10 / 11)
    ready = replace(known["grey"], thinner_share=0.4)
    assert 1 - (1 - ready.thinned_to(0.6)) * (1 - 0.4) == pytest.approx(0.6)
    _more, more = _lay(project, zone, shelf, "filter", of="bilge wash", thinned="1:2")
    assert more.thinner_share == pytest.approx(2 / 3)


def test_amounts_are_counted_as_they_are_measured_out(shelf, hull):
    project, zone = hull

    def cup(kind, **figures):
        done, coat = _lay(project, zone, shelf, kind, **figures)
        return cups_of(done, [coat])[0], needed(done, coat)

    can, volume = cup("base", of="can red", tool="spray-can")
    assert amount_words(can.lines[0].amount).endswith("s of spray")
    assert (can.thinner_ml, can.cups, volume.reserve_ml) == (0, 1, 0)
    assert volume.total_ml == pytest.approx(AREA * 2 * 0.0025 * 1.3 / 0.4)
    wash, volume = cup("wash", of="bilge wash", thinned=None)
    assert (wash.thinner_ml, volume.reserve_ml) == (0, 0)
    _mixed, volume = cup("base", of="3 buff + 1 white")
    assert volume.reserve_ml == pytest.approx(volume.total_ml / 5)
    small, _volume = cup("filter", of="blue", thinned="1:40", area_share=0.02)
    assert small.lines[0].amount.drops == 1  # below half a drop the smallest batch that can be counted
    assert small.thinner_ml == pytest.approx(40 * small.paint_ml)


def test_varnish_and_primer_come_from_the_shelf_with_an_amount(shelf, hull):
    project, zone = hull
    used = {}
    for kind, tool in (("gloss-coat", None), ("matte-coat", None), ("matte-coat", "spray-can"), ("primer", None), ("primer", "spray-can")):  # fmt: skip
        done, coat = _lay(project, zone, shelf, kind, tool=tool)
        (cup,) = cups_of(done, [coat])
        assert cup.paint_ml > 0
        used[kind, tool] = done.paint(done.recipe(coat.recipe).parts[0][0]).shelf_id
    assert used == {
        ("gloss-coat", None): "vgloss", ("matte-coat", None): "vflat", ("matte-coat", "spray-can"): "canflat", ("primer", None): "primer",
        ("primer", "spray-can"): "cprimer",
    }  # fmt: skip
    none = [paint for paint in shelf if paint.use not in ("varnish", "primer")]
    done, coat = _lay(project, zone, none, "matte-coat")
    (cup,) = cups_of(done, [coat])
    assert coat.recipe is None
    assert cup.paint_ml > 0
    with pytest.raises(SepiaError):
        _lay(project, zone, none, "primer")


def test_ink_on_clear_film_lets_its_ground_through_unless_white_is_below(shelf, hull):
    project, zone = hull
    ground = (36.0, -1.0, -27.0)
    project = lay_found(project, zone, ground)
    yellow = "71, 8, 66"
    inked, coat = _lay(project, zone, shelf, "marking", of=yellow)
    assert coat.printed == "ink"
    lab = {p: next(b.lab for b in strata_of(q, zone).bands if b.coat.id == c.id) for p, (q, c) in {
        "ink": (inked, coat), "white": _lay(project, zone, shelf, "marking", of=yellow, printed="white"),
        "painted": _lay(project, zone, shelf, "marking", of="mast yellow", tool="brush", passes=6, thinned=""),
        "white ink": _lay(project, zone, shelf, "marking", of="95, 0, 2"),
    }.items()}  # fmt: skip
    assert lab["ink"][0] < ground[0]  # it can only take light away
    assert lab["white"] == pytest.approx((71, 8, 66), abs=0.1)
    assert lab["painted"][0] > ground[0] + 20
    assert lab["white ink"] == pytest.approx((95, 0, 2), abs=0.1)
    question = LayQuestion(project, (zone,), replace(usual_draft("marking"), of=yellow), tuple(shelf))
    told = answer(question)
    assert not told.showing.reads
    assert any("White beneath it" in remark for remark in told.remarks)


def test_ink_is_the_product_of_what_it_and_its_ground_let_back():
    """With S → 0: R = R_g · R_ink / R_white, band by band, worked out apart from the layers."""
    from lean_sepia.paint.identify import internal_from_lab

    ink, white = internal_from_lab((60, 20, 40), 1.0).R_i, internal_from_lab((96, 0, 2), 1.0).R_i
    ground = internal_from_lab((50, -10, -5), 1.0).R_i
    found = Laying(ground, 1.0).internal(ink_of_lab((60.0, 20.0, 40.0)))
    assert found == pytest.approx(ground * np.minimum(ink / white, 1.0), abs=2e-4)


def test_printed_and_painted_lettering_differ_in_steps_waits_and_rescue(shelf, hull):
    project, zone = hull
    printed, _coat = _lay(project, zone, shelf, "marking", of="95, 0, 2")
    painted, _coat = _lay(project, zone, shelf, "marking", of="quay white", tool="brush")
    slid, brushed = (next(s for s in plan_steps(p) if s.kind == "marking") for p in (printed, painted))
    assert (slid.application, brushed.application) == (None, "brush")
    softener = slid.model_copy(update={"id": "soft", "kind": "setting-solution", "material": None})
    matte = slid.model_copy(update={"id": "matte", "kind": "matte-coat", "application": "airbrush"})
    assert (slid.serves(softener), softener.serves(slid), softener.serves(brushed)) == (False, True, False)
    assert table_wait(slid, matte).not_before == 12 * 60  # decals before a varnish
    assert table_wait(brushed, matte).not_before == 60  # paint before an acrylic varnish
    assert undoing(slid) != undoing(brushed)
    assert "water" in slid.nature.ready[0].casefold()


def test_powders_are_mingled_by_area_and_never_wet(shelf, known, hull):
    project, zone = hull
    done, coat = _lay(project, zone, shelf, "powder", of="1:1 black to grey", area_share=1.0)
    assert {done.paint(v).shelf_id for v, _n in done.recipe(coat.recipe).parts} == {"pblack", "pgrey"}
    alone = []
    for name in ("powder black", "powder grey"):
        one, of_one = _lay(project, zone, shelf, "powder", of=name, area_share=1.0)
        alone.append(next(b.lab for b in strata_of(one, zone).bands if b.coat.id == of_one.id))
    mean = lab_from_xyz((xyz_from_lab(alone[0]) + xyz_from_lab(alone[1])) / 2)
    lab = next(b.lab for b in strata_of(done, zone).bands if b.coat.id == coat.id)
    assert float(delta_e00(lab, mean)) < 0.3
    _done, pastel = _lay(project, zone, shelf, "pastel", of="1 chalk stick + 1 powder grey")
    assert pastel.recipe
    for wet in ("1 powder black + 1 buff", "1 plate steel + 1 buff"):
        with pytest.raises(SepiaError):
            _lay(project, zone, shelf, "powder", of=wet)
    kept = stirred("k", "k", [replace(known["pblack"], keep=0.6), known["pgrey"]], [1, 1])
    assert kept.keep == pytest.approx((0.6 + 0.5) / 2)  # pale powder keeps half, where nothing was learnt
    assert stirred("k", "k", [replace(known["pblack"], keep=0.6)], [1]).keep == 0.6


def test_marks_are_judged_as_what_they_are(shelf, hull):
    project, zone = hull

    def showing(kind, **figures):
        draft = replace(usual_draft(kind), **figures)
        return answer(LayQuestion(project, (zone,), draft, tuple(shelf))).showing

    dots = showing("oil-dots", of="oil white", area_share=0.1)
    spots = showing("chips", of="quay white", area_share=0.1, tool="brush", passes=4, thinned="")
    assert dots.kind == "soft"
    assert dots.now < 0.4 * spots.now
    assert dots.now < dots.strayed
    seams = showing("powder", of="powder black", area_share=0.05, profile="recess")
    veil = showing("powder", of="powder black", area_share=0.05, profile=None)
    assert (seams.kind, veil.kind) == ("mark", "soft")
    assert veil.first_verdict == "vanishes"
    assert seams.first_verdict == "stark"
    rubbed = showing("graphite", of="plate steel", area_share=0.02, profile="edges")
    assert rubbed.first_verdict in ("clear", "stark")


@pytest.fixture
def faded(hull):
    project, zone = hull
    project = replace_target(project, zone, (53.0, -9.0, 9.0))
    return project.model_copy(update={"owns": Owned(airbrush=False)}), zone


def replace_target(project, zone, lab):
    return state_target(project, zone, lab, "exposed")


def test_a_factory_finish_is_faded_by_an_oil_drawn_out_where_a_brush_cannot(shelf, known, faded):
    project, zone = faded
    target = strata_of(project, zone).targets.exposed
    question = fading.ask(project, zone, Aim(target, Goal(target.lab)), may_be_used(project, zone, shelf))
    found = fading.answer(question)
    veils = [fade for fade in found.fades if fade.wiped is not None]
    assert veils
    before = question.before[0]
    for fade in found.fades:
        _mix, manner = question.laid(fade)
        assert fade.option.lab[0] > before  # a lightener is lighter
        assert known[fade.option.paint].masstone_lab()[0] > before or fade.option.second
        assert fade.wiped is not None or manner.thinner_share <= 0.8 + 1e-9
    for fade in veils:
        done = fading.lay_answer(project, question, fade)
        assert strata_of(done, zone).exposed == pytest.approx(fade.option.lab, abs=0.05)
        coat = next(c for c in done.coats if c.kind == "fade")
        assert (coat.wiped, coat.thinner_share, coat.tool) == (fade.wiped, 0.0, "glaze")
    assert found.fades[0].option.de00 < float(delta_e00(question.before, target.lab)) / 2


def test_degrees_of_a_veil_are_different_veils(shelf, faded):
    project, zone = faded
    target = strata_of(project, zone).targets.exposed
    question = fading.ask(project, zone, Aim(target, Goal(target.lab)), may_be_used(project, zone, shelf))
    fade = next(f for f in fading.answer(question).fades if f.wiped is not None)
    levels = panel_plan(question, fade, PanelGrid(rows=2, columns=6, levels=3)).levels
    wiped = [level.wiped for level in levels]
    assert wiped == sorted(wiped, reverse=True)
    assert len(set(wiped)) == 3
    moved = [float(delta_e00(question.before, level.lab)) for level in levels]
    assert moved == pytest.approx([moved[2] / 3, 2 * moved[2] / 3, moved[2]], rel=0.1)


def test_match_says_what_reaches_a_white_over_red(shelf, hull):
    project, zone = hull
    project = state_target(lay_found(project, zone, (38.0, 48.0, 30.0)), zone, (92.7, -0.2, 2.6))

    def asked(document):
        target = strata_of(document, zone).targets.fresh
        question = match.ask(
            document, zone, target, shelf, passes=2, thinner_share=0.6, sheen="as planned", max_paints=3, max_parts=10, limits=NO_LIMITS,
            mix_ml=7,
        )  # fmt: skip
        return match.answer(question)

    said = remarks(found := asked(project))
    assert "shines through" in said
    assert "A bottle that is" not in said
    assert "White primer" in said
    best = min((c.recipe for c in found.choices), key=lambda r: r.de00)
    covered = what_covers(
        found.question.paints, found.question.primers, (92.7, -0.2, 2.6), best, found.question.laying, 2
    )
    made = stirred("m", "m", [{p.id: p for p in shelf}[n] for n, _c in covered.opaque.parts], [c for _n, c in covered.opaque.parts])  # fmt: skip
    for coats, near in ((covered.coats, True), (covered.coats - 1, False)):  # pushed back through the film
        lab = replace(found.question.laying, X=coats * 0.4).lab(made)
        assert (float(delta_e00(lab, (92.7, -0.2, 2.6))) <= covered.opaque.de00 + 1.0) is near
    bare, other = add_zone(Project(), "Bare")
    bare = state_target(bare, other, (92.7, -0.2, 2.6))
    target = strata_of(bare, other).targets.fresh
    question = match.ask(bare, other, target, shelf, passes=2, thinner_share=0.6, sheen="own", max_paints=2, max_parts=10, limits=NO_LIMITS, mix_ml=7)  # fmt: skip
    assert "Nothing is said of what lies below" in remarks(match.answer(question))


def test_the_cheapest_thing_to_know_next_is_named_and_narrows(known):
    laying = Laying(np.full(31, 0.4), 0.5)
    found = to_know_next([known["blue"], known["white"]], [1, 3], laying)
    assert found.what == "coats"
    said = [replace(known["blue"], cover_said=True), replace(known["white"], cover_said=True)]
    after = to_know_next(said, [1, 3], laying)
    assert after is None or after.what != "coats"


def test_sureness_names_it_in_match(shelf, hull):
    project, zone = hull
    project = state_target(project, zone, (60.0, 4.0, 18.0))
    target = strata_of(project, zone).targets.fresh
    question = match.ask(project, zone, target, shelf, passes=3, thinner_share=0.6, sheen="own", max_paints=2, max_parts=10, limits=NO_LIMITS, mix_ml=7)  # fmt: skip
    found = match.answer(question)
    assert any(
        "Cheapest to know next" in s for s in sureness(target, found.choices[0].recipe, found.behaviours[0])
    )


def test_planned_algae_takes_the_green_powder_and_says_what_it_lacks(shelf):
    assert nearest_bottle((40.0, -10.0, 18.0), shelf, "oil").id == "pgreen"


def test_a_bottle_of_ink_lets_shine_through_unless_it_says_otherwise():
    ink, thick = build_paints([_bottle("i", "Ink", [40, 10, 10], use="ink"), _bottle("t", "Ink", [40, 10, 10], use="ink", body="opaque")])  # fmt: skip
    assert (ink.body, thick.body) == ("transparent", "opaque")
    assert math.isclose(ink.S.mean() * 10, thick.S.mean() * 1.3, rel_tol=0.05)


def test_a_draft_keeps_how_it_was_made(shelf, hull):
    from lean_sepia.answers.coats.draft import draft_of

    project, zone = hull
    done, coat = _lay(project, zone, shelf, "marking", of="71, 8, 66", printed="white")
    again = draft_of(done, coat)
    assert isinstance(again, Draft)
    assert (again.printed, again.thinned) == ("white", "")
