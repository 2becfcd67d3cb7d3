"""A chart's lines and points as true pixels: a curve is a line and not a staircase of dots. Its labels are text."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import TYPE_CHECKING

import numpy as np

from lesart.draw.chart import PlotSeries, PlottedChart
from lesart.draw.colours import blend
from lesart.draw.raster import LEVELS, Indices, Raster

if TYPE_CHECKING:
    from PIL.ImageDraw import ImageDraw

FINER = 2
"""Oversampling factor, so that lines are smooth."""
LINE, DOT, POINT = 1.5, 1.5, 4.0
"""Width of a line, and radius of dots and points, in pixels."""
LETTER = 12
MOST_BANDS = 120
MARKED = ("points", "rings")
"""Styles of single values, which are in front of the cursor."""
Ticks = tuple[Sequence[float], Sequence[float]]
Place = Callable[[float], float]


def raster_of_chart(
    chart: PlottedChart, width: int, height: int, colours: Mapping[str, str], ground: str, ticks: Ticks
) -> Raster:
    """``colours`` by tone, with ``hairline`` and ``rubric``; ``ticks`` of x and y get a hairline each."""
    across, down = _scale(chart.x_range, width), _scale(chart.y_range, height, is_down=True)
    pictures: list[tuple[str, object]] = []

    def layer(tone: str) -> ImageDraw:
        from PIL import Image, ImageDraw

        picture = Image.new("L", (width * FINER, height * FINER))
        pictures.append((tone, picture))
        return ImageDraw.Draw(picture)

    grid = layer("hairline")
    for x in ticks[0]:
        grid.line([(across(x), 0), (across(x), height * FINER)], fill=90, width=1)
    for y in ticks[1]:
        grid.line([(0, down(y)), (width * FINER, down(y))], fill=90, width=1)
    times = [x for _, xs in chart.bands for x in xs]
    for x in times[:: max(len(times) // MOST_BANDS, 1)]:
        grid.line([(across(x), 0), (across(x), height * FINER)], fill=255, width=FINER)
    if chart.bands:
        _letters(layer("rubric"), chart, across, height)
    for each in chart.series:
        if each.style not in MARKED:
            _series(layer(each.tone), each, across, down)
    if chart.cursor is not None and chart.x_range[0] <= chart.cursor <= chart.x_range[1]:
        x = across(chart.cursor)
        layer("rubric").line([(x, 0), (x, height * FINER)], fill=255, width=FINER)
    for each in chart.series:
        # A point just placed at the cursor must not be hidden by it.
        if each.style in MARKED:
            _series(layer(each.tone), each, across, down)
    layers = [(tone, _levels(picture)) for tone, picture in pictures]
    return _flat(layers, colours, ground, (height, width))


def _scale(limits: tuple[float, float], pixels: int, *, is_down: bool = False) -> Place:
    low, high = limits
    span = high - low or 1.0
    last = pixels * FINER - 1

    def place(value: float) -> float:
        share = (value - low) / span
        # Clipped: extreme coordinates would fail in the drawing library.
        return max(min((1 - share if is_down else share) * last, 4.0 * last), -4.0 * last)

    return place


def _series(draw: ImageDraw, series: PlotSeries, across: Place, down: Place) -> None:
    """A series; NaN breaks a line."""
    points = [(across(x), down(y)) if y == y and x == x else None for x, y in zip(series.x, series.y, strict=True)]
    if series.style == "line":
        run: list[tuple[float, float]] = []
        for point in [*points, None]:
            if point is not None:
                run.append(point)
                continue
            if len(run) > 1:
                draw.line(run, fill=255, width=round(LINE * FINER))
            elif run:
                _disc(draw, run[0], DOT, filled=True)
            run = []
        return
    radius = DOT if series.style == "dots" else POINT
    for point in points:
        if point is not None:
            _disc(draw, point, radius, filled=series.style != "rings")


def _disc(draw: ImageDraw, point: tuple[float, float], radius: float, *, filled: bool) -> None:
    x, y = point
    reach = radius * FINER
    box = [(x - reach, y - reach), (x + reach, y + reach)]
    if filled:
        draw.ellipse(box, fill=255)
    else:
        draw.ellipse(box, outline=255, width=round(LINE * FINER))


def _letters(draw: ImageDraw, chart: PlottedChart, across: Place, height: int) -> None:
    """The letter of the mark at the foot of its line: colour alone never carries meaning."""
    from PIL import ImageFont

    font = ImageFont.load_default(LETTER * FINER)
    for word, xs in chart.bands:
        for x in list(xs)[:: max(len(xs) // MOST_BANDS, 1)]:
            draw.text((across(x), height * FINER - 2), word[0], fill=255, font=font, anchor="mb")


def _levels(picture: object) -> Indices:
    """Coverage of each pixel, in LEVELS."""
    fine = np.asarray(picture, np.uint16)
    rows, columns = fine.shape[0] // FINER, fine.shape[1] // FINER
    mean = fine.reshape(rows, FINER, columns, FINER).sum(axis=(1, 3)) / (255 * FINER * FINER)
    levels: Indices = np.ceil(mean * LEVELS - 1e-9).astype(np.uint8)
    return levels


def _flat(
    layers: Sequence[tuple[str, Indices]], colours: Mapping[str, str], ground: str, shape: tuple[int, int]
) -> Raster:
    """Layers merged, each blended only with the ground: few colours, for which a terminal has room."""
    indices = np.zeros(shape, np.uint8)
    tones = list(dict.fromkeys(tone for tone, _ in layers))
    table = [
        ground,
        *(blend(ground, colours[tone], level / LEVELS) for tone in tones for level in range(1, LEVELS + 1)),
    ]
    for tone, levels in layers:
        there = levels > 0
        indices[there] = LEVELS * tones.index(tone) + levels[there]
    return Raster(indices, tuple(table))
