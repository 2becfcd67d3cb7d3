"""Common subexpressions are computed once: each gets a variable of its own."""

from __future__ import annotations

from collections import Counter

from lesart.core.pack.program.statements import Let
from lesart.core.pack.program.whole import Whole

PLAIN = ("constant", "local", "kept")


def bound(expression: Whole, prefix: str = "v") -> tuple[tuple[Let, ...], Whole]:
    """Statements that assign repeated parts to variables, and the remaining expression."""
    uses = Counter(id(part) for each in expression.walk() for part in each.parts if isinstance(part, Whole))
    made: dict[int, Whole] = {}
    lets: list[Let] = []

    def replaced(part: Whole) -> Whole:
        known = made.get(id(part))
        if known is not None:
            return known
        parts = tuple(replaced(each) if isinstance(each, Whole) else each for each in part.parts)
        new = Whole(part.op, parts, part.low, part.high)
        if uses[id(part)] > 1 and part.op not in PLAIN:
            name = f"{prefix}{len(lets) + 1}"
            lets.append(Let(name, new))
            new = Whole("local", (name,), part.low, part.high)
        made[id(part)] = new
        return new

    rest = replaced(expression)
    return tuple(lets), rest
