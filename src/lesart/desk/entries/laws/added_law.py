"""Laws as they are typed behind ``+``: by name with values, and as people say what adds up and what is reckoned."""

from __future__ import annotations

import math
import re
from functools import partial

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.errors import LesartError
from lesart.core.step import Step
from lesart.desk.entries import chain
from lesart.desk.entries.aloud.arithmetic import reckoned
from lesart.desk.entries.aloud.over_time import over_time_plainly
from lesart.desk.entries.edit_result import Edited, Here
from lesart.desk.entries.laws.beside import beside
from lesart.desk.entries.laws.reach import with_reach, with_what_it_reads
from lesart.desk.entries.recipes.which import names_no_law
from lesart.desk.entries.table_points import points_from

FORMULA_BEFORE = re.compile(r"^\s*formula\s+(?=[^=]+$)", re.IGNORECASE)
CALLED_SO = re.compile(r"\s*[A-Za-z][\w ]*=")


def said_law(here: Here, typed: str) -> Edited | None:
    """A total, a change, or what is reckoned, where that is what was said."""
    plain = _over_time(here, typed)
    return add_law(here, plain) if plain is not None else _reckoned(here, typed)


def add_law(here: Here, typed: str) -> Edited:
    """By its name; a table from two columns of a file, or from another channel, after ``<``."""
    project, channel, values = here.state.project, here.state.chosen, None
    if typed.startswith(chain.LAWS_OF):
        return chain.add_laws_of(here.editor, here.text, channel, typed.removeprefix(chain.LAWS_OF), project)
    if "<" in typed:
        typed, _, what = (part.strip() for part in typed.partition("<"))
        values = points_from(what, typed, project, channel, here.bench, here.folder)
        typed = f"{typed} {values['to']}" if typed == "table" else typed
    readings = _beside(here)
    others = partial(beside, channel=channel, channels=list(project.channels.values()))
    made = chain.add_law(here.editor, here.text, channel, typed, project.hookup, values, readings, others)
    return with_reach(here, made)


def _over_time(here: Here, typed: str) -> str | None:
    """What was said of a total or a change, as its law is written; None where it is neither."""
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
    """The good values that the laws give in turn; none where nothing can be read."""
    block = _law_block(here)
    return np.empty(0) if block is None else block.x[block.usable]


def _law_block(here: Here) -> Block | None:
    try:
        return here.bench.run(here.state.project, here.state.chosen).blocks[Step.LAW]
    except LesartError:
        return None


def _reckoned(here: Here, typed: str) -> Edited | None:
    """A line or a formula, of what was said to be reckoned; None where nothing was. A law's name goes first, but where
    it names what is reckoned: ``power = voltage * current``."""
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
    return with_what_it_reads(here, made)


def _beside(here: Here) -> dict[str, float]:
    """What the channels that the chosen one's laws read say at the cursor; nothing of one that cannot be read."""
    readings: dict[str, float] = {}
    for name in here.state.chosen.chain.reads:
        try:
            readings |= here.bench.readings_at(here.state.project, [name], here.state.cursor_s)
        except LesartError:
            continue
    return readings
