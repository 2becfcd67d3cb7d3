"""Values that a recipe assumed and nobody has confirmed: a remark for each, or one for a whole field or register."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby

from lesart.core.notes import REMARK, Key, Mend, Note
from lesart.core.quantity import listed
from lesart.project.assumed import ASSUMED, mend_of
from lesart.project.model import Project
from lesart.project.schema import parameters_at
from lesart.project.toml_values import value_at
from lesart.study.key_places import seen_at


def inspect_assumed(project: Project) -> Iterator[Note]:
    """A remark on each, with its place and the mend that confirms it; values of a frame field are in one, since they
    belong together."""
    for keys in _together(project.assumed):
        first = keys[0]
        if first[0] == "sources" and first[-1] == "rate":
            continue  # 2 Raw says it, with what hangs on it
        channel = str(first[1]) if first[0] == "channels" else None
        one = len(keys) == 1
        yield Note(
            REMARK,
            seen_at(first)[0],
            channel,
            _said(project, keys),
            remedy="type what it really is" if one else "type what they really are",
            m_does="takes it as it is" if one else "takes them as they are",
            mend=(mend_of(project.assumed, first) if one else Mend((*first[:-1], ASSUMED), None),),
            panel=str(first[1]) if first[0] == "panels" else None,
            part=str(first[1]) if first[0] == "parts" else None,
            place=first,
        )


def _together(assumed: Sequence[Key]) -> Iterator[tuple[Key, ...]]:
    for entry, keys in groupby(assumed, lambda key: key[:-1]):
        if _list_of(entry):
            yield tuple(keys)
        else:
            yield from ((key,) for key in keys)


def _list_of(key: Key) -> bool:
    """True for a value in an entry of one of a source's lists."""
    return key[0] == "sources" and any(each in ("fields", "registers") for each in key[2:4])


def _said(project: Project, keys: Sequence[Key]) -> str:
    """``air: β 3950 K is assumed``; a choice by its name in the list."""
    first = keys[0]
    if first[-1] == "kind":
        return f"{first[1]} is assumed to be a {value_at(project.tables, first)}."
    values = listed([_value(project, key) for key in keys])
    return f"{_whose(project, first)}: {values} {'is' if len(keys) == 1 else 'are'} assumed."


def _value(project: Project, key: Key) -> str:
    """A value with its title; booleans in words."""
    known = next((each for each in parameters_at(project, key[:-1]) if each.name == key[-1]), None)
    value = value_at(project.tables, key)
    title = known.title if known is not None else key[-1]
    if known is not None and known.kind == "flag":
        return f"{'' if value else 'not '}{title}"
    return f'{title} "{value}"' if known is not None and known.kind == "choice" else f"{title} {value}"


def _whose(project: Project, key: Key) -> str:
    """The owner of a value; a field of a source by both names."""
    if _list_of(key):
        return f"{key[1]}, {value_at(project.tables, (*key[:-1], 'name'))}"
    return str(key[1])
