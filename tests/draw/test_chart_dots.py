"""Charts in letters of dots, against dots counted one by one."""

from __future__ import annotations

import itertools

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lesart.draw.chart import PlotSeries, PlottedChart
from lesart.draw.chart_dots import dots_of_chart
from lesart.draw.chart_raster import raster_of_chart
from lesart.draw.dot_letters import ACROSS, DOWN

COLUMNS, ROWS = 10, 5
WIDTH, HEIGHT = COLUMNS * ACROSS, ROWS * DOWN
ORDER = ((0, 0), (0, 1), (0, 2), (1, 0), (1, 1), (1, 2), (0, 3), (1, 3))
"""Column and row of the dots of a letter, by their bit."""


def chart_of(*series: PlotSeries, cursor: float | None = None, bands: object = ()) -> PlottedChart:
    """Where a dot is one, both ways."""
    return PlottedChart(
        series=list(series),
        title="",
        x_label="x",
        y_label="y",
        x_range=(0.0, WIDTH - 1.0),
        y_range=(0.0, HEIGHT - 1.0),
        cursor=cursor,
        bands=bands,  # type: ignore[arg-type]
        time_axis=False,
        decades=False,
    )


def series_of(x: object, y: object, tone: str = "lapis", style: str = "line") -> PlotSeries:
    return PlotSeries("s", x, y, tone, style)  # type: ignore[arg-type]


def texts(chart: PlottedChart) -> list[str]:
    return ["".join(letters for letters, _ in row) for row in dots_of_chart(chart, COLUMNS, ROWS)]


def lit(chart: PlottedChart) -> set[tuple[int, int]]:
    """Dots that are lit, counted from the left and from below."""
    found = set()
    for row, text in enumerate(texts(chart)):
        assert len(text) == COLUMNS
        for column, letter in enumerate(text):
            bits = ord(letter) - 0x2800 if letter != " " else 0
            for bit, (x, y) in enumerate(ORDER):
                if bits >> bit & 1:
                    found.add((column * ACROSS + x, HEIGHT - 1 - (row * DOWN + y)))
    return found


INSIDE = st.tuples(st.integers(0, WIDTH - 1), st.integers(0, HEIGHT - 1))


@given(st.lists(INSIDE, min_size=1, max_size=12))
def test_points_stand_where_they_are(points: list[tuple[int, int]]) -> None:
    """Each lights its dot and no other."""
    x, y = (np.array(each, float) for each in zip(*points, strict=True))
    assert lit(chart_of(series_of(x, y, style="dots"))) == set(points)


@given(st.lists(INSIDE, min_size=2, max_size=6))
def test_a_line_leads_from_point_to_point(points: list[tuple[int, int]]) -> None:
    """Over each of them, without a hole, and never further than half a dot from the straight way."""
    x, y = (np.array(each, float) for each in zip(*points, strict=True))
    found = lit(chart_of(series_of(x, y)))
    assert set(points) <= found
    for (x0, y0), (x1, y1) in itertools.pairwise(points):
        steps = max(abs(x1 - x0), abs(y1 - y0), 1)
        for step in range(steps + 1):
            at = x0 + (x1 - x0) * step / steps, y0 + (y1 - y0) * step / steps
            near = {(a, b) for a, b in found if abs(a - at[0]) <= 0.5 and abs(b - at[1]) <= 0.5}
            assert near, at


def test_a_missing_value_parts_a_line() -> None:
    """Nothing is drawn over the gap, and both sides are."""
    y = np.full(WIDTH, 8.0)
    y[5:9] = np.nan
    assert {x for x, _ in lit(chart_of(series_of(np.arange(WIDTH, dtype=float), y)))} == {*range(5), *range(9, WIDTH)}


def test_what_lies_outside_is_not_drawn_and_leads_there() -> None:
    """A spike of any height goes up to the edge."""
    found = lit(chart_of(series_of(np.array([4.0, 5.0, 6.0]), np.array([2.0, 1e300, 2.0]))))
    assert {y for x, y in found} == set(range(2, HEIGHT))
    assert lit(chart_of(series_of(np.array([-90.0, -80.0]), np.array([2.0, 2.0])))) == set()


def test_cursor_marks_and_points_stand_over_dots() -> None:
    """The line of a marked sample behind, its letter at the foot; rings and points as such; the cursor before dots."""
    level = series_of(np.array([0.0, WIDTH - 1.0]), np.array([0.0, 0.0]))
    ring = series_of(np.array([4.0]), np.array([18.0]), "ochre", "rings")
    rows = dots_of_chart(chart_of(level, ring, cursor=10.0, bands=(("missing", [16.0]),)), COLUMNS, ROWS)
    text = ["".join(letters for letters, _ in row) for row in rows]
    assert [line[5] for line in text] == ["│"] * ROWS
    assert text[0][2] == "○"
    assert text[-1][8] == "m"
    tones = {letters.strip(): tone for row in rows for letters, tone in row if letters.strip()}
    assert (tones["│"], tones["○"], tones["m"]) == ("rubric", "ochre", "rubric")
    assert "hairline" in tones.values()


def test_a_point_at_the_cursor_is_seen() -> None:
    """Where a reference was just recorded the cursor stands, in letters as in pixels."""
    ring = series_of(np.array([10.0]), np.array([18.0]), "ochre", "points")
    bare, marked = chart_of(cursor=10.0), chart_of(ring, cursor=10.0)
    rows = ["".join(letters for letters, _ in row) for row in dots_of_chart(marked, COLUMNS, ROWS)]
    assert [line[5] for line in rows] == ["●", *"│" * (ROWS - 1)]
    colours = {"text": "#ffffff", "ochre": "#dba945", "rubric": "#d9583b", "hairline": "#3a342b"}
    pictures = [raster_of_chart(chart, 200, 100, colours, "#14120f", ((), ())) for chart in (bare, marked)]
    assert not np.array_equal(pictures[0].indices, pictures[1].indices)
    x = round((10.0 - marked.x_range[0]) / (marked.x_range[1] - marked.x_range[0]) * 199)
    y = round((1 - (18.0 - marked.y_range[0]) / (marked.y_range[1] - marked.y_range[0])) * 99)
    # In the middle of the point no red of the line is left.
    assert pictures[1].colours[pictures[1].indices[y, x]] == colours["ochre"]
