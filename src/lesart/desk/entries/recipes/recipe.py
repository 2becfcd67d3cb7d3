"""A recipe: what a signal is in a few words, and all that follows from them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Key, Written
from lesart.core.parameters import Parameter

Table = dict[str, Written]
Said = Mapping[str, Written]
"""By the word of each question; what a person did not say is there as it is usual."""


@dataclass(frozen=True)
class Ask:
    """Something that a recipe wants to know. ``parameter`` reads it, its default is what is usual; ``places`` are where
    it goes in the sketch, so that a value that was not said is told apart there."""

    word: str
    parameter: Parameter
    places: tuple[Key, ...]
    sign: str = ""
    """What a value without its word has to have in it: a slope has a stroke."""

    @property
    def usual(self) -> Written:
        """What is meant where nothing is said."""
        default = self.parameter.default
        assert isinstance(default, str | int | bool)
        return default


@dataclass(frozen=True)
class Sketch:
    """What a signal becomes. ``parts`` are named as they would be called; a law says ``@NAME`` for the one of them that
    it takes. ``reads`` names the one that the channel is read from."""

    laws: tuple[Table, ...] = ()
    parts: Mapping[str, Table] = field(default_factory=dict)
    reads: str = ""
    raw_unit: str = "ct"
    span: tuple[str, str] | None = None
    """What it can read as a rule; without it what the capture shows."""
    span_is: tuple[str, str] | None = None
    """The words of the two questions that it is the answer to."""
    jumps: bool = False
    """Single wrong values are thrown out; what does not jump is smoothed."""
    comes_round: bool = False
    """Both ends of what it can read are one place."""


@dataclass(frozen=True)
class Recipe:
    """``name`` is what a person types, ``says`` what it is, ``example`` the whole line."""

    name: str
    says: str
    example: str
    asks: tuple[Ask, ...]
    sketch: Callable[[Said], Sketch]
    begins: str = ""
    """The line without what may be left out; as a rule its name with an article."""

    def __post_init__(self) -> None:
        if not self.begins:
            object.__setattr__(self, "begins", f"a {self.name}")

    @property
    def called(self) -> str:
        """Within a sentence: ``an angle``, ``pulses of a flow``."""
        article = self.begins.partition(" ")[0]
        name = self.name.removesuffix(" of")
        return f"{article} {name}" if article in ("a", "an") else name
