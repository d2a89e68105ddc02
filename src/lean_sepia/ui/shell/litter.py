"""When Python looks for what nobody holds any more: not in the middle of what a hand does.

A look at everything takes as long as several repaints, and comes at any moment. What is there once a project is open stays as long as
it is; set aside, it is not looked at again, and what is left to look at takes no time worth telling.
"""

from __future__ import annotations

import gc


def hold_off() -> None:
    """Do not look while the program starts and its first project opens: nearly all that is made then stays."""
    gc.disable()


def set_aside() -> None:
    """Set aside what is there; from here on litter is looked for as usual, among what comes.

    No look at everything goes before it: the little that was let go while the program started is cleared away with the project.
    """
    gc.freeze()
    gc.enable()


def take_back() -> None:
    """Look at everything again: a project is closed, and most of what was set aside goes with it."""
    gc.unfreeze()
    gc.enable()
