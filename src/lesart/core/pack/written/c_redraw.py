"""Updates of a panel from one frame to the next, in C: changes are sent, after the commands that set their position."""

from __future__ import annotations

from lesart.core.pack.program.in_c import INDENT, WIDE
from lesart.core.pack.written.c_colours import Coloured, Painted, coloured_header, coloured_source
from lesart.core.pack.written.c_inks import Inked, inked_header, inked_source
from lesart.core.pack.written.c_lamps import Strung, strung_header, strung_source
from lesart.core.pack.written.redraw_ways import (
    Addressed,
    Cells,
    Chained,
    Numbered,
    Paged,
    Redraw,
    Renewed,
    Rowed,
    Windowed,
)

PIECE = 16
"""Most bytes in one transmission where each has to begin with a control byte, to bound the stack."""
RUN_END = """\
/* Behind the last byte that differs, from one that does on; up to so many in between that do not are sent again. */
static uint16_t run_end(const uint8_t *shown, const uint8_t *wanted, uint16_t first, uint16_t end, uint16_t gap)
{
    uint16_t last = first;
    uint16_t place = first;
    while (place + 1 < end && (uint16_t)(place + 1 - last) <= gap) {
        place++;
        if (shown[place] != wanted[place]) {
            last = place;
        }
    }
    return (uint16_t)(last + 1);
}"""


def redraw_header(name: str, redraw: Redraw) -> list[str]:
    """Declarations."""
    if isinstance(redraw.way, Coloured):
        return coloured_header(name, redraw.way)
    if isinstance(redraw.way, Inked):
        return inked_header(name, redraw.way)
    if isinstance(redraw.way, Strung):
        return strung_header(name, redraw.way)
    lines = ["/* Afterwards it is busy for a while, and takes nothing. */"] if isinstance(redraw.way, Renewed) else []
    lines += [
        f"#define {name.upper()}_BYTES {redraw.size}",
        f"/* Sends what differs of two frames of {name.upper()}_BYTES; what was shown is what was wanted then. */",
        f"void {name}_changed(uint8_t *shown, const uint8_t *wanted, send_run send);",
    ]
    if isinstance(redraw.way, Cells) or redraw.digits:
        lines += [
            "/* A cell of a field at its place in a frame. */",
            f"void {name}_put(uint8_t *wanted, uint8_t row, uint8_t column, {_code_type(redraw)} code);",
        ]
    return lines


def redraw_source(name: str, redraw: Redraw) -> list[str]:
    """Functions and their tables."""
    way = redraw.way
    parts = [] if isinstance(way, Chained | Windowed | Renewed | Numbered | Rowed | Painted) else [RUN_END]
    match way:
        case Cells():
            parts += [_table(f"{name}_places", way.places), *_told(name, way), _cells(name, way, redraw.size)]
        case Addressed():
            parts += [_table(f"{name}_places", way.places), _addressed(name, redraw.size)]
        case Numbered():
            parts += [_numbered(name, redraw.size)]
        case Chained():
            parts += [_chained(name, redraw.size)]
        case Paged():
            parts += [_paged(name, way, redraw.size)]
        case Rowed():
            parts += [_rowed(name, way, redraw.size)]
        case Coloured():
            parts += coloured_source(name, way)
        case Inked():
            parts += inked_source(name, way)
        case Strung():
            parts += strung_source(name, way)
        case Windowed():
            parts += [_windowed(name, way, redraw.size)]
        case Renewed():
            parts += [_renewed(name, way, redraw.size)]
    if isinstance(way, Cells):
        parts.append(_put_cell(name, way))
    elif redraw.digits:
        parts.append(_put_digit(name, redraw))
    return parts


def _table(name: str, data: bytes, *, wide: int = 0) -> str:
    """A table with ``wide`` bytes per row; all in one row without."""
    kind = f"static const uint8_t {name}[{len(data) // wide}][{wide}]" if wide else ""
    lines, row = [f"{kind or f'static const uint8_t {name}[{len(data)}]'} = {{"], INDENT
    step = wide or 1
    for start in range(0, len(data), step):
        cells = ", ".join(f"0x{value:02X}" for value in data[start : start + step])
        piece = f"{{ {cells} }}, " if wide else f"{cells}, "
        if len(row) + len(piece) > WIDE:
            lines.append(row.rstrip())
            row = INDENT
        row += piece
    return "\n".join([*lines, row.rstrip(), "};"])


def _told(name: str, way: Cells) -> list[str]:
    if way.port is None:
        return []
    port = way.port
    bits = "\n".join(
        f"    if (half & {1 << place}) {{\n        port |= 0x{bit:02X};\n    }}" for place, bit in enumerate(port.bits)
    )
    return [
        f"""\
static void {name}_half(uint8_t half, uint8_t is_data, send_run send)
{{
    uint8_t bytes[3];
    uint8_t port = (uint8_t)(is_data ? 0x{port.always | port.data:02X} : 0x{port.always:02X});
{bits}
    bytes[0] = port;
    bytes[1] = (uint8_t)(port | 0x{port.enable:02X});
    bytes[2] = port;
    send(1, bytes, 3);
}}""",
        f"""\
static void {name}_tell(uint8_t byte, uint8_t is_data, send_run send)
{{
    {name}_half((uint8_t)(byte >> 4), is_data, send);
    {name}_half((uint8_t)(byte & 15), is_data, send);
}}""",
    ]


def _cells(name: str, way: Cells, size: int) -> str:
    if way.port is None:
        told = f"send(0, {name}_places + place, 1);\n        send(1, wanted + place, (uint16_t)(end - place));"
        each = ""
    else:
        told = f"{name}_tell({name}_places[place], 0, send);"
        each = f"{name}_tell(wanted[place], 1, send);\n            "
    return f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, send_run send)
{{
    uint16_t place = 0;
    while (place < {size}) {{
        uint16_t end;
        if (shown[place] == wanted[place]) {{
            place++;
            continue;
        }}
        end = run_end(shown, wanted, place, (uint16_t)((place / {way.line} + 1) * {way.line}), {way.gap});
        {told}
        for (; place < end; place++) {{
            {each}shown[place] = wanted[place];
        }}
    }}
}}"""


def _addressed(name: str, size: int) -> str:
    return f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, send_run send)
{{
    uint8_t bytes[{size + 1}];
    uint16_t place = 0;
    while (place < {size}) {{
        uint16_t end;
        uint16_t count = 1;
        if (shown[place] == wanted[place]) {{
            place++;
            continue;
        }}
        end = run_end(shown, wanted, place, {size}, {Addressed.gap});
        bytes[0] = {name}_places[place];
        for (; place < end; place++) {{
            bytes[count++] = wanted[place];
            shown[place] = wanted[place];
        }}
        send(0, bytes, count);
    }}
}}"""


def _numbered(name: str, size: int) -> str:
    return f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, send_run send)
{{
    uint8_t bytes[2];
    uint16_t place;
    for (place = 0; place < {size}; place++) {{
        if (shown[place] != wanted[place]) {{
            bytes[0] = (uint8_t)(place + 1);
            bytes[1] = wanted[place];
            send(1, bytes, 2);
            shown[place] = wanted[place];
        }}
    }}
}}"""


def _rowed(name: str, way: Rowed, size: int) -> str:
    return f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, send_run send)
{{
    uint16_t first, place;
    for (first = 0; first < {size}; first = (uint16_t)(first + {way.size})) {{
        uint8_t differs = 0;
        for (place = first; place < first + {way.size}; place++) {{
            if (shown[place] != wanted[place]) {{
                differs = 1;
            }}
            shown[place] = wanted[place];
        }}
        if (differs) {{
            send(1, wanted + first, {way.size});
        }}
    }}
}}"""


def _chained(name: str, size: int) -> str:
    return f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, send_run send)
{{
    uint8_t differs = 0;
    uint16_t place;
    for (place = 0; place < {size}; place++) {{
        if (shown[place] != wanted[place]) {{
            differs = 1;
        }}
        shown[place] = wanted[place];
    }}
    if (differs) {{
        send(1, wanted, {size});
    }}
}}"""


def _data(name: str, before: tuple[int, int] | None) -> str:
    """Code that sends a run of a frame."""
    if before is None:
        return f"""\
static void {name}_data(const uint8_t *data, uint16_t count, send_run send)
{{
    send(1, data, count);
}}"""
    return f"""\
static void {name}_data(const uint8_t *data, uint16_t count, send_run send)
{{
    uint8_t bytes[{PIECE + 1}];
    while (count) {{
        uint8_t some = (uint8_t)(count < {PIECE} ? count : {PIECE});
        uint8_t i;
        bytes[0] = 0x{before[1]:02X};
        for (i = 0; i < some; i++) {{
            bytes[i + 1] = data[i];
        }}
        send(1, bytes, (uint16_t)(some + 1));
        data += some;
        count = (uint16_t)(count - some);
    }}
}}"""


def _paged(name: str, way: Paged, size: int) -> str:
    to_page, to_column = len(way.pages[0]), len(way.places[0])
    first = [] if way.before is None else [f"bytes[count++] = 0x{way.before[0]:02X};"]
    copied = [
        *first,
        f"for (i = 0; i < {to_page}; i++) {{",
        f"    bytes[count++] = {name}_pages[place / {way.columns}][i];",
        "}",
        f"for (i = 0; i < {to_column}; i++) {{",
        f"    bytes[count++] = {name}_columns[place % {way.columns}][i];",
        "}",
    ]
    commands = "\n        ".join(copied)
    tables = (
        _table(f"{name}_pages", b"".join(way.pages), wide=to_page),
        _table(f"{name}_columns", b"".join(way.places), wide=to_column),
    )
    function = f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, send_run send)
{{
    uint8_t bytes[{to_page + to_column + len(first)}];
    uint16_t place = 0;
    while (place < {size}) {{
        uint16_t end;
        uint16_t count = 0;
        uint8_t i;
        if (shown[place] == wanted[place]) {{
            place++;
            continue;
        }}
        end = run_end(shown, wanted, place, (uint16_t)((place / {way.columns} + 1) * {way.columns}), {way.gap});
        {commands}
        send(0, bytes, count);
        {name}_data(wanted + place, (uint16_t)(end - place), send);
        for (; place < end; place++) {{
            shown[place] = wanted[place];
        }}
    }}
}}"""
    return "\n\n".join((*tables, _data(name, way.before), function))


def _differs(columns: int, pages: int) -> str:
    """Code that finds the smallest window with all differences, and goes home where there is none."""
    return f"""\
    uint16_t left = {columns}, right = 0, top = {pages}, foot = 0, row, column;
    for (row = 0; row < {pages}; row++) {{
        for (column = 0; column < {columns}; column++) {{
            uint16_t place = (uint16_t)(row * {columns}u + column);
            if (shown[place] != wanted[place]) {{
                left = column < left ? column : left;
                right = column > right ? column : right;
                top = row < top ? row : top;
                foot = row;
                shown[place] = wanted[place];
            }}
        }}
    }}
    if (left > right) {{
        return;
    }}"""


def _renewed(name: str, way: Renewed, size: int) -> str:
    """The window, the cells row by row, and the change."""
    set_up = [(way.to_columns, ("left", "right")), (way.to_pages, ("top", "top >> 8", "foot", "foot >> 8"))]
    set_up += [(way.column_at, ("left",))] if way.column_at is not None else []
    set_up += [(way.page_at, ("top", "top >> 8"))] if way.page_at is not None else []
    set_up += [(way.write, ())] if way.write is not None else []
    told = "\n".join(_command_told(command, [f"(uint8_t)({each})" for each in more]) for command, more in set_up)
    behind = "\n".join(_command_told(each[0], [f"0x{byte:02X}" for byte in each[1:]]) for each in way.renew)
    return f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, send_run send)
{{
    uint8_t bytes[4];
{_differs(way.columns, size // way.columns)}
{told}
    for (row = top; row <= foot; row++) {{
        send(1, wanted + (uint16_t)(row * {way.columns}u + left), (uint16_t)(right - left + 1));
    }}
{behind}
}}"""


def _command_told(command: int, more: list[str]) -> str:
    """A command alone, then its bytes as data."""
    lines = [f"bytes[0] = 0x{command:02X};", "send(0, bytes, 1);"]
    lines += [f"bytes[{place}] = {each};" for place, each in enumerate(more)]
    lines += [f"send(1, bytes, {len(more)});"] if more else []
    return "\n".join(f"{INDENT}{line}" for line in lines)


def _windowed(name: str, way: Windowed, size: int) -> str:
    window = [] if way.before is None else [f"0x{way.before[0]:02X}"]
    window += [f"0x{way.to_columns:02X}", "0", "0", f"0x{way.to_pages:02X}", "0", "0"]
    at = len(window) - 6
    function = f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, send_run send)
{{
    uint8_t bytes[{len(window)}] = {{ {", ".join(window)} }};
{_differs(way.columns, size // way.columns)}
    bytes[{at + 1}] = (uint8_t)left;
    bytes[{at + 2}] = (uint8_t)right;
    bytes[{at + 4}] = (uint8_t)top;
    bytes[{at + 5}] = (uint8_t)foot;
    send(0, bytes, {len(window)});
    for (row = top; row <= foot; row++) {{
        {name}_data(wanted + (uint16_t)(row * {way.columns} + left), (uint16_t)(right - left + 1), send);
    }}
}}"""
    return "\n\n".join((_data(name, way.before), function))


def _code_type(redraw: Redraw) -> str:
    """Type of a digit's code: 16 segments and a point need one bit more than two bytes."""
    return "uint32_t" if redraw.wide > 2 else "uint16_t"


def _put_cell(name: str, way: Cells) -> str:
    return f"""\
void {name}_put(uint8_t *wanted, uint8_t row, uint8_t column, uint16_t code)
{{
    wanted[(uint16_t)(row * {way.line}u + column)] = (uint8_t)code;
}}"""


def _put_digit(name: str, redraw: Redraw) -> str:
    shifts = [8 * (each if redraw.low_first else redraw.wide - 1 - each) for each in range(redraw.wide)]
    puts = "\n".join(
        f"    wanted[{name}_digits[column] + {place}] = (uint8_t)({f'code >> {shift}' if shift else 'code'});"
        for place, shift in enumerate(shifts)
    )
    return f"""\
{_table(f"{name}_digits", bytes(redraw.digits))}

void {name}_put(uint8_t *wanted, uint8_t row, uint8_t column, {_code_type(redraw)} code)
{{
    (void)row;
{puts}
}}"""
