"""Notes that say the same about several places become one: a long list hides what is wrong."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable
from dataclasses import replace

from lesart.core.notes import Note
from lesart.core.quantity import listed

MANY = 4
"""From this many channels they are named in brackets, and the note leads to none of them."""


def gathered(notes: Iterable[Note]) -> list[Note]:
    """Notes with equal ones merged, for fields of a panel, for a channel on several panels, for several channels; each
    where the first one was."""
    found = _joined(notes, lambda note: (_said(note), note.text), _twice)
    found = _joined(found, _of_channel, _on_panels)
    return _joined(found, _of_place, _of_channels)


def _joined(
    notes: Iterable[Note], key: Callable[[Note], Hashable | None], join: Callable[[list[Note]], Note]
) -> list[Note]:
    """Notes with equal keys merged; a key of None is never merged."""
    groups: dict[Hashable, list[Note]] = {}
    for index, note in enumerate(notes):
        of = key(note)
        groups.setdefault(("alone", index) if of is None else of, []).append(note)
    return [join(group) if len(group) > 1 else group[0] for group in groups.values()]


def _said(note: Note) -> Hashable:
    """Everything in a note but its subject."""
    return note.mark, note.step, note.remedy, note.ways, note.part, note.pins


def _rest(note: Note) -> tuple[str, str] | None:
    """The rest of a sentence after its channel, or channel and panel, and which of the two; None where it begins with
    neither."""
    for subject, kind in ((f"{note.channel} on {note.panel}", "on"), (f"{note.channel}", "channel")):
        if note.channel and note.text.startswith(f"{subject}:"):
            return note.text[len(subject) :], kind
    return None


def _of_channel(note: Note) -> Hashable | None:
    rest = _rest(note)
    return None if rest is None or rest[1] != "on" else (_said(note), note.channel, rest)


def _of_place(note: Note) -> Hashable | None:
    rest = _rest(note)
    if rest is None:
        panels = listed(note.panels) if note.panels else ""
        start = f"{note.channel} on {panels}"
        if not note.channel or not note.text.startswith(f"{start}:"):
            return None
        rest = (note.text[len(start) :], "on")
    return _said(note), rest, note.panels if rest[1] == "on" else ()


def _twice(group: list[Note]) -> Note:
    return _with_all(group, group[0].text)


def _on_panels(group: list[Note]) -> Note:
    first = group[0]
    panels = list(dict.fromkeys(note.panel or "" for note in group))
    rest = first.text.removeprefix(f"{first.channel} on {first.panel}")
    return _with_all(group, f"{first.channel} on {listed(panels)}{rest}")


def _of_channels(group: list[Note]) -> Note:
    first = group[0]
    names = list(dict.fromkeys(note.channel or "" for note in group))
    rest = first.text.removeprefix(f"{first.channel}")
    if len(names) < MANY:
        return _with_all(group, f"{listed(names)}{rest}")
    return replace(
        _with_all(group, f"{len(names)} channels ({', '.join(names)}){rest}"), channel=None, panel=None, of=()
    )


def _with_all(group: list[Note], text: str) -> Note:
    """The first note, with the edits of all, and the others attached."""
    mends = tuple(dict.fromkeys(mend for note in group for mend in note.mend if _is_plain(mend.value)))
    others = tuple(mend for note in group for mend in note.mend if not _is_plain(mend.value))
    of = tuple(each for note in group for each in note.of or (note,))
    return replace(group[0], text=text, mend=(*mends, *others), of=of)


def _is_plain(value: object) -> bool:
    return not isinstance(value, dict)
