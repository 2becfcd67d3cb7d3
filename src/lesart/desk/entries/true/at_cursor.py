"""The reading at the cursor as a reference for a true value, or as the new zero."""

from __future__ import annotations

import re

import numpy as np

from lesart.core.block import Block
from lesart.core.calm.circular import unrolled
from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.notes import Key
from lesart.core.parameters import parted
from lesart.core.quantity import counted, format_quantity
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.step import Step
from lesart.core.true.reference import PARAMETERS as REFERENCE
from lesart.core.true.reference import WAYS, spread_and_drift
from lesart.desk.entries.aloud.whys import truth_plainly
from lesart.desk.entries.chain import list_of
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.typed_values import written
from lesart.project.check import read_tables
from lesart.project.model import Channel
from lesart.project.text import Editor
from lesart.project.toml_values import value_at
from lesart.study.bench import circle_of

_READS = re.compile(r"^(?:it\s+)?(?:reads?|shows?|is)\s+(?=.*\btoo\b)", re.IGNORECASE)
TRUE_VALUE = REFERENCE[0]
REFERENCE_S = 5.0
"""Seconds before the cursor that are averaged into an indication."""


def reference_added(
    editor: Editor, text: str, channel: Channel, typed: str, indicated: Block, cursor_s: float, moment: str, day: str
) -> Edited:
    """The true value typed, beside the mean of what was indicated before the cursor.

    ``10 kg ± 5 g up`` says how well it is known, and that it was reached from below; ``2 kg too high`` is told from
    what is read.

    ``indicated`` is the block before the correction. Raises RequestError without a value or a good sample.
    """
    typed = _from_what_is_read(channel, typed, indicated, cursor_s)
    try:
        words = typed.rsplit(maxsplit=1)
        way = words[-1] if words[-1:] and words[-1] in WAYS else ""
        number, off = parted(words[0] if way and len(words) > 1 else typed)
        true = quantity_typed(number, channel.unit)
        true.to(channel.unit)
        if off:
            TRUE_VALUE.read(f"{true} ± {off}".replace("−", "-"))
    except (QuantityError, UnitError, ValueError) as error:
        reason = str(error).rstrip(".")
        raise RequestError(f"{channel.name}: {reason}; type the true value, in {channel.unit}.") from error
    part, mean = _before(channel, indicated, cursor_s)
    count = int(part.usable.sum())
    key = list_of(Step.TRUE, channel)
    entry: dict[str, str | int | bool] = {
        "true": f"{str(true).replace('−', '-')}{f' ± {off}' if off else ''}",
        "indicated": written(mean, channel.unit),
        "count": count,
        "taken": moment,
    }
    entry |= {"date": day, **({"way": way} if way else {})}
    spread, drift = spread_and_drift(part)
    if spread > 0:
        entry |= {"spread": written(spread, channel.unit.step), "drift": written(drift, channel.unit.step)}
    index = len(value_at(read_tables(text), key) or [])
    added = editor.with_entry(text, key, entry)
    if channel.correction.kind == "none":
        added = editor.with_value(added, (*key[:-1], "kind"), fit_to_begin_with(channel))
    shown = format_quantity(mean, channel.unit)
    said = f"added: {true}, where {shown} was indicated, the mean of {counted(count, 'sample')}"
    return Edited(added, said, (*key, index, "true"))


def _from_what_is_read(channel: Channel, typed: str, indicated: Block, cursor_s: float) -> str:
    """The true value, where the error of the reading was typed; else the text unchanged."""
    said = _READS.sub("", typed.strip())
    if truth_plainly(said, channel.unit, 1.0) == said:
        return typed
    _, mean = _before(channel, indicated, cursor_s)
    return truth_plainly(said, channel.unit, channel.correction.corrected(mean)).partition(" ± ")[0]


def tared(editor: Editor, text: str, channel: Channel, corrected: Block, cursor_s: float) -> Edited:
    """What is read at the cursor becomes nothing: the mean of the last seconds is taken off from now on.

    ``corrected`` is the block after the correction. Raises RequestError without a good sample.
    """
    part, mean = _before(channel, corrected, cursor_s)
    key: Key = (*channel.key("true"), "tare")
    taken = channel.correction.tare + mean
    off, count = written(taken, channel.unit.step), counted(int(part.usable.sum()), "sample")
    said = f"tare: {format_quantity(taken, channel.unit.step)} is taken off, the mean of {count}"
    return Edited(editor.with_value(text, key, off), said, key)


def fit_to_begin_with(channel: Channel) -> str:
    """The fit to start with.

    Through one point a line is an offset, and a note says that its slope is assumed. On a circle the slope is 1.
    """
    return "offset" if circle_of(channel) is not None else "line"


def _before(channel: Channel, block: Block, cursor_s: float) -> tuple[Block, float]:
    """The last seconds before the cursor, unrolled where they come round, and the mean of their good samples.

    Raises RequestError where there is none.
    """
    # Slightly later at both ends, so that a window of 5 s at 10 Hz has 50 samples however its times were rounded.
    first, last = np.searchsorted(block.t, [cursor_s - REFERENCE_S + 1e-9, cursor_s + 1e-9])
    part, circle = block[int(first) : int(last)], circle_of(channel)
    part = part if circle is None else unrolled(part, circle.turn)
    good = part.x[part.usable]
    if not len(good):
        raise RequestError(f"{channel.name}: there is no good sample in the {REFERENCE_S:g} s before the cursor.")
    mean = good.mean(keepdims=True)
    return part, float((mean if circle is None else circle.on_circle(mean))[0])
