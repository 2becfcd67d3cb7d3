"""A frame in colours, as places in a short row of them: for pictures that have room for few."""

from __future__ import annotations

from lesart.core.glass.panels.frame import ColourFrame


def few_colours(frame: ColourFrame, most: int) -> tuple[bytes, tuple[str, ...]]:
    """A byte a pixel, row by row: the place of its colour among those that are given, at most ``most``. Where there are
    more in the frame, those that stand for many are chosen by cutting where they spread most."""
    import numpy as np

    pixels = np.frombuffer(frame.colours, np.uint8).reshape(-1, 3).astype(np.uint32)
    values = pixels[:, 0] << 16 | pixels[:, 1] << 8 | pixels[:, 2]
    # Most faces have few colours in long runs: what is the same as the pixel before is not sorted.
    begins = np.flatnonzero(np.diff(values, prepend=values[:1] ^ 1))
    found, places = np.unique(values[begins], return_inverse=True)
    if len(found) <= most:
        runs = np.diff(np.append(begins, len(values)))
        return np.repeat(places.astype(np.uint8), runs).tobytes(), tuple(f"#{each:06x}" for each in found.tolist())
    from PIL import Image

    image = Image.frombytes("RGB", (frame.width, frame.height), frame.colours).quantize(most, dither=Image.Dither.NONE)
    palette = bytes(image.getpalette() or b"")[: 3 * most].ljust(3 * most, b"\0")
    return image.tobytes(), tuple(f"#{palette[at : at + 3].hex()}" for at in range(0, len(palette), 3))
