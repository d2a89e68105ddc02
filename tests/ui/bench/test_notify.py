"""Notices of the desktop, against a stand-in server on a bus of our own."""

import os
import shutil
import subprocess
import threading

import pytest
from jeepney import DBusAddress, HeaderFields, MessageType, new_method_call, new_method_return
from jeepney.io.blocking import open_dbus_connection

from lean_sepia.ui.bench.notify import notify

NAME = "org.freedesktop.Notifications"


@pytest.fixture
def bus(tmp_path, monkeypatch):
    """Address of a private bus; the machine's own is not touched."""
    daemon = shutil.which("dbus-daemon")
    if daemon is None:
        if os.environ.get("CI") == "true":
            pytest.fail("dbus-daemon is missing")
        pytest.skip("dbus-daemon is missing: Debian's dbus-daemon")
    config = tmp_path / "bus.conf"
    config.write_text(
        '<!DOCTYPE busconfig PUBLIC "-//freedesktop//DTD D-Bus Bus Configuration 1.0//EN" '
        '"http://www.freedesktop.org/standards/dbus/1.0/busconfig.dtd">'
        f"<busconfig><type>session</type><listen>unix:path={tmp_path}/bus</listen>"
        '<policy context="default"><allow send_destination="*" eavesdrop="true"/><allow own="*"/>'
        '<allow eavesdrop="true"/></policy></busconfig>'
    )
    process = subprocess.Popen(
        [daemon, f"--config-file={config}", "--nofork", "--print-address=1"],
        stdout=subprocess.PIPE,
        text=True,
    )
    address = process.stdout.readline().strip()
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", address)
    yield address
    process.terminate()
    process.wait()
    process.stdout.close()


@pytest.fixture
def server(bus):
    """A desktop that takes one notice and keeps it."""
    connection = open_dbus_connection(bus)
    own = new_method_call(
        DBusAddress("/org/freedesktop/DBus", "org.freedesktop.DBus", "org.freedesktop.DBus"),
        "RequestName",
        "su",
        (NAME, 0),
    )
    connection.send_and_get_reply(own)
    got = []

    def serve():
        while not got:
            message = connection.receive(timeout=10)
            if message.header.message_type is MessageType.method_call:
                got.append(message)
                connection.send(new_method_return(message, "u", (1,)))

    thread = threading.Thread(target=serve, daemon=True)
    thread.start()
    yield got
    connection.close()
    thread.join(timeout=5)


def test_a_notice_as_the_specification_has_it(server):
    assert notify("Ready", "Base <b>& more</b>\x00 is\nready")
    (message,) = server
    assert message.header.fields[HeaderFields.signature] == "susssasa{sv}i"
    assert message.header.fields[HeaderFields.member] == "Notify"
    assert message.body == (
        "Lean Sepia", 0, "lean-sepia", "Ready", "Base &lt;b&gt;&amp; more&lt;/b&gt; is ready", [], {}, 20_000,
    )  # fmt: skip


def test_a_bus_without_a_desktop_takes_none(bus):
    assert not notify("Ready", "Base")


@pytest.mark.parametrize("address", ["", "unix:path=/nowhere/bus", "nonsense", "unix:path="])
def test_without_a_bus_nothing_happens(monkeypatch, tmp_path, address):
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", address)
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    assert not notify("Ready", "Base")
