"""The two-wire bus: start, address, bytes with acknowledge, stop; and clock stretching.

Source: the bus standard: data changes while the clock is low; a change while it is high is a start or a stop.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from lesart.core.block import Mark
from lesart.core.parameters import Parameter
from lesart.core.quantity import counted
from lesart.core.ranked import median
from lesart.core.raw.decode.record import GLITCH, Bits, Decoded, DecoderKind
from lesart.core.raw.edges import HIGH, LOW, Edges, without_glitches
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.raw.messages.survey import Asked

CLOCK, DATA = 0, 1
ALL = "all"
LONGEST_REGISTER = 2
"""Most bytes of a register's address or of a command; longer writes are settings."""
STRETCHED = 3.0
"""The clock is stretched when it stays low this many times longer than usual."""


@dataclass
class Transfer:
    """The bits since a start."""

    t: float
    bits: list[tuple[float, int]] = field(default_factory=list)


def _decode(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    clock, removed = without_glitches(lines["clock"], values["shortest"])
    data, more = without_glitches(lines["data"], values["shortest"])
    frames: list[ByteFrame] = []
    times, ones = [], []
    written: dict[int, bytes] = {}
    for transfer, end, stopped in transfers(clock, data):
        frames += _frame(transfer, end, stopped, values, written)
        times += [moment for moment, _ in transfer.bits]
        ones += [bit for _, bit in transfer.bits]
    t = np.array(times, np.float64)
    bits = Bits(t, np.append(t[1:], t[-1:]), np.array(ones, np.uint8), np.full(len(t), np.nan))
    held, longest = _held(clock)
    found = {"times the clock was held": float(held), "longest clock low": longest}
    return Decoded(frames=tuple(frames), bits=bits, removed=removed + more, found=found)


def _held(clock: Edges) -> tuple[int, float]:
    """How often the clock was stretched, and the longest low time; outside transfers it is high."""
    low = clock.lasts[:-1][clock.level[:-1] == LOW] if len(clock) else np.zeros(0)
    if not len(low):
        return 0, 0.0
    return int((low > STRETCHED * median(low)).sum()), float(low.max())


def _events(clock: Edges, data: Edges) -> Iterator[tuple[float, int, int]]:
    """Changes of both lines in order of time; at the same time a fall of the clock comes first, its rise last."""
    both = [
        (t, 0 if level == LOW else 2, CLOCK, level)
        for t, level in zip(clock.t.tolist(), clock.level.tolist(), strict=True)
    ]
    both += [(t, 1, DATA, level) for t, level in zip(data.t.tolist(), data.level.tolist(), strict=True)]
    for t, _, line, level in sorted(both):
        yield t, line, level


def transfers(clock: Edges, data: Edges) -> Iterator[tuple[Transfer, float, bool]]:
    """Each transfer with its end, and whether a stop or a repeated start ended it."""
    level = [clock.first, data.first]
    transfer: Transfer | None = None
    last = 0.0
    for t, line, now in _events(clock, data):
        before, level[line], last = level[line], now, t
        if line == DATA and level[CLOCK] == HIGH and {before, now} == {LOW, HIGH}:
            if transfer is not None:
                # This rise of the clock brought no bit: it belonged to the stop, or to the next start.
                if transfer.bits and _clock_high_since(transfer, clock, t):
                    transfer.bits.pop()
                yield transfer, t, True
            transfer = Transfer(t) if now == LOW else None
        elif line == CLOCK and now == HIGH and before == LOW and transfer is not None:
            transfer.bits.append((t, int(level[DATA] == HIGH)))
    if transfer is not None:
        yield transfer, last, False


def _clock_high_since(transfer: Transfer, clock: Edges, t: float) -> bool:
    """True where the clock stayed high from the last bit until now."""
    rise = transfer.bits[-1][0]
    first, last = np.searchsorted(clock.t, [rise, t], side="right")
    return bool(first == last)


def _frame(
    transfer: Transfer, end: float, stopped: bool, values: Mapping[str, Any], written: dict[int, bytes]
) -> list[ByteFrame]:
    """The bytes after the address, with a description of who was asked, who acknowledged, and which register or command
    it was read from: the last short write to its address, which is kept in ``written``."""
    bits = [bit for _, bit in transfer.bits]
    if not bits:
        return []
    words = [bits[place : place + 9] for place in range(0, len(bits) - len(bits) % 9, 9)]
    if not words:
        return [
            ByteFrame(
                transfer.t, end, b"", int(Mark.MISSING), f"{counted(len(bits), 'bit')} came, and an address takes 9"
            )
        ]
    numbers = [sum(bit << (7 - place) for place, bit in enumerate(word[:8])) for word in words]
    address, reads = numbers[0] >> 1, numbers[0] & 1
    data = bytes(numbers[1:])
    behind = written.get(address, b"") if reads else b""
    asked = f"{'read' if reads else 'write'} 0x{address:02X}" + (f" after 0x{behind.hex().upper()}" if behind else "")
    if not reads and 0 < len(data) <= LONGEST_REGISTER and not words[0][8]:
        written[address] = data
    if values["address"] and int(values["address"], 0) != address:
        return []
    if values["transfers"] not in (ALL, "reads" if reads else "writes"):
        return []
    if values["after"] and int(values["after"], 0) != int.from_bytes(behind, "big"):
        return []
    wrong = ""
    if words[0][8]:
        wrong = f"no device answers at 0x{address:02X}"
    elif len(bits) % 9:
        wrong = f"{len(bits) % 9} bits are left over"
    elif not stopped:
        wrong = "it does not end in a stop"
    elif not reads and any(word[8] for word in words[1:]):
        wrong = f"byte {1 + next(place for place, word in enumerate(words[1:]) if word[8])} was not acknowledged"
    return [ByteFrame(transfer.t, end, data, int(Mark.MISSING) if wrong else 0, wrong, asked)]


def asked_in(clock: Edges, data: Edges, shortest_s: float = 0.0) -> tuple[Asked, ...]:
    """Every address that was asked in a trace, in rising order, and how often it acknowledged."""
    clock, _ = without_glitches(clock, shortest_s)
    data, _ = without_glitches(data, shortest_s)
    counts: dict[int, tuple[int, int]] = {}
    for transfer, _, _ in transfers(clock, data):
        bits = [bit for _, bit in transfer.bits[:9]]
        if len(bits) == 9:
            address = sum(bit << (6 - place) for place, bit in enumerate(bits[:7]))
            asked, answered = counts.get(address, (0, 0))
            counts[address] = asked + 1, answered + (not bits[8])
    return tuple(Asked(address, *counts[address]) for address in sorted(counts))


TWO_WIRE = DecoderKind(
    name="two-wire bus",
    title="two-wire bus (I²C)",
    says="start, address, bytes, acknowledge, stop",
    lines=("clock", "data"),
    needed=2,
    parameters=(
        Parameter(
            "address", "address", "text", "only transfers with it, like 0x76; empty: all", "", longest=6, code_bits=7
        ),
        Parameter(
            "after",
            "after",
            "text",
            "only reads after a write of it, a register or a command like 0xF7; empty: all",
            "",
            longest=8,
            code_bits=16,
        ),
        Parameter("transfers", "transfers", "choice", "that count", ALL, choices=(ALL, "reads", "writes")),
        GLITCH,
    ),
    decode=_decode,
)
