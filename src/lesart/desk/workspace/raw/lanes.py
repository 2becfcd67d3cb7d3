"""Lanes: the edges of the frame at the cursor, a strip per byte, with its bits and their margins."""

from __future__ import annotations

import numpy as np

from lesart.core.raw.decode.record import NARROW, Bits
from lesart.core.raw.edges import HIGH, LOW, Edges
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.step import Step
from lesart.desk.workspace.context import Context, label, text
from lesart.project.captures.capture import Capture
from lesart.study.views import Line, Tone

LANE = 56
MOST_BYTES = 6


def lane(edges: Edges, start_s: float, end_s: float, width: int = LANE) -> str:
    """The level from ``start_s`` to ``end_s`` in cells; those with several edges are grey."""
    borders = np.linspace(start_s, end_s, width + 1)
    counts = np.diff(np.searchsorted(edges.t, borders))
    levels = edges.level_at((borders[:-1] + borders[1:]) / 2)
    letters = []
    for count, level in zip(counts.tolist(), levels.tolist(), strict=True):
        if count > 1:
            letters.append("▒")
        elif count == 1:
            letters.append("│")
        else:
            letters.append({HIGH: "▔", LOW: "▁"}.get(level, "░"))
    return "".join(letters)


def frame_lines(context: Context, capture: Capture) -> list[Line]:
    """The frame at the cursor, or a window of edges where the decoder gives values; empty without edges."""
    decoded = capture.decoded
    if decoded is None:
        return []
    if decoded.frames is None:
        return _window(context, capture)
    frame = _frame_at(decoded.frames, context.state.cursor_s)
    if frame is None:
        return [(label("No frame is over at the cursor."),), ()]
    tone: Tone = "rubric" if frame.mark else "verdigris"
    said = f"  {frame.says}" if frame.says else ""
    head: Line = (
        label(f"frame at {frame.t:.6f} s{said}   "),
        text(frame.data.hex(" ").upper()[:60], tone),
        text(f"   {frame.why}" if frame.why else "", "rubric"),
    )
    strips: list[Line] = []
    if decoded.bits is not None and capture.lines:
        line = list(capture.lines.values())[-1 if len(capture.lines) == 1 else 1]
        strips = _strips(line, decoded.bits, frame)
    return [head, *strips, ()]


def _frame_at(frames: tuple[ByteFrame, ...], cursor_s: float) -> ByteFrame | None:
    """The last frame that is over."""
    ends = np.array([frame.end for frame in frames])
    place = int(np.searchsorted(ends, cursor_s + 1e-9, side="right")) - 1
    return frames[place] if place >= 0 else None


def _strips(line: Edges, bits: Bits, frame: ByteFrame) -> list[Line]:
    """Two rows per byte: the edges, and the value of each bit, those with a narrow margin in rubric."""
    first, last = (int(np.searchsorted(bits.t, moment)) for moment in (frame.t - 1e-12, frame.end))
    if last - first < 8 or not len(frame.data):
        return []
    each = max((last - first) // max(len(frame.data), 1), 8)
    rows: list[Line] = []
    for number in range(min((last - first) // each, MOST_BYTES)):
        own = slice(first + number * each, first + (number + 1) * each)
        rows += _strip(line, bits, own, number, frame)
    return rows


def _strip(line: Edges, bits: Bits, own: slice, number: int, frame: ByteFrame) -> list[Line]:
    start, end = float(bits.t[own.start]), float(bits.end[own.stop - 1])
    if own.start:
        # Including the low time before the first bit, which belongs to it.
        start = max(float(bits.end[own.start - 1]), start - (end - start) / 8)
    shown = f"0x{frame.data[number]:02X}" if number < len(frame.data) else ""
    margins = bits.margin[own]
    least = float(np.nanmin(margins)) if np.isfinite(margins).any() else float("nan")
    narrow = least < NARROW
    margin = "" if np.isnan(least) else f"least margin {least * 100:.0f} %"
    letters = [" "] * LANE
    for place in range(own.start, own.stop):
        middle = (float(bits.t[place]) + float(bits.end[place])) / 2
        cell = min(max(int((middle - start) / max(end - start, 1e-12) * LANE), 0), LANE - 1)
        letters[cell] = str(int(bits.value[place]))
    return [
        (label(f"  {number + 1:>2} "), text(lane(line, start, end), "lapis"), text(f" {shown}")),
        (text("     "), text("".join(letters), "ochre"), text(f" {margin}", "rubric" if narrow else "faint")),
    ]


def _window(context: Context, capture: Capture) -> list[Line]:
    """The edges after the last few samples."""
    assert context.run is not None
    raw = context.run.blocks[Step.RAW]
    place = context.run.index_at(context.state.cursor_s)
    if place < 0 or not capture.lines:
        return []
    end = float(raw.t[place])
    earlier = max(place - 3, 0)
    start = float(raw.t[earlier]) if earlier < place else 0.0
    line = next(iter(capture.lines.values()))
    return [
        (label(f"  {start:.3f} s "), text(lane(line, start, end, LANE - 4), "lapis"), label(f" {end:.3f} s")),
        (),
    ]
