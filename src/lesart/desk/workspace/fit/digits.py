"""Fit, the leaf of digits: how a small processor makes them, what that costs, and what is sent."""

from __future__ import annotations

import math

from lesart.core.fit.digits import (
    Division,
    bcd,
    division_operations,
    divisions,
    shift_operations,
    shifts,
    word_bits,
)
from lesart.core.fit.field import Field
from lesart.core.fit.fill import Shown
from lesart.core.fit.rounding import LARGEST, rounded
from lesart.core.glass.panels.panel import Panel
from lesart.core.visible import visible
from lesart.desk.workspace.context import Context, label, text
from lesart.study.views import Line

MOST_DIGITS = 10
BITS = 8


def _steps(context: Context, field: Field) -> int | None:
    """The magnitude in last-place steps; None where there is no number."""
    value = float(field.shown_value(context.readings[context.channel.name].value))
    if not field.is_number or not math.isfinite(value) or abs(value) >= LARGEST:
        return None
    steps = int(abs(rounded(value, field.decimals, field.round)).scaleb(field.decimals))
    return steps if len(str(steps)) <= MOST_DIGITS else None


def digits_line(context: Context, field: Field) -> list[Line]:
    """In one line: ``430 ÷ 100 = 4 r 30   30 ÷ 10 = 3 r 0   BCD 0100 0011 0000``."""
    steps = _steps(context, field)
    if steps is None:
        return []
    digits = len(str(steps))
    said = "   ".join(_said(each) for each in divisions(steps, digits)) or str(steps)
    return [(label("digits   "), text(said), label("   BCD "), text(bcd(steps, digits))), ()]


def _said(step: Division) -> str:
    return f"{step.number} ÷ {step.by} = {step.quotient} r {step.remainder}"


def digits_lines(context: Context, panel: Panel, field: Field, shown: Shown) -> list[Line]:
    """Division beside shift and add, their cost, and the code of each cell."""
    steps = _steps(context, field)
    if steps is None:
        return [(label("There is no number here whose digits could be taken apart."),)]
    digits = len(str(steps))
    bits = word_bits(steps)
    lines: list[Line] = [
        (label("the number without its point "), text(str(steps), "lapis"), label(f", in a word of {bits} bits")),
        (),
        (label("by division and remainder, highest place first"),),
        *(
            (text(f"   {_said(each):<30}"), label("digit "), text(str(each.quotient), "verdigris"))
            for each in divisions(steps, digits)
        ),
        (text(f"   {'the last remainder':<30}"), label("digit "), text(str(steps % 10), "verdigris")),
        (),
        (label("by shift and add: 3 to each digit of 5 or more, then all shifted by one bit"),),
    ]
    every = shifts(steps, digits, bits)
    first = next((place for place, each in enumerate(every) if each.bit), len(every) - 1)
    for place, each in enumerate(every[first:], first):
        added = " ".join(f"{digit:04b}" for digit in each.added)
        shifted = " ".join(f"{digit:04b}" for digit in each.shifted)
        lines.append(
            (
                label(f"   bit {bits - 1 - place:>2} "),
                text(f"{each.bit}   ", "lapis"),
                label(f"{added}  →  "),
                text(shifted),
            )
        )
    plain, fast = (division_operations(digits, bits, has_divider=each) for each in (False, True))
    lines += [
        (),
        (
            label("steps of a processor   dividing "),
            text(str(plain)),
            label(", with a divider "),
            text(str(fast)),
            label(", shifting "),
            text(str(shift_operations(digits, bits))),
        ),
        (),
    ]
    return lines + _codes(panel, shown)


def _codes(panel: Panel, shown: Shown) -> list[Line]:
    """The code sent for each cell."""
    lines: list[Line] = [(label("what is sent for each cell"),)]
    for place, cell in enumerate(shown.cells):
        code = panel.code(cell)
        if code is None:
            lines.append(
                (label(f"   {place:>2}  "), text(visible(str(cell))), text("   the panel has no such", "rubric"))
            )
            continue
        sent = panel.sent_code(code)
        wide = max(BITS, -(-sent.bit_length() // BITS) * BITS)
        lines.append(
            (
                label(f"   {place:>2}  "),
                text(f"{visible(str(cell)):<4}"),
                text(f"0x{sent:02X}  ", "lapis"),
                text(f"{sent:0{wide}b}"),
                label(f"  {sent}"),
            )
        )
    return lines
