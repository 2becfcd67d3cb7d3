"""One channel as a C source, and its part of the header."""

from __future__ import annotations

from lesart.core.block import MARK_WORDS, Mark
from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.program.in_c import (
    function_text,
    signature,
    start_text,
    state_text,
    stored_type,
    table_text,
)
from lesart.core.pack.program.plain import plain
from lesart.core.pack.program.statements import Function, Kept
from lesart.core.pack.program.whole import TIMES
from lesart.core.pack.written.said import channel_lines, raw_said


def stepped(form: ChannelForm) -> tuple[Kept, ...]:
    """What a channel keeps beside what its functions do: the reading, its mark, and when it came.

    Before the first one it is missing, and half a clock old, so that no field shows a number that nobody read.
    """
    low, high = reading_range(form)
    alarms = tuple(Kept(f"alarm{place}", 0, 1) for place, _ in enumerate(form.alarms, 1))
    missing, long_ago = int(Mark.MISSING), TIMES // 2
    return Kept("x", low, high), Kept("mark", 0, 255, missing), Kept("came", 0, TIMES - 1, long_ago), *alarms


def reading_range(form: ChannelForm) -> tuple[int, int]:
    """Range of a reading in steps, from its law to its fields."""
    outputs = [each.outputs[0] for each in (form.law.function, *form.calm)]
    return min(each.low for each in outputs), max(each.high for each in outputs)


def state_name(form: ChannelForm) -> str:
    """Name of the struct with a channel's state."""
    return f"{form.wanted.name}_state"


def raw_type(form: ChannelForm) -> str:
    """Type of the raw number."""
    raw = form.law.function.inputs[0]
    return stored_type(raw.low, raw.high)


def header_part(form: ChannelForm) -> str:
    """Types and functions of a channel, with units and ranges in comments."""
    wanted, name = form.wanted, form.wanted.name
    kept = (*stepped(form), *form.kept)
    lines = [
        "/*",
        *(f" * {line}".rstrip() for line in channel_lines(form)),
        " */",
        state_text(state_name(form), kept),
        "",
    ]
    lines.append(f"void {name}_start({state_name(form)} *s);")
    lines += ["", f"/* {raw_said(wanted)}; mark: 0 where it is good; now: milliseconds, may begin again at 2^32. */"]
    lines.append("/* 1 where a reading came out: s->x steps and s->mark. */")
    lines.append(f"{_step_head(form)};")
    if form.fields:
        lines += ["", "/* Fills the cells of each field with the codes that its panel wants. */"]
        lines.append(f"void {name}_show({state_name(form)} *s, uint32_t now);")
    lines += ["", "/* The stages by themselves. */"]
    lines += [f"{signature(each, state_name(form))};" for each in form.functions]
    return "\n".join(lines)


def _step_head(form: ChannelForm) -> str:
    beside = "".join(f", {stored_type(each.low, each.high)} {each.parts[0]}" for each in form.law.function.inputs[2:])
    given = f"{state_name(form)} *s, {raw_type(form)} raw, uint8_t mark, uint32_t now{beside}"
    return f"uint8_t {form.wanted.name}_step({given})"


def source(form: ChannelForm, header: str) -> str:
    """The whole source of a channel."""
    state = state_name(form)
    parts = [
        f"/* {plain(form.wanted.title)}. Written by Lesart; change the project, not this. */",
        f'#include "{header}"',
    ]
    tables = dict.fromkeys(table for each in form.functions for table in each.tables)
    parts += [table_text(each) for each in tables]
    parts += [function_text(each, state) for each in form.functions]
    parts += [start_text(f"{form.wanted.name}_start", state, (*stepped(form), *form.kept)), _step(form)]
    if form.fields:
        parts.append(_show(form))
    return "\n\n".join(parts) + "\n"


def _step(form: ChannelForm) -> str:
    low, high = reading_range(form)
    kind = stored_type(low, high)
    lines = [_step_head(form), "{"]
    # Each stage has the type of its own range; the value passed between them has the widest.
    lines += [f"    {kind} x = 0;"]
    for each in (form.law.function, *form.calm):
        own = each.outputs[0]
        lines += _call(each.name, [part.parts[0] for part in each.inputs], stored_type(own.low, own.high), kind)
    lines += ["    s->x = x;", "    s->mark = mark;", "    s->came = now;"]
    for place, alarm in enumerate(form.alarms, 1):
        lines.append(f"    (void){alarm.name}(s, {_alarm_x(alarm, kind)}, mark, now, &s->alarm{place});")
    return "\n".join([*lines, "    return 1;", "}"])


def _alarm_x(alarm: Function, kind: str) -> str:
    own = stored_type(alarm.inputs[0].low, alarm.inputs[0].high)
    return "x" if own == kind else f"({own})x"


def _call(name: str, inputs: list[str], own: str, kind: str) -> list[str]:
    given = [each for each in inputs if each not in ("x", "mark")]
    before = "".join(f"{each}, " for each in given)
    if own == kind:
        return [f"    if (!{name}(s, {before}&x, &mark)) {{", "        return 0;", "    }"]
    return [
        "    {",
        f"        {own} narrow = ({own})x;",
        f"        if (!{name}(s, {before}&narrow, &mark)) {{",
        "            return 0;",
        "        }",
        "        x = narrow;",
        "    }",
    ]


def _show(form: ChannelForm) -> str:
    lines = [f"void {form.wanted.name}_show({state_name(form)} *s, uint32_t now)", "{", "    uint8_t state;"]
    for each in form.fields:
        own = stored_type(each.inputs[0].low, each.inputs[0].high)
        low, high = reading_range(form)
        x = "s->x" if own == stored_type(low, high) else f"({own})s->x"
        lines.append(f"    (void){each.name}(s, {x}, s->mark, elapsed(now, s->came), &state);")
    return "\n".join([*lines, "    (void)state;", "}"])


def marks_said() -> str:
    """The bits of a mark, for a comment."""
    return ", ".join(f"{int(flag)} {word}" for flag, word in MARK_WORDS.items())
