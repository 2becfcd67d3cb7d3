"""A colour frame as indices into a short palette, for pictures with room for few colours."""

from __future__ import annotations

from lesart.core.glass.panels.frame import ColourFrame


def few_colours(frame: ColourFrame, most: int) -> tuple[bytes, tuple[str, ...]]:
    """A byte per pixel, row by row: the index of its colour in the palette of at most ``most``.

    With more colours in the frame, the palette is chosen by cutting where they spread most.
    """
    import numpy as np

    pixels = np.frombuffer(frame.colours, np.uint8).reshape(-1, 3).astype(np.uint32)
    values = pixels[:, 0] << 16 | pixels[:, 1] << 8 | pixels[:, 2]
    # Most faces have few colours in long runs: pixels equal to the previous one are not sorted.
    begins = np.flatnonzero(np.diff(values, prepend=values[:1] ^ 1))
    found, places = np.unique(values[begins], return_inverse=True)
    if len(found) <= most:
        runs = np.diff(np.append(begins, len(values)))
        return np.repeat(places.astype(np.uint8), runs).tobytes(), tuple(f"#{each:06x}" for each in found.tolist())
    from PIL import Image

    image = Image.frombytes("RGB", (frame.width, frame.height), frame.colours).quantize(most, dither=Image.Dither.NONE)
    palette = bytes(image.getpalette() or b"")[: 3 * most].ljust(3 * most, b"\0")
    return image.tobytes(), tuple(f"#{palette[at : at + 3].hex()}" for at in range(0, len(palette), 3))
