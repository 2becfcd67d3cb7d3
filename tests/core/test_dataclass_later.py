"""The dataclass whose methods come later does what the standard library's does."""

from __future__ import annotations

import copy
import dataclasses
import math
import pickle
from collections.abc import Callable
from dataclasses import field
from functools import cached_property
from typing import Any

import pytest

from lesart.core.dataclass_later import dataclass as later

Maker = Callable[..., Any]


def plain(made: Maker) -> tuple[type, type]:
    """A class of every kind of field, and one that goes on from it."""

    @made(frozen=True)
    class Base:
        a: int
        b: float = 2.5
        c: list[int] = field(default_factory=list, hash=False)
        d: str = field(default="no", repr=False, compare=False)
        e: int = field(default=7, init=False)

        @property
        def twice(self) -> int:
            return 2 * self.a

        @cached_property
        def once(self) -> list[int]:
            return [self.a]

    @made(frozen=True)
    class Further(Base):
        b: float = 3.5
        f: tuple[int, ...] = ()

        def __post_init__(self) -> None:
            if self.a < 0:
                raise ValueError("below 0")
            object.__setattr__(self, "f", tuple(sorted(self.f)))

    return Base, Further


def named(made: Maker) -> tuple[type, type]:
    """By name alone, and compared by what it is rather than by what it holds."""

    @made(frozen=True, kw_only=True)
    class Named:
        a: int
        b: int = 2
        c: int

    @made(frozen=True, eq=False)
    class Itself:
        a: float

    return Named, Itself


@pytest.mark.parametrize(
    ("given", "told"),
    [((1,), {}), ((1, 2.0), {}), ((1,), {"c": [3], "d": "yes"}), ((), {}), ((1, 2, 3, 4, 5, 6), {}), ((1,), {"z": 1})],
)
@pytest.mark.parametrize("which", [0, 1])
def test_made_and_shown_as_the_standard_one(which: int, given: tuple[Any, ...], told: dict[str, Any]) -> None:
    """The same fields and text, or the same refusal."""
    ours, theirs = plain(later)[which], plain(dataclasses.dataclass)[which]
    outcomes = []
    for kind in (ours, theirs):
        try:
            made = kind(*given, **told)
            outcomes.append((repr(made), dataclasses.asdict(made), made.twice, made.once))
        except TypeError as error:
            outcomes.append(str(error))
    assert outcomes[0] == outcomes[1]


def test_compared_and_hashed_as_the_standard_one() -> None:
    """By class and by the fields that count."""
    for make in (later, dataclasses.dataclass):
        base, further = plain(make)
        assert base(1, d="x") == base(1, d="y")
        assert base(1) != base(2)
        assert base(1) != further(1, 2.5)
        assert hash(base(1, c=[1])) == hash(base(1, c=[2]))
        assert further(1, f=(3, 1)) == further(1, f=(1, 3))
        named_kind, itself = named(make)
        assert named_kind(a=1, c=3) == named_kind(c=3, a=1, b=2)
        with pytest.raises(TypeError):
            named_kind(1, 2, 3)
        assert itself(1.0) != itself(1.0)
        same = itself(math.nan)
        assert same == same
        assert len({itself(1.0), itself(1.0)}) == 2


@pytest.mark.parametrize("which", [0, 1])
def test_nothing_changes_it(which: int) -> None:
    """Setting and deleting are refused; ``replace`` makes another, and goes through what the class checks."""
    kind = plain(later)[which]
    made = kind(1)
    with pytest.raises(dataclasses.FrozenInstanceError, match="cannot assign to field 'a'"):
        made.a = 2
    with pytest.raises(dataclasses.FrozenInstanceError, match="cannot delete field 'a'"):
        del made.a
    assert dataclasses.replace(made, a=4).once == [4]
    assert copy.deepcopy(made) == made
    if which:
        with pytest.raises(ValueError, match="below 0"):
            dataclasses.replace(made, a=-1)


@later(frozen=True)
class Kept:
    """Found by its name, so it can be pickled."""

    a: int
    b: tuple[int, ...] = ()


def test_it_is_kept_and_found_again() -> None:
    """Through the standard library's own way of keeping objects, as hypothesis and copies use it."""
    assert pickle.loads(pickle.dumps(Kept(1, (2,)))) == Kept(1, (2,))
    assert copy.copy(Kept(1)) == Kept(1)


def test_what_it_leaves_to_the_standard_one() -> None:
    """Order, and classes that can be changed."""

    @later(frozen=True, order=True)
    class Ordered:
        a: int

    @later
    class Open:
        a: int = 1

    assert Ordered(1) < Ordered(2)
    changed = Open()
    changed.a = 5
    assert changed == Open(5)
