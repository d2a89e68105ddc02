"""Amounts have one meaning everywhere: the thinned mix a zone takes, and what of it is paint."""

import math

import pytest

from lean_sepia.answers.amounts import (
    CUP_ML,
    amount_words,
    cup_notes,
    cups_of,
    drop_rate,
    needed,
    set_aside,
    thinned,
    usual_volume,
)
from lean_sepia.answers.bench import bench_steps, laying_words, span
from lean_sepia.answers.match import usual_mix
from lean_sepia.answers.plan import answer, ask
from lean_sepia.answers.strata import strata_of
from lean_sepia.document.edits.coats import (
    change_coat,
    lay_fade,
    lay_filter,
    lay_marking,
    lay_varnish,
    pin_base,
    switch_coat,
)
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.zones import add_zone, change_zone
from lean_sepia.document.model import Project
from lean_sepia.paint.tools import TOOLS
from lean_sepia.recipe.parts import MOST_COUNTED_DROPS, Measured, measure_out

GREEN = [("sea-green", 5), ("chalk", 2), ("lamp", 1)]


@pytest.fixture
def hull(shelf_paints):
    """A hull of 200 cm² with a base of three paints."""
    project, zone = add_zone(Project(title="Tender"), "Hull")
    project = change_zone(project, project.zone(zone).model_copy(update={"area_cm2": 200.0}))
    return pin_base(project, zone, Mix.of(shelf_paints, GREEN), Manner(passes=2, thinner_share=0.6))


def base_of(project):
    return next(coat for coat in project.coats if coat.kind == "base")


@pytest.mark.parametrize(
    ("tool", "arrives", "stays"),
    [("airbrush", 0.5, 0.3), ("close", 0.5, 0.3), ("mist", 0.5, 0.3), ("spray-can", 0.4, 0.0), ("brush", 0.9, 0.3),
     ("glaze", 0.9, 0.3), ("flood", 0.9, 0.3), ("seam", 0.9, 0.3), ("sponge", 0.7, 0.3), ("drybrush", 0.7, 0.3)],
)  # fmt: skip
def test_what_an_area_takes(tool, arrives, stays):
    """(area × coats × 25 µm × spread ÷ what arrives + what stays in the tool) × 1.25."""
    spread = TOOLS[tool].spread
    for area, coats in ((100.0, 1), (100.0, 2), (37.0, 3)):
        expected = (area * coats * 0.0025 * spread / arrives + stays) * 1.25
        found = usual_volume(area, coats, 0.4, tool)
        assert found.total_ml == pytest.approx(expected)
        assert found.paint_ml == pytest.approx(0.6 * expected)


def test_thinner_is_part_of_the_mix():
    volume = thinned(10.0, 0.6)
    assert (volume.total_ml, volume.paint_ml, volume.thinner_ml) == pytest.approx((10, 4, 6))
    assert usual_volume(None, 2, 0.6, "airbrush").total_ml == CUP_ML
    assert usual_volume(0, 9, 0.25, "brush").paint_ml == pytest.approx(0.75 * CUP_ML)


def test_a_coat_takes_what_was_said_else_what_its_area_needs(hull):
    coat = base_of(hull)
    assert needed(hull, coat) == usual_volume(200.0, 2, 0.6, "airbrush")
    assert usual_mix(hull, "z1", 2, 0.6) == needed(hull, coat)
    said = change_coat(hull, coat.id, mix_ml=9.0)
    assert needed(said, base_of(said)).total_ml == 9.0
    part = lay_marking(hull, "z1", Mix(lab=(90.0, 0.0, 0.0)), Manner(area_share=0.1, tool="brush"))
    mark = next(c for c in part.coats if c.kind == "marking")
    assert needed(part, mark) == usual_volume(20.0, 1, 0.0, "brush")


def test_the_cup_holds_the_parts_in_their_proportion(hull):
    (cup,) = cups_of(hull, hull.coats_of("z1"))
    assert [line.count for line in cup.lines] == [5, 2, 1]
    smallest = cup.lines[2].amount.ml
    assert [line.amount.ml for line in cup.lines] == pytest.approx([5 * smallest, 2 * smallest, smallest])
    assert cup.paint_ml == pytest.approx(8 * smallest)
    wanted = needed(hull, base_of(hull)).paint_ml
    assert wanted <= cup.paint_ml < wanted + 8 / 20 + 1e-9
    assert cup.thinner_ml == pytest.approx(1.5 * cup.paint_ml)
    assert cup.total_ml == pytest.approx(cup.paint_ml + cup.thinner_ml)
    assert cup.by_area
    assert cup_notes(cup)[0] == f"{cup.total_ml:.1f} ml in all"


def test_a_fade_takes_its_share_out_of_the_bases_cup(hull, shelf_paints):
    faded = lay_fade(
        hull, "z1", Mix.of(shelf_paints, [("chalk", 1)], base_parts=3), Manner(passes=2, thinner_share=0.8)
    )
    fade = next(coat for coat in faded.coats if coat.kind == "fade")
    taken = needed(faded, fade).paint_ml * 3 / 4
    ((name, ml),) = set_aside(faded, {base_of(faded).recipe})
    assert (name, ml) == ("Fade, Hull", pytest.approx(taken))
    (plain,), (more,) = (cups_of(p, [base_of(p)]) for p in (hull, faded))
    assert more.paint_ml - plain.paint_ml == pytest.approx(taken, abs=8 / 20)
    assert (
        more.thinner_ml / more.paint_ml < plain.thinner_ml / plain.paint_ml
    )  # what is set aside is not thinned
    assert any("aside before thinning" in said for said in cup_notes(more))
    off = switch_coat(faded, fade.id, False)
    assert set_aside(off, {base_of(off).recipe}) == ()
    (cup,) = cups_of(faded, [fade])
    assert [(line.count, line.version is None) for line in cup.lines] == [(3, True), (1, False)]


def test_coats_of_one_mix_share_a_cup_and_others_do_not(hull, shelf_paints):
    project, roof = add_zone(hull, "Roof")
    project = change_zone(project, project.zone(roof).model_copy(update={"area_cm2": 100.0}))
    umber = Mix.of(shelf_paints, [("oil-raw-umber", 1)])
    project = lay_filter(project, ["z1", roof], umber, Manner(passes=1, thinner_share=0.95))
    filters = [coat for coat in project.coats if coat.kind == "filter"]
    (cup,) = cups_of(project, filters)
    assert [coat.zone for coat in cup.coats] == ["z1", roof]
    assert cup.lines[0].amount.bead_mm is not None
    assert amount_words(cup.lines[0].amount).startswith("a bead of")
    thicker = change_coat(project, filters[1].id, thinner_share=0.9)
    assert len(cups_of(thicker, [coat for coat in thicker.coats if coat.kind == "filter"])) == 2
    assert cups_of(project, [c.model_copy(update={"on": False}) for c in filters]) == []


def test_a_large_batch_is_split_into_equal_cups(hull):
    large = change_coat(hull, base_of(hull).id, mix_ml=20.0)
    (cup,) = cups_of(large, [base_of(large)])
    assert cup.cups == math.ceil(cup.total_ml / CUP_ML) == 3
    assert cup_notes(cup)[-1] == f"in 3 equal cups of {cup.total_ml / 3:.1f} ml"
    bare = change_zone(hull, hull.zone("z1").model_copy(update={"area_cm2": None}))
    (cup,) = cups_of(bare, [base_of(bare)])
    assert not cup.by_area
    assert "the area is not given" in cup_notes(cup)[0]


def test_drops_are_counted_as_far_as_anyone_counts(shelf_paints):
    few, many = measure_out([1], 0.5, [20.0]), measure_out([1], 0.7, [20.0])
    assert (few[0].drops, many[0].drops) == (10, None)
    assert MOST_COUNTED_DROPS == 12
    assert amount_words(Measured(0.05, 1)) == "1 drop"
    assert amount_words(Measured(0.45, 9)) == "9 drops"
    assert amount_words(Measured(1.44)) == "1.4 ml"
    assert amount_words(Measured(0.001, bead_mm=0.2)) == "a bead of 1 mm"
    oil = next(paint for paint in shelf_paints if paint.medium == "oil")
    chalk = next(paint for paint in shelf_paints if paint.id == "chalk")
    assert drop_rate(oil) is None
    assert drop_rate(chalk) == (chalk.drops_per_ml or 20)


def test_the_bench_says_what_the_cup_holds(hull):
    project = lay_varnish(hull, ["z1"], "matte-coat")
    cuts = {"z1": strata_of(project, "z1")}
    base, varnish = bench_steps(project, cuts, answer(ask(project)))
    assert (base.number, varnish.number) == (1, 2)
    assert base.cups == tuple(cups_of(project, [base_of(project)]))
    (clear,) = varnish.cups  # no bottle is named of it, and how much it takes is said all the same
    assert clear.lines[0].version is None
    assert clear.total_ml == pytest.approx(needed(project, project.coats[-1]).total_ml)
    assert clear.reserve_ml == 0
    assert base.colours[0].lab == pytest.approx(cuts["z1"].fresh, abs=0.05)
    assert laying_words(project, base_of(project)) == "60 % thinner, 2 coats, airbrush"
    assert base.cautions
    assert not base.done


@pytest.mark.parametrize(
    ("minutes", "said"), [(5, "5 min"), (60, "1 h"), (75, "1 h 15"), (720, "12 h"), (2880, "48 h")]
)
def test_spans_are_said_as_people_say_them(minutes, said):
    assert span(minutes) == said
