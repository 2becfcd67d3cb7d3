"""Descriptions of a channel's integers, for the header, the Python module and the README alike."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from lesart.core.pack.channel_form import ChannelForm, ChannelWanted
from lesart.core.pack.program.plain import plain
from lesart.core.quantity import beside_unit, format_quantity


def fraction_said(value: Fraction) -> str:
    """``1/640``, or ``0.1`` where it is a short decimal."""
    short = f"{float(value):.6g}"
    return short if Fraction(short) == value else f"{value.numerator}/{value.denominator}"


def raw_said(wanted: ChannelWanted, number: Callable[[int], str] = str) -> str:
    """The meaning of a raw number; ``number`` writes its ends."""
    unit = wanted.chain.unit_raw
    if wanted.raw.step == 1 and wanted.raw.zero == 0:
        return plain(f"raw: {unit}, {number(wanted.low)} to {number(wanted.high)}")
    zero = f"{beside_unit(fraction_said(wanted.raw.zero), unit.symbol)} + " if wanted.raw.zero else ""
    step = beside_unit(fraction_said(wanted.raw.step), unit.symbol)
    return plain(f"raw: {number(wanted.low)} to {number(wanted.high)}, for {zero}raw × {step}")


def channel_lines(form: ChannelForm) -> list[str]:
    """Title, steps, ranges and the worst error."""
    wanted = form.wanted
    unit = wanted.chain.unit
    agreed, worst = form.law.agreement, format_quantity(form.law.agreement.worst, form.law_unit, 3)
    added = "" if form.parts.adding is None else " of a total of the whole range"
    looked = f"over all {agreed.codes} raw numbers" if agreed.every else f"over {agreed.codes} of all raw numbers"
    if wanted.beside is not None:
        looked = f"over {agreed.codes} pairs of a raw number and what {wanted.beside.title} reads"
    zero = f"{beside_unit(fraction_said(form.scale.zero), unit.symbol)} and " if form.scale.zero else ""
    step = beside_unit(fraction_said(form.scale.step), unit.symbol)
    lines = [
        wanted.title,
        f"x: {zero}steps of {step}, 2^{form.finer} of them a last place of the field.",
        f"Law and True: {form.law.form.says}, for raw {form.law.first} to {form.law.last}; beyond them marked.",
        f"Worst error {worst}, {form.worst_places:.3g} of a last place{added}, {looked}, at raw {agreed.worst_at}.",
    ]
    if agreed.otherwise:
        lines.append(f"{agreed.otherwise} raw numbers count at the desk and not here, or the other way round.")
    if wanted.beside is not None:
        lines.append(f"beside: x of {wanted.beside.title}, the latest one, and beside_mark its mark.")
    lines += [f"{each.place.removeprefix(plain(f'{wanted.title}, '))}: {each.says}." for each in form.calm]
    if form.parts.adding is not None:
        lines.append("Keep total_total and total_rest over a loss of power and put them back after start.")
    return [plain(each) for each in lines]
