"""Laws of a data sheet, in volts, for a channel of counts: they begin with its converter."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from lesart.core.errors import RequestError
from lesart.desk.entries.aloud.reckoned.arithmetic import reckoned
from lesart.desk.entries.aloud.reckoned.ends_said import Ends, ends_said
from lesart.desk.entries.aloud.reckoned.expressions import OfVoltsError
from lesart.desk.entries.aloud.reckoned.tabled import DEGREE, TURN, VOLT, points_said
from lesart.desk.entries.aloud.reckoned.volts_named import USUAL_V, VOLT_LETTERS, with_unit_first, with_volts_named
from lesart.desk.entries.edit_result import Edited, Here
from lesart.desk.entries.laws.added_law import said_law
from lesart.desk.entries.recipes.made import NO_UNIT, with_recipe
from lesart.desk.entries.recipes.questions import converter
from lesart.desk.entries.recipes.recipe import Sketch, Table
from lesart.desk.entries.recipes.volts import PLAIN_VOLTAGE


def law_said(here: Here, typed: str) -> Edited | None:
    """A law as people say it; a formula of volts begins with the converter where the channel has no law yet."""
    is_raw = here.state.chosen.unit_raw.symbol in NO_UNIT and not here.state.chosen.laws
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
