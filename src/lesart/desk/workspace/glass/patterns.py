"""Glass, the leaf of test patterns, with the bytes that are sent for them."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.glass.bus.counting import Counting
from lesart.core.glass.bus.patterns import COUNTED, pattern_at, patterns_of, steps_of
from lesart.core.glass.bus.sent_bytes import Sent, bytes_on_bus, glyphs_sent, sent_for
from lesart.core.glass.panels.panel import Panel
from lesart.core.quantity import counted, grouped, plain_number
from lesart.desk.workspace.context import Context, label, text
from lesart.study.views import Line

IN_LINE = 16
MOST_LINES = 12


def test_lines(context: Context, panel: Panel) -> list[Line]:
    """The patterns, and the bytes of the one that is shown."""
    names = patterns_of(panel)
    name = context.state.glass.pattern if context.state.glass.pattern in names else names[0]
    counting = context.state.glass.counting if name == COUNTED else None
    steps = counting.steps if counting is not None else steps_of(panel, name)
    step = context.state.glass.pattern_step % steps
    chosen = [text(f"{each}   ", "verdigris" if each == name else "faint", bold=each == name) for each in names]
    lines: list[Line] = [
        tuple(chosen[:5]),
        tuple(chosen[5:]),
        (label("step "), text(f"{step + 1} of {grouped(str(steps))}"), *_pace(counting)),
        (),
    ]
    sent = sent_for(panel, pattern_at(panel, name, step, counting))
    lines.append(
        (
            label("what is sent   "),
            text(f"{counted(bytes_on_bus(panel, sent), 'byte')} on the wires"),
            label("   pace and drive as the panel's leaf says"),
        )
    )
    lines += _bytes(sent)
    own = glyphs_sent(panel)
    if own:
        lines += [(), (label("once, for the custom glyphs"),), *_bytes(own)]
    return lines


def _pace(counting: Counting | None) -> Line:
    """The rate of a counter, where one was asked for."""
    if counting is None:
        return ()
    return (
        label("   every "),
        text(f"{plain_number(1e3 * counting.every_s, 4)} ms"),
        label("   in "),
        text(counting.text(0)),
    )


def _bytes(sent: Sequence[Sent]) -> list[Line]:
    lines: list[Line] = []
    for each in sent:
        for start in range(0, len(each.data), IN_LINE):
            row = each.data[start : start + IN_LINE].hex(" ").upper()
            what = f"{each.what}{', command' if each.command else ''}" if start == 0 else ""
            lines.append((label(f"   {what[:24]:<25}"), text(row, "ochre" if each.command else "lapis")))
    return lines[:MOST_LINES]
