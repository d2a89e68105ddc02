"""What the demo's document comes to."""

import pytest

from lean_sepia.project.strata import strata_of


@pytest.fixture
def cuts():
    """A function from a document to the strata of every zone."""
    return lambda project: {zone.id: strata_of(project, zone.id) for zone in project.zones}
