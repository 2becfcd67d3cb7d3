"""Colours of pixels: their names on faces, and the bits that a panel keeps of each.

A colour panel's memory has the lit pixels, and bit planes with the number of each one's colour in a short list of
names: so earlier content keeps its colour as on the glass.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Colours = npt.NDArray[np.uint8]
"""Shape (…, 3): red, green, blue, each 0 to 255."""

COLOURS = {
    "white": "#ffffff",
    "grey": "#808080",
    "red": "#ff0000",
    "orange": "#ff9000",
    "yellow": "#ffff00",
    "green": "#00ff00",
    "cyan": "#00ffff",
    "blue": "#0000ff",
    "violet": "#ff00ff",
    "black": "#000000",
}
OWN = "as the panel"
"""No colour of its own: number 0 in the planes."""
PLACES = (OWN, *COLOURS)
PLANES = (len(PLACES) - 1).bit_length()
TWO_BYTES, THREE_BYTES = DEPTHS = ("16", "18")
"""Bits per pixel: two bytes with 5 of red, 6 of green, 5 of blue; three bytes with 6 in the upper bits of each.

Source: the open standard of commands for such displays.
"""


def size_of_pixel(depth: str) -> int:
    """Bytes per pixel."""
    return 2 if depth == TWO_BYTES else 3


def rgb(colour: str) -> tuple[int, int, int]:
    """Red, green and blue of ``#rrggbb``."""
    red, green, blue = bytes.fromhex(colour[1:])
    return red, green, blue


def encoded(colours: Colours, depth: str) -> Colours:
    """Bytes in sending order, the last axis those of a pixel."""
    if depth == THREE_BYTES:
        return (colours & 0xFC).astype(np.uint8)
    wide = colours.astype(np.uint16)
    packed = (wide[..., 0] >> 3 << 11) | (wide[..., 1] >> 2 << 5) | wide[..., 2] >> 3
    return np.stack((packed >> 8, packed & 0xFF), axis=-1).astype(np.uint8)


def decoded(values: npt.NDArray[np.int64], depth: str) -> Colours:
    """What pixels show whose bytes, the first one highest, make up these values.

    The highest bits are repeated below, so that all of them lit is white.
    """
    if depth == THREE_BYTES:
        parts = [values >> shift & 0xFC for shift in (16, 8, 0)]
        return np.stack([part | part >> 6 for part in parts], axis=-1).astype(np.uint8)
    red, green, blue = values >> 11 & 0x1F, values >> 5 & 0x3F, values & 0x1F
    return np.stack((red << 3 | red >> 2, green << 2 | green >> 4, blue << 3 | blue >> 2), axis=-1).astype(np.uint8)


def values_of(data: Colours) -> npt.NDArray[np.int64]:
    """Bytes of pixels, the last axis those of one, as an integer each."""
    wide = data.astype(np.int64)
    found = wide[..., 0]
    for place in range(1, wide.shape[-1]):
        found = found << 8 | wide[..., place]
    return found
