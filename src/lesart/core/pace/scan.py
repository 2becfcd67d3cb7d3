"""Scanned digits, lit one at a time in turn: for the eye, for a camera, and for the drivers."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.scan import Scan
from lesart.core.notes import DOUBT, FAULT, Key, Mend, Note
from lesart.core.pace.play import Ran
from lesart.core.pace.task import BACKGROUND, INTERRUPT, NS
from lesart.core.pace.verdict import Verdict, judged
from lesart.core.quantity import listed, plain_number
from lesart.core.step import Step

NO_MEND: tuple[Mend, ...] = ()
CAMERAS_HZ = (24.0, 25.0, 30.0, 40.0, 50.0, 60.0)
MOST_BANDS = 0.1
"""A larger contrast between lines of a picture is seen as bands."""
MOST_UNEVEN = 0.1
"""Digits whose time varies by more visibly differ in brightness."""
SEGMENTS = 8
"""Segments of a digit, point included: an 8 with its point is the most a line carries."""
IN_A_ONE, IN_AN_EIGHT = 2, 7
"""Lit segments of a 1 and of an 8."""
DIMMER = "an 8 is dimmer than a 1"
MOST_DIMMER = 1.5
"""A ratio of light that is visible from digit to digit."""
MS = NS // 1000


@dataclass(frozen=True)
class ScanVerdict:
    """Figures of one round of all digits. ``duty`` is the lit share of a digit's time, 0 … 1."""

    period_ms: float
    refresh_hz: float
    duty: float
    steady: bool
    mend_on_time_ms: float | None
    """On-time that meets the wanted refresh at the same blanking; None where none does or none is needed."""


def judge_scan(scan: Scan, digits: int) -> ScanVerdict:
    """refresh = 1 ÷ (digits × (on-time + blanking)), duty = on-time ÷ period."""
    period_ms = digits * (scan.on_time_ms + scan.blanking_ms)
    refresh_hz = 1000.0 / period_ms
    steady = refresh_hz >= scan.wanted_hz
    longest = 1000.0 / (digits * scan.wanted_hz) - scan.blanking_ms
    # Down to a tenth of a millisecond, as a person would write it; finer only where that would be 0.
    tidy = math.floor(longest * 10) / 10 or _rounded_down(longest)
    mend = tidy if not steady and tidy > 0 else None
    return ScanVerdict(period_ms, refresh_hz, scan.on_time_ms / period_ms, steady, mend)


def _rounded_down(value: float) -> float:
    """Rounded down to two figures, so that the written value is not above the allowed one."""
    if value <= 0:
        return 0.0
    step = 10.0 ** (math.floor(math.log10(value)) - 1)
    return float(f"{math.floor(value / step) * step:.2g}")


def bands(on_ms: float, period_ms: float, shutter_ms: float) -> float:
    """How much the light differs that a line of a camera's picture gets, 0 to 1: (most − least) ÷ (most + least).

    A shutter open for so long sees whole rounds and a rest; the rest may fall on the lit part or on the dark.
    """
    rounds, rest = divmod(shutter_ms, period_ms)
    most = rounds * on_ms + min(rest, on_ms)
    least = rounds * on_ms + max(rest - (period_ms - on_ms), 0.0)
    return (most - least) / (most + least) if most > 0 else 0.0


def scan_verdicts(
    panel: str, scan: Scan, digits: int, shutter_ms: float, runs: Sequence[Ran], closed: str = ""
) -> tuple[Verdict, ...]:
    """All verdicts on scanning; ``runs`` are those of the task that moves to the next digit, by interrupt where a
    ``closed`` task that lets none in is named."""
    found, key = judge_scan(scan, digits), ("panels", panel, "scan")
    notes = inspect_scan(panel, scan, digits, key)
    verdicts = [
        Verdict(
            name=f"refresh of {panel}",
            figure=found.refresh_hz,
            unit="Hz",
            limit=scan.wanted_hz,
            at_least=True,
            note=next(iter(notes), None),
            of=panel,
        ),
        Verdict("brightness compared with steady", 100 * found.duty, "%", of=panel),
        _ghosts(panel, scan, digits, key),
        *_currents(panel, scan, found, key),
        on_camera(panel, scan.on_time_ms, found.period_ms, shutter_ms),
    ]
    return (*verdicts, *_evenness(panel, digits, runs, closed))


def _ghosts(panel: str, scan: Scan, digits: int, key: Key) -> Verdict:
    """Verdict on the blanking time against the time that a digit needs to go dark.

    A longer one may make the refresh too slow: then the remedy shortens the on-time, where that is enough.
    """
    needed = f"{scan.turn_off_ms * 1000:g} µs"
    longer = judge_scan(replace(scan, blanking_ms=scan.turn_off_ms), digits)
    remedy = f"blanking {needed}"
    mend: tuple[Mend, ...] = (Mend((*key, "blanking"), needed),)
    if not longer.steady and judge_scan(scan, digits).steady:
        shorter = longer.mend_on_time_ms
        if shorter is None:
            remedy, mend = f"{remedy}, and fewer digits or a lower refresh", ()
        else:
            remedy = f"{remedy}, and an on-time of {shorter:g} ms"
            mend = (*mend, Mend((*key, "on_time"), f"{shorter:g} ms"))
    says = (
        f"{plain_number(scan.blanking_ms * 1000, 3)} µs of blanking is too short; a digit needs {needed} to go "
        "dark, and shows as a ghost in the next one."
    )
    return judged(
        "blanking against ghosts",
        scan.blanking_ms * 1000,
        "µs",
        scan.turn_off_ms * 1000,
        panel,
        says,
        remedy,
        at_least=True,
        mend=mend,
    )


def _currents(panel: str, scan: Scan, found: ScanVerdict, key: Key) -> list[Verdict]:
    """Verdicts on peak and mean current of a segment, and of a digit's line with all segments lit.

    With a resistor in the digit's line, each segment gets the less the more are lit.
    """
    own, shared = scan.resistor_ohm, scan.line_resistor_ohm
    if not own and not shared:
        return []
    across_v = max(scan.supply_v - scan.forward_v, 0.0)
    alone = 1000.0 * segment_a(scan, 1)
    line = 1000.0 * SEGMENTS * segment_a(scan, SEGMENTS)
    # Resistors that would do: for one segment alone, and for the line whose segments together carry its limit.
    most, room = scan.segment_limit_ma, scan.line_limit_ma
    segment_ohm = across_v / most * 1000.0 - shared
    line_ohm = SEGMENTS * (across_v / room * 1000.0 - shared) if room else 0.0
    whole = "peak current, a digit's line"
    verdicts = [
        _carried("peak current, one segment", panel, "a segment", alone, most, segment_ohm, key, "segment_limit"),
        Verdict("mean current, one segment", alone * found.duty, "mA", of=panel),
        _carried(whole, panel, "a digit's line", line, room, line_ohm, key, "line_limit")
        if room
        else Verdict(whole, line, "mA", of=panel),
        Verdict("mean current, a digit's line", line * found.duty, "mA", of=panel),
    ]
    if shared:
        few, many = segment_a(scan, IN_A_ONE), segment_a(scan, IN_AN_EIGHT)
        dimmer = few / many if many else 1.0
        verdicts += [
            Verdict("a segment of a 1", 1000.0 * few, "mA", of=panel),
            Verdict("a segment of an 8", 1000.0 * many, "mA", of=panel),
            judged(
                DIMMER,
                dimmer,
                "times",
                MOST_DIMMER,
                panel,
                f"the lit segments of a digit share one resistor: each of an 8 gets {plain_number(1000 * many, 3)} mA, "
                f"each of a 1 {plain_number(1000 * few, 3)} mA, {plain_number(dimmer, 2)} times as much.",
                "a resistor before each segment, and none in the lines of the digits",
                mark=DOUBT,
            ),
        ]
    return verdicts


def segment_a(scan: Scan, lit: int) -> float:
    """Current of each of so many lit segments of one digit, in A: (supply − forward) ÷ (own + lit × shared resistor).

    Source: Ohm's law; all that are lit drop the same voltage, so they share what their digit's line lets through.
    """
    ohm = scan.resistor_ohm + lit * scan.line_resistor_ohm
    return max(scan.supply_v - scan.forward_v, 0.0) / ohm if ohm > 0 else 0.0


def _carried(
    name: str, panel: str, what: str, figure: float, limit: float, ohm: float, key: Key, limit_key: str
) -> Verdict:
    """Verdict on a current.

    ``ohm`` is the own resistor of each segment that meets the limit; without one a person has to find a remedy.
    """
    # Rounded up to two figures, or it would still be too small.
    step = 10.0 ** (len(str(int(max(ohm, 1.0)))) - 2)
    tidy = f"{max(-(-ohm // step) * step, 0.0):g} Ω"
    return judged(
        name,
        figure,
        "mA",
        limit,
        panel,
        f"{what} carries {plain_number(figure, 3)} mA; the limit is {plain_number(limit, 3)} mA.",
        f"resistors of {tidy} before the segments",
        mend=(Mend((*key, "resistor"), tidy),),
        limit_at=(*key, limit_key),
    )


def on_camera(panel: str, on_ms: float, period_ms: float, shutter_ms: float) -> Verdict:
    """Verdicts on bands at each frame rate, for anything lit once per period; the exposure cannot be longer than a
    frame."""
    found = [(rate_hz, bands(on_ms, period_ms, min(shutter_ms, 1000.0 / rate_hz))) for rate_hz in CAMERAS_HZ]
    worst_hz, depth = max(found, key=lambda each: each[1])
    seen = [f"{rate:g}" for rate, each in found if each > MOST_BANDS]
    says = (
        f"a camera at {listed(seen)} pictures a second shows bands; from line to line the light differs by "
        f"{100 * depth:.0f} %."
    )
    return judged(
        f"bands on camera, {worst_hz:g} /s",
        100 * depth,
        "%",
        100 * MOST_BANDS,
        panel,
        says,
        _without_bands(period_ms, shutter_ms),
        mark=DOUBT,
    )


def _without_bands(period_ms: float, shutter_ms: float) -> str:
    """A refresh that no such camera sees, and a shutter that sees whole rounds, where there is one.

    Within n whole rounds and a rest the light differs by 1 part in 2·n + 1 at most, whatever the rest is.
    """
    shortest_ms = min(shutter_ms, 1000.0 / max(CAMERAS_HZ))
    rounds = math.ceil((1 / MOST_BANDS - 1) / 2)
    refresh = f"a refresh from {plain_number(1000.0 * rounds / shortest_ms, 3)} Hz on"
    whole_ms = math.floor(1000.0 / max(CAMERAS_HZ) / period_ms) * period_ms
    if whole_ms:
        return f"{refresh}, or a shutter of {plain_number(whole_ms, 3)} ms"
    slow = [rate for rate in CAMERAS_HZ if 1000.0 / rate >= period_ms]
    if not slow:
        return refresh
    return f"{refresh}, or a shutter of {plain_number(period_ms, 3)} ms up to {max(slow):g} pictures a second"


def _evenness(panel: str, digits: int, runs: Sequence[Ran], closed: str) -> list[Verdict]:
    """Verdict on how much a digit's time varies, because something else kept the processor busy."""
    if len(runs) < digits + 2:
        return []
    times = [(later.start_ns - earlier.start_ns) / MS for earlier, later in itertools.pairwise(runs)]
    mean = sum(times) / len(times)
    uneven = (max(times) - min(times)) / mean
    rounds = [sum(times[at : at + digits]) for at in range(len(times) - digits + 1)]
    worst_hz = 1000.0 / max(rounds)
    because = f"{closed} lets no interrupt in" if closed else "the loop does other things"
    says = (
        f"a digit is lit for {plain_number(min(times), 3)} to {plain_number(max(times), 3)} ms, because {because}; its "
        "brightness is uneven."
    )
    task, runs_so = (closed, BACKGROUND) if closed else (f"scan {panel}", INTERRUPT)
    return [
        judged(
            "digits uneven by",
            100 * uneven,
            "%",
            100 * MOST_UNEVEN,
            panel,
            says,
            f"let a peripheral send it: {closed} in background" if closed else "scan by interrupt",
            mark=DOUBT,
            mend=(Mend(("loop", "tasks", task, "runs"), runs_so),),
        ),
        Verdict("slowest round", worst_hz, "Hz", of=panel),
    ]


def inspect_scan(panel: str, scan: Scan, digits: int, key: Key) -> list[Note]:
    """A note on flicker. ``key`` is that of the scan in the project."""
    verdict = judge_scan(scan, digits)
    refresh = plain_number(verdict.refresh_hz, 3)
    wanted = plain_number(scan.wanted_hz, 3)
    if verdict.steady:
        if verdict.refresh_hz >= scan.comfort_hz:
            return []
        return [
            Note(
                DOUBT,
                Step.PACE,
                None,
                f"{panel}: refresh {refresh} Hz looks steady, but shimmers when the eye moves.",
                figure=verdict.refresh_hz,
                unit="Hz",
                limit=scan.comfort_hz,
                remedy="a shorter on-time",
                panel=panel,
                limit_at=(*key, "comfort"),
            )
        ]
    if verdict.mend_on_time_ms is None:
        remedy, mend = "shorten the blanking, or scan fewer digits", NO_MEND
    else:
        remedy = f"on-time {plain_number(verdict.mend_on_time_ms)} ms instead of {plain_number(scan.on_time_ms)} ms"
        mend = (Mend((*key, "on_time"), f"{verdict.mend_on_time_ms:g} ms"),)
    return [
        Note(
            FAULT,
            Step.PACE,
            None,
            f"{panel}: {digits} digits refreshed at {refresh} Hz flicker; {wanted} Hz is needed.",
            figure=verdict.refresh_hz,
            unit="Hz",
            limit=scan.wanted_hz,
            remedy=remedy,
            mend=mend,
            panel=panel,
            limit_at=(*key, "wanted"),
        )
    ]
