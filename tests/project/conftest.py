"""The demo's half-worked document."""

import pytest

from lean_sepia.project.store import ProjectStore
from lean_sepia.project.strata import strata_of


@pytest.fixture(scope="module")
def worked(demo_master):
    store = ProjectStore.open(demo_master.worked)
    project, _ = store.load()
    store.close()
    return project


@pytest.fixture
def cuts():
    """A function from a document to the strata of every zone."""
    return lambda project: {zone.id: strata_of(project, zone.id) for zone in project.zones}
