"""Numbers of two and four registers, heard on a field bus: made with the standard library's packing and the standard's
check, in every order that devices have."""

from __future__ import annotations

import math
import random
import struct
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest

from lesart.core.errors import ProjectError
from lesart.core.raw.edges import Edges
from lesart.desk.opening import open_desk
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.traces.vcd_write import vcd_text
from lesart.project.check import check_project
from lesart.project.new.make import make_project
from tests.core.raw.traces import uart

ORDERS: dict[tuple[bool, bool], Callable[[bytes], bytes]] = {
    (False, False): lambda high: high,
    (True, False): lambda high: b"".join(high[at : at + 2] for at in range(len(high) - 2, -1, -2)),
    (True, True): lambda high: high[::-1],
    (False, True): lambda high: b"".join(high[at : at + 2][::-1] for at in range(0, len(high), 2)),
}
"""Of words, and of the bytes in them; four bytes A B C D go out as A B C D, C D A B, D C B A and B A D C."""
KILOWATT_HOURS = 1834.25


def checked(body: bytes) -> bytes:
    """With the remainder of the standard, low byte first."""
    left = 0xFFFF
    for byte in body:
        left ^= byte
        for _ in range(8):
            left = (left >> 1) ^ 0xA001 if left & 1 else left >> 1
    return body + struct.pack("<H", left)


def meter(seed: int, count: int = 60) -> list[tuple[float, ...]]:
    """Volts, amperes, hertz, and kilowatt hours that stand still."""
    r = random.Random(seed)
    return [(230 + r.gauss(0, 0.5), 4.2 + r.gauss(0, 0.1), 50 + r.gauss(0, 0.01), KILOWATT_HOURS) for _ in range(count)]


def asked_and_answered(rows: list[tuple[float, ...]], swaps: tuple[bool, bool], kind: str = "f") -> list[bytes]:
    frames = []
    size = struct.calcsize(f">{kind}") // 2
    for row in rows:
        frames.append(checked(struct.pack(">BBHH", 3, 4, 100, size * len(row))))
        body = b"".join(ORDERS[swaps](struct.pack(f">{kind}", each)) for each in row)
        frames.append(checked(bytes((3, 4, len(body))) + body))
    return frames


def dumped(folder: Path, frames: list[bytes]) -> Path:
    path = folder / "bus.hex"
    path.write_text("".join(f"{at / 2}  {frame.hex(' ')}\n" for at, frame in enumerate(frames)))
    return path


@pytest.mark.parametrize("swaps", ORDERS)
@pytest.mark.parametrize("kind", ["f", "d"])
def test_numbers_are_found_in_their_order(tmp_path: Path, swaps: tuple[bool, bool], kind: str) -> None:
    """Each is a channel, and its words are none; what stands still beside others is one of them."""
    rows = meter(1)
    path = dumped(tmp_path, asked_and_answered(rows, swaps, kind))
    made = make_project(path, tmp_path / "made")
    size = struct.calcsize(kind) // 2
    assert made.channels == tuple(f"unit 3 input {100 + size * k} to {99 + size * (k + 1)}" for k in range(4))
    source = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8")).sources["capture"]
    assert {(each.register.word_swap, each.register.byte_swap) for each in source.registers} == {swaps}
    columns = read_capture(path, source).columns
    for name, wanted in zip(made.channels, zip(*rows, strict=True), strict=True):
        assert columns[name].x.tolist() == pytest.approx(wanted, rel=1e-6)


def test_they_are_found_in_a_trace_of_the_line(tmp_path: Path) -> None:
    line: Edges = uart(asked_and_answered(meter(2, 30), (True, False)), 9600).edges()
    path = tmp_path / "bus.vcd"
    path.write_text(vcd_text({"a": line}, 1e-6, "bench"))
    made = make_project(path, tmp_path / "made")
    assert made.channels == tuple(f"unit 3 input {100 + 2 * k} to {101 + 2 * k}" for k in range(4))


def test_words_that_are_none_stay_words(tmp_path: Path) -> None:
    """Tenths of volts and hundredths of hertz, and a power about where exponents are."""
    r = random.Random(3)
    frames = []
    for _ in range(60):
        frames.append(checked(struct.pack(">BBHH", 3, 3, 0, 4)))
        words = (2300 + r.randint(-5, 5), 5000 + r.randint(-2, 2), 16_400 + r.randint(-90, 90), r.randint(0, 900))
        frames.append(checked(bytes((3, 3, 8)) + struct.pack(">4H", *words)))
    made = make_project(dumped(tmp_path, frames), tmp_path / "made")
    assert made.channels == tuple(f"unit 3 holding {at}" for at in range(4))


def test_what_is_no_number_and_what_did_not_come_is_marked(tmp_path: Path) -> None:
    """A device that has nothing to say sends what is no number; one that does not answer, nothing."""
    rows = meter(4)
    rows[7] = (math.nan, *rows[7][1:])
    frames = asked_and_answered(rows, (False, False))
    del frames[2 * 9 + 1]
    path = dumped(tmp_path, frames)
    made = make_project(path, tmp_path / "made")
    source = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8")).sources["capture"]
    columns = read_capture(path, source).columns
    volts, amperes = (columns[name] for name in made.channels[:2])
    assert [at for at, usable in enumerate(volts.usable) if not usable] == [7, 9]
    assert [at for at, usable in enumerate(amperes.usable) if not usable] == [9]


def test_one_remark_names_each_and_a_key_takes_it_as_it_is(tmp_path: Path) -> None:
    made = make_project(dumped(tmp_path, asked_and_answered(meter(5), (True, False))), tmp_path / "made")
    desk = open_desk(made.folder)
    said = [note for note in desk.notes if "assumed" in note.text]
    assert [note.text for note in said] == [
        f'capture, {name}: type "float32" and words swapped are assumed.' for name in made.channels
    ]
    desk.state = replace(desk.state, note=desk.notes.index(said[0]))
    desk.mend()
    assert [note.text for note in desk.notes if "assumed" in note.text] == [note.text for note in said[1:]]
    desk.close()


@pytest.mark.parametrize(("written", "wrong"), [
    ("[[sources.s.registers]]\nname = \"v\"\naddress = 65535\ntype = \"float32\"",
     "sources.s.registers[0].address = 65535; its 2 registers must end by 65535."),
    ("[[sources.s.registers]]\nname = \"v\"\naddress = 0\ntable = \"coil\"",
     'sources.s.registers[0].table = "coil"; it must be one of "holding", "input".'),
    ("[[sources.s.registers]]\nname = \"v\"\naddress = 0\n[[sources.s.registers]]\nname = \"v\"\naddress = 2",
     'sources.s.registers[1].name = "v"; another one here has this name.'),
])  # fmt: skip
def test_what_cannot_be_is_said_with_its_place(written: str, wrong: str) -> None:
    text = (
        'lesart = 1\nname = "n"\n[sources.s]\ncapture = "c.hex"\nformat = "hex"\n[sources.s.decode]\n'
        f'messages = "Modbus RTU"\n{written}\n'
        '[channels.v]\nsource = "s"\ncolumn = "v"\nraw_unit = "1"\nunit = "1"\nlowest = "0"\nhighest = "1"\n'
    )
    with pytest.raises(ProjectError) as caught:
        check_project(text)
    assert [str(problem).partition(": ")[2] or str(problem) for problem in caught.value.problems] == [wrong]


def test_registers_want_messages_of_a_bus() -> None:
    text = (
        'lesart = 1\nname = "n"\n[sources.s]\ncapture = "c.hex"\nformat = "hex"\n'
        '[[sources.s.registers]]\nname = "v"\naddress = 0\n'
        '[channels.v]\nsource = "s"\ncolumn = "v"\nraw_unit = "1"\nunit = "1"\nlowest = "0"\nhighest = "1"\n'
    )
    with pytest.raises(ProjectError, match="registers come in messages of a field bus; set messages in its decode"):
        check_project(text)
