"""The cursor on the screen: it plays, is dragged and clicked, and the chart is zoomed about it."""

from __future__ import annotations

from pathlib import Path

import pytest
from textual.events import MouseDown, MouseEvent, MouseMove, MouseUp

from lesart.tui.chart_letters import ChartView
from tests.tui.driven import opened


async def test_chart_answers_to_wheel_and_click(yard: Path) -> None:
    """A click puts the cursor there, the wheel zooms around it, keys zoom too."""
    async with opened(yard) as driven:
        chart = driven.app._sheet.query_one("#chart")
        await driven.pilot.click("#chart", offset=(chart.size.width // 2, chart.size.height // 2))
        await driven.settled()
        cursor = driven.app._picture.cursor
        assert "00:5" in cursor
        await driven.press("right_square_bracket", "right_square_bracket")
        shown = driven.app._picture.workspace.chart
        assert shown is not None
        assert shown.x_range[1] - shown.x_range[0] == pytest.approx(7199.9 / 4)
        await driven.press("left_square_bracket", "left_square_bracket")
        shown = driven.app._picture.workspace.chart
        assert shown is not None
        assert shown.x_range == pytest.approx((0.0, 7199.9))


async def test_play_moves_the_cursor_and_the_reading(yard: Path) -> None:
    """Space plays and pauses."""
    async with opened(yard) as driven:
        before = driven.app._picture.cursor
        await driven.pilot.press("equals_sign", "space")
        await driven.until(lambda: driven.app._picture.cursor > before)
        await driven.press("space")
        assert not driven.app._picture.is_playing


async def test_play_goes_on_after_something_was_typed(yard: Path) -> None:
    """A question holds the cursor; escape lets it go on by itself."""
    async with opened(yard) as driven:
        await driven.pilot.press("space")
        await driven.until(lambda: driven.app._picture.is_playing)
        await driven.pilot.press("h")
        await driven.until(lambda: "a raw value or a reading" in driven.text("message"))
        await driven.pilot.pause(0.3)
        await driven.pilot.press("escape")
        held = driven.app._picture.cursor
        await driven.until(lambda: driven.app._picture.cursor > held)


async def test_the_cursor_is_dragged(yard: Path) -> None:
    """Held at its line it follows the pointer and the view stays; beside it the view is what moves."""

    def mouse(kind: type[MouseEvent], x: int, by: int = 0) -> MouseEvent:
        return kind(chart, x, 4, by, 0, 1, False, False, False, chart.region.x + x, chart.region.y + 4)

    async with opened(yard) as driven:
        await driven.press("2")
        chart = driven.app._sheet.query_one(ChartView)
        await driven.until(lambda: chart._cursor is not None)
        at = chart.column_of(chart._cursor or 0.0)
        for start, moves in ((at, True), (at + 20, False)):
            cursor, labels = driven.app._picture.cursor, driven.app._picture.workspace.chart
            assert labels is not None
            chart.post_message(mouse(MouseDown, start))
            chart.post_message(mouse(MouseMove, start + 9, 9))
            await driven.until(lambda: driven.app._picture.workspace.chart is not labels)  # noqa: B023
            await driven.settled()
            assert (driven.app._picture.cursor > cursor) is moves
            chart.post_message(mouse(MouseUp, start + 9))
