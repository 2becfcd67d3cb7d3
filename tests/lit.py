"""Which dots are lit, read back from what each way of drawing a panel gives. An own reading, not that of the
product."""

from __future__ import annotations

import base64
import re

from rich.style import Style

from lesart.core.glass.panels.frame import ColourFrame
from lesart.study.views import Glass

Dots = set[tuple[int, int]]
Line = list[tuple[str, Style]]
QUARTERS = {
    " ": "", "▘": "a", "▝": "b", "▖": "c", "▗": "d", "▀": "ab", "▄": "cd", "▌": "ac", "▐": "bd",
    "▚": "ad", "▞": "bc", "▛": "abc", "▜": "abd", "▙": "acd", "▟": "bcd", "█": "abcd",
}  # fmt: skip
PLACES = {"a": (0, 0), "b": (1, 0), "c": (0, 1), "d": (1, 1)}
BRAILLE = ((0x01, 0x08), (0x02, 0x10), (0x04, 0x20), (0x40, 0x80))


def colours_of(style: Style) -> tuple[str, str]:
    """Of the letter and behind it."""
    assert style.color is not None
    assert style.bgcolor is not None
    return style.color.name, style.bgcolor.name


def half_colours(lines: tuple[Line, ...]) -> list[list[str]]:
    """Half blocks as rows of colours."""
    rows: list[list[str]] = []
    for line in lines:
        upper: list[str] = []
        lower: list[str] = []
        for text, style in line:
            letter, below = colours_of(style)
            for sign in text:
                assert sign in " ▀"
                upper.append(letter if sign == "▀" else below)
                lower.append(below)
        rows += [upper, lower]
    return rows


def lights(glass: Glass) -> set[str]:
    """Colours of light: of a frame in colours all but its ground."""
    if not isinstance(glass.frame, ColourFrame):
        return {glass.lit}
    data = glass.frame.colours
    return {f"#{data[at : at + 3].hex()}" for at in range(0, len(data), 3)} - {glass.ground}


def in_halves(lines: tuple[Line, ...], glass: Glass) -> Dots:
    """Dots that have a colour of light."""
    lit = lights(glass)
    return {(x, y) for y, row in enumerate(half_colours(lines)) for x, colour in enumerate(row) if colour in lit}


def in_quarters(lines: tuple[Line, ...], glass: Glass) -> Dots:
    """The same, four dots a letter."""
    found, lit = set(), lights(glass)
    for row, line in enumerate(lines):
        column = 0
        for text, style in line:
            letter, below = colours_of(style)
            for sign in text:
                for part, (x, y) in PLACES.items():
                    if (letter if part in QUARTERS[sign] else below) in lit:
                        found.add((2 * column + x, 2 * row + y))
                column += 1
    return found


def in_little(lines: tuple[Line, ...]) -> Dots:
    """Eight dots a letter."""
    return {
        (2 * column + x, 4 * row + y)
        for row, line in enumerate(lines)
        for column, sign in enumerate("".join(text for text, _ in line))
        for y in range(4)
        for x in range(2)
        if ord(sign) - 0x2800 & BRAILLE[y][x]
    }


def of_sixels(escape: str) -> list[list[tuple[int, int, int] | None]]:
    """Rows of colours in hundredths, as a terminal would draw them; None where nothing was drawn."""
    head = re.fullmatch(r'\x1bP0;1;0q"1;1;(\d+);(\d+)(.*)\x1b\\', escape, re.DOTALL)
    assert head is not None
    width, height, body = int(head[1]), int(head[2]), head[3]
    colours: dict[int, tuple[int, int, int]] = {}
    rows: list[list[tuple[int, int, int] | None]] = [[None] * width for _ in range(height)]
    x, top, at = 0, 0, -1
    for word in re.finditer(r"#(\d+);2;(\d+);(\d+);(\d+)|#(\d+)|!(\d+)([?-~])|([?-~])|([$-])", body):
        if word[1]:
            colours[int(word[1])] = (int(word[2]), int(word[3]), int(word[4]))
        elif word[5]:
            at = int(word[5])
        elif word[9] == "$":
            x = 0
        elif word[9]:
            x, top = 0, top + 6
        else:
            bits = ord(word[7] or word[8]) - 63
            count = int(word[6] or 1)
            for down in range(6):
                if bits >> down & 1:
                    rows[top + down][x : x + count] = [colours[at]] * count
            x += count
    return rows


def of_placed(escape: str) -> tuple[dict[str, str], list[list[tuple[int, int, int]]]]:
    """What the terminal is told of an image, and its pixels."""
    parts = re.findall(r"\x1b_G([^;]*);([^\x1b]*)\x1b\\", escape)
    told = dict(each.split("=") for each in parts[0][0].split(","))
    assert [dict(each.split("=") for each in part[0].split(","))["m"] for part in parts] == ["1"] * (len(parts) - 1) + [
        "0"
    ]
    data = base64.standard_b64decode("".join(part[1] for part in parts))
    width, height = int(told["s"]), int(told["v"])
    assert len(data) == 3 * width * height
    pixels = [tuple(data[3 * at : 3 * at + 3]) for at in range(width * height)]
    return told, [pixels[y * width : (y + 1) * width] for y in range(height)]  # type: ignore[misc]


def hundredths(colour: str) -> tuple[int, int, int]:
    """Of a colour as it is written."""
    red, green, blue = (round(part * 100 / 255) for part in bytes.fromhex(colour[1:]))
    return red, green, blue
