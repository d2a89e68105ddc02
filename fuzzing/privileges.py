"""Being hindered by permissions: root is not, so what makes it root for files is put down."""

from __future__ import annotations

import ctypes
import os

_VERSION_3 = 0x20080522
_DAC_OVERRIDE, _DAC_READ_SEARCH = 1, 2


class _Header(ctypes.Structure):
    _fields_ = (("version", ctypes.c_uint32), ("pid", ctypes.c_int))


class _Data(ctypes.Structure):
    _fields_ = (
        ("effective", ctypes.c_uint32),
        ("permitted", ctypes.c_uint32),
        ("inheritable", ctypes.c_uint32),
    )


def obey_permissions() -> None:
    """From here on this process opens only what its mode bits let it open (capabilities(7)). Of root it cannot be taken back.

    Raises
    ------
    OSError
        The system does not let go of the capabilities.
    """
    if os.geteuid() != 0:
        return
    libc = ctypes.CDLL(None, use_errno=True)
    header, data = _Header(_VERSION_3, 0), (_Data * 2)()
    for call in (libc.capget, libc.capset):
        if call(ctypes.byref(header), ctypes.byref(data)) != 0:
            raise OSError(ctypes.get_errno(), "capabilities")
        data[0].effective &= ~(1 << _DAC_OVERRIDE | 1 << _DAC_READ_SEARCH)
        data[0].permitted &= ~(1 << _DAC_OVERRIDE | 1 << _DAC_READ_SEARCH)
