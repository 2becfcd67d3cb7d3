"""A growing hook-up: what a proposal adds, recorded as edits."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from lesart.core.notes import Mend, Written
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.entry import JOINS, free_name, join_entry, written
from lesart.core.wire.hookup import End, Hookup, Join, logic_v, rail_v
from lesart.core.wire.part import Part

COLOURS = {"supply": "red", "ground": "black"}
SIGNAL_COLOURS = ("yellow", "green", "blue", "orange", "violet", "white", "grey", "brown")


class DraftHookup:
    """``hookup`` as it is now, ``mends`` that lead to it, ``unplaced`` a sentence for each pin without a place.

    ``board`` is the one that everything is joined to.
    """

    def __init__(self, hookup: Hookup) -> None:
        self.hookup = hookup
        self.mends: list[Mend] = []
        self.unplaced: list[str] = []
        self.board = self._home()

    def _home(self) -> str | None:
        """The board with the most joins, else the first one."""
        boards = [name for name, part in self.hookup.parts.items() if part.kind.group == "board"]
        counts = {name: sum(name in (join.pin.part, join.to.part) for join in self.hookup.joins) for name in boards}
        return max(boards, key=lambda name: counts[name]) if boards else None

    def join(self, pin: End, to: End, through: str = "", colour: str = "") -> Join:
        """Join two pins."""
        index = max((each.index for each in self.hookup.joins), default=-1) + 1
        join = Join(pin, to, through, colour or self._colour(pin), index)
        self.hookup = replace(self.hookup, joins=(*self.hookup.joins, join))
        self.mends.append(Mend(JOINS, join_entry(join)))
        return join

    def _colour(self, pin: End) -> str:
        roles = self.hookup.pin(pin).roles
        for role, colour in COLOURS.items():
            if role in roles:
                return colour
        return SIGNAL_COLOURS[sum(join.pin.part == pin.part for join in self.hookup.joins) % len(SIGNAL_COLOURS)]

    def part(self, wanted: str, kind: str, **values: tuple[float, str]) -> str:
        """Add a part in between, by its kind and its values in SI units. Gives its name."""
        name = free_name(self.hookup.parts, wanted)
        entry: dict[str, Written] = {"kind": kind, **{key: written(*value) for key, value in values.items()}}
        record = KINDS[kind]
        usual: dict[str, Any] = {
            parameter.name: parameter.read(parameter.default)
            for parameter in record.parameters
            if parameter.default is not None
        }
        part = Part(name, record, {**usual, **{key: value[0] for key, value in values.items()}})
        self.hookup = replace(self.hookup, parts={**self.hookup.parts, name: part})
        self.mends.append(Mend(("parts", name), entry))
        return name

    def lead_through(self, join: Join, through: str) -> None:
        """Lead a proposed or existing join through a part, if it has none yet."""
        place = next(place for place, each in enumerate(self.hookup.joins) if each.index == join.index)
        join = self.hookup.joins[place]
        if join.through:
            return
        changed = replace(join, through=through)
        joins = (*self.hookup.joins[:place], changed, *self.hookup.joins[place + 1 :])
        self.hookup = replace(self.hookup, joins=joins)
        entry = join_entry(join)
        for index, mend in enumerate(self.mends):
            if mend.key == JOINS and mend.value == entry:
                # The part must exist before the join names it.
                del self.mends[index]
                self.mends.append(Mend(JOINS, join_entry(changed)))
                return
        self.mends.append(Mend((*JOINS, join.index, "through"), through))

    def ground(self) -> End | None:
        """The board's ground, or without a board the first source's."""
        grounds = [end for end, pin in self.hookup.ends() if pin.roles == ("ground",)]
        of_board = [end for end in grounds if end.part == self.board]
        of_source = [end for end in grounds if self.hookup.parts[end.part].kind.group == "source"]
        return next(iter((*of_board, *of_source)), None)

    def rails(self) -> list[End]:
        """Rails of the board first, then of sources."""
        rails = [end for end, pin in self.hookup.ends() if "supply out" in pin.roles]
        return sorted(rails, key=lambda end: end.part != self.board)

    def level_rail(self) -> End | None:
        """The rail at the level of the board's signals."""
        level = logic_v(self.hookup, self.board) if self.board else None
        return next((rail for rail in self.rails() if rail_v(self.hookup, rail) == level), None)
