"""Everything the program says no to: one class per thing a caller treats differently.

A message says what was found, the rule, and what to do. The caller adds what was kept.
"""

from __future__ import annotations

_LONGEST = 700


class SepiaError(Exception):
    """Base of every error the program raises on purpose; its text is meant for the user, and so is kept to a length."""

    def __str__(self) -> str:
        words = super().__str__()
        return words if len(words) <= _LONGEST else f"{words[: _LONGEST // 2]} … {words[-_LONGEST // 2 :]}"


class BadInputError(SepiaError):
    """What the user gave cannot be used; the command line ends with exit code 2."""


class PictureError(BadInputError):
    """A file that should be a picture is missing, damaged, too large or not one."""


class SampleError(BadInputError):
    """A sample, anchor or region cannot be read from its picture."""


class ColourError(BadInputError):
    """A stated colour is outside what a surface can show."""


class ShelfError(BadInputError):
    """A shelf file or a paint on it breaks a rule."""


class PlanError(BadInputError):
    """A plan file, a step, or the evenings it is to be done in break a rule."""


class ProjectFileError(BadInputError):
    """A file is no project, a damaged one, or from a newer version of the program."""


class NewerVersionError(ProjectFileError):
    """A file or document was written by a newer version of the program; it is never passed over."""


class InUseError(ProjectFileError):
    """A project is open elsewhere; it can be read, or a copy of it worked on."""


class SaveError(ProjectFileError):
    """A project could not be saved; what was saved before is whole. `lost` where its file is gone or another's now."""

    def __init__(self, words: str, *, lost: bool = False) -> None:
        super().__init__(words)
        self.lost = lost


class EditError(BadInputError):
    """An edit would leave the document in a state that breaks its rules."""


class JobCancelled(SepiaError):  # noqa: N818 - an ending the user asked for, not a fault
    """Raised inside a background job when the user stopped it."""
