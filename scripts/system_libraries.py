"""Name the Debian packages that hold the system libraries Qt needs and this machine lacks."""

import ctypes
import sys

LIBRARIES = {
    "libEGL.so.1": "libegl1",
    "libGL.so.1": "libgl1",
    "libxkbcommon.so.0": "libxkbcommon0",
    "libfontconfig.so.1": "libfontconfig1",
    "libdbus-1.so.3": "libdbus-1-3",
    "libglib-2.0.so.0": "libglib2.0-0",
    "libxcb-cursor.so.0": "libxcb-cursor0",
    "libxcb-icccm.so.4": "libxcb-icccm4",
    "libxcb-keysyms.so.1": "libxcb-keysyms1",
    "libxcb-shape.so.0": "libxcb-shape0",
    "libxkbcommon-x11.so.0": "libxkbcommon-x11-0",
}


def missing_packages() -> list[str]:
    """Debian packages whose library cannot be loaded here."""
    packages = []
    for library, package in LIBRARIES.items():
        try:
            ctypes.CDLL(library)
        except OSError:
            packages.append(package)
    return packages


if __name__ == "__main__":
    lacking = missing_packages()
    if lacking:
        sys.exit(f"System libraries are missing. On Debian: apt-get install {' '.join(lacking)}")
