"""Pixels: seen through, on four wires, on two."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from lesart.demo.jobs.job import Column, Job
from lesart.demo.jobs.pieces import BOARD_3V3, CSV, channel, face, fed, field, label, wire

T = np.arange(0.0, 60.0, 0.5)

WARM: Mapping[str, Column] = {"t": T, "x": [round(21.0 + 2 * each, 1) for each in np.sin(T / 30)]}

PLAIN = CSV + channel("warmth", "°C", "-20", "50", "x", raw_unit='"°C"')

FIELD = '[channels.warmth.fit]\nunit_text = "°C"\nwidth = 7\nrestless = 60\n'


def is_leaf(row: int, column: int) -> bool:
    """Of a picture of 16×16."""
    across, down = (column - 7.5) / 7.5, (row - 6.0) / 8.0
    heart = across**2 + (down + 0.25 - 0.6 * abs(across) ** 0.5) ** 2
    return heart < 0.85 and abs(across) > 0.08


_ROWS = tuple(range(16))
LEAF = "P1\n16 16\n" + "".join(
    " ".join("0" if is_leaf(row, column) else "1" for column in _ROWS) + "\n" for row in _ROWS
)
"""A leaf of the linden: a heart with a tip, its middle vein dark. Ones are dark in such a file."""

WINDOW = Job(
    "window",
    PLAIN
    + FIELD
    + '[panels.pane]\nkind = "pixels"\nsee_through = true\nmirror = true\nlight = "blue"\n'
    + face("pane", label("HIVE"), field("warmth", row="16", font='"text 10"'), label("lid", row="40")).replace(
        'panel = "pane"\n', 'panel = "pane"\nseen_from = "0.15 m"\n', 1
    ),
    WARM,
    title="a panel seen through, mirrored, read from 15 cm",
    tells=(
        "Where the reader looks at the back of the glass, the face is mirrored. How large a letter must be "
        "follows from how far away it is read: 16 minutes of arc at least."
    ),
    tries=(
        "glass . pane",
        "hand . warmth --raw -12.5",
    ),
)

SMALL = Job(
    "small panel",
    PLAIN + FIELD + '[panels.mast]\nkind = "pixels"\nwidth = 84\nheight = 48\nlight = "grey"\nbus = "four-wire"\n'
    'clock = "2 MHz"\n[pictures.leaf]\nfile = "leaf.pbm"\n'
    + face(
        "mast", label("MAST"), field("warmth", row="12"), 'kind = "picture"\npicture = "leaf"\nrow = 26\ncolumn = 4\n'
    )
    + wire(
        {"board": BOARD_3V3, "mast": 'kind = "four-wire pixel display"'},
        fed("mast") + "mast.clock > board.p10; mast.data > board.p11; mast.reset > board.p1; mast.dc > board.p2;"
        "mast.select > board.p3",
    ),
    WARM,
    {"leaf.pbm": LEAF},
    title="84×48 pixels on four wires, with a picture",
    tells=(
        "A picture of 16×16, a label and a number share a small panel. The bytes lie in pages of eight rows; four "
        "wires at 2 MHz carry a whole frame in about 2 ms."
    ),
    tries=(
        "glass . mast",
        "picture leaf.pbm --size 16x16",
        "pace . --for 2s",
    ),
)

PIXELS = Job(
    "lid panel",
    PLAIN
    + FIELD
    + '[panels.lid]\nkind = "pixels"\n'
    + face("lid", label("LID"), field("warmth", row="12", font='"text 10"'))
    + wire(
        {"board": BOARD_3V3 + '\nbus_clock = "400 kHz"', "lid": 'kind = "two-wire pixel display"\naddress = "0x3D"'},
        fed("lid") + "lid.clock > board.p16; lid.data > board.p15",
    ),
    WARM,
    title="128×64 pixels on two wires at 400 kHz, address 0x3D",
    tells=(
        "Every byte on two wires takes nine clocks, so a whole frame of 1024 bytes takes 23 ms, and pulses that "
        "come meanwhile are missed by a program that waits. The address is stated where the part is, and compared "
        "with every other on the bus."
    ),
    tries=(
        "glass . lid",
        "pace . --for 2s",
        "wire . --bring-up",
    ),
)
