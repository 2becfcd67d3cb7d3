"""The laws and the correction of a channel as one function of the raw number: what is wanted, and the result."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np

from lesart.core.block import UNUSABLE, Block, Bools, Floats, Mark
from lesart.core.chain import Link
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.law_forms.curve_table import looked_at, table_form
from lesart.core.pack.law_forms.exact import exact_form
from lesart.core.pack.law_forms.form import Curve, Form
from lesart.core.pack.law_forms.straight import line_form
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.program.bound import bound
from lesart.core.pack.program.on_arrays import on_arrays
from lesart.core.pack.program.statements import Function, Leave, Let, Statement, When
from lesart.core.pack.program.whole import Whole, either, flags_of, local, pick, whole, within

MOST_CODES = 1 << 24
PIECE = 1 << 16
STRAIGHT = 1e-3
"""Of a step: a curve that is nowhere further from a line is one."""


@dataclass(frozen=True)
class Laws:
    """Pointwise ``links`` from raw value to reading; raw numbers from ``low`` to ``high`` are values by the scale
    ``raw``; readings from ``lowest`` to ``highest`` count."""

    links: tuple[Link, ...]
    raw: Scale
    low: int
    high: int
    lowest: float
    highest: float

    def at(self, numbers: Floats) -> Block:
        """The desk's readings of raw numbers."""
        x = float(self.raw.zero) + numbers * float(self.raw.step)
        block = Block(numbers, x, np.zeros(len(numbers), np.uint8))
        for link in self.links:
            _, block = link.run(link.stage.initial(), block)
        return block

    def good(self, block: Block) -> Bools:
        """Which readings count."""
        usable = (block.mark & np.uint8(UNUSABLE)) == 0
        with np.errstate(invalid="ignore"):
            return np.asarray(usable & (block.x >= self.lowest) & (block.x <= self.highest))

    def shown(self, amount: float) -> str:
        """A difference of readings with its unit."""
        unit = self.links[-1].stage.unit_out.step.symbol if self.links else "1"
        return f"{amount:.3g}" if unit == "1" else f"{amount:.3g} {unit}"

    def codes(self) -> Floats:
        """All raw numbers, or a sample where there are very many."""
        count = self.high - self.low + 1
        if count <= MOST_CODES:
            return np.arange(self.low, self.high + 1, dtype=np.float64)
        return np.unique(np.rint(np.linspace(self.low, self.high, MOST_CODES >> 4)))


@dataclass(frozen=True)
class Agreement:
    """The integer law compared with the desk's over ``codes`` raw numbers: ``worst`` in the reading's unit, at raw
    number ``worst_at``; ``every`` is False where only some were compared; ``otherwise`` is the number that count for
    only one of the two."""

    codes: int
    every: bool
    worst: float
    worst_at: int
    otherwise: int


@dataclass(frozen=True, eq=False)
class LawForm:
    """``function`` takes ``raw`` and ``mark`` and gives ``x`` and ``mark``; ``form`` is valid from ``first`` to
    ``last``, raw numbers beyond are marked."""

    function: Function
    form: Form
    first: int
    last: int
    reading: tuple[int, int]
    agreement: Agreement


def law_form(name: str, place: str, laws: Laws, scale: Scale, budget: float, machine: Machine) -> LawForm:
    """The closed form where the law is a line, else the smallest table that is off by at most ``budget`` steps.

    Raises PackError where nothing will do.
    """
    first, last, saturated = _ends(place, laws)
    raw = local("raw", first, last)

    def curve(numbers: Floats) -> Floats:
        found = np.asarray((laws.at(numbers).x - float(scale.zero)) / float(scale.step))
        gaps = numbers[~np.isfinite(found) & (numbers >= first) & (numbers <= last)]
        if len(gaps):
            raise PackError(
                f"{place}: raw {int(gaps[0])} gives no reading, but raw {first} and raw {last} do; no table can bridge "
                "such a gap: narrow the channel's range to one side of it, or leave the channel out."
            )
        return found

    form = (
        _exact(laws, raw, scale, budget, machine)
        or _line(raw, curve, budget, machine)
        or table_form(name, raw, curve, budget - 0.5, machine)
    )
    if form is None:
        raise PackError(
            f"{place}: no line and no table of up to 4096 entries on a word of {machine.word} bits stays within "
            f"{laws.shown(budget * float(scale.step))} of the desk over raw {first} to {last}, where a step is "
            f"{laws.shown(float(scale.step))}; allow a larger share of the last place, narrow the channel's range, or "
            "take a wider word."
        )
    agreement, reached = _agreement(laws, scale, form, first, last)
    if agreement.every:
        form = replace(form, value=within(form.value, *reached, "every raw number was tried"))
    low, high = form.value.low, form.value.high
    given = local("raw", min(laws.low, first), max(laws.high, last))
    mark = local("mark", 0, 255)
    lets, value = bound(form.value)
    zero = whole(min(max(0, low), high))
    lost = pick(either(given < saturated[0], given > saturated[1]), int(Mark.SATURATED), int(Mark.RANGE))
    body: tuple[Statement, ...] = (
        Let("x", zero),
        When(flags_of(mark, int(UNUSABLE)), (Leave(),)),
        When(either(given < first, given > last), (Let("mark", marked_by(mark, lost)), Leave())),
        *lets,
        Let("x", value),
    )
    says = f"{form.says}; {form.equation}"
    function = Function(f"{name}_law", place, says, (given, mark), (local("x", low, high), mark), body)
    if agreement.every and agreement.worst > budget * float(scale.step) * (1 + 1e-9):
        raise PackError(
            f"{place}: at raw {agreement.worst_at} whole numbers are off by {agreement.worst:.3g}, more than the "
            f"{budget * float(scale.step):.3g} allowed."
        )
    return LawForm(function, form, first, last, (low, high), agreement)


def marked_by(mark: Whole, flags: Whole) -> Whole:
    """A mark with computed flags."""
    return Whole("|", (mark, flags), 0, 255)


def _ends(place: str, laws: Laws) -> tuple[int, int, tuple[int, int]]:
    """Where readings count from and to, and beyond which numbers the converter is at its end.

    Looked for in strides first, then number by number where it changes: an island that lies between two strides is told
    when all numbers are compared.
    """
    strides = looked_at(laws.low, laws.high)
    block = laws.at(strides)
    found = np.flatnonzero(laws.good(block))
    if not len(found):
        raise PackError(
            f"{place}: no raw number from {laws.low} to {laws.high} gives a reading from {laws.lowest:g} to "
            f"{laws.highest:g}; check the channel's range."
        )
    before, after = max(found[0] - 1, 0), min(found[-1] + 1, len(strides) - 1)
    first = _where(laws, int(strides[before]), int(strides[found[0]]))[0]
    last = _where(laws, int(strides[found[-1]]), int(strides[after]))[-1]
    return first, last, _saturated(laws)


def _where(laws: Laws, low: int, high: int) -> tuple[int, ...]:
    """The first and the last number that count."""
    numbers = np.arange(low, high + 1, dtype=np.float64)
    good = numbers[laws.good(laws.at(numbers))]
    return int(good[0]), int(good[-1])


def _saturated(laws: Laws) -> tuple[int, int]:
    """The least and the greatest number at which nothing is saturated."""
    edge = 64
    bottom = np.arange(laws.low, min(laws.low + edge, laws.high) + 1, dtype=np.float64)
    top = np.arange(max(laws.high - edge, laws.low), laws.high + 1, dtype=np.float64)
    full_low, full_high = ((laws.at(part).mark & np.uint8(Mark.SATURATED)) != 0 for part in (bottom, top))
    low = int(bottom[full_low][-1]) + 1 if full_low[0] else laws.low
    high = int(top[full_high][0]) - 1 if full_high[-1] else laws.high
    return low, high


def _exact(laws: Laws, raw: Whole, scale: Scale, budget: float, machine: Machine) -> Form | None:
    if laws.raw.step != 1 or laws.raw.zero != 0:
        return None
    return exact_form(laws.links, raw, None, scale, budget, machine)


def _line(raw: Whole, curve: Curve, budget: float, machine: Machine) -> Form | None:
    first, last = float(raw.low), float(raw.high)
    ends = curve(np.array([first, last]))
    gain = Fraction(float(ends[1])) - Fraction(float(ends[0]))
    gain = gain / (raw.high - raw.low) if raw.high > raw.low else Fraction(0)
    offset = Fraction(float(ends[0])) - gain * raw.low
    looked = np.unique(np.rint(np.linspace(first, last, 4097)))
    bow = np.abs(curve(looked) - (float(offset) + looked * float(gain))).max()
    if not bow <= STRAIGHT:
        return None
    return line_form(raw, gain, offset, budget - float(bow), machine)


def errors_of(form: LawForm, laws: Laws, scale: Scale, count: int) -> tuple[Floats, Floats]:
    """Raw numbers where readings count, and the integer law's error there, in the reading's unit; both of one length,
    at most ``count``."""
    numbers = np.unique(np.rint(np.linspace(form.first, form.last, count)))
    block = laws.at(numbers)
    good = laws.good(block)
    numbers = numbers[good]
    x = on_arrays(form.form.value, {"raw": numbers.astype(np.int64)})
    return numbers, float(scale.zero) + x * float(scale.step) - block.x[good]


def _agreement(laws: Laws, scale: Scale, form: Form, first: int, last: int) -> tuple[Agreement, tuple[int, int]]:
    """The agreement, and the least and the greatest step that a raw number gives."""
    codes = laws.codes()
    worst, worst_at, otherwise = 0.0, first, 0
    low, high = form.value.high, form.value.low
    for start in range(0, len(codes), PIECE):
        piece = codes[start : start + PIECE]
        block = laws.at(piece)
        good = laws.good(block)
        inside = (piece >= first) & (piece <= last)
        otherwise += int((good != inside).sum())
        if inside.any():
            numbers = piece[inside]
            x = np.broadcast_to(on_arrays(form.value, {"raw": numbers.astype(np.int64)}), numbers.shape)
            low, high = min(low, int(x.min())), max(high, int(x.max()))
            # Where the desk has no reading, any result here is counted in ``otherwise``.
            off = np.abs(float(scale.zero) + x * float(scale.step) - block.x[inside])
            apart = np.where(good[inside], off, 0.0)
            here = int(apart.argmax())
            if apart[here] > worst:
                worst, worst_at = float(apart[here]), int(numbers[here])
    every = laws.high - laws.low + 1 <= MOST_CODES
    return Agreement(len(codes), every, worst, worst_at, otherwise), (low, high)
