"""Faults on the yard's displays, for their traces: a page sent to a wrong place, a digit cut short."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.glass.bus.controllers import PAGES
from lesart.core.glass.bus.transmissions import Transmission

LID_TRACE, STAND_TRACE = "captures/lid-bus.vcd", "captures/stand-digits.vcd"
LID_MOMENTS_S = (1440.06, 1440.26, 1440.46, 1440.66)
"""Times at which the lid's face was drawn while its bus was traced."""
STAND_MOMENT_S, STAND_LASTS_S = 1440.0, 0.5
SHORT, SHORT_S = 2, 1.6e-3
"""The digit, from 0, that is always cut short, and by how much."""
LATE, LATE_S = 3, 160e-6
"""The digit that goes dark too late, after the next one is lit."""


def one_page_wrong(told: Sequence[Transmission]) -> tuple[Transmission, ...]:
    """The sixth page goes to the fifth: a page number off by one."""
    right, wrong = PAGES.code_of("page", 5), PAGES.code_of("page", 4)
    return tuple(
        Transmission(each.data.replace(right, wrong, 1), each.is_data) if not each.is_data else each for each in told
    )


def uneven(slots: Sequence[tuple[float, float, int, int]]) -> list[tuple[float, float, int, int]]:
    """One digit ends too soon, another too late."""
    off = {SHORT: -SHORT_S, LATE: LATE_S}
    return [(start, end + off.get(digit, 0.0), digit, bits) for start, end, digit, bits in slots]
