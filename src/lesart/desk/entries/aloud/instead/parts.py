"""What people ask 1 Wire for that is neither a part nor a connection: what it is made of here, or where it is said."""

from __future__ import annotations

from lesart.desk.entries.aloud.instead.asked import Asks, bare, first_of

ASKS: Asks = (
    (
        r"(?:pull[\s-]?ups?|pull[\s-]?downs?)\b|\S+\s+pull[\s-]?(?:ups?|downs?)\b|.*\bwith\s+(?:an?\s+)?\S*\s*pull",
        "a pull-up is a resistor from the line to a rail: first + resistor 4.7k, then sensor.data > board.3V3 through "
        "resistor",
    ),
    (
        r"(?:capacitors?|condensers?|decoupling|\d+\s*[pnµu]F)\b",
        "a capacitor that calms a supply changes no reading here; with a resistor in the line it is a filter",
    ),
    (
        r"(?:relay|motor|pump|valve|heater|fan|solenoid|lamp\s+strip)\b",
        "what a pin cannot carry hangs on a transistor: + transistor, then the line goes through it",
    ),
    (
        r"(?:gps|serial|uart|rs-?232|radio|wifi|bluetooth|network|ethernet)\b",
        "what speaks by a serial line or a network is listened to in 2 Raw, as /dev/ttyUSB0 at 9600, and needs no part",
    ),
    (r"(?:sd\s*card|card|memory|eeprom|flash|rtc|clock)\b", "what is no sensor and no display needs no part here"),
    (
        r"(?:humidity|temperature|pressure|light|distance|current|air|co2|gas|moisture|magnetic|colou?r)\s+"
        r"(?:sensor|probe|module)",
        "say how it speaks: two-wire module, single-wire sensor or analog sensor",
    ),
    (
        r"(?:barometer|hygrometer|thermometer|sensor|probe)\b",
        "say how it speaks: two-wire module, single-wire sensor or analog sensor",
    ),
    (
        r"(?:shift\s+)?registers?\b|driver\b",
        "of digits it is digits on registers, or numbered digits; on a bus line driver",
    ),
    (
        r"(?:(?:gnd|ground|vcc|vdd|vin|5\s?v|3[.,]?3\s?v|sda|scl|mosi|miso|sck|cs|tx|rx|out|data|clock)\b\s*)"
        r"(?:(?:to|>|->|and|with)\s*\S+)?$",
        "say whose pins they are, as sensor gnd to board gnd",
    ),
    (r"(?:connect|wire|join|hook)\b|.*\bto\b", "say which pins are joined, as sensor data to board p2"),
    (
        r"(?:i2c\s+)?(?:address\s+)?0x[0-9a-f]{2}\b",
        "its address is a value of a part; tab goes to it, or say it with the part",
    ),
    (r"(?:board|controller|micro\w*|processor|mcu|computer)$", "say its volts, as 5 V board or 3.3 V board"),
)


def done_otherwise(typed: str) -> str:
    """How it is done; empty for what nobody asks for so."""
    return first_of(ASKS, bare(typed))
