"""``+`` and ``delete`` in Pace: a task that firmware does besides, and one that it does not do."""

from __future__ import annotations

import re
from collections.abc import Mapping
from difflib import get_close_matches

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.notes import Key
from lesart.core.pace.task import BACKGROUND, INTERRUPT, SEND, SETTINGS, WAIT
from lesart.core.quantity import counted, whole_number
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.desk.entries.aloud.elsewhere import taken_elsewhere
from lesart.desk.entries.aloud.tasks import setting_said, task_plainly
from lesart.desk.entries.edit_result import Edited
from lesart.desk.state import State
from lesart.project.tables.loop import LONGEST_NAME
from lesart.project.text import Editor
from lesart.project.toml_values import value_at
from lesart.study.bench import Bench
from lesart.study.project_loop import loop_of

HOW = "NAME every 5 s takes 40 ms, by interrupt or in background; or NAME every 1 s sends 32 bytes over two-wire bus"
CLAUSES = ("every", "takes", "sends", "over", "at most", "by interrupt", "in background")
_CLAUSE = re.compile(r"\s(every|takes|at most|sends|over)\s|\s(by interrupt|in background)(?=\s|$)")
_CLOCK = re.compile(r"\s+at\s+(\S+\s*[kM]?Hz)$")
_FIGURE = re.compile(r"(?<!\S)\d+(?:[.,]\d+)?\s*([^\s\d.,;:()-][^\s\d,;:()]*)")
_WAITS = re.compile(r"(?:delay|wait|pause)(?!\w)", re.IGNORECASE)
_BEHIND_TIME = re.compile(r"[\d.,]+\s*[^\W\d]+\s+(.+)$")
LONGEST_TYPED = 200


@dataclass(frozen=True)
class TaskTyped:
    """A task as it was typed: its name, and what each clause says."""

    name: str
    clauses: Mapping[str, str]


def task_typed(typed: str) -> TaskTyped:
    """``log every 5 s takes 40 ms by interrupt`` in parts. Raises RequestError for what is not a clause and no name."""
    if len(typed) > LONGEST_TYPED:
        raise RequestError(f'"{typed[:30]}…" is too long for a task; it is written as {HOW}.')
    name, *parts = _CLAUSE.split(f" {task_plainly(typed)} ")
    clauses: dict[str, str] = {}
    for word, flag, says in zip(parts[0::3], parts[1::3], parts[2::3], strict=True):
        clause = word or flag
        if clause in clauses or ({clause, *clauses} >= {INTERRUPT, BACKGROUND}):
            raise RequestError(f'"{typed.strip()}" says twice {clause}; a task is written as {HOW}.')
        if bool(says.strip()) is not bool(word):
            raise RequestError(f'"{clause} {says.strip()}" is not a clause of a task; it is written as {HOW}.')
        clauses[clause] = says.strip()
    _check_name(name.strip())
    return TaskTyped(name.strip(), clauses)


def _check_name(name: str) -> None:
    """A clause that was mistyped would become a part of the name, and be done all the same."""
    if not name:
        raise RequestError(f"A task needs a name; it is written as {HOW}.")
    if len(name) > LONGEST_NAME:
        raise RequestError(f"A task's name has {LONGEST_NAME} characters at most; this one has {len(name)}.")
    for word in name.split()[1:]:
        near = word != "send" and get_close_matches(word.lower(), [each.split()[0] for each in CLAUSES[:4]], 1, 0.75)
        if near:
            raise RequestError(f'"{word}" in "{name}": did you mean {near[0]}? A task is written as {HOW}.')
    figure = next((found[0] for found in _FIGURE.finditer(name) if unit_said(found[1]) is not None), None)
    if figure is not None:
        raise RequestError(f'"{figure.strip()}" in "{name}" says nothing of a task; it is written as {HOW}.')


def add_task(editor: Editor, state: State, bench: Bench, typed: str) -> Edited:
    """A task of one's own, or a value of the loop. Raises RequestError for a time that is none, or a name that is
    taken."""
    setting = setting_said(typed)
    if setting is not None:
        return _set(editor, state, *setting)
    found = task_typed(typed)
    key: Key = ("loop", "tasks", found.name)
    if found.name in {task.name for task in loop_of(state.project, bench).tasks} | state.project.loop.usual.keys():
        return _change(editor, state, key, found)
    if not found.clauses and (elsewhere := taken_elsewhere(state, typed)):
        raise RequestError(elsewhere)  # no task of the usual times by that name
    entry = {"period": "100 ms", **_entry(found)}
    if "data" not in entry:
        entry.setdefault("shortest", "1 ms")
    text = editor.with_table(_with_tables(editor, state, ("loop",), ("loop", "tasks")), key, entry)
    return Edited(text, f"added: {found.name}, {_in_words(entry)}", (*key, "period"))


def _change(editor: Editor, state: State, key: Key, found: TaskTyped) -> Edited:
    """A task that there is takes what was said, and keeps the rest; one that was left out is done again. Raises
    RequestError where nothing was said."""
    entry = _entry(found)
    if not found.clauses:
        raise RequestError(f"There is a task {found.name} already; its row is changed with enter.")
    text = _with_tables(editor, state, ("loop",), ("loop", "tasks"), key)
    if (value_at(state.project.tables, key) or {}).get("off"):
        text = editor.without(text, (*key, "off"))
    for name, value in entry.items():
        text = editor.with_value(text, (*key, name), value)
    return Edited(text, f"{found.name}: {_in_words(entry)}", (*key, next(iter(entry))))


def _entry(found: TaskTyped) -> dict[str, str | int]:
    """What its clauses say. The time that bytes take follows from them; one that stood beside them would go before."""
    said = found.clauses
    entry: dict[str, str | int] = {"period": _time(said["every"])} if "every" in said else {}
    if "sends" in said:
        entry |= {"does": SEND, "data": _bytes(said["sends"])}
    if "takes" in said:
        entry["shortest"] = _time(said["takes"])
    if "at most" in said:
        entry["longest"] = _time(said["at most"])
    if "over" in said:
        clock = _CLOCK.search(said["over"])
        entry["bus"] = _CLOCK.sub("", said["over"])
        entry |= {"clock": clock[1]} if clock else {}
    for runs in (INTERRUPT, BACKGROUND):
        if runs in said:
            entry["runs"] = runs
    if _WAITS.match(found.name):
        entry["does"] = WAIT
    return entry


def _set(editor: Editor, state: State, name: str, value: str) -> Edited:
    """A value of the loop; the leaf of figures has them all."""
    setting = next(each for each in SETTINGS if each.name == name)
    try:
        setting.read(value)
    except ValueError as error:
        raise RequestError(f'{setting.title} = "{value}"; {error}.') from error
    text = editor.with_value(_with_tables(editor, state, ("loop",)), ("loop", name), value)
    return Edited(text, f"{setting.title}: {value}", ("loop", name))


def _with_tables(editor: Editor, state: State, *tables: Key) -> str:
    text = state.history.text
    for above in tables:
        if value_at(state.project.tables, above) is None:
            text = editor.with_table(text, above, {})
    return text


def _in_words(entry: Mapping[str, str | int]) -> str:
    """``every 5 s, takes 40 ms``: what became of it, usual values too."""
    often = "in each turn of the loop" if entry.get("period") == "0 ms" else f"every {entry.get('period')}"
    most = f"{' to' if 'shortest' in entry else 'takes at most'} {entry['longest']}" if "longest" in entry else ""
    clauses = (
        often if "period" in entry else "",
        (f"takes {entry['shortest']}" if "shortest" in entry else "") + most,
        f"sends {counted(int(entry['data']), 'byte')}" if "data" in entry else "",
        f"over {entry['bus']}" if "bus" in entry else "",
        str(entry.get("runs", "")),
    )
    return ", ".join(filter(None, clauses))


def _time(typed: str) -> str:
    behind = _BEHIND_TIME.match(typed.strip())
    if behind is not None:
        raise RequestError(f'"{behind[1]}" says nothing of a task; it is written as {HOW}.')
    try:
        quantity_typed(typed, parse_unit("s"), unit_needed=True).to(parse_unit("s"))
    except (QuantityError, UnitError) as error:
        raise RequestError(str(error)) from error
    return typed.strip()


def _bytes(typed: str) -> int:
    count = whole_number(typed.removesuffix("bytes").removesuffix("byte"))
    if count is None or not 0 < count <= 1_000_000:
        raise RequestError(f'"sends {typed}"; write it like sends 32 bytes.')
    return count


def take_task(editor: Editor, state: State) -> Edited:
    """One's own goes; what was said of another goes; a task of which nothing was said is left out.

    Raises RequestError where none is selected.
    """
    selected = state.selected_at(state.step)
    if selected is not None and selected[0] == "panels" and selected[2] == "trace":
        key = selected[:3]
        return Edited(editor.without(state.history.text, key), f"removed: trace of {selected[1]}")
    if selected is None or selected[:2] != ("loop", "tasks"):
        raise RequestError("No task is selected; tab goes to one on the leaf of tasks.")
    key, name = selected[:3], str(selected[2])
    text = state.history.text
    if value_at(state.project.tables, key) is not None:
        return Edited(editor.without(text, key), f"as it was made: {name}")
    return Edited(editor.with_value(text, (*key, "off"), True), f"left out: {name}", (*key, "off"))
