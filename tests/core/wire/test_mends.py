"""A remedy that a key applies mends: on hook-ups that are right, with whatever somebody then did to them."""

from __future__ import annotations

import random
import re
from collections import defaultdict

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.notes import FAULT, Note
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.core.wire.hookup import Hookup, Join
from lesart.core.wire.proposal.propose import propose
from tests.core.wire.hookups import hookup, mended, part
from tests.figures import unsaid

BOARDS = sorted(name for name, kind in KINDS.items() if kind.group == "board")
PARTS = sorted(name for name, kind in KINDS.items() if kind.group not in ("board", "source"))


FAMILIES = (
    "open.",
    "does not work with",
    "has two jobs",
    "that is a short",
    "Nothing reads",
    "feed each other|is fed by",
    "no common ground",
    "gets .* from",
    "puts? .* on",
    "pull.* up to",
    "both answer at",
    "No pull-ups",
    "ask .* of an output",
    "are allowed at",
    "no resistor in",
    "more than the",
    "much less than the",
    "stays? dark",
    "share one resistor",
    "has to carry",
    "carry .* together",
    "into heat",
    " gives ",
    "is alone at",
    "through .* the converter reads",
    "more than one order",
)


def kind_of(note: Note) -> tuple[str | None, str]:
    """Of which part a note speaks and what it is about, whatever pins and figures it names; of a rail, of which."""
    about = next((family for family in FAMILIES if re.search(family, note.text)), None)
    assert about is not None, note.text
    return (note.text.partition(about)[0] if about == " gives " else note.part), about


def still(note: Note, notes: tuple[Note, ...]) -> list[str]:
    """Notes that say the same of the same part and some of the same pins."""
    return [
        other.text
        for other in notes
        if kind_of(other) == kind_of(note) and (not note.pins or set(other.pins) & set(note.pins))
    ]


def new_faults(before: tuple[Note, ...], after: tuple[Note, ...]) -> list[str]:
    """Faults that say something else, or the same of more pins."""
    pins: dict[tuple[str | None, str], set[str]] = defaultdict(set)
    for note in before:
        if note.mark == FAULT:
            pins[kind_of(note)] |= {"", *note.pins}
    return [note.text for note in after if note.mark == FAULT and not {"", *note.pins} <= pins[kind_of(note)]]


MUST_BE_GIVEN = {"Ω": "10 kΩ", "F": "100 nF", "V": "5 V"}


def written_as_usual(kind: str) -> dict[str, object]:
    """Its table in a project file, with a value where none is usual."""
    wanting = [each for each in KINDS[kind].parameters if each.default is None and not each.optional]
    return {"kind": kind, **{each.name: MUST_BE_GIVEN[each.unit] for each in wanting}}


@st.composite
def spoiled(draw: st.DrawFn) -> Hookup:
    """A board, sources and one to four parts, joined as proposed; then up to four things done to it at random."""
    chance = random.Random(draw(st.integers(0, 10**9)))
    parts: dict[str, object] = {"node": draw(st.sampled_from(BOARDS))}
    if draw(st.booleans()):
        parts["mains"] = {"kind": "supply", "voltage": draw(st.sampled_from(["3.3 V", "5 V", "12 V", "24 V"]))}
    if draw(st.booleans()):
        parts["cell"] = {"kind": "battery", "voltage": draw(st.sampled_from(["3 V", "3.7 V", "9 V"]))}
    for place, kind in enumerate(draw(st.lists(st.sampled_from(PARTS), min_size=1, max_size=4))):
        parts[f"m{place}"] = written_as_usual(kind)
    found = propose(hookup(parts)).hookup
    for _ in range(draw(st.integers(0, 4))):
        found = spoil(found, chance)
    return found


def spoil(found: Hookup, chance: random.Random) -> Hookup:
    """One end moved, one join gone, one straight, one more, or another part in the place of one."""
    joins, ends = list(found.joins), [end for end, _ in found.ends()]
    what = chance.choice(("move", "move", "drop", "straight", "more", "swap", "exchange"))
    place = chance.randrange(len(joins)) if joins else 0
    if what == "more" or not joins:
        first, second = chance.sample(ends, 2)
        joins.append(Join(first, second, "", "", max((each.index for each in joins), default=-1) + 1))
    elif what == "drop":
        del joins[place]
    elif what == "straight":
        joins[place] = Join(**{**joins[place].__dict__, "through": ""})
    elif what == "move":
        side = chance.choice(("pin", "to"))
        joins[place] = Join(**{**joins[place].__dict__, side: chance.choice(ends)})
    elif what == "swap" and len(joins) > 1:
        other = chance.choice([each for each in range(len(joins)) if each != place])
        one, two = joins[place], joins[other]
        joins[place] = Join(**{**one.__dict__, "to": two.to})
        joins[other] = Join(**{**two.__dict__, "to": one.to})
    else:
        return _exchanged(found, chance)
    return Hookup(found.parts, tuple(Join(**{**each.__dict__, "index": index}) for index, each in enumerate(joins)))


def _exchanged(found: Hookup, chance: random.Random) -> Hookup:
    """Another value of a resistor, another voltage of a source."""
    name = chance.choice(list(found.parts))
    kind = found.parts[name].kind
    written = written_as_usual(kind.name)
    for each in kind.parameters:
        if each.name == "resistance":
            written[each.name] = chance.choice(["1 Ω", "47 Ω", "330 Ω", "4.7 kΩ", "100 kΩ"])
        elif each.name == "voltage":
            written[each.name] = chance.choice(["3.3 V", "5 V", "12 V"])
    return Hookup({**found.parts, name: part(name, written)}, found.joins)


@settings(max_examples=100, deadline=None)
@pytest.mark.long
@given(spoiled())
def test_the_key_of_a_note_mends_it_and_breaks_nothing(before: Hookup) -> None:
    """What it says is no longer so, and there is no fault that was not there before."""
    notes = inspect_hookup(before)
    for note in notes:
        assert unsaid(note) == ""
        if not note.mend:
            continue
        after = inspect_hookup(mended(before, note.mend))
        assert still(note, after) == [], (note.text, note.remedy)
        assert new_faults(notes, after) == [], (note.text, note.remedy)
