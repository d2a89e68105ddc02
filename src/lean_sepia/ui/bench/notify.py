"""A notice through the desktop, as far as one listens; nothing depends on it.

Desktop Notifications Specification 1.2: Notify has the signature susssasa{sv}i, and markup in its body.
"""

from __future__ import annotations

import contextlib
import html
import os

from jeepney import DBusAddress, new_method_call
from jeepney.io.blocking import open_dbus_connection

from lean_sepia.files.gate import one_line

_SERVICE = DBusAddress(
    "/org/freedesktop/Notifications", "org.freedesktop.Notifications", "org.freedesktop.Notifications"
)
_SIGNATURE = "susssasa{sv}i"
_STAYS_MS, _PATIENCE_S = 20_000, 2.0


def notify(title: str, words: str) -> bool:
    """Show a notice; whether there was a desktop that took it. It may wait for that: call it in a job."""
    bus = _bus()
    if not bus:
        return False
    body: tuple[object, ...] = (
        "Lean Sepia",
        0,
        "lean-sepia",
        one_line(title),
        html.escape(one_line(words), quote=False),
        [],
        {},
        _STAYS_MS,
    )
    try:
        with contextlib.closing(open_dbus_connection(bus)) as connection:
            call = new_method_call(_SERVICE, "Notify", _SIGNATURE, body)
            reply = connection.send_and_get_reply(call, timeout=_PATIENCE_S)
    except Exception:  # noqa: BLE001 - whatever the desktop does, the bench goes on
        return False
    return reply.header.message_type.name == "method_return"


def _bus() -> str:
    """Address of the session's bus; empty where there is none."""
    if told := os.environ.get("DBUS_SESSION_BUS_ADDRESS", ""):
        return told
    usual = os.path.join(os.environ.get("XDG_RUNTIME_DIR", ""), "bus")
    return f"unix:path={usual}" if os.path.isabs(usual) and os.path.exists(usual) else ""
