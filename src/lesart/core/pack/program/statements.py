"""Statements of an integer program, and the variables that it keeps from sample to sample."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.program.plain import plain
from lesart.core.pack.program.whole import Table, Whole


@dataclass(frozen=True, eq=False)
class Let:
    """Assign a local variable."""

    name: str
    value: Whole


@dataclass(frozen=True, eq=False)
class Keep:
    """Assign a kept variable."""

    name: str
    value: Whole


@dataclass(frozen=True, eq=False)
class KeepAt:
    """Assign an item of a kept array."""

    name: str
    index: Whole
    value: Whole


@dataclass(frozen=True, eq=False)
class When:
    """One of two branches."""

    condition: Whole
    then: tuple[Statement, ...]
    otherwise: tuple[Statement, ...] = ()


@dataclass(frozen=True, eq=False)
class Repeat:
    """``body`` for each value of a variable from 0 to below ``count``, until ``Stop``."""

    name: str
    count: Whole
    body: tuple[Statement, ...]


@dataclass(frozen=True, eq=False)
class Stop:
    """Ends the innermost ``Repeat``."""


@dataclass(frozen=True, eq=False)
class Leave:
    """Ends the function; without ``passes`` no result passes on."""

    passes: bool = True


Statement = Let | Keep | KeepAt | When | Repeat | Stop | Leave


@dataclass(frozen=True)
class Kept:
    """A variable that is kept: from ``low`` to ``high``, ``start`` at first; an array where ``length`` is above 0.

    ``only_here``: it need not outlive a call.
    """

    name: str
    low: int
    high: int
    start: int = 0
    length: int = 0
    only_here: bool = False

    @property
    def value(self) -> Whole:
        """The variable as an expression."""
        return Whole("kept", (self.name,), self.low, self.high)

    def item(self, index: Whole) -> Whole:
        """An item of an array. Raises ValueError where the index can be outside."""
        if index.low < 0 or index.high >= self.length:
            raise ValueError(f"{self.name} has {self.length} items, and {index.low} to {index.high} is asked for")
        return Whole("item", (self.name, index), self.low, self.high)


@dataclass(frozen=True, eq=False)
class Function:
    """A stage of a firmware: takes ``inputs`` and gives what has become of ``outputs``, among those; kept variables are
    its own.

    ``says`` is what it does in a sentence, ``place`` what it stands for in the project.
    """

    name: str
    place: str
    says: str
    inputs: tuple[Whole, ...]
    outputs: tuple[Whole, ...]
    body: tuple[Statement, ...]
    kept: tuple[Kept, ...] = ()

    def __post_init__(self) -> None:
        object.__setattr__(self, "body", _decided(self.body))
        # Descriptions are written as comments.
        object.__setattr__(self, "place", plain(self.place))
        object.__setattr__(self, "says", plain(self.says))

    @property
    def wholes(self) -> Iterator[Whole]:
        """Every expression in it."""
        return wholes_of(self.body)

    @property
    def tables(self) -> tuple[Table, ...]:
        """Each table that it uses, once."""
        return tuple(dict.fromkeys(table for each in self.wholes for table in each.tables))


def _decided(body: Iterable[Statement]) -> tuple[Statement, ...]:
    """The statements without dead code: conditions decided by ranges, and anything after an exit."""
    out: list[Statement] = []
    for each in body:
        if isinstance(each, Repeat):
            each = Repeat(each.name, each.count, _decided(each.body))
        elif isinstance(each, When):
            then, otherwise = _decided(each.then), _decided(each.otherwise)
            if each.condition.op == "constant":
                out += then if each.condition.low else otherwise
                continue
            each = When(each.condition, then, otherwise)
        out.append(each)
        if isinstance(each, Leave | Stop):
            break
    return tuple(out)


def wholes_of(body: Iterable[Statement]) -> Iterator[Whole]:
    """Every expression in some statements, nested ones included."""
    for each in body:
        match each:
            case Let() | Keep():
                yield each.value
            case KeepAt():
                yield from (each.index, each.value)
            case When():
                yield each.condition
                yield from wholes_of((*each.then, *each.otherwise))
            case Repeat():
                yield each.count
                yield from wholes_of(each.body)
            case Stop() | Leave():
                pass


def statements_of(body: Iterable[Statement]) -> Iterator[Statement]:
    """Every statement, nested ones included."""
    for each in body:
        yield each
        if isinstance(each, When):
            yield from statements_of((*each.then, *each.otherwise))
        elif isinstance(each, Repeat):
            yield from statements_of(each.body)
