"""Vectors: inputs, and the outputs that each stage of a firmware must give for them, to the bit."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.program.in_python import loaded, python_name
from lesart.core.pack.program.whole import TIMES
from lesart.core.pack.written.python_module import python_module, short_name

ENDS = 3
"""Samples for which each end of a range is held, so that filters see it."""


@dataclass(frozen=True)
class Given:
    """A raw number with its mark and time, and the other channel's reading, with its mark."""

    raw: int
    mark: int
    now: int
    beside: int = 0
    beside_mark: int = 0

    def of(self, name: str) -> int:
        """An input by the name that functions have for it."""
        return int(getattr(self, name))


@dataclass(frozen=True)
class Passed:
    """A stage's result for a sample: whether it passes on, the reading in steps, its mark."""

    passes: int
    x: int
    mark: int


@dataclass(frozen=True)
class Vector:
    """``stages`` of law and filters as far as the sample got, then ``alarms`` and the cells of each field."""

    given: Given
    stages: tuple[Passed, ...]
    alarms: tuple[int, ...]
    cells: tuple[tuple[int, ...], ...]


def model_of(form: ChannelForm) -> Any:
    """A new model of a channel, from the very text that is written out."""
    return loaded(python_module("model", [form]))[python_name(form.wanted.name)]()


def vectors(form: ChannelForm, given: Iterable[Given]) -> tuple[Vector, ...]:
    """The model's results for inputs, stage by stage."""
    model, out = model_of(form), []
    inputs = [each.parts[0] for each in form.law.function.inputs]
    stages = [getattr(model, short_name(form, each)) for each in form.calm]
    alarms = [getattr(model, short_name(form, each)) for each in form.alarms]
    fields = [(getattr(model, short_name(form, each)), each.kept[0].name) for each in form.fields]
    for each in given:
        given_law = [each.of(name) for name in inputs]
        found = [Passed(*map(int, model.law(*given_law)))]
        for stage in stages:
            found.append(Passed(*map(int, stage(found[-1].x, found[-1].mark, each.now))))
            if not found[-1].passes:
                break
        last = found[-1]
        on: tuple[int, ...] = ()
        cells: tuple[tuple[int, ...], ...] = ()
        if last.passes:
            on = tuple(int(alarm(last.x, last.mark, each.now)[1]) for alarm in alarms)
            for fill, _ in fields:
                fill(last.x, last.mark, 0)
            cells = tuple(tuple(getattr(model, name)) for _, name in fields)
        out.append(Vector(each, tuple(found), on, cells))
    return tuple(out)


def ends_of(form: ChannelForm, interval_ms: int, begins_ms: int) -> tuple[Given, ...]:
    """Edge cases: the ends of the raw range and of what counts, each held for some samples, then bad samples with every
    mark, then a gap longer than any filter bridges, across the wrap of the clock."""
    wanted, law = form.wanted, form.law
    low, high = law.function.inputs[0].low, law.function.inputs[0].high
    places = (low, law.first - 1, law.first, (law.first + law.last) // 2, law.last, law.last + 1, high)
    raws = [min(max(each, low), high) for each in places for _ in range(ENDS)]
    inputs = [(raw, 0) for raw in raws]
    inputs += [((law.first + law.last) // 2, mark) for mark in (1, 2, 4, 8, 16, 32, 64, 0, 0)]
    out, now = [], begins_ms
    for raw, mark in inputs:
        out.append(Given(raw, mark, now % TIMES))
        now += interval_ms
    far = now + 3_600_000
    out += [Given(law.first, 0, far % TIMES), Given(law.last, 0, (far + interval_ms) % TIMES)]
    near_end = TIMES - 2 * interval_ms
    out += [Given((law.first + law.last) // 2, 0, (near_end + count * interval_ms) % TIMES) for count in range(5)]
    assert wanted.low <= wanted.high
    beside = wanted.beside
    if beside is None:
        return tuple(out)
    others, last = [beside.low, beside.high, (beside.low + beside.high) // 2], len(inputs)
    return tuple(
        Given(each.raw, each.mark, each.now, others[place % 3], 1 if place < last and place % 7 == 6 else 0)
        for place, each in enumerate(out)
    )


def csv_of(form: ChannelForm, made: Sequence[Vector]) -> str:
    """A row for each vector; stages that a sample did not reach are empty."""
    names = ["law", *(short_name(form, each) for each in form.calm)]
    alarms = [short_name(form, each) for each in form.alarms]
    fields = [short_name(form, each) for each in form.fields]
    also = [each.parts[0] for each in form.law.function.inputs[2:]]
    head = [
        "raw",
        "mark",
        "now_ms",
        *also,
        *(f"{name}_{what}" for name in names for what in ("x", "mark")),
        *alarms,
        *fields,
    ]
    return "\n".join([",".join(head), *(",".join(row_of(form, each)) for each in made)]) + "\n"


def row_of(form: ChannelForm, vector: Vector) -> list[str]:
    """The cells of a row; those of a field are its codes in hex."""
    also = [each.parts[0] for each in form.law.function.inputs[2:]]
    row = [str(vector.given.of(name)) for name in ("raw", "mark", "now", *also)]
    for place in range(len(form.calm) + 1):
        stage = vector.stages[place] if place < len(vector.stages) else None
        row += [str(stage.x), str(stage.mark)] if stage is not None and stage.passes else ["", ""]
    row += [str(each) for each in vector.alarms] or [""] * len(form.alarms)
    row += [" ".join(f"{code:02X}" for code in codes) for codes in vector.cells] or [""] * len(form.fields)
    return row
