"""Recursive filters with constant weights, over many samples at once, bit-identical wherever the input is cut.

Such a filter is a sum of poles, each with a state of one number: s ← pole × s + x. Array sums are quick where all terms
are first brought to one scale, and the scale of a sample is a power of the pole. So samples are counted in rows, short
enough for such powers, beginning with the very first sample, and the state before a row is carried from row to row.
Since rows depend on the count of samples and not on where a block was cut, and since a sample that comes alone goes
through the same sums in the same order, cutting changes no bit. Source: partial fractions, in any textbook of digital
filters.

The road not taken: the recursion as data sheets write it, sample by sample in plain floats, which costs a third of a
microsecond each. The two differ by rounding, some 10⁻¹⁶ of the values.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass

GROUP = 32_768
"""Samples that are taken relative to the first of them, so that a constant input stays the same to the bit."""
ROWS = 256, 128, 32, 8, 2
"""Samples in a row: the most for which the powers of each pole stay far above the least float."""
LEAST_POWER = 1e-60
LEAST_POLE = 1e-30
"""A pole at zero is taken as this, which changes no digit of a float."""


@dataclass(frozen=True)
class Poles:
    """y = ``direct`` × x + the real part of the sum of ``gains`` × states; 1 for a value that stands still.

    Of a pair of poles one stands for both, its gain doubled. ``delayed``: the states are those before the sample.
    """

    direct: float
    delayed: bool
    poles: tuple[complex, ...]
    gains: tuple[complex, ...]

    @cached_property
    def row(self) -> int:
        """Samples in a row."""
        least = min((abs(pole) for pole in self._poles), default=1.0)
        return next((each for each in ROWS if least**each >= LEAST_POWER), ROWS[-1])

    @cached_property
    def powers(self) -> tuple[_Powers, ...]:
        """The powers of each pole."""
        return tuple(_powers(pole, gain, self.row) for pole, gain in zip(self._poles, self.gains, strict=True))

    @property
    def _poles(self) -> tuple[complex, ...]:
        return tuple(each if abs(each) > LEAST_POLE else complex(LEAST_POLE) for each in self.poles)


@dataclass(frozen=True)
class _Powers:
    """Real and imaginary parts, the latter None where all are real; the arrays are for a whole group.

    ``up``: what a sample is scaled by; ``down``: what scales the sum back, the gain in it; ``over``: what scales it
    back to the state after the row; ``rest``: the state by a value that stands still.
    """

    up: tuple[Floats, Floats | None]
    down: tuple[Floats, Floats | None]
    gain: complex
    over: complex
    rest: complex


def _powers(pole: complex, gain: complex, row: int) -> _Powers:
    real = pole.imag == 0 and gain.imag == 0

    def parts(values: list[complex]) -> tuple[Floats, Floats | None]:
        whole = np.tile(np.array(values), GROUP // row)
        return np.ascontiguousarray(whole.real), None if real else np.ascontiguousarray(whole.imag)

    places = range(1, row + 1)
    up, down = [pole**-place for place in places], [gain * pole**place for place in places]
    return _Powers(parts(up), parts(down), gain, pole**row, 1 / (1 - pole))


@dataclass(frozen=True)
class Stand:
    """State of the filter.

    ``place``: samples of the group so far; ``first``: the first of them, which the rest is relative to; ``states``: of
    the poles, before the row; ``row``: samples of the row so far, relative to ``first``; ``totals``: their scaled sums.
    """

    first: float
    states: tuple[complex, ...]
    place: int = 0
    row: tuple[float, ...] = ()
    totals: tuple[complex, ...] = ()


def begin(poles: Poles, x: float) -> Stand:
    """``x`` has always been."""
    return Stand(x, tuple(0j for _ in poles.poles))


def advance(poles: Poles, stand: Stand, x: Floats) -> tuple[Stand, Floats]:
    """The output for each of ``x``, shape (n,), all of them finite."""
    y, done, row = np.empty(len(x)), 0, poles.row
    while done < len(x):
        left = min(len(x) - done, GROUP - stand.place)
        # Whole rows at once; parts of rows before and after them one by one.
        count = left // row * row if stand.place % row == 0 else 0
        end = done + (count or min(left, row - stand.place % row))
        if stand.place == 0:
            stand = _regrouped(poles, stand, float(x[done]))
        if count:
            stand = _in_rows(poles, stand, x[done:end], y[done:end])
        else:
            stand, y[done:end] = _one_by_one(poles, stand, x[done:end].tolist())
        if stand.place == GROUP:
            stand = Stand(stand.first, stand.states)
        done = end
    return stand, y


def _regrouped(poles: Poles, stand: Stand, first: float) -> Stand:
    """The state relative to another value."""
    by = stand.first - first
    states = (state + by * each.rest for state, each in zip(stand.states, poles.powers, strict=True))
    return Stand(first, tuple(states))


def _in_rows(poles: Poles, stand: Stand, x: Floats, y: Floats) -> Stand:
    row, first, count = poles.row, stand.first, len(x)
    off = x - first
    if poles.delayed:
        np.multiply(off, poles.direct, out=y)
    states = []
    for place, (state, powers) in enumerate(zip(stand.states, poles.powers, strict=True)):
        scaled = [None if up is None else off * up[:count] for up in powers.up]
        before, state = _through(state, powers, [_sums(part, row) for part in scaled])
        states.append(state)
        own = _own(powers, scaled, before, row)
        if poles.delayed:
            lines = y.reshape(-1, row)
            lines[:, 0] += _answer(before, powers.gain)
            lines[:, 1:] += own.reshape(-1, row)[:, :-1]
        elif place:
            y += own
        else:
            y[:] = own
    y += first
    return Stand(first, tuple(states), stand.place + count)


def _sums(scaled: Floats | None, row: int) -> list[float] | None:
    """Scaled sum of each row."""
    if scaled is None:
        return None
    sums: list[float] = np.add.reduce(scaled.reshape(-1, row), axis=1).tolist()
    return sums


def _through(state: complex, powers: _Powers, sums: Sequence[list[float] | None]) -> tuple[list[complex], complex]:
    """States of a pole before each row, and the one after the last."""
    before = []
    if sums[1] is None:
        own, over = state.real, powers.over.real
        for total in sums[0] or ():
            before.append(complex(own))
            own = over * (own + total)
        return before, complex(own)
    for real, imaginary in zip(sums[0] or (), sums[1], strict=True):
        before.append(state)
        state = _behind(state, powers, real, imaginary)
    return before, state


def _behind(state: complex, powers: _Powers, real: float, imaginary: float) -> complex:
    """The state after a row, from the sum of its scaled samples."""
    re, im, over = state.real + real, state.imag + imaginary, powers.over
    return complex(over.real * re - over.imag * im, over.real * im + over.imag * re)


def _own(powers: _Powers, scaled: Sequence[Floats | None], before: list[complex], row: int) -> Floats:
    """A pole's output after each sample, including the states before the rows; overwrites ``scaled``."""
    states = np.array(before)
    parts = []
    for part, down, state in zip(scaled, powers.down, (states.real, states.imag), strict=True):
        if part is None or down is None:
            continue
        lines = part.reshape(-1, row)
        lines[:, 0] += state
        np.add.accumulate(lines, axis=1, out=lines)
        part *= down[: len(part)]
        parts.append(part)
    if len(parts) > 1:
        parts[0] -= parts[1]
    return parts[0]


def _answer(states: list[complex], gain: complex) -> Floats:
    """A pole's output by its states alone. In real parts, since a product of complex arrays may round differently."""
    own = np.array(states)
    return own.real * gain.real if gain.imag == 0 else own.real * gain.real - own.imag * gain.imag


def _one_by_one(poles: Poles, stand: Stand, x: list[float]) -> tuple[Stand, list[float]]:
    """Part of a row, by the same sums in the same order."""
    first, at = stand.first, len(stand.row)
    totals = list(stand.totals) if at else list(stand.states)
    offs, out = list(stand.row), []
    for sample in x:
        off = sample - first
        y = off * poles.direct
        for number, powers in enumerate(poles.powers):
            if poles.delayed:
                y = y + _given(totals[number], powers, at)
            totals[number] = _added(totals[number], off, powers, at)
            if not poles.delayed:
                own = _given(totals[number], powers, at + 1)
                y = y + own if number else own
        out.append(y + first)
        offs.append(off)
        at += 1
    if at < poles.row:
        return Stand(first, stand.states, stand.place + len(x), tuple(offs), tuple(totals)), out
    row = np.array(offs)
    states = (_behind_row(state, powers, row) for state, powers in zip(stand.states, poles.powers, strict=True))
    return Stand(first, tuple(states), stand.place + len(x)), out


def _added(total: complex, off: float, powers: _Powers, at: int) -> complex:
    up, imaginary = powers.up
    return complex(
        total.real + off * float(up[at]), 0.0 if imaginary is None else total.imag + off * float(imaginary[at])
    )


def _given(total: complex, powers: _Powers, samples: int) -> float:
    """A pole's output after this many samples of a row."""
    down, imaginary = powers.down
    if samples == 0:
        return float(_answer([total], powers.gain)[0])
    given = total.real * float(down[samples - 1])
    return given if imaginary is None else given - total.imag * float(imaginary[samples - 1])


def _behind_row(state: complex, powers: _Powers, offs: Floats) -> complex:
    sums = [None if up is None else _sums(offs * up[: len(offs)], len(offs)) for up in powers.up]
    return _through(state, powers, sums)[1]
