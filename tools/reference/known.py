"""What is known without being told: parts, panels, controllers, units, and the values that are tried first."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import replace
from itertools import groupby

from tools.reference.table import table

from lesart.core import usual
from lesart.core.glass.bus.controller import BYTE_BEFORE, EXPANDER, NOTHING, Command, Controller
from lesart.core.glass.bus.controllers import CONTROLLERS
from lesart.core.glass.panels.catalogue import CATALOGUE
from lesart.core.pace.scan import CAMERAS_HZ
from lesart.core.pace.task import WHOLE_WORDS, WORDS
from lesart.core.quantity import format_quantity, plain_number
from lesart.core.units import BASES, PREFIXES, TAKES_PREFIX, UNITS, Unit, parse_unit
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.part import GROUPS, PartKind, Pin, shown_address
from lesart.core.wire.preferred import E6, E12, E24, E96

HEAD = """\
# What is known

What Lesart knows without being told. Nothing here is closed: a part, a panel, a controller of your own is written into
the [project file](project-file.md) and is known as well as these.

*This page is made from the program by `make reference`.*
"""
GROUP_HEADS = {
    "board": "Boards",
    "source": "What feeds them",
    "sensor": "Sensors, and what they speak through",
    "display": "Displays and lamps",
    "driver": "Drivers",
    "between": "Between two pins",
}
PARTS = """
## Parts

What joins whom, and what is a fault, follows from these figures. They are the usual ones of such parts; a data sheet
that says something else is right. Figures of a row hold for each of its pins.
"""
PANELS = """
## Panels to begin with

`+` in 8 Glass takes these names; what is not said here is as the [project file](project-file.md) has it.
"""
CONTROLLER_TEXT = """
## Controllers

What a display's bytes do to its memory: what the stand-in obeys, what a recorded bus is read by, and what the packed
program sends. A dot in a byte is a bit that carries a value.
"""
UNIT_TEXT = """
## Units

What one of each is in units of the SI. Any may be multiplied, divided and raised: `mV/V`, `m/s²`, `ct`. A temperature
and a difference of temperatures are two things; `Δ°C` is the latter, and a degree in a compound unit always is one.
"""
TRIED = """
## Values that are tried first

Where a value that is written down does not explain a reading, [why](why.md) tries those that parts usually have.
"""
CLOCKS = """
## Clocks of an operation

What [Pace](guide/pace.md) takes an operation for, by the word of the processor, where nobody says how many clocks it
takes: in floats of four bytes, and in the whole numbers of a pack.
"""
CAMERAS = """
## Cameras

Pictures a second at which a scanned display may show bands on a recording.
"""
SERIES = """
## Preferred values

IEC 60063. The sums of the bench give values that can be bought.
"""


def page() -> str:
    """All of it."""
    return "\n".join(
        [
            HEAD,
            PARTS,
            *_parts(),
            PANELS,
            _panels(),
            CONTROLLER_TEXT,
            *_controllers(),
            UNIT_TEXT,
            *_units(),
            _tried(),
            _series(),
            _clocks(),
            f"{CAMERAS}\n{', '.join(f'{rate:g}' for rate in CAMERAS_HZ)}.\n",
        ]
    )


def _parts() -> Iterator[str]:
    for group in GROUPS:
        kinds = [kind for kind in KINDS.values() if kind.group == group]
        if kinds:
            yield f"\n### {GROUP_HEADS[group]}\n"
            yield from map(_part, kinds)


def _part(kind: PartKind) -> str:
    """Its pins, a row for neighbours that differ in their names alone."""
    head = f"\n`{kind.name}`: {'; '.join([kind.says, *_further(kind)])}.\n"
    runs = (list(run) for _, run in groupby(kind.pins, lambda pin: replace(pin, name="")))
    rows = [
        (" ".join(f"`{pin.name}`" for pin in run), " or ".join(run[0].roles), ", ".join(_figures(run[0])))
        for run in runs
    ]
    return head + "\n" + table(("pin", "can be", "figures"), rows) if rows else head


def _figures(pin: Pin) -> Iterator[str]:
    if pin.optional:
        yield "may stay open"
    if pin.lowest_v is not None and pin.highest_v is not None:
        yield f"takes {_of(pin.lowest_v, 'V')} to {_of(pin.highest_v, 'V')}"
    for amount, unit, says in (
        (pin.gives_v, "V", "gives {}"),
        (pin.tolerates_v, "V", "tolerates {}"),
        (pin.needs_high_v, "V", "high from {} on"),
        (pin.current_a, "A", "{}"),
        (pin.peak_a if pin.peak_a != pin.current_a else None, "A", "at most {}"),
        (pin.source_ohm, "Ω", "drives with {}"),
        (pin.accepts_ohm, "Ω", "reads sources up to {}"),
        (pin.forward_v, "V", "drops {}"),
        (pin.series_ohm or None, "Ω", "{} before it"),
        (pin.pull_up_ohm, "Ω", "{} up to its supply"),
        (pin.load_a or None, "A", "takes {} of its driver"),
    ):
        if amount is not None:
            yield says.format(_of(amount, unit))
    if pin.fed_by:
        yield f"fed by `{pin.fed_by}`"


def _further(kind: PartKind) -> Iterator[str]:
    if kind.addresses:
        yield f"answers at {' or '.join(map(shown_address, kind.addresses))}"
    if kind.logic_v is not None:
        yield f"signals of {_of(kind.logic_v, 'V')}"
    if kind.total_a is not None:
        yield f"all pins together {_of(kind.total_a, 'A')}"
    for order in kind.orders:
        yield f"also printed {' '.join(f'`{name}`' for name in order)}"


def _of(amount: float, unit: str) -> str:
    """With a prefix where that is how it is printed: 10 kΩ, 1.5 mA."""
    for prefix, least in (("M", 1e6), ("k", 1e3), ("", 1.0 if unit != "V" else 0.1), ("m", 1e-3), ("µ", 0.0)):
        if abs(amount) >= least or not amount:
            chosen = parse_unit(prefix + unit)
            return format_quantity(amount / float(chosen.scale / parse_unit(unit).scale), chosen, 6)
    raise AssertionError(amount)


def _panels() -> str:
    rows = (
        (f"`{name}`", ", ".join(f"{key} {_value(value)}" for key, value in settings.items()))
        for name, settings in CATALOGUE.items()
    )
    return table(("name", "what it stands for"), rows)


def _value(value: object) -> str:
    return {True: "yes", False: "no"}[value] if isinstance(value, bool) else f"{value}"


def _controllers() -> Iterator[str]:
    for each in CONTROLLERS.values():
        yield f"\n### {each.name}\n\n{'; '.join(_memory(each)).capitalize()}.\n"
        if each.commands:
            yield table(("byte", "does", "bytes more"), (_command(command) for command in each.commands))


def _memory(controller: Controller) -> Iterator[str]:
    if controller.told_by == NOTHING:
        yield "all bytes are data"
    elif not controller.chosen_by:
        yield f"commands are told from data by {controller.told_by}"
    if controller.told_by == BYTE_BEFORE:
        yield f"data follow where bit {controller.data_bit} of it is set, one byte where bit {controller.single_bit} is"
    if controller.told_by == EXPANDER:
        yield f"its lines from bit 0 on: {' '.join(controller.lines)}"
    if controller.chosen_by:
        where, level = controller.chosen_by.split()
        yield f"bits {where} the segments choose the digit by a {level} level"
    if controller.pages and controller.columns:
        yield f"{controller.pages} × {controller.columns} cells"
    yield ("it goes on by columns", "it goes on by pages", "it goes round within the page")[controller.order]


def _command(command: Command) -> tuple[str, str, str]:
    bits = "".join("." if command.bits >> bit & 1 else str(command.code >> bit & 1) for bit in range(7, -1, -1))
    return f"`{bits[:4]} {bits[4:]}`", command.does, str(command.more or "")


def _units() -> Iterator[str]:
    yield table(("unit", "is"), ((f"`{symbol}`", _in_si(unit)) for symbol, unit in UNITS.items()))
    prefixes = ", ".join(f"`{prefix}` {_power(float(factor))}" for prefix, factor in PREFIXES.items())
    yield f"Prefixes: {prefixes}; before {' '.join(f'`{symbol}`' for symbol in UNITS if symbol in TAKES_PREFIX)}.\n"


def _power(factor: float) -> str:
    return f"10{_raised(round(math.log10(factor)))}"


def _raised(power: int) -> str:
    return str(power).translate(str.maketrans("-0123456789", "⁻⁰¹²³⁴⁵⁶⁷⁸⁹"))


def _in_si(unit: Unit) -> str:
    powers = "·".join(
        base + (_raised(power) if power != 1 else "")
        for base, power in zip(BASES, unit.dimension, strict=True)
        if power
    )
    said = f"{plain_number(float(unit.scale), 12)} {powers}".strip()
    return f"{said}, its zero at {plain_number(float(unit.offset_k), 9)} K" if unit.offset_k else said


def _tried() -> str:
    rows: Iterable[tuple[str, Iterable[object]]] = (
        ("bits of a converter", usual.BITS),
        ("its reference", usual.REFERENCES),
        ("gain", usual.GAINS),
        ("beta of a thermistor", usual.BETAS),
        ("its resistance, and what stands in series", usual.RESISTANCES),
        ("sensitivity of a load cell", usual.SENSITIVITIES),
        ("clock of a timer", usual.CLOCKS),
        ("its prescaler", usual.PRESCALERS),
        ("its bits", usual.TIMER_BITS),
        ("gate of a counter", usual.GATES),
        ("marks of a wheel", usual.MARKS),
    )
    return TRIED + "\n" + table(("value", "tried"), ((what, ", ".join(map(str, tried))) for what, tried in rows))


def _series() -> str:
    series = (("E6", E6), ("E12", E12), ("E24", E24), ("E96", E96))
    return (
        SERIES + "\n" + table(("series", "values of a decade"), ((n, " ".join(f"{x:g}" for x in v)) for n, v in series))
    )


def _clocks() -> str:
    rows = ((word, f"{WORDS[word]:g}", f"{WHOLE_WORDS[word]:g}") for word in WORDS)
    return CLOCKS + "\n" + table(("word", "in floats", "in whole numbers"), rows)
