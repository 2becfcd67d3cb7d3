"""Scanned digits in a logic trace: how long each is really lit, how evenly, overlaps, and what they show."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import field

import numpy as np
import numpy.typing as npt

from lesart.core.block import Bools, Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.notes import DOUBT
from lesart.core.pace.scan import MOST_UNEVEN
from lesart.core.pace.verdict import Verdict, judged
from lesart.core.quantity import counted, listed, plain_number, told_apart
from lesart.core.ranked import median
from lesart.core.raw.edges import Edges

Spans = npt.NDArray[np.float64]
"""Starts and ends in seconds, shape (n, 2)."""
SHOWN = 0.5
"""A segment lit for more of its digit's time is shown; for less it is a ghost."""
ABOUT = 0.95
"""A refresh above this share of the model's agrees with it."""
LEAST_GHOST = 0.02
"""A ghost fainter than this is not seen next to lit segments."""


@dataclass(frozen=True, eq=False)
class DigitTraced:
    """One digit. Times in milliseconds; ``jitter_ms`` is the standard deviation of its period.

    ``shares`` is the lit share of each segment line in each on time of the digit, shape (times, lines). The number may
    change during the trace, so each on time counts by itself.
    """

    spans: Spans
    refresh_hz: float
    slowest_hz: float
    on_ms: tuple[float, float, float]
    jitter_ms: float
    shares: Floats = field(default_factory=lambda: np.zeros((0, 0)))

    @property
    def lines(self) -> int:
        """Number of traced segment lines."""
        return int(self.shares.shape[1])

    @property
    def bits(self) -> int:
        """Segments shown for most of the trace as bits, the first line lowest."""
        lit = self._mean(np.ones(self.shares.shape, bool))
        return sum(1 << bit for bit, share in enumerate(lit) if share >= SHOWN)

    def bits_at(self, t_s: float) -> int:
        """Segments shown when it was last on before a time of the trace, or else the first time."""
        if not len(self.shares):
            return 0
        place = max(int(np.searchsorted(self.spans[:, 1], t_s, side="right")) - 1, 0)
        return sum(1 << bit for bit, share in enumerate(self.shares[place].tolist()) if share >= SHOWN)

    @property
    def ghosts(self) -> tuple[tuple[int, float], ...]:
        """Segment lines that glow faintly, and how much, while they should be dark."""
        faint = self._mean(self.shares < SHOWN)
        return tuple((bit, share) for bit, share in enumerate(faint) if share >= LEAST_GHOST)

    def _mean(self, which: Bools) -> list[float]:
        """Mean share of each line, weighted by time; 0 where there are none."""
        lasts = (self.spans[: len(self.shares), 1] - self.spans[: len(self.shares), 0])[:, None] * which
        whole = lasts.sum(axis=0)
        means: list[float] = np.divide(
            (lasts * self.shares).sum(axis=0), whole, where=whole > 0, out=whole * 0
        ).tolist()
        return means


@dataclass(frozen=True, eq=False)
class DigitsTraced:
    """All digits, left to right.

    ``gap_ms`` is the shortest time with all dark between two; ``overlap_ms`` the longest with two lit at once, and
    ``overlaps`` how often that was.
    """

    digits: tuple[DigitTraced, ...]
    looked_s: float
    gap_ms: float
    overlap_ms: float
    overlaps: int


def trace_digits(lines: Sequence[Edges], segments: Sequence[Edges], *, on_level: int, lit_level: int) -> DigitsTraced:
    """Digits in a trace.

    ``on_level`` of a digit line turns its digit on; ``lit_level`` of a segment line lights it in the digit that is on.
    """
    spans = [_spans(line, on_level) for line in lines]
    lit = [_all_spans(line, lit_level) for line in segments]
    looked = max((line.end_s - line.start_s for line in lines), default=0.0)
    digits = tuple(_digit(each, lit) for each in spans)
    gap, overlap, overlaps = _beside(spans)
    return DigitsTraced(digits, looked, gap, overlap, overlaps)


def _spans(line: Edges, level: int) -> Spans:
    """Spans in which a line has a level, without those cut off by either end of the trace."""
    starts = np.flatnonzero(line.level == level)
    starts = starts[starts + 1 < len(line)]
    return np.column_stack((line.t[starts], line.t[starts + 1])) if len(starts) else np.zeros((0, 2))


def _all_spans(line: Edges, level: int) -> Spans:
    """Spans in which a line has a level, from the beginning of the trace to its end: a segment may be lit in every
    digit."""
    t = np.concatenate(([line.start_s], line.t, [line.end_s]))
    levels = np.concatenate(([line.first], line.level))
    starts = np.flatnonzero(levels == level)
    return np.column_stack((t[starts], t[starts + 1]))


def _digit(spans: Spans, lit: Sequence[Spans]) -> DigitTraced:
    if not len(spans):
        return DigitTraced(spans, 0.0, 0.0, (0.0, 0.0, 0.0), 0.0, np.zeros((0, len(lit))))
    on = 1000.0 * (spans[:, 1] - spans[:, 0])
    periods = np.diff(spans[:, 0])
    mean = float(periods.mean()) if len(periods) else 0.0
    slowest = float(periods.max()) if len(periods) else 0.0
    lasts = np.maximum(spans[:, 1] - spans[:, 0], 1e-12)
    shares = np.array([_common(spans, each) / lasts for each in lit]).reshape(len(lit), len(spans)).T
    return DigitTraced(
        spans,
        1.0 / mean if mean else 0.0,
        1.0 / slowest if slowest else 0.0,
        (float(on.min()), float(on.mean()), float(on.max())),
        1000.0 * float(periods.std()) if len(periods) else 0.0,
        shares,
    )


def _common(some: Spans, others: Spans) -> Floats:
    """Seconds that each span shares with the others, of which no two overlap; shape (n,)."""
    if not len(others):
        return np.zeros(len(some))
    return _until(others, some[:, 1]) - _until(others, some[:, 0])


def _until(spans: Spans, moments: Floats) -> Floats:
    """Seconds of the spans before each time."""
    whole = np.concatenate(([0.0], np.cumsum(spans[:, 1] - spans[:, 0])))
    place = np.searchsorted(spans[:, 0], moments, side="right")
    at = np.maximum(place - 1, 0)
    begun = np.where(place > 0, np.minimum(moments, spans[at, 1]) - spans[at, 0], 0.0)
    before: Floats = whole[at] + begun
    return before


def _beside(spans: Sequence[Spans]) -> tuple[float, float, int]:
    """Shortest gap and longest overlap between spans of different digits, in milliseconds, and the number of
    overlaps."""
    all_ = sorted((start, end, place) for place, each in enumerate(spans) for start, end in each.tolist())
    gap, overlap, count, last = float("inf"), 0.0, 0, (0.0, -1)
    for start, end, place in all_:
        until, before = last
        if before not in (-1, place):
            if start < until:
                overlap, count = max(overlap, min(until, end) - start), count + 1
            else:
                gap = min(gap, start - until)
        last = max(last, (end, place))
    return (0.0 if gap == float("inf") else 1000.0 * gap), 1000.0 * overlap, count


def digit_verdicts(
    panel: str,
    traced: DigitsTraced,
    wanted_hz: float,
    model_hz: float,
    on_time_ms: float,
    turn_off_ms: float,
    names: Mapping[int, str],
) -> tuple[Verdict, ...]:
    """Verdicts on traced digits against the model, with ``on_time_ms`` from it and ``names`` of segments by line."""
    # Without a period there is no refresh, and no share of light to compare.
    dark = [str(place) for place, digit in enumerate(traced.digits, 1) if len(digit.spans) < 2]
    if dark or not traced.digits:
        lit = len(traced.digits) - len(dark)
        return (
            judged(
                "digits lit, traced",
                lit,
                "",
                max(len(traced.digits), 1),
                panel,
                f"in the trace {'digit' if len(dark) == 1 else 'digits'} {listed(dark)} "
                f"{'is' if len(dark) == 1 else 'are'} never lit, or only once.",
                "check its line, and the level that turns it on",
                at_least=True,
            ),
        )
    return (
        *_refreshes(panel, traced, wanted_hz, model_hz),
        _evenness(panel, traced, on_time_ms),
        _ghosting(panel, traced, turn_off_ms),
        *_faint(panel, traced, names),
    )


def _refreshes(panel: str, traced: DigitsTraced, wanted_hz: float, model_hz: float) -> tuple[Verdict, ...]:
    refresh = min(digit.refresh_hz for digit in traced.digits)
    slowest = min(digit.slowest_hz for digit in traced.digits)
    came, needed = told_apart(slowest, wanted_hz)
    says = (
        f"in the trace a digit waits up to {plain_number(1000 / slowest, 3)} ms for its turn, "
        f"{came} Hz; {needed} Hz is needed."
    )
    if slowest > ABOUT * model_hz and model_hz < wanted_hz:
        # It agrees with the model, whose own verdict already reports the flicker.
        return (
            Verdict("refresh, traced", refresh, "Hz", of=panel),
            Verdict("slowest round, traced", slowest, "Hz", of=panel),
        )
    return (
        Verdict("refresh, traced", refresh, "Hz", of=panel),
        judged(
            "slowest round, traced",
            slowest,
            "Hz",
            wanted_hz,
            panel,
            says,
            f"the model says {plain_number(model_hz, 3)} Hz: look at what holds the scan up",
            at_least=True,
        ),
    )


def _evenness(panel: str, traced: DigitsTraced, on_time_ms: float) -> Verdict:
    """Verdict on the digits' shares of light: one that is on for longer is brighter."""
    means = [digit.on_ms[1] * digit.refresh_hz for digit in traced.digits]
    middle = median(np.array(means))
    off = [100 * (each / middle - 1) for each in means]
    worst = max(range(len(off)), key=lambda place: abs(off[place]))
    says = (
        f"in the trace digit {worst + 1} is lit for {plain_number(traced.digits[worst].on_ms[1], 3)} ms, the "
        f"others for {_others(traced, worst)}; it is {plain_number(abs(off[worst]), 2)} % "
        f"{'brighter' if off[worst] > 0 else 'darker'}."
    )
    return judged(
        "digits uneven, traced",
        abs(off[worst]),
        "%",
        100 * MOST_UNEVEN,
        panel,
        says,
        f"the model says {plain_number(on_time_ms, 3)} ms for each",
        mark=DOUBT,
    )


def _others(traced: DigitsTraced, worst: int) -> str:
    rest = [digit.on_ms[1] for place, digit in enumerate(traced.digits) if place != worst]
    low, high = plain_number(min(rest, default=0.0), 3), plain_number(max(rest, default=0.0), 3)
    return f"{low} ms" if low == high else f"{low} to {high} ms"


def _ghosting(panel: str, traced: DigitsTraced, turn_off_ms: float) -> Verdict:
    """Verdict on the dark time between digits; negative where two are lit at once."""
    name, limit_us = "dark between digits, traced", 1000 * turn_off_ms
    if traced.overlaps:
        longest = plain_number(1000 * traced.overlap_ms, 3)
        return judged(
            name,
            -1000 * traced.overlap_ms,
            "µs",
            limit_us,
            panel,
            f"in the trace two digits are lit at once {counted(traced.overlaps, 'time')}, for up to "
            f"{longest} "
            "µs; each shows as a ghost in the other.",
            "turn a digit off before the segments change and the next one comes",
            at_least=True,
        )
    # To the nanosecond: differences of times are not exact, and 20 µs is not less than 20 µs.
    gap_us = round(1000 * traced.gap_ms, 3)
    dark, needed = told_apart(gap_us, limit_us)
    says = f"in the trace only {dark} µs are dark between two digits; one needs {needed} µs to go dark."
    return judged(name, gap_us, "µs", limit_us, panel, says, "longer blanking", at_least=True)


def _faint(panel: str, traced: DigitsTraced, names: Mapping[int, str]) -> list[Verdict]:
    """Verdict on segments that glow for part of a digit's time: they changed while it was on."""
    if not any(digit.lines for digit in traced.digits):
        return []
    ghosts = [(share, place, bit) for place, digit in enumerate(traced.digits) for bit, share in digit.ghosts]
    share, place, bit = max(ghosts, default=(0.0, 0, 0))
    says = (
        f"in the trace segment {names.get(bit, str(bit))} of digit {place + 1} is lit for "
        f"{plain_number(100 * share, 2)} % of its time while it should be dark: a ghost."
    )
    return [
        judged(
            "brightest ghost, traced",
            100 * share,
            "%",
            100 * LEAST_GHOST,
            panel,
            says,
            "change segments only while all digits are dark",
        )
    ]


def lines_of(traced: DigitsTraced, start_ns: int, span_ns: int) -> tuple[tuple[tuple[int, int], ...], ...]:
    """Lit spans of each digit in whole nanoseconds, from and relative to ``start_ns`` of the trace."""
    found = []
    for digit in traced.digits:
        spans = np.rint(digit.spans * 1e9).astype(np.int64) - start_ns
        inside = spans[(spans[:, 1] > 0) & (spans[:, 0] < span_ns)]
        found.append(tuple((int(first), int(last)) for first, last in inside.tolist()))
    return tuple(found)


def first_round_s(traced: DigitsTraced) -> float:
    """When the first digit is first lit, in seconds."""
    return float(traced.digits[0].spans[0, 0]) if traced.digits and len(traced.digits[0].spans) else 0.0
