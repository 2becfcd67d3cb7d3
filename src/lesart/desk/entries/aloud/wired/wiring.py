"""A part or a connection as people say it, translated into what 1 Wire accepts.

``a 10k resistor`` is ``resistor = resistor 10k``, ``a 16x2 lcd with a backpack`` a two-wire character display, and
``sensor sda to board sda`` is joined by the roles of the pins, whatever a part calls them.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.glass.panels.catalogue import LAMPS
from lesart.core.notes import Written
from lesart.core.wire.entry import free_name
from lesart.core.wire.hookup import End, Hookup
from lesart.core.wire.part import PartKind
from lesart.desk.entries.aloud.article import without_article
from lesart.desk.entries.aloud.figures import FIGURE, takes
from lesart.desk.entries.aloud.wired.pin_names import BY_ROLE, POWER, pins_numbered, without_pins
from lesart.desk.entries.recipes.shown.displays import display_in
from lesart.desk.entries.recipes.shown.displays_aloud import OF_PAPER, driven_otherwise
from lesart.desk.entries.recipes.shown.displays_told import described, left_over
from lesart.desk.entries.recipes.shown.lamps_aloud import lamps_told
from lesart.desk.entries.said.patterns import any_case
from lesart.desk.entries.said.supply import without_supply
from lesart.desk.entries.typed_values import as_written

# Parts

ALOUD: tuple[tuple[str, str], ...] = (
    (rf"(?:{OF_PAPER.pattern})(?:[\s-]+(?:display|panel|screen))?", "e-paper display"),
    (r"(?:single|one)[\s-]board computer|small computer", "3.3 V computer"),
    (
        r"3[.,]3 ?V (?:(?:micro)?(?:controller|processor)(?: board)?|mcu|board)|"
        r"(?:(?:micro)?(?:controller|processor)(?: board)?|mcu|board) (?:of |at |with )?3[.,]3 ?V",
        "3.3 V board",
    ),
    (
        r"5 ?V (?:(?:micro)?(?:controller|processor)(?: board)?|mcu|board)|"
        r"(?:(?:micro)?(?:controller|processor)(?: board)?|mcu|board) (?:of |at |with )?5 ?V",
        "5 V board",
    ),
    (r"(?:lipo|li-?ion|lithium|alkaline|coin|button)[\s-]*(?:cell|battery)|power bank|lipo|accumulator", "battery"),
    (r"(?:bench |mains |wall )?power supply|(?:mains|wall) adapter", "supply"),
    (r"boost converter|step[\s-]up(?: converter)?", "step-up"),
    (r"(?:linear |voltage |ldo )regulator|ldo", "regulator"),
    (r"(?:logic |bidirectional )*level[\s-]+(?:shifter|converter|translator)(?: module)?", "level shifter"),
    (r"(?:i2c|i²c|two-wire)[\s-]+(?:module|breakout)", "two-wire module"),
    (r"(?:i2c|i²c)[\s-]+sensor", "two-wire sensor"),
    (
        r"(?:single|one)[\s-]wire (?:\w+ )?(?:sensor|thermometer|probe)|"
        r"(?:\w+ )?(?:sensor|thermometer|probe) (?:on |with )?(?:single|one)[\s-]wire",
        "single-wire sensor",
    ),
    (
        r"(?:i2c|i²c|two[\s-]wire) (?:\w+ )?(?:sensor|barometer|hygrometer|thermometer)|"
        r"(?:\w+ )?(?:sensor|barometer|hygrometer|thermometer) (?:on |with )?(?:i2c|i²c|two[\s-]wires?)",
        "two-wire sensor",
    ),
    (r"(?:(?:7|seven)[\s-]segment|(?:4|four)[\s-]digit)(?: led)? display", "four digits"),
    (r"parallel (?:character )?lcd|lcd (?:on |in )?parallel", "character display"),
    (
        r"anemometer(?: reed(?: contact| switch)?)?|rain gauge|"
        r"(?:rain (?:gauge|sensor),? (?:with |of )?(?:an? )?)?tipping bucket|(?:door|window|float) (?:contact|switch)",
        "contact",
    ),
    (
        r"(?:flow|water) (?:meter|sensor)|hall (?:sensor|switch)|(?:fan )?tach(?:o(?:meter)?)?|(?:optical )?encoder",
        "beam counter",
    ),
    (r"rotary encoder(?: (?:module|knob))?|encoder knob", "rotary encoder"),
    (r"joystick(?: module)?|thumb ?stick", "joystick"),
    (
        r"(?:pir|motion|presence|proximity|obstacle|touch|tilt|vibration|flame|rain|line|knock)"
        r"(?: (?:motion )?(?:sensor|detector|switch|module|pad))|pir",
        "switching sensor",
    ),
    (
        r"ldr|(?:photo|light)(?:[\s-]?dependent)?[\s-]?(?:resistor|cell)|photocell|(?:force[\s-]sensitive|force|flex|bend|fsr)"
        r"(?: (?:sensor|resistor))|fsr|(?:pt|platinum) ?-?1000?(?: sensor)?|platinum (?:sensor|probe|resistor)|rtd",
        "resistive sensor",
    ),
    (
        r"(?:spi|four[\s-]wire)[\s-]+(?:\w+ )?(?:sensor|module|breakout|amplifier|converter|adc)|"
        r"(?:\w+ )?(?:sensor|module|amplifier|converter|adc) (?:on |with )?(?:spi|four wires?)",
        "four-wire module",
    ),
    (r"oled(?: display)?", "two-wire pixel display"),
    (r"tft(?: display)?|colou?r (?:tft|lcd)", "colour display"),
    (r"imu|gyroscope|gyro|accelerometer", "inertial module"),
    (r"microphone|mic", "microphone module"),
    (r"ultrasonic(?: (?:sensor|ranger))?|ranger", "echo ranger"),
    (r"light barrier|photo interrupter", "beam counter"),
    (r"(?:fuel |level |float |oil |pressure |tank |resistive )*sender|(?:rotary|selector) switch", "resistive sensor"),
    (r"(?:push[\s-]?|reed )?(?:button|switch)|reed (?:contact|relay)", "contact"),
    (r"NTC(?: thermistor)?", "thermistor"),
    (r"(?:trim)?pot|trimmer|(?:wind )?vane", "potentiometer"),
    (r"(?:bridge|load cell|strain gauge) (?:amplifier|converter)", "bridge amplifier"),
    (r"RS-?485 (?:driver|transceiver|module)|transceiver", "line driver"),
    (r"Modbus (?:meter|sensor|device)", "register meter"),
    (r"(?:soil |light |gas |moisture |analogue |analog )+sensor", "analog sensor"),
    (r"piezo|beeper", "buzzer"),
    (r"(?:[^\W\d]+ )?(?:led|light-emitting diode)", "lamp"),
    (r"voltage divider", "divider"),
    (r"(?:RC|low[\s-]?pass) filter", "filter"),
    (r"(?:logic )?level (?:converter|translator)", "level shifter"),
    (r"mosfet|n-channel fet", "transistor"),
)
"""Names of kinds of parts. A board's voltage is not guessed where it is not stated."""
_ADDRESS = re.compile(r"\s*(?:\bat\s+)?(?:address\s+)?\b(?P<address>0x[0-9a-f]{2})\b", re.IGNORECASE)
_SMALL = re.compile(r"^(?:with|of|at|and|an?|the|each|in|for)$", re.IGNORECASE)
_CALLED = re.compile(r"\s+(?:called|named)\s+(?P<name>[^\d\W][\w -]*)$", re.IGNORECASE)
SHORT = {"board": "board", "source": "supply", "sensor": "sensor", "display": "glass", "driver": "driver"}
_ON_PIN = re.compile(
    r"(?:^|\s)(?:on|to|at(?=\s+pin))\s+(?:pin\s+)?(?P<pin>[a-z]{0,4}\d{1,2})\b(?!\s*(?:[mk]?[VAΩ]\b|ohm|[%°.,]))",
    re.IGNORECASE,
)
LONGEST_NAME = 14
"""A kind with a longer name gives a part the name of its group."""


@dataclass(frozen=True)
class PartSaid:
    """A part: its name, its kind, and its values by their names."""

    name: str
    kind: PartKind
    values: Mapping[str, Written]


def part_said(typed: str, kinds: Mapping[str, PartKind], taken: Mapping[str, object]) -> PartSaid | None:
    """The part that is named; None where no kind is. Raises RequestError for figures that are not values of it."""
    called = _CALLED.search(typed)
    said = without_article(_CALLED.sub("", typed))
    address = _ADDRESS.search(said)
    found = _kind_in(_ADDRESS.sub(" ", said).strip(), kinds)
    if found is None:
        return None
    kind, rest = found
    name = called["name"] if called else free_name(taken, _short(kind))
    if kind.pins and kind.group != "board" and (placed := _ON_PIN.search(said)):
        pin = placed["pin"] if placed["pin"][0].isalpha() else f"pin {placed['pin']}"
        part = said[: placed.start()].strip() or kind.name
        raise RequestError(
            f'"{typed.strip()}" is a part and a connection, which are two entries: first {part}, '
            f"then {name}.{signal_pin(kind)} to {pin}."
        )
    if not kind.pins and (placed := _ON_PIN.search(said)):
        part = " ".join(f"{said[: placed.start()]} {said[placed.end() :]}".split())
        raise RequestError(
            f'"{typed.strip()}": {kind.called} goes into a line; say both of its ends, like battery + to '
            f"{placed['pin']} through {part}."
        )
    if not any(takes(each, "5 V") for each in kind.parameters):
        rest = without_supply(rest, kind)
    values = _values_in(rest, kind)
    if kind.name == LAMPS and (many := lamps_told(said.lower())[0]).get("assumed") != "width":
        values["lamps"] = int(many["width"]) * int(many.get("height", 1))
    if address is not None:
        kind = _at_address(int(address["address"], 16), kind, kinds)
        values["address"] = f"0x{int(address['address'], 16):02X}"
    return PartSaid(name, kind, values)


def named_part(said: str, kind: PartKind, kinds: Mapping[str, PartKind], taken: Mapping[str, object]) -> PartSaid:
    """A part of a kind known from its pins, with its name and address if stated."""
    called, address = _CALLED.search(said), _ADDRESS.search(said)
    values: dict[str, Written] = {}
    if address is not None:
        kind = _at_address(int(address["address"], 16), kind, kinds)
        values["address"] = f"0x{int(address['address'], 16):02X}"
    return PartSaid(called["name"] if called else free_name(taken, _short(kind)), kind, values)


def signal_pin(kind: PartKind) -> str:
    """The pin by which it is read or driven: a tap or an output before all others; empty for what has none of its own,
    like a resistor."""
    carry = [pin for pin in kind.pins if not set(pin.roles) <= set(POWER)]
    gives = [pin for pin in carry if any(role == "wiper" or role.endswith(" out") for role in pin.roles)]
    return next((pin.name for pin in (*gives, *carry, *kind.pins)), "")


def is_part_on_a_pin(typed: str, kinds: Mapping[str, PartKind]) -> bool:
    """True for ``ntc on a0``, which says two things at once."""
    return (_ON_PIN.search(typed) is not None or bool(pins_numbered(typed))) and _kind_in(
        without_article(typed), kinds
    ) is not None


def _short(kind: PartKind) -> str:
    """A short name: ``board`` for a 5 V board, ``sensor`` for a kind with a long name."""
    if "amplifier" in kind.name:
        return "amplifier"
    if kind.group == "display" and len(kind.name) > LONGEST_NAME:
        return "digits" if "digits" in kind.name else "glass"
    return SHORT.get(kind.group, kind.name) if kind.group == "board" or len(kind.name) > LONGEST_NAME else kind.name


def _at_address(address: int, kind: PartKind, kinds: Mapping[str, PartKind]) -> PartKind:
    """A kind of its group that can have the address, where only the bus is stated."""
    alike = (kind, *(each for each in kinds.values() if each.group == kind.group and each.name.startswith("two-wire")))
    return next((each for each in alike if address in each.addresses), kind)


def _kind_in(said: str, kinds: Mapping[str, PartKind]) -> tuple[PartKind, str] | None:
    """The named kind, by the longest name in the text, and the rest of the text."""
    display = display_in(said) or display_in(described(f"a {said}"))
    if display is not None and display[1].part in kinds:
        shown = kinds[display[1].part]
        left = left_over(without_pins(said, shown), display[0])
        return shown, f"{pins_numbered(said, shown)} {left}"
    if otherwise := driven_otherwise(said):
        raise RequestError(otherwise)
    matches = [
        (found, kind)
        for pattern, kind in (*((re.escape(name), name) for name in kinds), *ALOUD)
        if kind in kinds and (found := any_case(rf"(?<![\w.-])(?:{pattern})(?![\w-])").search(said))
    ]
    if not matches:
        return None
    found, kind = max(matches, key=lambda each: len(each[0][0]))
    # Another word for the same kind adds nothing: a lipo battery.
    rest = f"{said[: found.start()]} {said[found.end() :]}"
    for pattern, name in ALOUD:
        if name == kind:
            rest = any_case(rf"(?<![\w.-])(?:{pattern})(?![\w-])").sub(" ", rest)
    return kinds[kind], rest


def _values_in(rest: str, kind: PartKind) -> dict[str, Written]:
    """Values by name, each for the first parameter of its dimension; two resistances of a divider in order."""
    found: dict[str, Written] = {}
    figures = [re.sub(r"\s*ohms?\b", " Ω", each.strip(), flags=re.IGNORECASE) for each in FIGURE.findall(rest)]
    for word in re.split(r"[\s,/+]+", FIGURE.sub(" ", rest)):
        if word and not _SMALL.match(word):
            raise RequestError(f'"{word}" says nothing of {kind.called}; {_asks(kind)}.')
    for figure in figures:
        parameter = next((each for each in kind.parameters if each.name not in found and takes(each, figure)), None)
        if parameter is None:
            raise RequestError(f'"{figure}" says nothing of {kind.called}; {_asks(kind)}.')
        found[parameter.name] = as_written(parameter, figure)
    return found


def _asks(kind: PartKind) -> str:
    names = ", ".join(
        f"{each.title} ({each.unit})" if each.unit not in ("", "1") else each.title for each in kind.parameters
    )
    return f"it takes {names}" if names else "it takes no value"


# Connections

_JOIN = re.compile(
    r"^(?:(?:connect|join|wire|solder)\s+)?(?P<pin>\S.*?)\s*(?:\s(?:goes\s+)?to\s|-{1,2}>|→|\s(?:-|–|—)\s)\s*(?P<to>\S.*?)"
    r"(?:\s+(?:through|via|with|over)\s+(?P<through>\S.*))?$",
    re.IGNORECASE,
)
RAILS = re.compile(r"^(?P<volts>3[.,]3|3v3|5)\s*V?$", re.IGNORECASE)
GROUPS = (
    (r"(?:micro)?controller|mcu|processor|board", "board"),
    (r"sensor|probe|module", "sensor"),
    (r"display|oled|lcd|screen|tft", "display"),
    (r"battery|power supply", "source"),
)


def join_plainly(typed: str, hookup: Hookup) -> str | None:
    """``part.pin > part.pin through part``; None where it is no connection.

    Raises RequestError for a pin that nothing here has.
    """
    found = _JOIN.match(typed.strip())
    if found is None or not hookup.parts:
        return None
    pin, to = end_said(found["pin"], hookup), end_said(found["to"], hookup)
    through = f" through {found['through'].strip()}" if found["through"] else ""
    return f"{pin} > {to}{through}"


def end_said(said: str, hookup: Hookup) -> End:
    """``sensor sda``, ``sda of the sensor`` or ``sensor.data``; a pin alone is the board's where there is one.

    Raises RequestError with the existing pins.
    """
    said = without_article(said)
    if said in hookup.parts:
        raise RequestError(_which_pin(said, hookup))
    part, pin = _part_and_pin(said, hookup)
    if part is None:
        raise RequestError(f'"{said}" names no part of the hook-up; it has {", ".join(hookup.parts)}.')
    name = _pin_of(part, pin, hookup)
    if name is None:
        pins = ", ".join(each.name for each in hookup.parts[part].kind.pins)
        raise RequestError(f'"{pin}" is not a pin of {part}; it has {pins}.')
    return End(part, name)


def _which_pin(name: str, hookup: Hookup) -> str:
    """What to say about a part named without a pin."""
    pins = [each.name for each in hookup.parts[name].kind.pins]
    if not pins:
        return f'"{name}" has no pins; a connection goes through it: name two pins, and "through {name}" after them.'
    return f'"{name}" is a part; say which of its pins, as {name}.{pins[0]}; it has {", ".join(pins)}.'


def _part_and_pin(said: str, hookup: Hookup) -> tuple[str | None, str]:
    names = {name: re.escape(name) for name in sorted(hookup.parts, key=len, reverse=True)}
    for pattern, group in GROUPS:
        of_group = [part.name for part in hookup.parts.values() if part.kind.group == group]
        if len(of_group) == 1:
            names.setdefault(of_group[0], re.escape(of_group[0]))
            names[of_group[0]] += f"|{pattern}"
    for name, pattern in names.items():
        first = re.match(rf"(?:{pattern})(?:'s)?(?:\s+|\s*\.\s*)(?P<pin>\S.*)$", said, re.IGNORECASE)
        last = re.match(rf"(?P<pin>\S.*?)\s+(?:of|on|at)\s+(?:the\s+)?(?:{pattern})$", said, re.IGNORECASE)
        if found := first or last:
            return name, found["pin"].strip()
    boards = [part.name for part in hookup.parts.values() if part.kind.group == "board"]
    return (boards[0] if len(boards) == 1 else None), said


def _pin_of(part: str, said: str, hookup: Hookup) -> str | None:
    pins = hookup.parts[part].kind.pins
    said = re.sub(r"\s+pin$|^pin\s+(?!\d)", "", said, flags=re.IGNORECASE)
    by_name = {each.name.lower(): each.name for each in pins}
    numbered = re.fullmatch(r"(?:pin|gpio|dio|io|d|p)\s*(\d+)", said, re.IGNORECASE)
    for word in (said.lower(), f"p{numbered[1]}" if numbered else ""):
        if word in by_name:
            return by_name[word]
    if rail := RAILS.match(said):
        return by_name.get("5v" if rail["volts"] == "5" else "3v3")
    for pattern, roles in BY_ROLE:
        if re.fullmatch(pattern, said, re.IGNORECASE):
            found = ([each.name for each in pins if role in each.roles] for role in roles)
            fit: list[str] = next(filter(None, found), [])
            return fit[0] if len(fit) == 1 or (fit and "ground" in roles) else None
    return None
