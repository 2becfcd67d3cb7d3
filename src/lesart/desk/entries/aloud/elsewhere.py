"""Lines typed in a step that does not accept them, where another step does: which one, and as what."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator

import numpy as np

from lesart.core.calm import KINDS as FILTERS
from lesart.core.errors import LesartError
from lesart.core.glass.panels.catalogue import named
from lesart.core.law import KINDS as LAWS
from lesart.core.step import Step
from lesart.desk.entries.aloud.alarms import is_alarm
from lesart.desk.entries.aloud.filters import FIRST, filter_plainly
from lesart.desk.entries.aloud.no_reading import no_reading_said
from lesart.desk.entries.aloud.reckoned.arithmetic import reckoned
from lesart.desk.entries.aloud.rules import rules_said
from lesart.desk.entries.aloud.sources import says_line
from lesart.desk.entries.aloud.tasks import setting_said
from lesart.desk.entries.aloud.wired.wiring import is_part_on_a_pin, join_plainly, part_said
from lesart.desk.entries.recipes.shown.displays import display_in
from lesart.desk.entries.recipes.shown.displays_aloud import IS_DISPLAY
from lesart.desk.entries.recipes.shown.displays_told import described
from lesart.desk.entries.recipes.which import is_signal
from lesart.desk.state import State
from lesart.project.tables.wiring import kinds_of

_FEEDS = re.compile(
    r"(?P<part>(?:an?\s+)?(?:\d\S*\s*V\s+)?(?:\w+\s+)?(?:battery|lipo|cell|pack)(?:\s+\d\S*\s*V)?)\s+(?:to|into|on)\s+(?:the\s+)?"
    r"(?:board\s+)?(?:v?in|raw|power|v\+|5\s?v|3v3|vcc)(?:\s+pin)?",
    re.IGNORECASE,
)
"""A battery and where it leads."""
_OPERATION = re.compile(r"(?:times|multipl(?:y|ied)|divided?|plus|minus|add|subtract|[*/×÷])\b", re.IGNORECASE)
TASK = re.compile(r"^\S.*?\s(?:every|each)\s+\d|\stakes\s+\d")


def taken_elsewhere(state: State, typed: str) -> str:
    """``"median 5" is a filter; + in 5 Calm takes it.`` Empty where no other step knows it either."""
    if state.step is Step.WIRE and " > " in typed:
        return ""  # a connection, whatever its parts are called
    if state.step is Step.WIRE and (fed := _FEEDS.fullmatch(typed.strip())):
        said = f"first {fed['part']}, then battery + to board in"
        return f'"{typed.strip()}" is a part and a connection, which are two entries: {said}.'
    known = list(_known(state, typed.strip()))
    if not known or any(state.step in steps for steps, _ in known):
        return ""  # the step knows best what is wrong with it
    steps, what = known[0]
    where = " or ".join(f"{step.number} {step.shown}" for step in steps)
    return f'"{typed.strip()}" is {what}; + in {where} takes it.'


def _known(state: State, typed: str) -> Iterator[tuple[tuple[Step, ...], str]]:
    """Each step that accepts it, the surest first."""
    if is_alarm(typed):
        yield (Step.CALM,), "an alarm"
    if no_reading_said(typed) is not None:
        yield (Step.RAW,), "a value that stands for no reading"
    if is_signal(typed):
        yield (Step.RAW, Step.LAW), "what a signal is"
    if says_line(typed):
        yield (Step.RAW,), "a line to listen to"
    display = display_in(described(typed))
    if display is not None or named(typed) is not None:
        is_wired = state.step is Step.WIRE and display is not None and display[1].part
        yield (Step.GLASS, Step.WIRE) if is_wired else (Step.GLASS,), "a display"
    try:
        is_filter = _begins_with(filter_plainly(typed), FILTERS)
    except LesartError:
        is_filter = True  # nearly one; 5 Calm says what is missing
    if is_filter and FIRST.match(typed) is None:
        yield (Step.CALM,), "a filter"
    setting = setting_said(typed)
    # Filters lag too.
    if setting is not None and not (state.step is Step.CALM and re.match(r"lag|latency", typed, re.IGNORECASE)):
        yield (Step.PACE,), "a value of the loop"
    if TASK.search(typed):
        yield (Step.PACE,), "a task"
    if state.step is Step.RAW and _is_reckoned(state, typed):
        yield (Step.LAW,), "arithmetic"
    kinds = kinds_of(state.project.tables)
    # Glass itself says what a display lacks.
    shows = state.step is Step.GLASS and IS_DISPLAY.search(typed.lower())
    if _begins_with(typed, (name for name in LAWS if name not in kinds or state.step is Step.LAW)):
        yield (Step.LAW,), "a law"
    if state.step is Step.FIT and _OPERATION.match(typed) and _is_reckoned(state, typed):
        yield (Step.LAW,), "arithmetic"
    for is_known, step, what in (
        (lambda: rules_said(typed, state.chosen.unit), Step.FIT, "a rule of a field"),
        (lambda: join_plainly(typed, state.project.hookup), Step.WIRE, "a connection"),
        (lambda: not shows and (is_part_on_a_pin(typed, kinds) or part_said(typed, kinds, {})), Step.WIRE, "a part"),
    ):
        try:
            if is_known():
                yield (step,), what
        except LesartError:
            continue  # it is none, or not quite one


def _is_reckoned(state: State, typed: str) -> bool:
    units = {name: each.unit for name, each in state.project.channels.items()}
    try:
        return reckoned(typed, state.chosen.unit, state.channel, units, lambda: np.empty(0)) is not None
    except LesartError:
        return True  # nearly; 3 Law says what is missing


def _begins_with(typed: str, names: Iterable[str]) -> bool:
    words = typed.strip().lower()
    return any(words == name.lower() or words.startswith(f"{name.lower()} ") for name in names)
