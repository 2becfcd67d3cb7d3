"""References that were taken elsewhere: typed or pasted as pairs of true and indicated values, or read from a file."""

from __future__ import annotations

from pathlib import Path

from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.parameters import parted
from lesart.core.quantity import counted
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.step import Step
from lesart.core.true.reference import PARAMETERS as REFERENCE
from lesart.core.units import Unit
from lesart.desk.entries.at_cursor import fit_to_begin_with
from lesart.desk.entries.chain import list_of
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.table_points import pairs_of_file
from lesart.project.model import Channel
from lesart.project.text import Editor

HOW = "write 10 kg = 10.24 kg; 20 kg = 20.33 kg, the true value first, or < captures/weighed.csv"
MOST = 500


def are_pairs(typed: str) -> bool:
    """Is it more than a true value at the cursor?"""
    return "=" in typed or "<" in typed


def add_pairs(editor: Editor, text: str, channel: Channel, typed: str, folder: Path, day: str) -> Edited:
    """All of them, or none: RequestError names the first that is wrong."""
    if "<" in typed:
        pairs = pairs_of_file(folder, typed.partition("<")[2].strip(), HOW)
    else:
        pairs = [_pair(each) for each in typed.replace("\n", ";").split(";") if each.strip()]
    if not 0 < len(pairs) <= MOST:
        raise RequestError(f"{channel.name}: {len(pairs)} pairs are there; 1 to {MOST} can be taken.")
    key = list_of(Step.TRUE, channel)
    for true, indicated in pairs:
        entry: dict[str, str | int | bool] = {
            "true": _quantity(true, channel, tolerance=True),
            "indicated": _quantity(indicated, channel),
            "date": day,
        }
        text = editor.with_entry(text, key, entry)
    if channel.correction.kind == "none":
        text = editor.with_value(text, (*key[:-1], "kind"), fit_to_begin_with(channel))
    count = counted(len(pairs), "reference")
    return Edited(text, f"added: {count}, as written", (*key, len(channel.references), "true"))


def _pair(typed: str) -> tuple[str, str]:
    true, sign, indicated = (part.strip() for part in typed.partition("="))
    if not sign or not true or not indicated:
        raise RequestError(f'"{typed.strip()}" is not a pair; {HOW}.')
    return true, indicated


def _quantity(written: str, channel: Channel, *, tolerance: bool = False) -> str:
    """As the project file has it, in the channel's unit where none was written."""
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
        raise RequestError(f"{channel.name}: {str(error).rstrip('.')}; {HOW}.") from error
    return plain
