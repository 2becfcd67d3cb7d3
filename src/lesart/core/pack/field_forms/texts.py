"""Texts of a field as tables of codes, each as wide as the field."""

from __future__ import annotations

from lesart.core.fit.cells import Cell, split_cells
from lesart.core.pack.field_forms.wanted import FieldWanted
from lesart.core.pack.program.statements import KeepAt, Kept, Let, Repeat, Statement
from lesart.core.pack.program.whole import Table, Whole, at, local, whole


class Texts:
    """The texts that a field shows instead of a number, each made once."""

    def __init__(self, wanted: FieldWanted, cells: Kept) -> None:
        self._wanted, self.cells = wanted, cells
        self._made: dict[tuple[int, ...], Table] = {}
        self._named: dict[str, Table] = {}

    def said(self, text: str, state: int) -> tuple[Statement, ...]:
        """Put a text into all cells."""
        return (*self._copied(self.codes(text)), Let("state", whole(state)))

    def word(self, text: str) -> tuple[Statement, ...]:
        """Put a word into all cells; the field is wide enough for it."""
        return self._copied(self.codes(text))

    def codes(self, text: str) -> tuple[int, ...]:
        """Codes of a text as the desk places it: one letter is repeated, a longer text aligned."""
        field, wanted = self._wanted.field, self._wanted
        if len(text) == 1 and text in (field.overflow, field.invalid, field.stale, field.underflow, field.settling):
            return (wanted.code_of(Cell(text)),) * field.width
        cells = split_cells(text, joined=wanted.joined)[: field.width]
        missing = field.width - len(cells)
        left = {"left": 0, "right": missing, "centre": missing // 2}[field.align]
        placed = (Cell(" "),) * left + cells + (Cell(" "),) * (missing - left)
        return tuple(wanted.code_of(each) for each in placed)

    def named(self, name: str, values: tuple[int, ...], says: str) -> Table:
        """A table of the field by name, the same one each time."""
        return self._named.setdefault(name, Table(f"{self._wanted.name}_{name}", values, says))

    def _copied(self, codes: tuple[int, ...]) -> tuple[Statement, ...]:
        index = local("i", 0, self._wanted.field.width - 1)
        if len(set(codes)) == 1:
            value: Whole = whole(codes[0])
        else:
            name = f"{self._wanted.name}_text{len(self._made)}"
            value = at(self._made.setdefault(codes, Table(name, codes)), index)
        return (Repeat("i", whole(self._wanted.field.width), (KeepAt(self.cells.name, index, value),)),)
