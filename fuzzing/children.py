"""A piece of an attack in a process of its own, which may end in any way; what it says is heard to the end."""

from __future__ import annotations

import os
import signal
import sys
import time
import traceback
from collections.abc import Callable


def heard(
    work: Callable[[Callable[[str], None]], object],
    patience_s: float = 60.0,
    *,
    killed_after_s: float | None = None,
) -> list[str]:
    """What `work` tells in a forked child, line by line; of one that is killed, what it told until then.

    Raises
    ------
    AssertionError
        The child ended with an error, which is quoted, or did not end.
    """
    reading, writing = os.pipe()
    child = os.fork()
    if child == 0:
        code = 1
        try:
            os.close(reading)
            work(lambda line: os.write(writing, f"{line}\n".encode()))
            code = 0
        except BaseException:  # noqa: BLE001 - a child must never come back into its parent's work
            os.write(writing, traceback.format_exc(limit=-12).encode())
        finally:
            sys.stderr.flush()
            os._exit(code)
    os.close(writing)
    if killed_after_s is not None:
        time.sleep(killed_after_s)
        os.kill(child, signal.SIGKILL)
    said, end = b"", time.monotonic() + patience_s
    os.set_blocking(reading, False)
    while time.monotonic() < end:
        try:
            piece = os.read(reading, 65536)
        except BlockingIOError:
            time.sleep(0.005)
            continue
        if not piece:
            break
        said += piece
    else:
        os.kill(child, signal.SIGKILL)
    os.close(reading)
    _pid, status = os.waitpid(child, 0)
    text = said.decode(errors="replace")
    if status != 0 and killed_after_s is None:
        raise AssertionError(f"the child ended with {status}: {text[-3000:]}")
    return text.split("\n")[:-1]
