"""Grey made of lit and dark pixels: by a threshold, by an ordered pattern, or by error diffusion.

Which is right depends on the picture: a drawing or a logo stays clean by a threshold, a photograph needs its greys. The
figures say what each costs.
"""

from __future__ import annotations

import numpy as np

from lesart.core.block import Bools, Floats
from lesart.core.dataclass_later import dataclass

THRESHOLD, ORDERED, DIFFUSED = WAYS = ("threshold", "ordered", "diffused")
EYE = 5
"""Pixels to a side that the eye merges at reading distance."""
FLAT_SHARE = 0.9
"""From this share of pixels near black or white a picture is flat art."""
NEAR = 0.12


@dataclass(frozen=True)
class Dithered:
    """``tone_error``: RMS error of the grey of 5×5 pixel areas, 0 to 1.

    ``lone``: share of pixels unlike all neighbours, which look like dirt, and cost a redraw when they move.
    """

    way: str
    pixels: Bools
    tone_error: float
    lone: float


def dither(grey: Floats, way: str, level: float = 0.5) -> Bools:
    """Lit pixels of a grey picture of shape (height, width), 0 black to 1 white; white is lit.

    ``threshold``: lit where the grey is at least ``level``. ``ordered``: against the recursive 4×4 pattern of Bayer.
    ``diffused``: the error of each pixel goes 7/16 right, 3/16, 5/16, 1/16 below, by Floyd and Steinberg.
    """
    if way == THRESHOLD:
        return grey >= level
    if way == ORDERED:
        height, width = grey.shape
        pattern = np.tile(_ordered(), (height // 4 + 1, width // 4 + 1))[:height, :width]
        return grey - (level - 0.5) > pattern
    return _diffused(grey, level)


def _ordered() -> Floats:
    """Thresholds of the 4×4 pattern, each 1/16 apart, in the middle of their steps."""
    two = np.array([[0, 2], [3, 1]])
    four = np.block([[4 * two, 4 * two + 2], [4 * two + 3, 4 * two + 1]])
    return (four + 0.5) / 16.0


def _diffused(grey: Floats, level: float) -> Bools:
    height, width = grey.shape
    left = grey.tolist()
    lit = np.zeros((height, width), bool)
    below = [0.0] * (width + 2)
    for y in range(height):
        row, following = left[y], [0.0] * (width + 2)
        carried = 0.0
        for x in range(width):
            value = row[x] + carried + below[x + 1]
            on = value >= level
            lit[y, x] = on
            error = value - on
            carried = error * 7 / 16
            following[x] += error * 3 / 16
            following[x + 1] += error * 5 / 16
            following[x + 2] += error / 16
        below = following
    return lit


def every_way(grey: Floats, level: float = 0.5) -> tuple[Dithered, ...]:
    """Every way with its figures.

    ``grey`` from 0 dark to 1 light, shape (rows, columns); so is ``level``, the threshold.
    """
    return tuple(_judged(grey, way, dither(grey, way, level)) for way in WAYS)


def _judged(grey: Floats, way: str, pixels: Bools) -> Dithered:
    off = _blurred(pixels.astype(float)) - _blurred(grey)
    return Dithered(way, pixels, float(np.sqrt(np.mean(off * off))), lone_share(pixels))


def _blurred(picture: Floats) -> Floats:
    """Means of 5×5 pixels, edges repeated."""
    wide = np.pad(picture, EYE // 2, mode="edge")
    windows = np.lib.stride_tricks.sliding_window_view(wide, (EYE, EYE))
    return np.asarray(windows.mean(axis=(2, 3)), float)


def lone_share(pixels: Bools) -> float:
    """Share, 0 to 1, of pixels unlike all of their four neighbours; shape (rows, columns)."""
    height, width = pixels.shape
    like = np.zeros((height, width), bool)
    across, down = pixels[:, 1:] == pixels[:, :-1], pixels[1:] == pixels[:-1]
    like[:, 1:] |= across
    like[:, :-1] |= across
    like[1:] |= down
    like[:-1] |= down
    return float(np.mean(~like))


def is_flat(grey: Floats) -> bool:
    """True for black and white art, ignoring edges, which a dither would only roughen.

    Shape (rows, columns), 0 to 1.
    """
    near = (grey < NEAR) | (grey > 1.0 - NEAR)
    return bool(near.mean() >= FLAT_SHARE)


def proposed(grey: Floats) -> str:
    """``threshold`` for flat art; else the way that keeps the greys best. Shape (rows, columns), 0 to 1."""
    if is_flat(grey):
        return THRESHOLD
    return min(every_way(grey), key=lambda each: each.tone_error).way
