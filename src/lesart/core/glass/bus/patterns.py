"""Test patterns: what to show on a display before anything else, and the bytes for it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache, partial, singledispatch

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell
from lesart.core.glass.bus.counting import Counting
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_colours import PLACES, PLANES
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel

CODES = 256
COUNTED = "counting"

Masks = list[int]


@dataclass(frozen=True)
class Pattern:
    """``steps`` until it begins again; ``at`` gives the panel's memory at one of them, from 0."""

    steps: int
    at: Callable[[int], Memory]


@singledispatch
def patterns_on(panel: Panel) -> Mapping[str, Pattern]:
    """The patterns that a panel has, by name."""

    def counted(step: int) -> Memory:
        return (tuple(_counted(panel, step)), *panel.blank()[1:])

    return {
        "all off": Pattern(1, lambda step: panel.blank()),
        "counting": Pattern(10 ** min(panel.columns, 9), counted),
    }


@patterns_on.register
def _(panel: SegmentPanel) -> Mapping[str, Pattern]:
    def at(masks: Callable[[SegmentPanel, int], Masks], step: int) -> Memory:
        return (tuple(masks(panel, step)),)

    return {name: Pattern(steps(panel), partial(at, masks)) for name, (steps, masks) in _SEGMENTS.items()}


@patterns_on.register
def _(panel: PixelPanel) -> Mapping[str, Pattern]:
    return _plain(panel)


def _plain(panel: PixelPanel) -> Mapping[str, Pattern]:
    """Patterns of lit and dark pixels."""

    def at(lit: _Lit, step: int) -> Memory:
        rows = (
            sum(int(lit(panel, step, x, y)) << (panel.columns - 1 - x) for x in range(panel.columns))
            for y in range(panel.rows)
        )
        return (tuple(rows), *panel.blank()[1:])

    return {name: Pattern(steps(panel), partial(at, lit)) for name, (steps, lit) in _PIXELS.items()}


@patterns_on.register
def _(panel: InkPanel) -> Mapping[str, Pattern]:
    """Patterns of pixels, and all of it in the third ink."""
    return _in_colours(panel, (panel.third,))


@patterns_on.register
def _(panel: ColourPanel) -> Mapping[str, Pattern]:
    """Patterns of pixels, and full screens of one colour: if blue shows as red, the colour order is set wrongly."""
    return _in_colours(panel, ("red", "green", "blue"))


def _in_colours(panel: ColourPanel, names: Sequence[str]) -> Mapping[str, Pattern]:
    full = ((1 << panel.columns) - 1,) * panel.rows

    def all_of(place: int, step: int) -> Memory:
        planes = (full if place >> bit & 1 else (0,) * panel.rows for bit in range(PLANES))
        return (full, *planes)

    plain = dict(_plain(panel))
    del plain["pages"]
    coloured = {f"all {name}": Pattern(1, partial(all_of, PLACES.index(name))) for name in names}
    return {"all on": plain.pop("all on"), "all off": plain.pop("all off"), **coloured, **plain}


@patterns_on.register
def _(panel: CharacterPanel) -> Mapping[str, Pattern]:
    def at(place: _Place, step: int) -> Memory:
        blank = panel.blank()[0][0]
        cells = [[blank] * panel.line for _ in range(panel.rows)]
        for row in range(panel.rows):
            for column in range(panel.columns):
                code = place(panel, step, row, column)
                cells[row][column] = blank if code is None else code
        return tuple(map(tuple, cells))

    return {name: Pattern(steps(panel), partial(at, place)) for name, (steps, place) in _CHARACTERS.items()}


def patterns_of(panel: Panel) -> tuple[str, ...]:
    """Names of the patterns that a panel has."""
    return tuple(patterns_on(panel))


def steps_of(panel: Panel, name: str) -> int:
    """Steps until a pattern begins again."""
    return patterns_on(panel)[name].steps


def pattern(panel: Panel, name: str, step: int) -> Memory:
    """The panel's memory at a step of a pattern."""
    found = patterns_on(panel)[name]
    return found.at(step % found.steps)


def pattern_at(panel: Panel, name: str, step: int, counting: Counting | None) -> Memory:
    """The memory at a step of a pattern, or of a counter where one was asked for."""
    return counting.memory(panel, step) if counting is not None and name == COUNTED else pattern(panel, name, step)


def _lamps(panel: SegmentPanel) -> int:
    """Lamps of a digit: its segments and its point."""
    return len(panel.alphabet.segments) + int(panel.points)


def _all_lit(panel: SegmentPanel) -> int:
    return (1 << _lamps(panel)) - 1


def _only(panel: SegmentPanel, digit: int, mask: int) -> Masks:
    return [mask if place == digit else 0 for place in range(panel.digits)]


def _counted(panel: Panel, number: int) -> list[int]:
    """The digits of a number in all positions."""
    text = f"{number % 10 ** min(panel.columns, 9):>{panel.columns}}"
    return [panel.code(Cell(letter)) or 0 for letter in text]


_SEGMENTS: dict[str, tuple[Callable[[SegmentPanel], int], Callable[[SegmentPanel, int], Masks]]] = {
    "all on": (lambda panel: 1, lambda panel, step: [_all_lit(panel)] * panel.digits),
    "all off": (lambda panel: 1, lambda panel, step: [0] * panel.digits),
    "each segment in turn": (_lamps, lambda panel, step: [1 << step] * panel.digits),
    "each digit in turn": (lambda panel: panel.digits, lambda panel, step: _only(panel, step, _all_lit(panel))),
    "running light": (
        lambda panel: panel.digits * _lamps(panel),
        lambda panel, step: _only(panel, step // _lamps(panel), 1 << step % _lamps(panel)),
    ),
    "checkerboard": (
        lambda panel: 2,
        lambda panel, step: [_all_lit(panel) * ((place + step) % 2) for place in range(panel.digits)],
    ),
    "counting": (lambda panel: 10 ** min(panel.digits, 9), _counted),
    "every letter": (
        lambda panel: -(-len(panel.alphabet.shapes) // panel.digits),
        lambda panel, step: (list(panel.alphabet.shapes.values()) + [0] * panel.digits)[
            step * panel.digits : (step + 1) * panel.digits
        ],
    ),
}


@lru_cache(maxsize=8)
def _full(panel: CharacterPanel) -> int:
    """The code with most dots lit."""
    return max(range(CODES), key=lambda code: sum(bin(row).count("1") for row in panel.dots(code)))


def _cells(panel: CharacterPanel) -> int:
    return panel.rows * panel.columns


def _nth(panel: CharacterPanel, row: int, column: int) -> int:
    return row * panel.columns + column


def _code(number: int) -> int | None:
    return number if number < CODES else None


_Place = Callable[[CharacterPanel, int, int, int], int | None]
_CHARACTERS: dict[str, tuple[Callable[[CharacterPanel], int], _Place]] = {
    "all on": (lambda panel: 1, lambda panel, step, row, column: _full(panel)),
    "all off": (lambda panel: 1, lambda panel, step, row, column: None),
    "each cell in turn": (
        _cells,
        lambda panel, step, row, column: _full(panel) if _nth(panel, row, column) == step else None,
    ),
    "running light": (
        lambda panel: panel.columns,
        lambda panel, step, row, column: _full(panel) if column == step else None,
    ),
    "checkerboard": (
        lambda panel: 2,
        lambda panel, step, row, column: _full(panel) if (row + column + step) % 2 else None,
    ),
    "counting": (
        lambda panel: 10**9,
        lambda panel, step, row, column: _counted(panel, step)[column] if row == 0 else None,
    ),
    "every code": (
        lambda panel: -(-CODES // _cells(panel)),
        lambda panel, step, row, column: _code(step * _cells(panel) + _nth(panel, row, column)),
    ),
}

_Lit = Callable[[PixelPanel, int, int, int], bool]
_PIXELS: dict[str, tuple[Callable[[PixelPanel], int], _Lit]] = {
    "all on": (lambda panel: 1, lambda panel, step, x, y: True),
    "all off": (lambda panel: 1, lambda panel, step, x, y: False),
    "running column": (lambda panel: panel.columns, lambda panel, step, x, y: x == step),
    "running row": (lambda panel: panel.rows, lambda panel, step, x, y: y == step),
    "checkerboard": (lambda panel: 2, lambda panel, step, x, y: (x + y + step) % 2 == 1),
    "pages": (lambda panel: 2, lambda panel, step, x, y: (y // 8 + step) % 2 == 1),
    "frame and corner": (
        lambda panel: 1,
        lambda panel, step, x, y: x in (0, panel.columns - 1) or y in (0, panel.rows - 1) or x + y < 8,
    ),
}
"""Patterns of pixels. The corner shows which way up it is; pages show their order."""
