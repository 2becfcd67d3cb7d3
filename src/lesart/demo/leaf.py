"""A linden leaf in greys, drawn by a formula: the yard's picture."""

from __future__ import annotations

import io

import numpy as np

SIDE = 96
"""Pixels of the picture to a side."""


def leaf_picture() -> bytes:
    """PNG: a heart with a tip, lit from the upper left, its veins dark, on black."""
    from PIL import Image

    y, x = np.mgrid[0:SIDE, 0:SIDE]
    # From -1 to 1 across, the stalk at the bottom; a heart is a disc whose middle is pulled down.
    u = (x - (SIDE - 1) / 2) / (SIDE * 0.46)
    v = (y - SIDE * 0.48) / (SIDE * 0.42)
    heart = u**2 + (v + 0.28 - 0.62 * np.sqrt(np.abs(u))) ** 2
    inside = heart <= 0.98
    stalk = (np.abs(u) < 0.05) & (v > 0.5) & (v < 1.15)
    light = np.clip(0.78 - 0.30 * u - 0.22 * v, 0.0, 1.0)
    middle = np.abs(u) < 0.035
    side = np.abs((v - 0.9 * np.abs(u)) * 3.2 % 1.0 - 0.5) < 0.07
    grey = np.where(inside, np.where(middle | (side & (heart < 0.8)), 0.15, light), 0.0)
    grey = np.where(stalk & ~inside, 0.6, grey)
    file = io.BytesIO()
    # Turned over, so that it hangs with its tip down, as on the tree.
    Image.fromarray(np.rint(grey[::-1] * 255).astype(np.uint8)).save(file, "PNG")
    return file.getvalue()
