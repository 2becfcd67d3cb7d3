"""Every exception Lesart raises on purpose. Each says in one sentence the place, the value and what would be right.

Bad *data* never ends up here: a bad sample gets a mark and travels on (see ``lesart.core.block``). What raises is a
wrong project, a file that cannot be read, or a request that makes no sense.
"""

import re

from lesart.core.dataclass_later import dataclass
from lesart.core.visible import visible

_QUOTE = re.compile(r'"([^"]*)"')
_LONG_WORD = re.compile(r"([^\s:]{300})[^\s:]+")
LONGEST_QUOTE = 77
"""Characters of a quotation; its beginning is enough to recognise it."""


def sentence(said: str) -> str:
    """The text on one line, with long quotations and endless words cut."""
    return visible(_LONG_WORD.sub(r"\1…", _QUOTE.sub(_shortened, said)))


def _shortened(quote: re.Match[str]) -> str:
    return quote[0] if len(quote[1]) <= LONGEST_QUOTE else f'"{quote[1][:57]}…"'


class LesartError(Exception):
    """Base of all: ``str(error)`` is a sentence for a person, on one line whatever it quotes; several problems, a line
    each."""

    def __init__(self, *sentences: str) -> None:
        super().__init__("\n".join(map(sentence, sentences)))


class UnitError(LesartError):
    """An unknown unit, or two units that do not measure the same thing."""


class QuantityError(LesartError):
    """Text that is not a number with a unit."""


class CaptureError(LesartError):
    """A capture that cannot be read as numbers."""


class ReadingStopped(CaptureError):
    """A person cancelled the reading of a file."""


class NotWanted(Exception):
    """The work has been overtaken: whoever waited for it wants something else by now."""


class LineError(LesartError):
    """A line that cannot be opened or queried, or that went away; it is tried again."""


class RequestError(LesartError):
    """A channel, panel or view that the project does not have, or a value that cannot be used."""


class StorageError(LesartError):
    """A file that cannot be written or read; what was in memory is still there."""


@dataclass(frozen=True)
class Problem:
    """One thing wrong with a project: ``place`` is a dotted key, ``value`` as the file has it, ``wanted`` a clause.

    ``line`` is where it stands in the file, counted from 1, 0 where nobody knows; ``words`` are its place as the screen
    speaks of it.
    """

    place: str
    value: str
    wanted: str
    line: int = 0
    words: str = ""

    def __str__(self) -> str:
        said = f"{self.place} = {self.value};" if self.value else f"{self.place}:"
        return sentence(f"{said} {self.wanted}.")

    @property
    def on_screen(self) -> str:
        """The same sentence in the words of the screen."""
        place = self.words or self.place
        return sentence(f"{place} = {self.value}; {self.wanted}." if self.value else f"{place}: {self.wanted}.")


class ProjectError(LesartError):
    """A project with one or more problems, all of them reported at once."""

    def __init__(self, where: str, problems: tuple[Problem, ...]) -> None:
        self.where = where
        self.problems = problems
        super().__init__(*(f"{where}{_behind(problem)}: {problem}" for problem in problems))


def _behind(problem: Problem) -> str:
    """``file:line`` of the problem, as compilers write it."""
    return f":{problem.line}" if problem.line else ""
