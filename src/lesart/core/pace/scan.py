"""Scanned digits: one is lit at a time, in turn. What the eye, a camera and the drivers make of it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

from lesart.core.glass.drive import Scan
from lesart.core.notes import DOUBT, FAULT, Key, Mend, Note
from lesart.core.pace.play import Ran
from lesart.core.pace.task import NS
from lesart.core.pace.verdict import Verdict
from lesart.core.quantity import plain_number

NO_MEND: tuple[Mend, ...] = ()
CAMERAS_HZ = (24.0, 25.0, 30.0, 50.0, 60.0)
MOST_BANDS = 0.1
"""Light from line to line of a picture that differs by more is seen as bands."""
MOST_UNEVEN = 0.1
"""Digits whose time varies by more differ in brightness to the eye."""
SEGMENTS = 8
"""Of a digit, its point among them: an 8 with its point is the most a line carries."""
MS = NS // 1000


@dataclass(frozen=True)
class ScanVerdict:
    """Over one round of all digits. ``duty`` is the lit part of a digit's time, 0 … 1: brightness against steady."""

    period_ms: float
    refresh_hz: float
    duty: float
    steady: bool
    mend_on_time_ms: float | None
    """On-time that meets the wanted refresh at the same blanking; None when none does or none is needed."""


def judge_scan(scan: Scan, digits: int) -> ScanVerdict:
    """refresh = 1 ÷ (digits × (on-time + blanking)), duty = on-time ÷ period."""
    period_ms = digits * (scan.on_time_ms + scan.blanking_ms)
    refresh_hz = 1000.0 / period_ms
    steady = refresh_hz >= scan.wanted_hz
    longest = 1000.0 / (digits * scan.wanted_hz) - scan.blanking_ms
    # Down to a tenth of a millisecond, what a person would write; finer only where that would be nothing.
    tidy = int(longest * 10) / 10 or longest
    mend = tidy if not steady and tidy > 0 else None
    return ScanVerdict(period_ms, refresh_hz, scan.on_time_ms / period_ms, steady, mend)


def bands(on_ms: float, period_ms: float, shutter_ms: float) -> float:
    """How much the light differs that a line of a camera's picture gets, 0 to 1: (most − least) ÷ (most + least).

    A shutter open for so long sees whole rounds and a rest; the rest may fall on the lit part or on the dark.
    """
    rounds, rest = divmod(shutter_ms, period_ms)
    most = rounds * on_ms + min(rest, on_ms)
    least = rounds * on_ms + max(rest - (period_ms - on_ms), 0.0)
    return (most - least) / (most + least) if most > 0 else 0.0


def scan_verdicts(panel: str, scan: Scan, digits: int, shutter_ms: float, runs: Sequence[Ran]) -> tuple[Verdict, ...]:
    """Everything that hangs on how digits are scanned; ``runs`` are those of the task that goes to the next digit."""
    found, key = judge_scan(scan, digits), ("panels", panel, "scan")
    notes = inspect_scan(panel, scan, digits, key)
    verdicts = [
        Verdict(f"refresh of {panel}", found.refresh_hz, "Hz", scan.wanted_hz, True, next(iter(notes), None), panel),
        Verdict("brightness against steady", 100 * found.duty, "%", of=panel),
        _ghosts(panel, scan, key), *_currents(panel, scan, found, key), *_on_camera(panel, scan, found, shutter_ms),
    ]  # fmt: skip
    return (*verdicts, *_evenness(panel, digits, runs))


def _ghosts(panel: str, scan: Scan, key: Key) -> Verdict:
    note = None
    if scan.blanking_ms < scan.turn_off_ms:
        said = f"{plain_number(scan.blanking_ms * 1000, 3)} µs"
        needed = f"{scan.turn_off_ms * 1000:g} µs"
        note = Note(FAULT, "pace", None, f"{panel}: {said} of blanking are too short; a digit needs {needed} to go "
                    "dark, and shows as a ghost in the next one.", figure=scan.blanking_ms * 1000, unit="µs",
                    limit=scan.turn_off_ms * 1000, remedy=f"blanking {needed}",
                    mend=(Mend((*key, "blanking"), needed),), panel=panel)  # fmt: skip
    return Verdict("blanking against ghosts", scan.blanking_ms * 1000, "µs", scan.turn_off_ms * 1000, True, note, panel)


def _currents(panel: str, scan: Scan, found: ScanVerdict, key: Key) -> list[Verdict]:
    """Peak and mean of a segment, and peak of a digit's line with all of its segments lit."""
    if not scan.resistor_ohm:
        return []
    peak = max(scan.supply_v - scan.forward_v, 0.0) / scan.resistor_ohm * 1000.0
    line = SEGMENTS * peak
    segment_note = line_note = None
    if peak > scan.segment_limit_ma:
        ohm = (scan.supply_v - scan.forward_v) / scan.segment_limit_ma * 1000.0
        segment_note = _too_much(panel, "a segment", peak, scan.segment_limit_ma, ohm, key)
    if scan.line_limit_ma and line > scan.line_limit_ma:
        ohm = (scan.supply_v - scan.forward_v) / (scan.line_limit_ma / SEGMENTS) * 1000.0
        line_note = _too_much(panel, "a digit's line", line, scan.line_limit_ma, ohm, key)
    return [
        Verdict("peak current, one segment", peak, "mA", scan.segment_limit_ma, False, segment_note, panel),
        Verdict("mean current, one segment", peak * found.duty, "mA", of=panel),
        Verdict("peak current, a digit's line", line, "mA", scan.line_limit_ma or None, False, line_note, panel),
        Verdict("mean current, a digit's line", line * found.duty, "mA", of=panel),
    ]


def _too_much(panel: str, what: str, figure: float, limit: float, ohm: float, key: Key) -> Note:
    # Upwards to two figures, or the rounded one would still be too small.
    step = 10.0 ** (len(str(int(ohm))) - 2)
    tidy = f"{-(-ohm // step) * step:g} Ω"
    return Note(FAULT, "pace", None, f"{panel}: {what} carries {plain_number(figure, 3)} mA; "
                f"{plain_number(limit, 3)} mA is the most.", figure=figure, unit="mA", limit=limit,
                remedy=f"resistors of {tidy}", mend=(Mend((*key, "resistor"), tidy),), panel=panel)  # fmt: skip


def _on_camera(panel: str, scan: Scan, found: ScanVerdict, shutter_ms: float) -> list[Verdict]:
    """Bands at each rate of pictures; the shutter cannot be open for longer than a picture lasts."""
    verdicts = []
    for rate_hz in CAMERAS_HZ:
        depth = bands(scan.on_time_ms, found.period_ms, min(shutter_ms, 1000.0 / rate_hz))
        verdicts.append((rate_hz, depth))
    worst_hz, depth = max(verdicts, key=lambda each: each[1])
    seen = [f"{rate:g}" for rate, each in verdicts if each > MOST_BANDS]
    note = None
    if depth > MOST_BANDS:
        note = Note(DOUBT, "pace", None, f"{panel}: a camera at {', '.join(seen)} pictures a second shows bands; from "
                    f"line to line the light differs by {100 * depth:.0f} %.", figure=100 * depth, unit="%",
                    limit=100 * MOST_BANDS, remedy=_without_bands(found, shutter_ms), panel=panel)  # fmt: skip
    return [Verdict(f"bands on camera, {worst_hz:g} /s", 100 * depth, "%", 100 * MOST_BANDS, False, note, panel)]


def _without_bands(found: ScanVerdict, shutter_ms: float) -> str:
    """A refresh that no such camera sees, and a shutter that sees whole rounds, where there is one.

    Within n whole rounds and a rest the light differs by 1 part in 2·n + 1 at most, whatever the rest is.
    """
    shortest_ms = min(shutter_ms, 1000.0 / max(CAMERAS_HZ))
    rounds = math.ceil((1 / MOST_BANDS - 1) / 2)
    refresh = f"a refresh from {plain_number(1000.0 * rounds / shortest_ms, 3)} Hz on"
    whole_ms = math.floor(1000.0 / max(CAMERAS_HZ) / found.period_ms) * found.period_ms
    if whole_ms:
        return f"{refresh}, or a shutter of {plain_number(whole_ms, 3)} ms"
    slow = [rate for rate in CAMERAS_HZ if 1000.0 / rate >= found.period_ms]
    if not slow:
        return refresh
    return f"{refresh}, or a shutter of {plain_number(found.period_ms, 3)} ms up to {max(slow):g} pictures a second"


def _evenness(panel: str, digits: int, runs: Sequence[Ran]) -> list[Verdict]:
    """How much a digit's time varies, because something else kept the processor."""
    if len(runs) < digits + 2:
        return []
    times = [(later.start_ns - earlier.start_ns) / MS for earlier, later in itertools.pairwise(runs)]
    mean = sum(times) / len(times)
    uneven = (max(times) - min(times)) / mean
    rounds = [sum(times[at : at + digits]) for at in range(len(times) - digits + 1)]
    worst_hz = 1000.0 / max(rounds)
    note = None
    if uneven > MOST_UNEVEN:
        note = Note(DOUBT, "pace", None, f"{panel}: a digit is lit for {plain_number(min(times), 3)} to "
                    f"{plain_number(max(times), 3)} ms, because the loop does other things; its brightness is uneven.",
                    figure=100 * uneven, unit="%", limit=100 * MOST_UNEVEN, remedy="scan by interrupt", panel=panel,
                    mend=(Mend(("loop", "tasks", f"scan {panel}", "runs"), "by interrupt"),))  # fmt: skip
    return [
        Verdict("digits uneven by", 100 * uneven, "%", 100 * MOST_UNEVEN, False, note, panel),
        Verdict("slowest round", worst_hz, "Hz", of=panel),
    ]


def inspect_scan(panel: str, scan: Scan, digits: int, key: Key) -> list[Note]:
    """Flicker. ``key`` is where the scan stands in the project."""
    verdict = judge_scan(scan, digits)
    refresh = plain_number(verdict.refresh_hz, 3)
    wanted = plain_number(scan.wanted_hz, 3)
    if verdict.steady:
        if verdict.refresh_hz >= scan.comfort_hz:
            return []
        return [
            Note(DOUBT, "pace", None, f"{panel}: refresh {refresh} Hz looks steady, but shimmers when the eye moves.",
                 figure=verdict.refresh_hz, unit="Hz", limit=scan.comfort_hz, remedy="a shorter on-time", panel=panel)
        ]  # fmt: skip
    if verdict.mend_on_time_ms is None:
        remedy, mend = "shorten the blanking, or scan fewer digits", NO_MEND
    else:
        remedy = f"on-time {plain_number(verdict.mend_on_time_ms)} ms in place of {plain_number(scan.on_time_ms)} ms"
        mend = (Mend((*key, "on_time"), f"{verdict.mend_on_time_ms:g} ms"),)
    return [
        Note(FAULT, "pace", None, f"{panel}: {digits} digits refreshed at {refresh} Hz flicker; {wanted} Hz is wanted.",
             figure=verdict.refresh_hz, unit="Hz", limit=scan.wanted_hz, remedy=remedy, mend=mend, panel=panel)
    ]  # fmt: skip
