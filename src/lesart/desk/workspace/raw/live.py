"""Live lines in Raw and in the yard: their state, losses and recordings."""

from __future__ import annotations

import math

from lesart.core.notes import Key
from lesart.core.parameters import Parameter
from lesart.core.quantity import counted, grouped
from lesart.core.raw.lines.line import Line as LiveLine
from lesart.core.raw.messages.checksums import check_from
from lesart.core.raw.source import Source
from lesart.core.visible import visible
from lesart.desk.workspace.context import WIDTH, Context, label, number, rows_of, text
from lesart.study.lines import LiveView
from lesart.study.views import Line, Span

LAST_SHOWN = 3


def state_lines(context: Context, source: Source) -> list[Line]:
    """The state of a source's line, its losses, its recording; empty without a line."""
    return [] if source.line is None else [*_state(context.bench.views.get(source.name)), ()]


def line_lines(context: Context, source: Source) -> list[Line]:
    """Settings of a source's line; empty without a line."""
    if source.line is None:
        return []
    place: Key = ("sources", source.name, "line")
    kind = source.line.kind
    lines: list[Line] = [(), (text(kind.title, "ochre"), label(f"   {kind.says}"))]
    lines += rows_of(context.project, place, _told(source.line), in_line=3, column=26)
    for index, register in enumerate(source.line.registers):
        if register.name == context.channel.column:
            lines.append((text(f"{kind.entries.removesuffix('s')} {register.name}", "ochre"),))
            lines += rows_of(context.project, (*place, kind.entries, index), kind.register[1:], in_line=3)
    return lines


def _told(line: LiveLine) -> tuple[Parameter, ...]:
    """The settings that matter: those of a check, or of a request, only where there is one."""
    if line.kind.entries != "fields":
        return line.kind.parameters
    check = check_from(dict(line.values))
    idle = {"poly", "init", "reflected", "xor"} if check.crc is None else set()
    idle |= {"low_first"} if check.length < 2 else set()
    idle |= {"unchecked"} if not check.length else set()
    idle |= {"rest"} if line["length"] else set()
    idle |= {"period"} if not line["asks"] else set()
    return tuple(each for each in line.kind.parameters if each.name not in idle)


def _state(view: LiveView | None) -> list[Line]:
    if view is None:
        return [(text("○ not listened to   ", "faint"), *_key("o", "listens"), *_key("r", "records"))]
    if not view.listening:
        rows = counted(view.state.tally.rows, "row")
        said = f"○ left; {rows} not recorded can be looked at   "
        return [(text(said, "ochre"), *_key("o", "listens again"))]
    recorded = view.state.recorded
    keys = (*_key("o", "leaves"), *_key("r", "ends it" if recorded is not None else "records"))
    lines: list[Line] = [(*_how(view), label("   "), *keys)]
    if recorded is not None:
        full = f"   cannot be written: {recorded.trouble}" if recorded.trouble else ""
        lost = f"   {counted(recorded.lost, 'row')} lost" if recorded.lost else ""
        rows = counted(recorded.rows, "row")
        lines.append(
            (
                text("● ", "rubric"),
                label("recording "),
                text(recorded.path.name),
                text(f"   {rows}", "lapis"),
                text(f"{lost}{full}", "rubric"),
            )
        )
    for event in view.state.tally.last[-LAST_SHOWN:]:
        said = visible(f"{event.what}: {event.says}")[: WIDTH - 12]
        lines.append((text(f"{event.t:9.2f} s ", "lapis"), label(said)))
    return lines


def _key(key: str, does: str) -> tuple[Span, ...]:
    return text(key, "ochre"), label(f" {does}  ")


def _how(view: LiveView, *, short: bool = False) -> tuple[Span, ...]:
    """Rate, age and losses, or the trouble instead. ``short``: losses summed up."""
    state = view.state
    if state.trouble:
        return (text(f"† {visible(state.trouble)}", "rubric"),)
    age = "nothing yet" if math.isinf(state.age_s) else f"{number(state.age_s, 's', 2)} old"
    losses = state.tally.bad
    bad = "".join(f"   {count} {what}" for what, count in losses.items())
    if short and losses:
        bad = f"   {grouped(str(sum(losses.values())))} bad"
    return (
        text("● ", "rubric" if view.is_late else "verdigris"),
        text(f"{state.rate_hz:.3g}/s"),
        label("   "),
        text(age, "rubric" if view.is_late else "text"),
        label("   "),
        text(counted(state.tally.rows, "row")),
        text(bad, "rubric"),
    )


def overview_lines(context: Context) -> list[Line]:
    """A line for each source that can be listened to."""
    sources = [source for source in context.project.sources.values() if source.line is not None]
    if not sources:
        return []
    keys = (*_key("o", "listens"), *_key("r", "records"), *_key("O", "all"))
    lines: list[Line] = [(label(f"   {'line':<15}{'where':<18}"), *keys)]
    for source in sources:
        here = source.name == context.channel.source
        view = context.bench.views.get(source.name)
        assert source.line is not None
        recording = view is not None and view.state.recorded is not None
        lines.append(
            (
                text(" ▌ " if here else "   ", "rubric"),
                text(f"{source.name[:14]:<15}", bold=here),
                label(f"{source.line.says.partition(',')[0][:17]:<18}"),
                # Before the counts: with a bad row the line is too long, and its end is cut off.
                text("● recorded  " if recording else "", "rubric"),
                *((label("○ not listened to"),) if view is None or not view.listening else _how(view, short=True)),
            )
        )
    return lines
