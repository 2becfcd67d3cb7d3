"""Recognises a colour panel from bytes with a command line: its size, and its bits per pixel."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Any

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.controller import PIXEL_BITS, WRITE
from lesart.core.glass.bus.controllers import WINDOWS
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.glass.bus.told_commands import SPAN, ToldCommand, told_commands
from lesart.core.glass.bus.windows import BYTES_OF_BITS, obeyed_in_windows
from lesart.core.glass.panels.pixel_colours import COLOURS, THREE_BYTES, decoded, rgb
from lesart.core.quantity import counted
from lesart.core.raw.bus_bytes import Words

USUAL_SIZES = (
    (96, 64),
    (128, 128),
    (80, 160),
    (128, 160),
    (135, 240),
    (170, 320),
    (172, 320),
    (240, 240),
    (240, 280),
    (240, 320),
    (320, 480),
)
"""Sizes of glasses, upright; they come on their side as often."""
MOST = 480


@dataclass(frozen=True)
class _Area:
    """A window that was written into, and its bytes; None where the trace ends within it."""

    left: int
    right: int
    top: int
    foot: int
    count: int | None

    @property
    def pixels(self) -> int:
        """Number of pixels in the window."""
        return (self.right - self.left + 1) * (self.foot - self.top + 1)


def coloured(words: Words, trace: Mapping[str, Any], bus: str) -> Iterator[KnownDisplay]:
    """Colour displays that the bytes may be meant for, with the commands of the open standard."""
    told = told_commands(words)
    spans = [each for each in told if WINDOWS.find(each.code) in _OF_WINDOWS]
    if not spans or sum(each.count == SPAN for each in spans) < 0.9 * len(spans):
        return
    areas = _areas(told)
    if not areas or sum(area.pixels for area in areas) < 64:
        return
    pixel = _pixel_bytes(told, areas)
    left, top = min(area.left for area in areas), min(area.top for area in areas)
    wide, high = max(area.right for area in areas) - left + 1, max(area.foot for area in areas) - top + 1
    if max(left + wide, top + high) > MOST:
        return
    (left, top, width, height), is_usual = _glass(left, top, wide, high, areas)
    panel: dict[str, Any] = {"kind": "colours", "width": width, "height": height}
    panel |= {"offset": left} if left else {}
    panel |= {"row_offset": top} if top else {}
    panel |= {"depth": THREE_BYTES} if pixel == 3 else {}
    panel |= {"inverts": True} if any(each.code == 0x21 for each in told) else {}
    panel |= {"bus": bus} if bus != "four-wire" else {}
    panel |= _two_colours(words, pixel, left, top, width, height)
    known = sum(WINDOWS.find(each.code) is not None or each.code >= OWN_CODES for each in told)
    sure = 0.99 * known / len(told) * (1.0 if is_usual else 0.9)
    reach = "" if is_usual else f", written over {wide}×{high} of them"
    why = (
        f"{counted(len(areas), 'window')} of {width}×{height} pixels with {16 if pixel == 2 else 18} bits{reach}, and "
        f"{len(told) - known} of {counted(len(told), 'command')} are not in the standard"
    )
    yield KnownDisplay(panel, trace, sure, why)


_OF_WINDOWS = tuple(each for each in WINDOWS.commands if each.does in ("columns from to", "pages from to"))
OWN_CODES = 0xB0
"""From here on commands are defined by each maker."""


def _areas(told: list[ToldCommand]) -> list[_Area]:
    """Windows that pixels were written into."""
    columns = rows = (0, 0)
    seen = [False, False]
    found = []
    for place, each in enumerate(told):
        command = WINDOWS.find(each.code)
        if command is None:
            continue
        if len(each.data) == SPAN and command in _OF_WINDOWS:
            ends = int.from_bytes(each.data[:2], "big"), int.from_bytes(each.data[2:], "big")
            if command.does == "columns from to":
                columns, seen[0] = ends, True
            else:
                rows, seen[1] = ends, True
        elif command.does == WRITE and all(seen) and columns[0] <= columns[1] and rows[0] <= rows[1] and each.count:
            found.append(_Area(*columns, *rows, each.count if place + 1 < len(told) else None))
    return found


def _pixel_bytes(told: list[ToldCommand], areas: list[_Area]) -> int:
    """Bytes per pixel: as set by command, else as fits most windows."""
    said = [BYTES_OF_BITS.get(each.data[0] & 7, 2) for each in told if _is_bits(each.code) and each.data]
    if said:
        return said[-1]
    filled = Counter(
        size for area in areas for size in (2, 3) if area.count is not None and area.count == size * area.pixels
    )
    return filled.most_common(1)[0][0] if filled else 2


def _is_bits(code: int) -> bool:
    command = WINDOWS.find(code)
    return command is not None and command.does == PIXEL_BITS


def _glass(left: int, top: int, wide: int, high: int, areas: list[_Area]) -> tuple[tuple[int, int, int, int], bool]:
    """Left, top, width, height, and whether that is a usual glass: all of it where it was written at once, else the
    smallest usual one that holds the windows."""
    usual = {*USUAL_SIZES, *((high, wide) for wide, high in USUAL_SIZES)}
    if (wide, high) in usual:
        return (left, top, wide, high), True
    if any(area.pixels == wide * high for area in areas) and wide * high >= 64 * 64:
        return (left, top, wide, high), False
    holding = [size for size in usual if size[0] >= left + wide and size[1] >= top + high]
    width, height = min(holding, key=lambda size: size[0] * size[1], default=(left + wide, top + high))
    return (0, 0, width, height), False


def _two_colours(words: Words, pixel: int, left: int, top: int, width: int, height: int) -> dict[str, str]:
    """Ground and own colour: those of most pixels and of most of the others, by the nearest name."""
    found = obeyed_in_windows(replace(WINDOWS, cell_bytes=pixel), words, left + width, top + height)
    values, counts = np.unique(found.value, return_counts=True)
    names: Counter[str] = Counter()
    exact = {name: np.array(rgb(colour), np.int64) for name, colour in COLOURS.items()}
    for value, count in sorted(zip(values.tolist(), counts.tolist(), strict=True), key=lambda each: -each[1])[:64]:
        seen = decoded(np.array(value, np.int64), THREE_BYTES if pixel == 3 else "16").astype(np.int64)
        names[min(exact, key=lambda name: int(((exact[name] - seen) ** 2).sum()))] += count
    ground, *others = [name for name, _ in names.most_common(2)]
    told = {"ground": ground} if ground != "black" else {}
    return told | ({"colour": others[0]} if others and others[0] != "white" else {})
