"""The launcher: odd places, links, two first starts at once, no network, and what is missing said in one line."""

import os
import shutil
import subprocess
import tempfile
from pathlib import Path

import pytest

from lean_sepia.ui import system_libraries

ROOT = Path(__file__).parent.parent
PYTHON = """#!/bin/sh
# A stand-in: it notes how it is called, makes an environment of itself, and fetches nothing.
printf '%s|' "$@" >>"{log}"; printf '\\n' >>"{log}"
case "$*" in
    "-I -m venv "*) mkdir -p "$4/bin"; cp "$0" "$4/bin/python" ;;
    "-I -m pip "*) sleep 0.2; {pip} ;;
    *system_libraries*) {libraries} ;;
    "-I -m lean_sepia "*) shift 3; printf 'started:'; printf ' <%s>' "$@"; printf ' in %s\\n' "$PWD" ;;
esac
"""


@pytest.fixture
def checkout():
    """A checkout with a space in its path, where anyone may look."""
    base = Path(tempfile.mkdtemp(prefix="lean sepia "))
    base.chmod(0o755)
    place = base / "a check out"
    for name in (
        "sepia",
        "pyproject.toml",
        "requirements/run.txt",
        "requirements/dev.txt",
        "src/lean_sepia/ui/system_libraries.py",
    ):
        (place / name).parent.mkdir(parents=True, exist_ok=True)
        shutil.copy(ROOT / name, place / name)
    yield place
    place.chmod(0o755)
    shutil.rmtree(base)


@pytest.fixture
def python(checkout):
    def make(pip="true", libraries="true"):
        fake = checkout.parent / "python"
        fake.write_text(PYTHON.format(log=checkout.parent / "log", pip=pip, libraries=libraries))
        fake.chmod(0o755)
        log = checkout.parent / "log"
        log.touch()
        log.chmod(0o666)
        return fake

    return make


def environment(python):
    return {"PATH": os.environ["PATH"], "PYTHON": str(python)}


def run(place, python, *arguments, cwd=None, **more):
    command = ["sh", str(place), *arguments]
    return subprocess.run(
        command,
        env=environment(python),
        cwd=cwd,
        capture_output=True,
        text=True,
        check=False,
        timeout=60,
        **more,
    )


def called(checkout):
    return (checkout.parent / "log").read_text().splitlines()


def test_a_path_with_spaces_and_names_with_spaces(checkout, python):
    done = run(checkout / "sepia", python(), "run", "my boat.sepia", cwd=checkout.parent)
    assert done.returncode == 0, done.stderr
    assert done.stdout == f"started: <run> <my boat.sepia> in {checkout.parent}\n"
    assert done.stderr == f"Setting up {checkout}/.venv, once.\n"
    again = run(checkout / "sepia", python(), "run", cwd=checkout.parent)
    assert again.stderr == ""
    assert len([line for line in called(checkout) if "|pip|" in line]) == 2


@pytest.mark.parametrize("relative", [True, False])
def test_through_a_link(checkout, python, relative):
    link, other = checkout.parent / "link", checkout.parent / "other"
    link.symlink_to(os.path.relpath(checkout / "sepia", checkout.parent) if relative else checkout / "sepia")
    other.symlink_to("link")
    done = run(other, python(), "amount", cwd="/")
    assert done.stdout == "started: <amount> in /\n", done.stderr
    assert (checkout / ".venv").is_dir()


def test_two_first_starts_at_once_set_up_once(checkout, python):
    fake = python()
    starts = [
        subprocess.Popen(
            ["sh", str(checkout / "sepia"), "run", str(number)],
            env=environment(fake),
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
        for number in range(3)
    ]
    said = [start.communicate(timeout=60) for start in starts]
    assert [start.returncode for start in starts] == [0, 0, 0], said
    assert all(out.startswith(f"started: <run> <{number}>") for number, (out, _err) in enumerate(said))
    assert len([line for line in called(checkout) if line.startswith("-I|-m|venv|")]) == 1
    assert len([line for line in called(checkout) if "|pip|" in line]) == 2


def test_nothing_of_the_current_folder_is_imported(checkout, python):
    run(checkout / "sepia", python(), "run")
    assert all(line.startswith("-I|") for line in called(checkout))


def test_the_real_program_imports_nothing_of_the_current_folder(tmp_path):
    if not (ROOT / ".venv" / "ready-dev").exists():
        pytest.skip("not started by the launcher")
    for name in ("click", "lean_sepia", "gettext", "json", "numpy", "venv", "ctypes"):
        (tmp_path / f"{name}.py").write_text(f"raise SystemExit('{name} was taken from the current folder')")
    done = subprocess.run(
        ["sh", str(ROOT / "sepia"), "ratio", "1:20"], cwd=tmp_path, capture_output=True, text=True, check=False, timeout=60,
        env={**os.environ, "PYTHONPATH": str(tmp_path)},
    )  # fmt: skip
    assert done.returncode == 0, done.stderr + done.stdout
    assert "1 paint to 20 thinner" in done.stdout


def test_no_network_is_one_line(checkout, python):
    pip = "echo 'WARNING: Retrying' >&2; echo 'ERROR: Could not find a version' >&2; echo 'ERROR: No matching distribution found for click' >&2; exit 1"
    done = run(checkout / "sepia", python(pip=pip), "run")
    assert done.returncode == 1
    first, *rest = done.stderr.splitlines()
    assert first.startswith("Setting up")
    (line,) = rest
    assert "network" in line
    assert "No matching distribution found for click" in line
    assert "pip.log" in line
    assert done.stdout == ""
    shutil.copy(python(), checkout / ".venv" / "bin" / "python")
    assert run(checkout / "sepia", python(), "run").returncode == 0  # the next start goes on where it failed


def test_a_read_only_checkout_is_one_line(checkout, python):
    fake = python()
    checkout.chmod(0o555)
    more = {"user": 65534, "group": 65534, "extra_groups": []} if os.getuid() == 0 else {}
    done = run(checkout / "sepia", fake, "run", **more)
    assert done.returncode == 1
    assert done.stderr == (
        f"{checkout} cannot be written to, and the program sets itself up there on first use: copy it to a folder of your own.\n"
    )


def test_what_is_missing_is_named_together_before_anything_is_fetched(checkout, python):
    libraries = "echo 'Something of the system is missing. On Debian: apt-get install a b' >&2; exit 1"
    done = run(checkout / "sepia", python(libraries=libraries), "demo")
    assert (done.returncode, done.stdout) == (1, "")
    assert done.stderr.count("\n") == 1
    assert not (checkout / ".venv").exists()


def test_all_missing_libraries_are_one_command(monkeypatch):
    def nothing(_name):
        raise OSError

    monkeypatch.setattr(system_libraries.ctypes, "CDLL", nothing)
    monkeypatch.setattr(system_libraries, "missing_for_setup", lambda: ["python3-venv"])
    packages = system_libraries.lacking_for(window=True)
    assert packages == [*system_libraries.ALWAYS.values(), *system_libraries.X_DISPLAY.values()]
    assert system_libraries.advice(packages).count("apt-get") == 1


@pytest.mark.parametrize("command", [("demo",), ("tour", "x"), ("run",)])
def test_a_missing_library_is_said_before_anything_is_drawn(call, monkeypatch, command):
    monkeypatch.setattr("lean_sepia.ui.system_libraries.lacking_for", lambda *, window: ["libegl1"])
    monkeypatch.setattr("lean_sepia.cli.display_available", lambda: True)
    monkeypatch.setattr("lean_sepia.demo.folder._make", lambda *_a: pytest.fail("the demo was drawn"))
    code, out, err = call(*command)
    assert (code, out) == (2, "")
    assert err == "Something of the system is missing. On Debian: apt-get install libegl1\n"
