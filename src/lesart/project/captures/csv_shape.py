"""Finding out how a file of numbers is written, so that nobody has to be asked."""

from __future__ import annotations

import re
from datetime import datetime
from itertools import pairwise
from pathlib import Path

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError, UnitError
from lesart.core.units import Unit, parse_unit
from lesart.project.folder.files import open_file, read_whole

DELIMITERS = {",": ",", ";": ";", "tab": "\t", "|": "|", "space": " "}
"""As the project file names them."""
SAMPLE_BYTES = 65_536
SAMPLE_LINES = 200
_NUMBER = {
    ".": re.compile(r"[+-]?(?:\d++(?:\.\d*+)?|\.\d++)(?:[eE][+-]?\d++)?$"),
    ",": re.compile(r"[+-]?(?:\d++(?:,\d*+)?|,\d++)(?:[eE][+-]?\d++)?$"),
}
_TIME_NAMES = re.compile(
    r"(t|time|times?tamp|date.?time|date|zeit|seconds|secs?|millis|micros|ms|us|µs|uptime|epoch)\b", re.IGNORECASE
)
_UNIT_IN_BRACKETS = re.compile(r"[\[(]\s*([^\])]+?)\s*[\])]\s*$|/\s*([^/\s]+)\s*$")
_UNIT_BY_SUFFIX = {"us": "µs", "degc": "°C", "degf": "°F", "c": "°C", "f": "°F", "pct": "%", "percent": "%"}
_SUFFIXES = frozenset(
    {
        "s",
        "ms",
        "us",
        "ct",
        "mv",
        "v",
        "kg",
        "g",
        "a",
        "ma",
        "pa",
        "hpa",
        "hz",
        "k",
        "ohm",
        "lx",
        "mm",
        "m",
        "w",
        "min",
        "db",
        *_UNIT_BY_SUFFIX,
    }
)
_SPELLING = {
    "mv": "mV",
    "v": "V",
    "a": "A",
    "ma": "mA",
    "pa": "Pa",
    "hpa": "hPa",
    "hz": "Hz",
    "k": "K",
    "w": "W",
    "ohm": "Ω",
    "db": "dB",
}


@dataclass(frozen=True)
class CsvShape:
    """How a file is written. ``time`` is a column's name or empty; ``units`` by column name, where it says one."""

    delimiter: str
    decimal: str
    header: int
    names: tuple[str, ...]
    time: str
    time_unit: str
    units: dict[str, Unit]
    whole: frozenset[str]
    """Columns of whole numbers only: counts, most likely."""

    @property
    def value_names(self) -> tuple[str, ...]:
        """All columns but the time."""
        return tuple(name for name in self.names if name != self.time)


def sample_text(path: Path) -> str:
    """The first lines of a text file. Raises CaptureError for a file that is missing, empty or binary."""
    with open_file(path) as file:
        head = file.read(SAMPLE_BYTES)
    if not head.strip():
        raise CaptureError(f"{path}: it is empty; a capture holds rows of numbers.")
    if b"\0" in head:
        where = head.index(b"\0")
        raise CaptureError(f"{path}: byte {where} is 0, so it is binary; a capture here is text with rows of numbers.")
    text = decoded(head)
    return text if len(head) < SAMPLE_BYTES else text.rpartition("\n")[0]


def decoded(data: bytes) -> str:
    """UTF-8, or Latin-1 where it is not: every byte is a letter there, and numbers are the same in both."""
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        if error.start > len(data) - 4:  # a letter cut in two at the end of the sample
            return data[: error.start].decode("utf-8-sig")
        return data.decode("latin-1")


def text_lines(path: Path, *, whole_only: bool = False) -> list[str]:
    """All lines of a text file. Only line ends end a line: other separators are letters of a cell.

    ``whole_only`` leaves out a last line without an end: a recording that was killed may end in half a number.
    """
    data = read_whole(path)
    return _lines(decoded(data[: data.rfind(b"\n") + 1] if whole_only else data))


def _lines(text: str) -> list[str]:
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    return lines[:-1] if lines and not lines[-1] else lines


def find_shape(path: Path) -> CsvShape:
    """Delimiter, decimal sign, header, names, time column and units of a file of numbers. Raises CaptureError."""
    lines = [line for line in _lines(sample_text(path)) if line.strip() and not line.startswith("#")]
    lines = lines[:SAMPLE_LINES]
    if not lines:
        raise CaptureError(f"{path}: it holds comments and blank lines only; a capture holds rows of numbers.")
    best = max(
        (
            (_score(lines, sign, decimal), name, decimal)
            for name, sign in DELIMITERS.items()
            for decimal in ".,"
            if sign != decimal
        ),
        key=lambda entry: entry[0],
    )
    (share, columns, _), delimiter, decimal = best
    if share < 0.3 or columns < 1:
        raise CaptureError(f'{path}: no rows of numbers were found; the first line is "{_printable(lines[0][:40])}".')
    rows = [split_row(line, DELIMITERS[delimiter]) for line in lines]
    first = next((index for index, row in enumerate(rows) if len(row) == columns and _holds_number(row, decimal)), None)
    if first is None:
        raise CaptureError(f"{path}: it holds moments and no numbers; a reading needs a column of its own.")
    names = _names(rows[first - 1] if first else [], columns)
    body = [row for row in rows[first:] if len(row) == columns]
    header = _header_lines(path, lines[first])
    time, time_unit = _time(names, body, decimal, bool(first))
    units = {name: unit for name in names if (unit := unit_in_name(name)) is not None}
    whole = frozenset(
        name
        for column, name in enumerate(names)
        if all(not row[column] or row[column].lstrip("+-").isdigit() for row in body)
    )
    return CsvShape(
        delimiter=delimiter,
        decimal=decimal,
        header=header,
        names=names,
        time=time,
        time_unit=time_unit,
        units=units,
        whole=whole,
    )


def split_row(line: str, sign: str) -> list[str]:
    """Cells of one line without quotes and blanks around them; a run of spaces is one delimiter."""
    cells = line.split() if sign == " " else line.split(sign)
    return [cell.strip().strip('"').strip() for cell in cells]


def _score(lines: list[str], sign: str, decimal: str) -> tuple[float, int, int]:
    """Share of cells that are numbers in the rows of the most common width, that width, and how many rows have it."""
    rows = [split_row(line, sign) for line in lines]
    widths = [len(row) for row in rows]
    usual = max(set(widths), key=lambda width: (widths.count(width), width))
    same = [row for row in rows if len(row) == usual]
    cells = [cell for row in same for cell in row]
    good = sum(_numeric(cell, decimal) or _moment(cell) is not None for cell in cells)
    # Rows of another width count against it: a wrong delimiter seldom gives one width throughout.
    share = good / max(len(cells), 1) * len(same) / len(rows)
    # "1,5" alone in every row under a one-word header is a decimal comma, not two columns.
    if sign == "," and usual == 2 and widths[0] == 1 and len(lines) > 1:
        return (0.0, usual, len(same))
    return (round(share, 2), usual, len(same))


def _holds_number(row: list[str], decimal: str) -> bool:
    return any(_numeric(cell, decimal) for cell in row)


def _numeric(cell: str, decimal: str) -> bool:
    return bool(_NUMBER[decimal].match(cell))


def _moment(cell: str) -> datetime | None:
    if len(cell) < 8 or not cell[:4].isdigit():
        return None
    try:
        return datetime.fromisoformat(cell)
    except ValueError:
        return None


def _header_lines(path: Path, first_row: str) -> int:
    """Lines of the file, comments and blank ones included, before the first row."""
    for number, line in enumerate(_lines(sample_text(path))):
        if line == first_row:
            return number
    return 0


def _names(header: list[str], columns: int) -> tuple[str, ...]:
    """Names from a header of the right width, made distinct; else ``column 1`` and so on."""
    if len(header) != columns:
        return tuple(f"column {number}" for number in range(1, columns + 1))
    names: list[str] = []
    for number, cell in enumerate(header, 1):
        name = _printable(cell)[:60] or f"column {number}"
        names.append(name if name not in names else f"{name} {number}")
    return tuple(names)


def _printable(text: str) -> str:
    return "".join(letter if letter.isprintable() else "·" for letter in text)


def unit_in_name(name: str) -> Unit | None:
    """The unit a column's name ends in: ``mass [kg]``, ``mass (kg)``, ``mass / kg``, ``mass_kg``; else None."""
    if match := _UNIT_IN_BRACKETS.search(name):
        text = match[1] or match[2]
    else:
        suffix = name.rpartition("_")[2] if "_" in name else ""
        if suffix.lower() not in _SUFFIXES:
            return None
        text = _UNIT_BY_SUFFIX.get(suffix.lower(), _SPELLING.get(suffix.lower(), suffix))
    try:
        return parse_unit(text)
    except UnitError:
        return None


def _time(names: tuple[str, ...], body: list[list[str]], decimal: str, named: bool) -> tuple[str, str]:
    """Name and unit of the time column; an empty name when there is none."""
    for column, name in enumerate(names):
        cells = [row[column] for row in body]
        if len(names) > 1 and cells and all(_moment(cell) for cell in cells[:20]):
            return name, "ISO 8601"
        unit = unit_in_name(name)
        says_time = bool(_TIME_NAMES.match(name)) or (unit is not None and unit.symbol in ("s", "ms", "µs"))
        guess = not named and column == 0
        if len(names) > 1 and (says_time or guess) and _rising(cells, decimal, strictly=guess):
            return name, _time_unit(name, unit, cells, decimal)
    return "", "s"


def _rising(cells: list[str], decimal: str, *, strictly: bool) -> bool:
    values = [float(cell.replace(decimal, ".")) for cell in cells if _numeric(cell, decimal)]
    if len(values) < max(2, len(cells) // 2):
        return False
    # Most steps, not all: a clock that once ran back is still the clock.
    up = sum(after > before if strictly else after >= before for before, after in pairwise(values))
    return up >= 0.9 * (len(values) - 1)


def _time_unit(name: str, unit: Unit | None, cells: list[str], decimal: str) -> str:
    if unit is not None and unit.symbol in ("s", "ms", "µs"):
        return unit.symbol
    lowered = name.lower()
    if lowered.startswith(("milli", "ms")):
        return "ms"
    if lowered.startswith(("micro", "us", "µs")):
        return "µs"
    # Seconds since 1970 have ten digits until the year 2286; more digits are a finer unit.
    first = next((cell for cell in cells if _numeric(cell, decimal)), "0").replace(decimal, ".")
    size = abs(float(first))
    return "µs" if size > 1e14 else "ms" if size > 1e11 else "s"
