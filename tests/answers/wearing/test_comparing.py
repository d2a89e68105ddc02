"""The model measured and held against what was planned."""

import numpy as np
import pytest

from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.wearing.bottles import Bottles
from lean_sepia.answers.wearing.comparing import Asked, asked_of, compare, verdict_words
from lean_sepia.answers.wearing.planning import wear_rows
from lean_sepia.answers.wearing.surveying import Ground, Pointed, answer, ask, beside
from lean_sepia.answers.wearing.told import beside_words
from lean_sepia.colour.srgb import screen_pixels
from lean_sepia.document.edits.coats import pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.photos import add_photo, place_region
from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.entities.worn import PlannedWear, WearClass, WearPlan, WearRecord
from lean_sepia.document.model import Photo, Project, Region
from lean_sepia.photo.correction.cast_fit import fit_cast

ASKED = Asked("rust", 2.0, (1.6, 2.4), 60 / 96, (0.0, 0.01, 0.01, 0.02, 0.06))


def record(percent, median, heights, name="rust"):
    one = WearClass(
        name=name, lab=(36, 20, 22), coverage_percent=percent, coverage_range90=(0.9 * percent, 1.1 * percent), median_mm=median,
        p90_mm=2 * median, count=40, direction_deg=None, edge_share=0.1, by_height=heights,
    )  # fmt: skip
    return WearRecord(
        mm_per_px=1.0, coverage_percent=percent, classes=(one,), iso_4628_3="Ri 4", astm_d610=5, smallest_visible_mm=8,
        visible_coverage_percent=percent, tint_lab_shift=(0, 0, 0),
    )  # fmt: skip


def test_the_model_is_told_too_much_too_large_too_even_and_where():
    (much,) = compare([ASKED], record(5.0, 1.5, (0.05, 0.05, 0.05, 0.05, 0.05)))
    assert (much.amount, much.even, much.where) == ("much", True, 0)
    assert much.larger == pytest.approx(1.5 * 96 / 60)
    words = verdict_words(much)
    assert all(part in words for part in ("too much", "too large", "too even", "top"))
    (little,) = compare([ASKED], record(0.5, 0.6, (0.0, 0.0025, 0.0025, 0.005, 0.015)))
    assert (little.amount, little.even) == ("little", False)
    assert "more marks" in verdict_words(little, 0.6)
    (right,) = compare([ASKED], record(2.1, 0.62, (0.0, 0.01, 0.01, 0.02, 0.06)))
    assert right.amount == "right"
    (none,) = compare([ASKED], record(2.0, 0.6, (), "scratch"))
    assert (none.amount, none.found) == ("little", 0.0)


@pytest.fixture
def planned(shelf_paints):
    project, zone = add_zone(Project(title="Any"), "Hull")
    project = pin_base(project, zone, Mix.of(shelf_paints, [("slate-teal", 1)]), Manner(3))
    plan = WearPlan(kinds=(PlannedWear(kind="rust", share=0.03, median_mm=60),))
    return project, zone, plan, Bottles(shelf_paints)


def test_a_plan_says_how_much_how_large_and_where(planned):
    project, zone, plan, bottles = planned
    low = plan.model_copy(update={"kinds": (PlannedWear(kind="dust", share=0.2),), "heaviness": 0.5})
    (dust,) = asked_of(project, zone, low, wear_rows(project, zone, low, bottles))
    assert dust.percent == pytest.approx(10)
    assert dust.by_height[4] > 2 * dust.by_height[0]
    assert np.mean(dust.by_height) == pytest.approx(0.1)


@pytest.mark.parametrize(("drawn", "said"), [(0.03, "right"), (0.08, "much"), (0.008, "little")])
def test_a_picture_of_the_model_is_measured_and_judged(planned, drawn, said):
    from lean_sepia.answers.preview.texture import Frame
    from lean_sepia.answers.wearing.simulating import simulate

    project, zone, plan, bottles = planned
    as_made = plan.model_copy(
        update={"kinds": (plan.kinds[0].model_copy(update={"share": drawn}),), "seed": 5}
    )
    pixels = screen_pixels(simulate(project, zone, as_made, bottles, Frame(500, 300, 10.0)).xyz)
    photo = Photo(id="m", sha256="0" * 64, name="m", title="Model", width=500, height=300, of_model=True)
    rows = wear_rows(project, zone, plan, bottles)
    question = ask(
        project, strata_of(project, zone), photo, ((0, 0), (500, 0), (500, 300), (0, 300)),
        [Pointed(row.kind, row.lab) for row in rows], 0.1,
    )  # fmt: skip
    assert question.scale == 1.0
    found = answer(question, pixels, fit_cast(pixels, []))
    (verdict,) = compare(asked_of(project, zone, plan, rows), found.record)
    assert verdict.amount == said
    assert verdict.larger == pytest.approx(1.0, abs=0.3)


def test_another_photo_and_the_other_side_stand_beside(planned):
    project, zone, _plan, _bottles = planned
    project, other = add_zone(project, "Hull, other side")
    zones = tuple(z.model_copy(update={"mirrors": zone}) if z.id == other else z for z in project.zones)
    project = project.model_copy(update={"zones": zones})
    for number, of_model in (("1", False), ("2", False), ("3", True)):
        photo = Photo(
            id=number,
            sha256=number * 64,
            name=number,
            title=f"Slide {number}",
            width=9,
            height=9,
            of_model=of_model,
        )
        project = add_photo(project, photo)
    box = ((0, 0), (9, 0), (9, 9))
    regions = [
        Region(id="w1", zone=zone, photo="1", corners=box, seen=(50, 0, 0), wear=record(2, 60, ())),
        Region(id="w2", zone=zone, photo="2", corners=box, seen=(50, 0, 0), wear=record(3, 60, ())),
        Region(id="w3", zone=other, photo="1", corners=box, seen=(50, 0, 0), wear=record(4, 60, (), "soot")),
        Region(id="w4", zone=zone, photo="3", corners=box, seen=(50, 0, 0), wear=record(5, 60, ())),
    ]
    for region in regions:
        project = place_region(project, region)
    found = beside(project, regions[0])
    assert [name for name, _record in found] == ["Slide 2", "Hull, other side"]
    assert beside_words(regions[0].wear, *found[0]) == "Slide 2: rust 3.0 %"
    assert "rust was not pointed at" in beside_words(regions[0].wear, *found[1])


def test_the_sound_colour_of_the_model_is_its_own_finish(planned):
    project, zone, _plan, _bottles = planned
    cut = strata_of(project, zone)
    photo = Photo(id="m", sha256="0" * 64, name="m", title="m", width=50, height=50, of_model=True)
    box = ((0, 0), (50, 0), (50, 50))
    assert ask(project, cut, photo, box, (), 1.0).ground == Ground(cut.fresh)
    assert ask(project, cut, photo.model_copy(update={"of_model": False}), box, (), 1.0) is None
