"""The middle of the screen: heading, chart or cells or panel, then lines with values in place."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from textual.app import ComposeResult
from textual.containers import Vertical

from lesart.core.dataclass_later import dataclass
from lesart.core.step import Step
from lesart.study.views import CellRow, Chart, Edit, Workspace
from lesart.tui.graphics.terminal import Graphics
from lesart.tui.paint import Pieces, folded, line_of_key, piece, spans, width_of
from lesart.tui.panels.drawn import drawn
from lesart.tui.panels.room import PLAIN, Means, Room, Way
from lesart.tui.regions import drawn_lines, panel_lines
from lesart.tui.theme import Palette, style
from lesart.tui.widgets.lines import Lines

if TYPE_CHECKING:
    from lesart.tui.chart_letters import ChartView
    from lesart.tui.chart_pixels import PixelChart

MOST_EVIDENCE = 0.6
"""Greatest share of the room for a panel."""
MOST_OF_GLASS = 0.74
"""The same in Glass, where the panel comes first."""
MOST_CELL_ROWS = 16
LEAST_BESIDE = 58
"""Least columns of values for placing them beside a panel and not below it."""
LEAST_CHART = 9
MOST_CHART = 20


@dataclass(frozen=True)
class Wanted:
    """A chart to be drawn, in this many rows and columns."""

    chart: Chart
    palette: Palette
    height: int
    width: int
    graphics: Graphics | None


class WorkspaceView(Vertical):
    """Draws a Workspace. The chart is mounted when the first one comes: its module is slow to import."""

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self._chart: ChartView | PixelChart | None = None
        self._coming = False
        self._waiting: Wanted | None = None
        self._drawn: Wanted | None = None

    def compose(self) -> ComposeResult:
        """Heading, evidence, rows."""
        yield Lines(id="head")
        with Vertical(id="work"):
            yield Lines(id="evidence")
            yield Lines(id="body")

    def show(self, workspace: Workspace, palette: Palette, means: Means, *, values_focused: bool) -> None:
        """Draw it in the available room."""
        base, faint = style(palette, "text"), style(palette, "faint")
        head, evidence, body = (self.query_one(f"#{name}", Lines) for name in ("head", "evidence", "body"))
        width = self.size.width - 1
        title, legend = _heading(palette, workspace), _legend(palette, workspace.chart)
        rows = (
            [_within(title, legend, width), _within([], _leaves(palette, workspace), width)]
            if workspace.leaves
            else [title, _within([], legend, width)]
        )
        head.show(rows, base, faint)
        room = Room(max(self.size.width - 5, 20), max(self.size.height - 2, 1), scale=2)
        drawn, beside = _evidence(palette, workspace, room, means)
        evidence.show(drawn, base, faint)
        self.set_class(bool(beside), "-beside")
        evidence.styles.height = "1fr" if beside else len(drawn)
        evidence.styles.width = beside or "1fr"
        selected = workspace.selected
        lines = [[piece(palette, " "), *spans(palette, line, selected=selected)] for line in workspace.lines]
        if beside:
            lines = [part for line in lines for part in folded(line, self.size.width - beside - 1)]
        open_leaf = next((leaf.name for leaf in workspace.leaves if leaf.open), "")
        page = (workspace.step, open_leaf)
        # Evidence comes first; but what a note led to, or was just added, stays visible while ↑ ↓ change the channel.
        first = next((edit.key for edit in workspace.edits), None)
        follow = line_of_key(workspace.lines, selected) if values_focused or selected != first else 0
        body.show(lines, base, faint, follow, page)
        self._show_chart(workspace.chart, palette, means, len(lines))

    def _show_chart(self, chart: Chart | None, palette: Palette, means: Means, wanted_below: int) -> None:
        self._waiting = None
        room = self.size.height - 2
        height = min(max(room - wanted_below - 1, LEAST_CHART), MOST_CHART)
        if chart is None or room < LEAST_CHART + 3:
            self._hide_chart()
            return
        graphics = means.graphics if means.way in (Way.BEST, Way.PIXELS, Way.LIFE) else None
        wanted = Wanted(chart, palette, height, self.size.width, graphics)
        if wanted != self._drawn or self._chart is None:
            # After the rest has reached the screen: the glass must not wait for a chart.
            self._waiting = wanted
            self.call_after_refresh(self._draw_chart)
        else:
            self._chart.display = True

    async def _draw_chart(self) -> None:
        """Draw the latest chart; pictures may come faster than charts are drawn, or their widget is mounted."""
        from lesart.tui.chart_pixels import PixelChart

        wanted = self._waiting
        if wanted is None or self._coming:
            return
        view = await self._chart_for(wanted)
        if self._waiting is None:
            self._hide_chart()
            return
        if (self._waiting.graphics is None) != (wanted.graphics is None):
            self.call_after_refresh(self._draw_chart)  # the terminal has answered meanwhile
            return
        wanted, self._waiting = self._waiting, None
        view.display = True
        room = wanted.chart, wanted.palette, wanted.height, wanted.width
        if isinstance(view, PixelChart):
            if wanted.graphics is not None:
                view.show_chart(*room, wanted.graphics)
        else:
            view.show_chart(*room)
        self._drawn = wanted

    async def _chart_for(self, wanted: Wanted) -> ChartView | PixelChart:
        """The chart widget, mounted with the first chart: its modules are slow to import."""
        from lesart.tui.chart_letters import ChartView
        from lesart.tui.chart_pixels import PixelChart

        kind = ChartView if wanted.graphics is None else PixelChart
        if isinstance(self._chart, kind):
            return self._chart
        self._coming = True
        if self._chart is not None:
            await self._chart.remove()
        view = kind(id="chart")
        await self.mount(view, after="#head")
        self._chart, self._coming = view, False
        return view

    def _hide_chart(self) -> None:
        if self._chart is not None:
            self._chart.display = False
        self._drawn = None

    def show_plain(self, heading: Pieces, lines: list[Pieces], palette: Palette) -> None:
        """Show a page of text instead: keys, troubles, the welcome page."""
        base, faint = style(palette, "text"), style(palette, "faint")
        self.query_one("#head", Lines).show([heading, []], base, faint)
        evidence = self.query_one("#evidence", Lines)
        evidence.show([], base, faint)
        evidence.styles.height = 0
        self.query_one("#body", Lines).show(lines, base, faint)
        self._waiting = None
        self._hide_chart()

    def place_of(self, edit: Edit) -> tuple[int, int, int] | None:
        """The place of a value on the screen: column, row, width."""
        body = self.query_one("#body", Lines)
        place = body.place_of(edit)
        if place is None:
            return None
        return body.region.x + place[0], body.region.y + place[1], place[2]


def _heading(palette: Palette, workspace: Workspace) -> Pieces:
    name = workspace.name if workspace.subtitle else " "
    return [
        piece(palette, f" {name[0]}", "rubric", bold=True),
        piece(palette, name[1:], bold=True),
        piece(palette, f" {workspace.subtitle}", "faint"),
    ]


def _within(line: Pieces, groups: list[Pieces], width: int) -> Pieces:
    """The line followed by as many groups as fit, the most important ones first."""
    for group in groups:
        if width_of(line) + width_of(group) > width:
            break
        line = [*line, *group]
    return line


def _leaves(palette: Palette, workspace: Workspace) -> list[Pieces]:
    """The leaves by name, clickable, the open one underlined; then keys of the place."""
    groups: list[Pieces] = [[piece(palette, "   ")]]
    for leaf in workspace.leaves:
        name = (leaf.name, style(palette, "text" if leaf.open else "faint", "ink", leaf.open, leaf.open), leaf)
        notes = piece(palette, f" {leaf.notes}" if leaf.notes else "", "rubric")
        groups.append([name, notes, piece(palette, "   ")])
    return [
        *groups,
        *([piece(palette, key, "ochre"), piece(palette, f" {says}   ", "faint")] for key, says in workspace.hints),
    ]


def _legend(palette: Palette, chart: Chart | None) -> list[Pieces]:
    """The name of the y axis, and the sign of each series."""
    if chart is None:
        return []
    groups: list[Pieces] = [[piece(palette, f"   {chart.y_label}", "faint")]]
    named = {series.name: series for series in chart.series if series.name != "zero"}
    for series in named.values():
        sign = {"line": "─", "dots": "⠒", "points": "●", "rings": "○"}[series.style]
        groups.append([piece(palette, f"   {sign} ", series.tone), piece(palette, series.name, "faint")])
    for word, _ in chart.bands:
        groups.append([piece(palette, f"   {word[0]} ", "rubric"), piece(palette, word, "faint")])
    return groups


def _evidence(palette: Palette, workspace: Workspace, room: Room, means: Means) -> tuple[list[Pieces], int]:
    """Cells or a panel, large; and its columns, where the values go beside it."""
    if workspace.cells is not None:
        return [*_cells(palette, workspace.cells, room.width + 3), []], 0
    if workspace.glass is None:
        return [], 0
    share = MOST_OF_GLASS if workspace.step is Step.GLASS else MOST_EVIDENCE
    above = replace(room, height=max(int(share * room.height), 1))
    found = drawn(workspace.glass, above, means)
    beside = 0
    if not found.is_whole and not workspace.glass.close and room.width >= 2 * LEAST_BESIDE:
        # All of it beside its values is better than part of it above them.
        other = drawn(workspace.glass, replace(room, width=room.width - LEAST_BESIDE), means)
        if other.is_whole:
            found, beside = other, max(sum(len(words) for words, _ in line) for line in other.lines) + 5
    lines = [[piece(palette, "   "), *line] for line in drawn_lines(palette, workspace.glass, found)]
    return ([*lines, []] if not beside else lines), beside


def _cells(palette: Palette, row: CellRow, width: int) -> list[Pieces]:
    """The lit cells, large, with captions under each."""
    drawn = panel_lines(palette, row.glass, Room(width - 3, MOST_CELL_ROWS), PLAIN)
    lines: list[Pieces] = [[piece(palette, "   "), *line] for line in drawn]
    count = len(row.captions)
    cell = (sum(len(each[0]) for each in drawn[0]) - 2) // max(count, 1) if drawn else 8
    for which in range(max((len(caption) for caption in row.captions), default=0)):
        line: Pieces = [piece(palette, "    ")]
        for caption in row.captions:
            span = caption[which]
            line.append((f"{span.text[: cell - 1]:^{cell}}", style(palette, span.tone)))
        lines.append(line)
    return lines
