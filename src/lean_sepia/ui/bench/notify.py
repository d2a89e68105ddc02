"""A notice through the desktop, as far as one listens; nothing depends on it."""

from __future__ import annotations

from PySide6.QtDBus import QDBusConnection, QDBusMessage

_SERVICE, _PATH = "org.freedesktop.Notifications", "/org/freedesktop/Notifications"
_STAYS_MS = 20_000


def notify(title: str, words: str) -> bool:
    """Show a notice; returns whether there was a desktop to hand it to. It does not wait for an answer."""
    bus = QDBusConnection.sessionBus()
    if not bus.isConnected():
        return False
    message = QDBusMessage.createMethodCall(_SERVICE, _PATH, _SERVICE, "Notify")
    message.setArguments(["Lean Sepia", 0, "", title, words, [], {}, _STAYS_MS])
    return bus.send(message)
