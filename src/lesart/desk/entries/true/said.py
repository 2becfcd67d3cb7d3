"""References in 4 True as people say them: pairs, a value at the cursor, or what a reference is not."""

from __future__ import annotations

import re
from datetime import date

from lesart.core.errors import RequestError
from lesart.core.quantity import clock
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.step import Step
from lesart.desk.entries.aloud.instead.laws import done_otherwise as laws_otherwise
from lesart.desk.entries.aloud.instead.references import done_otherwise as references_otherwise
from lesart.desk.entries.aloud.references import BY_SO_MUCH, LONGEST, SEVERAL, references_plainly, unit_of_pairs
from lesart.desk.entries.edit_result import Edited, Here
from lesart.desk.entries.said.patterns import NO_UNIT
from lesart.desk.entries.true import at_cursor, calibrations, references
from lesart.project.model import Channel

TARE = re.compile(
    r"(?:re-?)?tare(?:\s+(?:it|here|now))?|(?:re-?)?zero\s+(?:it|here|now)|"
    r"(?:set|make)\s+(?:it\s+)?(?:to\s+)?zero|null\s+it",
    re.IGNORECASE,
)


def add_reference(here: Here, typed: str) -> Edited:
    """Add a reference at the cursor, or pairs; on the leaf of calibrations the adopted one is put away."""
    state, channel = here.state, here.state.chosen
    if state.leaf_of(Step.TRUE) == calibrations.LEAF:
        return calibrations.put_away(here.editor, state, typed)
    today = f"{date.today():%Y-%m-%d}"
    if (by := BY_SO_MUCH.fullmatch(typed.strip())) is not None:
        raise RequestError(
            _comes_of_references(channel, typed, (by["by"] or by["plus"] or by["before"]).lstrip("+-− "))
        )
    if TARE.fullmatch(typed.strip()):
        raise RequestError(
            f'"{typed.strip()}": z makes what is read at the cursor zero; a reference is a value that you know.'
        )
    if channel.unit.symbol in NO_UNIT and (unit := unit_of_pairs(typed)):
        said = f"{channel.name} is not in {unit} yet; + in 3 Law takes two points of a line"
        raise RequestError(f'"{typed.strip()}": {said}, like 120 = 0 {unit}, 870 = 500 {unit}.')
    if re.search(r"[=-]>", typed):
        raise RequestError(
            f'"{typed.strip()}" does not say which value is the true one; {references.how(channel.unit)}.'
        )
    typed = references_plainly(typed)
    if references.are_pairs(typed):
        return references.add_pairs(here.editor, here.text, channel, typed, here.folder, today)
    indicated = here.bench.run(state.project, channel).blocks[Step.LAW]
    moment = clock(state.cursor_s).partition(".")[0]
    try:
        return at_cursor.reference_added(
            here.editor, here.text, channel, typed, indicated, state.cursor_s, moment, today
        )
    except RequestError as error:
        if said := _no_reference(channel, typed):
            raise RequestError(f'"{typed.strip()}": {said}.') from error
        if len(typed) > LONGEST or SEVERAL.search(typed) is None:
            raise
        said = f'"{typed.strip()}" does not say which value is the true one; {references.how(channel.unit)}.'
        raise RequestError(said) from error


def _comes_of_references(channel: Channel, typed: str, by: str) -> str:
    """What to say instead, for a correction by an amount or a factor."""
    said = f'"{typed.strip()}" is a correction, which comes from references'
    if re.match(r"(?:[×*]|gain|scale|multiply|factor|slope)", typed.strip(), re.IGNORECASE):
        return f"{said}; {references.how(channel.unit)}."
    return f"{said}; {by} too high, or {by} too low, is one from what is read."


def _no_reference(channel: Channel, typed: str) -> str:
    """What to do instead of something that is not a reference; empty where unknown."""
    said = references_otherwise(typed, channel.unit)
    behind = re.sub(r"^[^\d]*\d[\d.,]*\s*", "", typed.strip())
    unit = unit_said(behind) if behind and channel.unit.symbol in NO_UNIT else None
    if not said and unit is not None and not unit.same_dimension(channel.unit):
        return f"{laws_otherwise(str(unit), channel.unit)}; + in 3 Law takes it"
    return said
