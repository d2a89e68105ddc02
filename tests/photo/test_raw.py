"""Camera raw: DNG files written here, developed with the balance and the matrix that they name."""

import io

import numpy as np
import pytest
import tifffile

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.srgb import rgb_to_xyz_matrix, xyz_from_linear
from lean_sepia.errors import PictureError
from lean_sepia.photo.correction.cast import AS_FOUND, Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.read import decode_picture

BLACK, WHITE, CELL = 256, 16383, 48
CAMERA = np.array(
    [[0.9, -0.3, -0.05], [-0.4, 1.2, 0.25], [-0.05, 0.15, 0.6]]
)  # XYZ to the sensor's own channels
COLOURS = np.array(
    [
        [0.2, 0.2, 0.2],
        [0.5, 0.5, 0.5],
        [0.3, 0.1, 0.05],
        [0.05, 0.2, 0.1],
        [0.05, 0.08, 0.3],
        [0.4, 0.35, 0.1],
    ]
)
TAGS = {"version": 50706, "backward": 50707, "model": 50708, "cells": 33421, "filters": 33422, "black": 50714, "white": 50717,
        "matrix": 50721, "light": 50778, "neutral": 50728, "turned": 274}  # fmt: skip
RED_GREEN_GREEN_BLUE = ((0, 0, 0), (0, 1, 1), (1, 0, 1), (1, 1, 2))


def _fractions(values):
    return [part for value in np.ravel(values) for part in (round(10_000 * float(value)), 10_000)]


def dng(sensor, neutral, turned=1):
    """A DNG file of sensor values (h, w, 3) in 0–1 behind a mosaic of filters."""
    stored = np.clip(sensor, 0, 1) * (WHITE - BLACK) + BLACK
    mosaic = np.empty(sensor.shape[:2], np.uint16)
    for row, column, channel in RED_GREEN_GREEN_BLUE:
        mosaic[row::2, column::2] = stored[row::2, column::2, channel].round()
    extra = [
        (TAGS["version"], "B", 4, (1, 4, 0, 0), True), (TAGS["backward"], "B", 4, (1, 1, 0, 0), True),
        (TAGS["model"], "s", 0, "Simulated stand-in", True), (TAGS["cells"], "H", 2, (2, 2), True),
        (TAGS["filters"], "B", 4, (0, 1, 1, 2), True), (TAGS["black"], "H", 1, BLACK, True), (TAGS["white"], "H", 1, WHITE, True),
        (TAGS["matrix"], "2i", 9, _fractions(CAMERA), True), (TAGS["light"], "H", 1, 21, True),
        (TAGS["neutral"], "2I", 3, _fractions(neutral), True), (TAGS["turned"], "H", 1, turned, True),
    ]  # fmt: skip
    file = io.BytesIO()
    tifffile.imwrite(file, mosaic, photometric=32803, extratags=extra, metadata=None)
    return file.getvalue()


def field(gains=(1.0, 1.0, 1.0), turned=1):
    """A DNG file of six fields under a light that changes the sensor's channels by gains, exposed so that white is at 0.9."""
    to_sensor = rgb_to_xyz_matrix().T @ CAMERA.T * gains
    white = np.ones(3) @ to_sensor
    fields = (COLOURS @ to_sensor / white.max() * 0.9).reshape(2, 3, 3)
    return dng(np.kron(fields, np.ones((CELL, CELL, 1))), white / white.max(), turned)


def middle(number):
    return (number % 3 + 0.5) * CELL, (number // 3 + 0.5) * CELL


@pytest.mark.parametrize("gains", [(1.0, 1.0, 1.0), (1.4, 1.0, 0.5), (0.7, 1.0, 1.3)])
def test_balance_and_matrix_of_the_file_are_honoured(gains):
    picture = decode_picture(field(gains), "quay.dng")
    assert picture.pixels.dtype == np.uint16
    for number, colour in enumerate(COLOURS):
        seen = disc_patch(picture.pixels, *middle(number), 9).mean / 0.9
        assert float(delta_e00(AS_FOUND.lab(seen), lab_from_xyz(xyz_from_linear(colour)))) < 0.6


def test_a_grey_sets_the_exposure_and_sixteen_bits_are_kept():
    ramp = np.linspace(0.02, 0.6, 6 * CELL)[None, :, None] * np.ones((CELL, 1, 3))
    to_sensor = rgb_to_xyz_matrix().T @ CAMERA.T
    white = np.ones(3) @ to_sensor
    picture = decode_picture(dng(ramp * white / white.max() * 0.9, white / white.max()), "ramp.DNG")
    assert len(np.unique(picture.pixels[CELL // 2, :, 1])) > 200
    cast = fit_cast(picture.pixels, [Anchor(3 * CELL, CELL / 2, 4, 60.0)])
    assert cast.lab(disc_patch(picture.pixels, 3 * CELL, CELL / 2, 4).mean)[0] == pytest.approx(60, abs=0.5)


def test_a_turned_camera_gives_an_upright_picture():
    upright = decode_picture(field(turned=6), "quay.dng")
    assert (upright.width, upright.height) == (2 * CELL, 3 * CELL)


@pytest.mark.parametrize("cut", [40, 400, 4000])
def test_a_damaged_file_is_one_message(cut):
    with pytest.raises(PictureError, match=r"quay\.dng"):
        decode_picture(field()[:cut], "quay.dng")
