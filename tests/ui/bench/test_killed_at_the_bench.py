"""A window killed while steps are ticked off loses no more than the last two seconds."""

import shutil

import pytest
from fuzzing.bench_kills import kill_once


@pytest.mark.parametrize(("seed", "wait_s"), [(2, 2.6)])
def test_killed_at_the_bench(demo, tmp_path, seed, wait_s):
    place = tmp_path / "bench.sepia"
    shutil.copy(demo.worked, place)
    assert kill_once(place, seed, wait_s) > 2
