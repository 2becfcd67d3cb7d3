"""What is typed behind a name is taken or refused, never dropped; and every name that a screen offers can be typed."""

from __future__ import annotations

import re
import time
import tomllib
from typing import Any

import pytest

from lesart.core import calm, law
from lesart.core.glass.faces.items import ITEMS
from lesart.core.glass.panels.catalogue import CATALOGUE
from lesart.core.parameters import Parameter
from lesart.core.step import step_at
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.core.wire.sums import SUMS
from lesart.desk.desk import Desk
from lesart.desk.entries.pace.tasks import task_typed
from lesart.desk.entries.typed_values import LONGEST, LONGEST_WORD, kind_named
from lesart.desk.opening import open_desk
from lesart.desk.picture import workspace_now
from lesart.desk.state import LEAVES
from tests.small import make_small

MASS, AIR = "in kg", "in °C"


@pytest.fixture(scope="module")
def shared(tmp_path_factory: pytest.TempPathFactory) -> Desk:
    """A small project, open; each test takes back what it adds."""
    return open_desk(make_small(tmp_path_factory.mktemp("typed")))


def typed(desk: Desk, step: int, leaf: str, words: str, channel: str = MASS) -> tuple[str, dict[str, Any]]:
    """The sentence that came, and the tables then; what was added is gone again."""
    before = desk.state.history.text
    desk.choose_channel(channel)
    desk.open_step(step_at(step))
    desk.choose_leaf(leaf if leaf in LEAVES.get(step_at(step), ()) else LEAVES.get(step_at(step), ("",))[0])
    desk.choose_panel(leaf if leaf in desk.state.project.panels else "stand")
    desk.add(words)
    said, tables = desk.state.message, tomllib.loads(desk.state.history.text)
    if desk.state.history.text != before:
        desk.undo()
    assert desk.state.history.text == before
    return said, tables


def made_of(desk: Desk, step: int, line: str) -> str:
    """The project that a line makes, which is taken back."""
    desk.choose_channel(MASS)
    desk.open_step(step_at(step))
    if step == 1:
        desk.choose_leaf("joins")
    before = desk.state.history.text
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    made = desk.state.history.text
    assert made != before
    while desk.state.history.text != before:
        desk.undo()
    return made


def offered(desk: Desk, step: int, leaf: str) -> list[str]:
    """Names at the beginnings of the rows of a leaf, in the colour of what can be typed."""
    desk.open_step(step_at(step))
    desk.choose_leaf(leaf)
    rows = [row for row in workspace_now(desk).lines if row and row[0].tone == "ochre"]
    return [row[0].text.strip() for row in rows]


@pytest.mark.parametrize("kinds", [law.KINDS, calm.KINDS, PARTS, SUMS], ids=["laws", "filters", "parts", "sums"])
def test_every_name_of_a_registry_is_its_own(kinds: dict[str, Any]) -> None:
    """In small and large letters, alone and with something behind it: the longest name that fits is meant."""
    for name, kind in kinds.items():
        assert kind_named(name, kinds, "kind") == (kind, "")
        assert kind_named(f"  {name.upper()}  ", kinds, "kind") == (kind, "")
        assert kind_named(f"{name} 4k7, x = 1", kinds, "kind") == (kind, "4k7, x = 1")


def test_every_law_that_a_screen_offers_can_be_typed(shared: Desk) -> None:
    """Over all channels, so over all units in which laws end here. Where references or an alarm are in a unit that the
    new law leaves, that is said, and the next channel tried."""
    seen, done = set(), set()
    for channel in shared.state.project.channels:
        shared.choose_channel(channel)
        for name in offered(shared, 3, "what fits"):
            if name in done:
                continue
            seen.add(name)
            kind = law.KINDS[name]
            said, _ = typed(shared, 3, "", name, channel)
            part = next((each for each in kind.parameters if each.kind == "part"), None)
            missing = f"{name} takes its values from a {' or '.join(part.choices)}" if part else "added"
            if said.startswith((f"added: {kind.title}", missing)):
                done.add(name)
            else:
                assert "cannot be converted to" in said, (channel, name, said)
    assert seen == done
    assert done == set(law.KINDS)


def example_of(parameter: Parameter) -> str:
    """As the sentence about it writes one."""
    found = re.search(r'like "([^"]+)"', parameter.wanted)
    assert found is not None
    return found[1]


@pytest.mark.long
def test_every_filter_part_and_sum_can_be_typed(shared: Desk) -> None:
    for name, kind in calm.KINDS.items():
        assert typed(shared, 5, "", name)[0].startswith(f"added: {kind.title}"), name
    assert [name for name in offered(shared, 5, "what there is") if name in calm.KINDS] == list(calm.KINDS)
    for name, part in PARTS.items():
        wanted = [each for each in part.parameters if each.default is None]
        values = ", ".join(f"{each.name} = {example_of(each)}" for each in wanted)
        said = typed(shared, 1, "", f"mine = {name} {values}")[0]
        assert said.startswith(f"added: mine, {name}"), said
    for name in SUMS:
        assert typed(shared, 1, "sums", f"mine = {name}")[0].startswith(f"added: mine, {name}"), name


def test_every_panel_and_item_can_be_typed(shared: Desk) -> None:
    for name in CATALOGUE:
        assert typed(shared, 7, "panels there are", f"{name} mine")[0].startswith(f"added: mine, {name}"), name
        plain = name.replace("×", "x")
        assert typed(shared, 7, "panels there are", f"{plain} mine")[0].startswith(f"added: mine, {name}"), plain
    assert set(offered(shared, 7, "panels there are")) >= set(CATALOGUE)
    behind = {
        "field": AIR,
        "bar": AIR,
        "trend": AIR,
        "dial": AIR,
        "spectrum": AIR,
        "alarm": MASS,
        "bubble": f"{AIR} / {MASS}",
        "label": "hello",
    }
    for name in ITEMS:
        assert typed(shared, 7, "mast", f"{name} {behind.get(name, '')}".strip())[0].startswith(f"added: {name}"), name


@pytest.mark.parametrize(
    ("words", "wanted"),
    [
        ("median 9", {"kind": "median", "samples": 9}),
        ("mean 8", {"kind": "mean", "samples": 8}),
        ("mean 0b1000", {"kind": "mean", "samples": 8}),
        ("exponential 0.125", {"kind": "exponential", "weight": "0.125"}),
        ("low-pass 0.1 Hz", {"kind": "low-pass", "cutoff": "0.1 Hz"}),
        ("low-pass 0.1 Hz, order = 4", {"kind": "low-pass", "cutoff": "0.1 Hz", "order": 4}),
        ("time constant 3 s", {"kind": "time constant"}),
        ("deadband 0.2 kg", {"kind": "deadband"}),
        ("reject range -5 kg, 130 kg", {"kind": "reject range", "lowest": "-5 kg", "highest": "130 kg"}),
    ],
)
def test_values_behind_a_filter_are_taken(shared: Desk, words: str, wanted: dict[str, Any]) -> None:
    said, tables = typed(shared, 5, "", words)
    entry = tables["channels"][MASS]["calm"][-1]
    assert said.startswith("added: "), said
    assert {key: entry[key] for key in wanted} == wanted
    if len(wanted) == 1:
        own = words.removeprefix(str(wanted["kind"])).strip()
        assert own in [str(value) for value in entry.values()]


@pytest.mark.parametrize(
    ("step", "leaf", "words", "says"),
    [
        (5, "", "mean bananas", 'samples = "bananas"'),
        (5, "", "mean 8, 9, 10", '"9" is too much for mean'),
        (5, "", "mean size = 8", 'mean takes no "size"; it takes samples = …'),
        (5, "", "meidan", "did you mean median"),
        (5, "", "low-pass 0.1 kg", "0.1 kg"),
        (3, "", "lineer", "did you mean linear?"),
        (3, "", "linear qrt", '"qrt" is not a unit'),
        (3, "", "linear slope = bananas", "bananas"),
        (3, "", "thermstor by beta", "did you mean thermistor by beta"),
        (1, "", "fix = resistor", "A resistor needs its resistance"),
        (1, "", "fix = resistor 10 kg", "10 kg"),
        (1, "", "fix = resistr 10k", "did you mean resistor"),
        (1, "", "fix = resistor 10k, 1 W, 5 %, 7", '"7" is too much'),
        (1, "sums", "mine = dividr", "did you mean"),
        (7, "mast", "box hello", "a box holds nothing; + label hello adds a text"),
        (7, "", "feild in kg", "did you mean field?"),
        (7, "panels there are", "16x2 charactres", "did you mean"),
        (7, "", "arrange all", '"arrange all" is too much'),
        (8, "tasks", "log evry 5 s", '"evry" in "log evry 5 s": did you mean every?'),
        (8, "tasks", "log every soon", "soon"),
        (8, "tasks", "log takes 40", "40"),
        (8, "tasks", "log every 5 s every 6 s", "says twice every"),
        (8, "tasks", "log sends many bytes", "write it like sends 32 bytes"),
        (2, "", "me < this computer at home", '"at home" is too much'),
        (2, "", "mine = no column", '"no column" is not a column'),
    ],
)
def test_what_cannot_be_a_value_is_refused(shared: Desk, step: int, leaf: str, words: str, says: str) -> None:
    """Nothing is added; the sentence names what was typed, and what would be right."""
    before = shared.state.history.text
    said, tables = typed(shared, step, leaf, words)
    assert says in said
    assert tables == tomllib.loads(before)


def test_a_task_in_parts() -> None:
    found = task_typed("log the day every 5 s takes 40 ms in background")
    assert found.name == "log the day"
    assert found.clauses == {"every": "5 s", "takes": "40 ms", "in background": ""}


@pytest.mark.parametrize(("step", "leaf"), [(1, ""), (1, "sums"), (2, ""), (3, ""), (4, ""), (5, ""), (7, ""), (8, "")])
def test_what_nobody_types_is_said_to_be_too_long(shared: Desk, step: int, leaf: str) -> None:
    said, _ = typed(shared, step, leaf, "9" * (LONGEST + 1))
    assert f"has {LONGEST + 1} letters; {LONGEST} at most are taken" in said


@pytest.mark.parametrize(("step", "leaf"), [(1, ""), (1, "sums"), (2, ""), (3, ""), (4, ""), (5, ""), (7, ""), (8, "")])
def test_a_word_that_goes_on_and_on_is_none(shared: Desk, step: int, leaf: str) -> None:
    said, _ = typed(shared, step, leaf, f"mean {'9' * (LONGEST_WORD + 1)}")
    assert said == f'"{"9" * 30}…" goes on for more than {LONGEST_WORD} letters without a blank.'


@pytest.mark.parametrize("step", range(1, 10))
@pytest.mark.parametrize(
    "line",
    ["10k " * 1200, "mean" + " " * 5000 + "of", "(" * 400 + "x", "-" * 490 + "x", "0.5 V = 0 bar, " * 300],
    ids=["words", "gap", "brackets", "signs", "points"],
)
def test_a_long_line_is_answered_soon(shared: Desk, step: int, line: str) -> None:
    """In a sentence, within a second of the processor, whatever is repeated in it."""
    shared.open_step(step_at(step))
    before, began = shared.state.history.text, time.thread_time()
    shared.add(line)
    assert time.thread_time() - began < 2.0  # a twentieth of it where nothing else runs
    assert shared.state.message
    while shared.state.history.text != before:
        shared.undo()


def test_a_gap_between_words_is_as_good_as_a_blank(shared: Desk) -> None:
    gap = " " * 3000
    assert typed(shared, 5, "", f"median{gap}7") == typed(shared, 5, "", "median 7")


@pytest.mark.parametrize("name", PARTS)
def test_every_part_is_added_by_its_name_alone_or_asks_for_a_value(name: str, shared: Desk) -> None:
    """What it asks for may be typed as it stands."""
    shared.open_step(step_at(1))
    shared.choose_leaf("joins")
    before = shared.state.history.text
    shared.add(name)
    if shared.state.message_is_fault:
        needs, _, like = shared.state.message.partition("; write it like: ")
        assert " needs its " in needs
        shared.add(like)
    assert not shared.state.message_is_fault, shared.state.message
    assert shared.state.history.text != before
    shared.undo()


@pytest.mark.parametrize("line", ["logic level converter", "level translator", "a bidirectional level shifter module"])
def test_a_level_shifter_by_other_names(line: str, shared: Desk) -> None:
    shared.open_step(step_at(1))
    shared.choose_leaf("joins")
    shared.add(line)
    assert shared.state.message == "added: level shifter"
    shared.undo()


@pytest.mark.parametrize(
    ("step", "line"),
    [
        (1, "button on pin 2"),
        (4, "42.5 kg"),
        (5, "mean of 8"),
        (6, "3 decimals"),
        (7, "16x2 lcd"),
        (8, "log every 5 s takes 2 ms"),
    ],
)
@pytest.mark.parametrize("stop", [".", ";", " !"])
def test_a_stop_behind_a_line_says_nothing(step: int, line: str, stop: str, shared: Desk) -> None:
    assert made_of(shared, step, line) == made_of(shared, step, f"{line}{stop}")


@pytest.mark.parametrize(
    ("step", "line"),
    [(1, "button on pin 2"), (5, "mean of 8"), (6, "leading zeros"), (7, "16x2 lcd"), (7, "label Temp")],
)
@pytest.mark.parametrize("before", ["add ", "please add a ", "use ", "add add add "])
def test_that_something_is_added_says_nothing(step: int, line: str, before: str, shared: Desk) -> None:
    assert made_of(shared, step, line) == made_of(shared, step, f"{before}{line}")


def test_words_that_ask_for_nothing_have_no_end(shared: Desk) -> None:
    shared.open_step(step_at(7))
    before = shared.state.history.text
    shared.add("use " * 2000)
    assert shared.state.message_is_fault
    assert shared.state.history.text == before
