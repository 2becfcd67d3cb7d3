"""A trace says what it is: by how its lines behave, whatever they are called and in whatever order they stand."""

from __future__ import annotations

import random
import re
import time

import numpy as np
import pytest

from lesart.core.pace.edge_writer import evenly, scanned
from lesart.core.raw.decode import KINDS
from lesart.core.raw.edges import UNKNOWN, Edges, edges_of
from lesart.core.raw.talks.recognise import LOOKS, recognise
from lesart.core.raw.talks.talk import STILL, TRIGGER, Talk, is_called
from tests.core.raw.traces import Line, TwoWire, glitched, uart
from tests.core.raw.unknown import SENDERS, Unknown

OF_PANELS = ("scanned digits", "parallel bus")
"""Their lines are many, and what they show says which is which."""
NAMED = ("parallel bus",)

SEEDS = [range(3), pytest.param(range(3, 12), marks=pytest.mark.long)]
"""Three by chance every time; the others by make proof."""
"""Of traces that are drawn by chance, of each sender; all twenty were looked at once, and found none wrong."""


def shown_to(unknown: Unknown, dice: random.Random, before: str = "x") -> tuple[dict[str, Edges], dict[str, str]]:
    """The lines in any order under names that say nothing, and the role behind each name."""
    roles = list(unknown.lines)
    dice.shuffle(roles)
    keep = unknown.kind in NAMED
    names = {role: role if keep else f"{before}{place}" for place, role in enumerate(roles)}
    return {names[role]: unknown.lines[role] for role in roles}, {name: role for role, name in names.items()}


def is_right(talk: Talk, unknown: Unknown, roles: dict[str, str]) -> bool:
    """Its kind, its lines and what it has to be told."""
    if talk.kind != unknown.kind or any(dict(talk.values).get(key) != value for key, value in unknown.values.items()):
        return False
    if unknown.kind in (*OF_PANELS, "quadrature"):
        return True
    # A line that only asks is a talk of its own.
    return {role: roles[name] for role, name in talk.lines} == {role: role for role in unknown.lines if role != TRIGGER}


def _by_role(said: str, roles: dict[str, str]) -> str:
    """What is said, with the roles of lines in place of names that say nothing."""
    return re.sub(r"\bx\d\b", lambda found: roles[found[0]], said)


@pytest.mark.parametrize("seeds", SEEDS)
@pytest.mark.parametrize("name", SENDERS)
def test_a_talk_alone_is_recognised(name: str, seeds: range) -> None:
    """Senders of each kind, with rates, modes, levels and lengths by chance."""
    wrong = []
    for seed in seeds:
        dice = random.Random(seed)
        unknown = SENDERS[name](dice)
        lines, roles = shown_to(unknown, dice)
        talks = recognise(lines)
        if not is_right(talks[0], unknown, roles):
            wrong.append((seed, talks[0]))
        said = talks[0].why if unknown.kind in OF_PANELS else _by_role(talks[0].why, roles)
        if unknown.says and said not in unknown.says:
            wrong.append((said, unknown.says))
    assert not wrong


@pytest.mark.parametrize("name", SENDERS)
def test_lines_that_say_nothing_hide_none(name: str) -> None:
    """One that changes once when all is over, one that never does and one that beats evenly, before the others in the
    file."""
    dice = random.Random(5)
    unknown = SENDERS[name](dice)
    lines, roles = shown_to(unknown, dice)
    end = max(line.end_s for line in lines.values())
    beat = np.arange(1, 30) * end / 31
    dull = {
        "once": edges_of([end * 0.9999], [1], 0, 0.0, end),
        "rest": edges_of([], [], 1, 0.0, end),
        "beat": edges_of(beat, [place % 2 for place in range(29)], 1, 0.0, end),
    }
    talks = recognise(dull | lines)
    assert any(is_right(talk, unknown, roles | {each: each for each in dull}) for talk in talks)
    kinds = {signal: talk.kind for talk in talks for signal in talk.signals}
    assert kinds["rest"] == STILL


def test_digits_say_how_often_they_are_lit() -> None:
    """Four of 2 ms and 0.1 ms dark: a round of 8.4 ms."""
    slots = evenly(2e-3, 0.1e-3, [0x5B, 0x4F, 0x66, 0x07], 0.4)
    digits, segments = scanned(slots, 4, 8, 0.4)
    (talk, *_) = recognise({f"x{place}": line for place, line in enumerate([*segments, *digits])})
    # Of 2, 3, 4 and 7 segment b is lit in all, from the first on, and the point in none.
    assert talk.why == "4 lines are on in turn, 119 times a second, and 7 lines change when they do"


@pytest.mark.parametrize("seeds", SEEDS)
@pytest.mark.parametrize("name", sorted(set(SENDERS) - {"rate", "echo", "bouncing contact"}))
def test_an_edge_that_bounces_makes_no_other_talk(name: str, seeds: range) -> None:
    """As slow edges do on a probe: the same is found, its lines and its values; pulses of any width aside, which may
    be anything."""
    wrong = []
    for seed in seeds:
        dice = random.Random(seed)
        unknown = SENDERS[name](dice)
        lines, roles = shown_to(unknown, dice)
        talks = recognise(glitched(lines, dice))
        if not is_right(talks[0], unknown, roles):
            wrong.append((seed, talks))
    assert not wrong


@pytest.mark.parametrize("seeds", SEEDS)
@pytest.mark.parametrize("name", SENDERS)
def test_where_nothing_bounces_nothing_is_called_a_glitch(name: str, seeds: range) -> None:
    for seed in seeds:
        dice = random.Random(100 + seed)
        talks = recognise(shown_to(SENDERS[name](dice), dice)[0])
        said = [dict(talk.values).get("shortest") for talk in talks]
        # Of these it is a part of what they are.
        assert name in ("bouncing contact", "echo on one pin") or not any(said), (seed, talks)


@pytest.mark.parametrize("seed", range(6))
def test_talks_beside_each_other_are_all_recognised(seed: int) -> None:
    """Four devices on one probe, each with lines of its own; no line is in two of them."""
    dice = random.Random(1000 + seed)
    chosen = dice.sample([name for name in SENDERS if name not in ("digits in turn", "letters over four lines")], 4)
    lines: dict[str, Edges] = {}
    parts = []
    for place, name in enumerate(chosen):
        unknown = SENDERS[name](dice)
        mine, roles = shown_to(unknown, dice, f"n{place}x")
        lines |= mine
        parts.append((name, unknown, roles))
    names = list(lines)
    dice.shuffle(names)
    talks = recognise({name: lines[name] for name in names})
    missing = [
        (name, [(talk.kind, talk.lines) for talk in talks if set(talk.signals) & set(roles)])
        for name, unknown, roles in parts
        if not any(set(talk.signals) <= set(roles) and is_right(talk, unknown, roles) for talk in talks)
    ]
    assert not missing
    signals = [name for talk in talks for name in talk.signals]
    assert len(signals) == len(set(signals)) == len(lines)


@pytest.mark.parametrize(("count", "said"), [
    (1, "at 0x21"), (3, "at 0x21, 0x22, 0x23"), (6, "at 0x21, 0x22, 0x23, 0x24, 0x25, 0x26"),
    (7, "at 0x21, 0x22, 0x23, 0x24, 0x25, 0x26 …"),
])  # fmt: skip
def test_the_addresses_of_a_bus_are_said(count: int, said: str) -> None:
    """The first six, as people write them, and how many transfers had an answer."""
    bus = TwoWire()
    for _ in range(3):
        for place in range(count):
            bus.start().byte((0x21 + place) << 1).byte(0x10).stop()
    bus.start().byte(0x21 << 1, acknowledged=False).stop()
    whole = 3 * count + 1
    (talk,) = recognise(bus.lines)
    assert talk.why == f"all {whole} transfers have whole bytes and {whole - 1} an answer, {said}"


@pytest.mark.parametrize(("words", "is_text"), [
    ([b"T=21.5\r\n"] * 8, True), ([b"~ tilde and tab\t\n"] * 8, True), ([bytes(range(128, 136))] * 8, False),
    ([b"T=21.5\x7f\x00\x01"] * 8, False),
])  # fmt: skip
def test_serial_bytes_that_are_letters_are_said_to_be(words: list[bytes], is_text: bool) -> None:
    (talk,) = recognise({"x": uart(words, 9600, gap_bits=60).edges()})
    wanted = (
        f"levels last whole bits of 9600 baud, and all 8 runs of words are right as 8N1{', mostly letters' * is_text}"
    )
    assert talk.why == wanted


def test_two_devices_on_one_clock_each_with_its_select() -> None:
    """A display that takes a lot, and a sensor that is asked now and then: whole bytes of each while its own line is
    low."""
    told = Merged()
    for k in range(14):
        told.frame("s", (0xF7, 0, 0), (0xFF, *(20_000 + 150 * k).to_bytes(2, "big")))
        if k % 4 == 0:
            told.frame("d", (0xB0, 0x00, 0x10), command=0)
            told.frame("d", tuple(place * 7 % 256 for place in range(512)), command=1)
    talks = {talk.line("select"): talk for talk in recognise(told.lines()) if talk.kind == "four-wire serial"}
    assert dict(talks["d"].lines) == {"clock": "c", "data": "o", "select": "d", "command": "w"}
    assert dict(talks["s"].lines) == {"clock": "c", "data": "i", "select": "s", "sent": "o"}


class Merged:
    """Lines of a bus with two selects: clock ``c``, out ``o``, in ``i``, ``w`` for data or command."""

    def __init__(self) -> None:
        self.all = {"c": Line(0), "o": Line(0), "i": Line(0), "w": Line(0), "d": Line(1), "s": Line(1)}

    def wait(self, seconds: float) -> None:
        for line in self.all.values():
            line.stay(seconds)

    def frame(
        self, select: str, out: tuple[int, ...], back: tuple[int, ...] = (), *, command: int | None = None
    ) -> None:
        self.wait(20e-6)
        if command is not None:
            self.all["w"].to(command)
        self.wait(1e-6)
        self.all[select].to(0)
        self.wait(1e-6)
        for place, byte in enumerate(out):
            answer = back[place] if back else None
            for bit in range(7, -1, -1):
                self.all["o"].to(byte >> bit & 1)
                if answer is not None:
                    self.all["i"].to(answer >> bit & 1)
                self.wait(0.25e-6)
                self.all["c"].to(1)
                self.wait(0.25e-6)
                self.all["c"].to(0)
        self.wait(1e-6)
        self.all[select].to(1)

    def lines(self) -> dict[str, Edges]:
        self.wait(1e-4)
        return {name: line.edges() for name, line in self.all.items()}


def test_names_decide_between_equals_only() -> None:
    """A clock that is called data, and data that are called clock, are what they do."""
    unknown = SENDERS["two-wire bus"](random.Random(3))
    talks = recognise({"scl": unknown.lines["data"], "sda": unknown.lines["clock"]})
    assert dict(talks[0].lines) == {"clock": "sda", "data": "scl"}


@pytest.mark.parametrize(
    ("name", "role"),
    [
        ("SCL", "clock"),
        ("top.i2c_scl0", "clock"),
        ("sck", "clock"),
        ("MOSI", "data"),
        ("SDA_1", "data"),
        ("nCS", "select"),
        ("tx", "line"),
        ("RS", "command"),
        ("D/C".replace("/", ""), "command"),
    ],
)
def test_what_people_call_such_lines(name: str, role: str) -> None:
    assert is_called(name.removeprefix("top.i2c_"), role)


def test_lines_that_never_change_are_said_last() -> None:
    still = Edges(np.zeros(0), np.zeros(0, np.uint8), 1, 0.0, 1.0)
    talks = recognise({"rest": still, "beat": edges_of([0.1, 0.2, 0.3, 0.4], [1, 0, 1, 0], 0, 0.0, 1.0)})
    assert [(talk.kind, talk.signals) for talk in talks] == [("pulse interval", ("beat",)), (STILL, ("rest",))]


@pytest.mark.parametrize("seed", range(20))
def test_no_edges_end_the_looking(seed: int) -> None:
    """Few edges and many, at times from nanoseconds to minutes, of which two may be one."""
    dice = random.Random(seed)
    lines = {}
    for name in "abc"[: dice.randrange(1, 4)]:
        count = dice.choice([0, 1, 2, 5, 17, 40, 200])
        scales = [10.0 ** dice.uniform(-9, 2) for _ in range(dice.choice([1, 2, 5]))]
        t = np.cumsum([dice.choice(scales) * dice.choice([0.0, 1.0, 1.0, dice.random()]) for _ in range(count)])
        lines[name] = edges_of(t, [place % 2 for place in range(count)], 1, 0.0, float(t[-1]) + 1 if count else 1.0)
    for talk in recognise(lines):
        assert set(talk.signals) <= set(lines)
        assert 0 <= talk.sure <= 1


def test_a_fast_rate_is_said_in_figures() -> None:
    """As people write them, without a power of ten."""
    t = np.arange(400) * 40e-6
    edges = np.sort(np.concatenate((t, t + 16e-6)))
    (talk,) = recognise({"pwm": edges_of(edges, [1, 0] * len(t), 0, 0.0, float(edges[-1]))})
    assert talk.why == "400 pulses, usually 25000 a second, high for 40 % of the time, and no code in them"


def test_every_talk_but_those_of_panels_has_its_decoder() -> None:
    """What is recognised can be decoded, with the lines and the values that it names."""
    for name, send in SENDERS.items():
        unknown = send(random.Random(7))
        if unknown.kind in OF_PANELS:
            continue
        kind = KINDS[unknown.kind]
        lines, _ = shown_to(unknown, random.Random(7))
        talk = recognise(lines)[0]
        known = {parameter.name for parameter in kind.parameters}
        assert {key for key, _ in talk.values} <= known, name
        told = [role for role, _ in talk.lines]
        assert told == [role for role in kind.lines if role in told], name
        assert set(kind.lines[: kind.needed]) <= set(told), name


@pytest.mark.parametrize("seed", range(15))
def test_any_lines_at_all_are_no_reason_to_break_down(seed: int) -> None:
    """Noise, unknown levels, lines of one edge: something is said of each, and nothing raises."""
    dice = np.random.default_rng(seed)
    lines = {}
    for place in range(5):
        count = int(dice.integers(0, 400))
        t = np.cumsum(dice.exponential(10.0 ** dice.uniform(-7, -2), count))
        lines[f"x{place}"] = edges_of(t, dice.integers(0, 3, count), int(dice.integers(0, 3)))
    talks = recognise(lines)
    assert {name for talk in talks for name in talk.signals} <= set(lines)
    assert all(0 <= talk.sure <= 1 for talk in talks)
    assert all(name == UNKNOWN or name for name in LOOKS)


def test_a_million_edges_are_recognised_soon() -> None:
    """What is looked at is the beginning of each line: a long trace takes no longer than a short one, nearly."""
    unknown = SENDERS["display on four wires"](random.Random(1))
    period = max(line.end_s for line in unknown.lines.values())
    many = 1_000_000 // sum(map(len, unknown.lines.values())) + 1
    lines = {
        role: edges_of(
            np.concatenate([line.t + period * place for place in range(many)]), np.tile(line.level, many), line.first
        )
        for role, line in unknown.lines.items()
    }
    assert sum(map(len, lines.values())) > 900_000
    began = time.process_time()
    talks = recognise(lines)
    assert talks[0].kind == "four-wire serial"
    assert time.process_time() - began < 10  # a second on a quiet machine; docs/performance.md has the figure
