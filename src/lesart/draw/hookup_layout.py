"""The layout of the hook-up sheet: parts at the left, the board at the right, a track for every wire.

Distances are in rows downwards and in tracks from the left; the drawing converts them to millimetres.
"""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.wire.hookup import End, Hookup, Join
from lesart.core.wire.part import Part
from lesart.core.wire.role import is_rail


@dataclass(frozen=True)
class PinRow:
    """A pin of the left column with one of its connections; ``flag`` says where it leads where there is no line."""

    end: End
    row: float
    join: Join | None
    flag: str = ""


@dataclass(frozen=True)
class Head:
    """The name of a part above its pins."""

    part: Part
    row: float


@dataclass(frozen=True)
class Line:
    """A wire from a row at the left to a row at the right, turning at ``track``; tracks count from 0."""

    join: Join
    left: float
    right: float
    track: int


@dataclass(frozen=True)
class Layout:
    """``rows`` is the height of the taller column, ``tracks`` how many wires turn between the columns."""

    heads: tuple[Head, ...]
    pins: tuple[PinRow, ...]
    board_heads: tuple[Head, ...]
    board_pins: tuple[tuple[End, float], ...]
    lines: tuple[Line, ...]
    rows: float
    tracks: int


def layout(hookup: Hookup) -> Layout:
    """Rails are flags and not lines: a dozen wires to one ground would hide the signals."""
    heads: list[Head] = []
    pins: list[PinRow] = []
    row, told = 0.0, set[int]()
    for part in hookup.parts.values():
        found = _pins_of(hookup, part, told) if part.kind.group != "board" else []
        if not found:
            continue
        heads.append(Head(part, row))
        row += 1.2
        for end, join in found:
            pins.append(PinRow(end, row, join, _flag(hookup, end, join)))
            row += 1
        row += 0.5
    board_heads, board_pins, most = _boards(hookup)
    places = dict(board_pins)
    wires = [
        (pin.join, pin.row, places[pin.join.other(pin.end)]) for pin in pins if pin.join is not None and not pin.flag
    ]
    lines = _tracks(wires)
    return Layout(tuple(heads), tuple(pins), board_heads, board_pins, lines, max(row, most), len(lines))


def _pins_of(hookup: Hookup, part: Part, told: set[int]) -> list[tuple[End, Join | None]]:
    """Pins of a part with each connection once, and required open pins. A resistor to a rail is shown at its pin."""
    found: list[tuple[End, Join | None]] = []
    for pin in part.kind.pins:
        end = End(part.name, pin.name)
        joins = [join for join in hookup.joins_at(end) if join.index not in told]
        told.update(join.index for join in joins)
        found += [(end, join) for join in joins]
        if not hookup.joins_at(end) and not pin.optional:
            found.append((end, None))
    return found


def _flag(hookup: Hookup, end: End, join: Join | None) -> str:
    if join is None:
        return "open"
    far = join.other(end)
    if is_rail(hookup.pin(far).roles) or hookup.parts[far.part].kind.group != "board":
        return str(far)
    return ""


def _boards(hookup: Hookup) -> tuple[tuple[Head, ...], tuple[tuple[End, float], ...], float]:
    """Every joined pin, in the order of the board."""
    heads: list[Head] = []
    pins: list[tuple[End, float]] = []
    row = 0.0
    for part in hookup.parts.values():
        if part.kind.group != "board":
            continue
        heads.append(Head(part, row))
        row += 1.2
        for pin in part.kind.pins:
            end = End(part.name, pin.name)
            if hookup.joins_at(end):
                pins.append((end, row))
                row += 1.35
        row += 0.5
    return tuple(heads), tuple(pins), row


def _tracks(wires: Sequence[tuple[Join, float, float]]) -> tuple[Line, ...]:
    """Wires that go up turn from the left in order, those that go down after them in reverse.

    So two wires that keep their order never cross; the others cross once.
    """
    up = sorted((wire for wire in wires if wire[2] < wire[1]), key=lambda wire: wire[1])
    down = sorted((wire for wire in wires if wire[2] >= wire[1]), key=lambda wire: -wire[1])
    return tuple(Line(join, left, right, track) for track, (join, left, right) in enumerate((*up, *down)))


def pulls_of(hookup: Hookup) -> tuple[Join, ...]:
    """Connections from a board to itself, which have no row at the left: pull-ups, fixed halves of dividers."""
    return tuple(
        join for join in hookup.joins if all(hookup.parts[end.part].kind.group == "board" for end in join.ends)
    )
