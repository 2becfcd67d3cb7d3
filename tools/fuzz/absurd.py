"""Values that nobody means, and texts made of them."""

from __future__ import annotations

import json
import random
from collections.abc import Mapping
from datetime import date, time
from typing import Any

NUMBERS = (
    "0",
    "-1",
    "1e400",
    "-1e400",
    "1e-400",
    "1e308",
    "-1e308",
    "1e60",
    "1e61",
    "nan",
    "inf",
    "-inf",
    "5e-324",
    "1e15",
    "9007199254740993",
    "0x2F",
    "0b1010",
    "0x",
    "1/0",
    "1/3",
    "0/5",
    "1,5",
    "1.234,5",
    "1e",
    "--5",
    "+-3",
    "4k7",
    "4μ7",
    "R47",
    "9" * 5000,
    "0." + "0" * 70 + "1",
    "1_000",
    "٣",
    "½",
    "−0",
)
UNITS = (
    "",
    " V",
    "V",
    " kg",
    " °C",
    " Δ°C",
    " %",
    " m²⁻¹",
    " m^99",
    " Gm^9·Gm^9·Gm^9·Gm^9·Gm^9",
    " Hz",
    " s",
    " ms",
    " ct",
    "/0",
    " mV/V/V/V",
    " ⁻",
    " °",
    " banana",
    " \x1b[31m",
    " V ± 1 %",
    " V ± 1e400 V",
    " V ± -1 %",
    " ±",
)
TEXTS = (
    "",
    " ",
    "\0",
    "\x1b[2J",
    "a" * 10_000,
    "\u202e",
    "../../..",
    "/dev/zero",
    "/dev/stdin",
    "/",
    ".",
    "[red]",
    "{}",
    "'; x",
    "\ud7ff",
    "🐝",
    "é",
    "a\nb",
    "=1+1",
    "0 0; 5 nan; 10 3",
    "0 0; 1 1e400",
    "1 1e999",
    "nan nan",
    "x**9**9",
    "9**9**9",
    "()" * 500,
    "(" * 300,
    "__import__('os')",
    "x" + "+x" * 200,
    "1/(x-5)",
)
PLAIN: tuple[Any, ...] = (
    True,
    False,
    0,
    -1,
    1,
    3,
    65_536,
    2**31,
    2**63,
    -(2**63),
    10**30,
    0.0,
    -0.0,
    1e308,
    -1e308,
    5e-324,
    float("inf"),
    float("-inf"),
    float("nan"),
    [],
    {},
    [[]],
    [{}],
    [1],
    ["a"],
    {"a": {}},
    [[1, 2], 3],
    {"kind": []},
    [{"kind": {}}],
    date(2026, 2, 28),
    time(12, 0),
    "",
)


def number(dice: random.Random) -> str:
    """A number with or without a unit."""
    return dice.choice(NUMBERS) + dice.choice(UNITS)


def text(dice: random.Random) -> str:
    """A text of any kind."""
    return dice.choice((number(dice), dice.choice(TEXTS), dice.choice(TEXTS) + number(dice)))


def value(dice: random.Random) -> Any:
    """A value that a project file can hold."""
    return dice.choice((dice.choice(PLAIN), text(dice), nested(dice), [text(dice)]))


def nested(dice: random.Random) -> Any:
    """Lists and tables in each other."""
    found: Any = dice.choice(PLAIN)
    for _ in range(dice.choice((1, 2, 30))):
        found = [found] if dice.random() < 0.5 else {dice.choice(("kind", "a", "x")): found}
    return found


def toml(value: Any) -> str:
    """As TOML writes it, on one line."""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, str):
        # What JSON escapes TOML escapes too, but for a deletion, which must be escaped there.
        return json.dumps(value, ensure_ascii=False).replace("\x7f", "\\u007f")
    if isinstance(value, Mapping):
        return "{" + ", ".join(f"{toml(str(key))} = {toml(each)}" for key, each in value.items()) + "}"
    if isinstance(value, list | tuple):
        return "[" + ", ".join(toml(each) for each in value) + "]"
    if isinstance(value, float) and value != value:
        return "nan"
    return str(value)


def whole(tables: Mapping[str, Any]) -> str:
    """A project file of these tables: what does not fit on a line of its own follows as one."""
    return "".join(f"{toml(key)} = {toml(each)}\n" for key, each in tables.items())
