"""Random whole-number expressions, one channel of filters alone, and the one way that both are run in C."""

from __future__ import annotations

import random
import subprocess
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

from lesart.core.chain import Stage, compile_chain
from lesart.core.pack.channel_form import ChannelForm, ChannelWanted, channel_form
from lesart.core.pack.machine import Machine, Scale
from lesart.core.pack.program import whole as w
from lesart.core.pack.program.whole import Whole
from lesart.core.pack.written.files import pack_files
from lesart.core.pack.written.vectors import Given, Vector, vectors
from lesart.core.step import Step
from lesart.core.units import parse_unit

KG = parse_unit("kg")
STRICT = ("-std=c99", "-O1", "-Wall", "-Wextra", "-Wconversion", "-pedantic", "-Werror")
CHECKED = ("-fsanitize=undefined", "-fno-sanitize-recover=all")


def expression(chance: random.Random, depth: int, names: dict[str, tuple[int, int]]) -> Whole:
    """A tree of a depth over variables with ranges, never wider than 60 bits."""
    if depth == 0:
        if chance.random() < 0.3:
            return w.whole(chance.choice((0, 1, -1, 7, 255, -32768, 40_000, 2**31 - 1, -(2**31))))
        name = chance.choice(list(names))
        return w.local(name, *names[name])
    a, b = expression(chance, depth - 1, names), expression(chance, depth - 1, names)
    table = w.Table("table", tuple(chance.randrange(-300, 300) for _ in range(16)))
    made = {
        "+": lambda: a + b,
        "-": lambda: a - b,
        "*": lambda: a * b,
        "times": lambda: w.times(a, chance.randrange(-500, 500), by_shifts=True),
        "down": lambda: w.down(a, chance.randrange(1, 20)),
        "nearest": lambda: w.nearest(a, chance.randrange(1, 12)),
        "quotient": lambda: w.quotient(a, chance.choice((-7, -1, 1, 3, 10, 1000))),
        "least": lambda: w.least(a, b),
        "most": lambda: w.most(a, b),
        "clipped": lambda: w.clipped(a, -100, 1000),
        "at": lambda: w.at(table, w.clipped(a, 0, 15)),
        "pick": lambda: w.pick(a < b, a, b),
        "both": lambda: w.pick(w.both(a <= b, w.equal(a, b)), b, a),
        "either": lambda: w.pick(w.either(a > 3, w.neither(b >= 5)), a, b),
    }
    found = made[chance.choice(list(made))]()
    return found if found.bits <= 60 and all(part.bits <= 60 for part in found.walk()) else a


def filters_form(
    stages: Sequence[Stage], *, word: int = 32, share: float = 0.25, interval_s: float = 0.1, **machine: bool
) -> ChannelForm:
    """A channel whose raw numbers are hundredths of a kilogram of a reading from −150 to 150 kg, and which has these
    filters."""
    chain = compile_chain(KG, [(Step.CALM, f"calm[{place}]", stage) for place, stage in enumerate(stages)], KG)
    return channel_form(
        ChannelWanted(
            "mass", "mass", chain, Scale(Fraction(1, 100)), -20_000, 20_000, -150.0, 150.0, (), (), interval_s, share,
            Machine(word, **machine),
        )
    )  # fmt: skip


def given_at(raws: Sequence[int], marks: Sequence[int], interval_ms: int = 100) -> tuple[Given, ...]:
    """One after another, from a second on."""
    return tuple(
        Given(raw, mark, 1000 + interval_ms * place) for place, (raw, mark) in enumerate(zip(raws, marks, strict=True))
    )


def runs_in_c(folder: Path, tested: Sequence[tuple[ChannelForm, Sequence[Vector]]], *more: str) -> str:
    """What the test program says, built with every warning an error and undefined behaviour checked."""
    files = pack_files("tried", "tried", tested[0][0].wanted.machine, tested, {})
    return built_and_run(folder, {name: text for name, text in files.items() if name.endswith((".c", ".h"))}, *more)


def built_and_run(folder: Path, files: dict[str, str], *more: str) -> str:
    """Some C files, as one program."""
    folder.mkdir(parents=True, exist_ok=True)
    for name, text in files.items():
        (folder / name).write_text(text)
    sources = [name for name in files if name.endswith(".c")]
    built = subprocess.run(
        ["cc", *STRICT, *CHECKED, *more, *sources, "-o", "tried"], cwd=folder, capture_output=True, text=True
    )
    assert built.returncode == 0, built.stderr
    return subprocess.run(["./tried"], cwd=folder, capture_output=True, text=True).stdout


def random_given(chance: random.Random, count: int) -> tuple[Given, ...]:
    """Raw numbers that wander and jump, bad ones among them, and now and then a gap."""
    out, raw, now = [], 0, 1000
    for _ in range(count):
        raw = chance.randrange(-15_000, 15_000) if chance.random() < 0.05 else raw + chance.randrange(-300, 300)
        raw = min(max(raw, -15_000), 15_000)  # what counts: the desk knows no end here
        mark = chance.choice((0,) * 12 + (1, 2, 16))
        now += chance.choice((101,) * 9 + (303, 1717, 40_000))
        out.append(Given(raw, mark, now))
    return tuple(out)


__all__ = [
    "KG", "built_and_run", "expression", "filters_form", "given_at", "random_given", "runs_in_c", "vectors",
]  # fmt: skip

PRINTS_SENT = """\
static void sent(uint8_t is_data, const uint8_t *bytes, uint16_t count)
{{
    uint16_t i;
    printf("%d ", is_data);
    for (i = 0; i < count; i++) printf("%02X", bytes[i]);
    printf("\\n");
}}
"""
"""What a panel is sent, a transmission a line, in text that is formatted once more."""
