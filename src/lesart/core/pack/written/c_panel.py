"""The bytes for a panel, and the loop, as C tables: start, faces, test patterns, pictures, tasks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.pace.task import Task
from lesart.core.pack.program.in_c import INDENT, WIDE
from lesart.core.pack.program.plain import plain
from lesart.core.pack.written.c_letters import Letters, letters_header, letters_source
from lesart.core.pack.written.c_redraw import redraw_header, redraw_source
from lesart.core.pack.written.redraw_ways import Redraw

RUNS = """\
/* Runs of bytes: 0 for commands or 1 for data, the count (low byte, high byte), the bytes; 2 ends them all. */
typedef void (*send_run)(uint8_t is_data, const uint8_t *bytes, uint16_t count);

static inline void send_runs(const uint8_t *runs, send_run send)
{
    while (*runs != 2) {
        uint16_t count = (uint16_t)(runs[1] + (uint16_t)(runs[2] * 256u));
        send(runs[0], runs + 3, count);
        runs += 3u + count;
    }
}
"""
END = 2


@dataclass(frozen=True)
class FieldPlace:
    """The place of a field on a face: ``macro`` is its name in code."""

    macro: str
    row: int
    column: int
    width: int


@dataclass(frozen=True)
class PanelTables:
    """``name`` is an identifier; ``runs`` are transmissions by purpose, in order, each with an identifier."""

    name: str
    says: str
    runs: Mapping[str, tuple[str, Sequence[Transmission]]]
    pictures: Mapping[str, tuple[str, bytes]]
    places: Sequence[FieldPlace]
    scan_us: tuple[int, int, int] | None = None
    """Lit time, dark time and number of digits, where they are scanned."""
    letters: Letters | None = None
    """What is drawn into its frames, where they have pixels."""
    redraw: Redraw | None = None
    """How it is updated from one frame to the next, where it is sent anything."""
    undrawn: str = ""
    """Why no frame of it can be sent, where that is so."""


def panel_header(tables: PanelTables) -> str:
    """Declarations, and the figures that a program needs with them."""
    lines = [f"/* {plain(' '.join((tables.says, tables.undrawn)).strip())} */"]
    for place in tables.places:
        lines.append(f"#define {place.macro}_ROW {place.row}")
        lines.append(f"#define {place.macro}_COLUMN {place.column}")
        lines.append(f"#define {place.macro}_CELLS {place.width}")
    if tables.scan_us is not None:
        macro = tables.name.upper()
        figures = zip(("LIT_US", "DARK_US", "DIGITS"), tables.scan_us, strict=True)
        lines += [f"#define {macro}_{name} {figure}" for name, figure in figures]
    lines += [_extern(name, says, len(flat(found))) for name, (says, found) in tables.runs.items()]
    lines += [_extern(name, says, len(data)) for name, (says, data) in tables.pictures.items()]
    if tables.redraw is not None:
        lines += [_extern(name, says, len(data)) for name, says, data in _frames(tables.redraw)]
        lines += redraw_header(tables.name, tables.redraw)
    if tables.letters is not None:
        lines += letters_header(tables.name, tables.letters)
    return "\n".join(lines)


def _frames(redraw: Redraw) -> list[tuple[str, str, bytes]]:
    return [(name, f"face {face} before any reading, as a frame", data) for name, face, data in redraw.frames]


def _extern(name: str, says: str, size: int) -> str:
    return f"extern const uint8_t {name}[{size}]; /* {plain(says)} */"


def panel_source(tables: PanelTables, header: str) -> str:
    """The bytes themselves."""
    parts = [f"/* {plain(tables.says)} Written by Lesart; change the project, not this. */", f'#include "{header}"']
    parts += [_bytes(name, says, flat(found)) for name, (says, found) in tables.runs.items()]
    parts += [_bytes(name, says, data) for name, (says, data) in tables.pictures.items()]
    if tables.redraw is not None:
        parts += [_bytes(name, says, data) for name, says, data in _frames(tables.redraw)]
        parts += redraw_source(tables.name, tables.redraw)
    if tables.letters is not None:
        parts += letters_source(tables.name, tables.letters)
    return "\n\n".join(parts) + "\n"


def flat(found: Sequence[Transmission]) -> bytes:
    """All runs in one array; runs longer than 16 bits can count are split."""
    out = bytearray()
    for each in found:
        for start in range(0, len(each.data), 0xFFFF):
            part = each.data[start : start + 0xFFFF]
            out += bytes((int(each.is_data), len(part) & 0xFF, len(part) >> 8)) + part
    return bytes(out) + bytes((END,))


def _bytes(name: str, says: str, data: bytes) -> str:
    lines, row = [f"/* {plain(says)} */", f"const uint8_t {name}[{len(data)}] = {{"], INDENT
    for value in data:
        piece = f"0x{value:02X}, "
        if len(row) + len(piece) > WIDE:
            lines.append(row.rstrip())
            row = INDENT
        row += piece
    return "\n".join([*lines, row.rstrip(), "};"])


def loop_header(name: str, tasks: Sequence[tuple[str, Task]]) -> str:
    """The loop as a table of tasks: a function for the person to write, its period and its time limit, as Pace has
    played it."""
    guard = f"{name.upper()}_LOOP_H"
    lines = [
        "/* The loop as Pace has it. Write a function for each task; period 0: in each turn. Written by Lesart. */",
        f"#ifndef {guard}\n#define {guard}\n#include <stdint.h>",
        "",
        *(
            f"void {word}(void); /* {plain(task.name)}: {task.does}, {task.runs}, {_took(task)} */"
            for word, task in tasks
        ),
        "",
        "typedef struct {",
        f"{INDENT}void (*run)(void);",
        f"{INDENT}uint32_t period_us;",
        f"{INDENT}uint32_t at_most_us;",
        f"{INDENT}uint8_t priority;",
        f"}} {name}_task;",
        "",
        f"#define {name.upper()}_TASKS {len(tasks)}",
        f"#define {name.upper()}_LOOP {{ \\",
        *(
            f"{INDENT}{{ {word}, {_us(task.period_ns)}u, {_us(task.longest_ns)}u, {task.priority} }}, \\"
            for word, task in tasks
        ),
        "}",
        "",
        "#endif",
    ]
    return "\n".join(lines) + "\n"


def _us(ns: int) -> int:
    return min(round(ns / 1000), 2**32 - 1)


def _took(task: Task) -> str:
    return f"{_us(task.shortest_ns)} to {_us(task.longest_ns)} us"
