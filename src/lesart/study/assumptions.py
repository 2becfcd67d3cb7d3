"""What a recipe assumed and nobody has said yet: a remark for each value."""

from __future__ import annotations

from collections.abc import Iterator

from lesart.core.notes import REMARK, Key, Note
from lesart.project.assumed import mend_of
from lesart.project.model import Project
from lesart.project.schema import parameters_at
from lesart.project.toml_values import value_at
from lesart.study.key_places import seen_at


def inspect_assumed(project: Project) -> Iterator[Note]:
    """Each with its place, and the key that takes it as it is."""
    for key in project.assumed:
        if key[0] == "sources" and key[-1] == "rate":
            continue  # 2 Raw says it, with what hangs on it
        channel = str(key[1]) if key[0] == "channels" else None
        yield Note(
            REMARK,
            seen_at(key)[0],
            channel,
            _said(project, key),
            remedy="type what it really is",
            m_does="takes it as it is",
            mend=(mend_of(project.assumed, key),),
            panel=str(key[1]) if key[0] == "panels" else None,
            part=str(key[1]) if key[0] == "parts" else None,
            place=key,
        )


def _said(project: Project, key: Key) -> str:
    """``air: β 3950 K is assumed``; what is a choice is named as it stands in its list."""
    known = next((each for each in parameters_at(project, key[:-1]) if each.name == key[-1]), None)
    value = value_at(project.tables, key)
    if key[-1] == "kind":
        return f"{key[1]} is assumed to be a {value}."
    whose, title = _whose(project, key), known.title if known is not None else key[-1]
    if known is not None and known.kind == "choice":
        value = f'"{value}"'
    return f"{whose}: {title} {value} is assumed."


def _whose(project: Project, key: Key) -> str:
    """What a value is of; a field of a source by both names."""
    if len(key) > 4 and key[2] == "fields":
        return f"{key[1]}, {value_at(project.tables, (*key[:4], 'name'))}"
    return str(key[1])
