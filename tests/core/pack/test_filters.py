"""Filters and alarms in whole numbers: as near to the desk as was asked for, with its marks, in Python and in C."""

from __future__ import annotations

import random
from pathlib import Path

import numpy as np
import pytest

from lesart.core import calm
from lesart.core.block import UNUSABLE, Block
from lesart.core.calm.alarm import ABOVE, BELOW, Alarm
from lesart.core.calm.circular import CircularMean, OntoCircle
from lesart.core.pack.calm_forms.alarm_form import alarm_form
from lesart.core.pack.calm_forms.kinds import FORMS
from lesart.core.pack.calm_forms.stage_form import Around
from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.program.in_python import HELPERS, class_text, loaded
from lesart.core.pack.written.vectors import Vector, ends_of, vectors
from lesart.core.through import through
from tests.core.chains import FILTERS, filter_of
from tests.core.pack.programs import filters_form, random_given, runs_in_c

REGULAR = ("time constant", "low-pass 1", "low-pass 4", "tracking")
"""They count on even times, or on whole intervals; here gaps are whole ones, but longer than they tell apart."""

WEIGHTED = ("exponential", *REGULAR)


def beside_the_desk(form: ChannelForm, made: tuple[Vector, ...]) -> tuple[float, int]:
    """The worst distance in steps where both are good, and how often a mark differs."""
    raw = np.array([each.given.raw for each in made], np.float64) * 0.01
    mark = np.array([each.given.mark for each in made], np.uint8)
    t = np.array([each.given.now for each in made], np.float64) / 1000
    desk = through(form.wanted.chain, Block(t, np.where(mark & np.uint8(UNUSABLE), np.nan, raw), mark))
    ours = [each.stages[-1] for each in made if each.stages[-1].passes]
    assert len(ours) == len(desk)
    x = np.array([each.x for each in ours]) * float(form.scale.step)
    marks = np.array([each.mark for each in ours], np.uint8)
    both = ((marks & UNUSABLE) == 0) & desk.usable
    assert both.sum() > len(both) / 4
    apart = np.abs(x - desk.x)[both]
    for link in form.wanted.chain.links:
        if isinstance(link.stage, CircularMean | OntoCircle):  # its ends are one place
            apart = np.minimum(apart, np.abs(apart - link.stage.turn))
    return float(apart.max()) / float(form.scale.step), int((marks != desk.mark).sum())


def test_every_kind_of_filter_has_a_form() -> None:
    built = {type(stage) for stages in FILTERS.values() for stage in stages}
    assert {type(filter_of_start(kind)) for kind in calm.KINDS} == set(FORMS) - {OntoCircle} == built - {OntoCircle}


def filter_of_start(kind: str) -> object:
    written = dict(calm.KINDS[kind].start(filter_of("mean").unit_in, 0.1))
    if kind in ("reject range", "circular mean"):
        written = {"lowest": "-1 kg", "highest": "1 kg"}
    return filter_of(kind, **written)


@pytest.mark.parametrize("word", [16, 32])
@pytest.mark.parametrize("name", FILTERS)
def test_a_filter_follows_the_desk(name: str, word: int) -> None:
    """Within a quarter of a last place on words of 32 bits; on 16 a reading has steps of half a last place at best."""
    try:
        form = filters_form(FILTERS[name], word=word, share=0.25 if word == 32 else 1.0)
    except PackError as error:
        assert word == 16
        assert "a word of 32 bits would do" in str(error)
        return
    chance = random.Random(7)
    given = random_given(chance, 600)
    if name in REGULAR:
        given = tuple(each for each in given if each.now < given[0].now + 60_000)
        given = tuple(type(each)(each.raw, each.mark, 1000 + 100 * place) for place, each in enumerate(given))
    worst, otherwise = beside_the_desk(form, vectors(form, given))
    # On 16 bits a weight has some eleven bits: behind a jump over the whole range that is seen until it settles.
    jump = (form.law.reading[1] - form.law.reading[0]) / 2048 if word == 16 and name in WEIGHTED else 0.0
    assert worst <= form.wanted.share * (1 << form.finer) + 0.5 + jump
    assert otherwise == 0


BARE = {"multiplier": False, "divider": False}


@pytest.mark.parametrize(
    ("machine", "every"),
    [({}, 3), pytest.param({}, 1, marks=pytest.mark.long), pytest.param(BARE, 1, marks=pytest.mark.long)],
)
def test_c_gives_the_same_bits(machine: dict[str, bool], every: int, tmp_path: Path) -> None:
    """Of every third filter, or of all, over ends, every mark, gaps, and the end of the clock."""
    for word in (16, 32):
        tested = []
        for place, (name, stages) in enumerate(FILTERS.items()):
            try:
                form = filters_form(stages, word=word, share=1.0, **machine)
            except PackError:
                continue
            object.__setattr__(form.wanted, "name", "mass")
            given = random_given(random.Random(place), 120)
            made = vectors(form, (*given, *ends_of(form, 100, given[-1].now + 100)))
            tested.append((name, form, made))
        assert len(tested) > 10
        for name, form, made in tested[::every] if machine == {} and word == 32 else tested[-3:]:
            assert runs_in_c(tmp_path / f"{word} {name}", [(form, made)]) == "equal\n", name


def test_a_changed_constant_is_found_by_the_test_program(tmp_path: Path) -> None:
    """It names channel, vector, stage and both numbers."""
    form = filters_form(FILTERS["mean 7"])
    made = vectors(form, random_given(random.Random(3), 50))
    first = made[20].stages[-1]
    wrong = type(first)(first.passes, first.x + 1, first.mark)
    spoiled = (*made[:20], Vector(made[20].given, (made[20].stages[0], wrong), (), ()), *made[21:])
    if not first.passes:
        pytest.fail("the vector that is spoiled must be one that passes")
    said = runs_in_c(tmp_path, [(form, spoiled)])
    assert said == (
        f"mass, vector 20, mass_calm1_mean: {first.x} mark {first.mark}, not {first.x + 1} mark {first.mark}\n"
    )


@pytest.mark.parametrize("side", [ABOVE, BELOW])
@pytest.mark.parametrize("least_s", [0.0, 0.35])
def test_an_alarm_goes_on_and_off_with_the_desk(side: str, least_s: float) -> None:
    """At every sample, with limits that are no whole steps."""
    scale = Scale(filters_form([]).scale.step)
    alarm = Alarm("full", side, 12.345_678, 1.000_3, least_s)
    around = Around("mass", "alarm1", "mass, alarm full", "full", scale, -200_000, 200_000, 0.1, 16.0, Machine(32))
    form = alarm_form(alarm, around)
    model = loaded(HELPERS + "\n\n" + class_text("tried", "t", [("on", form)], form.kept))["tried"]()
    chance = random.Random(5)
    x = np.cumsum([chance.randrange(-900, 901) for _ in range(2000)]) + round(12.3 / float(scale.step))
    mark = np.array([chance.choice((0, 0, 0, 0, 1)) for _ in x], np.uint8)
    t = np.arange(len(x)) / 10
    values = np.where(mark, np.nan, x * float(scale.step))
    _, on = alarm.run(alarm.initial(), Block(t, values, mark))
    found = [bool(model.on(int(a), int(m), round(1000 * b))[1]) for a, m, b in zip(x, mark, t, strict=True)]
    assert found == on.tolist()
    assert 10 < sum(found) < 1990
