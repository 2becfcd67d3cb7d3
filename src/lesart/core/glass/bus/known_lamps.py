"""A chain of lamps by the pulses on its line: how many bits each transmission has says how many lamps there are."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.glass.panels.lamp_panel import GREEN_FIRST, MOST_ALONG, MOST_LAMPS
from lesart.core.quantity import counted, counted_of
from lesart.core.raw.bus_bytes import LONGEST_LAMP_BIT_S, one_line_words
from lesart.core.raw.edges import Edges

SIZES = (3, 4)
"""Bytes of a lamp, without and with a white light."""


def chained(name: str, line: Edges) -> Iterator[KnownDisplay]:
    """The lamps on a line, where its transmissions are whole lamps; which colour comes first no trace can say.

    Fewer bytes than usual are for the first lamps only.
    """
    words = one_line_words(line)
    if not len(words):
        return
    sizes = np.bincount(words.part)
    most = int(sizes.max())
    size = next((each for each in SIZES if most % each == 0), 0)
    longest_s = float(np.max((words.end_s - words.start_s) / np.maximum(8 * sizes - 0.5, 1)))
    count = most // size if size else 0
    if not size or longest_s > LONGEST_LAMP_BIT_S or not 1 < count <= MOST_LAMPS or words.broken:
        return
    whole = int(np.count_nonzero(sizes == most))
    panel = {"kind": "lamps", **_laid(count), **({"sent": f"{GREEN_FIRST}, white"} if size > min(SIZES) else {})}
    why = (
        f"{counted_of(whole, len(sizes), 'transmission')} {'has' if whole == 1 else 'have'} {8 * most} bits, of "
        f"{counted(count, 'lamp')}"
    )
    sure = 0.6 + 0.35 * whole / len(sizes)
    yield KnownDisplay(panel, {"wires": "one line", "data": name}, sure, why)


def _laid(count: int) -> dict[str, int]:
    """In a row, or in the fewest equal rows that a panel has room for."""
    rows = next(rows for rows in range(1, count + 1) if count % rows == 0 and count // rows <= MOST_ALONG)
    return {"width": count // rows, **({"height": rows} if rows > 1 else {})}
