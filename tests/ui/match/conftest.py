"""Match with the demo's hull chosen."""

import pytest


@pytest.fixture
def room(workspace):
    workspace.session.choose_zone("hull")
    workspace.open_room("match")
    return workspace.rooms["match"]
