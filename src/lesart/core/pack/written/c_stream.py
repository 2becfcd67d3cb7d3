"""Frames found in a serial stream, byte by byte, in C: by their beginning, their length and their check."""

from __future__ import annotations

from lesart.core.pack.program.plain import plain
from lesart.core.raw.lines.frame_line import FrameShape


def can_be_found(shape: FrameShape) -> bool:
    """True where frames can be found: a length alone does not say where one begins."""
    return bool(shape.length) and (bool(shape.begins) or shape.check.kind != "none")


def stream_header(name: str, title: str, shape: FrameShape, asks: bytes) -> str:
    """Types and functions, and the request to send, where there is one."""
    lines = []
    if can_be_found(shape):
        lines += [
            f"/* Frames in what {plain(title)} says. Begin with count = 0. */",
            "typedef struct {",
            f"    uint8_t bytes[{shape.length}];",
            "    uint16_t count;",
            f"}} {name}_stream;",
            "",
            "/* One byte more: 1 where a right frame ends with it, and its values are in out; else 0. */",
            f"uint8_t {name}_take({name}_stream *s, uint8_t byte, {name}_raw *out);",
        ]
    if asks:
        lines += [f"/* What {plain(title)} has to be sent before it answers. */"]
        lines += [f"extern const uint8_t {name}_asks[{len(asks)}];"]
    return "\n".join(lines)


def stream_source(name: str, shape: FrameShape, asks: bytes) -> list[str]:
    """The functions, and the bytes of the request."""
    parts = []
    if asks:
        told = ", ".join(f"0x{byte:02X}" for byte in asks)
        parts.append(f"const uint8_t {name}_asks[{len(asks)}] = {{ {told} }};")
    if not can_be_found(shape):
        return parts
    head = len(shape.begins)
    begins = " && ".join(
        [f"({place} >= count || bytes[{place}] == 0x{byte:02X}u)" for place, byte in enumerate(shape.begins)] or ["1"]
    )
    parts += [
        f"""\
/* May a frame begin with what is there? */
static uint8_t {name}_begins(const uint8_t *bytes, uint16_t count)
{{
    {"(void)bytes; (void)count;" if not head else ""}
    return {begins};
}}""".replace("    \n", ""),
        f"""\
/* Away with the first byte, and with those behind it until a frame may begin. */
static void {name}_on({name}_stream *s)
{{
    uint16_t from = 1, i;
    while (from < s->count && !{name}_begins(s->bytes + from, (uint16_t)(s->count - from))) {{
        from++;
    }}
    for (i = from; i < s->count; i++) {{
        s->bytes[i - from] = s->bytes[i];
    }}
    s->count = (uint16_t)(s->count - from);
}}""",
        f"""\
uint8_t {name}_take({name}_stream *s, uint8_t byte, {name}_raw *out)
{{
    s->bytes[s->count++] = byte;
    if (!{name}_begins(s->bytes, s->count)) {{
        {name}_on(s);
    }}
    if (s->count < {shape.length}) {{
        return 0;
    }}
    if ({name}_frame(s->bytes, {shape.length}, out)) {{
        {name}_on(s);
        return 0;
    }}
    s->count = 0;
    return 1;
}}""",
    ]
    return parts
