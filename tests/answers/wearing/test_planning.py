"""Wear planned without a photo, simulated and measured back, charted, and compared with the model."""

import numpy as np
import pytest

from lean_sepia.answers.preview.texture import Frame
from lean_sepia.answers.wearing.comparing import compare, verdict_words
from lean_sepia.answers.wearing.planning import (
    likely_places,
    plain_cut,
    plan_of,
    share_of,
    vehicle_total,
    wear_rows,
)
from lean_sepia.answers.wearing.simulating import STOP_SHARES, simulate, stop_marks
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.document.edits.coats import pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.wear import plan_wear, set_smallest_mark
from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.model import Project
from lean_sepia.document.worn import PlannedWear, Source, WearClass, WearPlan, WearRecord
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


@pytest.fixture
def hull(shelf_paints):
    project, zone = add_zone(Project(title="Any"), "Hull")
    return pin_base(project, zone, Mix.of(shelf_paints, [("slate-teal", 1)]), Manner(3)), zone


@pytest.mark.parametrize("heaviness", [0.5, 1.0, 3.0])
@pytest.mark.parametrize("seed", [1, 2])
def test_a_simulated_zone_has_what_was_asked(hull, shelf_paints, heaviness, seed):
    project, zone = hull
    plan = PLAN.model_copy(update={"heaviness": heaviness, "seed": seed})
    shown = simulate(project, zone, plan, shelf_paints, FRAME)
    for planned in plan.kinds:
        assert shown.shares[planned.kind].mean() == pytest.approx(share_of(plan, planned), rel=0.05), (
            planned.kind
        )


def test_measured_back_it_has_what_was_asked(hull, shelf_paints):
    project, zone = hull
    plan = PLAN.model_copy(update={"kinds": PLAN.kinds[:2], "heaviness": 2.0})
    shown = simulate(project, zone, plan, shelf_paints, FRAME)
    rows = {row.kind: row for row in wear_rows(project, plain_cut(project, zone), plan, shelf_paints)}
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


def test_another_seed_and_the_other_side_lie_elsewhere(hull, shelf_paints):
    project, zone = hull
    one, again = (simulate(project, zone, PLAN, shelf_paints, FRAME) for _time in range(2))
    assert (one.xyz == again.xyz).all()
    other, port = add_zone(project, "Hull, port side")
    zones = tuple(one.model_copy(update={"mirrors": port}) if one.id == zone else one for one in other.zones)
    other = other.model_copy(update={"zones": zones})
    for different in (
        simulate(project, zone, PLAN.model_copy(update={"seed": 12}), shelf_paints, FRAME),
        simulate(other, zone, PLAN, shelf_paints, FRAME),
    ):
        rust = one.shares["rust"], different.shares["rust"]
        assert np.corrcoef(rust[0].ravel(), rust[1].ravel())[0, 1] < 0.2


def test_wear_gathers_at_its_sources_and_runs_down_from_them(hull, shelf_paints):
    project, zone = hull
    plan = PLAN.model_copy(
        update={"sources": (Source(what="step", x=0.25, y=0.5), Source(what="hinge", x=0.75, y=0.3))}
    )
    shares = simulate(project, zone, plan, shelf_paints, FRAME).shares
    left, right = shares["rust"][:, :300].mean(), shares["rust"][:, 300:].mean()
    assert left > 1.5 * right
    streaks = shares["streaks"]
    assert streaks[:, 350:].mean() > 1.5 * streaks[:, :250].mean()
    assert streaks[130:, 400:500].mean() > 3 * streaks[:100, 400:500].mean()
    mirrored = likely_places(plan, "rust", (40, 60), other_side=True)
    assert np.unravel_index(mirrored.argmax(), mirrored.shape)[1] == pytest.approx(45, abs=1)


def test_dust_lies_low_and_climate_counts():
    dust = likely_places(WearPlan(), "dust", (40, 60), other_side=False)
    assert (np.diff(dust[:, 0]) > 0).all()
    arid, damp = (WearPlan(climate=climate) for climate in ("arid", "damp"))
    streaks, algae = PlannedWear(kind="streaks", share=0.02), PlannedWear(kind="algae", share=0.02)
    assert share_of(arid, streaks) < 0.3 * share_of(damp, streaks)
    assert share_of(arid, algae) == 0


def test_rows_say_with_what_how_many_and_whether_it_will_show(hull, shelf_paints):
    project, zone = hull
    project = project.model_copy(update={"subjects": (project.subjects[0].model_copy(update={"scale": 96}),)})
    rows = {row.kind: row for row in wear_rows(project, plain_cut(project, zone), PLAN, shelf_paints)}
    rust = rows["rust"]
    assert rust.seen_mm == pytest.approx(60 / 96)
    assert rust.shows
    assert rust.visible
    assert rust.made.on_prototype_mm == pytest.approx(96 * rust.made.smallest_mm)
    assert rust.draft.area_share == pytest.approx(0.03)
    assert rust.draft.of
    small = PLAN.model_copy(update={"kinds": (PlannedWear(kind="rust", share=0.01, median_mm=5),)})
    (tiny,) = wear_rows(project, plain_cut(project, zone), small, shelf_paints)
    assert not tiny.visible
    assert tiny.made.too_coarse
    finer = set_smallest_mark(project, "speckle", 0.04)
    (better,) = wear_rows(finer, plain_cut(finer, zone), small, shelf_paints)
    assert not better.made.too_coarse


def test_light_before_dark_or_the_reverse(hull, shelf_paints):
    project, zone = hull
    cut = plain_cut(project, zone)
    light = [row.kind for row in wear_rows(project, cut, PLAN, shelf_paints)]
    dark = [
        row.kind
        for row in wear_rows(project, cut, PLAN.model_copy(update={"dark_first": True}), shelf_paints)
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


def test_the_chart_shows_the_shares_it_names(hull, shelf_paints):
    project, zone = hull
    patches = stop_marks(project, zone, shelf_paints, Frame(480, 204, 6.0), PLAN)
    assert [share for share, _shown in patches] == list(STOP_SHARES)
    for share, shown in patches:
        assert shown.covered == pytest.approx(share, rel=0.05)
    pdf = wear_chart("Hull", 96, [(share, shown.pixels) for share, shown in patches])
    assert pdf.startswith(b"%PDF")
    assert pdf == wear_chart("Hull", 96, [(share, shown.pixels) for share, shown in patches])


def test_nothing_known_is_not_drawn(shelf_paints):
    project, zone = add_zone(Project(title="Any"), "Hull")
    assert simulate(project, zone, PLAN, shelf_paints, FRAME) is None
    assert stop_marks(project, zone, shelf_paints, FRAME) == []


def record(percent, median, heights, mm_per_px=1.0):
    one = WearClass(
        name="rust", lab=(36, 20, 22), coverage_percent=percent, coverage_range90=(0.9 * percent, 1.1 * percent), median_mm=median,
        p90_mm=2 * median, count=40, direction_deg=None, edge_share=0.1, by_height=heights,
    )  # fmt: skip
    return WearRecord(
        mm_per_px=mm_per_px, coverage_percent=percent, classes=(one,), iso_4628_3="Ri 4", astm_d610=5, smallest_visible_mm=8,
        visible_coverage_percent=percent, tint_lab_shift=(0, 0, 0),
    )  # fmt: skip


def test_the_model_is_told_too_much_too_large_too_even_and_where():
    asked = record(2.0, 60, (0.0, 0.01, 0.01, 0.02, 0.06))
    (much,) = compare(asked, record(5.0, 1.5, (0.05, 0.05, 0.05, 0.05, 0.05)), 96)
    assert (much.amount, much.even, much.where) == ("much", True, 0)
    assert much.larger == pytest.approx(1.5 * 96 / 60)
    words = verdict_words(much)
    assert all(part in words for part in ("too much", "too large", "too even", "top"))
    (little,) = compare(asked, record(0.5, 0.6, (0.0, 0.0025, 0.0025, 0.005, 0.015)), 96)
    assert (little.amount, little.even) == ("little", False)
    assert "more marks" in verdict_words(little, 0.6)
    (right,) = compare(asked, record(2.1, 0.62, (0.0, 0.01, 0.01, 0.02, 0.06)), 96)
    assert right.amount == "right"
