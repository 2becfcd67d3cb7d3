"""A chart's lines and points as dot letters, two dots across and four down in each: for terminals without pixels.

Lines are drawn with whole-array operations, so that a chart of a thousand points takes a millisecond. A letter has one
colour, that of the series drawn last in it, and the dots of all.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from lesart.draw.chart import PlotSeries, PlottedChart
from lesart.draw.dot_letters import ACROSS, BITS, DOWN, EMPTY

MOST_BANDS = 120
MARKERS = {"points": "●", "rings": "○"}
CURSOR = "│"
FAR = 4.0
"""Chart widths beyond the edge at which coordinates are clipped."""
_BITS = np.array(BITS, np.uint8)
_LETTERS = [" ", *(chr(EMPTY + bits) for bits in range(1, 256))]
Ints = npt.NDArray[np.int64]
Run = tuple[str, str]
"""Letters and their tone."""


class _Sheet:
    """Lit dots, a tone per letter by its number in ``tones``, and letters over the dots."""

    def __init__(self, columns: int, rows: int) -> None:
        self.lit = np.zeros((rows * DOWN, columns * ACROSS), np.bool_)
        self.tone = np.zeros((rows, columns), np.int64)
        self.tones = ["text"]
        self.over: dict[tuple[int, int], Run] = {}

    def dots(self, x: Ints, y: Ints, tone: str) -> None:
        """Light dots by column from the left and row from the top, without those outside."""
        height, width = self.lit.shape
        inside = (x >= 0) & (x < width) & (y >= 0) & (y < height)
        x, y = x[inside], y[inside]
        if tone not in self.tones:
            self.tones.append(tone)
        self.lit[y, x] = True
        self.tone[y // DOWN, x // ACROSS] = self.tones.index(tone)

    def put(self, row: int, column: int, letter: str, tone: str) -> None:
        """Put a letter over the dots."""
        if 0 <= row < self.tone.shape[0] and 0 <= column < self.tone.shape[1]:
            self.over[row, column] = letter, tone

    def lines(self) -> list[list[Run]]:
        """Rows in runs of one tone."""
        rows, columns = self.tone.shape
        bits = (self.lit.reshape(rows, DOWN, columns, ACROSS) * _BITS[:, None, :]).sum(axis=(1, 3))
        letters = [[_LETTERS[each] for each in row] for row in bits.tolist()]
        tones = [[self.tones[number] for number in row] for row in self.tone.tolist()]
        for (row, column), (letter, tone) in self.over.items():
            letters[row][column], tones[row][column] = letter, tone
        return [_runs(*each) for each in zip(letters, tones, strict=True)]


def _runs(letters: list[str], tones: list[str]) -> list[Run]:
    runs: list[Run] = []
    start = 0
    for column in range(1, len(letters) + 1):
        if column == len(letters) or tones[column] != tones[start]:
            runs.append(("".join(letters[start:column]), tones[start]))
            start = column
    return runs


def dots_of_chart(chart: PlottedChart, columns: int, rows: int) -> list[list[Run]]:
    """Rows of a chart in this many letters, from the top; marked samples are lines in the background, the cursor is in
    front of all but points."""
    sheet = _Sheet(columns, rows)
    width, height = columns * ACROSS, rows * DOWN
    times = [x for _, xs in chart.bands for x in xs]
    some = _places(times[:: max(len(times) // MOST_BANDS, 1)], chart.x_range, width)
    sheet.dots(np.repeat(some, height), np.tile(np.arange(height), len(some)), "hairline")
    for each in chart.series:
        _draw(sheet, each, chart, width, height)
    for word, xs in chart.bands:
        # The letter of the mark, at the foot of its line: colour alone never carries meaning.
        for x in _places(list(xs)[:: max(len(xs) // MOST_BANDS, 1)], chart.x_range, width).tolist():
            sheet.put(rows - 1, x // ACROSS, word[0], "rubric")
    if chart.cursor is not None and chart.x_range[0] <= chart.cursor <= chart.x_range[1]:
        column = int(_places([chart.cursor], chart.x_range, width)[0]) // ACROSS
        for row in range(rows):
            # A point just placed at the cursor must not be hidden by it.
            if (row, column) not in sheet.over:
                sheet.put(row, column, CURSOR, "rubric")
    return sheet.lines()


def _draw(sheet: _Sheet, series: PlotSeries, chart: PlottedChart, width: int, height: int) -> None:
    good = np.isfinite(np.asarray(series.x, np.float64)) & np.isfinite(np.asarray(series.y, np.float64))
    x = _places(np.where(good, series.x, chart.x_range[0]), chart.x_range, width)
    y = height - 1 - _places(np.where(good, series.y, chart.y_range[0]), chart.y_range, height)
    if series.style == "line":
        joined = good[:-1] & good[1:]
        sheet.dots(*_between(x[:-1][joined], y[:-1][joined], x[1:][joined], y[1:][joined]), series.tone)
    if series.style in ("line", "dots"):
        sheet.dots(x[good], y[good], series.tone)
        return
    for at_x, at_y in zip(x[good].tolist(), y[good].tolist(), strict=True):
        sheet.put(at_y // DOWN, at_x // ACROSS, MARKERS[series.style], series.tone)


def _places(values: Sequence[float] | npt.NDArray[np.float64], limits: tuple[float, float], dots: int) -> Ints:
    """The dot of each value, with ``limits`` at the first and the last dot."""
    low, high = limits
    share = (np.asarray(values, np.float64) - low) / ((high - low) or 1.0)
    return np.rint(np.clip(share, -FAR, FAR + 1) * (dots - 1)).astype(np.int64)


def _between(x0: Ints, y0: Ints, x1: Ints, y1: Ints) -> tuple[Ints, Ints]:
    """The dots of lines between pairs of points, one per step in the longer direction."""
    steps = np.maximum(np.maximum(np.abs(x1 - x0), np.abs(y1 - y0)), 1)
    line = np.repeat(np.arange(len(steps)), steps)
    along = np.arange(len(line)) - np.repeat(np.cumsum(steps) - steps, steps)
    share = along / steps[line]
    return (
        np.rint(x0[line] + share * (x1 - x0)[line]).astype(np.int64),
        np.rint(y0[line] + share * (y1 - y0)[line]).astype(np.int64),
    )
