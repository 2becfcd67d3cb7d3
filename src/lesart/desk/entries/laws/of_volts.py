"""Laws of a data sheet, in volts, for a channel of counts: they begin with its converter."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np

from lesart.core.errors import RequestError
from lesart.core.quantity import beside_unit
from lesart.core.units import parse_unit
from lesart.desk.entries.aloud.reckoned.arithmetic import reckoned
from lesart.desk.entries.aloud.reckoned.ends_said import Ends, ends_said
from lesart.desk.entries.aloud.reckoned.expressions import OfVoltsError
from lesart.desk.entries.aloud.reckoned.solved import COUNTS, HERTZ, VOLTS, Solved, echo_said, solved
from lesart.desk.entries.aloud.reckoned.tabled import DEGREE, TURN, VOLT, points_said
from lesart.desk.entries.aloud.reckoned.volts_named import USUAL_V, VOLT_LETTERS, with_unit_first, with_volts_named
from lesart.desk.entries.chain import end_of_laws
from lesart.desk.entries.edit_result import Edited, Here
from lesart.desk.entries.laws.added_law import said_law
from lesart.desk.entries.recipes.kinds.signals import FLOW
from lesart.desk.entries.recipes.kinds.volts import PLAIN_VOLTAGE
from lesart.desk.entries.recipes.made import with_recipe, with_signal
from lesart.desk.entries.recipes.questions import converter
from lesart.desk.entries.recipes.recipe import Said, Sketch, Table
from lesart.desk.entries.recipes.which import is_signal, names_no_law, with_article
from lesart.desk.entries.said.patterns import NO_UNIT

OF_WHAT = {VOLTS: VOLT, HERTZ: parse_unit("Hz"), COUNTS: parse_unit("ct")}


_RESULT = re.compile(r"\s*[^\W\d][\w()/°%]*(?:\s+[^\W\d][\w()/°%]*)*\s*=")
"""A formula begins with the name of its result."""
_PM = re.compile(r"\bpm\s?(\d+)[.,](\d)(?=[^=]*=)", re.IGNORECASE)
"""Dust of such a size, as a name: PM2.5."""
_WHOLE_TURN = re.compile(r"(?<=\D360)\s*deg(?:rees?)?\b(?!\s*[CF]\b)", re.IGNORECASE)
"""Degrees of which there are so many are no temperature."""
_NAME_FIRST = re.compile(r"^\s*(?P<name>[A-Za-z]{3,})\s+(?=\((?:raw|x|adc|counts?|value)\b[^=]*$)", re.IGNORECASE)
"""``weight (raw - 8388608) / 420 g``."""


def law_said(here: Here, typed: str) -> Edited | None:
    """A law as people say it; a formula of volts begins with the converter where the channel has no law yet.

    None where it is none but a signal with values by their names: ``ntc 10k r=4k7 vcc=3.3``.
    """
    try:
        return _law_said(here, typed)
    except RequestError:
        is_signals = names_no_law(typed) and is_signal(with_article(typed)) and not _RESULT.match(typed)
        if not (_is_raw(here) and is_signals):
            raise
        return None


def _law_said(here: Here, typed: str) -> Edited | None:
    if echo := echo_said(typed):
        return said_law(here, echo)
    typed = _WHOLE_TURN.sub("°", _NAME_FIRST.sub(r"\g<name> = ", _PM.sub(r"pm\1\2", typed)))
    is_raw = _is_raw(here)
    if (equation := solved(typed, here.state.project.channels.keys())) is not None:
        return _by_equation(here, equation, typed)
    if is_raw and (ends := ends_said(typed)) is not None:
        return _between_ends(here, ends)
    named = typed if set(VOLT_LETTERS) & here.state.project.channels.keys() else with_volts_named(typed)
    try:
        named = with_unit_first(named)
        try:
            return said_law(here, named)
        except OfVoltsError:
            if here.state.chosen.laws:
                raise
            return _formula_of_volts(here, named, typed)
    except RequestError as error:
        raise RequestError(str(error).replace(named.strip(), typed.strip())) from error


def _is_raw(here: Here) -> bool:
    """True for numbers of which nothing is known yet."""
    return here.state.chosen.unit_raw.symbol in NO_UNIT and not here.state.chosen.laws


def _by_equation(here: Here, equation: Solved, typed: str) -> Edited | None:
    """What is wanted, of volts, of hertz, or of counts."""
    is_raw = _is_raw(here)
    end = end_of_laws(here.state.chosen)
    if not is_raw and not end.same_dimension(OF_WHAT[equation.by]):
        raise RequestError(
            f'"{typed.strip()}" says what {equation.by} are, and {here.state.chosen.name} is in {end}; '
            f"write it as what {end} means."
        )
    if equation.by == HERTZ and is_raw:
        return _by_pulses(here, equation, typed)
    if equation.by == COUNTS and is_raw:
        phrase = f"a count of {beside_unit(f'{1 / equation.gain:.12g}', equation.unit)}, zero = {equation.zero:.12g}"
        made = with_signal(here.editor, here.state, here.bench, phrase, told=typed)
        return replace(made, deed=f"{made.deed}{equation.taken}")
    if equation.by == VOLTS and is_raw:
        by_volts = _formula_of_volts(here, equation.formula("volts"), typed)
        return replace(by_volts, deed=f"{by_volts.deed}{equation.taken}")
    line = said_law(here, equation.formula("x"))
    return replace(line, deed=f"{line.deed}{equation.taken}") if line is not None else None


def _by_pulses(here: Here, equation: Solved, typed: str) -> Edited:
    """Pulses counted over a gate time; a flow meter of ``F = 8.1 * Q - 6`` gives some where it stands still."""
    if not equation.zero and equation.unit == "L/min":
        phrase = f"pulses of a flow, F = {equation.gain:.12g} Q"
        return with_signal(here.editor, here.state, here.bench, phrase, told=typed)
    line: Table = {
        "kind": "linear",
        "input": f"{equation.zero:.12g} 1/s",
        "output": beside_unit("0", equation.unit),
        "slope": beside_unit(f"{1 / equation.gain:.12g}", f"{equation.unit}/Hz"),
    }

    def sketch(said: Said) -> Sketch:
        turns: Table = {"kind": "gate rate", "gate": said["gate"], "marks": "1", "per": "1/s"}
        return Sketch((turns, line), jumps=True)

    asks = tuple(ask for ask in FLOW.asks if ask.word == "gate")
    return with_recipe(here.editor, here.state, here.bench, replace(FLOW, asks=asks, sketch=sketch), {}, typed)


def _between_ends(here: Here, ends: Ends) -> Edited | None:
    """A line through both, and the range of the readings where it was said."""
    made = said_law(here, ends.points)
    if made is None or ends.span is None:
        return made
    text = made.text
    for name, end in zip(("lowest", "highest"), ends.span, strict=True):
        text = here.editor.with_value(text, here.state.chosen.key(name), end)
    return replace(made, text=text)


def _formula_of_volts(here: Here, named: str, typed: str) -> Edited:
    """``named`` is what was typed, with its volts named so."""
    units = {name: each.unit for name, each in here.state.project.channels.items()}
    found = reckoned(named, VOLT, here.state.channel, units, lambda: np.array([0.0, USUAL_V]))
    if found is None:
        raise RequestError(f'"{typed.strip()}" is no formula of volts; write it like (volts - 0.5) / 0.01.')
    law: Table = {"kind": found.kind, **found.values}
    by_formula = replace(PLAIN_VOLTAGE, sketch=lambda said: Sketch((converter(said), law)))
    made = with_recipe(here.editor, here.state, here.bench, by_formula, {}, typed)
    return replace(made, deed=f"{made.deed}{found.told}") if found.told else made


def table_of_volts(here: Here, typed: str) -> Edited:
    """A curve, volts and their meanings."""
    points = points_said(typed, VOLT)
    assert points is not None, typed
    law: Table = {"kind": points.kind, **points.values}
    turn = (f"0{DEGREE}", f"{TURN}{DEGREE}") if points.is_direction else None
    curve = replace(
        PLAIN_VOLTAGE,
        sketch=lambda said: Sketch((converter(said), law), span=turn, comes_round=points.is_direction),
    )
    return with_recipe(here.editor, here.state, here.bench, curve, {}, typed)
