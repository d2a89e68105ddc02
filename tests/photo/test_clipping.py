"""Pixels at the end of their scale: said, never measured silently."""

import json

import numpy as np
import pytest
from PIL import Image

from lean_sepia import cli
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.sample import clipping_words, sample_disc


def disc(share, colour=(200, 120, 40), end=255, channels=(0,)):
    """A flat picture with a share of its pixels at an end of some channels."""
    pixels = np.full((60, 60, 3), colour, dtype=np.uint8)
    pixels += np.random.default_rng(3).integers(0, 3, pixels.shape, dtype=np.uint8)
    hit = np.random.default_rng(4).random((60, 60)) < share
    for channel in channels:
        pixels[hit, channel] = end
    return pixels


def test_a_disc_that_is_nearly_all_clipped_is_wide_and_says_so():
    clean = sample_disc(disc(0.0), Cast(), 30, 30, 15)
    found = sample_disc(disc(0.92), Cast(), 30, 30, 15)
    assert clean.clipped == ()
    assert clipping_words(clean.clipped, clean.bound) == ""
    (red,) = found.clipped
    assert (red.channel, red.end) == ("red", "high")
    assert red.share == pytest.approx(0.92, abs=0.05)
    assert found.de00_90**2 > clean.de00_90**2 + 25
    assert "red 9" in clipping_words(found.clipped, found.bound)
    assert not found.bound


def test_where_all_channels_are_clipped_it_is_only_a_bound():
    found = sample_disc(disc(0.97, channels=(0, 1, 2)), Cast(), 30, 30, 15)
    assert found.bound
    assert "only a bound" in clipping_words(found.clipped, found.bound)


def test_the_dark_end_is_said_in_other_words():
    found = sample_disc(disc(0.8, end=0, channels=(2,)), Cast(), 30, 30, 15)
    (blue,) = found.clipped
    assert (blue.channel, blue.end) == ("blue", "low")
    assert "was not recorded" in clipping_words(found.clipped, found.bound)


def test_the_command_line_says_it_in_words_and_as_data(tmp_path, monkeypatch, capsys):
    Image.fromarray(disc(0.92)).save(tmp_path / "bright.png")
    said = {}
    for form in ("words", "--json"):
        arguments = ["lean-sepia", "sample", str(tmp_path / "bright.png"), "--at", "30,30,15"]
        monkeypatch.setattr("sys.argv", arguments + ([form] if form == "--json" else []))
        cli.main()
        said[form] = capsys.readouterr().out
    assert "clipped red" in said["words"]
    (sample,) = json.loads(said["--json"])["samples"]
    assert sample["clipped"][0]["channel"] == "red"
    assert sample["bound"] is False
