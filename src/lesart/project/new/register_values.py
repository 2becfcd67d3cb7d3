"""Floating-point numbers in registers heard on a field bus: two or four words each, in the device's word order.

A device with one such number often has others next to it.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import groupby
from typing import Any

import numpy as np

from lesart.core.block import Block
from lesart.core.raw.heard_registers import HeardRegister
from lesart.core.raw.messages.registers import RegisterSpec
from lesart.project.new.wide import Bytes, could_be_number, is_number

TYPES = {8: "float64", 4: "float32"}
SWAPS = ((False, False), (True, False), (True, True), (False, True))
"""Of words, and of the bytes in them; the usual order first."""

Table = dict[str, Any]


def registers_in(columns: Mapping[str, Block], from_frame: Mapping[str, Sequence[int]]) -> tuple[Table, ...]:
    """Registers as in the project file.

    ``columns`` are words as ``unit 1 holding 0``, ``from_frame`` are the replies of samples: a value's words come in
    the same one.
    """
    found: list[Table] = []
    for words in _runs(columns, from_frame):
        data = _bytes_of([columns[name] for name in words])
        if not len(data):
            continue
        by_order = {swaps: tuple(_along(data, *swaps)) for swaps in SWAPS}
        swaps = max(SWAPS, key=lambda each: sum(stop - at for at, stop in by_order[each]))
        found += [_table(words, at, stop, *swaps) for at, stop in by_order[swaps]]
    return tuple(found)


def without_halves(columns: Mapping[str, Block], registers: Sequence[Table]) -> dict[str, Block]:
    """Columns without words that are part of another value."""
    taken = {word for each in registers for word in _heard(each).words}
    return {name: block for name, block in columns.items() if name not in taken}


def _heard(table: Table) -> HeardRegister:
    spec = RegisterSpec("", table["table"], table["address"], table["type"])
    return HeardRegister(table["unit"], spec)


def _runs(columns: Mapping[str, Block], from_frame: Mapping[str, Sequence[int]]) -> Iterator[list[str]]:
    """Runs of columns of one table at consecutive addresses, from the same replies."""

    def run(numbered: tuple[int, str]) -> tuple[str, str, int, tuple[int, ...]]:
        place, name = numbered
        unit, table, address = name.removeprefix("unit ").split()
        # In a run of addresses, address minus index is constant.
        return unit, table, int(address) - place, tuple(from_frame[name])

    for _, names in groupby(enumerate(columns), run):
        yield [name for _, name in names]


def _bytes_of(words: Sequence[Block]) -> Bytes:
    """Bytes of samples that all words have, shape (samples, bytes)."""
    good = np.logical_and.reduce([block.usable for block in words])
    numbers = np.array([block.x[good] for block in words]).T.astype(">u2")
    return np.ascontiguousarray(numbers).view(np.uint8).reshape(len(numbers), 2 * len(words))


def _along(data: Bytes, word_swap: bool, byte_swap: bool) -> Iterator[tuple[int, int]]:
    """First and last byte of each number; neighbours of the same length are numbers too, if they could be."""
    at, beside = 0, 0
    while at + 4 <= data.shape[1]:
        size = next(
            (size for size in TYPES if at + size <= data.shape[1] and _is_one(data, at, size, word_swap, byte_swap)), 0
        )
        if not size and beside and at + beside <= data.shape[1]:
            size = beside if could_be_number(_ordered(data[:, at : at + beside], word_swap, byte_swap)) else 0
        if size:
            yield at, at + size
        at, beside = at + (size or 2), size


def _is_one(data: Bytes, at: int, size: int, word_swap: bool, byte_swap: bool) -> bool:
    """True for eight bytes that are one number, unless their second half is one by itself."""
    some = _ordered(data[:, at : at + size], word_swap, byte_swap)
    return is_number(some) and (size == 4 or not is_number(some[:, 4:]))


def _ordered(some: Bytes, word_swap: bool, byte_swap: bool) -> Bytes:
    """The bytes with the highest first."""
    words = some.reshape(len(some), -1, 2)
    words = words[:, ::-1] if word_swap else words
    words = words[:, :, ::-1] if byte_swap else words
    return np.ascontiguousarray(words.reshape(some.shape))


def _table(words: Sequence[str], at: int, stop: int, word_swap: bool, byte_swap: bool) -> Table:
    first = words[at // 2]
    unit, table, address = first.removeprefix("unit ").split()
    last = int(address) + (stop - at) // 2 - 1
    found: Table = {
        "name": f"{first} to {last}", "unit": int(unit), "table": table, "address": int(address),
        "type": TYPES[stop - at],
    }  # fmt: skip
    found |= {"word_swap": True} if word_swap else {}
    found |= {"byte_swap": True} if byte_swap else {}
    return found | {"assumed": ", ".join(name for name in ("type", "word_swap", "byte_swap") if name in found)}
