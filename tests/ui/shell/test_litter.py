"""Litter is looked for at rest: off while the program starts, once when a project is open, and again over all when it is closed."""

import gc

import pytest

from lean_sepia.ui.shell.litter import hold_off, set_aside, take_back


@pytest.fixture(autouse=True)
def as_it_was():
    yield
    gc.unfreeze()
    gc.enable()


class Ring:
    def __init__(self):
        self.itself = self


def test_what_stays_is_set_aside_and_what_comes_after_is_still_cleared_away():
    hold_off()
    assert not gc.isenabled()
    set_aside()
    assert gc.isenabled()
    assert gc.get_freeze_count() > 10_000
    assert len(gc.get_objects()) < gc.get_freeze_count()
    rings = [Ring() for _count in range(50)]
    del rings
    assert gc.collect() >= 50


def test_once_a_project_is_closed_all_of_it_is_looked_at_again():
    ring = Ring()
    set_aside()
    del ring
    assert not any(isinstance(one, Ring) for one in gc.get_objects())  # set aside, it is not looked at
    take_back()
    assert any(isinstance(one, Ring) for one in gc.get_objects())
    gc.collect()
    assert not any(isinstance(one, Ring) for one in gc.get_objects())
