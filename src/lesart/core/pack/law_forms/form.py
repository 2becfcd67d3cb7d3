"""The integer form of a law: an expression of the raw number, and its cost."""

from __future__ import annotations

from collections.abc import Callable

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.program.in_c import stored_bytes
from lesart.core.pack.program.whole import Table, Whole

Curve = Callable[[Floats], Floats]
"""From raw numbers, float64 of whole values, to readings in steps of their scale, not rounded."""


@dataclass(frozen=True, eq=False)
class Form:
    """``value`` in steps; ``says`` in a sentence how it is computed; ``equation`` is the same as a formula."""

    value: Whole
    says: str
    equation: str
    entries: int = 0

    @property
    def tables(self) -> tuple[Table, ...]:
        """Its tables."""
        return tuple(dict.fromkeys(self.value.tables))

    @property
    def table_bytes(self) -> int:
        """Bytes of all tables."""
        return sum(len(each.values) * stored_bytes(each.low, each.high) for each in self.tables)
