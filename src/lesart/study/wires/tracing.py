"""Logic traces of panels, read and compared with the model: bus bytes interpreted by a controller, digits as lit."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError, LesartError, RequestError
from lesart.core.glass.bus.controller import BYTE_BEFORE, EXPANDER, LINE, Controller
from lesart.core.glass.bus.controllers import CONTROLLERS, usual_controller
from lesart.core.glass.bus.interpreter import Cells, Interpreted, interpret
from lesart.core.glass.faces.face import Face, compose, face_at
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import SegmentFrame
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.notes import FAULT, Note
from lesart.core.pace.bus_traced import Against, held_against, traced_verdicts
from lesart.core.pace.digits_traced import DigitsTraced, digit_verdicts, trace_digits
from lesart.core.pace.scan import judge_scan
from lesart.core.pace.trace import FOUR, HIGH, LINES, ONE, PARALLEL, PanelTrace
from lesart.core.pace.verdict import Verdict, judged
from lesart.core.quantity import counted
from lesart.core.ranked import median
from lesart.core.raw.bus_bytes import Words, four_wire_words, one_line_words, parallel_words, two_wire_words
from lesart.core.raw.edges import Edges, without_glitches
from lesart.core.step import Step
from lesart.project.captures.traces.vcd_read import read_vcd
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.redraws import readings_before
from lesart.study.tokens import token_of
from lesart.study.wires.panel_cells import CELLS, counted_in, memory_shape, put_cells

CLOCK_RESTS_S = 1e-3
"""A pause of the clock that separates transmissions on four wires without a select line."""


@dataclass(frozen=True, eq=False)
class BusSeen:
    """A bus trace of a panel: the bytes, their interpretation, and the comparison with the face."""

    trace: PanelTrace
    controller: Controller
    words: Words
    obeyed: Interpreted
    against: Against
    end_s: float
    verdicts: tuple[Verdict, ...]
    clock_hz: float


@dataclass(frozen=True, eq=False)
class DigitsSeen:
    """A trace of scanned digits, and the segment of each traced line."""

    trace: PanelTrace
    traced: DigitsTraced
    names: Mapping[int, str]
    verdicts: tuple[Verdict, ...]


Seen = BusSeen | DigitsSeen


def seen(project: Project, bench: Bench, panel: str, cursor_s: float | None = None) -> Seen:
    """The trace of a panel, judged; the same one once. Raises CaptureError where it cannot be read.

    Where the trace does not say when it began, it is compared with the face at the cursor; without a cursor nothing of
    it is wanted.
    """
    trace = project.traces[panel]
    lines = _lines(bench, trace)
    at_s = cursor_s if trace.values["starts_at"] is None else None
    key = ("seen", panel, token_of(project), *(token_of(line) for line in lines.values()), at_s)
    return bench.once_known(key, lambda: _seen(project, bench, trace, lines, at_s))


def trace_verdicts(project: Project, bench: Bench) -> list[Verdict]:
    """Verdicts on all traces; one that cannot be read is a fault of its own."""
    found: list[Verdict] = []
    for panel in project.traces:
        try:
            found += [_placed(each, panel) for each in seen(project, bench, panel).verdicts]
        except LesartError as error:
            note = Note(
                FAULT,
                Step.PACE,
                None,
                f"{panel}: its trace: {error}",
                panel=panel,
                place=("panels", panel, "trace", "capture"),
            )
            found.append(
                Verdict(name=f"trace of {panel}", figure=0, unit="", limit=1, at_least=True, note=note, of=panel)
            )
    return found


def _placed(verdict: Verdict, panel: str) -> Verdict:
    """A verdict with its note placed at the trace."""
    if verdict.note is None:
        return verdict
    return replace(verdict, note=replace(verdict.note, place=("panels", panel, "trace", "capture")))


def _lines(bench: Bench, trace: PanelTrace) -> Mapping[str, Edges]:
    """All signals of its file, read again when the file changes."""
    path = bench.folder / trace.capture
    try:
        there = path.stat()
    except OSError as error:
        raise CaptureError(f"{trace.capture} cannot be read ({error.strerror}).") from error

    def read() -> Mapping[str, Edges]:
        bench.files.note(path)
        return read_vcd(path).lines

    return bench.once_known(("traced lines", str(path), there.st_mtime_ns, there.st_size), read)


def _signal(lines: Mapping[str, Edges], name: str, trace: PanelTrace) -> Edges:
    if name not in lines:
        raise CaptureError(f'{trace.capture} has no signal "{name}"; it has {", ".join(lines)}.')
    return lines[name]


def _seen(project: Project, bench: Bench, trace: PanelTrace, lines: Mapping[str, Edges], at_s: float | None) -> Seen:
    panel = project.panels[trace.panel]
    if trace.is_digits:
        if not isinstance(panel, SegmentPanel):
            raise CaptureError(f"{panel.name}: only of segments is it known which line lights what in turn.")
        found = _digits_seen(panel, trace, lines)
        moment = at_s if trace.values["starts_at"] is None else trace.values["starts_at"]
        return found if moment is None else _beside_face(project, bench, panel, found, moment)
    return _bus_seen(project, bench, panel, trace, lines, at_s)


# Scanned digits


def _digits_seen(panel: SegmentPanel, trace: PanelTrace, lines: Mapping[str, Edges]) -> DigitsSeen:
    values = trace.values
    named = {
        what: [without_glitches(_signal(lines, name, trace), values["shortest"])[0] for name in values[what].split()]
        for what in ("digits", "segments")
    }
    if len(named["digits"]) != panel.digits:
        # Not refused in the file: a panel may get another digit while it still has an old trace.
        raise CaptureError(
            f"{counted(len(named['digits']), 'digit line')} named, {panel.name} has {counted(panel.digits, 'digit')}; "
            "name a signal for each, left to right."
        )
    traced = trace_digits(
        named["digits"],
        named["segments"],
        on_level=int(values["digit_on"] == HIGH),
        lit_level=int(values["segment_on"] == HIGH),
    )
    names = dict(enumerate(panel.wiring.order))
    assert panel.scan is not None
    scan, model = panel.scan, judge_scan(panel.scan, panel.digits)
    verdicts = digit_verdicts(
        panel.name, traced, scan.wanted_hz, model.refresh_hz, scan.on_time_ms, scan.turn_off_ms, names
    )
    return DigitsSeen(trace, traced, names, verdicts)


def _beside_face(project: Project, bench: Bench, panel: SegmentPanel, found: DigitsSeen, moment_s: float) -> DigitsSeen:
    """The traced digits with what the face shows at a time, where segments were traced."""
    faces = project.faces_on(panel.name)
    if not faces or not found.trace.values["segments"]:
        return found
    face, since_s = face_at(faces, moment_s)
    wanted = panel.lit(composed(project, bench, face, panel, moment_s, since_s)).masks
    # Over the whole trace, of which only the beginning is known to be at that time.
    wiring = replace(panel.wiring, lit_by=1)
    shown = [wiring.mask(digit.bits) for digit in found.traced.digits]
    off = sum((mask ^ other).bit_count() for mask, other in zip(shown, wanted, strict=True))
    places = ", ".join(
        str(place) for place, (mask, other) in enumerate(zip(shown, wanted, strict=True), 1) if mask != other
    )
    verdict = judged(
        "segments that differ",
        off,
        "",
        0.0,
        panel.name,
        f"in the trace {off} segments differ from its face, in digit {places}.",
        "check the order of the segment lines",
    )
    return replace(found, verdicts=(verdict, *found.verdicts))


def digits_shown(panel: SegmentPanel, found: DigitsSeen, until_s: float = math.inf) -> SegmentFrame:
    """The segments lit in each digit when it was last on before a time of the trace."""
    # Bits are lit by the trace's own level; that of the wiring is already accounted for.
    wiring = replace(panel.wiring, lit_by=1)
    shown = tuple(wiring.mask(digit.bits_at(until_s)) for digit in found.traced.digits)
    return SegmentFrame(shown, panel.segments)


# A bus


def _bus_seen(
    project: Project, bench: Bench, panel: Panel, trace: PanelTrace, lines: Mapping[str, Edges], at_s: float | None
) -> BusSeen:
    values = trace.values
    controller = controller_of(project, panel, values["controller"])
    clock = _signal(lines, values["data" if values["wires"] == ONE else "clock"], trace)
    wired = tuple((key, value) for key, value in sorted(values.items()) if key not in ("starts_at", "rest"))
    # The bytes depend on the trace alone: edits of channels and faces do not matter.
    words = bench.once_known(("words", token_of(clock), wired), lambda: _words(trace, lines))
    if values["wires"] in (FOUR, PARALLEL) and values["command"]:
        controller = told_by_line(controller)
    shape = memory_shape(panel)
    obeyed = bench.once_known(
        ("interpreted", token_of(words), controller, shape),
        lambda: interpret(controller, words, *shape[:2], fill=shape[2]),
    )
    faces = project.faces_on(panel.name)
    begins = values["starts_at"]

    def expected(t_s: float) -> Cells:
        moment = at_s if begins is None else begins + t_s - clock.start_s
        if moment is None:
            return np.full(obeyed.columns * obeyed.pages, -1, np.int64)
        return wanted_cells(project, bench, panel, obeyed, moment)

    unit = counted_in(panel)
    by_bits = unit != CELLS and controller.cell_bytes == 1
    against = held_against(obeyed, words, expected, values["rest"], clock.end_s, by_bits=by_bits, unit=unit)
    wanted_hz, seconds = (faces[0].redraw_hz, drawing_of(faces[0], panel).seconds) if faces else (0.0, 0.0)
    verdicts = traced_verdicts(
        panel.name, against, words, obeyed, wanted_hz, seconds, is_judged=begins is not None or at_s is not None
    )
    return BusSeen(
        trace=trace,
        controller=controller,
        words=words,
        obeyed=obeyed,
        against=against,
        end_s=clock.end_s,
        verdicts=verdicts,
        clock_hz=_clock_hz(clock),
    )


def told_by_line(controller: Controller) -> Controller:
    """The controller with a data/command line, as on four wires, in place of a control byte or an expander."""
    return replace(controller, told_by=LINE) if controller.told_by in (BYTE_BEFORE, EXPANDER) else controller


def _clock_hz(clock: Edges) -> float:
    """The bus clock, from the median period: pauses are fewer than half of them."""
    rises = clock.t[clock.level == 1]
    return 1.0 / median(np.diff(rises)) if len(rises) > 1 else 0.0


def _words(trace: PanelTrace, lines: Mapping[str, Edges]) -> Words:
    values = trace.values
    if values["wires"] == ONE:
        return one_line_words(_signal(lines, values["data"], trace), values["shortest"])
    clock = _signal(lines, values["clock"], trace)
    also = {each: _signal(lines, values[each], trace) for each in ("select", "command") if values[each]}
    if values["wires"] == PARALLEL:
        data = [_signal(lines, name, trace) for name in values["data"].split()]
        if len(data) not in (4, 8):
            raise CaptureError(f'parallel data lines are 4 or 8; {len(data)} are named, "{values["data"]}".')
        return parallel_words(clock, data, also.get("command"), CLOCK_RESTS_S, values["shortest"])
    data_line = _signal(lines, values["data"], trace)
    if values["wires"] == FOUR:
        return four_wire_words({"clock": clock, "data": data_line, **also}, {**values, "rest": CLOCK_RESTS_S})
    return two_wire_words(clock, data_line, trace.address, values["shortest"], bare=values["wires"] == LINES)


def controller_of(project: Project, panel: Panel, name: str) -> Controller:
    """The controller by name, or the default one of a panel. Raises RequestError where there is none."""
    known = {**CONTROLLERS, **project.controllers}
    name = name or usual_controller(panel)
    if name not in known:
        raise RequestError(f"{panel.name}: which controller it has is not said; there are {', '.join(known)}.")
    if isinstance(panel, InkPanel):
        return replace(known[name], memories=2)
    if isinstance(panel, ColourPanel):
        # The bytes per pixel are mostly set before a trace begins.
        return replace(known[name], cell_bytes=panel.pixel_bytes)
    return known[name]


def wanted_cells(project: Project, bench: Bench, panel: Panel, obeyed: Interpreted, moment_s: float) -> Cells:
    """The expected content of each cell by the panel's face at a time of the captures; −1 in invisible cells."""
    cells = np.full(obeyed.columns * obeyed.pages, -1, np.int64)
    faces = project.faces_on(panel.name)
    if not faces:
        return cells
    face, since_s = face_at(faces, moment_s)
    put_cells(panel, composed(project, bench, face, panel, moment_s, since_s), cells, obeyed)
    return cells


def composed(project: Project, bench: Bench, face: Face, panel: Panel, moment_s: float, since_s: float) -> Memory:
    """The memory that a face writes at a time of the captures. Raises CaptureError."""
    chosen = next(iter(project.channels.values()))
    readings = readings_before(project, bench, chosen, face, max(moment_s, 0.0), 1)
    return compose(face, panel, readings[-1] if readings else {}, None, since_s).memory
