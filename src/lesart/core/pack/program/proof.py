"""Proof that an integer program never overflows: by the ranges of all its expressions, for a word size."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.program.statements import (
    Function,
    Keep,
    KeepAt,
    Leave,
    Let,
    Repeat,
    Statement,
    Stop,
    When,
    statements_of,
)
from lesart.core.pack.program.whole import TIMES, Whole, bits_of

WORDS = (8, 16, 32)
"""Word sizes that firmware is written for, bits."""
WIDEST = 64


@dataclass(frozen=True)
class Overflow:
    """Where a value may be too wide: ``needs`` bits at ``place``, where there are ``has``.

    ``word`` is the least word that would do; 0 where none does.
    """

    place: str
    low: int
    high: int
    needs: int
    has: int
    word: int

    def __str__(self) -> str:
        would = f"a word of {self.word} bits would do" if self.word else "no word there is would do"
        return (
            f"{self.place}: a value from {self.low} to {self.high} takes {self.needs} bits, and there are {self.has}; "
            f"{would}."
        )


def overflows(functions: Iterable[Function], word: int) -> Iterator[Overflow]:
    """Each place where a value could leave what holds it; none is the proof that none does.

    What is worked out on the way may be twice as wide as the word, as products are; what is kept and what goes on from
    stage to stage must fit the word or, where it says so itself, what it was declared for. Each kept variable is shown
    to stay in its range by showing that every value given to it lies there.
    """
    for function in functions:
        kept = {each.name: each for each in function.kept}
        outputs = {each.parts[0]: each for each in function.outputs}
        for output in function.outputs:
            if output.bits > word and output.parts[0] != "mark":
                yield _overflow(function, output, word)
        for each in function.wholes:
            for part in each.walk():
                if part.op in ("since",) or _is_moment(part):
                    continue
                if part.bits > 2 * word:
                    yield _overflow(function, part, 2 * word)
        for statement in statements_of(function.body):
            if isinstance(statement, Keep | KeepAt):
                declared = kept[statement.name]
                if statement.value.low < declared.low or statement.value.high > declared.high:
                    yield Overflow(
                        f"{function.place}, {statement.name}",
                        statement.value.low,
                        statement.value.high,
                        statement.value.bits,
                        max(bits_of(declared.low), bits_of(declared.high)),
                        0,
                    )
            elif isinstance(statement, Let) and statement.name in outputs:
                declared_out = outputs[statement.name]
                if statement.value.low < declared_out.low or statement.value.high > declared_out.high:
                    yield _overflow(function, statement.value, declared_out.bits)


def _is_moment(part: Whole) -> bool:
    return part.high == TIMES - 1 and part.low == 0


def _overflow(function: Function, part: Whole, has: int) -> Overflow:
    """The overflow of a value. ``has`` is the word for values passed on, twice the word for intermediate ones."""
    least = part.bits if part.op == "local" else -(-part.bits // 2)
    return Overflow(
        function.place, part.low, part.high, part.bits, has, next((each for each in WORDS if each >= least), 0)
    )


COUNTED = frozenset(
    ("+", "-", "*", "down", "quotient", "least", "most", "at", "item", "<", "<=", "==", "pick", "since", "|", "&")
)


def operations(body: Iterable[Statement]) -> int:
    """Most sums, products, quotients, comparisons, shifts and look-ups, with every branch at its longest."""
    total = 0
    for each in body:
        match each:
            case Let() | Keep():
                total += _of(each.value)
            case KeepAt():
                total += _of(each.index) + _of(each.value) + 1
            case When():
                total += _of(each.condition) + max(operations(each.then), operations(each.otherwise))
            case Repeat():
                total += each.count.high * (operations(each.body) + 2)
            case Stop() | Leave():
                pass
    return total


def _of(expression: Whole) -> int:
    return sum(1 for part in expression.walk() if part.op in COUNTED)
