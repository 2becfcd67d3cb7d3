"""A report of a project to hand to a colleague: everything drawn, every note, all open values."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING

from lesart.core.notes import Note
from lesart.core.quantity import counted, format_quantity
from lesart.core.step import Step
from lesart.core.visible import visible
from lesart.desk.desk import Desk
from lesart.desk.picture import context_of, workspace_now
from lesart.desk.sheets.calibration import calibration_of
from lesart.desk.workspace.pace.pace import timing_of
from lesart.draw.text_page import Line, text_pages
from lesart.project.model import Channel, Project
from lesart.study.drawable import Subject, hookup_sheet
from lesart.study.drawing import figure_of, life_size

if TYPE_CHECKING:
    from matplotlib.figure import Figure

CHARTED = (Step.LAW, Step.TRUE, Step.CALM)
Page = tuple[str, Callable[[], "Iterator[Figure]"]]


def report_pages(desk: Desk, date: str) -> Iterator[Figure]:
    """Contents first, with the page on which each part begins."""
    made = [(title, list(make())) for title, make in _parts(desk, date)]
    first, lines = 2, []
    for title, pages in made:
        lines.append((f"{first:>4}   {title}", "text"))
        first += len(pages)
    project = desk.state.project
    head: list[Line] = [
        (visible(project.about), "faint"),
        (f"{counted(len(project.channels), 'channel')}, {counted(len(project.panels), 'panel')}; {date}", "faint"),
        ("", "faint"),
    ]
    # A table of contents longer than a page would shift the pages it lists.
    contents = list(text_pages(visible(f"{project.name}: report"), [*head, *lines]))[:1]
    yield from contents
    for _, pages in made:
        yield from pages


def _parts(desk: Desk, date: str) -> Iterator[Page]:
    project = desk.state.project
    yield "Notes: what is wrong, doubtful, or worth knowing", lambda: text_pages("Notes", _note_lines(desk.notes))
    yield "What was left open", lambda: text_pages("What was left open", _open_lines(project))
    sheet = hookup_sheet(project)
    if sheet is not None:
        yield "Hook-up", lambda: iter([figure_of(sheet, f"{project.name} · hook-up")])
    yield "Channels", lambda: text_pages("Channels", _channel_lines(project))
    for name in project.channels:
        yield f"Channel {visible(name)}", lambda name=name: _channel_pages(desk, name, date)  # type: ignore[misc]
    yield "Panels at their own size", lambda: _panel_pages(desk)
    timing = timing_of(context_of(desk))
    if timing is not None:
        yield "The loop", lambda: iter([figure_of(timing, f"{project.name} · timing")])


def _channel_pages(desk: Desk, name: str, date: str) -> Iterator[Figure]:
    """Pages of a channel: laws, references, filters."""
    desk.choose_channel(name)
    channel = desk.state.chosen
    there = {Step.LAW: bool(channel.laws), Step.TRUE: bool(channel.references), Step.CALM: True}
    for step in CHARTED:
        desk.open_step(step)
        chart: Subject | None = workspace_now(desk).chart if there[step] else None
        if chart is not None:
            yield figure_of(chart, f"{desk.state.project.name} · {name}")
    if channel.references:
        desk.open_step(Step.TRUE)
        sheet = calibration_of(desk, date)
        if sheet is not None:
            yield figure_of(sheet, f"{desk.state.project.name} · {name}")


def _panel_pages(desk: Desk) -> Iterator[Figure]:
    for glass in context_of(desk).glasses:
        yield life_size(glass) if glass.dot_mm else figure_of(glass, glass.name)


def _note_lines(notes: tuple[Note, ...]) -> list[Line]:
    lines: list[Line] = []
    for note in notes:
        tone = "rubric" if note.is_fault else "text"
        lines.append((visible(f"{note.mark} {note.step.capitalize()}: {note.text}"), tone))
        if note.remedy:
            lines.append((visible(f"      {note.remedy}."), "verdigris"))
    return lines or [("Nothing to say.", "faint")]


def _open_lines(project: Project) -> list[Line]:
    """Lines for values that are still assumed."""
    if not project.assumed:
        return [("Nothing is assumed.", "faint")]
    return [(visible(f"assumed: {'.'.join(str(part) for part in key)}"), "text") for key in project.assumed]


def _channel_lines(project: Project) -> list[Line]:
    lines: list[Line] = []
    for channel in project.channels.values():
        lines.append((visible(f"{channel.name}: {channel.unit_raw} to {channel.unit}, {_range_of(channel)}"), "text"))
        for law in channel.laws:
            told = ", ".join(f"{key} {value}" for key, value in law.written.items() if key != "kind")
            lines.append((visible(f"      {law.kind.title}: {told}"), "faint"))
        if channel.references:
            lines.append(
                (f"      {channel.correction.kind} through {counted(channel.correction.points, 'reference')}", "faint")
            )
        lines.append((visible(f"      {channel.says}"), "faint"))
    return lines


def _range_of(channel: Channel) -> str:
    low, high = (format_quantity(each, channel.unit, 6) for each in (channel.lowest, channel.highest))
    return f"{low} to {high}"
