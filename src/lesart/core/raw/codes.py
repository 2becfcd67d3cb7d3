"""What raw codes say about the sensor: their common step, and values that mean it failed."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.notes import DOUBT, REMARK, Key, Mend, Note
from lesart.core.quantity import clock, counted, counted_of, format_quantity, plain_number
from lesart.core.ranked import distinct, median
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.raw.no_reading import no_reading_text
from lesart.core.step import Step
from lesart.core.units import Unit

FEWEST_RISES = 10
MOST_FALLS, LOW = 0.05, 0.2
"""The most falls of a running counter, as a share of its rises, for wraps and restarts; and how low they lead."""
BITS, DIGITS = (8, 16, 24, 32), (3, 4, 5, 6, 7, 8)
ENDS = tuple(sorted([*(2.0**each for each in BITS), *(10.0**each for each in DIGITS)]))
"""Where counters wrap to 0: registers, and meters with a number of digits."""
NEAR = 3.0
"""Times the largest rise: how near to its end, and to 0, a counter is before and after it wraps."""
FEWEST_CODES = 8
"""From this many distinct codes a common step is not chance."""
REGISTERS = (16, 24, 32)
"""Widths of registers that hold signed numbers, bits."""
OFTEN, SELDOM = 3, 0.2
"""A value that means a failure comes at least this often, and is at most this share of all."""
JUST_BELOW = 31 / 32
"""Share of a register's range taken as small negative numbers."""
WIDTHS = (8, 10, 12, 14, 16, 18, 20, 24, 32)
"""Usual widths of registers and converters, bits."""
APART = 1.0
"""A code further from all others than this many times their span is not a reading of the same thing."""
FEWEST_OTHERS = 8
"""With fewer readings nothing can be called far from them."""
STOOD, LIVELY = 30, 1.0
"""This many equal samples in a row are not chance where the noise is more than this many counts."""
FROZEN = 100
"""A capture of this many samples that are all alike is frozen."""
_OFF, _BEGINS = "what is usual for a sensor that does not answer", "what many sensors hold at power-up"
FAILED_TEXTS = {
    "°C": {-127.0: _OFF, 85.0: _BEGINS},
    "°F": {-196.6: _OFF, 185.0: _BEGINS},
    "1": {-127.0: "as from thermometers that do not answer", 85.0: "as many thermometers hold at power-up"},
}
"""Readings that mean a failure, by unit."""
_NINES = [
    f"{'9' * digits}{f'.{behind}' if behind else ''}" for digits in range(2, 7) for behind in ("", "9", "99", "999")
]
NINES = frozenset(-float(each) for each in _NINES) | {float(each) for each in _NINES if len(each.partition(".")[0]) > 2}
"""Values that programs write where they have no reading; 99 and 99.9 are readings too."""
_ENDS = (2**15 - 1, -(2**15), 2**16 - 1, 2**31 - 1, -(2**31), 2**32 - 1)
REGISTER_ENDS = frozenset(end / 10**decimals for end in _ENDS for decimals in range(4))
"""All bits of a register, or its sign bit alone, with a decimal point put in: 6553.5 and -327.68."""


def code_step(x: Floats) -> int:
    """The common step of all counts of a column, shape (n,): 16 where 12 bits are left-justified in 16. 1 where there
    is none, where they are not whole, or too few to tell."""
    if not len(x) or not np.all(x == np.rint(x)) or np.abs(x).max() >= 2.0**53:
        return 1
    codes = distinct(x)
    if len(codes) < FEWEST_CODES:
        return 1
    return max(int(np.gcd.reduce(np.diff(codes).astype(np.int64))), 1)


def is_counter(x: Floats) -> bool:
    """True where it only rises, but for a few falls to its start, as a running counter does.

    ``x`` are good values in order.
    """
    steps = np.diff(x)
    rises, falls = int((steps > 0).sum()), np.flatnonzero(steps < 0)
    if rises < FEWEST_RISES or len(falls) > max(MOST_FALLS * rises, 1):
        return False
    return bool((x[falls + 1] < LOW * x[falls]).all())


def full_at(x: Floats) -> float:
    """Where a running counter wraps to 0, by its falls; 0 where there are none, or they are restarts.

    ``x`` as above.
    """
    steps = np.diff(x)
    falls = np.flatnonzero(steps < 0)
    if not len(falls):
        return 0.0
    far = NEAR * float(steps[steps > 0].max(initial=0.0))
    last, first = x[falls], x[falls + 1]
    ends = (each for each in ENDS if float(x.max()) < each)
    return next((each for each in ends if bool(((each - last <= far) & (first <= far)).all())), 0.0)


@dataclass(frozen=True)
class Coded:
    """A channel as its raw values are inspected.

    ``bits`` is the width that its law or field states, 0 for none; ``key`` says where, None for nowhere. ``no_reading``
    is set at ``none_key``; None where it cannot be set.
    """

    name: str
    raw: Block
    unit: Unit
    is_counts: bool
    bits: int = 0
    key: Key | None = None
    no_reading: tuple[float, ...] = ()
    none_key: Key | None = None


def inspect_codes(seen: Coded) -> list[Note]:
    """Notes on raw values that a sensor gives when it fails, and on codes that never come."""
    good = seen.raw.x[seen.raw.usable]
    if not len(good):
        return []
    return [*_failed(seen, good), *_signless(seen, good), *_stood(seen), *_steps(seen, good)]


def stand_ins(x: Floats, unit: Unit) -> dict[float, str]:
    """Values, of shape (n,) in ``unit``, that programs and sensors give where they have no reading, and why they are
    taken for that: each is one of the usual ones, rare, and far from all others. Among counts only those that no
    register gives."""
    words = _words_of(unit)
    if unit.symbol == "ct":
        words = {value: means for value, means in words.items() if value < 0 and value in NINES}
    found, left = _those_apart(words, x)
    return dict(found) if len(left) >= max(FEWEST_OTHERS, len(x) / 2) else {}


def _failed(seen: Coded, good: Floats) -> list[Note]:
    """Values that are all bits of a register, a usual word for a failure, or the same again and again, and far from all
    others; each is left out of the others."""
    found, left = _those_apart(_words(seen), good)
    while (code := _repeated(left)) is not None:
        found.append((code, "exactly the same each time, like an error code"))
        left = left[left != code]
    return [_failed_note(seen, good, code, means) for code, means in found]


def _those_apart(words: dict[float, str], good: Floats) -> tuple[list[tuple[float, str]], Floats]:
    """Those of ``words`` that are far from all others, with their meanings; and the remaining values."""
    left, words = good, dict(words)
    found: list[tuple[float, str]] = []
    while len(left):
        # Only the least or the greatest value can stand apart.
        ends = (float(left.min()), float(left.max()))
        code = next((each for each in ends if each in words and _is_failure(each, left)), None)
        if code is None:
            break
        found.append((code, words.pop(code)))
        left = left[left != code]
    return found, left


def _is_failure(code: float, left: Floats) -> bool:
    """True where it is far from the others, or there are no others."""
    rest = left[left != code]
    return _is_apart(code, rest) if len(rest) else len(left) >= FROZEN


def _repeated(left: Floats) -> float | None:
    """The least or greatest value where it comes again and again, but rarely, and far from others that vary."""
    for code in (float(left.min()), float(left.max())) if len(left) else ():
        rest = left[left != code]
        times = len(left) - len(rest)
        if OFTEN <= times <= SELDOM * len(left) and len(distinct(rest)) >= FEWEST_CODES and _is_apart(code, rest):
            return code
    return None


def _failed_note(seen: Coded, good: Floats, code: float, means: str) -> Note:
    same = good == code
    first = float(seen.raw.t[seen.raw.usable][np.flatnonzero(same)[0]])
    count = int(same.sum())
    value = format_quantity(code, seen.unit, 10)
    far = "far from all others, " if count < len(good) else ""
    return Note(
        DOUBT,
        Step.RAW,
        seen.name,
        f"{seen.name}: {counted_of(count, len(good), 'raw value', percent=True)} "
        f"{'is' if count == 1 else 'are'} {value}, {far}first at {clock(first)}: {means}.",
        figure=float(count),
        unit="samples",
        limit=0.0,
        remedy="check the wire in 1 Wire, or say that it stands for no reading",
        mend=(Mend(seen.none_key, no_reading_text((*seen.no_reading, code))),) if seen.none_key is not None else (),
        m_does="marks it" if count == 1 else "marks them",
        place=seen.none_key,
    )


def _all_negative(seen: Coded, bits: int, good: Floats) -> Note:
    """It may be a large number as well, where its width is not stated."""
    end = 2.0**bits
    return Note(
        REMARK,
        Step.RAW,
        seen.name,
        f"{seen.name}: all raw values lie just below {format_quantity(end, seen.unit, 10)}, where negative numbers of "
        f"{bits} bits are when they are read without their sign.",
        figure=float(good.min()),
        unit=seen.unit.symbol,
        limit=end,
        remedy=f"if they are, begin 3 Law with formula {_with_sign(bits)}",
        place=seen.key,
    )


def _with_sign(bits: int) -> str:
    return f"x if x < {2 ** (bits - 1)} else x - {2**bits}"


def _signless(seen: Coded, good: Floats) -> list[Note]:
    """Negative numbers of a register that were read as unsigned: all lie near its two ends, none between."""
    plain = seen.is_counts or seen.unit.symbol == "1"
    if not plain or good.min() < 0 or not np.all(good == np.rint(good)):
        return []
    bits = seen.bits or next((each for each in REGISTERS if good.max() < 2**each), 0)
    half = 2.0 ** (bits - 1)
    below = good >= half
    if not seen.bits and bits in REGISTERS and good.min() >= JUST_BELOW * 2.0**bits and len(distinct(good)) >= 3:
        return [_all_negative(seen, bits, good)]
    if bits not in REGISTERS or np.any(np.abs(good - half) < half / 2):
        return []
    if min(len(distinct(good[below])), len(distinct(good[~below]))) < FEWEST_CODES:
        return []
    count = int(below.sum())
    may_count = is_counter(good) and full_at(good) == 2.0**bits
    or_counter = ", or a running counter that came round" if may_count else ""
    counts = f"; of a counter type a {bits} bit counter there" if may_count else ""
    return [
        Note(
            DOUBT,
            Step.RAW,
            seen.name,
            f"{seen.name}: {counted_of(count, len(good), 'raw value')} lie above "
            f"{format_quantity(half, seen.unit, 10)} and the others near 0, none between: "
            f"negative numbers of {bits} bits, read without their sign{or_counter}.",
            figure=float(count),
            unit="samples",
            limit=0.0,
            remedy=f"read them as signed, or begin 3 Law with formula {_with_sign(bits)}{counts}",
            place=seen.key,
        )
    ]


def _is_apart(code: float, rest: Floats) -> bool:
    low, high = float(rest.min()), float(rest.max())
    span = max(high - low, 1.0)
    return code > high + APART * span or code < low - APART * span


def _words_of(unit: Unit) -> dict[float, str]:
    """Values that mean no reading whatever gave them, with their meaning where they stand apart."""
    ends = dict.fromkeys(REGISTER_ENDS, "the end of a register, as where nothing answers")
    nines = dict.fromkeys(NINES, "as programs write where they have no reading")
    return ends | nines | FAILED_TEXTS.get(unit.symbol, {})


def _words(seen: Coded) -> dict[float, str]:
    """Raw values with their meaning where they stand apart."""
    found = _words_of(seen.unit)
    if not seen.is_counts:
        return found
    found |= {
        0.0: "no bit is set, as where nothing drives the line",
        -1.0: "every bit is set, as where nothing answers",
    }
    for bits in WIDTHS:
        if seen.bits and bits > seen.bits:
            break
        found[float(2**bits - 1)] = f"every one of {bits} bits is set, as where nothing answers"
        found[float(-(2 ** (bits - 1)))] = f"the lowest that {bits} bits can say, as at the end of a converter"
    return found


def _stood(seen: Coded) -> list[Note]:
    """A note on a value that stays the same for long, in a signal that otherwise never does."""
    if not seen.is_counts:
        return []
    usable = seen.raw.usable
    x, t = seen.raw.x[usable], seen.raw.t[usable]
    if len(x) < STOOD:
        return []
    ends = np.append(np.flatnonzero(np.diff(x) != 0), len(x) - 1)
    lengths = np.diff(np.append(-1, ends))
    longest = int(np.argmax(lengths))
    count, last = int(lengths[longest]), int(ends[longest])
    if count < STOOD:
        return []
    moving = np.delete(np.arange(len(x)), np.arange(last - count + 1, last + 1))
    steps = np.abs(np.diff(x[moving]))
    noise = 1.4826 * median(steps) / np.sqrt(2.0) if len(steps) else 0.0
    is_frozen = count == len(x) and count >= FROZEN
    if not is_frozen and not noise > LIVELY:
        return []
    since, lasts = float(t[last - count + 1]), float(t[last] - t[last - count + 1])
    value = format_quantity(float(x[last]), seen.unit, 10)
    said = f"{seen.name}: all {counted(count, 'raw value')} are {value}."
    if not is_frozen:
        said = f"{seen.name}: it stays at {value} for {plain_number(lasts, 3)} s from {clock(since)} on, "
        said += f"{counted(count, 'sample')}; elsewhere it moves by {plain_number(noise, 2)} counts all the time."
    return [
        Note(
            DOUBT,
            Step.RAW,
            seen.name,
            said,
            figure=float(count),
            unit="samples",
            limit=float(STOOD),
            remedy="check that the sensor is read afresh each time, and still answers",
        )
    ]


def _steps(seen: Coded, good: Floats) -> list[Note]:
    """A note on codes that never occur between those that do: a converter of fewer bits than stated."""
    if not seen.is_counts:
        return []
    step = code_step(good)
    if step > 1:
        power = step.bit_length() - 1
        bits = f": {seen.bits - power} bits in {seen.bits}" if seen.bits > power and step == 1 << power else ""
        return [
            Note(
                DOUBT,
                Step.RAW,
                seen.name,
                f"{seen.name}: its counts come in steps of {step}{bits}; a reading is {step} times as coarse as its "
                "counts look.",
                figure=float(step),
                unit="ct",
                limit=1.0,
                remedy="the decimals worth showing are worked out from this; a finer converter would give more",
                place=seen.key,
            )
        ]
    full = next((bits for bits in WIDTHS if bits < seen.bits and good.max() == 2**bits - 1), 0)
    if full and int((good == 2**full - 1).sum()) >= 3 and good.min() >= 0:
        return [
            Note(
                DOUBT,
                Step.RAW,
                seen.name,
                f"{seen.name}: its counts end at {format_quantity(2.0**full - 1, seen.unit, 10)}, which is all that "
                f"{full} bits can say; {seen.bits} are stated.",
                figure=float(full),
                unit="bits",
                limit=float(seen.bits),
                remedy=f"write {full} bits if its converter has no more",
                place=seen.key,
            )
        ]
    return []


def inspect_empty_frames(name: str, frames: Sequence[ByteFrame]) -> list[Note]:
    """A note on intact frames of nothing but zeros, or nothing but ones: a sum over zeros is right too."""
    whole = [frame for frame in frames if not frame.mark and frame.data]
    notes = []
    for byte, word, line in ((0, "zeros", "low"), (255, "ones", "high")):
        same = [frame for frame in whole if set(frame.data) == {byte}]
        if not same:
            continue
        passes = "a sum over zeros is right" if not byte else "few checks see it"
        notes.append(
            Note(
                DOUBT,
                Step.RAW,
                name,
                f"{name}: {counted_of(len(same), len(whole), 'whole frame')} "
                f"{'holds' if len(same) == 1 else 'hold'} nothing but {word}, first at {clock(same[0].end)}; "
                f"a line that stays {line} is read so, and {passes}.",
                figure=float(len(same)),
                unit="frames",
                limit=0.0,
                remedy="check the limits of the decoder, and the wire",
            )
        )
    return notes
