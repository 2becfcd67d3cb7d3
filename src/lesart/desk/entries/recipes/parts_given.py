"""The parts of the hook-up for a signal described in a line, and those added for it."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Key, Written
from lesart.core.wire.entry import free_name
from lesart.core.wire.part import Part
from lesart.desk.entries.chain import joined_first
from lesart.desk.entries.recipes.recipe import Sketch, Table
from lesart.project.model import Project

BETWEEN = "between"
AMPLIFIER = "bridge amplifier"
"""An amplifier comes with a load cell, and serves two."""


@dataclass(frozen=True)
class Given:
    """Parts by their name in a sketch: those in the hook-up, and those to be added.

    ``told`` are new values for those in the hook-up, ``said`` the places of all values that a person stated.
    """

    names: Mapping[str, str]
    new: Mapping[str, Table]
    told: Mapping[Key, Written]
    said: tuple[Key, ...]


def parts_given(sketch: Sketch, project: Project, channel: str, said: Collection[Key]) -> Given:
    """One of the hook-up for each that a sketch wants, where there is one that no other signal has; a resistor only
    where it is joined, for one in a drawer may be for anything, and where it was not something else to this channel.

    ``said`` are places in the sketch of what a person said: a part that is taken has it from now on.
    """
    names: dict[str, str] = {}
    new: dict[str, Table] = {}
    told: dict[Key, Written] = {}
    keys: list[Key] = []
    wanted = {str(law["part"])[1:]: str(law["kind"]) for law in sketch.laws if str(law.get("part", ""))[:1] == "@"}
    for role, table in sketch.parts.items():
        own = {name: value for name, value in table.items() if ("parts", role, name) in said}
        candidates = _candidates(project, channel, str(table["kind"]), wanted.get(role, ""), is_said=bool(own))
        there = next((name for name in candidates if name not in names.values()), None)
        if there is not None:
            other = {name: value for name, value in own.items() if _differs(project, there, name, value)}
            told |= {("parts", there, name): value for name, value in other.items()}
            keys += [("parts", there, name) for name in own]
        elif role in wanted or role == sketch.reads or table["kind"] == AMPLIFIER:
            there = free_name((*project.hookup.parts, *new), role)
            new[there] = table
        if there is not None:
            names[role] = there
    return Given(names, new, told, tuple(keys))


def _candidates(project: Project, channel: str, kind: str, law: str, *, is_said: bool) -> Iterator[str]:
    """Candidate parts of a kind, the likeliest first.

    ``law`` is the one that needs it; ``is_said``: a value of it was stated, which it takes on whatever it had.
    """
    through = {join.through for join in project.hookup.joins}
    for part in joined_first(project.hookup).values():
        if part.kind.name != kind:
            continue
        users = dict(_users(project, part))
        others = {name for name in users if not _are_one_signal(project, name, channel)}
        if others and kind != AMPLIFIER:
            continue
        was = users.get(channel, "")
        is_own = bool(law) and was == law
        is_joined = part.name in through and (not was or is_said)
        if part.kind.group == BETWEEN and not is_own and not is_joined:
            continue
        yield part.name


def _users(project: Project, part: Part) -> Iterator[tuple[str, str]]:
    """Channels that use it, each with its law; without a law for one that is only read from it."""
    for name, table in project.tables.get("channels", {}).items():
        if table.get("part") == part.name:
            yield name, ""
        for law in table.get("law", ()):
            if part.name in (value for key, value in law.items() if key != "kind"):
                yield name, str(law.get("kind", ""))


def _are_one_signal(project: Project, one: str, other: str) -> bool:
    """True for the same channel, or another one of the same column: a column read twice is one sensor."""
    first, second = project.channels[one], project.channels[other]
    return (first.source, first.column) == (second.source, second.column)


def _differs(project: Project, part: str, name: str, value: Written) -> bool:
    """True where the value differs from the part's. Another way to write the same value is kept."""
    parameter = next(each for each in project.hookup.parts[part].kind.parameters if each.name == name)
    written = project.tables["parts"][part].get(name, parameter.default)
    try:
        return written is None or parameter.read(written) != parameter.read(value)
    except ValueError:
        return True  # it is out of bounds, which the project that comes of it says
