"""Finding by any word: channels, panels, faces and parts by name, notes by their sentence, values by their title."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import TYPE_CHECKING

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Key
from lesart.core.parameters import shown
from lesart.core.step import Step
from lesart.desk.deeds.going import go_to
from lesart.project.places import in_words
from lesart.project.schema import parameters_at, tables_in
from lesart.project.toml_values import value_at
from lesart.study.views import Offer

if TYPE_CHECKING:
    from lesart.desk.desk import Desk

LONGEST = 90
"""Most characters of a note in the list."""


@dataclass(frozen=True)
class Found:
    """Something to go to: ``text`` names it uniquely, ``says`` is its present value."""

    text: str
    says: str
    go: Callable[[Desk], None]


def search(desk: Desk) -> None:
    """Show everything that can be found."""
    offers = tuple(Offer(each.text, each.says) for each in findable(desk))
    desk.state = replace(desk.state, offers={"": offers})


def find(desk: Desk, text: str) -> None:
    """Go to what has that name."""
    found = next((each for each in findable(desk) if each.text == text), None)
    if found is None:
        desk.say(f"Nothing here has {shown(text)} in it.", fault=True)
        return
    found.go(desk)
    desk.say(f"{found.text}: {found.says}" if found.says else found.text)


def findable(desk: Desk) -> Iterator[Found]:
    """Names first, then notes, then values."""
    yield from _names(desk)
    for index, note in enumerate(desk.last_notes):
        text = f"note {index + 1} {note.mark}"
        yield Found(text, note.text[:LONGEST], lambda desk, index=index: desk.go_to_note(index))  # type: ignore[misc]
    yield from _values(desk)


def _names(desk: Desk) -> Iterator[Found]:
    project = desk.state.project
    for name in project.channels:
        yield Found(f"channel {name}", "", lambda desk, name=name: desk.choose_channel(name))  # type: ignore[misc]
    for name, panel in project.panels.items():
        yield Found(f"panel {name}", panel.says(), _to_panel(name))
    for name, face in project.faces.items():
        yield Found(f"face {name}", f"on {face.panel}", _to(("faces", name, "panel")))
    for name, part in project.hookup.parts.items():
        yield Found(f"part {name}", part.kind.name, _to(("parts", name, "kind")))


def _to_panel(name: str) -> Callable[[Desk], None]:
    def go(desk: Desk) -> None:
        desk.choose_panel(name)
        desk.open_step(Step.GLASS)

    return go


def _to(key: Key) -> Callable[[Desk], None]:
    return lambda desk: go_to(desk, key)


def _values(desk: Desk) -> Iterator[Found]:
    """Values in the file, and values taken from their homes."""
    project = desk.state.project
    for table in tables_in(project.tables):
        for parameter in parameters_at(project, table):
            key = (*table, parameter.name)
            value = value_at(project.tables, key)
            if value is None and key in project.homes:
                value = project.homes[key].written
            if isinstance(value, str | int | bool):
                yield Found(in_words(project.tables, key), str(value), _to(key))
