"""Lamps in a chain in C: one bit per lamp in memory, boxes with colours, and all bytes in one run as the line runs."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.written.c_colours import (
    Painted,
    box_lines,
    boxes_source,
    pixel_source,
    whole_header,
    whole_source,
)


@dataclass(frozen=True, kw_only=True)
class Strung(Painted):
    """``by_rows``: the line runs along rows, else along columns; ``to_and_fro``: every other one the other way."""

    by_rows: bool
    to_and_fro: bool
    from_right: bool
    from_bottom: bool


def strung_header(name: str, way: Strung) -> list[str]:
    """Declarations."""
    macro = name.upper()
    return [
        f"/* A frame has a bit a lamp, {way.row_bytes} bytes a row, the leftmost lamp in the highest bit. */",
        f"#define {macro}_BYTES {way.row_bytes * way.height}",
        "/* Lit lamps of a box are sent in its colour, or in that of its alarm; a later box lies over an earlier. */",
        *box_lines(name, len(way.own), way.boxes),
        "/* Sends all lamps in one run, without a pause in it; the line rests behind it until they show. Alarms are a",
        "   byte a box, not 0 while on; 0 where there are none. Send all when one goes on or off, and at first. */",
        *whole_header(name),
    ]


def strung_source(name: str, way: Strung) -> list[str]:
    """Boxes and functions."""
    return [
        *boxes_source(name, way.boxes),
        pixel_source(name, way.own, way.ground, way.row_bytes),
        _all(name, way),
        whole_source(name, way),
    ]


def _all(name: str, way: Strung) -> str:
    pixel, count = len(way.own), way.width * way.height
    along = way.width if way.by_rows else way.height
    x, y = ("along", "line") if way.by_rows else ("line", "along")
    x = f"{way.width - 1}u - {x}" if way.from_right else x
    y = f"{way.height - 1}u - {y}" if way.from_bottom else y
    back = f"\n        along = line & 1u ? (uint16_t)({along - 1}u - along) : along;" if way.to_and_fro else ""
    return f"""\
void {name}_all(const uint8_t *wanted, const {name}_box *boxes, uint8_t count, const uint8_t *alarms,
    send_run send)
{{
    static uint8_t bytes[{pixel * count}];
    uint16_t lamp, some = 0;
    for (lamp = 0; lamp < {count}; lamp++) {{
        uint16_t line = (uint16_t)(lamp / {along}u), along = (uint16_t)(lamp % {along}u);
        const uint8_t *colour;
        uint8_t i;{back}
        colour = {name}_pixel(wanted, boxes, count, alarms, (uint16_t)({x}), (uint16_t)({y}));
        for (i = 0; i < {pixel}; i++) {{
            bytes[some++] = colour[i];
        }}
    }}
    send(1, bytes, some);
}}"""
