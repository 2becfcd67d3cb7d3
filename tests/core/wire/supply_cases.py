"""Hook-ups with exactly one fault in what feeds them: rails and plugs too weak, converters fed wrongly or too hot."""

from __future__ import annotations

from typing import Any

from lesart.core.notes import DOUBT, FAULT
from tests.core.wire.small_hookups import NODE, STRONG, fed

SUPPLY_FAULTS: dict[str, tuple[dict[str, Any], str, str, str, str, float | None, float | None]] = {
    # case: parts, joins, mark, part it speaks of, words of its text, figure, limit
    "a regulator with too little above what it gives": (
        {**NODE, "b": {"kind": "battery", "voltage": "5 V"}, "reg": {"kind": "regulator", "voltage": "5 V"}},
        "b.+ > reg.in; b.− > reg.gnd; reg.out > node.in; reg.gnd > node.gnd",
        FAULT,
        "reg",
        "reg.in gets 5 V from b.+, too little to give 5 V: that takes 6.1 V.",
        5.0,
        6.1,
    ),
    "a step-up that is given more than it gives": (
        {
            **NODE,
            "b": {"kind": "battery", "voltage": "4.5 V"},
            "up": {"kind": "step-up", "voltage": "3.3 V"},
            "s": "single-wire sensor",
        },
        "b.+ > up.in; b.− > up.gnd; up.out > s.supply; s.gnd > node.gnd; up.gnd > node.gnd; s.data > node.p1; node.in > b.+",
        FAULT,
        "up",
        "up.in gets 4.5 V from b.+, more than the 3.3 V that it gives: a step-up lets it through.",
        4.5,
        3.3,
    ),
    # Source of the figures: volts dropped × amperes through it.
    "a regulator too hot as usual": (
        {
            "node": "3.3 V computer",
            "m": {"kind": "supply", "voltage": "12 V", "current": "3 A"},
            "reg": {"kind": "regulator", "voltage": "5 V", "current": "2 A"},
        },
        "m.+ > reg.in; m.− > reg.gnd; reg.out > node.in; reg.gnd > node.gnd",
        FAULT,
        "reg",
        "reg drops 7 V at 400 mA: 2.8 W of heat, and it gets rid of 1 W; too hot, it switches itself off.",
        7.0 * 0.4,
        1.0,
    ),
    "a regulator too hot at a peak": (
        {**NODE, "m": {"kind": "supply", "voltage": "12 V"}, "reg": {"kind": "regulator", "voltage": "5 V"}},
        "m.+ > reg.in; m.− > reg.gnd; reg.out > node.in; reg.gnd > node.gnd",
        DOUBT,
        "reg",
        "reg drops 7 V at 250 mA while node is at its peak: 1.8 W of heat, and it gets rid of 1 W",
        7.0 * 0.25,
        1.0,
    ),
    "a rail too weak as usual": (
        {**STRONG, "h": "heater"},
        fed("h"),
        FAULT,
        "h",
        "node.3V3 gives 300 mA; h draws 350 mA",
        0.35,
        0.3,
    ),
    "a rail too weak for one peak": (
        {**STRONG, "r": "radio"},
        fed("r"),
        FAULT,
        "r",
        "node.3V3 gives 300 mA, too little for r at its peak of 350 mA: 350 mA in all",
        0.35,
        0.3,
    ),
    "a rail too weak if all peaks coincide": (
        {**STRONG, "r": "half radio", "s": "half radio"},
        fed("r", "s"),
        DOUBT,
        "r",
        "node.3V3 gives 300 mA; if all peaks coincide, 360 mA is drawn",
        0.36,
        0.3,
    ),
    "a plug too weak": (
        {"node": {"kind": "3.3 V board", "plug": "100 mA"}, "r": "half radio"},
        fed("r"),
        FAULT,
        "node",
        "The plug of node gives 100 mA, too little for node at its peak of 250 mA: 260 mA in all",
        0.26,
        0.1,
    ),
    "a battery too weak": (
        {**NODE, "b": {"kind": "battery", "voltage": "5 V", "current": "100 mA"}},
        "node.in > b.+; node.gnd > b.−",
        FAULT,
        "node",
        "b.+ gives 100 mA, too little for node at its peak of 250 mA",
        0.25,
        0.1,
    ),
}
