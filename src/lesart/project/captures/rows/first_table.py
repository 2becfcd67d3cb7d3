"""Several tables in one file, each with its own header: the first is read, the others are reported."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.quantity import counted
from lesart.core.raw.source import Source
from lesart.core.visible import visible
from lesart.project.captures.rows.csv_shape import DELIMITERS, split_row
from lesart.project.captures.rows.row import is_value


def first_table(lines: list[str], names: Sequence[str], source: Source) -> tuple[list[str], tuple[str, ...]]:
    """The lines up to where another table begins, and a sentence on that; all of them where there is none. Where the
    same names are written again, as a logger does that was switched on again, their line is left blank.

    Another one has the time column's name in its place again and calls another column otherwise: a logger that was
    switched on again writes the same names.
    """
    if not source.header:
        return lines, ()
    lines = _once_headed(lines, source)
    if source.time not in names:
        return lines, ()
    place = list(names).index(source.time)
    sign = DELIMITERS[source.delimiter]
    begins = (source.time, f'"{source.time}')
    # Each line of a long file gets one quick check, and nearly all of them no more.
    may_be = [
        number for number, line in enumerate(lines) if (line.startswith(begins) if not place else source.time in line)
    ]
    for number in may_be:
        if number < source.header:
            continue
        cells = split_row(lines[number], sign)
        if len(cells) <= place or cells[place] != source.time or [*cells] == [*names]:
            continue
        if any(is_value(cell, source.decimal) for cell in cells if cell):
            continue
        end = next((end for end in range(number, source.header, -1) if _is_row(lines[end - 1], place, sign)), 0)
        if not end:
            continue  # it belongs to the header
        return lines[:end], (_said(number, cells, sum(bool(line.strip()) for line in lines[number + 1 :])),)
    return lines, ()


def _once_headed(lines: list[str], source: Source) -> list[str]:
    """The lines without names of columns that stand above them already."""
    head = lines[(source.names_line or source.header) - 1]
    if not head.strip() or head not in lines[source.header :]:
        return lines
    return [*lines[: source.header], *("" if line == head else line for line in lines[source.header :])]


def _said(number: int, cells: Sequence[str], left: int) -> str:
    head = visible(", ".join(cells))[:60]
    are = "is" if left == 1 else "are"
    return (
        f'line {number + 1} begins another table, "{head}"; its {counted(left, "line")} {are} left out, '
        "and can be read from a file of their own"
    )


def _is_row(line: str, place: int, sign: str) -> bool:
    """True where it has a time or a number in the time column."""
    cells = split_row(line, sign)
    return len(cells) > max(place, 1) and any(letter.isdigit() for letter in cells[place])
