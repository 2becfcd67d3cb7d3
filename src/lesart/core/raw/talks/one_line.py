"""Talks of one line: serial bytes, bits by length, a bus of one wire, infrared codes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.quantity import counted, counted_of, plain_number
from lesart.core.raw.bus_bytes import LEAST_REST, LONGEST_LAMP_BIT_S
from lesart.core.raw.decode.infrared import INFRARED
from lesart.core.raw.decode.lengths import BY_LENGTH
from lesart.core.raw.decode.one_wire import ONE_WIRE
from lesart.core.raw.decode.record import DecoderKind
from lesart.core.raw.decode.uart import UART, found_baud
from lesart.core.raw.edges import HIGH, LOW
from lesart.core.raw.lines.spoken import messages_in, share_of_letters
from lesart.core.raw.messages.checksums import FrameCheck
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.raw.talks.seen_line import SeenLine
from lesart.core.raw.talks.talk import Talk, is_called

FEWEST_EDGES = 8
MANY = 16
EVEN = 0.2
"""Of the usual time between two bits: further off, it is a different one."""
LAMPS = (24, 32)
"""Bits of a lamp of three colours, and of four, on a string where each lamp passes on the bits after its own."""
OFF = 0.22
"""Of a bit: a level whose length is this far from whole bits is not of a serial line."""
_FORMATS = ((8, "none"), (8, "even"), (8, "odd"), (7, "even"), (7, "odd"), (7, "none"))
"""Data bits and parity, the usual ones first."""
_SUM = FrameCheck("sum")


def _usual(kind: DecoderKind) -> dict[str, Any]:
    """The default parameters of a decoder, in SI."""
    from lesart.core.parameters import read_table

    return read_table(kind.parameters, {}, kind.name)[0]


def look_at_serial(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Serial bytes: levels that last whole bits, and words with their stop bits in place."""
    for line in lines.values():
        if len(line) < FEWEST_EDGES:
            continue
        best = max(_serial(line), key=lambda talk: talk.sure, default=None)
        if best is not None:
            yield best


def _serial(line: SeenLine) -> Iterator[Talk]:
    idle_low = line.rests_at == LOW
    edges = line.head.inverted() if idle_low else line.head
    baud = found_baud(edges)
    if baud <= 0:
        return
    length = line.pulses * baud
    within = length[length < 11]
    if len(within) < FEWEST_EDGES - 1 or len(set(np.rint(within).astype(int).tolist())) < 2:
        return  # pulses that are all alike are a clock, or a rate
    if all(float(np.ptp(part)) < 0.5 for part in (length[::2], length[1::2])):
        return  # the same pulse over and over
    for level in (length[::2], length[1::2]):
        short = level[level < 11]
        if len(short) >= MANY and float(np.ptp(np.percentile(short, [5, 95]))) < 0.5:
            return  # a clock in bursts, or a strobe, glitches aside: of words both levels vary
    whole = float(np.mean(np.abs(within - np.maximum(np.rint(within), 1.0)) < OFF))
    if whole < 0.8 or _has_one_period(line):
        return
    values = _usual(UART) | {"baud": round(baud), "shortest": 0.0}
    for rank, (data, parity) in enumerate(_FORMATS):
        frames = UART.decode({"line": edges}, values | {"data": data, "parity": parity}).frames or ()
        count = sum(len(frame.data) for frame in frames)
        if not count:
            continue
        wrong = sum(bool(frame.mark) for frame in frames)
        good = 1.0 - wrong / len(frames)
        words = b"".join(frame.data for frame in frames)
        if (data, parity) == (8, "none") and _has_parity(words):
            continue  # the eighth bit is the parity of the other seven
        is_text = share_of_letters(words)
        sure = whole * good * min(1.0, 0.6 + count / 40) * (0.9 + 0.1 * max(is_text, is_called(line.name, "line")))
        rate = f"{baud:.0f}"
        told: list[tuple[str, Any]] = [("baud", round(baud))]
        told += [("data", data)] if data != 8 else []
        told += [("parity", parity)] if parity != "none" else []
        told += [("idle", "low")] if idle_low else []
        letter, right = parity[0].upper(), len(frames) - wrong
        why = (
            f"levels last whole bits of {rate} baud, and {counted_of(right, len(frames), 'run')} of words "
            f"{'is' if right == 1 else 'are'} right as {data}{letter}1" + (", mostly letters" if is_text > 0.9 else "")
        )
        yield Talk(
            "serial bytes",
            (("line", line.name),),
            min(sure, 0.99) * (1 - 0.01 * rank),
            why,
            tuple(told),
            float(len(line)),
            messages=messages_in(frames) if is_text > 0.9 or len(words) > 7 else "none",
        )


def _has_one_period(line: SeenLine) -> bool:
    """True where pulses of more than one width begin at even times.

    Words of a serial line do not; bits by length may.
    """
    if min(len(line.lasting(HIGH)), len(line.rises)) < MANY or _two_lengths(line.lasting(HIGH)) is None:
        return False
    steps = np.diff(line.rises)
    usual = float(np.median(steps))
    within = steps[steps < 3 * usual]
    return float(np.mean(np.abs(within - usual) < EVEN * usual)) > 0.95


def _has_parity(words: bytes) -> bool:
    """True where the highest bit of each word is the even or odd parity of the others. In plain text it is 0."""
    if len(words) < 16 or not any(word & 0x80 for word in words):
        return False
    parities = {(word >> 7) ^ (bin(word & 0x7F).count("1") & 1) for word in words}
    return len(parities) == 1


def look_at_lengths(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Bits by length: frames of pulses of two lengths after a start longer than any bit."""
    for line in lines.values():
        if len(line) >= 2 * 16:
            yield from _by_length(line)
            yield from _of_lamps(line)


def _of_lamps(line: SeenLine) -> Iterator[Talk]:
    """A long chain of lamps, whose first transmission is all that the head of the line has."""
    split, edges = _two_lengths(line.lasting(HIGH)), line.edges
    if split is None or len(line.head) == len(edges) or not _has_one_period(line):
        return
    rises = edges.t[edges.level == HIGH]
    steps = np.diff(rises)
    bit_s = float(np.median(steps))
    rests = steps[steps > LEAST_REST * bit_s]
    if bit_s > LONGEST_LAMP_BIT_S or not len(rests) or _start_of(line.lasting(LOW)) is not None:
        return
    counts = np.diff(np.concatenate(([0], np.flatnonzero(steps > LEAST_REST * bit_s) + 1, [len(rises)])))
    bits = int(counts.max())
    lamp = next((size for size in LAMPS if bits % size == 0), 0)
    if not lamp:
        return
    whole = int(np.count_nonzero(counts == bits))
    start = float(np.sqrt(bit_s * float(rests.min())))
    why = (
        f"{counted_of(whole, len(counts), 'frame')} {'has' if whole == 1 else 'have'} {bits} bits of "
        f"{plain_number(bit_s * 1e6, 3)} µs: {counted(bits // lamp, 'lamp')} of {lamp} bits"
    )
    told = (("bits", bits), ("start", f"{start * 1e6:.4g} µs"), ("skip", 0))
    lengths = (("threshold", f"{split[0] * 1e6:.4g} µs"), ("longest", f"{split[1] * 1e6:.4g} µs"))
    sure = 0.95 * (0.6 + 0.4 * whole / len(counts))
    yield Talk(
        BY_LENGTH.name, (("line", line.name),), sure, why, (*told, *lengths), float(len(line)), fields=_colours(lamp)
    )


def _by_length(line: SeenLine) -> Iterator[Talk]:
    for level, name in ((HIGH, "high"), (LOW, "low")):
        active, other = line.lasting(level), line.lasting(1 - level)
        start = _start_of(other)
        split = _two_lengths(active)
        if start is None or split is None:
            continue
        threshold, longest = split
        # A bit's pulse is short of the start; the times between bits are alike, or those from bit to bit.
        between = other[other < start]
        if len(between) < 8 or float(np.percentile(between, 95)) > 2.5 * float(np.median(between)):
            continue
        even = _has_one_period(line)
        told: dict[str, Any] = {"level": name, "start": start, "threshold": threshold, "longest": longest}
        counts = _counts(line, level, start)
        if not len(counts):
            continue
        usual = int(np.median(counts[counts > 2])) if (counts > 2).any() else 0
        skip, bits = (2, usual - 2) if usual in (42, 43) else (1, usual - 1) if usual in (41, 33, 25) else (0, usual)
        if usual in (42, 43):
            bits = 40
        if bits < 8:
            continue
        values = _usual(BY_LENGTH) | told | {"bits": bits, "skip": skip, "shortest": 0.0}
        frames = BY_LENGTH.decode({"line": line.head}, values).frames or ()
        whole = [frame for frame in frames if not frame.mark]
        if not whole:
            continue
        right = sum(not _SUM.wrong(frame.data) for frame in whole) / len(whole) if bits == 40 else 0.0
        check = "sum" if right > 0.5 else "none"
        alike = len(whole) / len(frames)
        lamp = next((size for size in LAMPS if even and not skip and bits % size == 0), 0)
        surest = 0.9 + 0.09 * right if check == "sum" else 0.95 if lamp else 0.8 if even else 0.62
        sure = surest * (0.6 + 0.4 * alike)
        why = (
            f"{counted_of(len(whole), len(frames), 'frame')} behind a start {'has' if len(whole) == 1 else 'have'} "
            f"{bits} bits, short or long about {plain_number(threshold * 1e6, 3)} µs"
            + (f", and the sum is right in {round(right * len(whole))}" if check == "sum" else "")
            + (f": {counted(bits // lamp, 'lamp')} of {lamp} bits" if lamp else "")
        )
        settings: list[tuple[str, Any]] = [("level", name)] if level == LOW else []
        settings += [("bits", bits)] if bits != 40 else []
        settings += [("start", f"{start * 1e6:.4g} µs"), ("skip", skip), ("threshold", f"{threshold * 1e6:.4g} µs")]
        settings.append(("longest", f"{longest * 1e6:.4g} µs"))
        fields = _halves(whole) if check == "sum" else _colours(lamp) if lamp else ()
        yield Talk(
            "bits by length",
            (("line", line.name),),
            min(sure, 0.99),
            why,
            tuple(settings),
            float(len(line)),
            check,
            fields=fields,
        )


def _halves(frames: list[ByteFrame]) -> tuple[Mapping[str, Any], ...]:
    """Two values before the checksum: each in tenths over two bytes, or integer and tenths where the second bytes are
    never above nine."""
    data = np.array([list(frame.data[:4]) for frame in frames])
    if bool((data[:, [1, 3]] <= 9).all()) and bool((data[:, [0, 2]] > 0).any()):
        whole: dict[str, Any] = {"bits": 16, "tenths": True, "assumed": "tenths"}
        return {"name": "value 1", "first_bit": 0, **whole}, {"name": "value 2", "first_bit": 16, **whole}
    tenths: dict[str, Any] = {"bits": 16, "scale": "0.1", "assumed": "scale"}
    second = {**tenths, "sign": "sign bit", "assumed": "scale, sign"}
    return {"name": "value 1", "first_bit": 0, **tenths}, {"name": "value 2", "first_bit": 16, **second}


def _colours(bits: int) -> tuple[Mapping[str, Any], ...]:
    """The bytes of the first lamp; which colour each is differs from make to make."""
    return tuple({"name": f"byte {1 + place // 8}", "first_bit": place, "bits": 8} for place in range(0, bits, 8))


def _start_of(lasts: Floats) -> float | None:
    """A limit between the times of bits and that of a start: the widest step among sorted times, at least threefold."""
    if len(lasts) < 8:
        return None
    some = np.sort(lasts)
    ratio = some[1:] / np.maximum(some[:-1], 1e-12)
    # The pauses between readings are rarer still; the start is the first wide step after the usual times.
    wide = np.flatnonzero((ratio > 3) & (np.arange(1, len(some)) >= len(some) * 0.6))
    return float(np.sqrt(some[wide[0]] * some[wide[0] + 1])) if len(wide) else None


def _two_lengths(lasts: Floats) -> tuple[float, float] | None:
    """The limit between short and long pulses, and one longer than any; None where there are not two lengths."""
    if len(lasts) < 16:
        return None
    usual = float(np.median(lasts))
    some = np.sort(lasts[(lasts > usual / 8) & (lasts < usual * 8)])
    if len(some) < FEWEST_EDGES:
        return None
    ratio = some[1:] / some[:-1]
    inner = slice(max(1, len(some) // 50), len(some) - max(1, len(some) // 50))
    place = int(np.argmax(ratio[inner])) + inner.start
    if ratio[place] < 1.3:
        return None
    short, long = some[: place + 1], some[place + 1 :]
    near = [float(np.mean(np.abs(part - np.median(part)) < 0.35 * np.median(part))) for part in (short, long)]
    if min(near) < 0.8 or min(len(short), len(long)) < 0.03 * len(some):
        return None
    return float(np.sqrt(short[-1] * long[0])), float(2.2 * np.median(long))


def _counts(line: SeenLine, level: int, start: float) -> np.ndarray:
    """Number of pulses between two starts."""
    head = line.head
    places = np.flatnonzero(head.level[:-1] == level)
    before = np.concatenate(([head.start_s], head.t))[places]
    begins = np.flatnonzero(head.t[places] - before >= start)
    return np.diff(np.append(begins, len(places))) if len(begins) else np.zeros(0, np.int64)


def look_at_one_wire(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """The one-wire bus: lows of half a millisecond with a presence pulse, then slots of two lengths."""
    for line in lines.values():
        lows = line.lasting(LOW)
        if len(lows) < 10 or line.rests_at != HIGH:
            continue
        resets = (lows > 400e-6) & (lows < 1.2e-3)
        slots = (lows < 16e-6) | ((lows > 45e-6) & (lows < 300e-6))
        share = float(np.mean(resets | slots))
        if not resets.any() or share < 0.95:
            continue
        frames = ONE_WIRE.decode({"line": line.head}, _usual(ONE_WIRE)).frames or ()
        there = [frame for frame in frames if frame.says == "presence"]
        whole = [frame for frame in there if frame.data and not frame.mark]
        if not there:
            continue
        sure = share * (0.7 + 0.28 * len(whole) / len(there))
        of_all, are = counted_of(len(there), len(frames), "reset"), "is" if len(there) == 1 else "are"
        why = f"{of_all} {are} answered, and {len(whole)} {'has' if len(whole) == 1 else 'have'} whole bytes after it"
        yield Talk("one-wire bus", (("line", line.name),), min(sure, 0.99), why, weight=float(len(line)))


def look_at_infrared(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Infrared codes: a mark of several milliseconds, then 32 bits by distance."""
    for line in lines.values():
        if len(line) < 2 * 34:
            continue
        light = "low" if line.rests_at == HIGH else "high"
        frames = INFRARED.decode({"line": line.head}, _usual(INFRARED) | {"light": light}).frames or ()
        codes = [frame for frame in frames if frame.says == "code" and not frame.mark]
        if not codes or len(codes) < 0.4 * len(frames):
            continue
        mirrored = sum(frame.data[2] ^ frame.data[3] == 0xFF for frame in codes) / len(codes)
        sure = 0.75 + 0.24 * mirrored
        why = f"{counted(len(codes), 'code')} of 32 bits by distance" + (
            ", the last byte the turned one before it" if mirrored > 0.5 else ""
        )
        told = (("light", "high"),) if light == "high" else ()
        yield Talk("infrared by distance", (("line", line.name),), sure, why, told, float(len(line)))
