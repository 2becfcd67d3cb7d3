"""Digits: by a driver on two lines, and by twelve pins."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from lesart.demo.jobs.job import Column, Job
from lesart.demo.jobs.pieces import CSV, LARGE, channel, digits, face, field, wire

T = np.arange(0.0, 60.0, 0.5)

WARM: Mapping[str, Column] = {"t": T, "x": [round(21.0 + 2 * each, 1) for each in np.sin(T / 30)]}

PLAIN = CSV + channel("warmth", "°C", "-20", "50", "x", raw_unit='"°C"')

FIELD = '[channels.warmth.fit]\nunit_text = "°C"\nwidth = 7\nrestless = 60\n'


DRIVER = Job(
    "stand",
    PLAIN.replace('lowest = "-20', 'lowest = "0')
    + '[channels.warmth.fit]\ndecimals = 0\nunit_text = "°C"\nwidth = 4\nrestless = 60\n'
    '[panels.stand]\nkind = "segments"\ndrive = "two-line driver"\n' + face("stand", field("warmth")),
    WARM,
    title="four digits behind a driver on two lines",
    tells=(
        "The driver keeps the digits lit by itself; the program sends only what changes. A field of four cells "
        "holds a sign, two digits and a unit's letter as segments can write it."
    ),
    tries=(
        "fit . warmth",
        "glass . stand",
    ),
)

YARD = Job(
    "twelve pins",
    CSV
    + channel("sum", "1", "0", "9999", "n", raw_unit='"1"')
    + '[channels.sum.fit]\ndecimals = 0\nwidth = 4\nrestless = 200\n[panels.seg]\nkind = "segments"\n'
    '[panels.seg.scan]\non_time = "2.5 ms"\nblanking = "0.1 ms"\n'
    + face("seg", field("sum"))
    + wire(
        {
            "board": LARGE,
            "seg": 'kind = "four digits"',
            "r": 'kind = "resistor"\nresistance = "270 Ω"',
            "t": 'kind = "transistor"',
        },
        digits("seg"),
    ),
    {"t": T, "n": [float(17 + 40 * place) for place in range(len(T))]},
    title="four digits on twelve pins: segments through resistors, digits through transistors",
    tells=(
        "The processor lights one digit after the other, 2.5 ms each. The resistor sets the current of a lit "
        "segment, a digit's line carries eight of them, and a quarter of the light is left."
    ),
    tries=(
        "hand . sum --raw 1984",
        "pace . --for 2s",
        "wire .",
    ),
)
