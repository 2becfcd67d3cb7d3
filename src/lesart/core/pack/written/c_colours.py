"""A colour panel in C: one bit per pixel in memory, and boxes with the colours in which lit pixels are sent.

A frame with two bytes per pixel would not fit a small controller; one with a bit does, and changes are coloured on
their way out.
"""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.program.in_c import INDENT
from lesart.core.pack.program.plain import plain

AT_ONCE = 16
"""Most pixels in one run, to bound the stack."""


@dataclass(frozen=True)
class ColourBox:
    """A box in the controller's pixels; ``right`` and ``foot`` are one past the last.

    Bytes of a lit pixel, and of one while an alarm is on.
    """

    says: str
    left: int
    top: int
    right: int
    foot: int
    colour: bytes
    alarm: bytes


@dataclass(frozen=True, kw_only=True)
class Painted:
    """A frame of one bit per pixel, whose lit ones are sent in the colours of boxes.

    ``own`` and ``ground`` are bytes of a pixel lit outside all boxes, and of a dark one.
    """

    width: int
    height: int
    own: bytes
    ground: bytes
    boxes: Sequence[tuple[str, str, Sequence[ColourBox]]] = ()
    """Boxes of each face, by its name in code."""

    @property
    def row_bytes(self) -> int:
        """Bytes of a row, eight pixels each, the leftmost in the highest bit."""
        return -(-self.width // 8)


@dataclass(frozen=True, kw_only=True)
class Coloured(Painted):
    """``left`` and ``top`` are columns and rows of the controller before those of the glass; ``half`` is the number of
    bytes per end of a window; ``write`` the command before pixels, None where there is none. ``alone``: the line marks
    only the command itself."""

    left: int
    top: int
    to_columns: int
    to_pages: int
    half: int
    write: int | None
    alone: bool


def coloured_header(name: str, way: Coloured) -> list[str]:
    """Declarations."""
    size, pixel = way.row_bytes * way.height, len(way.own)
    macro = name.upper()
    lines = [
        f"/* A frame has a bit a pixel, {way.row_bytes} bytes a row, the leftmost pixel in the highest bit. */",
        f"#define {macro}_BYTES {size}",
        "/* Lit pixels of a box are sent in its colour, or in that of its alarm; a later box lies over an earlier. */",
        *box_lines(name, pixel, way.boxes),
    ]
    return [
        *lines,
        "/* Sends a window of a frame: left, top, and behind right and foot. Alarms are a byte a box, not 0 while on;",
        "   0 where there are none. A box whose alarm goes on or off is sent anew, and all there is at first. */",
        f"void {name}_part(const uint8_t *wanted, const {name}_box *boxes, uint8_t count, const uint8_t *alarms,",
        f"{INDENT}uint16_t left, uint16_t top, uint16_t right, uint16_t foot, send_run send);",
        f"/* Sends what differs of two frames of {macro}_BYTES; what was shown is what was wanted then. */",
        f"void {name}_changed(uint8_t *shown, const uint8_t *wanted, const {name}_box *boxes, uint8_t count,",
        f"{INDENT}const uint8_t *alarms, send_run send);",
    ]


def box_lines(name: str, pixel: int, faces: Sequence[tuple[str, str, Sequence[ColourBox]]]) -> list[str]:
    """Declarations of boxes, each with the ``pixel`` bytes of a lit one, and of those of each face."""
    lines = [
        "typedef struct {",
        f"{INDENT}uint16_t left, top, right, foot; /* the last two are behind it */",
        f"{INDENT}uint8_t colour[{pixel}], alarm[{pixel}];",
        f"}} {name}_box;",
    ]
    for boxes, says, each in faces:
        lines.append(f"#define {boxes.upper()}_COUNT {len(each)}")
        lines.append(f"extern const {name}_box {boxes}[{max(len(each), 1)}]; /* {plain(says)} */")
    return lines


def coloured_source(name: str, way: Coloured) -> list[str]:
    """Boxes and functions."""
    return [
        *boxes_source(name, way.boxes),
        _window(name, way),
        pixel_source(name, way.own, way.ground, way.row_bytes),
        _part(name, way),
        _changed(name, way),
    ]


def boxes_source(name: str, faces: Sequence[tuple[str, str, Sequence[ColourBox]]]) -> list[str]:
    """The boxes of each face."""
    return [_boxes(name, boxes, says, each) for boxes, says, each in faces]


def _boxes(name: str, boxes: str, says: str, each: Sequence[ColourBox]) -> str:
    pixel = f"{{ {_bytes(b'')} }}" if not each else ""
    rows = [
        f"{INDENT}{{ {box.left}, {box.top}, {box.right}, {box.foot}, {{ {_bytes(box.colour)} }}, "
        f"{{ {_bytes(box.alarm)} }} }}, /* {plain(box.says)} */"
        for box in each
    ]
    body = "\n".join(rows) if each else f"{INDENT}{{ 0, 0, 0, 0, {pixel}, {pixel} }}"
    return f"/* {plain(says)} */\nconst {name}_box {boxes}[{max(len(each), 1)}] = {{\n{body}\n}};"


def _bytes(data: bytes) -> str:
    return ", ".join(f"0x{byte:02X}" for byte in data) or "0"


def _window(name: str, way: Coloured) -> str:
    ends = (("left", "right", way.to_columns, way.left), ("top", "foot", way.to_pages, way.top))
    body = []
    for first, last, command, before in ends:
        parts = []
        for end, back in ((first, 0), (last, 1)):
            value = f"({end} + {before}u)" if not back else f"({end} + {before}u - {back}u)"
            parts += [f"(uint8_t)({value} >> 8)"] if way.half == 2 else []
            parts.append(f"(uint8_t){value}")
        if way.alone:
            body += [f"bytes[0] = 0x{command:02X};", "send(0, bytes, 1);"]
            body += [f"bytes[{at}] = {part};" for at, part in enumerate(parts)]
            body.append(f"send(1, bytes, {len(parts)});")
        else:
            body += [f"bytes[{at}] = {part};" for at, part in enumerate((f"0x{command:02X}", *parts))]
            body.append(f"send(0, bytes, {len(parts) + 1});")
    if way.write is not None:
        body += [f"bytes[0] = 0x{way.write:02X};", "send(0, bytes, 1);"]
    lines = "\n".join(f"    {line}" for line in body)
    return f"""\
static void {name}_window(uint16_t left, uint16_t top, uint16_t right, uint16_t foot, send_run send)
{{
    uint8_t bytes[5];
{lines}
}}"""


def pixel_source(name: str, own: bytes, ground: bytes, row_bytes: int) -> str:
    """The function that says in which bytes a pixel is sent."""
    return f"""\
/* What a pixel is sent as. */
static const uint8_t *{name}_pixel(const uint8_t *wanted, const {name}_box *boxes, uint8_t count,
    const uint8_t *alarms, uint16_t x, uint16_t y)
{{
    static const uint8_t own[{len(own)}] = {{ {_bytes(own)} }};
    static const uint8_t ground[{len(ground)}] = {{ {_bytes(ground)} }};
    if (!(wanted[(uint16_t)(y * {row_bytes}u + x / 8u)] & (0x80u >> (x % 8u)))) {{
        return ground;
    }}
    while (count) {{
        count--;
        if (x >= boxes[count].left && x < boxes[count].right && y >= boxes[count].top && y < boxes[count].foot) {{
            return alarms && alarms[count] ? boxes[count].alarm : boxes[count].colour;
        }}
    }}
    return own;
}}"""


def whole_header(name: str) -> list[str]:
    """Declarations of the functions that send all of a frame, at once and where anything of it differs."""
    return [
        f"void {name}_all(const uint8_t *wanted, const {name}_box *boxes, uint8_t count, const uint8_t *alarms,",
        f"{INDENT}send_run send);",
        f"/* Sends all where two frames of {name.upper()}_BYTES differ; what was shown is what was wanted then. */",
        f"void {name}_changed(uint8_t *shown, const uint8_t *wanted, const {name}_box *boxes, uint8_t count,",
        f"{INDENT}const uint8_t *alarms, send_run send);",
    ]


def whole_source(name: str, way: Painted) -> str:
    """The function that sends all of a frame where anything of it differs."""
    return f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, const {name}_box *boxes, uint8_t count,
    const uint8_t *alarms, send_run send)
{{
    uint16_t place;
    uint8_t differs = 0;
    for (place = 0; place < {way.row_bytes * way.height}; place++) {{
        differs = (uint8_t)(differs | (shown[place] ^ wanted[place]));
        shown[place] = wanted[place];
    }}
    if (differs) {{
        {name}_all(wanted, boxes, count, alarms, send);
    }}
}}"""


def _part(name: str, way: Coloured) -> str:
    pixel = len(way.own)
    return f"""\
void {name}_part(const uint8_t *wanted, const {name}_box *boxes, uint8_t count, const uint8_t *alarms,
    uint16_t left, uint16_t top, uint16_t right, uint16_t foot, send_run send)
{{
    uint8_t bytes[{AT_ONCE * pixel}];
    uint8_t some = 0;
    uint16_t x, y;
    if (left >= right || top >= foot) {{
        return;
    }}
    {name}_window(left, top, right, foot, send);
    for (y = top; y < foot; y++) {{
        for (x = left; x < right; x++) {{
            const uint8_t *colour = {name}_pixel(wanted, boxes, count, alarms, x, y);
            uint8_t i;
            for (i = 0; i < {pixel}; i++) {{
                bytes[some++] = colour[i];
            }}
            if (some == {AT_ONCE * pixel}) {{
                send(1, bytes, some);
                some = 0;
            }}
        }}
    }}
    if (some) {{
        send(1, bytes, some);
    }}
}}"""


def _changed(name: str, way: Coloured) -> str:
    return f"""\
void {name}_changed(uint8_t *shown, const uint8_t *wanted, const {name}_box *boxes, uint8_t count,
    const uint8_t *alarms, send_run send)
{{
    uint16_t left = {way.row_bytes}, right = 0, top = {way.height}, foot = 0, row, column;
    for (row = 0; row < {way.height}; row++) {{
        for (column = 0; column < {way.row_bytes}; column++) {{
            uint16_t place = (uint16_t)(row * {way.row_bytes}u + column);
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
    }}
    right = (uint16_t)(8u * (right + 1u));
    {name}_part(wanted, boxes, count, alarms, (uint16_t)(8u * left), top, right > {way.width} ? {way.width} : right,
        (uint16_t)(foot + 1u), send);
}}"""
