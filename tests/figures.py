"""The figures in a sentence, read as a person reads them, against what its note holds for the program."""

from __future__ import annotations

import re
from collections.abc import Iterator

from lesart.core.errors import LesartError
from lesart.core.notes import Note
from lesart.core.quantity import parse_quantity
from lesart.core.units import Unit, parse_unit

NUMBER = re.compile(
    r"(?<![\w.])[−-]?\d{1,3}(?:[  ]\d{3})+(?:\.\d+)?(?![\d])|(?<![\w.])[−-]?\d+(?:\.\d+)?(?:e[−-]?\d+)?"
)
SYMBOL = re.compile(r" ?((?:Δ?°[CFR]?|[%‰]|[A-Za-zµμΩ]+)(?:[/·][A-Za-zµμΩ²³°]+)*[²³]?)")


def quantities(text: str) -> Iterator[tuple[float, float, str]]:
    """Each number with half of its last printed digit, and what stands behind it as a unit would."""
    for found in NUMBER.finditer(text):
        digits = re.sub(r"[  ]", "", found[0]).replace("−", "-")
        mantissa, _, power = digits.partition("e")
        decimals = len(mantissa.partition(".")[2]) - int(power or 0)
        symbol = SYMBOL.match(text, found.end())
        yield float(digits), 0.5 * 10.0**-decimals, symbol[1] if symbol else ""


def says(text: str, figure: float, unit: str) -> bool:
    """Does some number of the text, in whatever unit it is printed, stand for this figure?

    A figure of more than three digits may be printed with three.
    """
    wanted = _unit(unit)
    for value, half, symbol in quantities(text):
        for each in (symbol, unit):
            try:
                scale = float(parse_unit(each).scale / wanted.scale) if wanted is not None and each else 1.0
                read = parse_quantity(f"{value!r} {each}", wanted).to(wanted) if wanted is not None and each else value
            except LesartError:
                continue
            if abs(abs(read) - figure) <= max(half * scale, 0.006 * abs(figure)) * 1.001:
                return True
    return False


def _unit(symbol: str) -> Unit | None:
    """None for what is counted and not measured: pins, bytes."""
    try:
        return parse_unit(symbol) if symbol else None
    except LesartError:
        return None


def unsaid(note: Note) -> str:
    """The sentence of a note that does not say its own figure; empty where it does.

    A share may be said as so many of so many, a number of parts by their names.
    """
    if note.figure is None:
        return ""
    subject = re.split(r" is | are | \(", note.text)[0]
    if note.unit in ("parts", "pins") and len(re.split(r", | and ", subject)) == note.figure:
        return ""
    all_ = re.search(r"\ball (\d[\d ]*\d|\d) ", note.text)
    if note.unit == "%" and note.figure == 100 and all_:
        return ""
    text, figure = f"{note.text} {note.remedy or ''}", abs(note.figure)
    shares = [
        100 * float(one.replace(" ", "")) / float(all_.replace(" ", ""))
        for one, all_ in re.findall(r"(\d[\d ]*) of (\d[\d ]*\d)", note.text)
    ]
    hexadecimal = [int(found, 16) for found in re.findall(r"0x[0-9A-F]+", note.text)]
    if (note.unit == "%" and any(abs(share - figure) < 1e-6 for share in shares)) or figure in hexadecimal:
        return ""
    return "" if says(text, figure, note.unit or "") else f"{note.figure} {note.unit} is not in: {text}"
