"""A small C program that runs the vectors through the firmware's own functions, and reports the first difference."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.program.in_c import constant, stored_type
from lesart.core.pack.program.statements import Function
from lesart.core.pack.written.c_channel import raw_type, reading_range, state_name
from lesart.core.pack.written.vectors import Vector

HEAD = """\
/* Runs the vectors and tells the first difference; returns 0 where there is none. Written by Lesart.
 *
 *   cc -std=c99 *.c -o test_pack && ./test_pack          compares
 *   cc -std=c99 -DPRINT_ROWS *.c -o rows && ./rows       prints rows to compare elsewhere
 */
#include <stdio.h>
"""


def c_test(header: str, tested: Sequence[tuple[ChannelForm, Sequence[Vector]]]) -> str:
    """The whole program."""
    parts = [HEAD + f'#include "{header}"']
    parts += [_channel(form, made) for form, made in tested]
    calls = [f"    failed |= test_{form.wanted.name}();" for form, _ in tested]
    main = ["int main(void)", "{", "    int failed = 0;", *calls]
    main += ["#ifndef PRINT_ROWS", "    if (!failed) {", '        printf("equal\\n");', "    }", "#endif"]
    parts.append("\n".join([*main, "    return failed;", "}"]))
    return "\n\n".join(parts) + "\n"


def _channel(form: ChannelForm, made: Sequence[Vector]) -> str:
    name, stages = form.wanted.name, (form.law.function, *form.calm)
    low, high = reading_range(form)
    kind = stored_type(low, high)
    members = [f"    {raw_type(form)} raw;", "    uint8_t mark;", "    uint32_t now;"]
    members += [f"    {stored_type(each.low, each.high)} {each.parts[0]};" for each in form.law.function.inputs[2:]]
    members += ["    uint8_t reached;"]
    members += [f"    {kind} x[{len(stages)}];", f"    uint8_t marks[{len(stages)}];"]
    if form.alarms:
        members.append(f"    uint8_t alarms[{len(form.alarms)}];")
    for place, field in enumerate(form.fields, 1):
        cells = field.kept[0]
        members.append(f"    {stored_type(cells.low, cells.high)} cells{place}[{cells.length}];")
    rows = [f"    {_row(form, vector, len(stages))}," for vector in made]
    lines = ["static const struct {", *members, f"}} {name}_vectors[{len(made)}] = {{", *rows, "};", ""]
    return "\n".join([*lines, *_function(form, len(made), kind)])


def _row(form: ChannelForm, vector: Vector, stages: int) -> str:
    passed = [each for each in vector.stages if each.passes]
    xs = [constant(passed[place].x) if place < len(passed) else "0" for place in range(stages)]
    marks = [str(passed[place].mark) if place < len(passed) else "0" for place in range(stages)]
    given = vector.given
    pieces = [constant(given.raw), str(given.mark), f"{given.now}u"]
    pieces += [constant(given.of(each.parts[0])) for each in form.law.function.inputs[2:]]
    pieces += [str(len(passed)), _braced(xs), _braced(marks)]
    if form.alarms:
        pieces.append(_braced([str(each) for each in vector.alarms or (0,) * len(form.alarms)]))
    for place, field in enumerate(form.fields):
        codes = vector.cells[place] if vector.cells else (0,) * field.kept[0].length
        pieces.append(_braced([str(code) for code in codes]))
    return "{" + ", ".join(pieces) + "}"


def _braced(pieces: Sequence[str]) -> str:
    return "{" + ", ".join(pieces) + "}"


def _function(form: ChannelForm, count: int, kind: str) -> list[str]:
    name, state = form.wanted.name, state_name(form)
    lines = [
        f"static int test_{name}(void)",
        "{",
        f"    static {state} one, whole;",
        "    uint16_t i;",
        "    uint8_t passes, mark, came;",
        f"    {kind} x;",
    ]
    lines += ["    uint8_t alarm;"] if form.alarms else []
    lines += ["    uint8_t state, k;"] if form.fields else []
    lines += [f"    {name}_start(&one);", f"    {name}_start(&whole);", f"    for (i = 0; i < {count}; i++) {{"]
    lines += ["        passes = 1;", "        x = 0;", f"        mark = {name}_vectors[i].mark;"]
    for place, each in enumerate((form.law.function, *form.calm)):
        lines += _stage_tried(name, each, place)
    lines += [
        f"        came = {name}_step(&whole, {name}_vectors[i].raw, {name}_vectors[i].mark,",
        f"            {name}_vectors[i].now{_beside(form)});",
        "        if (came != passes || (came && (whole.x != x || whole.mark != mark))) {",
        f'            printf("{name}, vector %u, step: differs from its stages\\n", (unsigned)i);',
        "            return 1;",
        "        }",
        "        if (!passes) {",
        "            continue;",
        "        }",
    ]
    for place, each in enumerate(form.alarms):
        lines += _alarm_tried(name, each, place)
    for place, each in enumerate(form.fields, 1):
        lines += _field_tried(name, each, place)
    lines += ["    }"]
    lines += ["    (void)state;"] if form.fields else []
    return [*lines, "    return 0;", "}"]


def _stage_tried(name: str, each: Function, place: int) -> list[str]:
    """Test one stage alone, with the output of the stage before it."""
    own = stored_type(each.outputs[0].low, each.outputs[0].high)
    given = "".join(
        f"{name}_vectors[i].{part.parts[0]}, " for part in each.inputs if part.parts[0] not in ("x", "mark")
    )
    return [
        "        if (passes) {",
        f"            {own} own = ({own})x;",
        f"            passes = {each.name}(&one, {given}&own, &mark);",
        "            x = own;",
        "        }",
        *_compared(name, each.name, place),
    ]


def _alarm_tried(name: str, each: Function, place: int) -> list[str]:
    """Test one alarm on the corrected readings."""
    own = stored_type(each.inputs[0].low, each.inputs[0].high)
    return [
        f"        (void){each.name}(&one, ({own})x, mark, {name}_vectors[i].now, &alarm);",
        f"        if (alarm != {name}_vectors[i].alarms[{place}]) {{",
        f'            printf("{name}, vector %u, {each.name}: %u, not %u\\n", (unsigned)i, (unsigned)alarm,',
        f"                (unsigned){name}_vectors[i].alarms[{place}]);",
        "            return 1;",
        "        }",
    ]


def _field_tried(name: str, each: Function, place: int) -> list[str]:
    """Test one field, code by code."""
    cells = each.kept[0]
    own = stored_type(each.inputs[0].low, each.inputs[0].high)
    return [
        f"        (void){each.name}(&one, ({own})x, mark, 0, &state);",
        f"        for (k = 0; k < {cells.length}; k++) {{",
        f"            if (one.{cells.name}[k] != {name}_vectors[i].cells{place}[k]) {{",
        f'                printf("{name}, vector %u, {each.name}, cell %u: code %u, not %u\\n", (unsigned)i,',
        f"                    (unsigned)k, (unsigned)one.{cells.name}[k],",
        f"                    (unsigned){name}_vectors[i].cells{place}[k]);",
        "                return 1;",
        "            }",
        "        }",
    ]


def _beside(form: ChannelForm) -> str:
    inputs = [each.parts[0] for each in form.law.function.inputs[2:]]
    return "".join(f", {form.wanted.name}_vectors[i].{each}" for each in inputs)


def _compared(name: str, stage: str, place: int) -> list[str]:
    return [
        "        if (passes) {",
        "#ifdef PRINT_ROWS",
        f'            printf("{stage},%u,%ld,%u\\n", (unsigned)i, (long)x, (unsigned)mark);',
        "#else",
        f"            if ({name}_vectors[i].reached <= {place} || x != {name}_vectors[i].x[{place}]",
        f"                || mark != {name}_vectors[i].marks[{place}]) {{",
        f'                printf("{name}, vector %u, {stage}: %ld mark %u, not %ld mark %u\\n", (unsigned)i, (long)x,',
        f"                    (unsigned)mark, (long){name}_vectors[i].x[{place}],",
        f"                    (unsigned){name}_vectors[i].marks[{place}]);",
        "                return 1;",
        "            }",
        "#endif",
        "        }",
    ]
