"""The whole model lighter or heavier with one figure: light kinds first, the signature kept, what is done as it is."""

import pytest

from lean_sepia.answers.wearing.whole_model import factor_of, levels_of, signature_coats, weathered
from lean_sepia.document.edits.planning import set_step_done
from lean_sepia.document.edits.zones import name_feature


@pytest.fixture
def plain(worked):
    """The demo without what people know it by."""
    return worked.model_copy(update={"features": ()})


def _on(project):
    return {coat.kind for coat in project.coats if coat.on}


def test_one_is_as_planned_and_nothing_is_clean(plain):
    assert weathered(plain, 1.0) == plain
    clean = _on(weathered(plain, 0.0))
    assert not clean & {"fade", "filter", "chips", "wash", "dust"}
    assert {"base", "marking", "matte-coat", "primer"} <= clean


def test_light_kinds_come_first():
    at = [factor_of(kind, 0.45) for kind in ("fading", "tinting", "washing", "marks", "veils")]
    assert at == sorted(at, reverse=True)
    assert at[-1] == 0
    assert all(factor_of(kind, 1.5) == 1.5 for kind in ("fading", "veils"))


def test_marks_grow_and_never_beyond_the_area(plain):
    chips = next(coat for coat in plain.coats_of("hull") if coat.kind == "chips")
    assert weathered(plain, 1.5).coat(chips.id).area_share == pytest.approx(1.5 * chips.area_share, abs=1e-4)


def test_what_people_know_it_by_stays(worked):
    project = name_feature(worked, "Rust chips along the rail", feature_id=worked.features[0].id)
    kept = signature_coats(project)
    assert kept
    for name in kept:
        assert weathered(project, 0.2).coat(name) == project.coat(name)


def test_what_is_done_stays(worked):
    fade = next(coat for coat in worked.coats if coat.kind == "fade")
    project = set_step_done(worked, fade.step, True)
    assert weathered(project, 0.0).coat(fade.id) == project.coat(fade.id)


def test_levels_say_what_is_worn_and_how_long_it_takes(plain):
    levels = levels_of(plain)
    worn = [one.worn for one in levels.each]
    assert worn == sorted(worn)
    assert worn[0] == pytest.approx(0)
    assert levels.at(0.0).minutes < levels.planned.minutes
    nearest = levels.at(levels.as_photo)
    assert nearest.missed == min(one.missed for one in levels.each)
    assert levels.usual("subtle") == 0.5
