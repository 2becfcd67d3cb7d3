"""The bus of a digit driver with two lines of its own: start, bytes lowest bit first with acknowledge, stop.

Source: the timing that such drivers publish: data change while the clock is low, start and stop while it is high, no
address; at the ninth clock of each byte the driver acknowledges by a low. After a read command the driver sends.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from lesart.core.block import Mark
from lesart.core.parameters import Parameter
from lesart.core.raw.decode.record import GLITCH, Bits, Decoded, DecoderKind
from lesart.core.raw.decode.two_wire import Transfer, transfers
from lesart.core.raw.edges import Edges, without_glitches
from lesart.core.raw.messages.frames import ByteFrame

WORD = 9


def _decode(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    clock, removed = without_glitches(lines["clock"], values["shortest"])
    data, more = without_glitches(lines["data"], values["shortest"])
    reads = int(values["reads"], 0)
    frames, times, ones = [], [], []
    for transfer, end, stopped in transfers(clock, data):
        frames += _frame(transfer, end, stopped=stopped, reads=reads)
        times += [moment for moment, _ in transfer.bits]
        ones += [bit for _, bit in transfer.bits]
    t = np.array(times, np.float64)
    bits = Bits(t, np.append(t[1:], t[-1:]), np.array(ones, np.uint8), np.full(len(t), np.nan))
    return Decoded(frames=tuple(frames), bits=bits, removed=removed + more)


def _frame(transfer: Transfer, end: float, *, stopped: bool, reads: int) -> list[ByteFrame]:
    """All bytes of a transfer. Bytes after a read command come from the driver, and are described so."""
    bits = [bit for _, bit in transfer.bits]
    words = [bits[place : place + WORD] for place in range(0, len(bits) - len(bits) % WORD, WORD)]
    if not words:
        return []
    data = bytes(sum(bit << place for place, bit in enumerate(word[:8])) for word in words)
    is_read = len(data) > 1 and data[0] == reads
    silent = next((number for number, word in enumerate(words, 1) if word[8]), 0)
    wrong = ""
    if len(bits) % WORD:
        wrong = f"{len(bits) % WORD} bits are left over"
    elif not stopped:
        wrong = "it does not end in a stop"
    elif silent and not (is_read and silent > 1):
        wrong = f"byte {silent} was not answered"
    return [
        ByteFrame(transfer.t, end, data, int(Mark.MISSING) if wrong else 0, wrong, "reads" if is_read else "writes")
    ]


TWO_LINES = DecoderKind(
    name="two-line driver",
    title="driver of digits on two lines",
    says="start, bytes lowest bit first, an answer each, stop; no address",
    lines=("clock", "data"),
    needed=2,
    parameters=(
        Parameter(
            "reads", "reads by", "text", "the command after which the driver sends", "0x42", longest=6, code_bits=8
        ),
        GLITCH,
    ),
    decode=_decode,
)
