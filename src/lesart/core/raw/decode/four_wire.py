"""Four-wire serial: a clock in one of its four modes, a data line, a select line, a data/command line, and the line on
which the device receives what it answers."""

from __future__ import annotations

import itertools
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import numpy as np

from lesart.core.block import Floats, Mark, Marks
from lesart.core.parameters import Parameter
from lesart.core.quantity import counted
from lesart.core.raw.decode.record import GLITCH, Bits, Decoded, DecoderKind, seconds
from lesart.core.raw.edges import HIGH, LOW, Edges, without_glitches
from lesart.core.raw.messages.frames import ByteFrame

LONGEST_ASKED = 4
"""Most bytes of a request by which answers are told apart."""
MOST_BEHIND = 8
"""Clocks after a frame that select the next conversion, or do nothing; with more it is another frame."""


def _decode(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    cleaned, removed = {}, 0
    for name, edges in lines.items():
        cleaned[name], count = without_glitches(edges, values["shortest"])
        removed += count
    clock, data = cleaned["clock"], cleaned["data"]
    t = sampled(clock, values["mode"])
    ones = (data.level_at(t) == HIGH).astype(np.uint8)
    if "select" in cleaned:
        meant = cleaned["select"].level_at(t) == (LOW if values["selected"] == "low" else HIGH)
        t, ones = t[meant], ones[meant]
    frames = []
    command, sent = cleaned.get("command"), cleaned.get("sent")
    for first, last in _groups(t, cleaned.get("select"), values):
        for begin, end in _parts(t, first, last, command):
            frame = _frame(t[begin:end], ones[begin:end], command, values)
            if sent is not None:
                asked = _asked(t[begin:end], sent, values)
                if not asked.startswith(_bytes(values["after"])):
                    continue
                frame = replace(frame, says=f"after 0x{asked.hex().upper()}")
            frames.append(frame)
    bits = Bits(t, np.append(t[1:], t[-1:]), ones, np.full(len(t), np.nan))
    return Decoded(frames=tuple(frames), bits=bits, removed=removed)


def sampled(clock: Edges, mode: int) -> Floats:
    """Times in seconds, shape (reads,): modes 0 and 3 sample on the rising edge of the clock, 1 and 2 on the falling
    one."""
    wanted, other = (HIGH, LOW) if mode in (0, 3) else (LOW, HIGH)
    before = np.concatenate(([clock.first], clock.level[:-1])) if len(clock) else clock.level
    moments: Floats = clock.t[(clock.level == wanted) & (before == other)]
    return moments


def _groups(t: Floats, select: Edges | None, values: Mapping[str, Any]) -> list[tuple[int, int]]:
    """Bits between two changes of the select line are one frame; without one, pauses of the clock separate frames."""
    if not len(t):
        return []
    if select is not None:
        changes = np.searchsorted(select.t, t, side="right")
        borders = np.flatnonzero(np.diff(changes)) + 1
    else:
        borders = np.flatnonzero(np.diff(t) > values["rest"]) + 1
    edges = [0, *borders.tolist(), len(t)]
    return list(itertools.pairwise(edges))


def _parts(t: Floats, first: int, last: int, command: Edges | None) -> list[tuple[int, int]]:
    """Parts of a frame's bits by the command line at the end of each byte: where that changes, a part ends."""
    if command is None or last - first < 16:
        return [(first, last)]
    says = command.level_at(t[first + 7 : last : 8])
    borders = first + 8 * (np.flatnonzero(np.diff(says.astype(np.int8))) + 1)
    return list(itertools.pairwise([first, *borders.tolist(), last]))


def _frame(t: Floats, ones: Marks, command: Edges | None, values: Mapping[str, Any]) -> ByteFrame:
    """Words of eight bits; the command line at the end of the first one says what it is.

    A frame with its own number of bits leaves out those after it, and its last byte is padded with zeros.
    """
    says = ""
    if command is not None:
        says = "data" if int(command.level_at(t[7:8] if len(t) > 7 else t[-1:])[0]) == HIGH else "command"
    wrong, wanted = "", values["bits"]
    left = len(ones) % 8
    if not wanted:
        wrong = f"{counted(left, 'bit')} {'is' if left == 1 else 'are'} left over" if left else ""
    elif len(ones) < wanted:
        wrong = f"{len(ones)} of {wanted} bits came"
    elif len(ones) > wanted + MOST_BEHIND:
        wrong = f"{counted(len(ones), 'bit')} came, and {wanted} are a frame"
    else:
        ones, left = np.concatenate((ones[:wanted], np.zeros(-wanted % 8, np.uint8))), 0
    whole = ones[: len(ones) - left].reshape(-1, 8)
    if values["first"] == "lowest":
        whole = whole[:, ::-1]
    data = np.packbits(whole, axis=1).tobytes()
    return ByteFrame(float(t[0]), float(t[-1]), data, int(Mark.MISSING) if wrong else 0, wrong, says)


def _asked(t: Floats, sent: Edges, values: Mapping[str, Any]) -> bytes:
    """The first bytes sent to the device while it answers."""
    ones = (sent.level_at(t[: 8 * LONGEST_ASKED]) == HIGH).astype(np.uint8)
    whole = ones[: len(ones) - len(ones) % 8].reshape(-1, 8)
    return np.packbits(whole[:, ::-1] if values["first"] == "lowest" else whole, axis=1).tobytes()


def _bytes(after: str) -> bytes:
    """The bytes of a written command: 0xE8 is one, 0x0180 are two."""
    if not after:
        return b""
    digits = after[2:].replace("_", "") if after[:2].lower() == "0x" else f"{int(after, 0):X}"
    return bytes.fromhex(digits if len(digits) % 2 == 0 else f"0{digits}")


FOUR_WIRE = DecoderKind(
    name="four-wire serial",
    title="four-wire serial (SPI)",
    says="a clock, a data line, and who is selected",
    lines=("clock", "data", "select", "command", "sent"),
    needed=2,
    parameters=(
        Parameter(
            "mode",
            "clock mode",
            "integer",
            "0 and 3 read at the rise of the clock, 1 and 2 at its fall",
            0,
            lowest=0,
            highest=3,
        ),
        Parameter("first", "first bit", "choice", "that is sent", "highest", choices=("highest", "lowest")),
        Parameter(
            "selected",
            "selected",
            "choice",
            "level of the select line while a frame lasts",
            "low",
            choices=("low", "high"),
        ),
        Parameter(
            "bits",
            "bits",
            "integer",
            "of a frame that is not whole bytes; clocks after them, which some converters need, are left out; "
            "0: whole bytes",
            0,
            lowest=0,
            highest=1024,
        ),
        Parameter(
            "after",
            "after",
            "text",
            "only answers to it, a register or a command like 0xE8, on the line that is sent; empty: all",
            "",
            longest=10,
            code_bits=8 * LONGEST_ASKED,
        ),
        seconds("rest", "rest", "of the clock that separates two frames, where there is no select line", "10 µs"),
        GLITCH,
    ),
    decode=_decode,
)
