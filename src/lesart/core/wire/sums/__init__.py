"""The small calculations of a bench. Each gives figures and a part that the project can take; ``SUMS`` lists them."""

from lesart.core.wire.sums.fine import GAIN, SELF_HEATING, THERMISTOR_HALF
from lesart.core.wire.sums.others import ANTI_ALIAS, BATTERY, CONTRAST, DEBOUNCE
from lesart.core.wire.sums.record import Figure, Sum, SumKind, SumResult
from lesart.core.wire.sums.resistors import DIVIDER, FIXED_HALF, LAMP_RESISTOR, PULL_UPS, SHUNT

SUMS: dict[str, SumKind] = {
    kind.name: kind
    for kind in (
        LAMP_RESISTOR,
        DIVIDER,
        FIXED_HALF,
        THERMISTOR_HALF,
        SELF_HEATING,
        GAIN,
        SHUNT,
        PULL_UPS,
        CONTRAST,
        BATTERY,
        ANTI_ALIAS,
        DEBOUNCE,
    )
}
"""By the name that stands as ``kind`` in the project file."""

__all__ = ["SUMS", "Figure", "Sum", "SumKind", "SumResult"]
