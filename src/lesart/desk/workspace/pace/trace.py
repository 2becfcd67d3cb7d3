"""Pace against the real thing: a trace of a panel's lines compared with the model over time."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import singledispatch

import numpy as np

from lesart.core.errors import LesartError
from lesart.core.glass.bus.controller import Controller
from lesart.core.glass.bus.interpreter import Cells, Interpreted
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.frame import Frame, PixelFrame
from lesart.core.glass.panels.panel import Panel
from lesart.core.notes import Key
from lesart.core.pace.bus_traced import Redraw
from lesart.core.pace.digits_traced import first_round_s, lines_of
from lesart.core.pace.edge_writer import evenly
from lesart.core.pace.scan import judge_scan
from lesart.core.pace.task import NS
from lesart.core.pace.trace import trace_parameters
from lesart.core.pace.verdict import Verdict
from lesart.core.quantity import counted
from lesart.core.step import Step
from lesart.desk.workspace.context import Context, label, number, rows_of, text
from lesart.desk.workspace.pace.timing import lane_lines
from lesart.study.glass import glass_of
from lesart.study.timing import MS, Lane, Timing, brief_time
from lesart.study.views import Glass, Line, Tone
from lesart.study.wires.last_picture import trace_moment_s
from lesart.study.wires.traced_frames import frame_shown
from lesart.study.wires.tracing import BusSeen, DigitsSeen, seen, wanted_cells

MOST_DRAWINGS = 8
MOST_BYTES = 10
"""Most bytes of a transmission that are written out."""


def front_trace(context: Context) -> tuple[Panel | None, BusSeen | DigitsSeen | None, str]:
    """The panel in front with its trace, the result, or why there is none."""
    project = context.state.project
    names = [glass.name for glass in context.glasses if glass.name in project.traces]
    if not names:
        return None, None, ""
    panel = project.panels[names[0]]
    try:
        return panel, seen(project, context.bench, panel.name, context.state.cursor_s), ""
    except LesartError as error:
        return panel, None, str(error)


def trace_leaf(context: Context) -> tuple[str, list[Line], Glass | None, tuple[Verdict, ...]]:
    """Subtitle, lines, the picture drawn by the trace, and verdicts for below."""
    panel, found, problem = front_trace(context)
    if panel is None:
        front = context.glasses[0].name if context.glasses else "a panel"
        said: Line = (label("No panel here has a trace yet; "), text("+", "ochre"), label(f" takes one for {front}."))
        return "against the real thing", [said], None, ()
    key: Key = ("panels", panel.name, "trace")
    rows = rows_of(context.project, key, trace_parameters(panel))
    if isinstance(found, BusSeen):
        lines, glass = _bus(context, panel, found)
        subtitle = (
            f"what the trace of {panel.name} should leave"
            if context.state.pace.wanted
            else (f"what the trace of {panel.name} draws")
        )
        return subtitle, [*lines, (), *rows], glass, found.verdicts
    if isinstance(found, DigitsSeen):
        timing = digits_timing(context, panel, found)
        lines = [
            *lane_lines(timing),
            (),
            *_digit_table(panel, found, trace_moment_s(context.project, panel.name, context.state.cursor_s)),
        ]
        return timing.title, [*lines, (), *rows], None, found.verdicts
    return f"the trace of {panel.name}", [(text(problem, "rubric"),), (), *rows], None, ()


# Digits


def digits_timing(context: Context, panel: Panel, found: DigitsSeen) -> Timing:
    """Model and trace, one above the other, from the first round of the trace on."""
    assert panel.scan is not None
    period = judge_scan(panel.scan, panel.columns).period_ms
    span = max(round(period * MS * 2.0**context.state.pace.zoom), 1000)
    start = round(max(context.state.pace.first_quarter, 0) * span / 4)
    begins = round(first_round_s(found.traced) * NS)
    model: list[list[tuple[int, int]]] = [[] for _ in range(panel.columns)]
    on, blanking = panel.scan.on_time_ms / 1e3, panel.scan.blanking_ms / 1e3
    for first, last, digit, _ in evenly(on, blanking, range(panel.columns), (start + 2 * span) / NS):
        model[digit].append((round(first * NS), round(last * NS)))
    lit = lines_of(found.traced, begins, start + span)
    lanes = []
    for place in range(panel.columns):
        ms = found.traced.digits[place].on_ms[1]
        lanes += [
            Lane(f"digit {place + 1}", tuple(model[place]), "faint", brief_time(round(on * NS)), place),
            Lane("  traced", lit[place], "rubric", brief_time(round(ms * MS)), place),
        ]
    title = f"the digits of {panel.name}, {number(span / MS, 'ms', 4)}: model and trace"
    return Timing(title, start, span, tuple(lanes), found.verdicts)


def traced_timing(context: Context) -> Timing | None:
    """The diagram of traced digits, where those are in view."""
    panel, found, _ = front_trace(context)
    on_trace = context.state.leaf_of(Step.PACE) == "trace"
    if panel is None or not on_trace or not isinstance(found, DigitsSeen):
        return None
    return digits_timing(context, panel, found)


def _digit_table(panel: Panel, found: DigitsSeen, at_s: float) -> list[Line]:
    """A row for each digit, with what it shows at a time of the trace."""
    head = f"   {'traced':<9}{'refresh':>8}{'slowest':>9}{'lit least':>10}{'mean':>9}{'most':>9}{'jitter':>10}  shows"
    lines: list[Line] = [(label(head),)]
    for place, digit in enumerate(found.traced.digits, 1):
        low, mean, high = (number(each, "ms", 3) for each in digit.on_ms)
        ghosts = "".join(f" {found.names.get(bit, bit)}?" for bit, _ in digit.ghosts)
        bits = digit.bits_at(at_s)
        lit = "".join(found.names.get(bit, "?") for bit in range(digit.lines) if bits >> bit & 1) or "—"
        rates = f"{number(digit.refresh_hz, 'Hz', 3):>8}{number(digit.slowest_hz, 'Hz', 3):>9}"
        jitter = number(1000 * digit.jitter_ms, "µs", 2) if digit.jitter_ms > 1e-6 else "none"
        lines.append(
            (
                text(f"   digit {place:<3}{rates}"),
                text(f"{low:>10}{mean:>9}{high:>9}{jitter:>10}"),
                label(f"  {lit[:8]}"),
                text(ghosts[:4], "rubric"),
            )
        )
    return lines


# A bus


def moment_of(context: Context, found: BusSeen) -> tuple[int, int, float]:
    """The transmission in view, the number of cells written by its end, and its time; initially the last one."""
    parts = len(found.words.start_s)
    at = min(max(parts - 1 + context.state.pace.transmission, 0), max(parts - 1, 0))
    count = int(found.obeyed.part.searchsorted(at, side="right")) if len(found.obeyed) else 0
    return at, count, float(found.words.end_s[at]) if parts else 0.0


def _bus(context: Context, panel: Panel, found: BusSeen) -> tuple[list[Line], Glass]:
    """Drawings, the transmission in view, and the picture after it."""
    at, count, t_s = moment_of(context, found)
    wanted = _wanted(context, panel, found, t_s)
    frame = frame_shown(panel, found.obeyed, count, t_s)
    glass = glass_of(panel, frame)
    differs = _differing(panel, found.obeyed, count, wanted)
    if context.state.pace.wanted:
        glass = glass_of(panel, _frame_of(panel, found.obeyed, wanted, t_s))
    else:
        should_be = _frame_of(panel, found.obeyed, wanted, t_s)
        glass = replace(glass, struck=_struck(frame, should_be), clashing=_clashing(panel, differs))
    return [*_transmission(panel, found, at, t_s, len(differs)), (), *_drawings(found, count)], glass


def _wanted(context: Context, panel: Panel, found: BusSeen, t_s: float) -> Cells:
    """The expected result of the present drawing."""
    project, bench = context.state.project, context.bench
    starts_at = found.trace.values["starts_at"]
    begun = [each.start_s for each in found.against.redraws if each.start_s <= t_s]
    if starts_at is None:
        return wanted_cells(project, bench, panel, found.obeyed, context.state.cursor_s)
    first = float(found.words.start_s[0]) if len(found.words.start_s) else 0.0
    return wanted_cells(project, bench, panel, found.obeyed, starts_at + (begun[-1] if begun else first))


def _differing(panel: Panel, obeyed: Interpreted, count: int, wanted: Cells) -> set[int]:
    held = obeyed.memory(count)[: len(wanted)]
    return {int(cell) for cell in ((wanted >= 0) & (held != wanted)).nonzero()[0]}


def _frame_of(panel: Panel, obeyed: Interpreted, wanted: Cells, t_s: float) -> Frame:
    """The face as this controller would show it."""
    moments, nothing = np.full(len(wanted), t_s), np.zeros(len(wanted), np.int64)
    values = np.where(wanted < 0, obeyed.fill, wanted)
    full = Interpreted(
        columns=obeyed.columns,
        pages=obeyed.pages,
        t=moments,
        cell=np.arange(len(wanted)),
        value=values,
        part=nothing,
        turns=obeyed.turns,
        fill=obeyed.fill,
    )
    return frame_shown(panel, full, len(wanted), t_s)


@singledispatch
def _clashing(panel: Panel, differs: set[int]) -> tuple[tuple[int, int], ...]:
    """Wrong cells of the glass; none for panels without cells."""
    return ()


@_clashing.register
def _(panel: CharacterPanel, differs: set[int]) -> tuple[tuple[int, int], ...]:
    cells = ((row, column) for row in range(panel.rows) for column in range(panel.columns))
    return tuple(cell for cell in cells if panel.address(*cell) in differs)


def _struck(drawn: Frame, wanted: Frame) -> tuple[tuple[int, int, int, int], ...]:
    """Boxes around pixels that differ, eight rows at a time."""
    if not isinstance(drawn, PixelFrame) or not isinstance(wanted, PixelFrame):
        return ()
    struck = []
    for top in range(0, drawn.height, 8):
        rows = range(top, min(top + 8, drawn.height))
        off = 0
        for row in rows:
            off |= drawn.rows[row] ^ wanted.rows[row]
        if off:
            left = drawn.width - off.bit_length()
            right = drawn.width - ((off & -off).bit_length() - 1)
            struck.append((left, top, right, rows.stop))
    return tuple(struck)


def _transmission(panel: Panel, found: BusSeen, at: int, t_s: float, differing: int) -> list[Line]:
    """The bytes of a transmission and their effect."""
    if not len(found.words):
        return [(text("No byte came for it.", "rubric"),)]
    here = found.words.part == at
    data = found.words.value[here].tolist()
    shown = " ".join(f"{byte:02X}" for byte in data[:MOST_BYTES]) + (" …" if len(data) > MOST_BYTES else "")
    what = _said(found.controller, data)
    one, many = ("cell", "cells") if panel.kind == "characters" else ("byte", "bytes")
    unit = one if differing == 1 else many
    verb = "differs" if differing == 1 else "differ"
    tone: Tone = "rubric" if differing else "verdigris"
    return [
        (
            label("   transmission "),
            text(f"{at + 1} of {len(found.words.start_s)}"),
            label(" to "),
            text(number(1000 * t_s, "ms", 6)),
            label("   "),
            text(shown),
        ),
        (label(f"   {what}"),),
        (
            label("   after it "),
            text(f"{differing} {unit}", tone),
            label(f" of its memory {verb} from the face"),
        ),
    ]


def _said(controller: Controller, data: list[int]) -> str:
    """Commands in words, where a control byte marks them; else the number of data bytes."""
    if controller.told_by != "a byte before" or not data:
        return counted(len(data), "byte")
    if data[0] >> controller.data_bit & 1:
        return f"{counted(len(data) - 1, 'byte')} of data"
    words, place = [], 1
    while place < len(data):
        command = controller.find(data[place])
        if command is None:
            words.append(f"0x{data[place]:02X} is not a command")
            place += 1
            continue
        more = data[place + 1 : place + 1 + command.more]
        carried = f" {command.value(data[place], more)}" if command.bits or command.more else ""
        words.append(f"{command.does}{carried}")
        place += 1 + command.more
    said = ", ".join(words)
    return said if len(said) <= 70 else said[:69] + "…"


def _drawings(found: BusSeen, count: int) -> list[Line]:
    """A row for each of the last drawings, the present one marked."""
    redraws = found.against.redraws
    here = next((place for place, each in enumerate(redraws) if count <= each.behind), len(redraws) - 1)
    first = min(max(here - MOST_DRAWINGS // 2, 0), max(len(redraws) - MOST_DRAWINGS, 0))
    unit = found.against.unit
    columns = (
        f"{'drawing':<9}{'begins':>10}{'took':>10}{'bytes':>8}{'changed':>9}",
        f"{unit + ' off':>13}",
        f"{'wrong for':>12}",
    )
    lines: list[Line] = [(label(f"   {''.join(columns)}"),)]
    for place, each in list(enumerate(redraws))[first : first + MOST_DRAWINGS]:
        lines.append(_drawing(each, place, place == here))
    if found.against.drawings > MOST_DRAWINGS:
        judged = "" if found.against.drawings == len(redraws) else f", the first {len(redraws)} of them judged"
        lines.append((label(f"   of {counted(found.against.drawings, 'drawing')} in all{judged}"),))
    return lines


def _drawing(each: Redraw, place: int, is_here: bool) -> Line:
    tone: Tone = "rubric" if each.differs else "verdigris"
    mark = text(" ▌ ", "rubric") if is_here else text("   ")
    took = 1000 * (each.end_s - each.start_s)
    wrong = number(1000 * each.wrong_s, "ms", 3) if math.isfinite(each.wrong_s) else "—"
    return (
        mark,
        text(f"{place + 1:<9}{number(1000 * each.start_s, 'ms', 5):>10}{number(took, 'ms', 3):>10}"),
        text(f"{each.written:>8}{each.changed:>9}"),
        text(f"{each.differs:>13}", tone),
        text(f"{wrong:>12}"),
    )
