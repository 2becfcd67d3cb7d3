"""A lattice of dots as characters: half blocks, quarter blocks, or eight small dots per character."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterable
from functools import lru_cache
from itertools import groupby

from rich.style import Style

from lesart.draw.dot_letters import BITS, EMPTY
from lesart.study.lit.lattice import GROUND, LIT, UNLIT, Lattice

Line = list[tuple[str, Style]]

_QUARTERS = " ▗▖▄▝▐▞▟▘▚▌▙▀▜▛█"
"""Quarter blocks by upper left, upper right, lower left and lower right dot, as bits."""
_FULL = _QUARTERS[-1]
"""The full block, never drawn: many fonts leave a line between two of them. A blank on the lit colour does not."""
_SAME = re.compile(r"0+|1+|2+|3+")
_RUNS = re.compile(r"█+|[^█]+")
_BRAILLE = {code: EMPTY + code for code in range(256)}


@lru_cache(maxsize=1024)
def _style(colour: str, ground: str) -> Style:
    return Style(color=colour, bgcolor=ground)


def halves(lattice: Lattice) -> list[Line]:
    """Two dots per character, one above the other: square where characters are twice as high as wide."""
    return [_half_line(lattice, upper, lower) for upper, lower in _in_rows(lattice, 2)]


def _half_line(lattice: Lattice, upper: bytes, lower: bytes) -> Line:
    if {*upper, *lower} <= {GROUND, LIT}:
        # Two colours: characters from a table, then one segment per run.
        light, ground = lattice.colours[LIT], lattice.colours[GROUND]
        dark, full = _style(light, ground), _style(ground, light)
        pieces = {"0": (" ", dark), "1": ("▀", full), "2": ("▀", dark), "3": (" ", full)}
        return [
            (pieces[run[0]][0] * len(run), pieces[run[0]][1]) for run in _SAME.findall(_joined((upper, lower), "0123"))
        ]
    line: Line = []
    for (above, below), run in groupby(zip(upper, lower, strict=True)):
        length = len(list(run))
        sign = " " if above == below else "▀"
        line.append((sign * length, _style(lattice.colours[above], lattice.colours[below])))
    return line


def quarters(lattice: Lattice) -> list[Line]:
    """Four dots per character, two by two: each half as wide as high."""
    lines = []
    for upper, lower in _in_rows(lattice, 2):
        quads = upper[0::2], _even(upper), lower[0::2], _even(lower)
        if {*upper, *lower} <= {GROUND, LIT}:
            lines.append(_two_coloured(_joined(quads, _QUARTERS), lattice))
        else:
            lines.append(_mixed(zip(*quads, strict=True), _quarter_of(lattice)))
    return lines


def _two_coloured(letters: str, lattice: Lattice) -> Line:
    """Lit and ground colours, in as few segments as possible."""
    light, ground = lattice.colours[LIT], lattice.colours[GROUND]
    return [
        (" " * len(run), _style(ground, light)) if run[0] == _FULL else (run, _style(light, ground))
        for run in _RUNS.findall(letters)
    ]


def _even(row: bytes) -> bytes:
    """Every second dot; padded with ground where their number is odd."""
    return row[1::2] + (b"\0" if len(row) % 2 else b"")


def _quarter_of(lattice: Lattice) -> Callable[[tuple[int, ...]], tuple[str, Style]]:
    """A character has two colours: lit and the commonest of its others."""

    @lru_cache(maxsize=1024)
    def letter(quad: tuple[int, ...]) -> tuple[str, Style]:
        lit = [value in lattice.lit for value in quad]
        light = next((value for value in quad if value in lattice.lit), LIT)
        dark = Counter(value for value in quad if value not in lattice.lit)
        # On a tie a mark, else the ground: an edge between two characters is then not jagged.
        ground = max(dark, key=lambda value: (dark[value], value > UNLIT, -value)) if dark else GROUND
        code = sum(weight for weight, on in zip((8, 4, 2, 1), lit, strict=True) if on)
        if _QUARTERS[code] == _FULL:
            return " ", _style(lattice.colours[ground], lattice.colours[light])
        return _QUARTERS[code], _style(lattice.colours[light], lattice.colours[ground])

    return letter


def _mixed(cells: Iterable[tuple[int, ...]], letter: Callable[[tuple[int, ...]], tuple[str, Style]]) -> Line:
    line: Line = []
    for style, run in groupby(map(letter, cells), key=lambda each: each[1]):
        line.append(("".join(sign for sign, _ in run), style))
    return line


def dots(lattice: Lattice, pale: Callable[[int, int], bool] | None = None) -> list[Line]:
    """Eight small dots per character: only a hint of the picture. ``pale`` marks characters to draw faintly."""
    light, ground = lattice.colours[LIT], lattice.colours[GROUND]
    if len(lattice.lit) > 1 and not lattice.stripe:
        return _coloured_dots(lattice, pale)
    lines: list[Line] = []
    plain = Style(color=light, bgcolor=ground, bold=True)
    faint = Style(color=light, bgcolor=ground, dim=True)
    is_lit = bytes(int(value in lattice.lit) for value in range(256))
    for y, rows in enumerate(_in_rows(lattice, 4)):
        code, width = 0, -(-lattice.width // 2)
        for down, row in enumerate(rows):
            bits = row.translate(is_lit)
            code += BITS[down][0] * int.from_bytes(bits[0::2], "big")
            code += BITS[down][1] * int.from_bytes(_even(bits), "big")
        signs = code.to_bytes(width, "big").decode("latin-1").translate(_BRAILLE)
        if pale is None:
            lines.append([(signs, plain)])
            continue
        inked = [(sign, faint if pale(x, y) else plain) for x, sign in enumerate(signs)]
        lines.append(
            [("".join(sign for sign, _ in run), style) for style, run in groupby(inked, key=lambda each: each[1])]
        )
    return lines


def _coloured_dots(lattice: Lattice, pale: Callable[[int, int], bool] | None) -> list[Line]:
    """The same with lit dots of several colours: a character has that of its first one."""
    ground, lines = lattice.colours[GROUND], []
    for y, rows in enumerate(_in_rows(lattice, 4)):
        inked = []
        for x in range(-(-lattice.width // 2)):
            code, light = 0, LIT
            for down, row in enumerate(rows):
                for across, value in enumerate(row[2 * x : 2 * x + 2]):
                    if value in lattice.lit:
                        light = light if code else value
                        code |= BITS[down][across]
            is_pale = pale is not None and pale(x, y)
            style = Style(color=lattice.colours[light], bgcolor=ground, bold=not is_pale, dim=is_pale)
            inked.append((chr(_BRAILLE[code]), style))
        lines.append(
            [("".join(sign for sign, _ in run), style) for style, run in groupby(inked, key=lambda each: each[1])]
        )
    return lines


def _in_rows(lattice: Lattice, each: int) -> Iterable[tuple[bytes, ...]]:
    """Rows in twos or fours, padded with ground."""
    rows = [*lattice.rows, *[bytes(lattice.width)] * (-lattice.height % each)]
    return (tuple(rows[at : at + each]) for at in range(0, len(rows), each))


def _joined(parts: tuple[bytes, ...], letters: str) -> str:
    """Characters from bits of 0 or 1 per dot, by arithmetic on one large integer per row, which is one operation."""
    code = 0
    for part in parts:
        code = 2 * code + int.from_bytes(part, "big")
    return code.to_bytes(len(parts[0]), "big").decode("latin-1").translate(_tables(letters))


@lru_cache
def _tables(letters: str) -> dict[int, str]:
    return dict(enumerate(letters))
