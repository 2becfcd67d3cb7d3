"""Lanes of a timing diagram as lines of text."""

from __future__ import annotations

from lesart.desk.workspace.context import cut, label, number, text
from lesart.study.timing import MS, Lane, Timing
from lesart.study.views import Line

LANE, NAME = 40, 16


def lane_lines(timing: Timing) -> list[Line]:
    """A scale, then one line per lane, with empty lines between groups."""
    start, span = timing.start_ns, timing.span_ns
    middle = number((start + span / 2) / MS, "", 4)
    first, last = number(start / MS, "ms", 4), number((start + span) / MS, "", 4)
    lines: list[Line] = [(label(f"   {'':<{NAME}}{first:<{LANE // 2 - 2}}{middle:<{LANE // 2 - 6}}{last:>8}"),)]
    before = timing.lanes[0].group if timing.lanes else 0
    for lane in timing.lanes:
        if lane.group != before:
            lines.append(())
        before = lane.group
        columns = _columns(lane, start, span)
        lines.append(
            (label(f"   {cut(lane.name, NAME - 1):<{NAME}}"), text(columns, lane.tone), label(f"  {lane.says}"))
        )
    return lines


def _columns(lane: Lane, start: int, span: int) -> str:
    """Blocks of at least one column; strokes for spans without length."""
    columns = [" "] * LANE
    lost = set(lane.lost)
    for begin, end in lane.spans:
        first, behind = (begin - start) * LANE // span, (end - start) * LANE // span
        if behind < 0 or first >= LANE:
            continue
        if begin == end:
            crossed = begin in lost or columns[max(first, 0)] == "╳"
            columns[max(first, 0)] = "╳" if crossed else "│"
            continue
        # A gap thinner than a column is drawn as one next to a longer run: ghosts hide in gaps.
        for column in range(max(first, 0), min(max(behind, first + 1), LANE)):
            columns[column] = "█"
    return "".join(columns)
