"""What a project says of the person and not of its subject: what they own, when and where they work, how fast things dry there."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from lean_sepia.document.check import broken_rule
from lean_sepia.document.model import Project

_HABITS = ("owns", "evenings", "workplace", "drying")


def habits_of(project: Project) -> dict[str, Any]:
    """What the next project of the same person begins with, as JSON."""
    return project.model_dump(mode="json", include=set(_HABITS))


def with_habits(project: Project, habits: Mapping[str, Any]) -> Project:
    """A project with those of some habits that are sound; of what is not, its own stays."""
    for name in _HABITS:
        if name not in habits:
            continue
        try:
            changed = Project.model_validate({**project.model_dump(), name: habits[name]})
        except (ValidationError, TypeError, ValueError, ArithmeticError):
            continue
        if broken_rule(changed) is None:
            project = changed
    return project
