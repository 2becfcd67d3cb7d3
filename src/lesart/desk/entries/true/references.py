"""References taken elsewhere: typed or pasted as pairs of true and indicated values, or read from a file."""

from __future__ import annotations

from pathlib import Path

from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.parameters import parted
from lesart.core.quantity import beside_unit, counted, listed
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.step import Step
from lesart.core.true.reference import PARAMETERS as REFERENCE
from lesart.core.units import Unit
from lesart.desk.entries.chain import list_of
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.table_points import pairs_of_file
from lesart.desk.entries.true.at_cursor import fit_to_begin_with
from lesart.project.model import Channel
from lesart.project.text import Editor

MOST, MOST_NAMED = 500, 3


def how(unit: Unit) -> str:
    """An example of a line that works."""
    ten, ten_read, twenty, twenty_read = (beside_unit(each, unit.symbol) for each in ("10", "10.24", "20", "20.33"))
    return f"write {ten} = {ten_read}; {twenty} = {twenty_read}, the true value first, or < captures/weighed.csv"


def are_pairs(typed: str) -> bool:
    """True where it is more than a true value at the cursor."""
    return "=" in typed or "<" in typed


def add_pairs(editor: Editor, text: str, channel: Channel, typed: str, folder: Path, day: str) -> Edited:
    """The text with all pairs, or none: RequestError names the first wrong one."""
    if "<" in typed:
        pairs = pairs_of_file(folder, typed.partition("<")[2].strip(), how(channel.unit))
    else:
        pairs = [_pair(each, channel.unit) for each in typed.replace("\n", ";").split(";") if each.strip()]
    if not 0 < len(pairs) <= MOST:
        raise RequestError(f"{channel.name}: {len(pairs)} pairs are there; 1 to {MOST} can be taken.")
    key = list_of(Step.TRUE, channel)
    taken: list[str] = []
    for true, indicated in pairs:
        entry: dict[str, str | int | bool] = {
            "true": _quantity(true, channel, tolerance=True),
            "indicated": _quantity(indicated, channel),
            "date": day,
        }
        text = editor.with_entry(text, key, entry)
        taken.append(f"{entry['true']} where {entry['indicated']} was indicated")
    if channel.correction.kind == "none":
        text = editor.with_value(text, (*key[:-1], "kind"), fit_to_begin_with(channel))
    more = len(taken) - MOST_NAMED
    told = [*taken[:MOST_NAMED], *([f"{counted(more, 'reference')} more"] if more > 0 else [])]
    return Edited(text, f"added: {listed(told)}", (*key, len(channel.references), "true"))


def _pair(typed: str, unit: Unit) -> tuple[str, str]:
    true, sign, indicated = (part.strip() for part in typed.partition("="))
    if not sign or not true or not indicated:
        raise RequestError(f'"{typed.strip()}" is not a pair; {how(unit)}.')
    return true, indicated


def _quantity(written: str, channel: Channel, *, tolerance: bool = False) -> str:
    """A quantity for the project file, in the channel's unit where none was written."""
    unit: Unit = channel.unit
    number, off = parted(written) if tolerance else (written, "")
    try:
        quantity = quantity_typed(number, unit)
        quantity.to(unit)
        plain = str(quantity).replace("−", "-")
        if off:
            plain = f"{plain} ± {off}"
            REFERENCE[0].read(plain)
    except (QuantityError, UnitError, ValueError) as error:
        raise RequestError(f"{channel.name}: {str(error).rstrip('.')}; {how(unit)}.") from error
    return plain
