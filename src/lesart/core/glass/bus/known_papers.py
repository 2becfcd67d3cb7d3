"""Recognises paper-like panels from bytes with a command line: their size, and whether they have a third ink."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Any

import numpy as np

from lesart.core.glass.bus.controller import WRITE, WRITE_SECOND
from lesart.core.glass.bus.controllers import MOST_PAPER_COLUMNS, PAPER
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.glass.bus.told_commands import ToldCommand, told_commands
from lesart.core.glass.bus.windows import obeyed_in_windows
from lesart.core.glass.panels.catalogue import CATALOGUE, INKED, has_third_ink, is_paper
from lesart.core.glass.panels.catalogue import PAPER as IN_BLACK
from lesart.core.quantity import counted
from lesart.core.raw.bus_bytes import Words

ROWS_SET = 0x01
"""The command that says how many rows it has, less one, in two bytes."""
MOST_ALIKE = 0.5
"""More equal bits than these in both memories, and the second holds the picture before, not an ink: where there is ink
or white paper they differ."""


def papers(words: Words, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """A paper-like panel that the bytes are meant for: none where no window is set, written into and shown."""
    told = told_commands(words)
    does = {each.does: each for each in PAPER.commands}
    spans = [
        [_ends(each, each_size) for each in told if each.code == does[name].code and len(each.data) == 2 * each_size]
        for name, each_size in (("columns from to", 1), ("pages from to", 2))
    ]
    written = sum(each.count for each in told if each.code in (does[WRITE].code, does[WRITE_SECOND].code))
    shows = PAPER.renew[-1][0]
    if not all(spans) or not written or not any(each.code == shows for each in told):
        return
    across, down = (max(max(ends) for ends in each) + 1 for each in spans)
    said = [int.from_bytes(each.data[:2], "little") + 1 for each in told if each.code == ROWS_SET and each.count == 3]
    height = max(said[-1] if said else 0, down)
    if 8 * across > MOST_PAPER_COLUMNS:
        return
    often = [sum(each.code == does[name].code for each in told) for name in (WRITE, WRITE_SECOND)]
    is_third = often[1] >= often[0] and _differ(words, across, height)
    panel = _table(across, height, is_third=is_third)
    unknown = sum(PAPER.find(each.code) is None for each in told)
    ink = ", whose second memory is that of a third ink" if is_third else ""
    why = (
        f"{written} bytes go into windows of {panel['width']}×{panel['height']} pixels{ink}; "
        f"{unknown} of {counted(len(told), 'command')} are not of such a controller"
    )
    yield KnownDisplay(panel, trace, 0.99 * (1 - unknown / len(told)), why)


def _ends(each: ToldCommand, size: int) -> tuple[int, int]:
    return int.from_bytes(each.data[:size], "little"), int.from_bytes(each.data[size:], "little")


def _differ(words: Words, across: int, rows: int) -> bool:
    """True where the second memory is no picture like that in the first."""
    obeyed = obeyed_in_windows(replace(PAPER, memories=2), words, across, 2 * rows)
    cells = obeyed.memory(len(obeyed))[: 2 * across * rows].astype(np.uint8).reshape(2, -1)
    first, second = np.unpackbits(cells, axis=1)
    return float((first == second).mean()) < MOST_ALIKE


def _table(across: int, height: int, *, is_third: bool) -> dict[str, Any]:
    """As in the catalogue where one of this size is there, of whose last columns a byte may lie beyond the glass."""
    for table in CATALOGUE.values():
        if is_paper(table) and has_third_ink(table) == is_third:
            columns = -(-int(table["width"]) // 8)
            if (columns, table["height"]) == (across, height):
                return dict(table)
    return {**(INKED if is_third else IN_BLACK), "width": 8 * across, "height": height}
