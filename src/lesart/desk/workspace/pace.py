"""Pace: the digits lit in turn over one period, and whether that is fast enough."""

from __future__ import annotations

from lesart.core.glass.drive import PARAMETERS as SCAN
from lesart.core.glass.panel import SegmentPanel
from lesart.core.notes import Key
from lesart.core.pace.scan import ScanVerdict, judge_scan
from lesart.desk.views import Line, Workspace
from lesart.desk.workspace.context import Context, label, number, rows_of, text

LANE = 54


def build(context: Context) -> Workspace:
    """The scanned panel brought forward, or the first one there is."""
    scanned = [
        context.project.panels[glass.name] for glass in context.glasses
        if isinstance(context.project.panels[glass.name], SegmentPanel)
    ]  # fmt: skip
    panel = next((panel for panel in scanned if isinstance(panel, SegmentPanel) and panel.scan is not None), None)
    if panel is None or not isinstance(panel, SegmentPanel) or panel.scan is None:
        lines: tuple[Line, ...] = (
            (text("No panel here is scanned, so nothing can flicker."),),
            (label("A panel of segments with a [panels.NAME.scan] table is judged here."),),
        )
        return Workspace(8, "Pace", "refreshed in time", lines=lines)
    verdict = judge_scan(panel.scan, panel.digits)
    place: Key = ("panels", panel.name, "scan")
    subtitle = f"the digits of {panel.name} over one period of {number(verdict.period_ms, 'ms', 4)}"
    rows = [
        *_lanes(panel, verdict),
        (),
        *_verdicts(context, panel, verdict),
        (),
        *rows_of(context.project, place, SCAN),
    ]
    return Workspace(8, "Pace", subtitle, lines=tuple(rows))


def _lanes(panel: SegmentPanel, verdict: ScanVerdict) -> list[Line]:
    assert panel.scan is not None
    slot = verdict.period_ms / panel.digits
    lines: list[Line] = [(label(f"{'':12}0 ms{number(verdict.period_ms, 'ms', 3):>{LANE - 4}}"),)]
    for digit in range(panel.digits):
        first = round(digit * slot / verdict.period_ms * LANE)
        last = max(round((digit * slot + panel.scan.on_time_ms) / verdict.period_ms * LANE), first + 1)
        # The blanking is drawn as a gap even where it is thinner than a column: a ghost hides in it.
        if panel.scan.blanking_ms > 0 and last >= round((digit + 1) * slot / verdict.period_ms * LANE):
            last = max(last - 1, first + 1)
        bar = "·" * first + "█" * (last - first) + "·" * (LANE - last)
        lines.append(
            (
                label(f"digit {digit + 1:<6}"), label(bar[:first]), text(bar[first:last], "rubric"), label(bar[last:]),
                text(f"  {number(panel.scan.on_time_ms, 'ms', 4)}"),
            )
        )  # fmt: skip
    return lines


def _verdicts(context: Context, panel: SegmentPanel, verdict: ScanVerdict) -> list[Line]:
    assert panel.scan is not None
    margin = (verdict.refresh_hz / panel.scan.wanted_hz - 1) * 100
    marks = context.numerals("pace", panel=panel.name)
    tone = "verdigris" if verdict.steady else "rubric"
    steady = "steady" if verdict.steady else "flickers"
    return [
        (label(f"{'verdict':<28}{'figure':>12}{'limit':>12}{'margin':>12}"),),
        (
            text(f"{'refresh':<28}"), text(f"{number(verdict.refresh_hz, 'Hz', 3):>12}", tone),  # type: ignore[arg-type]
            label(f"{number(panel.scan.wanted_hz, 'Hz', 3):>12}"), text(f"{margin:>+10.0f} %".replace("-", "−")),
            text(f"   {steady} {marks}", tone),  # type: ignore[arg-type]
        ),
        (text(f"{'brightness against steady':<28}"), text(f"{verdict.duty * 100:>10.1f} %")),
        (text(f"{'all dark between digits':<28}"), text(f"{number(panel.scan.blanking_ms * 1000, 'µs', 4):>12}")),
    ]  # fmt: skip
