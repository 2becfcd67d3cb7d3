"""Plain numbers on characters, digits that run, text in the middle."""

from __future__ import annotations

import numpy as np

from lesart.demo.jobs.job import Job
from lesart.demo.jobs.pieces import CSV, channel, face, fed, field, label, wire

T = np.arange(0.0, 60.0, 0.5)

WAVE = np.sin(T / 9)

NUMBER = Job(
    "counter",
    CSV
    + channel("bees", "1", "0", "999", "n", raw_unit='"1"')
    + "[channels.bees.fit]\ndecimals = 0\nwidth = 4\nrestless = 300\n"
    '[panels.door]\nkind = "characters"\n'
    + face("door", label("bees"), field("bees", column="8"), label("gate", row="1")),
    {"t": T, "n": [float(100 + 7 * place) for place in range(len(T))]},
    title="a plain count on two lines of characters",
    tells=(
        "The shortest thread there is: a number, a field of four cells, a label before it. What a longer number "
        "leaves behind is blanked, because the field is always drawn whole."
    ),
    tries=(
        "fit . bees",
        "glass . door",
    ),
)

RUNNING = Job(
    "running digits",
    CSV
    + channel("plum", "1", "0", "9999", "n", raw_unit='"1"')
    + '[channels.plum.fit]\ndecimals = 0\nwidth = 4\npad = "zero"\nrestless = 300\n'
    '[panels.seg]\nkind = "segments"\ncommon = "anode"\n'
    '[panels.seg.scan]\non_time = "2 ms"\nblanking = "0.1 ms"\nline_resistor = "0 Ω"\n' + face("seg", field("plum")),
    {"t": T, "n": [float(417 + 30 * place) for place in range(len(T))]},
    title="a running count with leading zeros on scanned digits, common anode",
    tells=(
        "Leading zeros are a rule of the field. With a common anode the codes are inverted, and Lesart sends "
        "them that way; a resistor before the digit's line or before the segments makes the difference to how even the "
        "digits are."
    ),
    tries=(
        "fit . plum",
        "hand . plum --raw 417",
        "pace . --for 2s",
    ),
)

CENTRED = Job(
    "hut door",
    CSV
    + channel("mass", "kg", "0", "99", "m", raw_unit='"kg"')
    + '[channels.mass.fit]\ndecimals = 0\nwidth = 4\nunit_text = "kg"\nrestless = 200\n'
    '[panels.door]\nkind = "characters"\n'
    + face("door", label("HIVE 2", column="5"), label("val=", row="1"), field("mass", row="1", column="5"))
    + wire(
        {"board": 'kind = "5 V board"', "door": 'kind = "two-wire character display"\naddress = "0x27"'},
        fed("door", rail="board.5V") + "door.clock > board.p16; door.data > board.p15",
    ),
    {"t": T, "m": [float(round(40 + 3 * each)) for each in WAVE]},
    title="text in the middle of the hut door's two lines, behind a two-wire expander",
    tells=(
        "A label is placed by row and column, the number after its own label. The characters go through eight "
        "wires behind an expander at 0x27, four bits at a time."
    ),
    tries=(
        "glass . door",
        "hand . mass --raw 7",
        "wire .",
    ),
)
