"""A picture in sixels, six rows of pixels per character, as old terminals and many of today draw them.

Source: the reference manual of the terminal that had them first, chapter on sixel graphics. Written here and not taken
from a package: the one considered writes the whole picture whenever any of it changes, queries the terminal while the
program reads keys from it, and has only a private encoder.
"""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np

from lesart.draw.raster import Indices

BAND = 6
BEGIN, END = "\x1bP0;1;0q", "\x1b\\"
"""Introducer and terminator; pixels without a colour are left as they are."""
REPEATED = re.compile(rb"(.)\1{3,}")
WEIGHTS = (1 << np.arange(BAND)).astype(np.uint8)


def sixels(indices: Indices, colours: Sequence[str]) -> str:
    """Sixels of an image of shape (height, width), indices into ``colours``."""
    height, width = indices.shape
    used = np.flatnonzero(np.bincount(indices.ravel(), minlength=len(colours))).tolist()
    head = f'{BEGIN}"1;1;{width};{height}' + "".join(_defined(place, colours[place]) for place in used)
    bands = [_band(indices[top : top + BAND]) for top in range(0, height, BAND)]
    return head + "-".join(bands) + END


def _defined(place: int, colour: str) -> str:
    """A colour definition in hundredths of red, green and blue."""
    red, green, blue = (round(part * 100 / 255) for part in bytes.fromhex(colour[1:]))
    return f"#{place};2;{red};{green};{blue}"


def _band(rows: Indices) -> str:
    """A band of six rows: for each colour its pixels, then back to the left for the next colour."""
    weights = WEIGHTS[: len(rows), None]
    parts = []
    for place in np.flatnonzero(np.bincount(rows.ravel())):
        letters = ((rows == place) * weights).sum(axis=0, dtype=np.uint8) + np.uint8(63)
        parts.append(f"#{place}" + REPEATED.sub(_repeat, letters.tobytes()).decode("ascii"))
    return "$".join(parts)


def _repeat(run: re.Match[bytes]) -> bytes:
    return b"!%d%c" % (len(run.group()), run.group()[0])
