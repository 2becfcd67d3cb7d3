"""No regular expression takes time that grows with the square of a text: texts come from outside, and may be long."""

from __future__ import annotations

import importlib
import pkgutil
import re
import time
from collections.abc import Iterator

import pytest

import lesart
from lesart.core.errors import LesartError
from lesart.core.law.linear import LINEAR
from lesart.core.raw.lines.text_line import LONGEST_LINE, TextState, joined, take
from lesart.desk.entries.pace.tasks import task_typed

SHORT, FACTOR, LEAST_S, MOST_GROWTH = 500, 4, 0.002, 9.0
"""Four times as much text may take nine times as long: a square takes sixteen times. Less than some milliseconds is
nothing that grows."""
GROWING, HOPELESS_S = (40, 120, SHORT), 0.1
"""So few letters first: nobody waits for the longer text of what takes a cube of time, or more."""
PIECES = (
    "0",
    "9",
    "a",
    "Z",
    " ",
    "\t",
    ".",
    ",",
    "-",
    "+",
    "(",
    "[",
    "/",
    "_",
    "=",
    ":",
    ";",
    "#",
    "a ",
    "0 ",
    "a=",
    "1,",
    "(a",
    "[ ",
    " /",
    "a:",
    "0.",
    "\\",
    '"',
    "°",
    "x,1 ",
    "$a ",
)
ENDS = ("", "!", "x", "\n", ")", "=")


def patterns() -> Iterator[tuple[str, re.Pattern[str]]]:
    """Every compiled pattern at the level of a module."""
    for found in pkgutil.walk_packages(lesart.__path__, "lesart."):
        if found.name.endswith("__main__"):
            continue
        for name, value in vars(importlib.import_module(found.name)).items():
            if name.isidentifier() and not name.startswith("__"):
                for place, each in enumerate(within(value)):
                    yield f"{found.name}.{name}{f' {place}' if place else ''}", each


def within(value: object, depth: int = 3) -> Iterator[re.Pattern[str]]:
    """A pattern, and those of a table of rules."""
    if isinstance(value, re.Pattern):
        if isinstance(value.pattern, str):
            yield value
    elif isinstance(value, (dict, tuple, list)) and depth:
        for each in value.values() if isinstance(value, dict) else value:
            yield from within(each, depth - 1)


ALL = dict(patterns())


def seconds(pattern: re.Pattern[str], text: str) -> float:
    """Of the processor, at the start of a text and over all of it, the least of three. To look everywhere takes a square
    with any."""
    best = float("inf")
    for _ in range(3):
        began = time.thread_time()
        pattern.match(text)
        pattern.fullmatch(text)
        best = min(best, time.thread_time() - began)
    return best


@pytest.mark.parametrize("name", ALL)
def test_a_long_text_takes_no_square_of_time(name: str) -> None:
    """Letters, digits, signs and pairs of them again and again, with an end that spoils the match."""
    for piece in PIECES:
        for end in ENDS:
            for letters in GROWING:
                began = time.thread_time()
                ALL[name].fullmatch((piece * letters)[:letters] + end)
                took = time.thread_time() - began
                assert took < HOPELESS_S, f"{piece!r} again and again, then {end!r}: {took:.2f} s for {letters} letters"
            long = seconds(ALL[name], (piece * SHORT * FACTOR)[: SHORT * FACTOR] + end)
            if long < LEAST_S:
                continue
            short = seconds(ALL[name], (piece * SHORT)[:SHORT] + end)
            if long >= MOST_GROWTH * short:  # a busy machine: a square is one the second time too
                long = seconds(ALL[name], (piece * SHORT * FACTOR)[: SHORT * FACTOR] + end)
                short = seconds(ALL[name], (piece * SHORT)[:SHORT] + end)
            assert long < MOST_GROWTH * short, (
                f"{piece!r} again and again, then {end!r}: {short:.4f} s, then {long:.4f} s"
            )


def test_there_are_patterns_to_look_at() -> None:
    assert len(ALL) > 20


LONG_S = 0.5
"""In which each of these is done many times over on any machine; before, they took from seconds to minutes."""


@pytest.mark.parametrize("piece", PIECES)
def test_what_looks_everywhere_in_a_long_text(piece: str) -> None:
    """A line from a port that is as long as lines may be, a number typed, a task typed, a cell of a file."""
    long = piece * (20_000 // len(piece))
    state = joined(TextState(begun=True), 0.0)
    began = time.thread_time()
    for _ in range(3):
        state, _ = take(state, long[:LONGEST_LINE].encode() + b"\n", 1.0)
    line_s = time.thread_time() - began
    began = time.thread_time()
    for parameter in (LINEAR.parameters[0], LINEAR.parameters[-1]):
        with pytest.raises(ValueError, match="it must be"):
            parameter.read(long + "!")
    typed_s = time.thread_time() - began
    began = time.thread_time()
    with pytest.raises(LesartError):
        task_typed(long + "!")
    task_s = time.thread_time() - began
    assert max(line_s, typed_s, task_s) < LONG_S, (line_s, typed_s, task_s)
