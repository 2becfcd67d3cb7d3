"""Every byte that went over a bus, with its moment: what a display on it was sent."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from lesart.core.block import Bools, Floats, Marks
from lesart.core.raw.decode.four_wire import sampled
from lesart.core.raw.decode.two_wire import transfers
from lesart.core.raw.edges import HIGH, LOW, Edges, without_glitches


@dataclass(frozen=True, eq=False)
class Words:
    """``t`` float64 seconds, the end of each byte; ``value`` uint8; ``is_data`` bool; ``part`` int64: the number of its
    transmission; all shape (n,). ``start_s`` and ``end_s``, shape (parts,), are those of each transmission.

    ``refused`` are transmissions that nobody answered, or a byte of which was not taken; ``broken`` are those with bits
    left over.
    """

    t: Floats
    value: Marks
    is_data: Bools
    part: np.ndarray
    start_s: Floats
    end_s: Floats
    refused: int = 0
    broken: int = 0

    def __len__(self) -> int:
        return len(self.t)


def two_wire_words(clock: Edges, data: Edges, address: int | None = None, shortest_s: float = 0.0) -> Words:
    """Bytes written to an address, without the address itself; of any address where it is None. All count as data:
    on two wires a byte before them says what they are, which is the controller's matter."""
    clock, _ = without_glitches(clock, shortest_s)
    data, _ = without_glitches(data, shortest_s)
    times: list[float] = []
    values: list[int] = []
    parts: list[int] = []
    starts: list[float] = []
    ends: list[float] = []
    refused = broken = 0
    for transfer, end, _ in transfers(clock, data):
        bits = transfer.bits
        words = [bits[place : place + 9] for place in range(0, len(bits) - len(bits) % 9, 9)]
        if not words:
            continue
        numbers = [sum(bit << (7 - place) for place, (_, bit) in enumerate(word[:8])) for word in words]
        if numbers[0] & 1 or (address is not None and numbers[0] >> 1 != address):
            continue
        refused += any(word[8][1] for word in words)
        broken += bool(len(bits) % 9)
        if words[0][8][1]:
            continue
        times += [word[8][0] for word in words[1:]]
        values += numbers[1:]
        parts += [len(starts)] * (len(words) - 1)
        starts.append(transfer.t)
        ends.append(end)
    return Words(
        np.array(times, np.float64), np.array(values, np.uint8), np.ones(len(values), bool), np.array(parts, np.int64),
        np.array(starts, np.float64), np.array(ends, np.float64), refused, broken,
    )  # fmt: skip


def four_wire_words(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Words:
    """Bytes while the select line is at its level, with what the command line says at the last bit of each.

    ``lines``: clock and data, and select and command where they are. ``values`` are those of the decoder. A
    transmission ends with the select line, or with a rest of the clock where there is none.
    """
    cleaned = {name: without_glitches(edges, values["shortest"])[0] for name, edges in lines.items()}
    t = sampled(cleaned["clock"], values["mode"])
    ones = (cleaned["data"].level_at(t) == HIGH).astype(np.uint8)
    select = cleaned.get("select")
    if select is not None:
        meant = select.level_at(t) == (LOW if values["selected"] == "low" else HIGH)
        t, ones = t[meant], ones[meant]
        borders = np.flatnonzero(np.diff(np.searchsorted(select.t, t, side="right"))) + 1
    else:
        borders = np.flatnonzero(np.diff(t) > values["rest"]) + 1
    edges = np.concatenate(([0], borders, [len(t)])) if len(t) else np.zeros(1, np.int64)
    sizes = np.diff(edges) // 8
    # What is left of a transmission behind its last whole byte was never a byte.
    kept = np.concatenate([np.arange(first, first + 8 * size) for first, size in zip(edges, sizes, strict=False)]
                          or [np.zeros(0, np.int64)]).astype(np.int64)  # fmt: skip
    rows = ones[kept].reshape(-1, 8)
    value = np.packbits(rows[:, ::-1] if values["first"] == "lowest" else rows, axis=1)[:, 0]
    ends = t[kept].reshape(-1, 8)[:, -1]
    command = cleaned.get("command")
    is_data = np.ones(len(ends), bool) if command is None else command.level_at(ends) == HIGH
    starts_s = t[edges[:-1]] if len(t) else np.zeros(0)
    ends_s = t[edges[1:] - 1] if len(t) else np.zeros(0)
    broken = int(np.count_nonzero(np.diff(edges) % 8))
    return Words(ends, value, is_data, np.repeat(np.arange(len(sizes)), sizes), starts_s, ends_s, 0, broken)
