"""Parts and connections as people say them, held against the tables that they become in the project."""

from __future__ import annotations

import re
import tomllib
from typing import Any

import pytest

from lesart.core.step import Step
from lesart.core.wire.catalogue import KINDS
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.wired.pin_names import POWER
from lesart.desk.entries.aloud.wired.wiring import ALOUD, part_said, signal_pin

PARTS: list[tuple[str, str, dict[str, Any]]] = [
    ("a 10k resistor", "resistor", {"kind": "resistor", "resistance": "10k"}),
    ("a 4.7 kΩ resistor", "resistor", {"kind": "resistor", "resistance": "4.7 kΩ"}),
    ("resistor 220 ohms", "resistor", {"kind": "resistor", "resistance": "220 Ω"}),
    ("a 1k resistor, 0.5 W, 5 %", "resistor", {"resistance": "1k", "power": "0.5 W", "tolerance": "5 %"}),
    ("a 10k NTC", "thermistor", {"kind": "thermistor", "resistance": "10k"}),
    ("a 10k pot called knob", "knob", {"kind": "potentiometer", "resistance": "10k"}),
    ("a voltage divider 100k/33k", "divider", {"kind": "divider", "upper": "100k", "lower": "33k"}),
    ("an RC filter 10k 100 nF", "filter", {"kind": "filter", "resistance": "10k", "capacitance": "100 nF"}),
    ("a red led 20 mA", "lamp", {"kind": "lamp", "current": "20 mA"}),
    ("a 3.3 V microcontroller", "board 2", {"kind": "3.3 V board"}),
    ("a 5 V board", "board 2", {"kind": "5 V board"}),
    ("a LiPo battery 3.7 V, 2000 mAh", "battery", {"kind": "battery", "voltage": "3.7 V", "capacity": "2000 mAh"}),
    ("a 5 V power supply 2 A", "supply", {"kind": "supply", "voltage": "5 V", "current": "2 A"}),
    ("an LDO 3.3 V", "regulator", {"kind": "regulator", "voltage": "3.3 V"}),
    ("a push button", "contact", {"kind": "contact"}),
    ("a reed switch called tip", "tip", {"kind": "contact"}),
    ("a load cell", "load cell", {"kind": "load cell"}),
    ("a load cell amplifier", "amplifier", {"kind": "bridge amplifier"}),
    ("an accelerometer at 0x69", "sensor", {"kind": "inertial module", "address": "0x69"}),
    ("a barometer on i2c", "sensor", {"kind": "two-wire sensor"}),
    ("temperature sensor one wire", "sensor", {"kind": "single-wire sensor"}),
    ("an anemometer", "contact", {"kind": "contact"}),
    ("a rain gauge called tips", "tips", {"kind": "contact"}),
    ("a flow meter", "beam counter", {"kind": "beam counter"}),
    ("a 7 segment display", "four digits", {"kind": "four digits"}),
    ("board 3.3 V", "board 2", {"kind": "3.3 V board"}),
    ("an I2C sensor at 0x44", "sensor", {"kind": "two-wire sensor", "address": "0x44"}),
    ("an I2C sensor at 0x76", "sensor", {"kind": "two-wire module", "address": "0x76"}),
    ("a soil moisture sensor", "analog sensor", {"kind": "analog sensor"}),
    ("a logic level converter", "level shifter", {"kind": "level shifter"}),
    ("an OLED at 0x3d", "glass", {"kind": "two-wire pixel display", "address": "0x3D"}),
    ("a 128x64 oled, SPI", "glass", {"kind": "four-wire pixel display"}),
    ("a 16x2 lcd with a backpack", "glass", {"kind": "two-wire character display"}),
    ("power supply 12 V 2 A", "supply", {"kind": "supply", "voltage": "12 V", "current": "2 A"}),
    ("regulator 5 V to 3.3 V", "regulator", {"kind": "regulator", "voltage": "3.3 V"}),
    ("step-up from 3.7 V to 5 V", "step-up", {"kind": "step-up", "voltage": "5 V"}),
    ("board with 5 V logic", "board 2", {"kind": "5 V board"}),
]
REFUSED = [
    ("a servo", '"servo" is not a kind of part'),
    ("a relay on pin 5", '"relay on pin 5" is not a kind of part'),
    ("a resistor", "needs its resistance"),
    ("a led on pin 77", '"a led on pin 77": board has no pin 77; it has p1-p16 a1-a6; where yours has more, '),
    ("thermistor on a2 with 10k resistor", "10k: say where that resistor leads: with 10k to ground"),
    ("ldr on a2 with 10k", "10k: say where that resistor leads: with 10k to ground"),
    ("a 10k lamp", '"10k" says nothing of a lamp'),
    ("a button 5 V", '"5 V" says nothing of a contact; it takes no value'),
    ("an OLED at 0x50", "0x3C"),
    ("decoupling capacitor 100 nF", "a capacitor across a supply changes no reading here"),
]
JOINS = [
    ("glass sda to board sda", "glass.data", "board.p15", ""),
    ("connect glass vcc to 3.3V", "glass.supply", "board.3V3", ""),
    ("glass vdd to 5 V", "glass.supply", "board.5V", ""),
    ("glass.gnd to gnd", "glass.gnd", "board.gnd", ""),
    ("gnd of glass -> gnd of the board", "glass.gnd", "board.gnd", ""),
    ("oled scl → mcu scl", "glass.clock", "board.p16", ""),
    ("sensor output to pin 5", "sensor.out", "board.p5", ""),
    ("the sensor's out to board p3 through a 10k resistor", "sensor.out", "board.p3", "resistor"),
    ("sensor out to board p3 through fix", "sensor.out", "board.p3", "fix"),
    ("glass.data > board.p15", "glass.data", "board.p15", ""),
]


@pytest.fixture
def desk(hut: Desk) -> Desk:
    hut.open_step(Step.WIRE)
    return hut


def tables(desk: Desk) -> dict[str, Any]:
    return tomllib.loads(desk.state.history.text)


@pytest.mark.parametrize(("line", "name", "wanted"), PARTS, ids=[line for line, _, _ in PARTS])
def test_a_part_is_what_was_said(line: str, name: str, wanted: dict[str, Any], desk: Desk) -> None:
    before = set(tables(desk)["parts"])
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    parts = tables(desk)["parts"]
    assert set(parts) - before == {name}
    assert {key: parts[name].get(key) for key in wanted} == wanted
    assert all(str(value) in desk.state.message for value in wanted.values())


@pytest.mark.parametrize(("line", "says"), REFUSED, ids=[line for line, _ in REFUSED])
def test_what_is_no_part_or_no_value_of_one_is_refused(line: str, says: str, desk: Desk) -> None:
    before = tables(desk)
    desk.add(line)
    assert desk.state.message_is_fault
    assert says in desk.state.message
    assert tables(desk) == before


@pytest.mark.parametrize(("line", "pin", "to", "through"), JOINS, ids=[line for line, *_ in JOINS])
def test_pins_are_found_by_what_they_are_for(line: str, pin: str, to: str, through: str, desk: Desk) -> None:
    for part in ("an OLED called glass", "an analog sensor called sensor"):
        desk.add(part)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    found = tables(desk)
    last = found["wire"]["joins"][-1]
    assert (last["pin"], last["to"], last.get("through", "")) == (pin, to, through)
    assert not through or found["parts"][through]["kind"] == "resistor"


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("glass sda to board foo", '"foo" is not a pin of board'),
        ("glass tx to board rx", '"tx" is not a pin of glass'),
        ("foo bar to board sda", '"foo bar" is not a pin of board'),
        ("sensor out to p3 through a led", "is not a part of the hook-up"),
        ("ground to ground", "board.gnd and board.gnd are both pins of board; say whose pins they are"),
    ],
)
def test_a_pin_that_is_not_there_is_named(line: str, says: str, desk: Desk) -> None:
    for part in ("an OLED called glass", "an analog sensor called sensor"):
        desk.add(part)
    before = tables(desk)
    desk.add(line)
    assert desk.state.message_is_fault
    assert says in desk.state.message
    assert tables(desk) == before


ON_PINS = [
    name
    for name, kind in KINDS.items()
    if kind.group != "board" and any(not set(pin.roles) <= set(POWER) for pin in kind.pins)
]
"""Kinds of parts that carry a signal; the others stand between supplies."""


@pytest.mark.parametrize("name", ON_PINS)
def test_a_part_on_a_pin_is_a_part_and_its_line(name: str, desk: Desk) -> None:
    """In one edit, by a pin that carries its signal and no supply."""
    before, text = set(tables(desk)["parts"]), desk.state.history.text
    needs = [each for each in KINDS[name].parameters if each.default is None and not each.optional]
    desk.add(" ".join([name, *("4k7" if each.unit == "Ω" else f"5 {each.unit}" for each in needs), "on pin 5"]))
    assert not desk.state.message_is_fault, desk.state.message
    (added,) = set(tables(desk)["parts"]) - before
    last = tables(desk)["wire"]["joins"][-1]
    assert (last["pin"], last["to"]) == (f"{added}.{signal_pin(KINDS[name])}", "board.p5")
    assert desk.state.message.endswith(f"; joined: {last['pin']} to board.p5")
    roles = next(pin.roles for pin in KINDS[name].pins if pin.name == signal_pin(KINDS[name]))
    assert not set(roles) & {"supply", "ground"}, roles
    desk.undo()
    assert desk.state.history.text == text


@pytest.mark.parametrize(
    ("line", "kind", "joins"),
    [
        ("led on p9 with 330 ohm", "lamp", [("+", "p9", "330 Ω")]),
        ("led p9 330", "lamp", [("+", "p9", "330 Ω")]),
        ("red led on p9 through a 4k7 resistor", "lamp", [("+", "p9", "4k7 Ω")]),
        ("lamp on pin 9 2 V 20 mA", "lamp", [("+", "p9", "")]),
        ("thermistor on a2 10k", "thermistor", [("1", "a2", "")]),
        ("ultrasonic trig p4 echo p5", "echo ranger", [("start", "p4", ""), ("echo", "p5", "")]),
        ("ultrasonic sensor, echo on p5 and trigger on p4", "echo ranger", [("echo", "p5", ""), ("start", "p4", "")]),
        ("load cell amplifier dt p2 sck p3", "bridge amplifier", [("data", "p2", ""), ("clock", "p3", "")]),
        ("two-wire sensor sda p8 scl p9", "two-wire sensor", [("data", "p8", ""), ("clock", "p9", "")]),
        ("current sensor on a2", "analog sensor", [("out", "a2", "")]),
        ("fan tach on p7", "beam counter", [("out", "p7", "")]),
        ("led d9 220 ohm", "lamp", [("+", "p9", "220 Ω")]),
        ("hall sensor on GPIO7", "beam counter", [("out", "p7", "")]),
        ("button d3 to ground with pull-up", "contact", [("1", "p3", ""), ("2", "gnd", "")]),
        ("button 4", "contact", [("1", "p4", "")]),
        ("motion sensor on 7 to 5v", "switching sensor", [("out", "p7", ""), ("supply", "5V", "")]),
        ("hall sensor on 3 to ground", "beam counter", [("out", "p3", ""), ("gnd", "gnd", "")]),
        ("touch sensor 4", "switching sensor", [("out", "p4", "")]),
        ("led on p9 with 330 ohm to ground", "lamp", [("+", "p9", ""), ("−", "gnd", "330 Ω")]),
        ("led p9 330 ohm gnd", "lamp", [("+", "p9", ""), ("−", "gnd", "330 Ω")]),
        ("led on p9 with 330 ohm to 5V", "lamp", [("−", "p9", ""), ("+", "5V", "330 Ω")]),
        ("buzzer on p3 with 100 ohm to ground", "buzzer", [("+", "p3", ""), ("−", "gnd", "100 Ω")]),
        ("hall sensor on pin 3 with pullup 10k", "beam counter", [("out", "p3", ""), ("out", "5V", "10k")]),
        (
            "humidity sensor data on 2 with 10k pullup",
            "single-wire sensor",
            [("data", "p2", ""), ("data", "5V", "10k")],
        ),
        ("temperature probe one wire on pin 2", "single-wire sensor", [("data", "p2", "")]),
        ("bridge amplifier data p2 clock p3", "bridge amplifier", [("data", "p2", ""), ("clock", "p3", "")]),
        (
            "rotary encoder clk 2 dt 3 sw 4",
            "rotary encoder",
            [("A", "p2", ""), ("B", "p3", ""), ("switch", "p4", "")],
        ),
        ("joystick x a1 y a2 sw 4", "joystick", [("x", "a1", ""), ("y", "a2", ""), ("switch", "p4", "")]),
        ("4 digit display clk 2 dio 3", "digits on two lines", [("clock", "p2", ""), ("data", "p3", "")]),
        (
            "7 segment display with shift register data 11 clock 13 latch 10",
            "digits on registers",
            [("data", "p11", ""), ("clock", "p13", ""), ("latch", "p10", "")],
        ),
        (
            "8x8 matrix din 11 cs 10 clk 13",
            "chained modules",
            [("data", "p11", ""), ("select", "p10", ""), ("clock", "p13", "")],
        ),
        (
            "thermocouple amplifier so 12 cs 7 sck 10",
            "four-wire module",
            [("out", "p12", ""), ("select", "p7", ""), ("clock", "p10", "")],
        ),
        (
            "lcd 16x2 rs 12 en 11 d4-d7 5 4 3 2",
            "character display",
            [(pin, f"p{at}", "") for pin, at in (("rs", 12), ("e", 11), ("d4", 5), ("d5", 4), ("d6", 3), ("d7", 2))],
        ),
        (
            "display cs 7 dc 9 rst 8 mosi 11 sck 10",
            "four-wire pixel display",
            [("select", "p7", ""), ("dc", "p9", ""), ("reset", "p8", ""), ("data", "p11", ""), ("clock", "p10", "")],
        ),
        ("potentiometer wiper a2", "potentiometer", [("wiper", "a2", "")]),
        ("button with pull-up on p4", "contact", [("1", "p4", ""), ("2", "gnd", "")]),
        ("sensor out to a2", "analog sensor", [("out", "a2", "")]),
        ("sensor signal to a2", "analog sensor", [("out", "a2", "")]),
        ("lcd on i2c", "two-wire character display", [("data", "p15", ""), ("clock", "p16", "")]),
        ("led with resistor 330 on p4", "lamp", [("+", "p4", "330 Ω")]),
        ("oled on i2c", "two-wire pixel display", [("data", "p15", ""), ("clock", "p16", "")]),
        ("oled at 0x3c on sda scl", "two-wire pixel display", [("data", "p15", ""), ("clock", "p16", "")]),
        ("load cell amplifier dt 4 sck 5", "bridge amplifier", [("data", "p4", ""), ("clock", "p5", "")]),
        (
            "two-wire sensor vcc 3v3 gnd gnd sda p8 scl p9",
            "two-wire sensor",
            [("data", "p8", ""), ("clock", "p9", ""), ("supply", "3V3", ""), ("gnd", "gnd", "")],
        ),
    ],
)
def test_a_part_with_its_pins_is_one_line(line: str, kind: str, joins: list[tuple[str, str, str]], desk: Desk) -> None:
    """And one edit; a lamp with the resistor that it hangs on."""
    before, text = set(tables(desk)["parts"]), desk.state.history.text
    count = len(tables(desk)["wire"]["joins"])
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    now = tables(desk)
    (name,) = [each for each in set(now["parts"]) - before if now["parts"][each]["kind"] == kind]
    made = [(each["pin"], each["to"], each.get("through", "")) for each in now["wire"]["joins"][count:]]
    assert [(pin, to) for pin, to, _ in made] == [(f"{name}.{pin}", f"board.{to}") for pin, to, _ in joins]
    for (_, _, through), (_, _, ohms) in zip(made, joins, strict=True):
        assert now["parts"].get(through, {}).get("resistance", "") == ohms
    desk.undo()
    assert desk.state.history.text == text


@pytest.mark.parametrize(
    ("line", "rail", "other"),
    [
        ("thermistor 10k on a2 with 10k to ground", "5V", "gnd"),
        ("thermistor 10k on a2, 10k pull-down", "5V", "gnd"),
        ("thermistor 10k on a2 with a 4k7 pull-up", "gnd", "5V"),
        ("thermistor 10k on a2 and 4700 ohm resistor to 5V", "gnd", "5V"),
        ("ldr on a2 with 10k to ground", "5V", "gnd"),
        ("photoresistor a2 10k pulldown", "5V", "gnd"),
        ("pt1000 on a2 with 1k to 5v", "gnd", "5V"),
        ("light sensor on a2 with 10k to ground", "5V", "gnd"),
        ("fuel sender on a2 with 100 ohm to 5 V", "gnd", "5V"),
        ("wind vane on a2 with 10k to 5 V", "gnd", "5V"),
        ("rotary switch on a2 with 10k to ground", "5V", "gnd"),
        ("button on a2 with 10k to ground", "5V", "gnd"),
    ],
)
def test_two_leads_and_their_resistor_are_a_divider(line: str, rail: str, other: str, unwired: Desk) -> None:
    """Three lines of one edit, on a board that is assumed where there was none: the tap lies between the two."""
    before = unwired.state.history.text
    unwired.add(line)
    assert not unwired.state.message_is_fault, unwired.state.message
    now = tables(unwired)
    assert {key: now["parts"]["board"][key] for key in ("kind", "assumed")} == {"kind": "5 V board", "assumed": "kind"}
    assert unwired.state.message.endswith("; board is assumed to be a 5 V board")
    (sensor,) = set(now["parts"]) - {"board", "resistor"}
    joins = {(each["pin"], each["to"]): each.get("through", "") for each in now["wire"]["joins"]}
    assert joins == {
        (f"{sensor}.1", "board.a2"): "",
        (f"{sensor}.2", f"board.{rail}"): "",
        ("board.a2", f"board.{other}"): "resistor",
    }
    unwired.undo()
    assert unwired.state.history.text == before


@pytest.mark.parametrize(
    ("line", "says"),
    [
        (
            "const int ledPin = 9;",
            '"const int ledPin = 9;": say which part is on it, like button on p9, or ultrasonic trig p9 echo p5.',
        ),
        (
            "#define DHT 4",
            '"#define DHT 4": say which part is on it, like button on p4, or ultrasonic trig p4 echo p5.',
        ),
    ],
)
def test_pins_as_programs_have_them_are_told_how_they_are_said(line: str, says: str, unwired: Desk) -> None:
    unwired.add(line)
    assert unwired.state.message == says


def test_a_board_is_not_joined_to_itself(desk: Desk) -> None:
    """5 V to the board's own input says a line and means a part."""
    before = desk.state.history.text
    desk.add("5v to vcc")
    assert desk.state.message == (
        "board.5V and board.in are both pins of board; say whose pins they are, like sensor gnd to board gnd."
    )
    assert desk.state.history.text == before


def test_ohms_alone_are_a_resistor(desk: Desk) -> None:
    desk.add("a2 to gnd through 10k")
    made = tables(desk)
    assert made["parts"][made["wire"]["joins"][-1]["through"]] == {"kind": "resistor", "resistance": "10k"}
    desk.undo()


def test_what_stands_in_a_line_has_two_ends(desk: Desk) -> None:
    desk.add("divider 100k 33k on a1")
    assert desk.state.message == (
        '"divider 100k 33k on a1": a divider goes into a line; say both of its ends, like battery + to a1 through divider '
        "100k 33k."
    )


@pytest.mark.parametrize(
    ("name", "pin"),
    [
        ("potentiometer", "wiper"),
        ("analog sensor", "out"),
        ("beam counter", "out"),
        ("single-wire sensor", "data"),
        ("echo ranger", "echo"),
        ("contact", "1"),
        ("lamp", "+"),
    ],
)
def test_the_pin_that_is_meant_carries_the_signal(name: str, pin: str) -> None:
    assert signal_pin(KINDS[name]) == pin


@pytest.mark.parametrize("name", KINDS)
def test_every_kind_can_be_said_by_its_name(name: str) -> None:
    said = part_said(f"a {name}", KINDS, {})
    assert said is not None
    assert said.kind.name == name
    assert not said.values


def test_every_name_that_people_give_a_kind_is_one_of_a_kind() -> None:
    """And no two say the same words of different kinds."""
    assert {kind for _, kind in ALOUD} <= set(KINDS)
    for pattern, _ in ALOUD:
        re.compile(pattern)
    for name in KINDS:
        others = {kind for pattern, kind in ALOUD if re.fullmatch(pattern, name, re.IGNORECASE)}
        assert others <= {name}


@pytest.mark.parametrize(("line", "rail"), [("4.7k pull-up on pin 2", "5V"), ("10k pull-down on D2", "gnd")])
def test_a_pull_up_on_a_pin_assumes_the_board(line: str, rail: str, unwired: Desk) -> None:
    """Where the hook-up has none; its resistor has the value that was said."""
    unwired.add(line)
    assert not unwired.state.message_is_fault, unwired.state.message
    made = tables(unwired)
    (join,) = made["wire"]["joins"]
    assert (join["pin"], join["to"]) == ("board.p2", f"board.{rail}")
    assert made["parts"][join["through"]] == {"kind": "resistor", "resistance": line.partition(" ")[0]}
    assert made["parts"]["board"]["assumed"] == "kind"


def test_the_clock_of_the_bus_is_one_of_the_board(desk: Desk, unwired: Desk) -> None:
    desk.add("i2c bus 400 kHz")
    assert tables(desk)["parts"]["board"]["bus_clock"] == "400 kHz"
    before = unwired.state.history.text
    unwired.add("i2c bus 400 kHz")
    assert unwired.state.message == (
        '"i2c bus 400 kHz" is neither a part nor a connection; it is a value of the board; first say which that is, '
        "like 3.3 V board."
    )
    assert unwired.state.history.text == before
