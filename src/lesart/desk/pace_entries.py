"""``+`` and ``delete`` in Pace: a task that firmware does besides, and one that it does not do."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import TYPE_CHECKING

from lesart.core.errors import QuantityError, RequestError
from lesart.core.notes import Key
from lesart.core.pace.task import BACKGROUND, INTERRUPT
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit
from lesart.desk.bench import Bench
from lesart.desk.changed import Changed
from lesart.desk.pacing import loop_of, verdicts_known
from lesart.desk.state import State
from lesart.project.loop import LONGEST_NAME
from lesart.project.text import Editor, value_at

if TYPE_CHECKING:
    from lesart.desk.desk import Desk

HOW = "NAME, NAME every 5 s takes 40 ms, NAME every 1 ms takes 20 us by interrupt"
_TYPED = re.compile(
    r"(?P<name>.+?)(?:\s+every\s+(?P<period>.+?))?(?:\s+takes\s+(?P<shortest>.+?))?"
    rf"(?:\s+(?P<runs>{INTERRUPT}|{BACKGROUND}))?"
)


def add_task(editor: Editor, state: State, bench: Bench, typed: str) -> Changed:
    """A task of one's own. Raises RequestError for a time that is none, or a name that is taken."""
    found = _TYPED.fullmatch(typed.strip())
    if found is None:
        raise RequestError(f"A task is written as {HOW}.")
    name = found["name"].strip()
    if len(name) > LONGEST_NAME:
        raise RequestError(f"A task's name has {LONGEST_NAME} characters at most; this one has {len(name)}.")
    if name in {task.name for task in loop_of(state.project, bench).tasks} | state.project.loop.usual.keys():
        raise RequestError(f"There is a task {name} already; its row is changed with enter.")
    entry: dict[str, str] = {
        "period": _time(found["period"] or "100 ms"),
        "shortest": _time(found["shortest"] or "1 ms"),
    }
    if found["runs"]:
        entry["runs"] = found["runs"]
    key: Key = ("loop", "tasks", name)
    text = state.history.text
    for above in (("loop",), ("loop", "tasks")):
        if value_at(state.project.tables, above) is None:
            text = editor.with_table(text, above, {})
    return Changed(editor.with_table(text, key, entry), f"added: {name}", (*key, "period"))


def _time(typed: str) -> str:
    try:
        parse_quantity(typed, parse_unit("s"), unit_needed=True)
    except QuantityError as error:
        raise RequestError(str(error)) from error
    return typed.strip()


def take_task(editor: Editor, state: State) -> Changed:
    """One's own goes; what was said of another goes; of which nothing was said, that is left out."""
    selected = state.selected_at(state.step)
    if selected is None or selected[:2] != ("loop", "tasks"):
        raise RequestError("No task is selected; tab goes to one on the leaf of tasks.")
    key, name = selected[:3], str(selected[2])
    text = state.history.text
    if value_at(state.project.tables, key) is not None:
        return Changed(editor.without(text, key), f"as it was made: {name}")
    return Changed(editor.with_value(text, (*key, "off"), True), f"left out: {name}", (*key, "off"))


def turn_figure(desk: Desk) -> None:
    """On the leaf *what if* the next figure is swept; elsewhere verdicts are kept, to stand beside those to come."""
    state = desk.state
    if state.leaf_of(state.step) == "what if":
        desk.state = replace(state, pace_sweep=state.pace_sweep + 1)
    elif state.pace_beside:
        desk.state = replace(state, pace_beside=())
        desk.say("Let go of what was kept beside.")
    else:
        kept = tuple((each.name, each.figure) for each in verdicts_known(state.project, desk.bench))
        desk.state = replace(state, pace_beside=kept)
        desk.say(f"{len(kept)} figures are kept beside what you change from now on; x lets go of them.")
