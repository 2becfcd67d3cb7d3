"""The middle of the screen: heading, chart or cells or panel, then lines with values in place."""

from __future__ import annotations

from typing import TYPE_CHECKING

from textual.app import ComposeResult
from textual.containers import Vertical

from lesart.study.views import CellRow, Chart, Edit, Glass, Workspace
from lesart.tui.paint import Pieces, line_of_key, piece, spans
from lesart.tui.regions import panel_lines
from lesart.tui.theme import Palette, style
from lesart.tui.widgets.lines import Lines

if TYPE_CHECKING:
    from lesart.tui.widgets.chart import ChartView

MOST_EVIDENCE = 0.6
"""Share of the room that a panel may take."""
LEAST_CHART = 9
MOST_CHART = 20


class WorkspaceView(Vertical):
    """Draws a Workspace. The chart is mounted when the first one comes: its module is slow to import."""

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self._chart: ChartView | None = None
        self._coming = False
        self._waiting: tuple[Chart, Palette, int] | None = None
        self._drawn: tuple[Chart, Palette, int] | None = None

    def compose(self) -> ComposeResult:
        """Heading, evidence, rows."""
        yield Lines(id="head")
        yield Lines(id="evidence")
        yield Lines(id="body")

    def show(self, workspace: Workspace, palette: Palette, *, values_focused: bool) -> None:
        """Draw it in the room there is."""
        base, faint = style(palette, "text"), style(palette, "faint")
        head, evidence, body = (self.query_one(f"#{name}", Lines) for name in ("head", "evidence", "body"))
        title, legend = _heading(palette, workspace), _legend(palette, workspace.chart)
        head.show(
            [[*title, *legend], _leaves(palette, workspace)] if workspace.leaves else [title, legend], base, faint
        )
        drawn = _evidence(palette, workspace, max(self.size.width - 2, 20), self.size.height - 2)
        evidence.show(drawn, base, faint)
        evidence.styles.height = len(drawn)
        selected = workspace.selected
        lines = [[piece(palette, " "), *spans(palette, line, selected=selected)] for line in workspace.lines]
        open_leaf = next((leaf.name for leaf in workspace.leaves if leaf.open), "")
        page = (workspace.step, open_leaf)
        # Evidence comes first; but what a note led to, or what was added, is in sight though ↑ ↓ go through channels.
        first = next((edit.key for edit in workspace.edits), None)
        follow = line_of_key(workspace.lines, selected) if values_focused or selected != first else 0
        body.show(lines, base, faint, follow, page)
        self._show_chart(workspace.chart, palette, len(lines))

    def _show_chart(self, chart: Chart | None, palette: Palette, wanted_below: int) -> None:
        self._waiting = None
        room = self.size.height - 2
        height = min(max(room - wanted_below - 1, LEAST_CHART), MOST_CHART)
        if chart is None or room < LEAST_CHART + 3:
            self._hide_chart()
        elif self._chart is not None:
            self._chart.display = True
            if (chart, palette, height) != self._drawn:
                # After the rest has reached the screen: the glass must not wait for a chart.
                self._waiting = (chart, palette, height)
                self.call_after_refresh(self._draw_chart)
        else:
            self._waiting = (chart, palette, height)
            if not self._coming:
                self._coming = True
                self.call_later(self._mount_chart)

    async def _mount_chart(self) -> None:
        """Pictures may come while it is mounted; it is drawn once its parts are there, and only with the last one."""
        from lesart.tui.widgets.chart import ChartView

        view = ChartView(id="chart")
        await self.mount(view, after="#head")
        self._chart = view
        if self._waiting is None:
            self._hide_chart()
        self._draw_chart()

    def _draw_chart(self) -> None:
        """The last chart that came; pictures may come faster than charts are drawn."""
        if self._chart is not None and self._waiting is not None:
            self._chart.show(*self._waiting)
            self._drawn, self._waiting = self._waiting, None

    def _hide_chart(self) -> None:
        if self._chart is not None:
            self._chart.display = False

    def show_plain(self, heading: Pieces, lines: list[Pieces], palette: Palette) -> None:
        """A page of text instead: keys, troubles, the welcome."""
        base, faint = style(palette, "text"), style(palette, "faint")
        self.query_one("#head", Lines).show([heading, []], base, faint)
        evidence = self.query_one("#evidence", Lines)
        evidence.show([], base, faint)
        evidence.styles.height = 0
        self.query_one("#body", Lines).show(lines, base, faint)
        self._waiting = None
        self._hide_chart()

    def place_of(self, edit: Edit) -> tuple[int, int, int] | None:
        """Where a value stands on the screen: column, row, width."""
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


def _leaves(palette: Palette, workspace: Workspace) -> Pieces:
    """The leaves by name, the one turned up underlined; each answers to a click."""
    pieces: Pieces = [piece(palette, "   ")]
    for leaf in workspace.leaves:
        pieces.append((leaf.name, style(palette, "text" if leaf.open else "faint", "ink", leaf.open, leaf.open), leaf))
        pieces.append(piece(palette, f" {leaf.notes}" if leaf.notes else "", "rubric"))
        pieces.append(piece(palette, "   "))
    for key, says in workspace.hints:
        pieces += [piece(palette, key, "ochre"), piece(palette, f" {says}   ", "faint")]
    return pieces


def _legend(palette: Palette, chart: Chart | None) -> Pieces:
    """What the y axis is, and the sign of each series."""
    if chart is None:
        return []
    pieces: Pieces = [piece(palette, f"   {chart.y_label}", "faint")]
    named = {series.name: series for series in chart.series if series.name != "zero"}
    for series in named.values():
        sign = {"line": "─", "dots": "⠒", "points": "●", "rings": "○"}[series.style]
        pieces += [piece(palette, f"   {sign} ", series.tone), piece(palette, series.name, "faint")]
    for word, _ in chart.bands:
        pieces += [piece(palette, f"   {word[0]} ", "rubric"), piece(palette, word, "faint")]
    return pieces


def _evidence(palette: Palette, workspace: Workspace, width: int, height: int) -> list[Pieces]:
    """Cells or a panel, large."""
    if workspace.cells is not None:
        return [*_cells(palette, workspace.cells, width), []]
    if workspace.glass is not None:
        drawn = _as_large_as_fits(palette, workspace.glass, width - 3, height)
        return [*[[piece(palette, "   "), *line] for line in drawn], []]
    return []


def _as_large_as_fits(palette: Palette, glass: Glass, width: int, height: int) -> list[Pieces]:
    """Twice as large, or once, or in dots: the first that leaves room for what can be changed about it."""
    drawn: list[Pieces] = []
    for scale, across in ((2, width), (1, width), (1, width // 2 + 2)):
        drawn = panel_lines(palette, glass, across, scale=scale)
        if len(drawn) <= MOST_EVIDENCE * height:
            break
    return drawn


def _cells(palette: Palette, row: CellRow, width: int) -> list[Pieces]:
    """The cells lit large, the captions under each."""
    drawn = panel_lines(palette, row.glass, width - 3)
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
