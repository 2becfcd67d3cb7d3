"""The yard's hook-up as its project file has it, with two mistakes that the notes catch and mend.

The display of the stand took all eight edge-detecting pins, so the counter at the gate is on another one; and the
display at the door pulls its bus up to 5 V, which the board does not tolerate.
"""

from __future__ import annotations

HOOKUP = """
# What is connected to the board in hive 2. Two things in it cannot work; 1 Wire says which.
[parts.node]
kind = "large 3.3 V board"
bus_wire = "1.5 m"

[parts.pack]
kind = "battery"
voltage = "5 V"
current = "2 A"
capacity = "20 Ah"

[parts.cell]
kind = "load cell"
resistance = "1 kΩ"

[parts.amp]
kind = "bridge amplifier"

[parts."lid probe"]
kind = "analog sensor"

[parts.brood]
kind = "thermistor"
resistance = "10 kΩ"  # at 25 °C

[parts."brood half"]
kind = "resistor"
resistance = "10 kΩ"
tolerance = "1 %"

[parts.gate]
kind = "beam counter"

[parts.air]
kind = "single-wire sensor"

[parts.door]
kind = "two-wire character display"
address = "0x27"

[parts.stand]
kind = "four digits"
forward = "2 V"
current = "5 mA"

[parts."stand resistors"]
kind = "resistor"
resistance = "270 Ω"

[parts."stand switches"]
kind = "transistor"

[sums."brood half"]
kind = "fixed half"
lowest = "3.3 kΩ"  # 52 °C
highest = "33 kΩ"  # 0 °C

[sums."stand resistors"]
kind = "lamp resistor"

[sums."pack hours"]
kind = "battery hours"
part = "pack"
asleep = "0.4 mA"
awake_share = "1/10"
wanted = "30 d"

[wire]
joins = [
{joins}
]

[wire.measured]
"node.3V3 short" = "4.1 kΩ"
ground = "0.4 Ω"
"node.3V3 volts" = "3.31 V"
"""

JOINS = (
    ("pack.+", "node.in", "", "red"),
    ("pack.−", "node.gnd", "", "black"),
    ("amp.supply", "node.3V3", "", "red"),
    ("amp.gnd", "node.gnd", "", "black"),
    ("amp.data", "node.p13", "", "yellow"),
    ("amp.clock", "node.p14", "", "green"),
    ("cell.E+", "amp.E+", "", "red"),
    ("cell.E−", "amp.E−", "", "black"),
    ("cell.A+", "amp.A+", "", "green"),
    ("cell.A−", "amp.A−", "", "white"),
    ("lid probe.supply", "node.3V3", "", "red"),
    ("lid probe.gnd", "node.gnd", "", "black"),
    ("lid probe.out", "node.a1", "", "yellow"),
    ("brood.1", "node.a2", "", "blue"),
    ("brood.2", "node.gnd", "", "black"),
    ("node.a2", "node.3V3", "brood half", "red"),
    ("gate.supply", "node.3V3", "", "red"),
    ("gate.gnd", "node.gnd", "", "black"),
    ("gate.out", "node.p17", "", "violet"),
    ("air.supply", "node.3V3", "", "red"),
    ("air.gnd", "node.gnd", "", "black"),
    ("air.data", "node.p18", "", "yellow"),
    ("door.supply", "node.5V", "", "red"),
    ("door.gnd", "node.gnd", "", "black"),
    ("door.data", "node.p15", "", "yellow"),
    ("door.clock", "node.p16", "", "green"),
    *(
        (f"stand.{name}", f"node.p{number}", "stand resistors", "grey")
        for number, name in enumerate(("a", "b", "c", "d", "e", "f", "g", "dp"), 1)
    ),
    *((f"stand.digit {number}", f"node.p{number + 8}", "stand switches", "brown") for number in range(1, 5)),
)
"""Pin, far pin, part in between, colour of the wire."""


def hookup_text() -> str:
    """The tables of the hook-up."""
    return HOOKUP.replace("{joins}", "\n".join(_line(*join) for join in JOINS))


def _line(pin: str, to: str, through: str, colour: str) -> str:
    between = f', through = "{through}"' if through else ""
    return f'  {{ pin = "{pin}", to = "{to}"{between}, colour = "{colour}" }},'
