"""A recipe: a signal in a few words, and all that follows from them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Key, Written
from lesart.core.parameters import Parameter

Table = dict[str, Written]
Said = Mapping[str, Written]
"""Answers by the word of each question, defaults included."""


@dataclass(frozen=True)
class Ask:
    """A question of a recipe.

    ``parameter`` reads the answer, and its default is the usual one; ``places`` are its places in the sketch, where
    assumed values are marked.
    """

    word: str
    parameter: Parameter
    places: tuple[Key, ...]
    sign: str = ""
    """A sign that an unnamed value has to contain: a slope has a slash."""

    @property
    def usual(self) -> Written:
        """The default answers."""
        default = self.parameter.default
        assert isinstance(default, str | int | bool)
        return default


@dataclass(frozen=True)
class Sketch:
    """The chain that a signal becomes.

    ``parts`` have their names-to-be; a law refers to one by ``@NAME``. ``reads`` names the one that the channel is read
    from.
    """

    laws: tuple[Table, ...] = ()
    parts: Mapping[str, Table] = field(default_factory=dict)
    reads: str = ""
    raw_unit: str = "ct"
    span: tuple[str, str] | None = None
    """Its usual range; without one that of the capture."""
    span_is: tuple[str, str] | None = None
    """The words of the two questions that give the range."""
    jumps: bool = False
    """True for signals with single wrong values, which are dropped; others are smoothed."""
    comes_round: bool = False
    """True where both ends of its range are the same, as on a circle."""


@dataclass(frozen=True)
class Recipe:
    """``name`` is what a person types, ``says`` a description, ``example`` a whole line."""

    name: str
    says: str
    example: str
    asks: tuple[Ask, ...]
    sketch: Callable[[Said], Sketch]
    begins: str = ""
    """The line without optional values; usually its name with an article."""

    def __post_init__(self) -> None:
        if not self.begins:
            object.__setattr__(self, "begins", f"{'an' if self.name[0] in 'aeiou' else 'a'} {self.name}")

    @property
    def called(self) -> str:
        """Its name within a sentence: ``an angle``, ``pulses of a flow``."""
        article = self.begins.partition(" ")[0]
        name = self.name.removesuffix(" of")
        return f"{article} {name}" if article in ("a", "an") else name
