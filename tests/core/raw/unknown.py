"""Traces of which nobody says what they are, by senders that know nothing of who looks at them."""

from __future__ import annotations

import random
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.pace.edge_writer import evenly, parallel, scanned
from lesart.core.pace.edge_writer import four_wire as written_four
from lesart.core.raw.edges import Edges, edges_of
from tests.core.raw.traces import Line, TwoLines, TwoWire, by_length, four_wire, infrared, one_wire, quadrature, uart


@dataclass(frozen=True)
class Unknown:
    """``lines`` by role, and what they talk; ``values`` that must be found, and what may be said of it, if known."""

    kind: str
    lines: Mapping[str, Edges]
    values: Mapping[str, object]
    says: tuple[str, ...] = ()


def _all(count: int, noun: str) -> str:
    """``all 3 frames``, ``the only frame``."""
    return f"all {count} {noun}s" if count > 1 else f"the only {noun}"


def _bytes(dice: random.Random, count: int) -> bytes:
    return bytes(dice.randrange(256) for _ in range(count))


def two_wire(dice: random.Random) -> Unknown:
    """A sensor whose registers are read, a clock stretched now and then, a device that is not there."""
    bus = TwoWire(bit_s=dice.choice([2.5e-6, 10e-6]))
    address = dice.randrange(0x08, 0x78)
    count = dice.randrange(4, 30)
    for _ in range(count):
        bus.start().byte(address << 1).byte(0xF7).start().byte(address << 1 | 1)
        for byte in _bytes(dice, 5):
            bus.byte(byte, held=dice.choice([0, 0, 0, 12]))
        bus.byte(dice.randrange(256), acknowledged=False).stop()
    absent = dice.random() < 0.3
    if absent:
        bus.start().byte(0x50 << 1, acknowledged=False).stop()
    asked = ", ".join(f"0x{each:02X}" for each in sorted({address, *([0x50] if absent else [])}))
    says = f"{_all(2 * count + absent, 'transfer')} have whole bytes and {2 * count} an answer, at {asked}"
    return Unknown("two-wire bus", bus.lines, {}, (says,))


def digit_driver(dice: random.Random) -> Unknown:
    bus = TwoLines(bit_s=20e-6)
    count = dice.randrange(3, 20)
    for _ in range(count):
        bus.start().byte(0x40).stop()
        bus.start().byte(0xC0)
        for _ in range(4):
            bus.byte(dice.choice([0x3F, 0x06, 0x5B, 0x4F, 0x66]))
        bus.stop()
        bus.start().byte(0x88 + dice.randrange(8)).stop()
    says = f"{_all(3 * count, 'transfer')} begin with a command of such a driver"
    return Unknown("two-line driver", bus.lines, {}, (says,))


def four(dice: random.Random, *, with_command: bool = False) -> Unknown:
    mode = dice.randrange(4)
    frames = [_bytes(dice, dice.randrange(2, 9)) for _ in range(dice.randrange(6, 40))]
    lines = dict(four_wire(frames, mode))
    if not with_command:
        del lines["command"]
    says = (
        f"100 % of {len(frames)} bursts of the clock while select is low are whole bytes, and 100 % of the changes of "
        f"data fall where mode {mode} has them"
    )
    return Unknown("four-wire serial", lines, {"mode": mode}, (says,))


def display_on_four(dice: random.Random) -> Unknown:
    """Commands and data, told by a line."""
    told, t = [], 1e-4
    for _ in range(dice.randrange(10, 40)):
        told.append((t, Transmission(_bytes(dice, 3), False)))
        told.append((t + 1e-4, Transmission(_bytes(dice, 24), True)))
        t += 1e-3
    return Unknown("four-wire serial", written_four(told, 2e6, t), {"mode": 0})


def serial(dice: random.Random) -> Unknown:
    baud = dice.choice([1200, 9600, 19200, 57600, 115200])
    text = [
        f"T={dice.uniform(-10, 40):.2f} H={dice.randrange(20, 99)}\r\n".encode() for _ in range(dice.randrange(3, 20))
    ]
    parity = dice.choice(["none", "none", "even", "odd"])
    line = uart(text, baud, parity=parity, gap_bits=dice.randrange(40, 400))
    says = (
        f"levels last whole bits of {baud} baud, and {_all(len(text), 'run')} of words are right as "
        f"8{parity[0].upper()}1, mostly letters"
    )
    told = {"baud": baud} | ({"parity": parity} if parity != "none" else {})
    return Unknown("serial bytes", {"line": line.edges()}, told, (says,))


def binary_serial(dice: random.Random) -> Unknown:
    line = uart([_bytes(dice, 8) for _ in range(12)], 19200, gap_bits=60)
    return Unknown("serial bytes", {"line": line.edges()}, {"baud": 19200})


def inverted_serial(dice: random.Random) -> Unknown:
    line = uart([b"hello, yard\n"] * 6, 9600)
    return Unknown("serial bytes", {"line": line.edges().inverted()}, {"baud": 9600, "idle": "low"})


def forty_bits(dice: random.Random) -> Unknown:
    frames = []
    for _ in range(dice.randrange(4, 30)):
        data = round(dice.uniform(30, 90) * 10).to_bytes(2, "big") + round(dice.uniform(0, 40) * 10).to_bytes(2, "big")
        frames.append(data + bytes((sum(data) & 0xFF,)))
    jitter = (dice.gauss(0, 2e-6) for _ in iter(int, 1))
    return Unknown("bits by length", {"line": by_length(frames, jitter).edges()}, {})


def one(dice: random.Random) -> Unknown:
    asked = [b"\xcc\x44", *(b"\xcc\xbe" + _bytes(dice, 9) for _ in range(dice.randrange(1, 6)))]
    line = one_wire(asked)
    says = f"{_all(len(asked), 'reset')} are answered, and {len(asked)} have whole bytes after it"
    return Unknown("one-wire bus", {"line": line.edges()}, {}, (says,))


def remote(dice: random.Random) -> Unknown:
    light = dice.choice([0, 1])
    codes = []
    for _ in range(dice.randrange(1, 5)):
        command = dice.randrange(256)
        codes.append(bytes((0x00, 0xFF, command, command ^ 0xFF)))
    line = infrared(codes, repeats=dice.randrange(2), light=light)
    says = f"{len(codes)} code{'s' * (len(codes) > 1)} of 32 bits by distance, the last byte the turned one before it"
    return Unknown("infrared by distance", {"line": line.edges()}, {"light": "high"} if light else {}, (says,))


def encoder(dice: random.Random) -> Unknown:
    way, steps = 1, []
    for _ in range(dice.randrange(80, 400)):
        way = -way if dice.random() < 0.04 else way
        steps.append(way)
    on, back = steps.count(1), steps.count(-1)
    # Which way is on, only names can say.
    ways = ((on, back), (back, on))
    says = tuple(f"{len(steps)} quarters in turn, {a} one way and {b} the other, 0 impossible" for a, b in ways)
    return Unknown("quadrature", quadrature(steps), {}, says)


def rate(dice: random.Random) -> Unknown:
    """A wheel that turns, about as fast."""
    t = np.cumsum([dice.uniform(0.09, 0.11) for _ in range(60)])
    edges = np.sort(np.concatenate((t, t + 0.02)))
    return Unknown("pulse interval", {"line": edges_of(edges, [1, 0] * len(t), 0, 0.0, float(edges[-1]) + 0.1)}, {})


def echo(dice: random.Random) -> Unknown:
    """A pulse every 60 ms whose width says how far it is."""
    line = Line(0)
    for place in range(60):
        width = 1e-3 + 9e-3 * (place % 23) / 23
        line.stay(0.06 - 1e-3).to(1).stay(width).to(0).stay(1e-3 - width if width < 1e-3 else 0)
        line.now = (place + 1) * 0.06 + width
    return Unknown("pulse width", {"line": line.edges()}, {})


def asked_echo(dice: random.Random) -> Unknown:
    """A trigger of 10 µs, an echo behind it; one in twenty gets none, from the third on."""
    trigger, answer = Line(0), Line(0)
    lost = 0
    widths = []
    for place in range(40):
        trigger.now = answer.now = 0.06 * (place + 1)
        trigger.to(1).stay(10e-6).to(0)
        if place > 2 and dice.random() < 0.05:
            lost += 1
            continue
        widths.append(round(dice.uniform(1e-3, 12e-3), 6))
        answer.stay(450e-6 + dice.uniform(0, 20e-6)).to(1).stay(widths[-1]).to(0)
    behind = f", but for {lost}" if lost else ""
    says = f"one after each pulse of trigger{behind}, {1e3 * min(widths):.3g} to {1e3 * max(widths):.3g} ms long"
    return Unknown("pulse width", {"line": answer.edges(2.5), "trigger": trigger.edges(2.5)}, {}, (says,))


def echo_on_one_pin(dice: random.Random) -> Unknown:
    line, widths = Line(0), []
    for place in range(30):
        line.now = 0.06 * (place + 1)
        line.to(1).stay(5e-6).to(0).stay(750e-6)
        widths.append(round(dice.uniform(0.2e-3, 12e-3), 6))
        line.to(1).stay(widths[-1]).to(0)
    says = f"one after each pulse of 5 µs on the same line, {1e3 * min(widths):.3g} to {1e3 * max(widths):.3g} ms long"
    return Unknown("pulse width", {"line": line.edges(2.0)}, {}, (says,))


def clocked_out(dice: random.Random) -> Unknown:
    """A converter of 24 bits that pulls its line low when it has one, and 25 to 27 clocks; data change at the rise."""
    clock, data = Line(0), Line(1)
    clocks, count = dice.choice([25, 26, 27]), dice.randrange(5, 40)
    for place in range(count):
        value = round(8000 * np.sin(place / 5) + dice.gauss(0, 40)) & 0xFFFFFF
        clock.now = data.now = 0.1 * (place + 1)
        data.to(0)
        for each in range(clocks):
            at = 0.1 * (place + 1) + 30e-6 + 2e-6 * each
            clock.now, data.now = at, at + 0.1e-6
            data.to(value >> 23 - each & 1 if each < 24 else 1)
            clock.to(1).stay(1e-6).to(0)
    says = (
        f"100 % of {count} bursts of the clock between rests of the clock have {clocks} clocks, and 100 % of the changes "
        "of data fall where mode 1 has them"
    )
    end = 0.1 * (count + 1)
    return Unknown(
        "four-wire serial", {"clock": clock.edges(end), "data": data.edges(end)}, {"mode": 1, "bits": 24}, (says,)
    )


def asked_on_four(dice: random.Random) -> Unknown:
    """A device that is asked for one of three registers at a time, and answers behind that byte."""
    mode, count = dice.randrange(4), dice.randrange(12, 40)
    asked = [bytes((dice.choice([0xE8, 0xA0, 0x8F]), 0, 0, 0, 0)) for _ in range(count)]
    answers = [b"\x00" + _bytes(dice, 4) for _ in range(count)]
    lines = dict(four_wire(answers, mode)) | {"sent": four_wire(asked, mode)["data"]}
    del lines["command"]
    says = (
        f"100 % of {count} bursts of the clock while select is low are whole bytes, and 100 % of the changes of data fall "
        f"where mode {mode} has them"
    )
    return Unknown("four-wire serial", lines, {"mode": mode}, (says,))


def lamps(dice: random.Random) -> Unknown:
    """Bits of 1.25 µs that are high for a third or for two thirds of it, 24 or 32 for each lamp."""
    line = Line(0)
    size, count, frames = dice.choice([24, 32]), dice.randrange(2, 12), dice.randrange(4, 9)
    for place in range(frames):
        line.now = 0.02 * (place + 1)
        for _ in range(size * count):
            high = dice.choice([0.4e-6, 0.8e-6])
            line.to(1).stay(high).to(0).stay(1.25e-6 - high)
    return Unknown("bits by length", {"line": line.edges(0.02 * (frames + 2))}, {"bits": size * count, "skip": 0})


def bouncing(dice: random.Random) -> Unknown:
    line = Line(1)
    for _ in range(14):
        line.stay(dice.uniform(0.4, 1.6))
        for level in (0, 1):
            for _ in range(dice.randrange(1, 4)):
                line.to(level).stay(dice.uniform(0.1e-3, 0.4e-3)).to(1 - level).stay(dice.uniform(0.1e-3, 0.3e-3))
            line.to(level).stay(dice.uniform(0.1, 0.3))
    return Unknown("pulse interval", {"line": line.edges()}, {"dated": "first edge"})


def lit_digits(dice: random.Random) -> Unknown:
    bits = [dice.choice([0x3F, 0x06, 0x5B, 0x4F, 0x66, 0x6D, 0x7D, 0x07, 0x7F, 0x6F]) for _ in range(4)]
    on_level = dice.choice([0, 1])
    digits, segments = scanned(evenly(2e-3, 0.1e-3, bits, 0.4), 4, 8, 0.4, on_level=on_level, lit_level=1 - on_level)
    names = ["a", "b", "c", "d", "e", "f", "g", "dp"]
    lines = {f"dig{place}": line for place, line in enumerate(digits, 1)} | dict(zip(names, segments, strict=True))
    return Unknown("scanned digits", lines, {"digit_on": "high" if on_level else "low"})


def letters(dice: random.Random) -> Unknown:
    told = [(0.01, Transmission(b"\x33\x32\x28\x0c\x06\x01", False))]
    for place in range(12):
        told.append((0.1 + 0.1 * place, Transmission(b"\x80", False)))
        told.append(
            (0.1 + 0.1 * place + 1e-3, Transmission(f"Hive {place}  {dice.uniform(20, 60):.2f} kg".encode(), True))
        )
    lines = parallel(told, 4, 50e-6, 1.5)
    written = sum(len(each.data) for _, each in told)
    says = f"4 lines stand still at each of {2 * written} falls of enable"
    return Unknown("parallel bus", lines, {}, (says,))


SENDERS: dict[str, Callable[[random.Random], Unknown]] = {
    "two-wire bus": two_wire,
    "driver of digits": digit_driver,
    "four wires": four,
    "display on four wires": display_on_four,
    "serial text": serial,
    "serial bytes": binary_serial,
    "serial, inverted": inverted_serial,
    "forty bits": forty_bits,
    "one wire": one,
    "infrared": remote,
    "encoder": encoder,
    "rate": rate,
    "echo": echo,
    "asked echo": asked_echo,
    "echo on one pin": echo_on_one_pin,
    "converter": clocked_out,
    "answers on four wires": asked_on_four,
    "string of lamps": lamps,
    "bouncing contact": bouncing,
    "digits in turn": lit_digits,
    "letters over four lines": letters,
}
