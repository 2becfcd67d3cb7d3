"""Requests to 1 Wire that are neither a part nor a connection: what they consist of here, or where they are set."""

from __future__ import annotations

from lesart.desk.entries.aloud.instead.asked import Asks, bare, first_of

NO_JOINS: Asks = (
    (
        r"(?!.*\b(?:strips?|rings?|sticks?|mats?|matri\w+|addressable|smart|digital)\b)(?:rgb\b|.*\brgb\s+led)",
        "it is three lamps; say each, like red led on p9 with 220 ohm",
    ),
    (
        r"(?:usb|powered|power(?!\s+(?:supply|bank)))\b.*|5\s?V\s+(?:from|of|by)\s+usb$",
        "a board is fed by its own plug unless something else feeds it; then say what does, like battery 3.7 V, and "
        "battery + to board in",
    ),
    (r"rename\b", "R renames the part whose value is selected"),
    (
        r"(?:remove|delete|take\s+away|disconnect)\b",
        "select a value of the part or the line with tab, then press delete",
    ),
    (
        r"(?:capacitors?|condensers?|decoupling|\d+\s*[pnµu]F)\b",
        "a capacitor across a supply changes no reading here; with a resistor in the line it is a filter",
    ),
    (
        r"(?:buck|step[\s-]?down)(?:\s+(?:converter|regulator|module))?\b.*",
        "say what it gives, like supply 5 V 2 A",
    ),
    (
        r"level\s+(?:shift\w*|convert\w*|translat\w*)\s+\S.*|level\s+(?:shift|convert|translat)(?:ing|ion)?$|.*\b5\s?V\b.*\b3[.,]3\s?V\b",
        "a level shifter goes into a line: first + level shifter, then sensor.data > board.p2 through level shifter; "
        "where one is needed a note says so",
    ),
)
"""Lines that look like a connection, from something to something, and are not."""
ASKS: Asks = (
    (
        r"(?:pull[\s-]?ups?|pull[\s-]?downs?)\b|\S+\s+pull[\s-]?(?:ups?|downs?)\b|.*\bwith\s+(?:an?\s+)?\S*\s*pull",
        "a pull-up is a resistor from the line to a rail: first + resistor 4.7k, then sensor.data > board.3V3 through "
        "resistor",
    ),
    (
        r"(?:(?:i2c|i²c|two-wire)\s+)?bus\s+(?:clock|speed|\d)",
        "it is a value of the board; first say which that is, like 3.3 V board",
    ),
    (r".*\bsame\s+address", "two parts with one address get a note, with the address that the other can have"),
    (r"(?:common|all)\s+(?:ground|gnd)s?$", "j joins all remaining pins by their roles, the grounds too"),
    (
        r"(?:diodes?|zener|fuses?|multiplexers?|mux|key\s?pad|servo|stepper)\b",
        "what neither changes nor shows a reading needs no part here",
    ),
    (
        r"(?:relay|motor|pump|valve|heater|fan|solenoid|lamp\s+strip)\b",
        "what a pin cannot carry goes through a transistor: + transistor, then name it in the line",
    ),
    (
        r"(?:gps|serial|uart|rs-?232|radio|wifi|bluetooth|network|ethernet)\b",
        "what speaks over a serial line or a network needs no part; 2 Raw listens to it, like /dev/ttyUSB0 at 9600",
    ),
    (
        r"(?:sd\s*card|card|memory|eeprom|flash|rtc|clock)\b",
        "what is neither a sensor nor a display needs no part here",
    ),
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
        "for digits it is digits on registers, or numbered digits; on a bus line driver",
    ),
    (
        r"(?:(?:gnd|ground|vcc|vdd|vin|5\s?v|3[.,]?3\s?v|sda|scl|mosi|miso|sck|cs|tx|rx|out|data|clock)\b\s*)"
        r"(?:(?:to|>|->|and|with)\s*\S+)?$",
        "say whose pins they are, like sensor gnd to board gnd",
    ),
    (
        r"(?:(?:spi|i2c)\s+)?(?:sda|scl|sck|mosi|miso|cs|tx|rx|vcc|vdd|gnd|data|clk|dio|din)\b.*\d",
        "say whose pins they are, like oled sda p8 scl p9 vcc 3v3 gnd gnd",
    ),
    (r"(?:connect|wire|join|hook)\b|.*\bto\b", "say which pins are joined, like sensor data to board p2"),
    (
        r"(?:i2c\s+)?(?:address\s+)?0x[0-9a-f]{2}\b",
        "its address is a value of a part; tab goes to it, or say it with the part",
    ),
    (
        r"(?:board|controller|micro\w*|processor|mcu|computer)(?:\s+(?:runs|works|is|at)\b.*)?$",
        "say its volts, like 5 V board or 3.3 V board",
    ),
)


def no_join(typed: str) -> str:
    """How it is done, for lines that look like a connection; else empty."""
    return first_of(NO_JOINS, bare(typed))


def done_otherwise(typed: str) -> str:
    """How it is done; empty where it is not recognised."""
    return first_of((*NO_JOINS, *ASKS), bare(typed))
