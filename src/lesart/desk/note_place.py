"""The place of a note: its step, channel and panel, its leaf, and the value to select."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from lesart.core.notes import Key, Note
from lesart.core.step import Step
from lesart.core.wire.entry import JOINS
from lesart.core.wire.hookup import Hookup
from lesart.desk.state import State


def is_listed(state: State, note: Note) -> bool:
    """True where it is among the listed notes."""
    return not state.notes_here or state.step is None or note.step == state.step


def next_listed(state: State, notes: Sequence[Note]) -> int | None:
    """Index of the note after the chosen one, wrapping at the end; None where none is listed."""
    at = -1 if state.note is None else state.note
    ahead = ((at + by) % len(notes) for by in range(1, len(notes) + 1))
    return next((each for each in ahead if is_listed(state, notes[each])), None)


def at_note(state: State, index: int, note: Note) -> State:
    """The state with a note chosen, the ``index``-th of all, and its subject in view."""
    state = replace(state, note=index, step=note.step)
    if note.channel is not None:
        state = state.following_channel(note.channel)
        if state.variant not in note.ways:
            state = replace(state, variant=note.ways[0])
    if note.panel is not None:
        state = state.with_panel_in_front(note.panel)
    place = place_of(note, state.project.hookup)
    if note.step == Step.WIRE:
        state = state.turned_to(Step.WIRE, leaf_of(place))
    if note.step == Step.PACE:
        state = state.turned_to(Step.PACE, leaf_of_pace(place))
    return state if place is None else state.select(place)


def place_of(note: Note, hookup: Hookup) -> Key | None:
    """The value that a note is about: its own place, what its remedy would change, or a connection at its pins."""
    if note.place is not None:
        return (*note.place, "kind") if note.place[0] == "sums" else note.place
    # A remedy may begin with a part that does not exist yet.
    changed = [mend.key for mend in note.mend if not isinstance(mend.value, Mapping)]
    at_pins = [key for key in changed if key[:2] == JOINS and _is_at(note, hookup, key)]
    if changed:
        return next(iter((*at_pins, *changed)))
    return _at_pins(note, hookup) if note.step == Step.WIRE else None


def _is_at(note: Note, hookup: Hookup, key: Key) -> bool:
    join = next((join for join in hookup.joins if join.index == key[2]), None)
    return join is not None and str(join.pin) in note.pins


def _at_pins(note: Note, hookup: Hookup) -> Key | None:
    at_pins = [join for join in hookup.joins if {str(end) for end in join.ends} & set(note.pins)]
    of_part = [join for join in hookup.joins if note.part in (join.pin.part, join.to.part)]
    join = next(iter((*at_pins, *of_part)), None)
    return None if join is None else (*JOINS, join.index, "to")


def leaf_of(place: Key | None) -> str:
    """The leaf of Wire on which a value can be seen."""
    match place:
        case ("sums", *_):
            return "sums"
        case ("wire", "measured", *_):
            return "bring-up"
        case ("parts", *_):
            return "parts"
    return "joins"


def leaf_of_pace(place: Key | None) -> str:
    """The leaf of Pace on which a value can be seen."""
    match place:
        case ("panels", _, "scan", *_):
            return "digits"
        case ("panels", _, "trace", *_):
            return "trace"
        case ("loop", *_):
            return "tasks"
    return "loop"
