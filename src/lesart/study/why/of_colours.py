"""Suspects of a colour panel: wrong settings, and wrongly sent pixels."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.panel import Memory
from lesart.core.glass.panels.pixel_colours import DEPTHS
from lesart.core.notes import Key, Written
from lesart.core.quantity import counted
from lesart.study.why.glass_suspect import GlassSuspect
from lesart.study.why.suspect import OFTEN, RARE, USUAL

OFF = (1, 2, 3, 26, 34, 40, 52, 80)
"""Usual columns and rows of memory before the glass."""
SIDES = {"columns_off": ("column", "left", "right"), "rows_off": ("row", "up", "down")}


def colour_suspects(panel: ColourPanel) -> Iterator[GlassSuspect]:
    """Suspects in its start sequence first, then in sending pixels."""
    key: Key = ("panels", panel.name)
    yield _told(
        panel,
        "red and blue are swapped",
        OFTEN,
        {"swapped": True},
        [((*key, "swapped"), not panel.told.swapped)],
        "change the bit of its address mode (36) that says which colour comes first",
    )
    yield _told(
        panel,
        "it is a negative: it was set to invert and should not, or the other way round",
        OFTEN,
        {"negative": True},
        [((*key, "inverts"), not panel.inverts)],
        "send it 21 where 20 is sent, or 20 where 21 is",
    )
    for name, (word, before, behind) in SIDES.items():
        for off in (sign * size for size in OFF for sign in (1, -1)):
            says = f"its picture is {counted(abs(off), word)} too far {behind if off > 0 else before}"
            remedy = f"count {'fewer' if off > 0 else 'more'} {word}s before its glass when a window is set"
            weight = OFTEN if abs(off) <= 2 else RARE
            yield _told(panel, says, weight, {name: off}, [((*key, name), off)], remedy)
    for says, weight, told in (
        ("it is mirrored", USUAL, {"right_left": True}),
        ("its rows come from the bottom up", USUAL, {"bottom_up": True}),
        ("it is upside down", OFTEN, {"right_left": True, "bottom_up": True}),
    ):
        edits: list[tuple[Key, Written]] = [((*key, each), not getattr(panel.told, each)) for each in told]
        yield _told(panel, says, weight, told, edits, "change the bits of its address mode (36) that turn it")
    yield from _sent(panel, key)


def _told(
    panel: ColourPanel,
    says: str,
    weight: float,
    told: dict[str, bool] | dict[str, int],
    edits: list[tuple[Key, Written]],
    remedy: str,
) -> GlassSuspect:
    """Wrong settings. Flags are inverted, so that the project's own value is not counted twice."""
    now = {name: not getattr(panel.told, name) if value is True else value for name, value in told.items()}
    seen_so = replace(panel, told=replace(panel.told, **now))  # type: ignore[arg-type]
    return GlassSuspect(says, weight, lambda memory: seen_so.seen(seen_so.lit(memory)), tuple(edits), remedy)


def _sent(panel: ColourPanel, key: Key) -> Iterator[GlassSuspect]:
    yield GlassSuspect(
        "the bytes of each pixel come the other way round",
        OFTEN,
        lambda memory: _shown(panel, _reversed(panel, memory)),
        (),
        "send the byte with red in it first",
    )
    other = DEPTHS[1 - DEPTHS.index(panel.depth)]
    yield GlassSuspect(
        f"it was set up for {other} bits a pixel",
        USUAL,
        lambda memory: _shown(replace(panel, depth=other), panel.sent(panel.lit(memory))),
        (((*key, "depth"), other),),
        f"send 3A {'55' if panel.depth == DEPTHS[0] else '66'} in its start sequence",
    )
    yield GlassSuspect(
        "nothing is written, or it was never lit",
        RARE,
        lambda memory: panel.lit(panel.blank()),
        (),
        "check its reset, its line for commands and its supply; then 11 and 29 in its start sequence",
    )


def _reversed(panel: ColourPanel, memory: Memory) -> bytes:
    pixels = np.frombuffer(panel.sent(panel.lit(memory)), np.uint8).reshape(-1, panel.pixel_bytes)
    return pixels[:, ::-1].tobytes()


def _shown(panel: ColourPanel, data: bytes) -> Frame:
    """Bytes as the glass takes them; missing ones leave the old content, and surplus ones wrap."""
    size = panel.frame_size
    head = data[:size].ljust(size, b"\0")
    return panel.seen(panel.shown(data[size : 2 * size] + head[max(len(data) - size, 0) :]))
