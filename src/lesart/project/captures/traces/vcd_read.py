"""Reading value change dumps (VCD, IEEE 1364) of any conforming writer: their header here, their body in large steps.

The body is split into tokens with whole-array operations, because a trace of seconds has millions of edges; a loop over
lines takes a minute for what this does in a second.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from pathlib import Path

import numpy as np
import numpy.typing as npt

from lesart.core.block import Block, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.core.raw.edges import UNKNOWN, Edges, edges_of
from lesart.project.captures.progress import tell
from lesart.project.folder.files import read_whole

PIECE = 8 << 20
"""Bytes of the body taken at once."""
MOST_DIGITS = 18
"""Most digits of a time stamp; longer ones do not fit 64 bits."""
FEW = 32
"""Up to this many signals are searched one by one; more are sorted."""
_UNITS = {"s": 1.0, "ms": 1e-3, "us": 1e-6, "ns": 1e-9, "ps": 1e-12, "fs": 1e-15}
_LEVELS = np.full(256, 255, np.uint8)
FLOATS = 3
"""A floating level: high where the line is only ever pulled low, unknown where it is also driven high."""
for _letter, _level in zip(b"01xXzZ", (0, 1, 2, 2, FLOATS, FLOATS), strict=True):
    _LEVELS[_letter] = _level
_VECTOR = np.isin(np.arange(256), np.frombuffer(b"bBrRsS", np.uint8))

Bytes = npt.NDArray[np.uint8]
Places = npt.NDArray[np.int64]


@dataclass(frozen=True)
class Variable:
    """A signal of the header: its name with the scopes around it, its code, its width in bits."""

    name: str
    code: str
    width: int
    is_real: bool = False


@dataclass(frozen=True)
class Header:
    """``tick_s`` is one step of the time stamps; ``body`` the offset at which changes begin."""

    tick_s: float
    variables: tuple[Variable, ...]
    body: int


@dataclass(frozen=True, eq=False)
class Trace:
    """``lines`` of one bit by name, ``values`` of vectors and reals by name; times are relative to the first time
    stamp."""

    lines: Mapping[str, Edges]
    values: Mapping[str, Block]
    steps_back: int = 0
    """Time stamps before the previous one."""


def read_vcd(path: Path) -> Trace:
    """All signals of a file. Raises CaptureError where it is not such a file, or has no changes."""
    data = read_whole(path)
    header = _header(path, data)
    changes, read = _Changes(), header.body
    for piece in _pieces(data, header.body):
        changes.add(piece)
        read += len(piece)
        tell(path.name, read, len(data))
    if b"$dumpports" in data[header.body :] and not any(len(part.tick) for part in changes.scalars):
        raise CaptureError(f"{path}: it is an extended dump of ports; write a plain one, by $dumpvars.")
    if changes.last_tick is None:
        raise CaptureError(f"{path}: no time stamp follows the header; the trace is empty or was cut off.")
    return _trace(header, changes)


# The header


def _header(path: Path, data: bytes) -> Header:
    end = data.find(b"$enddefinitions")
    if end < 0:
        raise CaptureError(f"{path}: it is not a VCD file, or was cut off: $enddefinitions is not in it.")
    behind = data.find(b"$end", end + len(b"$enddefinitions"))
    if behind < 0:
        raise CaptureError(f"{path}: it was cut off after $enddefinitions.")
    scopes: list[str] = []
    variables: list[Variable] = []
    tick_s = 1e-9
    for keyword, words in _sections(data[:end].decode("utf-8", "replace")):
        if keyword == "timescale":
            tick_s = _tick(path, "".join(words))
        elif keyword == "scope" and len(words) > 1:
            scopes.append(words[1])
        elif keyword == "upscope" and scopes:
            scopes.pop()
        elif keyword == "var" and len(words) > 3:
            variables.append(_variable(path, words, scopes))
    if not variables:
        raise CaptureError(f"{path}: its header names no signal ($var).")
    return Header(tick_s, _with_own_names(variables), behind + len(b"$end"))


def _sections(text: str) -> Iterator[tuple[str, list[str]]]:
    for match in re.finditer(r"\$(\w+)\s(.*?)\$end(?=\s|$)", text, re.DOTALL):
        yield match[1], match[2].split()


def _tick(path: Path, written: str) -> float:
    match = re.fullmatch(r"(10{0,2})([munpf]?s)", written)
    if match is None:
        raise CaptureError(
            f'{path}: $timescale "{written}" is not a time scale; it may be 1, 10 or 100 of s, ms, us, ns, ps, fs.'
        )
    return int(match[1]) * _UNITS[match[2]]


def _variable(path: Path, words: list[str], scopes: list[str]) -> Variable:
    if not words[1].isdecimal():
        raise CaptureError(f'{path}: $var "{" ".join(words)}" has no width in bits.')
    name = ".".join((*scopes, "".join(words[3:])))
    return Variable(name, words[2], int(words[1]), words[0] in ("real", "realtime"))


def _with_own_names(variables: list[Variable]) -> tuple[Variable, ...]:
    """Names without scopes that all share, as long as they stay distinct."""
    parts = [variable.name.split(".") for variable in variables]
    while all(any(part[1:]) for part in parts) and len({part[0] for part in parts}) == 1:
        parts = [part[1:] for part in parts]
    names = [".".join(part) for part in parts]
    return tuple(
        Variable(name, variable.code, variable.width, variable.is_real)
        for name, variable in zip(names, variables, strict=True)
    )


# The body


def _pieces(data: bytes, start: int) -> Iterator[bytes]:
    """Parts of the body that begin with a time stamp, comments left out."""
    body, place = data, start
    if data.find(b"$comment", start) >= 0:
        body, place = re.sub(rb"\$comment\s.*?\$end", b" ", data[start:], flags=re.DOTALL), 0
    while place < len(body):
        end = len(body)
        if end - place > PIECE:
            end = _last_stamp(body, place, place + PIECE) or end
        yield body[place:end]
        place = end


def _last_stamp(body: bytes, first: int, last: int) -> int:
    """Where the last time stamp of a line's own begins; 0 where there is none.

    A vector's code may be a # alone on its line: a stamp has a digit after it.
    """
    while (found := body.rfind(b"\n#", first, last)) > first:
        if body[found + 2 : found + 3].isdigit():
            return found + 1
        last = found
    return 0


@dataclass(frozen=True, eq=False)
class _Scalars:
    tick: Places
    level: Bytes
    key: npt.NDArray[np.uint64]


class _Changes:
    """All changes so far, in ticks."""

    def __init__(self) -> None:
        self.scalars: list[_Scalars] = []
        self.vectors: list[tuple[int, str, bytes]] = []
        self.first_tick: int | None = None
        self.last_tick: int | None = None
        self.steps_back = 0

    def add(self, piece: bytes) -> None:
        """The changes of a piece."""
        text = np.frombuffer(piece + b" ", np.uint8)
        starts, ends = _tokens(text)
        if not len(starts):
            return
        first = text[starts]
        is_value, is_code = _vector_tokens(first)
        free = ~(is_value | is_code)
        is_stamp = free & (first == ord("#"))
        stamps = np.flatnonzero(is_stamp)
        ticks = _numbers(text, starts[stamps] + 1, ends[stamps])
        before = self.last_tick or 0
        tick_of = np.concatenate(([before], ticks))[np.cumsum(is_stamp)]
        if len(ticks):
            self.steps_back += int((np.diff(ticks, prepend=self.last_tick or 0) < 0).sum())
            self.first_tick = int(ticks[0]) if self.first_tick is None else self.first_tick
            self.last_tick = int(ticks.max()) if self.last_tick is None else max(self.last_tick, int(ticks.max()))
        levels = _LEVELS[first]
        scalars = np.flatnonzero(free & (levels != 255) & (ends - starts > 1))
        keys = _keys(text, starts[scalars] + 1, ends[scalars])
        self.scalars.append(_Scalars(tick_of[scalars], levels[scalars], keys))
        for place in np.flatnonzero(is_value[:-1] & is_code[1:]):
            value = piece[starts[place] : ends[place]].decode("ascii", "replace")
            self.vectors.append((int(tick_of[place]), value, piece[starts[place + 1] : ends[place + 1]]))


def _tokens(text: Bytes) -> tuple[Places, Places]:
    """Start and end of all tokens between blanks. ``text`` ends in a blank."""
    blank = text <= ord(" ")
    change = np.flatnonzero(blank[1:] != blank[:-1]) + 1
    if not blank[0]:
        change = np.concatenate(([0], change))
    return change[0::2], change[1::2]


def _vector_tokens(first: Bytes) -> tuple[npt.NDArray[np.bool_], npt.NDArray[np.bool_]]:
    """Which tokens are values of vectors, and which the codes after them.

    A code may begin with any letter, also with that of a vector: in a run of such tokens values and codes take turns.
    """
    may_be = _VECTOR[first]
    is_value = np.zeros(len(first), bool)
    if may_be.any():
        place = np.arange(len(first))
        begins = may_be & ~np.concatenate(([False], may_be[:-1]))
        begin = np.maximum.accumulate(np.where(begins, place, 0))
        is_value = may_be & ((place - begin) % 2 == 0)
    return is_value, np.concatenate(([False], is_value[:-1]))


def _numbers(text: Bytes, starts: Places, ends: Places) -> Places:
    """Decimal numbers from starts to ends, all of one length at once; 0 for anything else."""
    value = np.zeros(len(starts), np.int64)
    lengths = ends - starts
    for length in np.flatnonzero(np.bincount(lengths)):
        which = np.flatnonzero(lengths == length)
        begin = starts[which]
        number = np.zeros(len(begin), np.int64)
        good = np.full(len(begin), length > 0)
        for place in range(min(int(length), MOST_DIGITS)):
            digit = text[begin + place] - np.uint8(ord("0"))
            good &= digit < 10
            number = number * 10 + digit
        value[which] = np.where(good, number, 0)
    return value


def _keys(text: Bytes, starts: Places, ends: Places) -> npt.NDArray[np.uint64]:
    """Codes of up to eight characters as one number each; longer ones by their last eight, which are distinct."""
    key = np.zeros(len(starts), np.uint64)
    lengths = ends - starts
    for place in range(int(lengths.max()) if len(lengths) else 0):
        letter = text[np.minimum(starts + place, len(text) - 1)].astype(np.uint64)
        key = np.where(place < lengths, (key << np.uint64(8)) | letter, key)
    return key


def _key(code: str) -> np.uint64:
    key = 0
    for letter in code.encode("utf-8"):
        key = (key << 8 | letter) & (1 << 64) - 1
    return np.uint64(key)


# What the file holds


def _trace(header: Header, changes: _Changes) -> Trace:
    ticks = np.concatenate([part.tick for part in changes.scalars])
    levels = np.concatenate([part.level for part in changes.scalars])
    keys = np.concatenate([part.key for part in changes.scalars])
    first, last = changes.first_tick or 0, changes.last_tick or 0
    end_s = float(_seconds(np.array([last - first]), header.tick_s)[0])
    many = len(header.variables) > FEW
    if many:
        order = np.argsort(keys, kind="stable")
        keys, ticks, levels = keys[order], ticks[order], levels[order]
    lines, values = {}, {}
    for variable in header.variables:
        if variable.width == 1 and not variable.is_real:
            key = _key(variable.code)
            low, high = (np.searchsorted(keys, key, side=side) for side in ("left", "right")) if many else (0, 0)
            own = slice(low, high) if many else np.flatnonzero(keys == key)
            lines[variable.name] = _line(_seconds(ticks[own] - first, header.tick_s), _driven(levels[own]), end_s)
        else:
            values[variable.name] = _vector(variable, changes, first, header.tick_s)
    return Trace(lines, values, changes.steps_back)


def _seconds(ticks: Places, tick_s: float) -> npt.NDArray[np.float64]:
    """Ticks as seconds.

    By division where a tick is a fraction of a second, so that 1017 ns is 1.017e-6 s and not its neighbour.
    """
    parts = round(1 / tick_s)
    return (ticks / parts if parts > 1 else ticks * tick_s).astype(np.float64, copy=False)


def _driven(level: Bytes) -> Bytes:
    """Levels with floating ones replaced: an open line has a pull-up."""
    floats = level == FLOATS
    if not floats.any():
        return level
    is_open = bool((level == 0).any()) and not bool((level == 1).any())
    return np.where(floats, np.uint8(1 if is_open else UNKNOWN), level)


def _line(t: npt.NDArray[np.float64], level: Bytes, end_s: float) -> Edges:
    """The edges of a line. A value at the very start is its initial level, not an edge."""
    at_start = int(np.searchsorted(t, 0.0, side="right"))
    first = int(level[at_start - 1]) if at_start else UNKNOWN
    # Times that run backwards would distort pulses; they are held at the latest so far.
    t = np.maximum.accumulate(t[at_start:]) if len(t) else t
    return edges_of(t, level[at_start:], first, 0.0, end_s)


def _vector(variable: Variable, changes: _Changes, first: int, tick_s: float) -> Block:
    """Numbers of a vector or a real; NaN with an unknown bit, and marked RANGE beyond a float."""
    code = variable.code.encode("utf-8")
    found = [(tick, value) for tick, value, its in changes.vectors if its == code]
    t = np.array([(tick - first) * tick_s for tick, _ in found], np.float64)
    x = np.array([_value(value) for _, value in found], np.float64)
    mark = np.where(np.isnan(x), np.uint8(Mark.MISSING), np.where(np.isinf(x), np.uint8(Mark.RANGE), np.uint8(0)))
    return Block(np.maximum.accumulate(t) if len(t) else t, np.where(mark, np.nan, x), mark)


def _value(written: str) -> float:
    try:
        return float(int(written[1:], 2)) if written[0] in "bB" else float(written[1:])
    except ValueError:
        return float("nan")
    except OverflowError:
        return float("inf")
