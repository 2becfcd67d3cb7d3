"""One line of text as programs and devices write it: its names, numbers and units, whatever is between them.

Colour sequences are removed; a JSON object is read as one; a comma between digits is a decimal sign where it cannot
separate two values.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping, Sequence
from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.cells import FLAGS
from lesart.core.raw.lines.line_names import NUMBER
from lesart.core.raw.lines.printed import value_in
from lesart.core.raw.lines.sentences import NO_READING, TOLD_TWICE, Sentence, sentence_in
from lesart.core.raw.spelled.unit_said import DEGREES, degrees_of, unit_said
from lesart.core.units import Unit

LONGEST_HEX, LONGEST_BITS = 20, 67
"""Most characters of such a number, sign and 0x or 0b included: more than 64 bits are not a reading."""
LONGEST_NAME = 60
DEEPEST = 4
_SEPARATORS = (";", "\t", "|", ",")
# Possessive: with backtracking a line of digits alone would take minutes.
_NUMBER = r"[+-]?+(?:0[xX][0-9a-fA-F]++|0[bB][01]++|(?:\d++(?:\.\d*+)?+|\.\d++)(?:[eE][+-]?\d++)?+)"
_SIGN = r"°\s?[CF]\b|°|[%‰]\s?(?:RH|rH|r\.H\.)?|\*[CF]\b|[A-Za-zµμΩ²³/·*%]{1,8}[²³2]?"
_UNIT = rf"(?:\s?({_SIGN})(?=[\s;,|)\]}}]|$)(?!\s*[=:]))?"
_SIGN_BEHIND = re.compile(rf"\s?({_SIGN})(?=[\s;,|)\]}}]|$)")
_LISTED = re.compile(
    r"(?<![\w.°%])(?<!\d )([^\W\d][\w.]{0,40})\s?[=:]?\s?[\[(]\s*+"
    rf"({_NUMBER}(?:\s*+[,;\s]\s*+{_NUMBER}){{1,15}})\s*+[\])]"
)
"""A list after its name: ``acc: [0.01, -0.02, 0.98]``."""
_TOLD = re.compile(rf"\s*+[^\W\d][\w ]{{0,40}}\s{_NUMBER}\s?(?:{_SIGN})?\s*+")
"""A name, a number and perhaps a unit between commas: ``T 21.5 C, H 40 %``."""
_VALUE = r"(" + _NUMBER + r"|[^\s;,|=:]*+(?!:\s*[-+.\d]))"
_NAMED = re.compile(
    r"(?:^(?:\+(?=[A-Z]))?|(?<=[\s;,|{\[(>]))([^\W\d][^=:;,|\t]{0,60}?)\s*(?:=|:(?!\d\d:))\s*+"
    + _VALUE
    + _UNIT
    + r"[^\s;,|=:]*+(?!\s*=|:\s)"
)
_FIRST_NUMBER = re.compile(r"(?<![\w.:])" + _NUMBER + r"(?![\w.:-]*\d)")
_PLAIN = re.compile(r"\s*+[+-]?+(?:\d++(?:\.\d*+)?+|\.\d++)(?:[eE][+-]?\d++)?+\s*+")
_NO_VALUE = re.compile(r"(nan|inf|-inf|null|none|n/?a|err\w*|ovf|ol|fail\w*|-+|\?+|\*+)$", re.IGNORECASE)
_WITH_COMMA = re.compile(r"(?<![\d,.])[+-]?\d+,\d+(?![\d,])")
_LEVEL = re.compile(
    r"(?:INFO|DEBUG|WARN(?:ING)?|ERROR|TRACE|VERBOSE|FATAL|NOTICE|CRIT(?:ICAL)?)\b[:\s]+(?=\S)", re.IGNORECASE
)
"""Severity words of logs, which are not part of a name."""
_COLOURS = re.compile(rb"\x1b(?:\[[0-9;?]*[ -/]*[@-~]|\][^\x07\x1b]{0,200}(?:\x07|\x1b\\)|[@-Z\\^_])")


@dataclass(frozen=True)
class LineCells:
    """``names`` are empty where the line has none; ``values`` NaN where there is none; ``units`` those after a number,
    as long as ``values``. ``separator`` is that of plain numbers; None where they are not plain."""

    names: tuple[str, ...]
    values: tuple[float, ...]
    units: tuple[Unit | None, ...]
    separator: bytes | None
    words: str = ""
    """The words between the numbers of a line, the same in each line of that kind."""
    wrong: str = ""
    """Why a well-formed line is not trusted."""
    passed_over: bool = False
    """True for a well-formed line without any value to read."""


def without_colours(line: bytes) -> bytes:
    """The line without sequences that only colour it or move the cursor."""
    return _COLOURS.sub(b"", line) if b"\x1b" in line else line


def readable(line: bytes) -> str | None:
    """The line as text; None where it holds bytes that no text has."""
    line = without_colours(line)
    try:
        text = line.decode("utf-8")
    except UnicodeDecodeError:
        text = line.decode("latin-1")
        # A degree sign in Latin-1 is one odd byte; many of them are not text.
        if sum(letter > "\x7e" for letter in text) > 2:
            return None
    return text if all(letter.isprintable() or letter == "\t" for letter in text) else None


def line_cells(text: str, decimal: str = ".") -> LineCells:
    """The cells of a line."""
    if text.lstrip()[:1] in ("$", "!") and (sentence := sentence_in(text)) is not None:
        return _of_sentence(sentence)
    if (begin := text.find("{")) >= 0 and text.rstrip().endswith("}"):
        found = _object(text[begin:])
        if found is not None:
            return found
    text = _LISTED.sub(_each_named, _with_points(text, decimal))
    named = _named(text)
    if named is not None:
        return named
    separator = next((sign for sign in _SEPARATORS if sign in text), "")
    cells = text.split(separator or None)
    if not separator and not all(map(_is_cell, cells)):
        return _spoken(text)
    if separator == "," and all(map(_TOLD.fullmatch, cells)):
        return _spoken(text)
    trailing = len(cells) > 1 and not cells[-1].strip()
    if trailing:
        cells.pop()
    plain = not trailing and decimal == "." and all(_PLAIN.fullmatch(cell) for cell in cells)
    return _row(cells, separator.encode() if plain else None)


def _spoken(text: str) -> LineCells:
    """Words and numbers mixed: the numbers alone make the row."""
    found = list(_FIRST_NUMBER.finditer(text))
    if not found:
        return replace(_row([text], None), words=" ".join(text.split()))
    values = tuple(math.nan if (value := number_in(each[0])) is None else value for each in found)
    signs = [_SIGN_BEHIND.match(text, each.end()) for each in found]
    if text[: found[0].start()].strip():
        # V 3.3 A 0.5: where the first number has a name, a lone sign before the next one is its name.
        ends = [each.start() for each in found[1:]]
        signs[:-1] = [
            None if sign and not text[sign.end() : end].strip() else sign
            for sign, end in zip(signs, ends, strict=False)
        ]
    units = tuple(_unit(sign[1]) if sign else None for sign in signs)
    return LineCells((), values, units, None, words=" ".join(_FIRST_NUMBER.sub(NUMBER, text).split()))


def _of_sentence(sentence: Sentence) -> LineCells:
    """The cells of a sentence, whose kind names its fields; values repeated in another kind are left to that, and a
    sentence with a wrong sum gives none."""
    twice = TOLD_TWICE.get(sentence.kind, ())
    values = {name: value for name, value in sentence.values.items() if name not in twice}
    if not values or sentence.wrong or sentence.kind in NO_READING:
        return LineCells((), (math.nan,), (None,), None, wrong=sentence.wrong, passed_over=not sentence.wrong)
    return LineCells(tuple(values), tuple(values.values()), tuple(map(sentence.units.get, values)), None)


def _row(cells: list[str], separator: bytes | None) -> LineCells:
    values = tuple(map(value_of_cell, cells))
    units = (None,) * len(cells) if separator is not None else tuple(map(_unit_behind, cells))
    return LineCells((), values, units, separator)


def _with_points(text: str, decimal: str) -> str:
    """Decimal commas as points, where they are stated or cannot mean anything else."""
    if decimal == ",":
        return re.sub(r"(?<=\d),(?=\d)", ".", text)
    found = _WITH_COMMA.findall(text)
    if not found or "." in re.sub(r"[^\d.,]", "", text).strip("."):
        return text
    # Names, a semicolon or a tab separate the values, so a comma between digits is a decimal sign.
    parted = ";" in text or "\t" in text or re.search(r"[=:]\s*[+-]?\d+,\d+(?:\D|$)", text)
    return _WITH_COMMA.sub(lambda match: match[0].replace(",", "."), text) if parted else text


def _named(text: str) -> LineCells | None:
    # The tag of a log, ``hut[412]: ``, is not a name: nothing comes after its colon.
    pairs = [(name, value, unit) for name, value, unit in _NAMED.findall(text) if value or _name(name)]
    if not pairs or not any(number_in(value) is not None for _, value, _ in pairs):
        return None
    names = tuple(_name(name) for name, _, _ in pairs)
    if len(set(names)) != len(names):
        names = _grouped(pairs)
    if len(set(names)) != len(names) or not all(names):
        return None
    values = [number_in(value) for _, value, _ in pairs]
    units = tuple(_unit(unit, name) if unit else None for name, (_, _, unit) in zip(names, pairs, strict=True))
    return LineCells(names, tuple(math.nan if value is None else value for value in values), units, None)


def _grouped(pairs: Sequence[tuple[str, str, str]]) -> tuple[str, ...]:
    """Names of ``Acc X: 1 Y: 2 Gyro X: 3 Y: 4`` are four: a first word holds until the next one. What stands where a
    unit might, and is none, is such a word."""
    found, group, before = [], "", ""
    for name, _, behind in pairs:
        first, apart, last = f"{before} {_name(name)}".strip().rpartition(" ")
        group = first if apart else group
        found.append(f"{group} {last}".strip())
        before = behind if behind and _unit(behind) is None else ""
    return tuple(found)


def _each_named(match: re.Match[str]) -> str:
    """``acc.1=0.01 acc.2=-0.02``: the form in which a line names its numbers."""
    numbers = re.split(r"[,;\s]+", match[2].strip())
    return " ".join(f"{match[1]}.{place}={number}" for place, number in enumerate(numbers, 1))


def _name(written: str) -> str:
    """The name after the last bracket or arrow: anything before is a level or a tag of a log."""
    name = re.split(r"->|=>|[>\])}]", written)[-1]
    return _LEVEL.sub("", " ".join(name.strip(" \"'{[(").split()))[:LONGEST_NAME]


def _object(text: str) -> LineCells | None:
    try:
        found = value_in(text)
    except (ValueError, RecursionError):
        return None
    if not isinstance(found, dict):
        return None
    pairs: dict[str, float] = {}
    _flatten(found, "", pairs, DEEPEST)
    if not pairs:
        return None
    return LineCells(tuple(pairs), tuple(pairs.values()), (None,) * len(pairs), None)


def _flatten(found: Mapping[str, object], before: str, pairs: dict[str, float], deeper: int) -> None:
    """Numbers and booleans by name; null is missing, words make no column."""
    for key, value in found.items():
        name = f"{before}{key}"[:LONGEST_NAME]
        if isinstance(value, Mapping) and deeper:
            _flatten(value, f"{name}.", pairs, deeper - 1)
        elif isinstance(value, bool | int | float):
            pairs[name] = _finite(value)
        elif value is None:
            pairs[name] = math.nan
        elif isinstance(value, str) and (number := number_in(value)) is not None:
            pairs[name] = number
        elif isinstance(value, list) and all(isinstance(each, int | float) for each in value):
            pairs |= {f"{name}.{place}": _finite(each) for place, each in enumerate(value[:16], 1)}


def _finite(value: float) -> float:
    try:
        number = float(value)
    except OverflowError:
        return math.nan
    return number if math.isfinite(number) else math.nan


def _is_cell(cell: str) -> bool:
    return number_in(cell) is not None or bool(_NO_VALUE.match(cell))


def value_of_cell(cell: str) -> float:
    """A cell's number, ignoring a unit after it; NaN where it holds none."""
    match = _FIRST_NUMBER.search(cell) or re.match(r"\s*(" + _NUMBER + rf")(?=\s?(?:{_SIGN})\s*$)", cell)
    if match is None or _NO_VALUE.match(cell.strip()):
        return FLAGS.get(cell.strip().lower(), math.nan)
    value = number_in(match[0])
    return math.nan if value is None else value


def _unit_behind(cell: str) -> Unit | None:
    match = re.match(rf"\s*{_NUMBER}\s?({_SIGN})\s*$", cell)
    return _unit(match[1]) if match else None


def _unit(sign: str, name: str = "temperature") -> Unit | None:
    """``*C`` is written for °C; a star alone ends a line. Degrees of what has no name are most likely of a
    temperature."""
    if sign.lower() in DEGREES:
        return degrees_of(name)
    return unit_said(sign.replace("*", "°")) if sign != "*" else None


def number_in(text: str) -> float | None:
    """The number in a text; None where it is not finite. True and false are 1 and 0."""
    text = text.strip()
    if not re.fullmatch(_NUMBER, text):
        return FLAGS.get(text.lower()) if text.lower() in ("true", "false", "on", "off") else None
    if "x" in text.lower():
        return float(int(text, 16)) if len(text) <= LONGEST_HEX else None
    if "b" in text.lower():
        return float(int(text, 2)) if len(text) <= LONGEST_BITS else None
    value = float(text)
    return value if math.isfinite(value) else None
