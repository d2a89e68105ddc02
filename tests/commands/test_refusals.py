"""One clear line for bad input, plain words without JSON, and a display that is recognised."""

import pytest

from lean_sepia import cli


def test_plain_words_without_json(call, demo_master):
    code, out, _ = call("mix", "--shelf", demo_master.shelf_file, "--target", "47,-19,-3", "--max-paints", 2)
    assert code == 0
    assert "ΔE00" in out
    assert not out.lstrip().startswith("{")


BAD = [
    ("sample", "{photo}"),
    ("sample", "{photo}", "--at", "1,2"),
    ("sample", "{photo}", "--at", "9999,2,3"),
    ("sample", "{photo}", "--at", "a,b,c"),
    ("sample", "{nothing}", "--at", "1,2,3"),
    ("sample", "{empty}", "--at", "1,2,3"),
    ("sample", "{text}", "--at", "1,2,3"),
    ("sample", "{photo}", "--at", "10,10,3", "--chart", "1,1,2,2,3,3,4,4"),
    ("sample", "{photo}", "--at", "10,10,3", "--neutral", "5,5,2,180"),
    ("mix", "--shelf", "{shelf}"),
    ("mix", "--shelf", "{shelf}", "--target", "150,0,0"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0"),
    ("mix", "--shelf", "{nothing}", "--target", "50,0,0"),
    ("mix", "--shelf", "{text}", "--target", "50,0,0"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--coats", "2"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--over", "50,0,0", "--thinner-share", "1.5"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--over", "50,0,0,shiny"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--varnish", "wet"),
    ("mix", "--shelf", "{shelf}", "--targets", "{nothing}"),
    ("mix", "--shelf", "{shelf}", "--targets", "{text}"),
    ("mix", "--shelf", "{shelf}", "--target", "50,0,0", "--max-paints", "0"),
    ("fade", "--shelf", "{shelf}", "--base", "nobody=1", "--target", "50,0,0"),
    ("fade", "--shelf", "{shelf}", "--base", "chalk", "--target", "50,0,0"),
    ("fade", "--shelf", "{shelf}", "--base", "chalk=0", "--target", "50,0,0"),
    ("glaze", "--shelf", "{shelf}", "--base", "50,0,0", "--target", "50,0,0", "--target", "40,0,0"),
    ("wear", "{photo}", "--region", "0,0,9999,10", "--base", "5,5,2", "--mm-per-px", "1", "--scale", "96"),
    ("wear", "{photo}", "--region", "0,0,50,50", "--base", "5,5,2", "--mm-per-px", "0", "--scale", "96"),
    (
        "wear",
        "{photo}",
        "--region",
        "0,0,50,50",
        "--base",
        "5,5,2",
        "--class",
        "rust",
        "--mm-per-px",
        "1",
        "--scale",
        "96",
    ),
    ("plan", "check", "{text}"),
    ("plan", "schedule", "{text}", "--start", "x", "--evenings", "mon 19:00-20:00"),
    ("card", "{text}", "--pdf", "{out}"),
    ("card", "{nothing}", "--pdf", "{out}"),
    ("nonsense",),
    ("mix", "--no-such-option"),
]


@pytest.mark.parametrize("arguments", BAD, ids=lambda a: " ".join(a)[:60])
def test_bad_input_is_one_line_and_exit_code_2(call, demo_master, tmp_path, arguments):
    (tmp_path / "empty.jpg").write_bytes(b"")
    (tmp_path / "words.txt").write_text("neither picture nor shelf nor plan")
    places = {
        "photo": demo_master.photo("slide-1957.jpg"), "shelf": demo_master.shelf_file, "nothing": tmp_path / "nothing",
        "empty": tmp_path / "empty.jpg", "text": tmp_path / "words.txt", "out": tmp_path / "out.pdf",
    }  # fmt: skip
    code, out, err = call(*(argument.format(**places) for argument in arguments))
    assert code == 2
    assert out == ""
    assert len(err.strip().splitlines()) == 1
    assert len(err.strip()) > 15
    assert "Traceback" not in err
    assert not (tmp_path / "out.pdf").exists()


def test_display_is_recognised(monkeypatch, tmp_path):
    for name in ("DISPLAY", "WAYLAND_DISPLAY"):
        monkeypatch.delenv(name, raising=False)
    assert not cli.display_available()
    monkeypatch.setenv("DISPLAY", ":4711")
    assert not cli.display_available()
    monkeypatch.setenv("DISPLAY", "elsewhere:0")
    assert cli.display_available()
    monkeypatch.delenv("DISPLAY")
    monkeypatch.setenv("WAYLAND_DISPLAY", "wayland-9")
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    assert not cli.display_available()
    (tmp_path / "wayland-9").touch()
    assert cli.display_available()
