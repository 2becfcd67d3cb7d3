"""Decoders: from edges to values, bits, bytes and frames. ``KINDS`` is the list of them all."""

from lesart.core.raw.decode.four_wire import FOUR_WIRE
from lesart.core.raw.decode.infrared import INFRARED
from lesart.core.raw.decode.lengths import BY_LENGTH
from lesart.core.raw.decode.one_wire import ONE_WIRE
from lesart.core.raw.decode.pulses import GATE, INTERVAL, WIDTH
from lesart.core.raw.decode.quadrature import QUADRATURE
from lesart.core.raw.decode.record import Bits, Decoded, DecoderKind
from lesart.core.raw.decode.timer import TIMER
from lesart.core.raw.decode.two_lines import TWO_LINES
from lesart.core.raw.decode.two_wire import TWO_WIRE
from lesart.core.raw.decode.uart import UART

KINDS: dict[str, DecoderKind] = {
    kind.name: kind
    for kind in (
        WIDTH,
        INTERVAL,
        GATE,
        TIMER,
        QUADRATURE,
        BY_LENGTH,
        ONE_WIRE,
        INFRARED,
        UART,
        TWO_WIRE,
        FOUR_WIRE,
        TWO_LINES,
    )
}
"""By the name that stands as ``kind`` in the project file."""

__all__ = ["KINDS", "Bits", "Decoded", "DecoderKind"]
