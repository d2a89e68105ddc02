"""What Wear says of marks that were measured."""

import numpy as np
import pytest

from lean_sepia.answers.wearing.kinds import WEAR_KINDS, wear_words
from lean_sepia.answers.wearing.surveying import marks_of, measured_region
from lean_sepia.answers.wearing.told import size_bars, where_words
from lean_sepia.document.edits.items import put


@pytest.fixture
def record(worked):
    return measured_region(worked, "hull").wear


def test_only_measured_regions_count(worked):
    region = measured_region(worked, "hull")
    assert region.wear is not None
    assert measured_region(worked, "boot") is None or measured_region(worked, "boot").wear is None
    bare = put(worked, "regions", region.model_copy(update={"wear": None}))
    assert measured_region(bare, "hull") is None or measured_region(bare, "hull").wear is None


def test_each_kind_becomes_a_coat_on_its_share(record):
    marks = marks_of(record)
    assert [mark.kind for mark in marks] == [WEAR_KINDS[found.name].kind for found in record.classes]
    for mark, found in zip(marks, record.classes, strict=True):
        assert mark.area_share == pytest.approx(found.coverage_percent / 100)
        assert mark.lab == found.lab


@pytest.mark.parametrize(
    ("angle", "said"),
    [(None, "7 whole marks, 25 %"), (0.0, "straight down"), (-14.0, "straight down"), (14.9, "straight down"),
     (30.0, "30° to the right of straight down"), (-45.0, "45° to the left of straight down"), (15.0, "15° to the right")],
)  # fmt: skip
def test_which_way_marks_run(record, angle, said):
    found = record.classes[0].model_copy(update={"direction_deg": angle, "count": 7, "edge_share": 0.25})
    assert said in where_words(found)
    assert "7 whole marks" in where_words(found)
    assert "25 % at the border" in where_words(found)


def test_one_mark_is_one(record):
    assert "1 whole mark," in where_words(record.classes[0].model_copy(update={"count": 1}))


def test_kinds_are_named_and_others_keep_their_own_name():
    assert wear_words("rust") == "rust"
    assert wear_words("limescale") == "limescale"


def test_bars_are_a_factor_of_root_two_wide_and_hold_all_marks():
    sizes = np.array([3.0, 4.1, 5.0, 9.0, 60.0])
    edges, counts = size_bars(sizes, limit_mm=0.1)
    assert edges[0] == 2
    assert np.allclose(edges[1:] / edges[:-1], np.sqrt(2))
    assert counts.sum() == sizes.size
    assert edges[-1] > 60
    assert counts.size == edges.size - 1


def test_bars_take_in_the_smallest_mark_that_can_be_seen():
    edges, counts = size_bars(np.array([40.0, 50.0]), limit_mm=9.0)
    assert edges[0] <= 9.0
    assert counts.sum() == 2
    away, _ = size_bars(np.array([400.0, 500.0]), limit_mm=9.0)
    assert away[0] == 256  # far below what there is it would only be empty bars
    tiny, _ = size_bars(np.array([0.01, 0.02]), limit_mm=0.001)
    assert tiny.size >= 5  # two octaves at least
