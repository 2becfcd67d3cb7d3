"""Paper with a third ink in C: one bit per pixel in memory, boxes with inks, and two memories that are sent in turn."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.program.in_c import INDENT
from lesart.core.pack.written.c_colours import (
    Painted,
    box_lines,
    boxes_source,
    pixel_source,
    whole_header,
    whole_source,
)


@dataclass(frozen=True, kw_only=True)
class Inked(Painted):
    """A pixel is sent as bit 0 of its byte to the first memory, and as bit 1 to the second, or its opposite where
    ``second_low``.

    Each of these commands comes with its bytes: ``before`` the first memory's bits, ``between`` and ``behind``.
    """

    before: tuple[bytes, ...]
    between: tuple[bytes, ...]
    behind: tuple[bytes, ...]
    second_low: bool


def inked_header(name: str, way: Inked) -> list[str]:
    """Declarations."""
    macro = name.upper()
    return [
        f"/* A frame has a bit a pixel, {way.row_bytes} bytes a row, the leftmost pixel in the highest bit. */",
        f"#define {macro}_BYTES {way.row_bytes * way.height}",
        "/* Lit pixels of a box have its ink, or that of its alarm: bit 0 is white, bit 1 the third ink. A later box",
        "   lies over an earlier. */",
        *box_lines(name, len(way.own), way.boxes),
        "/* Sends both memories, and has them shown; afterwards it is busy for a while, and takes nothing. Alarms are",
        "   a byte a box, not 0 while on; 0 where there are none. Send all when one goes on or off, and at first. */",
        *whole_header(name),
    ]


def inked_source(name: str, way: Inked) -> list[str]:
    """Boxes and functions."""
    pixel = pixel_source(name, way.own, way.ground, way.row_bytes)
    return [*boxes_source(name, way.boxes), pixel, _memory(name, way), _all(name, way), whole_source(name, way)]


def _memory(name: str, way: Inked) -> str:
    """The bits of one memory, row by row; those beyond the glass are white."""
    beyond = way.row_bytes * 8 - way.width
    ink = f"*{name}_pixel(wanted, boxes, count, alarms, x, y)"
    ink = f"x < {way.width} ? {ink} : 1" if beyond else ink
    return f"""\
/* Bit 0 or 1 of all pixels, or its opposite. */
static void {name}_memory(const uint8_t *wanted, const {name}_box *boxes, uint8_t count, const uint8_t *alarms,
    uint8_t bit, uint8_t opposite, send_run send)
{{
    uint8_t bytes[{way.row_bytes}];
    uint8_t eight = 0;
    uint16_t x, y;
    for (y = 0; y < {way.height}; y++) {{
        for (x = 0; x < {way.row_bytes * 8}; x++) {{
            uint8_t ink = (uint8_t)({ink});
            eight = (uint8_t)((eight << 1) | (((ink >> bit) & 1) ^ opposite));
            bytes[x / 8u] = eight;
        }}
        send(1, bytes, {way.row_bytes});
    }}
}}"""


def _all(name: str, way: Inked) -> str:
    size = max(max(len(each) - 1 for each in (*way.before, *way.between, *way.behind)), 1)
    before, between, behind = (
        "\n".join(_told(each) for each in commands) for commands in (way.before, way.between, way.behind)
    )
    return f"""\
void {name}_all(const uint8_t *wanted, const {name}_box *boxes, uint8_t count, const uint8_t *alarms,
    send_run send)
{{
    uint8_t bytes[{size}];
{before}
    {name}_memory(wanted, boxes, count, alarms, 0, 0, send);
{between}
    {name}_memory(wanted, boxes, count, alarms, 1, {int(way.second_low)}, send);
{behind}
}}"""


def _told(command: bytes) -> str:
    """A command alone, then its bytes as data."""
    lines = [f"bytes[0] = 0x{command[0]:02X};", "send(0, bytes, 1);"]
    lines += [f"bytes[{place}] = 0x{byte:02X};" for place, byte in enumerate(command[1:])]
    lines += [f"send(1, bytes, {len(command) - 1});"] if len(command) > 1 else []
    return "\n".join(f"{INDENT}{line}" for line in lines)
