"""A sensor's frames in C, parsed as at the desk: their check, and the raw numbers in them."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.block import Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.program.in_c import stored_type
from lesart.core.pack.program.plain import plain
from lesart.core.pack.written.c_stream import stream_header, stream_source
from lesart.core.raw.lines.frame_line import FrameShape
from lesart.core.raw.messages.checksums import Crc, FrameCheck
from lesart.core.raw.messages.frames import MOST_TENTHS, OF_TENTHS, FieldSpec, byte_places

WIDEST = 32
"""Most bits of a field."""
BITS = """\
/* Bits of a frame as a number: the first byte's highest bit is bit 0; at most 32. */
static inline uint32_t frame_bits(const uint8_t *bytes, uint16_t first, uint8_t count)
{
    uint32_t value = 0;
    while (count--) {
        value = (value << 1) | (uint32_t)((bytes[first >> 3] >> (7 - (first & 7))) & 1);
        first++;
    }
    return value;
}
"""


@dataclass(frozen=True)
class FramesWanted:
    """Frames of a source: ``name`` is an identifier; ``fields`` by their names in code, counted from after ``begins``,
    the bytes that valid frames begin with. On a serial line, whose frames have a ``shape``, fields are counted from a
    frame's first byte, and ``asks`` is the request to send."""

    name: str
    title: str
    check: FrameCheck
    fields: tuple[tuple[str, FieldSpec], ...]
    begins: bytes = b""
    shape: FrameShape | None = None
    asks: bytes = b""

    @property
    def counted_from(self) -> int:
        """The first byte that fields are counted from."""
        return len(self.begins) if self.shape is None else 0

    @property
    def checked_from(self) -> int:
        """The first byte that the check covers."""
        return len(self.begins) if self.shape is None else self.shape.unchecked

    @property
    def bytes(self) -> int:
        """The fewest bytes that hold its beginning, every field and the check after them."""
        if self.shape is not None and self.shape.length:
            return self.shape.length
        last = max(spec.first_bit + spec.bits for _, spec in self.fields)
        return self.counted_from + -(-last // 8) + self.check.length


def field_range(spec: FieldSpec) -> tuple[int, int]:
    """Range of a field's raw number."""
    if spec.tenths:
        top = 10 * ((1 << spec.bits // 2) - 1) + MOST_TENTHS
        return (0 if spec.sign == "none" else -top - MOST_TENTHS), top
    if spec.sign == "none":
        return 0, (1 << spec.bits) - 1
    top = (1 << spec.bits - 1) - 1
    return -top - 1, top


def frames_header(wanted: FramesWanted) -> str:
    """Types and the function of one source."""
    members = []
    for name, spec in wanted.fields:
        low, high = field_range(spec)
        members += [f"    {stored_type(low, high)} {name}; /* {plain(_says(spec))} */", f"    uint8_t {name}_mark;"]
    begins = f", beginning with {wanted.begins.hex(' ').upper()}" if wanted.begins else ""
    short = "where it is too short or begins differently" if wanted.begins else "where it is too short"
    stream = stream_header(wanted.name, wanted.title, wanted.shape, wanted.asks) if wanted.shape is not None else ""
    return "\n".join(
        [
            f"/* Frames of {plain(wanted.title)}: {wanted.bytes} bytes or more{begins}, check {wanted.check.kind}. */",
            "typedef struct {",
            *members,
            f"}} {wanted.name}_raw;",
            "",
            f"/* 0 where the frame is good, {int(Mark.MISSING)} {short}, {int(Mark.CHECKSUM)} where its check",
            f" * is wrong; every value has that mark, or {int(Mark.MISSING)} where the frame holds no such value. */",
            f"uint8_t {wanted.name}_frame(const uint8_t *bytes, uint16_t count, {wanted.name}_raw *out);",
            *(["", stream] if stream else []),
        ]
    )


def _says(spec: FieldSpec) -> str:
    tenths = ", tenths" if spec.tenths else ""
    return f"{spec.name}: {spec.bits} bits from bit {spec.first_bit}{tenths}; × {spec.scale:g} + {spec.offset:g}"


def frames_source(wanted: FramesWanted, header: str) -> str:
    """The whole source."""
    parts = [f"/* {plain(wanted.title)}. Written by Lesart; change the project, not this. */", f'#include "{header}"']
    check = _check(wanted)
    parts += [check] if check else []
    parts.append(_function(wanted))
    parts += stream_source(wanted.name, wanted.shape, wanted.asks) if wanted.shape is not None else []
    return "\n\n".join(parts) + "\n"


def _function(wanted: FramesWanted) -> str:
    name = wanted.name
    lines = [f"uint8_t {name}_frame(const uint8_t *bytes, uint16_t count, {name}_raw *out)", "{"]
    lines += ["    uint8_t mark = 0;", "    uint32_t value;"]
    if any(spec.tenths for _, spec in wanted.fields):
        lines += ["    int32_t whole, tenths;"]
    for field, _ in wanted.fields:
        lines.append(f"    out->{field} = 0;")
    head, covers = wanted.counted_from, wanted.checked_from
    other = "".join(f" || bytes[{place}] != 0x{byte:02X}u" for place, byte in enumerate(wanted.begins))
    lines += [f"    if (count < {wanted.bytes}{other}) {{", f"        mark = {int(Mark.MISSING)};"]
    if wanted.check.kind != "none":
        behind = f"bytes + {covers}, (uint16_t)(count - {covers})" if covers else "bytes, count"
        lines += [f"    }} else if (!{name}_agrees({behind})) {{", f"        mark = {int(Mark.CHECKSUM)};"]
    lines += ["    }"]
    lines += [f"    out->{field}_mark = mark;" for field, _ in wanted.fields]
    lines += ["    if (mark) {", "        return mark;", "    }"]
    lines += [f"    bytes += {head};"] if head else []
    for field, spec in wanted.fields:
        lines += [f"    value = {_value(spec)};", *(f"    {line}" for line in _into(field, spec))]
    return "\n".join([*lines, "    return 0;", "}"])


def _value(spec: FieldSpec) -> str:
    """The value of a field from its bits, bytes in their order."""
    places = byte_places(spec)
    if places == tuple(range(len(places))):
        return f"frame_bits(bytes, {spec.first_bit}, {spec.bits})"
    count = len(places)
    parts = []
    for at, place in enumerate(places):
        shift = 8 * (count - 1 - at)
        one = f"frame_bits(bytes, {spec.first_bit + 8 * place}, 8)"
        parts.append(f"({one} << {shift})" if shift else one)
    return " | ".join(parts)


def _into(field: str, spec: FieldSpec) -> list[str]:
    low, high = field_range(spec)
    kind = stored_type(low, high)
    if spec.tenths:
        return _tenths(field, spec, kind)
    if spec.sign == "none":
        return [f"out->{field} = ({kind})value;"]
    top = f"{1 << spec.bits - 1}u"
    if spec.sign == "sign bit":
        minus = f"({kind})-(int32_t)(value & {(1 << spec.bits - 1) - 1}u)"
    else:
        # Relative to the least number, so that no sign bit is shifted.
        minus = f"({kind})((int32_t)(value & {(1 << spec.bits - 1) - 1}u) - {(1 << spec.bits - 1) - 1} - 1)"
    return [f"out->{field} = value & {top} ? {minus} : ({kind})value;"]


def _tenths(field: str, spec: FieldSpec, kind: str) -> list[str]:
    """Tenths as ``FieldSpec`` reads them: more than nine are invalid."""
    half = spec.bits // 2
    upper = spec.bits - half
    top = 1 << (upper - 1)
    lines = [f"whole = (int32_t)(value >> {half});", f"tenths = (int32_t)(value & {(1 << half) - 1}u);"]
    minus = "0"
    if spec.sign == OF_TENTHS:
        minus = f"(tenths & {1 << (half - 1)})"
        lines.append(f"mark = (uint8_t)({minus} != 0);")
        lines.append(f"tenths &= {(1 << half - 1) - 1};")
    elif spec.sign == "sign bit":
        lines += [f"mark = (uint8_t)((whole & {top}) != 0);", f"whole &= {top - 1};"]
    elif spec.sign == "two's complement":
        lines += [f"mark = (uint8_t)((whole & {top}) != 0);", f"whole = mark ? whole - {1 << upper} : whole;"]
    else:
        lines.append("mark = 0;")
    lines += [f"if (tenths > {MOST_TENTHS}) {{", f"    out->{field}_mark = {int(Mark.MISSING)};", "} else {"]
    if spec.sign == "two's complement":
        lines.append(f"    out->{field} = ({kind})(10 * whole + (mark ? -tenths : tenths));")
    else:
        lines.append(f"    out->{field} = ({kind})(mark ? -(10 * whole + tenths) : 10 * whole + tenths);")
    return [*lines, "}", "mark = 0;"]


def _check(wanted: FramesWanted) -> str:
    check, name = wanted.check, wanted.name
    if check.kind == "none":
        return ""
    head = [f"/* Does the {check.kind} at the end agree? */"]
    head += [f"static uint8_t {name}_agrees(const uint8_t *bytes, uint16_t count)", "{", "    uint16_t i;"]
    if check.crc is not None and check.kind.startswith("CRC"):
        return "\n".join([*head, *_crc(check, check.crc), "}"])
    if check.kind == "sum-16":
        return "\n".join([*head, *_sum_of_two(check), "}"])
    start = {"sum": "value + bytes[i]", "LRC": "value - bytes[i]", "xor": "value ^ bytes[i]"}[check.kind]
    body = [
        "    uint8_t value = 0;",
        "    for (i = 0; i + 1 < count; i++) {",
        f"        value = (uint8_t)({start});",
        "    }",
    ]
    return "\n".join([*head, *body, "    return bytes[count - 1] == value;", "}"])


def _sum_of_two(check: FrameCheck) -> Sequence[str]:
    high, low = (1, 2) if check.low_first else (2, 1)
    return [
        "    uint16_t value = 0;",
        "    for (i = 0; i + 2 < count; i++) {",
        "        value = (uint16_t)(value + bytes[i]);",
        "    }",
        f"    return bytes[count - {high}] == (uint8_t)(value >> 8) &&",
        f"        bytes[count - {low}] == (uint8_t)(value & 255u);",
    ]


def _crc(check: FrameCheck, crc: Crc) -> Sequence[str]:
    """The CRC bit by bit: without a table, and with the same remainder."""
    kind, mask = f"uint{crc.width}_t", (1 << crc.width) - 1

    def turned(value: int) -> int:
        return int(f"{value:0{crc.width}b}"[::-1], 2)

    if crc.reflect_in:
        start, step = turned(crc.init), f"value & 1 ? (value >> 1) ^ 0x{turned(crc.poly):X}u : value >> 1"
        mixed = "value ^ bytes[i]"
    else:
        top = 1 << (crc.width - 1)
        start, step = (
            crc.init,
            f"value & 0x{top:X}u ? (unsigned)(value << 1) ^ 0x{crc.poly:X}u : (unsigned)(value << 1)",
        )
        mixed = "value ^ bytes[i]" if crc.width == 8 else f"value ^ ((unsigned)bytes[i] << {crc.width - 8})"
    lines = [
        f"    {kind} value = 0x{start:X}u;",
        "    uint8_t bit;",
        f"    for (i = 0; i + {check.length} < count; i++) {{",
        f"        value = ({kind})({mixed});",
        "        for (bit = 0; bit < 8; bit++) {",
        f"            value = ({kind})(({step}) & 0x{mask:X}u);",
        "        }",
        "    }",
    ]
    if crc.reflect_in != crc.reflect_out:
        lines += [
            "    {",
            f"        {kind} back = 0;",
            f"        for (bit = 0; bit < {crc.width}; bit++) {{",
            f"            back = ({kind})((back << 1) | ((value >> bit) & 1));",
            "        }",
            "        value = back;",
            "    }",
        ]
    lines += [f"    value = ({kind})(value ^ 0x{crc.xor_out:X}u);"] if crc.xor_out else []
    if crc.width == 8:
        return [*lines, "    return bytes[count - 1] == value;"]
    low, high = ("count - 2", "count - 1") if check.low_first else ("count - 1", "count - 2")
    return [*lines, f"    return bytes[{low}] == (uint8_t)(value & 0xFF) && bytes[{high}] == (uint8_t)(value >> 8);"]
