"""Frames taken apart in C: the numbers and marks of the desk, for every check, order, sign and place there is."""

from __future__ import annotations

import random
from pathlib import Path

from lesart.core.pack.written.c_source import FramesWanted, field_range, frames_source
from lesart.core.pack.written.files import frames_head
from lesart.core.raw.lines.frame_line import FrameShape, FrameState, take
from lesart.core.raw.messages.checksums import CHECKS, MODBUS, Crc, FrameCheck
from lesart.core.raw.messages.frames import ORDERS, SIGNS, FieldSpec
from tests.core.pack.programs import built_and_run

FRAMES = 30
BEGINS = b"", b"\xff", b"\xcc\xbe"


def check_of(kind: str, chance: random.Random) -> FrameCheck:
    if not kind.startswith("CRC"):
        return FrameCheck(kind, None, kind == "sum-16" and chance.random() < 0.5)  # type: ignore[arg-type]
    width = int(kind[4:])
    reflect = chance.random() < 0.5
    crc = Crc(
        width, chance.getrandbits(width) | 1, chance.getrandbits(width), reflect, reflect, chance.getrandbits(width)
    )
    return FrameCheck(kind, MODBUS if width == 16 and chance.random() < 0.3 else crc, chance.random() < 0.5)  # type: ignore[arg-type]


def fields_of(chance: random.Random) -> tuple[tuple[str, FieldSpec], ...]:
    out = []
    for place in range(4):
        bits = chance.choice((1, 3, 8, 12, 16, 24, 32))
        tenths = bits in (12, 16) and chance.random() < 0.5
        signs = SIGNS if tenths else SIGNS[:3]
        sign = chance.choice(signs) if bits > 1 else "none"
        out.append((f"f{place}", FieldSpec(
            f"f{place}", chance.randrange(0, 33), bits, chance.choice(ORDERS), sign, tenths=tenths,
            word_swap=chance.random() < 0.3, byte_swap=chance.random() < 0.3,
        )))  # fmt: skip
    return tuple(out)


def test_numbers_and_marks_are_those_of_the_desk(tmp_path: Path) -> None:
    """Good frames, frames that a bit spoiled, and frames that end too early."""
    chance = random.Random(11)
    wanted = [
        FramesWanted(f"s{place}", f"source {place}", check_of(kind, chance), fields_of(chance), BEGINS[place % 3])
        for place, kind in enumerate(kind for kind in CHECKS for _ in range(4))
    ]
    files = {f"{each.name}.c": frames_source(each, "tried_frames.h") for each in wanted}
    files["tried_frames.h"] = frames_head("tried", wanted)
    rows, expected = [], []
    for each in wanted:
        for number in range(FRAMES):
            data = bytes(
                chance.getrandbits(8) & chance.choice((0xFF, 0xFF, 0x09))
                for _ in range(each.bytes - each.check.length - len(each.begins))
            )
            frame = each.begins + data + each.check.expected(data)
            if number % 3 == 1:
                place = chance.randrange(len(frame))
                frame = frame[:place] + bytes((frame[place] ^ 1 << chance.randrange(8),)) + frame[place + 1 :]
            elif number % 3 == 2 and number % 2:
                frame = frame[: chance.randrange(len(frame))]
            rows.append((each, frame))
            expected.append(desk(each, frame))
    lines = ['#include <stdio.h>\n#include "tried_frames.h"', "int main(void) {"]
    for each, frame in rows:
        told = ", ".join(f"{byte}" for byte in frame) or "0"
        shown = "".join(f'printf(" %ld %d", (long)out.{name}, out.{name}_mark);' for name, _ in each.fields)
        lines.append(
            f"{{ static const uint8_t b[] = {{{told}}}; {each.name}_raw out; int m = {each.name}_frame(b, {len(frame)}, &out); "
            f'printf("%d", m); {shown} printf("\\n"); }}'
        )
    files["main.c"] = "\n".join([*lines, "return 0; }"])
    found = [[int(cell) for cell in line.split()] for line in built_and_run(tmp_path, files).splitlines()]
    assert found == expected
    assert {row[0] for row in found} == {0, 1, 2}


def desk(wanted: FramesWanted, frame: bytes) -> list[int]:
    """Mark, then number and mark of each field: tenths as whole numbers."""
    is_one = len(frame) >= wanted.bytes and frame.startswith(wanted.begins)
    frame = frame[len(wanted.begins) :]
    mark = 1 if not is_one else 2 if wanted.check.wrong(frame) else 0
    row = [mark]
    for _, spec in wanted.fields:
        value = None if mark else spec.read(frame)[0]
        if value is None:
            row += [0, mark or 1]
            continue
        number = round(value * (10 if spec.tenths else 1))
        low, high = field_range(spec)
        assert low <= number <= high
        row += [number, 0]
    return row


def shape_of(place: int, kind: str, chance: random.Random) -> FrameShape:
    """With and without bytes that they begin with, which the check covers or leaves out."""
    begins = (b"\x5a\xa5", b"\x42", b"", b"\xff\xff\x01")[place % 4]
    unchecked = chance.choice((0, len(begins)))
    return FrameShape(begins, 12 + place % 3, 0.05, check_of(kind, chance), unchecked)


def stream_of(shape: FrameShape, chance: random.Random) -> tuple[bytes, list[bytes]]:
    """Frames, with bytes between that are none, bytes lost and bits spoiled; and those that came whole."""
    out, whole = bytearray(), []
    for _ in range(40):
        body = bytes(chance.getrandbits(8) for _ in range(shape.length - len(shape.begins) - shape.check.length))
        data = shape.begins + body
        frame = bytearray(data + shape.check.expected(data[shape.unchecked :]))
        dice = chance.random()
        if dice >= 0.2:
            whole.append(bytes(frame))
        if dice < 0.1:
            del frame[chance.randrange(len(frame))]
        elif dice < 0.2:
            frame[chance.randrange(len(frame))] ^= 1 << chance.randrange(8)
        elif dice < 0.3:
            out += bytes(chance.getrandbits(8) for _ in range(chance.randrange(1, 9)))
        elif dice < 0.35:
            out += shape.begins
        out += frame
    return bytes(out), whole


def test_frames_are_found_in_what_a_line_says(tmp_path: Path) -> None:
    """Every one that came whole and no other, with its values, whatever comes between; the desk, which may lose one
    behind a spoiled one, finds no further ones. What it is asked with is there too."""
    chance = random.Random(17)
    kinds = [kind for kind in CHECKS if kind in ("sum-16", "CRC-16")]
    wanted = []
    for place in range(12):
        shape = shape_of(place, kinds[place % 2], chance)
        fields = (("a", FieldSpec("a", 24, 8)), ("b", FieldSpec("b", 32, 16, sign="two's complement")))
        asks = b"\xff\x01\x86" if place % 3 == 0 else b""
        wanted.append(FramesWanted(f"s{place}", f"line {place}", shape.check, fields, shape.begins, shape, asks))
    streams = [stream_of(each.shape, chance) for each in wanted if each.shape is not None]
    files = {f"{each.name}.c": frames_source(each, "tried_frames.h") for each in wanted}
    files["tried_frames.h"] = frames_head("tried", wanted)
    lines = ['#include <stdio.h>\n#include "tried_frames.h"', "int main(void) {"]
    for each, stream in zip(wanted, streams, strict=True):
        told = ", ".join(map(str, stream[0]))
        asked = f'printf("%d\\n", {each.name}_asks[2]);' if each.asks else ""
        lines.append(
            f"{{ static const uint8_t b[] = {{{told}}}; {each.name}_stream s; {each.name}_raw out; int i; s.count = 0; "
            f"{asked} for (i = 0; i < {len(stream[0])}; i++) if ({each.name}_take(&s, b[i], &out)) "
            f'printf("{each.name} %d %d\\n", out.a, out.b); }}'
        )
    files["main.c"] = "\n".join([*lines, "return 0; }"])
    found = built_and_run(tmp_path, files).splitlines()
    expected = []
    for each, stream in zip(wanted, streams, strict=True):
        assert each.shape is not None
        state = FrameState(each.shape, tuple(spec for _, spec in each.fields), is_found=True, last_read=0.0)
        _, heard = take(state, stream[0], 0.001)
        right = [tuple(map(int, row)) for row in heard.values if row[0] == row[0]]
        values = [(frame[3], int.from_bytes(frame[4:6], "big", signed=True)) for frame in stream[1]]
        assert set(right) <= set(values)
        assert 0.7 * len(values) < len(right)
        expected += ["134"] if each.asks else []
        expected += [f"{each.name} {a} {b}" for a, b in values]
    assert found == expected


def test_a_length_alone_finds_no_frame() -> None:
    """Nothing says where one begins: only whole ones are taken apart."""
    shape = FrameShape(b"", 8)
    wanted = FramesWanted("s", "line", shape.check, (("a", FieldSpec("a", 0, 8)),), b"", shape)
    assert "_take" not in frames_head("tried", [wanted]) + frames_source(wanted, "tried_frames.h")
    assert "s_frame(" in frames_source(wanted, "tried_frames.h")
