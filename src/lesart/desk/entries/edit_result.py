"""The context of an added or removed entry, and the result of an edit: the new text, and what was done."""

from __future__ import annotations

from pathlib import Path

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.notes import Key
from lesart.core.step import Step
from lesart.desk.state import State
from lesart.project.captures.capture import Capture
from lesart.project.tables.variants import with_own
from lesart.project.text import Editor
from lesart.study.bench import Bench

_SECTIONS: dict[Step | None, str] = {Step.LAW: "law", Step.TRUE: "true", Step.CALM: "calm"}


def own_text(editor: Editor, state: State, section: str = "") -> str:
    """The text in which a variant looked at has its own section of the open step."""
    text, channel = state.history.text, state.chosen
    section = section or _SECTIONS.get(state.step, "")
    if not channel.variant or not section:
        return text
    return with_own(editor, text, channel.key(section))


@dataclass(frozen=True)
class Edited:
    """A new text, what was done in a few words, and the value to select, if any."""

    text: str
    deed: str
    select: Key | None = None


@dataclass(frozen=True)
class Here:
    """The context of an added or removed entry: the state, results at hand, the project's folder."""

    editor: Editor
    state: State
    bench: Bench
    folder: Path

    @property
    def text(self) -> str:
        """The project text; where a variant is looked at, one in which it has its own section of the open step."""
        return own_text(self.editor, self.state)

    @property
    def capture(self) -> Capture | None:
        """The capture of the chosen channel; None where it cannot be read."""
        try:
            return self.bench.capture(self.state.project.sources[self.state.chosen.source])
        except LesartError:
            return None
