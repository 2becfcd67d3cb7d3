"""Lines, corners and shades for 5×8 cells, computed: each arm of a line goes from the middle to its edge."""

from __future__ import annotations

import unicodedata

from lesart.core.glyphs.dots import HEIGHT, WIDTH

BOX = "─│┌┐└┘├┤┬┴┼═║╒╓╔╕╖╗╘╙╚╛╜╝╞╟╠╡╢╣╤╥╦╧╨╩╪╫╬"
SHADES = {"░": 1, "▒": 2, "▓": 3}
HALVES = {"▄": "lower", "▌": "left", "▐": "right", "▀": "upper"}
_ARMS = {"LEFT": (-1, 0), "RIGHT": (1, 0), "UP": (0, -1), "DOWN": (0, 1), "HORIZONTAL": (2, 0), "VERTICAL": (0, 2)}
MIDDLE_X, MIDDLE_Y = 2, 3


def _arms(letter: str) -> dict[str, bool]:
    """The arms of a line, and whether each is double, by its Unicode name."""
    words = unicodedata.name(letter).removeprefix("BOX DRAWINGS ").split()
    found: dict[str, bool] = {}
    weight = words[0] == "DOUBLE"
    named: list[str] = []
    for word in words:
        if word in ("LIGHT", "DOUBLE"):
            weight = word == "DOUBLE"
        elif word in ("SINGLE", "AND"):
            weight = False if word == "SINGLE" else weight
        elif word in _ARMS:
            named.append(word)
            found[word] = weight
    return _spread(letter, found, words)


def _spread(letter: str, found: dict[str, bool], words: list[str]) -> dict[str, bool]:
    # "DOWN SINGLE AND RIGHT DOUBLE": there the weight follows its arm.
    if "SINGLE" in words:
        pairs = " ".join(words).split(" AND ")
        found = {pair.split()[0]: pair.split()[1] == "DOUBLE" for pair in pairs}
    arms: dict[str, bool] = {}
    for word, is_double in found.items():
        both = {"HORIZONTAL": ("LEFT", "RIGHT"), "VERTICAL": ("UP", "DOWN")}.get(word, (word,))
        arms |= dict.fromkeys(both, is_double)
    return arms


def _drawn(letter: str) -> tuple[int, ...]:
    lit = [[False] * WIDTH for _ in range(HEIGHT)]
    for arm, is_double in _arms(letter).items():
        dx, dy = _ARMS[arm]
        for offset in (-1, 1) if is_double else (0,):
            x, y = MIDDLE_X + (offset if dy else 0), MIDDLE_Y + (offset if dx else 0)
            while 0 <= x < WIDTH and 0 <= y < HEIGHT:
                lit[y][x] = True
                x, y = x + dx, y + dy
    return tuple(sum(int(on) << (WIDTH - 1 - x) for x, on in enumerate(row)) for row in lit)


def _shaded(quarters: int) -> tuple[int, ...]:
    """A shade with a number of every four dots lit."""
    order = ((0, 2), (3, 1))
    return tuple(
        sum(int(order[y % 2][x % 2] < quarters) << (WIDTH - 1 - x) for x in range(WIDTH)) for y in range(HEIGHT)
    )


def _half(side: str) -> tuple[int, ...]:
    full = (1 << WIDTH) - 1
    if side in ("upper", "lower"):
        return tuple(full if (y < HEIGHT // 2) == (side == "upper") else 0 for y in range(HEIGHT))
    return ((0b11100 if side == "left" else 0b00111),) * HEIGHT


LINES: dict[str, tuple[int, ...]] = (
    {letter: _drawn(letter) for letter in BOX}
    | {letter: _shaded(quarters) for letter, quarters in SHADES.items()}
    | {letter: _half(side) for letter, side in HALVES.items()}
)
