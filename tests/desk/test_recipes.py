"""A signal or a display said in a line: what it makes reads right, and what nobody said is told apart."""

from __future__ import annotations

import atexit
import math
import re
import shutil
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from tempfile import mkdtemp

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.errors import RequestError
from lesart.core.notes import FAULT
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.recipes.kinds.signals import SIGNALS
from lesart.desk.entries.recipes.phrases.phrase import said_in
from lesart.desk.entries.recipes.which import is_signal
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from lesart.study.assumptions import inspect_assumed

SECONDS = 120


def capture(folder: Path, header: str, middle: float) -> Path:
    """A column that stands at ``middle`` and goes a per cent up and down, whole numbers."""
    rows = [f"{tenth / 10},{round(middle * (1 + 0.01 * math.sin(tenth / 200)))}" for tenth in range(SECONDS * 10)]
    path = folder / "probe.csv"
    path.write_text("\n".join((f"time_s,{header}", *rows)) + "\n")
    return path


@cache
def made(middle: float, header: str) -> Path:
    """A new project of such a column. Read only."""
    folder = Path(mkdtemp(prefix="lesart-tests-"))
    atexit.register(shutil.rmtree, folder)
    make_project(capture(folder, header, middle), folder / "probe")
    return folder / "probe"


def opened(folder: Path, middle: float = 512, header: str = "counts") -> Desk:
    """A new project in Law, as nobody has said anything of it."""
    shutil.copytree(made(middle, header), folder / "probe")
    desk = open_desk(folder / "probe")
    desk.open_step(Step.LAW)
    return desk


@pytest.fixture
def new(tmp_path: Path) -> Iterator[Desk]:
    """Counts about 512."""
    desk = opened(tmp_path)
    yield desk
    desk.close()


def half_ohm(count: float, bits: int, fixed: float) -> float:
    """Ohm's law: a resistance to ground in series with a fixed one, by the share of the supply between them."""
    share = count / 2**bits
    return fixed * share / (1 - share)


def thermistor_c(ohm: float, beta: float) -> float:
    """By the definition of beta, 10 kΩ at 25 °C."""
    return 1 / (1 / 298.15 + math.log(ohm / 10_000) / beta) - 273.15


def platinum_c(ohm: float, at_zero: float) -> float:
    """From 0 °C on: R = R₀ (1 + A t + B t²)."""
    a, b = 3.9083e-3, -5.775e-7
    return (-a + math.sqrt(a * a - 4 * b * (1 - ohm / at_zero))) / (2 * b)


NERNST_V = 0.05916
"""Of a glass electrode for each pH, at 25 °C."""
READS = {
    "thermistor half": (512, lambda n: thermistor_c(half_ohm(n, 10, 10_000), 3950), "°C"),
    "platinum half": (540, lambda n: platinum_c(half_ohm(n, 10, 1000), 1000), "°C"),
    "platinum converter": (8400, lambda n: platinum_c(n / 2**15 * 430, 100), "°C"),
    "bridge": (500_000, lambda n: n / 2**23 / 128 / 1e-3 * 5, "kg"),
    "voltage over a divider": (512, lambda n: n / 1024 * 5 * 4, "V"),
    "voltage divided by": (512, lambda n: n / 1024 * 5 * 4, "V"),
    # IEC 60584-1: of type K 1.000 mV at 25 °C, 39.708 mV at 960 °C and 40.101 mV at 970 °C.
    "thermocouple": (8, lambda n: 960 + 10 * (n / 1024 * 5000 + 1.0 - 39.708) / (40.101 - 39.708), "°C"),
    "pulses giving": (12, lambda n: n, "m/s"),
    "voltage on a converter": (512, lambda n: n / 1024 * 5, "V"),
    "thermometer in volts": (150, lambda n: (n / 1024 * 5 - 0.5) / 0.01, "°C"),
    "sensor in volts": (512, lambda n: (n / 1024 * 5 - 0.5) / 4 * 100, "%"),
    "infrared ranger": (512, lambda n: 20 * (n / 512) ** (math.log(7.5) / math.log(0.16)), "cm"),
    "ratiometric sensor": (512, lambda n: (n / 1024 - 0.1) / 0.8 * 100, "%"),
    "sender half": (512, lambda n: half_ohm(n, 10, 100) / 180 * 100, "%"),
    "sensor over a divider": (307, lambda n: n / 1024 * 5 * (15 + 10) / 10 / 10 * 100, "%"),
    "knob": (512, lambda n: n / 1024 * 100, "%"),
    "angle": (512, lambda n: n / 1024 * 360, "°"),
    "sensor giving": (600, lambda n: (n / 1024 * 5 - 2.5) / 0.1, "A"),
    "pH probe": (600, lambda n: 7 - (n / 1024 * 5 - 2.5) / (3 * NERNST_V), "pH"),
    "current over a shunt": (600, lambda n: n / 1024 * 5 / 20 / 0.1, "A"),
    "pulses of a flow": (300, lambda n: n / 450 * 60, "L/min"),
    "current loop": (400, lambda n: (n / 1024 * 5 / 165 - 0.004) / 0.016 * 100, "%"),
    "wheel's pulses": (500, lambda n: n * 60, "1/min"),
    "time between pulses": (20_000, lambda n: 60 / (n * 1e-6), "1/min"),
    "time of an echo": (5000, lambda n: 0.5 * n * 1e-6 * (331.3 * math.sqrt(1 + 20 / 273.15)), "m"),
    "already in": (512, lambda n: n, "°C"),
    "count of": (512, lambda n: n * 0.1, "°C"),
    "photoresistor half": (512, lambda n: 10 * (10_000 * (1024 / n - 1) / 20_000) ** (-1 / 0.7), "lx"),
    "force sensor half": (512, lambda n: 6000 / (10_000 * (1024 / n - 1)), "kg"),
    "gas sensor half": (512, lambda n: 100 * ((10_000 * (1024 / n - 1)) / 10_000) ** -2.5, "ppm"),
    "sensor giving a current": (512, lambda n: n / 1024 * 5 / 100_000 / 10e-9, "lx"),
    "strain bridge": (500_000, lambda n: n / 2**23 / 128 * 4 / 2 * 1e6, "µε"),
    "share": (512, lambda n: n / 1023 * 100, "%"),
}
ROUNDED = {"time of an echo": 2e-3, "thermocouple": 2e-4}
"""The speed of sound has several formulas that differ by a part in a thousand; a table has steps."""
"""Counts that the capture stands at, what each count means by the formulas of a textbook, and in which unit."""


def test_every_signal_is_tried() -> None:
    """A new one has a formula of its own here."""
    assert set(READS) == set(SIGNALS)


@pytest.mark.parametrize("name", SIGNALS)
def test_a_line_makes_a_reading(name: str, tmp_path: Path) -> None:
    """Laws, range, calm and field in one edit, right at every sample before the filters, and on the glass."""
    middle, formula, unit = READS[name]
    desk = opened(tmp_path, middle)
    text = desk.state.history.text
    desk.add(SIGNALS[name].begins)
    assert not desk.state.message_is_fault, desk.state.message
    channel = desk.state.chosen
    run = desk.bench.run(desk.state.project, channel)
    raw, read = run.blocks[Step.RAW].x, run.blocks[Step.TRUE].x
    assert str(channel.unit) == unit
    span = max(abs(formula(float(raw.max())) - formula(float(raw.min()))), 1e-9)
    for place in range(0, len(raw), 100):
        assert read[place] == pytest.approx(formula(float(raw[place])), abs=span * 1e-6, rel=ROUNDED.get(name, 1e-9))
    assert channel.lowest <= read.min()
    assert read.max() <= channel.highest
    assert channel.filters
    faults = [note.text for note in desk.notes if note.mark == FAULT]
    assert faults == []
    desk.undo()
    assert desk.state.history.text == text
    desk.close()


@pytest.mark.parametrize("noise", [1.5, *(pytest.param(each, marks=pytest.mark.long) for each in (0.2, 6.0))])
@pytest.mark.parametrize("name", SIGNALS)
def test_no_note_asks_for_fewer_decimals_than_a_line_chose(name: str, noise: float, tmp_path: Path) -> None:
    """With a quiet converter, a usual one and a noisy one: what is worth showing is said by one rule."""
    middle, _, _ = READS[name]
    random = np.random.default_rng(7)
    rows = [f"{tenth / 10},{round(middle + noise * random.standard_normal())}" for tenth in range(SECONDS * 10)]
    (tmp_path / "probe.csv").write_text("\n".join(("time_s,counts", *rows)) + "\n")
    make_project(tmp_path / "probe.csv", tmp_path / "probe")
    desk = open_desk(tmp_path / "probe")
    desk.open_step(Step.LAW)
    desk.add(SIGNALS[name].begins)
    asked = [note.text for note in desk.notes if any(mend.key[-1] == "decimals" for mend in note.mend)]
    # That it may be off by more than its last digit shows is said: a change is seen better than a value is known.
    assert [text for text in asked if "but the uncertainty is" not in text] == []
    desk.close()


@pytest.mark.parametrize("numbers", [("0", "1e9"), pytest.param(("-3", "0.0001"), marks=pytest.mark.long)])
@pytest.mark.parametrize("name", SIGNALS)
def test_whatever_number_is_said_ends_in_a_sentence(name: str, numbers: tuple[str, ...], tmp_path: Path) -> None:
    """Nothing, less than nothing, and far too much of everything that it asks: a reading, or nothing changed and
    why."""
    desk = opened(tmp_path, READS[name][0])
    before = desk.state.history.text
    for ask in SIGNALS[name].asks:
        unit = re.sub(r"^[-\d., ]+", "", str(ask.usual))
        for number in numbers:
            desk.add(f"a {name}, {ask.word} = {number} {unit}")
            assert desk.state.message_is_fault == (desk.state.history.text == before), desk.state.message
            assert desk.state.message
            if not desk.state.message_is_fault:
                desk.undo()
    desk.close()


@pytest.mark.parametrize("name", SIGNALS)
def test_what_is_said_is_not_assumed(name: str, tmp_path: Path) -> None:
    """Each question answered by its word: its value has no note any more, all others have."""
    recipe = SIGNALS[name]
    desk = opened(tmp_path, READS[name][0])
    desk.add(recipe.begins if name not in ("already in", "count of") else f"a {name}" if name == "count of" else name)
    assert not desk.state.message_is_fault, desk.state.message
    assumed = set(desk.state.project.assumed)
    assert assumed
    desk.undo()
    for ask in recipe.asks:
        bare = "a count of" if name == "count of" else "already in" if name == "already in" else recipe.begins
        desk.add(f"{bare}, {ask.word} = {ask.usual}")
        assert not desk.state.message_is_fault, desk.state.message
        left = set(desk.state.project.assumed)
        gone = assumed - left
        assert left < assumed or not [key for key in assumed if key[-1] in {str(each[-1]) for each in ask.places}]
        assert {key[-1] for key in gone} <= {str(each[-1]) for each in ask.places} | {"kind"}
        desk.undo()
    desk.close()


@pytest.mark.parametrize("name", SIGNALS)
def test_its_example_is_taken(name: str, tmp_path: Path) -> None:
    """What stands in the list as an example."""
    middle = 2000 if "12" in SIGNALS[name].example else READS[name][0]
    desk = opened(tmp_path, middle)
    desk.add(SIGNALS[name].example)
    assert not desk.state.message_is_fault, desk.state.message
    desk.close()


def test_every_assumption_is_a_note_that_a_key_takes(new: Desk) -> None:
    """One note each; m takes it as it is, with no other change, until none is left."""
    new.add("a thermistor half on a 10-bit converter")
    before = new.state.project.tables
    assert len(new.state.project.assumed) == 8
    while left := list(inspect_assumed(new.state.project)):
        assert len(left) == len(new.state.project.assumed)
        index = next(place for place, note in enumerate(new.notes) if note.text == left[0].text)
        new.go_to_note(index)
        assert new.state.selected_at(new.state.step) == left[0].place
        new.mend()
        assert left[0].text not in [note.text for note in inspect_assumed(new.state.project)]
    assert "assumed" not in new.state.history.text
    assert new.state.project.tables == before


def test_a_value_that_is_typed_is_assumed_no_longer(new: Desk) -> None:
    """By enter and by an arrow; the others of its table still are."""
    new.add("a thermistor half on a 10-bit converter")
    place = ("channels", "counts")
    new.edit((*place, "lowest"), "-10 °C")
    assert (*place, "lowest") not in new.state.project.assumed
    assert (*place, "highest") in new.state.project.assumed
    new.select((*place, "law", 2, "beta"))
    new.nudge(1)
    assert (*place, "law", 2, "beta") not in new.state.project.assumed
    assert new.state.project.tables["channels"]["counts"]["law"][2]["beta"] == "4050 K"


def test_a_wrong_word_in_assumed_is_said(new: Desk) -> None:
    """With its place and what would be right."""
    from lesart.core.errors import ProjectError
    from lesart.project.check import check_project

    text = new.state.history.text.replace('column = "counts"\n', 'column = "counts"\nassumed = "colour"\n')
    with pytest.raises(ProjectError) as raised:
        check_project(text)
    (problem,) = raised.value.problems
    assert problem.place == "channels.counts.assumed"
    assert problem.value == '"colour"'
    assert problem.wanted.startswith("it names values of this table: source, column")


PHRASES = {
    "thermistor half": {"reference": "5 V", "resistance": "10 kΩ", "fixed": "10 kΩ", "beta": "3950 K", "bits": 10},
    "a thermistor half on a 12-bit converter at 3.3 V": {"bits": 12, "reference": "3.3 V"},
    "A thermistor half of 100 kΩ over 4k7, beta = 3435 K": {"resistance": "100 kΩ", "fixed": "4k7Ω", "beta": "3435 K"},
    "the thermistor half 10k 4k7 3435 K": {"resistance": "10kΩ", "fixed": "4k7Ω", "beta": "3435 K"},
    "it is a thermistor half with a 10k ± 1 % thermistor": {"resistance": "10k ± 1 %"},
    "a thermistor half 8 bits and 22k fixed": {"bits": 8, "fixed": "22kΩ"},
    "a thermistor half, resistance = 100 kΩ, fixed = 22 kΩ": {"resistance": "100 kΩ", "fixed": "22 kΩ"},
    "a thermistor half, fixed = 4k7 and 100 kΩ": {"resistance": "100 kΩ", "fixed": "4k7Ω"},
}


@pytest.mark.parametrize("line", PHRASES)
def test_a_sentence_is_understood(line: str) -> None:
    """Values in any order, by their units or their words."""
    from lesart.core.quantity import parse_quantity
    from lesart.core.units import parse_unit
    from lesart.desk.entries.recipes.phrases.phrase import recipe_in

    found = recipe_in(line, SIGNALS)
    assert found is not None
    assert found[0] == "thermistor half"
    recipe = SIGNALS[found[0]]
    said = {**{ask.word: ask.usual for ask in recipe.asks}, **said_in(recipe, found[1])}
    for word, wanted in PHRASES[line].items():
        parameter = next(ask.parameter for ask in recipe.asks if ask.word == word)
        if isinstance(wanted, int):
            assert said[word] == wanted
            continue
        unit = parse_unit(parameter.unit)
        number, _, off = str(said[word]).partition("±")
        assert parse_quantity(number, unit).to(unit) == parse_quantity(wanted.partition("±")[0], unit).to(unit)
        assert off.strip() == wanted.partition("±")[2].strip()


WORDS = st.sampled_from(
    [
        *(
            "a",
            "on",
            "of",
            "at",
            "and",
            "with",
            "over",
            "=",
            ",",
            "±",
            "10-bit",
            "12 bits",
            "bits",
            "10k",
            "4k7",
            "5 V",
        ),
        *(
            "3950 K",
            "beta",
            "fixed",
            "reference",
            "1 %",
            "-1",
            "°C",
            "kg",
            "5",
            "1e99 V",
            "0 V",
            "converter",
            "\u0000",
            "]",
        ),
        *(
            "10 bits 10 bits",
            "9999999999999999999 bits",
            "marks = 20",
            "low = 0 bar",
            "high = 10 bar",
            "per = 1/s",
            "zero",
        ),
    ]
)


@given(st.sampled_from(sorted(SIGNALS)), st.lists(WORDS, max_size=7))
def test_any_words_behind_a_name(name: str, words: list[str]) -> None:
    """They are taken, or a sentence says why not; what is taken can be sketched or is refused in a sentence."""
    recipe = SIGNALS[name]
    try:
        said = said_in(recipe, " ".join(words))
    except RequestError as error:
        assert str(error).strip()
        return
    for word, value in said.items():
        next(ask for ask in recipe.asks if ask.word == word).parameter.read(value)  # raises for what cannot be
    try:
        recipe.sketch({**{ask.word: ask.usual for ask in recipe.asks}, **said})
    except RequestError as error:
        assert str(error).strip()


WRONG = {
    "a thermistr half": '"a thermistr half" is not anything Lesart knows; did you mean thermistor half?',
    "a toaster": '"a toaster" is not anything Lesart knows; it may be thermistor half, bridge, ',
    "a thermistor half beta": '"beta" has no value; it takes ',
    "a thermistor half of 3 kg": '"3 kg" says nothing of a thermistor half; it takes ',
    "a thermistor half colour = red": 'A thermistor half takes no "colour"; it takes ',
    "a thermistor half 10 bits 12 bits": "bits is said twice: 10 and 12.",
}


@pytest.mark.parametrize("line", WRONG)
def test_what_cannot_be_is_said_and_changes_nothing(line: str, new: Desk) -> None:
    """A sentence, with all that would be taken."""
    text = new.state.history.text
    new.add(line)
    assert new.state.message_is_fault
    assert new.state.message.startswith(WRONG[line])
    assert new.state.history.text == text


def test_what_is_in_volts_needs_no_converter(tmp_path: Path) -> None:
    """It begins with the law that takes what there is; in kilograms none does."""
    desk = opened(tmp_path, 2, "tap_V")
    desk.add("a thermistor half at 5 V")
    assert [law.kind.name for law in desk.state.chosen.laws] == ["half of a divider", "thermistor by beta"]
    desk.close()
    (tmp_path / "other").mkdir()
    desk = opened(tmp_path / "other", 2, "load_kg")
    desk.add("a thermistor half")
    assert desk.state.message == (
        f"{desk.state.channel} is in kg; this begins with ct or V or Ω. Its raw unit is a value in 2 Raw."
    )
    desk.close()


@pytest.mark.parametrize(
    ("typed", "is_one"),
    [
        ("a load cell of 5 kg, 1 mV/V", True),
        ("a scale of 5 kg", True),
        ("scale of 5 kg", False),
        ("a thermistor 10k on a 12-bit converter", True),
        ("load cell", False),  # without an article a law of that name goes first
        ("thermistor", False),
        ("scale = bridge_ct", False),  # a name for a column
        ("scale < modbus", False),
        ("a scales", False),
        ("a barometer, 0.1 hPa per count", True),
        ("0.1 hPa/ct", True),
        ("an encoder, 600 counts per turn", True),
        ("an encoder, 0 counts per turn", False),
        (f"an encoder, {'9' * 400} counts per turn", False),
        ("linear 0 ct, 0 kg, 0.1 kg/ct", False),  # a law with a slope
        ("pressure = 0.1 hPa/ct", False),
        ("A in mV", False),
        ("a voltage in mV", True),
    ],
)
def test_what_people_call_a_signal(typed: str, is_one: bool) -> None:
    """Other names for a recipe mean it where nothing else goes by them."""
    assert is_signal(typed) is is_one
