"""Limits for measured values: round, with some margin, and nothing beyond what a quantity can be."""

from __future__ import annotations

import math
from collections.abc import Callable

from lesart.core.block import Floats
from lesart.core.quantity import plain_number

MOST_LIMIT = 1e50
SAME = 1e-8
"""Values that differ by less than this share are equal but for rounding."""


def round_limits(least: float, greatest: float, room: float = 0.1) -> tuple[str, str]:
    """Limits with a margin on either side, as a share of the span, in two figures; none beyond what a quantity can
    be."""
    least, greatest = (min(max(end, -MOST_LIMIT), MOST_LIMIT) for end in (least, greatest))
    span = greatest - least
    if span <= SAME * max(abs(least), abs(greatest)):
        span = abs(greatest) or 1.0
    grain = 10.0 ** math.floor(math.log10(span) - 0.5)
    # Slightly inwards first: a limit that is already round must not jump to the next one.
    low = math.floor((least - span * room) / grain + 1e-9) * grain
    high = math.ceil((greatest + span * room) / grain - 1e-9) * grain
    if least >= 0 > low:
        low = 0.0
    return plain_number(low, 9).replace("−", "-"), plain_number(high, 9).replace("−", "-")


def written_limits(x: Floats, unit: str, highest: int = 100) -> dict[str, str]:
    """``lowest`` and ``highest`` of a channel, about values in ``unit``, shape (n,); where there is none yet, 0 to
    ``highest``."""
    low, high = round_limits(float(x.min()), float(x.max())) if len(x) else ("0", str(highest))
    return {"lowest": f"{low} {unit}".removesuffix(" 1"), "highest": f"{high} {unit}".removesuffix(" 1")}


MORE = 1.0
"""Margin for a total beyond that of the capture, as a share: it continues after the capture ends."""


def reach_limits(x: Floats, unit: str) -> dict[str, str]:
    """``lowest`` and ``highest`` about totals or changes over time, shape (n,); none without values."""
    if not len(x):
        return {}
    low, high = round_limits(float(x.min()), float(x.max()), MORE)
    return {"lowest": f"{low} {unit}".removesuffix(" 1"), "highest": f"{high} {unit}".removesuffix(" 1")}


def within_reach(limit: str, inside: float, reaches: Callable[[float], bool]) -> str:
    """A limit that is drawn in to where readings can be, in steps of a power of ten: no platinum reads −290 °C.

    ``inside`` is a reading that there was; what does not reach even that one is left as it is.
    """
    far, near = float(limit), inside
    if reaches(far) or not reaches(inside):
        return limit
    grain = 10.0 ** (math.floor(math.log10(abs(far - inside))) - 1)
    for _ in range(60):
        middle = near + (far - near) / 2
        near, far = (middle, far) if reaches(middle) else (near, middle)
    drawn = math.ceil(near / grain - 1e-6) * grain if far < inside else math.floor(near / grain + 1e-6) * grain
    return plain_number(drawn if (drawn - inside) * (far - inside) >= 0 else inside, 9).replace("−", "-")
