"""Name the Debian packages that hold the system libraries Qt needs and this machine lacks. Imports no Qt."""

import ctypes
import importlib
import sys

ALWAYS = {
    "libEGL.so.1": "libegl1",
    "libGL.so.1": "libgl1",
    "libxkbcommon.so.0": "libxkbcommon0",
    "libfontconfig.so.1": "libfontconfig1",
    "libfreetype.so.6": "libfreetype6",
    "libdbus-1.so.3": "libdbus-1-3",
    "libglib-2.0.so.0": "libglib2.0-0",
    "libzstd.so.1": "libzstd1",
}
"""Needed with or without a display."""

X_DISPLAY = {
    "libX11-xcb.so.1": "libx11-xcb1",
    "libxcb-cursor.so.0": "libxcb-cursor0",
    "libxcb-icccm.so.4": "libxcb-icccm4",
    "libxcb-image.so.0": "libxcb-image0",
    "libxcb-keysyms.so.1": "libxcb-keysyms1",
    "libxcb-randr.so.0": "libxcb-randr0",
    "libxcb-render-util.so.0": "libxcb-render-util0",
    "libxcb-shape.so.0": "libxcb-shape0",
    "libxcb-sync.so.1": "libxcb-sync1",
    "libxcb-xfixes.so.0": "libxcb-xfixes0",
    "libxcb-xkb.so.1": "libxcb-xkb1",
    "libxkbcommon-x11.so.0": "libxkbcommon-x11-0",
}
"""Needed to show a window on an X11 display."""


def missing_packages(libraries: dict[str, str]) -> list[str]:
    """Debian packages of the libraries that cannot be loaded here."""
    packages = []
    for library, package in libraries.items():
        try:
            ctypes.CDLL(library)
        except OSError:
            packages.append(package)
    return packages


def missing_for_setup() -> list[str]:
    """What setting up an environment needs of Python that Debian packs apart."""
    try:
        importlib.import_module("venv")
        importlib.import_module("ensurepip")
    except ImportError:
        return ["python3-venv"]
    return []


def lacking_for(*, window: bool) -> list[str]:
    """Packages that are missing to draw here at all, or to open a window on an X11 display: all of them at once."""
    return missing_packages({**ALWAYS, **(X_DISPLAY if window else {})})


def advice(packages: list[str]) -> str:
    """One line that says what to install."""
    return f"Something of the system is missing. On Debian: apt-get install {' '.join(packages)}"


if __name__ == "__main__":
    setup = missing_for_setup() if "--venv" in sys.argv else []
    if lacking := [*setup, *lacking_for(window="--display" in sys.argv)]:
        sys.exit(advice(lacking))
