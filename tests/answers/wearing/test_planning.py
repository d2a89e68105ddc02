"""Wear planned without a photo, simulated and measured back, charted, and compared with the model."""

from dataclasses import replace

import cv2
import numpy as np
import pytest

from lean_sepia.answers.preview.texture import Frame
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.wearing.bottles import Bottles
from lean_sepia.answers.wearing.places import likely_places
from lean_sepia.answers.wearing.planning import (
    lay_rows,
    plan_of,
    planned_share,
    share_of,
    vehicle_total,
    veiled_share,
    wear_rows,
)
from lean_sepia.answers.wearing.simulating import STOP_SHARES, simulate, stop_marks
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.document.edits.coats import pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.wear import plan_wear, set_smallest_mark
from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.entities.worn import PlannedWear, Source, WearPlan
from lean_sepia.document.model import Project
from lean_sepia.report.wear_chart import wear_chart
from lean_sepia.wear.scene import XyzLook
from lean_sepia.wear.survey import survey

FRAME = Frame(600, 400, 12.0)
PLAN = WearPlan(
    kinds=(
        PlannedWear(kind="rust", share=0.03, median_mm=60),
        PlannedWear(kind="scratch", share=0.012, median_mm=50),
        PlannedWear(kind="streaks", share=0.02, median_mm=200),
    )
)


@pytest.fixture(scope="module")
def bottles(shelf_paints):
    return Bottles(shelf_paints)


@pytest.fixture
def hull(shelf_paints):
    project, zone = add_zone(Project(title="Any"), "Hull")
    return pin_base(project, zone, Mix.of(shelf_paints, [("slate-teal", 1)]), Manner(3)), zone


@pytest.mark.parametrize("heaviness", [0.5, 1.0, 3.0])
@pytest.mark.parametrize("seed", [1, 2])
def test_a_simulated_zone_has_what_was_asked(hull, bottles, heaviness, seed):
    project, zone = hull
    plan = PLAN.model_copy(update={"heaviness": heaviness, "seed": seed})
    shown = simulate(project, zone, plan, bottles, FRAME)
    for planned in plan.kinds:
        assert shown.shares[planned.kind].mean() == pytest.approx(share_of(plan, planned), rel=0.05), (
            planned.kind
        )


def test_measured_back_it_has_what_was_asked(hull, bottles):
    project, zone = hull
    plan = PLAN.model_copy(update={"kinds": PLAN.kinds[:2], "heaviness": 2.0})
    shown = simulate(project, zone, plan, bottles, FRAME)
    rows = {row.kind: row for row in wear_rows(project, zone, plan, bottles)}
    bare = 1 - sum(shown.shares.values())
    ground = lab_from_xyz(np.median(shown.xyz[bare > 0.99], axis=0))
    found = survey(
        XyzLook(shown.xyz),
        ground,
        {name: np.array(row.lab) for name, row in rows.items()},
        mm_per_px=96 / 12,
        scale=96,
    )
    for measure in found.classes:
        assert measure.coverage_percent == pytest.approx(100 * rows[measure.name].share, rel=0.05), (
            measure.name
        )


def test_another_seed_and_the_other_side_lie_elsewhere(hull, bottles):
    project, zone = hull
    one, again = (simulate(project, zone, PLAN, bottles, FRAME) for _time in range(2))
    assert (one.xyz == again.xyz).all()
    other, port = add_zone(project, "Hull, port side")
    zones = tuple(one.model_copy(update={"mirrors": port}) if one.id == zone else one for one in other.zones)
    other = other.model_copy(update={"zones": zones})
    for different in (
        simulate(project, zone, PLAN.model_copy(update={"seed": 12}), bottles, FRAME),
        simulate(other, zone, PLAN, bottles, FRAME),
    ):
        rust = one.shares["rust"], different.shares["rust"]
        assert np.corrcoef(rust[0].ravel(), rust[1].ravel())[0, 1] < 0.2


def test_wear_gathers_at_its_sources_and_runs_down_from_them(hull, bottles):
    project, zone = hull
    plan = PLAN.model_copy(
        update={"sources": (Source(what="step", x=0.25, y=0.5), Source(what="bolt", x=0.75, y=0.3))}
    )
    shares = simulate(project, zone, plan, bottles, FRAME).shares
    left, right = shares["rust"][:, :300].mean(), shares["rust"][:, 300:].mean()
    assert left > 1.5 * right
    streaks = shares["streaks"]
    assert streaks[:, 350:].mean() > 1.5 * streaks[:, :250].mean()
    assert streaks[130:, 400:500].mean() > 3 * streaks[:100, 400:500].mean()
    mirrored = likely_places(plan, "rust", (40, 60), plan.sources, other_side=True)
    assert np.unravel_index(mirrored.argmax(), mirrored.shape)[1] == pytest.approx(45, abs=1)


def test_a_hinge_gathers_chips_and_streaks_fed_from_above_begin_at_the_top(hull, bottles):
    project, zone = hull
    at_hinge = PLAN.model_copy(update={"sources": (Source(what="hinge", x=0.25, y=0.5),)})
    rust = simulate(project, zone, at_hinge, bottles, FRAME).shares["rust"]
    assert rust[:, :300].mean() > 1.5 * rust[:, 300:].mean()
    fed = WearPlan(
        kinds=(PlannedWear(kind="streaks", share=0.05),), sources=(Source(what="runoff", x=0.5, y=0.0),)
    )
    streaks = simulate(project, zone, fed, bottles, FRAME).shares["streaks"]
    tops = [np.flatnonzero(column > 0.2)[0] for column in streaks[:, 200:400].T if (column > 0.2).any()]
    assert np.median(tops) < 0.15 * streaks.shape[0]


def test_dust_beside_chips_leaves_the_chips_on_the_stop_marks_and_is_no_wear(hull, bottles):
    project, zone = hull
    dusty = PLAN.model_copy(update={"kinds": (*PLAN.kinds, PlannedWear(kind="dust", share=0.3))})
    bare, veiled = (stop_marks(project, zone, bottles, FRAME, plan) for plan in (PLAN, dusty))
    for (share, one), (_same, other) in zip(bare, veiled, strict=True):
        assert other.shares["rust"].mean() == pytest.approx(one.shares["rust"].mean(), rel=0.1), share
    assert planned_share(dusty) == planned_share(PLAN)
    assert veiled_share(dusty) == pytest.approx(0.3)


def test_dust_lies_low_and_climate_counts():
    dust = likely_places(WearPlan(), "dust", (40, 60))
    assert (np.diff(dust[:, 0]) > 0).all()
    arid, damp = (WearPlan(climate=climate) for climate in ("arid", "damp"))
    streaks, algae = PlannedWear(kind="streaks", share=0.02), PlannedWear(kind="algae", share=0.02)
    assert share_of(arid, streaks) < 0.3 * share_of(damp, streaks)
    assert share_of(arid, algae) == 0


def test_rows_say_with_what_how_many_and_whether_it_will_show(hull, bottles):
    project, zone = hull
    project = project.model_copy(update={"subjects": (project.subjects[0].model_copy(update={"scale": 96}),)})
    rows = {row.kind: row for row in wear_rows(project, zone, PLAN, bottles)}
    rust = rows["rust"]
    assert rust.seen_mm == pytest.approx(60 / 96)
    assert rust.shows
    assert rust.visible
    assert rust.made.on_prototype_mm == pytest.approx(96 * rust.made.smallest_mm)
    assert rust.draft.area_share == pytest.approx(0.03)
    assert rust.draft.of
    small = PLAN.model_copy(update={"kinds": (PlannedWear(kind="rust", share=0.01, median_mm=5),)})
    (tiny,) = wear_rows(project, zone, small, bottles)
    assert not tiny.visible
    assert tiny.made.too_coarse
    finer = set_smallest_mark(project, "speckle", 0.04)
    (better,) = wear_rows(finer, zone, small, bottles)
    assert not better.made.too_coarse


def test_light_before_dark_or_the_reverse(hull, bottles):
    project, zone = hull
    light = [row.kind for row in wear_rows(project, zone, PLAN, bottles)]
    dark = [
        row.kind for row in wear_rows(project, zone, PLAN.model_copy(update={"dark_first": True}), bottles)
    ]
    assert light[0] == "scratch"
    assert dark == light[::-1]


def test_the_whole_vehicle_is_counted_by_area(hull):
    project, zone = hull
    assert vehicle_total(project, project.subjects[0].id) is None
    project, other = add_zone(plan_wear(project, zone, PLAN), "House")
    assert plan_of(project, project.zone(zone)) == PLAN
    areas = {zone: 300.0, other: 100.0}
    project = project.model_copy(
        update={"zones": tuple(one.model_copy(update={"area_cm2": areas[one.id]}) for one in project.zones)}
    )
    assert vehicle_total(project, project.subjects[0].id) == pytest.approx(0.75 * 0.062)


def test_the_chart_shows_the_shares_it_names(hull, bottles):
    project, zone = hull
    patches = stop_marks(project, zone, bottles, Frame(480, 204, 6.0), PLAN)
    assert [share for share, _shown in patches] == list(STOP_SHARES)
    for share, shown in patches:
        assert shown.covered == pytest.approx(share, rel=0.05)
    pdf = wear_chart("Hull", 96, [(share, shown.pixels) for share, shown in patches])
    assert pdf.startswith(b"%PDF")
    assert pdf == wear_chart("Hull", 96, [(share, shown.pixels) for share, shown in patches])


def test_nothing_known_is_not_drawn(bottles):
    project, zone = add_zone(Project(title="Any"), "Hull")
    assert simulate(project, zone, PLAN, bottles, FRAME) is None
    assert stop_marks(project, zone, bottles, FRAME) == []


def test_rows_are_what_the_strata_show_when_they_are_laid(hull, bottles):
    project, zone = hull
    rows = wear_rows(project, zone, PLAN, bottles)
    laid, coats = lay_rows(project, zone, rows, bottles)
    bands = {band.coat.id: band for band in strata_of(laid, zone).bands}
    for row in rows:
        band = bands[coats[row.kind]]
        assert band.coat.area_share == pytest.approx(row.share)
        assert band.coat.passes == row.draft.passes
        assert band.coat.recipe
        assert band.lab == pytest.approx(row.lab, abs=0.05)
    again, same = lay_rows(laid, zone, wear_rows(laid, zone, PLAN, bottles), bottles)
    assert same == coats
    assert len(again.coats) == len(laid.coats)


def test_translucent_marks_get_the_passes_they_need(hull, bottles):
    project, zone = hull
    sand = next(paint for paint in bottles.paints if paint.name == "Sand")
    pale = Bottles([replace(sand, K=sand.K / 5, S=sand.S / 5)])
    plan = WearPlan(kinds=(PlannedWear(kind="scratch", share=0.01),))
    (row,) = wear_rows(project, zone, plan, pale)
    once, _coats = lay_rows(project, zone, [replace(row, draft=replace(row.draft, passes=1))], pale)
    thin = next(band.lab for band in strata_of(once, zone).bands if band.coat.kind == "chips")
    assert row.draft.passes > 1
    assert row.away < float(delta_e00(np.array(thin), np.array(row.wanted)))


def test_without_bottles_marks_have_their_plain_colour(hull):
    project, zone = hull
    rows = wear_rows(project, zone, PLAN, Bottles([]))
    assert all(row.away < 2 for row in rows)  # flat paint is never quite that dark
    assert len(lay_rows(project, zone, rows, Bottles([]))[1]) == 3


def test_dust_and_soot_are_soft_veils_of_their_share(hull, bottles):
    project, zone = hull
    plan = WearPlan(kinds=(PlannedWear(kind="dust", share=0.3), PlannedWear(kind="rust", share=0.03)))
    shares = simulate(project, zone, plan, bottles, FRAME).shares
    dust = shares["dust"]
    assert dust.mean() == pytest.approx(0.3, rel=0.02)
    assert ((dust > 0.02) & (dust < 0.98)).mean() > 0.5
    assert dust[300:].mean() > 2 * dust[:100].mean()
    assert shares["rust"].mean() == pytest.approx(0.03, rel=0.05)


def test_chips_of_two_tones_have_their_core_inside_their_rim(hull, bottles):
    project, zone = hull
    kinds = (PlannedWear(kind="scratch", share=0.04), PlannedWear(kind="rust", share=0.03))
    both = [
        simulate(project, zone, WearPlan(kinds=kinds, two_tone=two), bottles, FRAME).shares
        for two in (False, True)
    ]
    beside = []
    for shares in both:
        assert shares["scratch"].mean() == pytest.approx(0.04, rel=0.05)
        assert shares["rust"].mean() == pytest.approx(0.03, rel=0.05)
        near = cv2.dilate((shares["rust"] > 0.5).astype(np.uint8), np.ones((7, 7), np.uint8)) > 0
        beside.append(shares["scratch"][near].sum() / shares["scratch"].sum())
    assert beside[1] > 3 * beside[0]
