"""Lines in 1 Wire that are neither a part nor a connection: what does it instead, and nothing changes."""

from __future__ import annotations

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk


@pytest.fixture
def desk(hut: Desk) -> Desk:
    hut.open_step(Step.WIRE)
    return hut


@pytest.mark.parametrize(
    ("line", "pin"),
    [
        ("button on p77", "p77"),
        ("led on pin 77", "77"),
        ("button on gpio99", "gpio99"),
        ("4 digit display clk 2 dio 99", "99"),
        ("oled sda 70 scl 71", "70"),
    ],
)
def test_a_pin_that_no_board_has_is_named(line: str, pin: str, desk: Desk) -> None:
    """None is dropped, and no other one guessed."""
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == (
        f'"{line}": board has no pin {pin}; it has p1-p16 a1-a6; where yours has more, + signal pins says which.'
    )
    assert desk.state.history.text == before


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("pull-up", "a pull-up is a resistor from the line to a rail: first + resistor 4.7k, then sensor.data > "),
        ("rgb led on 9 10 11", "it is three lamps; say each, like red led on p9 with 220 ohm"),
        (
            "usb power",
            "a board is fed by its own plug unless something else feeds it; then say what does, like battery",
        ),
        ("SDA 21, SCL 22, VCC 3V3, GND GND", "say whose pins they are, like oled sda p8 scl p9 vcc 3v3 gnd gnd"),
        ("capacitor 100 nF", "a capacitor across a supply changes no reading here"),
        ("relay on p5", "what a pin cannot carry goes through a transistor"),
        ("gps serial", "what speaks over a serial line or a network needs no part"),
        ("humidity sensor", "say how it speaks: two-wire module, single-wire sensor or analog sensor"),
        ("shift register", "for digits it is digits on registers, or numbered digits"),
        ("common ground", "j joins all remaining pins by their roles, the grounds too"),
        ("servo on p9", "what neither changes nor shows a reading needs no part here"),
        ("remove the display", "select a value of the part or the line with tab, then press delete"),
        ("rename p3 to button", "R renames the part whose value is selected"),
        ("two sensors with the same address", "two parts with one address get a note"),
        ("level shifter 5V to 3.3V", "a level shifter goes into a line: first + level shifter, then sensor.data > "),
        ("ground", "say whose pins they are, like sensor gnd to board gnd"),
        ("0x27", "its address is a value of a part; tab goes to it"),
        ("buck converter 12 V to 5 V", "say what it gives, like supply 5 V 2 A"),
        ("100 nF across supply", "a capacitor across a supply changes no reading here"),
        ("fuse 1 A", "what neither changes nor shows a reading needs no part here"),
        ("sd card", "what is neither a sensor nor a display needs no part here"),
        ("microcontroller", "say its volts, like 5 V board or 3.3 V board"),
    ],
)
def test_what_is_no_part_is_told_with_what_does_it(line: str, says: str, desk: Desk) -> None:
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message.startswith(f'"{line}" is neither a part nor a connection; {says}')
    assert desk.state.history.text == before


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("ntc to p3", '"ntc" is a part; say which of its pins, as ntc.1; it has 1, 2.'),
        ("fix to p3", '"fix" has no pins; a connection goes through it: name two pins, and "through fix" after them.'),
    ],
)
def test_a_part_without_a_pin_is_asked_for_it(line: str, says: str, desk: Desk) -> None:
    desk.add(line)
    assert desk.state.message == says
