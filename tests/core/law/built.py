"""Laws as the file has them, by the names that tests call them."""

from __future__ import annotations

from lesart.core import law
from lesart.core.law.record import Law
from lesart.core.law.stage import LawStage, stage_of
from lesart.core.parameters import read_table
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.core.wire.part import Part

DIVIDER = Part("div", PARTS["divider"], {"upper": 15_000.0, "lower": 5_000.0})
FIXED = Part("fixed", PARTS["resistor"], {"resistance": 10_000.0})


def build(kind: str, part: Part | None = None, **written: object) -> Law:
    """A law from values as the file has them; a part of the hook-up as the project finds it."""
    if part is not None:
        written["part"] = part.name
    values, problems = read_table(law.KINDS[kind].parameters, written, "l")
    assert not problems, problems
    if part is not None:
        values["part"] = part
    stage = stage_of(kind, law.KINDS[kind].build(values))
    assert isinstance(stage, LawStage)
    return stage.law


LAWS = {
    "bridge": build("bridge converter", reference="5 V", excitation="5 V", gain="128"),
    "bridge, top code": build(
        "bridge converter", reference="2.5 V", excitation="5 V", gain="64", bits=16, full_scale="2^(n-1) - 1"
    ),
    "load": build("load cell", capacity="200 kg", sensitivity="2 mV/V", zero="0.03 mV/V"),
    "line": build("linear", input="500 mV", output="0 °C", slope="10 mV/°C"),
    "falling line": build("linear", input="1 V", output="20 kg", slope="-4 kg/V"),
    "divider": build("divider", DIVIDER),
    "lower half": build("half of a divider", FIXED, supply="3.3 V"),
    "upper half": build("half of a divider", FIXED, supply="3.3 V", sensor="to supply"),
    "ratiometric": build("ratiometric", supply="5 V"),
    "shunt": build("shunt", Part("shunt", PARTS["resistor"], {"resistance": 0.1})),
    "converter": build("converter", reference="3.3 V"),
    "converter, top code": build("converter", reference="3.3 V", full_scale="2^n - 1"),
    "converter, signed": build("converter", bits=16, signed=True, reference="4.096 V", gain="2"),
    "loop": build("current loop", low="0 m", high="10 m"),
    "thermistor": build("thermistor", a="0.001129148", b="0.000234125", c="0.0000000876741"),
    "beta": build("thermistor by beta"),
    "platinum": build("platinum"),
    **{f"type {kind}": build("thermocouple", type=kind, cold="21.5 °C") for kind in "BEJKNRST"},
    "table": build("table", points="0 0; 512 20.5; 1023 48"),
    "table, falling cubic": build("table", points="0 10; 1 7; 2 6.5; 5 1", joined="monotone cubic"),
    "polynomial": build("polynomial", coefficients="1 0.5 0.25"),
    "ticks": build("timer ticks", clock="8 MHz", prescaler=64),
    "echo": build("echo"),
    "gate": build("gate rate", marks="2"),
    "interval": build("interval rate", marks="2"),
    "altitude": build("altitude"),
    "sea level": build("sea-level pressure", height="1000 m"),
    "power": build("power", input="2 V", output="10 lx"),
    "falling power": build("power", input="1 V", output="30 cm", exponent="-1.2"),
    "root": build("root", input="20 kPa", output="8 L/min"),
    "logarithm": build("logarithm", input="1 mV", output="20 dB", per_decade="20 dB"),
    "by two points": build("thermistor by points", points="10 kΩ @ 25 °C; 3.588 kΩ @ 50 °C"),
    "by three points": build("thermistor by points", points="32.65 kΩ @ 0 °C; 10 kΩ @ 25 °C; 3.603 kΩ @ 50 °C"),
    "dew point": build("dew point", air="25 °C"),
    "water at 0 °C": build("absolute humidity", air="0 °C"),
    "water at 20 °C": build("absolute humidity", air="20 °C"),
    "water at 30 °C": build("absolute humidity", air="30 °C"),
    "deficit at 20 °C": build("vapour pressure deficit", air="20 °C"),
    "deficit at 30 °C": build("vapour pressure deficit", air="30 °C"),
    "chill at 10 km/h": build("wind chill", wind="10 km/h"),
    "chill at 30 km/h": build("wind chill", wind="30 km/h"),
    "chill at 50 km/h": build("wind chill", wind="50 km/h"),
    "chill at 2.5 km/h": build("wind chill", wind="2.5 km/h"),
    "chill without wind": build("wind chill", wind="0 m/s"),
    "felt in moist air": build("apparent temperature", humidity="100 %", wind="0 m/s"),
    "felt in dry wind": build("apparent temperature", humidity="0 %", wind="10 m/s"),
    "length": build("vector length", unit="m/s²", second="4 m/s²"),
    "from level": build("tilt", second="3 m/s²", third="4 m/s²"),
    "from plumb": build("tilt", second="3 m/s²", third="4 m/s²", of="from plumb"),
    "direction": build("direction", second="1 m/s²", turn="-180 to 180 °"),
    "compass": build("direction", second="-1 m/s²"),
    "current by formula": build("formula", formula="x / r", names="r = 10 Ω", **{"from": "V", "to": "A"}),
}
