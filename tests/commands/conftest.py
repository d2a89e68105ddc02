"""The command-line contract: its JSON."""

import json
from functools import partial

import pytest


def _answer(call, *arguments):
    code, out, err = call(*arguments, "--json")
    assert code == 0, err
    return json.loads(out)


@pytest.fixture
def answer(call):
    """Runs a command and reads its JSON."""
    return partial(_answer, call)
