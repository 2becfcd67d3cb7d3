"""Entries of the hook-up added and removed: parts, connections, sums; all joined by role; a sum's result written."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from typing import Any

from lesart.core.errors import RequestError
from lesart.core.notes import Key, Mend, Written
from lesart.core.quantity import counted
from lesart.core.wire.entry import JOINS, free_name, join_entry
from lesart.core.wire.faults.sums import differs, mends_of, shown_part
from lesart.core.wire.hookup import End, Hookup, Join
from lesart.core.wire.part import Part, PartKind
from lesart.core.wire.pinout import ALL, SIGNAL, pins_listed, pins_written
from lesart.core.wire.proposal.propose import propose
from lesart.core.wire.sums import SUMS, SumKind
from lesart.desk.entries.aloud.article import without_article
from lesart.desk.entries.aloud.instead.parts import done_otherwise, no_join
from lesart.desk.entries.aloud.sums import sum_said
from lesart.desk.entries.aloud.wired.on_pins import OnPins, names_pins, part_on_pins, pins_named, strange_pins
from lesart.desk.entries.aloud.wired.pinouts import board_said, joins_renamed, pinout_said, pins_besides, uses_said
from lesart.desk.entries.aloud.wired.plainly import wired_plainly
from lesart.desk.entries.aloud.wired.pulls import pulls_said
from lesart.desk.entries.aloud.wired.wiring import PartSaid, is_part_on_a_pin, join_plainly, part_said
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.typed_values import kind_named, meant, values_typed
from lesart.project.assumed import ASSUMED
from lesart.project.check import check_project
from lesart.project.facts.compare import PANELS_OF
from lesart.project.model import Project
from lesart.project.tables.wiring import end_from, kinds_of
from lesart.project.text import Editor
from lesart.project.toml_values import value_at

BOARDS = ("5 V board", "3.3 V board", "large 3.3 V board")
"""Boards assumed for a hook-up without one: the first with the named pins."""
FEW = 16
"""Number of signal pins of the smaller boards."""
DECLARED = re.compile(
    r"(?:#\s*define\s+\w+\s+|(?:(?:static|const|constexpr|let|var)\s+)*(?:int|byte|char|u?int\d{1,2}_t)\s+\w+\s*=\s*)(?P<pin>\d{1,2})\s*;?$"
)
"""A pin as code names it, which does not say what is connected to it."""
HOW = 'write "name = kind" for a part, or "part.pin > part.pin through part" for a connection'


def add_entry(editor: Editor, text: str, project: Project, leaf: str, typed: str) -> Edited:
    """The text with what was typed at ``+``. Raises RequestError with a sentence that says what would be right."""
    try:
        return _add_entry(editor, text, project, leaf, typed)
    except RequestError:
        plain = "" if leaf == "sums" else wired_plainly(typed, project.hookup)
        if not plain:
            raise
        with suppress(RequestError):  # what is wrong is told of the line as it was typed
            return _add_entry(editor, text, project, leaf, plain)
        raise


def _add_entry(editor: Editor, text: str, project: Project, leaf: str, typed: str) -> Edited:
    if declared := DECLARED.match(typed.strip()):
        pin = f"p{declared['pin']}"
        raise RequestError(
            f'"{typed.strip()}": say which part is on it, like button on {pin}, or ultrasonic trig {pin} echo p5.'
        )
    if leaf != "sums" and (said := _pinout(editor, text, project, typed)) is not None:
        return said
    if "=" in typed:
        name, _, what = typed.partition("=")
        if leaf == "sums":
            return _add_sum(editor, text, project, name.strip(), what.strip())
        return _add_part(editor, text, project, name.strip(), what.strip())
    if leaf == "sums":
        return _add_sum_said(editor, text, project, typed)
    if ">" in typed and "->" not in typed:
        return _add_join(editor, text, project, typed)
    if (pulled := _pulled(editor, text, project, typed)) is not None:
        return pulled
    if how := no_join(typed):
        raise RequestError(f'"{typed}" is neither a part nor a connection; {how}.')
    try:
        joined = join_plainly(typed, project.hookup)
    except RequestError:
        # ``button d3 to ground`` is a part on a pin; with the name of an existing part it is a wrong connection.
        is_new = not any(re.search(rf"(?<!\w){re.escape(name)}(?!\w)", typed) for name in project.hookup.parts)
        both = _on_pins(editor, text, project, typed) if is_new else None
        if both is None:
            raise
        return both
    if joined is not None:
        return _add_join(editor, text, project, joined)
    both = _on_pins(editor, text, project, typed)
    if both is not None:
        return both
    part = part_said(typed, kinds_of(project.tables), project.hookup.parts)
    if part is not None:
        part = _apart_from_panels(project, typed, part)
        return _added_part(editor, text, part.name, part.kind, part.values)
    bare = without_article(typed)
    if bare != typed.strip():
        kinds = kinds_of(project.tables)
        may_be = f"it may be {', '.join(kinds)}."
        raise RequestError(f'"{bare}" is not a kind of part; {meant(bare, kinds) or may_be}')
    if how := done_otherwise(typed):
        raise RequestError(f'"{typed}" is neither a part nor a connection; {how}.')
    raise RequestError(f'"{typed}" is neither; {HOW}.')


def _pulled(editor: Editor, text: str, project: Project, typed: str) -> Edited | None:
    """Resistors to a rail; a hook-up without a board gets an assumed one with such pins. None for anything else."""
    if lines := pulls_said(typed, project.hookup):
        return _added_joins(editor, text, project, lines)
    if any(part.kind.group == "board" for part in project.hookup.parts.values()) or not names_pins(typed):
        return None
    kind, name = _assumed_for(typed), free_name(project.hookup.parts, "board")
    with_board = editor.with_table(text, ("parts", name), {"kind": kind, ASSUMED: "kind"})
    assuming = check_project(with_board, project)
    if not (lines := pulls_said(typed, assuming.hookup)):
        return None
    made = _added_joins(editor, with_board, assuming, lines)
    return replace(made, deed=f"{made.deed}; {name} is assumed to be a {kind}")


def _on_pins(editor: Editor, text: str, project: Project, typed: str) -> Edited | None:
    """A part on board pins; a hook-up without a board gets an assumed one with such pins. None for anything else."""
    boards = [part for part in project.hookup.parts.values() if part.kind.group == "board"]
    if len(boards) == 1:
        made = _at_board(editor, text, project, typed, boards[0].name)
        if made is None and is_part_on_a_pin(typed, kinds_of(project.tables)):
            _know_pins(typed, boards[0])
        return made
    if boards or not names_pins(typed):
        return None
    for kind, is_extended in (*((kind, False) for kind in BOARDS), (_assumed_for(typed), True)):
        name = free_name(project.hookup.parts, "board")
        with_board = editor.with_table(text, ("parts", name), {"kind": kind, ASSUMED: "kind"})
        made = _at_board(editor, with_board, check_project(with_board, project), typed, name, is_extended)
        if made is not None:
            return replace(made, deed=f"{made.deed}; {name} is assumed to be a {kind}")
    return None


def _know_pins(typed: str, board: Part) -> None:
    """Raises RequestError for a pin that the board does not have."""
    if strange := strange_pins(typed, board):
        has = pins_written([pin.name for pin in board.kind.pins if pin.name[-1:].isdigit() and pin.name[:1].isalpha()])
        raise RequestError(
            f'"{typed.strip()}": {board.name} has no pin {strange[0]}; it has {has}; '
            "where yours has more, + signal pins says which."
        )


def _assumed_for(typed: str) -> str:
    """The kind of board with these pins, or most of them."""
    return BOARDS[-1 if any(int(pin.lstrip("ap")) > FEW for pin in pins_named(typed)) else 0]


def _pinout(editor: Editor, text: str, project: Project, typed: str) -> Edited | None:
    """The uses of a board's pins, or another of its values: ``sda 21 scl 22``, ``bus clock 400 kHz``.

    Missing pins are added. None for other lines.
    """
    boards = [part for part in project.hookup.parts.values() if part.kind.group == "board"]
    usual = kinds_of(project.tables)[kind := _assumed_for(typed)]
    board = Part("board", usual, {each.name: each.default for each in usual.parameters})
    if not boards and names_pins(typed) and pinout_said(typed, board):
        with_board = editor.with_table(text, ("parts", "board"), {"kind": kind, ASSUMED: "kind"})
        made = _pinout(editor, with_board, check_project(with_board, project), typed)
        return replace(made, deed=f"{made.deed}; board is assumed to be a {kind}") if made is not None else None
    if len(boards) != 1:
        return None
    name, titles = boards[0].name, {each.name: each.title for each in boards[0].kind.parameters}
    pins = pinout_said(typed, boards[0])
    said: dict[str, Any] = {**pins, **board_said(typed, boards[0])}
    if not said:
        return None
    written = value_at(project.tables, ("parts", name)) or {}
    named = [pin for key, each in pins.items() if key != SIGNAL.name and each != ALL for pin in pins_listed(each)]
    said = {**pins_besides(named, boards[0], written, project.hookup), **said}
    text = editor.mended(text, joins_renamed(project.hookup, boards[0], pins))
    text, _ = with_values(editor, text, project, name, said)
    deed = "; ".join(f"{titles[key]} of {name}: {each}" for key, each in said.items())
    return Edited(text, deed, ("parts", name, next(iter(said))))


def _at_board(
    editor: Editor, text: str, project: Project, typed: str, name: str, is_extended: bool = True
) -> Edited | None:
    """The text with the named pins on the board, with the uses they are joined for, unless set otherwise."""
    kinds, board = kinds_of(project.tables), project.hookup.parts[name]
    told: dict[str, str] = {}
    written = value_at(project.tables, ("parts", name)) or {}
    both = part_on_pins(typed, kinds, project.hookup.parts)
    if both is None and is_extended and (told := pins_besides(pins_named(typed), board, written, project.hookup)):
        text, project = with_values(editor, text, project, name, told)
        both = part_on_pins(typed, kinds, project.hookup.parts)
    if both is None:
        return None
    both = _with_own_name(both, _apart_from_panels(project, typed, both.part))
    new = {pin.name for pin in project.hookup.parts[name].kind.pins} - {pin.name for pin in board.kind.pins}
    uses = uses_said(both.placed, project.hookup.parts[name], written, project.hookup, new)
    if uses:
        text, project = with_values(editor, text, project, name, uses)
    made = _added_on_pins(editor, text, project, both)
    titles = {each.name: each.title for each in board.kind.parameters}
    deeds = (made.deed, *(f"{titles[key]} of {name}: {pins}" for key, pins in {**told, **uses}.items()))
    return replace(made, deed="; ".join(deeds))


def _apart_from_panels(project: Project, typed: str, part: PartSaid) -> PartSaid:
    """A name different from panels of other kinds, unless a person chose it."""
    taken = project.tables.get("panels", {}).get(part.name, {}).get("kind")
    if taken is None or taken in PANELS_OF.get(part.kind.name, (taken,)) or re.search(r"\b(?:called|named)\b", typed):
        return part
    return replace(part, name=free_name((*project.hookup.parts, *project.panels), part.name))


def _with_own_name(said: OnPins, part: PartSaid) -> OnPins:
    """The part renamed, in its connections too."""
    old = f"{said.part.name}."
    lines = (f"{part.name}.{line.removeprefix(old)}" if line.startswith(old) else line for line in said.lines)
    return replace(said, part=part, lines=tuple(lines))


def with_values(
    editor: Editor, text: str, project: Project, board: str, said: Mapping[str, str]
) -> tuple[str, Project]:
    """The text with these values of a board, and the project that it is."""
    text = editor.mended(text, [Mend(("parts", board, key), value) for key, value in said.items()])
    return text, check_project(text, project)


def _added_on_pins(editor: Editor, text: str, project: Project, said: OnPins) -> Edited:
    """The text with a part, and its connections to the board."""
    made = _added_part(editor, text, said.part.name, said.part.kind, said.part.values)
    joined = _added_joins(editor, made.text, project, said.lines)
    return Edited(joined.text, f"{made.deed}; {joined.deed}", made.select)


def _added_joins(editor: Editor, text: str, project: Project, lines: Sequence[str]) -> Edited:
    """The text with several connections; the same resistor in each is one part, used once per line."""
    deeds: list[str] = []
    select: Key | None = None
    between: dict[str, str] = {}
    for line in lines:
        ends, _, through = line.partition(" through ")
        named = f"{ends} through {between[through]}" if through in between else line
        before = check_project(text, project)
        joined = _add_join(editor, text, before, named)
        text, select = joined.text, joined.select
        if through and through not in between:
            between[through] = joined.deed.rpartition(" through ")[2]
        deeds.append(joined.deed)
    return Edited(text, "; ".join(deeds), select)


def _add_part(editor: Editor, text: str, project: Project, name: str, what: str) -> Edited:
    kinds = kinds_of(project.tables)
    _free(name, project.hookup.parts, "part")
    kind, values = kind_named(what, kinds, "kind of part")
    given = values_typed(kind.parameters, [each.name for each in kind.parameters], values, kind.name)
    return _added_part(editor, text, name, kind, given)


USUAL = {"Ω": "4k7", "F": "100 nF"}
"""Examples of values, by their units."""


def _added_part(editor: Editor, text: str, name: str, kind: PartKind, given: Mapping[str, Written]) -> Edited:
    """The text with a part. Raises RequestError for a missing value."""
    needed = [each for each in kind.parameters if each.default is None and not each.optional]
    missing = [each for each in needed if each.name not in given]
    if missing:
        titles = " and ".join(each.title for each in missing)
        usual = ", ".join(USUAL.get(each.unit, f"5 {each.unit}") for each in missing)
        raise RequestError(
            f"{kind.called.capitalize()} needs its {titles}; write it like: {name} = {kind.name} {usual}"
        )
    first = kind.parameters[0].name if kind.parameters else "kind"
    said = ", ".join((name, *([kind.name] if name != kind.name else []), *map(str, given.values())))
    return Edited(
        editor.with_table(text, ("parts", name), {"kind": kind.name, **given}),
        f"added: {said}",
        ("parts", name, first),
    )


def _add_sum(editor: Editor, text: str, project: Project, name: str, what: str) -> Edited:
    _free(name, project.sums, "sum")
    kind, values = kind_named(what, SUMS, "kind of sum")
    # Values not typed are taken from the hook-up where possible, else defaults.
    given = values_typed(kind.parameters, [each.name for each in kind.parameters], values, kind.name)
    return _added_sum(editor, text, name, kind, given)


def _add_sum_said(editor: Editor, text: str, project: Project, typed: str) -> Edited:
    """The text with a sum as people ask for it. Raises RequestError."""
    said = sum_said(typed, project.sums)
    if said is None:
        how = "a resistor for a 2 V LED at 5 V, 20 mA"
        kinds = ", ".join(SUMS)
        raise RequestError(
            f'"{typed}" is not a sum; say it, like {how}, or write "name = kind"; the kinds are {kinds}.'
        )
    return _added_sum(editor, text, said.name, said.kind, said.values)


def _added_sum(editor: Editor, text: str, name: str, kind: SumKind, given: Mapping[str, Written]) -> Edited:
    told = "".join(f", {each.title} {given[each.name]}" for each in kind.parameters if each.name in given)
    what = "" if name == kind.name else f", {kind.name}"
    said = f"added: {name}{what}{told}"
    return Edited(
        editor.with_table(text, ("sums", name), {"kind": kind.name, **given}),
        said,
        ("sums", name, kind.parameters[0].name),
    )


def _free(name: str, taken: Mapping[str, object], noun: str) -> None:
    if not name:
        raise RequestError(f"A {noun} needs a name before the =.")
    if name in taken:
        raise RequestError(f'There is a {noun} "{name}" already; use another name.')


def _add_join(editor: Editor, text: str, project: Project, typed: str) -> Edited:
    """The text with a connection; the part it runs through may be given here, as a 10k resistor.

    Raises RequestError.
    """
    hookup = project.hookup
    ends, _, through = (each.strip() for each in typed.partition(" through "))
    first, _, second = ends.partition(">")
    pin, to = _end(first, hookup), _end(second, hookup)
    if through and through not in hookup.parts:
        bare = re.fullmatch(r"(?:an?\s+)?\d+(?:[.,]\d+)?\s*(?:[kMR]\d*)?\s*(?:Ω|ohms?)?", through)
        new = part_said(f"resistor {through}" if bare else through, kinds_of(project.tables), hookup.parts)
        if new is None or new.kind.group != "between":
            raise RequestError(f'"{through}" is not a part of the hook-up; add it first: {through} = resistor 4k7')
        text, through = _added_part(editor, text, new.name, new.kind, new.values).text, new.name
    if pin.part == to.part and not through and hookup.parts[pin.part].kind.group == "board":
        raise RequestError(
            f"{pin} and {to} are both pins of {pin.part}; say whose pins they are, like sensor gnd to board gnd."
        )
    join = Join(pin, to, through)
    added = editor.with_entry(text, JOINS, join_entry(join))
    said = f"joined: {pin} to {to}" + (f" through {join.through}" if join.through else "")
    return Edited(added, said, (*JOINS, len(hookup.joins), "to"))


def _end(written: str, hookup: Hookup) -> End:
    """The end ``part.pin``; a pin alone is the board's where there is only one."""
    written = written.strip()
    boards = [name for name, part in hookup.parts.items() if part.kind.group == "board"]
    full = f"{boards[0]}.{written}" if "." not in written and len(boards) == 1 else written
    try:
        return end_from(full, hookup.parts)
    except ValueError as error:
        raise RequestError(f'"{written}": {error}.') from error


def take_entry(editor: Editor, text: str, project: Project, selected: Key | None) -> Edited:
    """The text without the entry of the selected value. Raises RequestError where it belongs to none."""
    match selected:
        case ("wire", "joins", int(index), _):
            entry = value_at(project.tables, (*JOINS, index))
            return Edited(editor.without(text, (*JOINS, index)), f"removed: {entry['pin']} to {entry['to']}")
        case ("parts", str(name), _):
            return _take_part(editor, text, project.hookup, name)
        case ("sums", str(name), _):
            return Edited(editor.without(text, ("sums", name)), f"removed: {name}")
        case ("wire", "measured", str(name)):
            if name not in project.measured:
                raise RequestError("Nothing has been measured there yet.")
            return Edited(editor.without(text, ("wire", "measured", name)), f"not measured: {name}")
    raise RequestError("Select a value of what to remove; tab goes to the values.")


def _take_part(editor: Editor, text: str, hookup: Hookup, name: str) -> Edited:
    """The text without a part and its connections, including those through it, which would mean something else without
    it."""
    joins = [join for join in hookup.joins if name in (join.pin.part, join.to.part, join.through)]
    for join in sorted(joins, key=lambda each: each.index, reverse=True):
        text = editor.without(text, (*JOINS, join.index))
    with_joins = f" with {counted(len(joins), 'connection')}" if joins else ""
    return Edited(editor.without(text, ("parts", name)), f"removed: {name}{with_joins}")


def join_by_role(editor: Editor, text: str, project: Project) -> Edited:
    """The text with everything joined by the roles of its pins. Raises RequestError where nothing is left to join."""
    plan = propose(project.hookup)
    left = " ".join(plan.unplaced)
    if not plan.mends:
        if not project.hookup.parts:
            raise RequestError("There is no part yet; + adds one.")
        raise RequestError(f"Nothing is left to join by role. {left}".strip())
    count = len(plan.hookup.joins) - len(project.hookup.joins)
    parts = [name for name in plan.hookup.parts if name not in project.hookup.parts]
    with_parts = f", with {', '.join(parts)}" if parts else ""
    return Edited(
        editor.mended(text, plan.mends), f"joined by role: {counted(count, 'connection')}{with_parts}. {left}".strip()
    )


def write_sum(editor: Editor, text: str, project: Project, selected: Key | None) -> Edited:
    """The text with the result of the selected sum as a part. Raises RequestError where there is none to write."""
    name = str(selected[1]) if selected and selected[0] == "sums" else ""
    found = project.sums.get(name)
    if found is None:
        raise RequestError("Select a value of the sum whose result is to be written; tab goes to the values.")
    result = found.result()
    if not result.part:
        raise RequestError(f"{name} has no result to write. {result.warning}".strip())
    if not differs(result, project.hookup.parts.get(found.part)):
        raise RequestError(f"{found.part} holds the result already.")
    mends = mends_of(found, result, project.hookup)
    if not mends:
        kind = project.hookup.parts[found.part].kind.name
        raise RequestError(f"{found.part} is a {kind}; give {name} another part to write to.")
    return Edited(editor.mended(text, mends), f"{found.part} is {shown_part(result)}")
