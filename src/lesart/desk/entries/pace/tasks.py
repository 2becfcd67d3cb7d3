"""``+`` and ``delete`` in Pace: a further task of the firmware, and one that it does not have."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from dataclasses import replace
from difflib import get_close_matches

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.transfer import FOUR_WIRE, TWO_WIRE
from lesart.core.law.over_time.periods import lasting
from lesart.core.notes import Key
from lesart.core.pace.task import BACKGROUND, INTERRUPT, SEND, SETTINGS, WAIT
from lesart.core.quantity import counted, whole_number
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.desk.entries.aloud.elsewhere import taken_elsewhere
from lesart.desk.entries.aloud.instead.tasks import NEVER, done_otherwise
from lesart.desk.entries.aloud.same_tasks import Doing, panel_meant, panel_scanned, same_task
from lesart.desk.entries.aloud.tasks import SECOND, setting_said, task_plainly
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.pace.speeds import bus_speed, drawn_at, lit_in_turn, scan_value
from lesart.desk.state import State
from lesart.project.tables.loop import LONGEST_NAME
from lesart.project.text import Editor
from lesart.project.toml_values import value_at
from lesart.study.bench import Bench
from lesart.study.project_loop import loop_of

HOW = "NAME every 5 s takes 40 ms, by interrupt or in background; or NAME every 1 s sends 32 bytes over two-wire bus"
CLAUSES = ("every", "takes", "sends", "over", "at most", "priority", "by interrupt", "in background")
_CLAUSE = re.compile(r"\s(every|takes|at most|sends|over|priority)\s|\s(by interrupt|in background)(?=\s|$)")
_CLOCK = re.compile(r"\s+at\s+(\S+\s*[kM]?Hz)$")
_FIGURE = re.compile(r"(?<!\S)\d+(?:[.,]\d+)?\s*([^\s\d.,;:()-][^\s\d,;:()]*)")
_WAITS = re.compile(r"(?:delay|wait|pause)(?!\w)", re.IGNORECASE)
_BEHIND_TIME = re.compile(r"[\d.,]+\s*[^\W\d]+\s+(.+)$")
LONGEST_TYPED = 200
USUAL_MS, USUAL_TAKES_MS = 100.0, 1.0
"""Default period and duration of a task."""
MOST_ASSUMED = 0.1
"""Most processor time that a task may take by defaults."""
_ASKED_S = (1, 10, 60, 600, 3600)
SLOWEST_SCAN_HZ = 20.0
"""A slower scan rate would not show a number: the reading is meant."""


@dataclass(frozen=True)
class TaskTyped:
    """A task as typed: its name, and its clauses."""

    name: str
    clauses: Mapping[str, str]


def task_typed(typed: str) -> TaskTyped:
    """``log every 5 s takes 40 ms by interrupt`` in parts.

    Raises RequestError for what is neither a clause nor a name.
    """
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
    name = name.strip() or ("send" if "sends" in clauses else "")
    _check_name(name)
    return TaskTyped(name, clauses)


def _check_name(name: str) -> None:
    """Refuse a name with a mistyped clause in it, which would be accepted otherwise."""
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
    """The text with a task added or changed, or a value of the loop or of a bus set.

    Raises RequestError for an invalid time, for a bare name, and for what is not a task.
    """
    setting = setting_said(typed)
    if setting is not None:
        return _set(editor, state, *setting)
    tasks = loop_of(state.project, bench).tasks
    doing = _doing(state, {task.name for task in tasks} | state.project.loop.usual.keys())
    speed = bus_speed(editor, state.history.text, state.project, doing.panel, typed)
    if speed is not None:
        return speed
    lit = scan_value(editor, state.history.text, _lit_in_turn(state, doing), typed)
    if lit is not None:
        return lit
    try:
        found = task_typed(typed)
    except RequestError as error:
        raise RequestError(_elsewhere(state, doing, typed) or str(error)) from error
    anew = _shown_anew(editor, state, doing, found)
    if anew is not None:
        return anew
    same = same_task(found.name, doing)
    if same is not None and (found.clauses or same == found.name):
        return _change(editor, state, ("loop", "tasks", same), replace(found, name=same))
    is_none = not found.clauses or NEVER.match(found.name)
    if is_none and (elsewhere := _elsewhere(state, doing, typed)):
        raise RequestError(elsewhere)
    said = _entry(found)
    _ask_for_times(found)
    key: Key = ("loop", "tasks", found.name)
    entry = {"period": "100 ms", **said}
    if "data" not in entry:
        entry.setdefault("shortest", "1 ms")
    text = editor.with_table(_with_tables(editor, state, ("loop",), ("loop", "tasks")), key, entry)
    return Edited(text, f"added: {found.name}, {_in_words(entry)}", (*key, "period"))


def _doing(state: State, tasks: Collection[str]) -> Doing:
    project, channel = state.project, state.chosen
    panel = next(iter([state.panel] if state.panel else [*project.panels_showing(channel.name), *project.panels]), "")
    return Doing(panel, tuple(project.panels), channel.source, channel.name, tasks)


def _lit_in_turn(state: State, doing: Doing) -> Panel | None:
    """The panel in front, else the first one, whose digits the program lights in turn; None without one."""
    panels = state.project.panels
    names = [name for name, each in panels.items() if each.scan is not None and each.columns > 1]
    return panels[doing.panel if doing.panel in names else names[0]] if names else None


def _elsewhere(state: State, doing: Doing, typed: str) -> str:
    """Where it is set instead; empty for what may be a task."""
    drawn = sorted(
        (each.removeprefix("draw ") for each in doing.tasks if each.startswith("draw ")),
        key=lambda each: (each != doing.panel, each),
    )
    said = done_otherwise(typed, next(iter(drawn), doing.panel))
    return f'"{typed.strip()}": {said}.' if said else taken_elsewhere(state, typed)


def _shown_anew(editor: Editor, state: State, doing: Doing, found: TaskTyped) -> Edited | None:
    """The scan rate of digits, or the drawing rate of a panel, where the line states only that; else None.

    For scanned digits a slow rate is that of the number shown.
    """
    if set(found.clauses) != {"every"} or not (every_ms := _ms(found.clauses["every"])):
        return None
    rate_hz, panels = 1e3 / every_ms, state.project.panels
    scanned = [name for name, each in panels.items() if each.scan is not None and each.columns > 1]
    in_front = _lit_in_turn(state, doing)
    front = in_front.name if in_front is not None else ""
    turned, meant = panel_scanned(found.name, replace(doing, panel=front)), panel_meant(found.name, doing)
    if turned is None and meant in scanned and rate_hz >= SLOWEST_SCAN_HZ:
        turned = meant
    if turned:
        return lit_in_turn(editor, state.history.text, panels[turned], rate_hz)
    if not meant or found.name in doing.tasks:
        return None
    return drawn_at(editor, state.history.text, state.project, meant, rate_hz)


def _ask_for_times(found: TaskTyped) -> None:
    """Raises RequestError where period or duration is not stated, and the default would matter."""
    name, said = found.name, found.clauses
    if not said:
        raise RequestError(f'"{name}" says neither how often nor how long; a task is written as {HOW}.')
    clauses = "".join(f" {each} {said[each]}".rstrip() for each in said if each != "every")
    takes_ms, every_ms = (_ms(said.get(each)) for each in ("takes", "every"))
    took_ms = USUAL_TAKES_MS if takes_ms is None else takes_ms
    counts = bool({INTERRUPT, "sends"} & set(said)) or took_ms > MOST_ASSUMED * USUAL_MS
    if every_ms is None and counts and not _WAITS.match(name):
        often = next((each for each in _ASKED_S if each * 1e3 > 5 * took_ms), _ASKED_S[-1])
        raise RequestError(f'"{name}": how often? Write it like {name} every {lasting(often)}{clauses}.')
    is_short = every_ms is not None and MOST_ASSUMED * every_ms < USUAL_TAKES_MS
    if is_short and not {"takes", "sends", "at most", BACKGROUND} & set(said):
        often_said = f"every {said['every']}" if every_ms else "every turn"
        raise RequestError(
            f'"{name}" {often_said}: how long does it take? Write it like {name} {often_said} takes 20 µs{clauses}.'
        )
    is_known = said.get("over", "").startswith((TWO_WIRE, FOUR_WIRE))
    if "sends" in said and takes_ms is None and not is_known:
        often_said = f"every {said['every']}" if every_ms else "every turn"
        count = counted(_bytes(said["sends"]), "byte")
        raise RequestError(
            f'"{name}": how long {count} take is not known; write it like {name} {often_said} sends {count} over '
            "serial at 9600, or say takes 5 ms."
        )


def _ms(typed: str | None) -> float | None:
    return None if typed is None else 1e3 * quantity_typed(_time(typed), SECOND, unit_needed=True).to(SECOND)


def _change(editor: Editor, state: State, key: Key, found: TaskTyped) -> Edited:
    """Change an existing task by what was stated; one that was left out is included again.

    Raises RequestError where nothing was stated.
    """
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
    """A task's entry from its clauses.

    The duration of bytes follows from them; an explicit one would take precedence.
    """
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
    if "priority" in said:
        entry["priority"] = _priority(said["priority"])
    if _WAITS.match(found.name):
        entry["does"] = WAIT
    return entry


def _priority(typed: str) -> int:
    rank = whole_number({"high": "8", "highest": "9", "low": "2", "lowest": "1"}.get(typed.lower(), typed))
    if rank is None or not 1 <= rank <= 9:
        raise RequestError(f'"priority {typed}"; it is a whole number from 1 to 9, of which 9 goes first.')
    return rank


def _set(editor: Editor, state: State, name: str, value: str) -> Edited:
    """Set a value of the loop; the leaf of figures shows them all."""
    setting = next(each for each in SETTINGS if each.name == name)
    try:
        setting.read(value)
    except ValueError as error:
        raise RequestError(f'{setting.title} = "{value}"; {error}.') from error
    text = editor.with_value(_with_tables(editor, state, ("loop",)), ("loop", name), value)
    if text == state.history.text:
        raise RequestError(f"{setting.title} is {value} already.")
    return Edited(text, f"{setting.title}: {value}", ("loop", name))


def _with_tables(editor: Editor, state: State, *tables: Key) -> str:
    text = state.history.text
    for above in tables:
        if value_at(state.project.tables, above) is None:
            text = editor.with_table(text, above, {})
    return text


def _in_words(entry: Mapping[str, str | int]) -> str:
    """``every 5 s, takes 40 ms``: the result in words, defaults included."""
    often = "in each turn of the loop" if entry.get("period") == "0 ms" else f"every {entry.get('period')}"
    most = f"{' to' if 'shortest' in entry else 'takes at most'} {entry['longest']}" if "longest" in entry else ""
    clauses = (
        often if "period" in entry else "",
        (f"takes {entry['shortest']}" if "shortest" in entry else "") + most,
        f"sends {counted(int(entry['data']), 'byte')}" if "data" in entry else "",
        f"over {entry['bus']}" if "bus" in entry else "",
        f"priority {entry['priority']}" if "priority" in entry else "",
        str(entry.get("runs", "")),
    )
    return ", ".join(filter(None, clauses))


def _time(typed: str) -> str:
    behind = _BEHIND_TIME.match(typed.strip())
    if behind is not None:
        raise RequestError(f'"{behind[1]}" says nothing of a task; it is written as {HOW}.')
    try:
        quantity_typed(typed, SECOND, unit_needed=True).to(SECOND)
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
