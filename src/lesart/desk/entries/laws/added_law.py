"""Laws typed after ``+``: by name with values, and as people say totals and arithmetic."""

from __future__ import annotations

import math
import re
from dataclasses import replace
from functools import partial

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.errors import LesartError, RequestError
from lesart.core.law import KINDS as LAWS
from lesart.core.law.record import LawKind
from lesart.core.law.stage import stage_of
from lesart.core.parameters import read_table
from lesart.core.quantity import listed
from lesart.core.step import Step
from lesart.core.units import Unit
from lesart.desk.entries import chain
from lesart.desk.entries.aloud.instead.laws import OF_AIR, called_law, done_otherwise
from lesart.desk.entries.aloud.over_time import over_time_plainly
from lesart.desk.entries.aloud.reckoned.arithmetic import reckoned
from lesart.desk.entries.aloud.reckoned.tabled import DEGREE, TURN, points_said
from lesart.desk.entries.edit_result import Edited, Here
from lesart.desk.entries.laws.beside import beside
from lesart.desk.entries.laws.reach import with_reach, with_what_it_reads
from lesart.desk.entries.recipes.which import names_no_law
from lesart.desk.entries.said.patterns import NO_UNIT
from lesart.desk.entries.table_points import points_from

FORMULA_BEFORE = re.compile(r"^\s*formula\s+(?=[^=]+$)", re.IGNORECASE)
MOST_NAMED = 4
"""Most channels that a refusal names."""
CALLED_SO = re.compile(r"\s*[A-Za-z][\w ]*=")


def said_law(here: Here, typed: str) -> Edited | None:
    """The text with a total, a change or arithmetic added, where the phrase is one, or a law by another name."""
    called = called_law(typed)
    if called != typed:
        return add_law(here, called)
    if (points := points_said(typed, chain.end_of_laws(here.state.chosen))) is not None:
        hookup = here.state.project.hookup
        made = chain.add_law(here.editor, here.text, here.state.chosen, points.kind, hookup, points.values)
        made = replace(made, deed=f"added: {points.says}") if points.says else made
        made = with_what_it_reads(here, made)
        if not points.is_direction:
            return made
        channel = here.state.chosen
        text = here.editor.with_value(made.text, channel.key("lowest"), f"0{DEGREE}")
        return replace(made, text=here.editor.with_value(text, channel.key("highest"), f"{TURN}{DEGREE}"))
    plain = _over_time(here, typed)
    return add_law(here, plain) if plain is not None else _reckoned(here, typed)


def add_law(here: Here, typed: str) -> Edited:
    """The text with a law added by its name; a table from two columns of a file, or from another channel, after
    ``<``."""
    project, channel, values = here.state.project, here.state.chosen, None
    if typed.startswith(chain.LAWS_OF):
        return chain.add_laws_of(here.editor, here.text, channel, typed.removeprefix(chain.LAWS_OF), project)
    if "<" in typed:
        typed, _, what = (part.strip() for part in typed.partition("<"))
        values = points_from(what, typed, project, channel, here.bench, here.folder)
        typed = f"{typed} {values['to']}" if typed == "table" else typed
    readings = _beside(here)
    others = partial(beside, channel=channel, channels=list(project.channels.values()))
    try:
        made = chain.add_law(here.editor, here.text, channel, typed, project.hookup, values, readings, others)
        return with_reach(here, made)
    except LesartError as error:
        if said := _of_another(here, typed):
            raise RequestError(said) from error
        raise


def _of_another(here: Here, typed: str) -> str:
    """A hint at channels that a law accepts where it does not accept the chosen one's; empty for none."""
    name = next((each for each in sorted(LAWS, key=len, reverse=True) if typed.lower().startswith(each.lower())), None)
    if name is None:
        return ""
    end, channels = chain.end_of_laws(here.state.chosen), here.state.project.channels.values()
    takes = _unit_in(LAWS[name], end)
    if takes is None or takes.same_dimension(end):
        return ""
    # A share may be of anything: a plain number is not a humidity.
    is_share = takes.symbol == "%"
    fit = [each.name for each in channels if each.unit.same_dimension(takes) and (not is_share or each.unit == takes)]
    own = here.state.chosen
    if not fit and name in OF_AIR and end.symbol in NO_UNIT and not own.laws:
        return (
            f"{name} takes {takes}, and nothing says what {own.name} is in; where its numbers are {takes}, + already "
            f"in {takes} says so."
        )
    if not fit or len(fit) > MOST_NAMED:
        return ""
    one = len(fit) == 1
    unit = here.state.project.channels[fit[0]].unit if one else takes
    return (
        f"{name} takes {takes}, and {here.state.chosen.name} ends in {end}; {listed(fit)} {'is' if one else 'are'} in "
        f"{unit}: choose {'it' if one else 'one'}, and add the law there."
    )


def _unit_in(kind: LawKind, end: Unit) -> Unit | None:
    """The input unit of a kind of law; None where that depends on its values, or on parts."""
    values, problems = read_table(kind.parameters, kind.start(end, end), "", also=("kind",))
    if problems:
        return None
    try:
        unit_in = stage_of(kind.name, kind.build(values)).unit_in
    except (ValueError, AttributeError):
        return None
    return unit_in


def instead_of_law(here: Here, typed: str) -> str:
    """What does the work of something that is not a law; empty where unknown."""
    if not names_no_law(typed):
        return ""
    said = done_otherwise(typed, chain.end_of_laws(here.state.chosen))
    return f'"{typed.strip()}": {said}.' if said else ""


def _over_time(here: Here, typed: str) -> str | None:
    """A phrase for a total or a change in the law's written form; None for anything else."""
    end = chain.end_of_laws(here.state.chosen)
    plain = over_time_plainly(typed, end, lambda: _behind_laws(here), lambda: clock_s(here))
    return plain if plain != typed else None


def clock_s(here: Here) -> float:
    """The time of day of the first good sample of the chosen channel; NaN where its file says none."""
    capture = here.capture
    if capture is None or not math.isfinite(capture.clock_s):
        return math.nan
    block = _law_block(here)
    good = np.empty(0) if block is None else block.t[block.usable]
    return capture.clock_s + float(good[0]) if len(good) else math.nan


def _behind_laws(here: Here) -> Floats:
    """The good results of the laws in order; none where nothing can be read."""
    block = _law_block(here)
    return np.empty(0) if block is None else block.x[block.usable]


def _law_block(here: Here) -> Block | None:
    try:
        return here.bench.run(here.state.project, here.state.chosen).blocks[Step.LAW]
    except LesartError:
        return None


def _reckoned(here: Here, typed: str) -> Edited | None:
    """A line or a formula for arithmetic; None for anything else.

    A law's name takes precedence, unless it names a result: ``power = voltage * current``.
    """
    typed = FORMULA_BEFORE.sub("", typed)
    if not (names_no_law(typed) or CALLED_SO.match(typed)):
        return None
    project, channel = here.state.project, here.state.chosen
    units = {name: each.unit for name, each in project.channels.items()}
    found = reckoned(typed, chain.end_of_laws(channel), channel.name, units, lambda: _behind_laws(here))
    if found is None:
        return None
    readings = _beside(here)
    made = chain.add_law(here.editor, here.text, channel, found.kind, project.hookup, found.values, readings)
    made = with_what_it_reads(here, made)
    return replace(made, deed=f"{made.deed}{found.told}") if found.told else made


def _beside(here: Here) -> dict[str, float]:
    """Readings at the cursor of the channels that the chosen one's laws read; without those that cannot be read."""
    readings: dict[str, float] = {}
    for name in here.state.chosen.chain.reads:
        try:
            readings |= here.bench.readings_at(here.state.project, [name], here.state.cursor_s)
        except LesartError:
            continue
    return readings
