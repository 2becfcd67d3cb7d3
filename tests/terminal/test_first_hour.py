"""What a stranger does in the first hour, in a real terminal, with every key counted: the shell's line, letters, arrows.

In a window of 80 by 24, where least is in sight; the first goal in a large one too.

The counts are held: whoever makes one of these ways longer finds out here.
"""

from __future__ import annotations

import math
import random
import shutil
import sys
import tomllib
from collections.abc import Iterator
from pathlib import Path

import pytest
from tools.terminal import Terminal

from lesart.study.walk import STOPS

MOST = {"a": 12, "b": 70, "c": 72, "d": 30, "e": 90, "f": 36, "g": 20, "h": 250}
"""Keys that each goal takes at most: what it took when this was written, and a few more."""
LESART = Path(sys.executable).with_name("lesart")
SIZES = ((160, 47), (80, 24))


class Person:
    """Types and presses, and counts."""

    def __init__(self, folder: Path, line: str, size: tuple[int, int] = SIZES[0]) -> None:
        self.folder = folder
        self.count = len(line) + 1
        self.terminal = Terminal([LESART, *line.split()[1:]], folder, *size)

    def __enter__(self) -> Person:
        return self

    def __exit__(self, *_: object) -> None:
        self.terminal.__exit__()

    def keys(self, *names: str) -> None:
        self.count += len(names)
        self.terminal.keys(*names)

    def types(self, text: str) -> None:
        self.count += len(text)
        self.terminal.typed(text)

    def adds(self, text: str, said: str) -> None:
        """``+``, the line, enter."""
        self.keys("+")
        self.types(text)
        self.keys("Enter")
        self.sees(said)

    def sees(self, *words: object) -> str:
        return self.terminal.until(*words)  # type: ignore[arg-type]

    def within(self, goal: str, start: int = 0) -> None:
        """No more keys than it took before."""
        assert self.count - start <= MOST[goal]

    def saves(self) -> dict[str, object]:
        self.keys("C-s")
        self.sees(lambda screen: "unsaved" not in screen.splitlines()[0])
        return tomllib.loads((self.folder / "probe" / "lesart.toml").read_text(encoding="utf-8"))


@pytest.fixture
def folder(tmp_path: Path) -> Iterator[Path]:
    """With a capture of a thermistor's counts, at 10 Hz for two minutes, about 25 °C."""
    chance = random.Random(20)
    rows = [f"{tenth / 10},{round(512 + 6 * math.sin(tenth / 300) + chance.gauss(0, 0.4))}" for tenth in range(1200)]
    (tmp_path / "probe.csv").write_text("\n".join(("time_s,counts", *rows)) + "\n")
    return tmp_path


def thermometer(folder: Path, size: tuple[int, int] = SIZES[1]) -> Person:
    """A new project, and what it is in a line: the reading stands on the glass."""
    person = Person(folder, "lesart new probe.csv --open", size)
    person.sees("516 ct")
    person.keys("+")
    person.types("therm")
    person.sees("a thermistor half")
    person.keys("Tab", "Enter")
    person.sees("a thermistor half; 8 values are assumed")
    return person


def test_a_the_demo_is_there_and_says_what_it_is(tmp_path: Path, yard_once: Path) -> None:
    """With its faults made on purpose, and the keys that go through them."""
    shutil.copytree(yard_once, tmp_path / "linden-yard")
    with Person(tmp_path, "lesart demo") as person:
        person.sees("its faults are made on purpose. n goes through them, m mends", "m mends it")
        person.within("a")


@pytest.mark.long
def test_g_views_are_exported(folder: Path) -> None:
    """Four of them, each by its step, e and enter."""
    with thermometer(folder) as person:
        start = person.count
        for count, step in enumerate("1478", 1):
            person.keys(step, "e")
            person.sees("export to")
            person.keys("Enter")
            person.sees(lambda _, count=count: len(list((folder / "probe" / "drawings").glob("*.svg"))) == count)
        person.within("g", start)


WRONG = (
    ("3", "thermstor by beta", "did you mean", "C-u", "linear °C"),
    ("5", "meidan 9", "did you mean median", "C-u", "median 9"),
    ("5", "low-pass 0.1 kg", "cut-off", "C-u", "low-pass 0.1 Hz"),
    ("7", "feild counts", "did you mean field", "C-u", "field counts"),
    ("8", "log evry 5 s", "did you mean every", "C-u", "log every 5 s"),
)
"""Step, what is typed, what is said of it, and what is typed then."""


def test_h_mistakes_stay_in_the_line_and_say_what_would_do(folder: Path) -> None:
    """Nothing that is typed after one becomes a command, nothing is lost, each is mended where it stands."""
    with thermometer(folder) as person:
        start = person.count
        for step, wrong, said, clear, right in WRONG:
            person.keys(step, "+")
            person.types(wrong)
            person.keys("Enter")
            person.sees(said, wrong)
            person.keys(clear)
            person.types(right)
            person.keys("Enter")
            person.sees("added: ")
            person.keys("C-z")
            person.sees("Undone: added: ")
        person.within("h", start)


@pytest.mark.parametrize("size", [SIZES[0], pytest.param(SIZES[1], marks=pytest.mark.long)], ids=str)
def test_b_counts_to_two_units_on_two_rows(folder: Path, size: tuple[int, int]) -> None:
    """°C above, °F below, by the beta of a data sheet."""
    with thermometer(folder, size) as person:
        person.keys("7")
        person.keys("Delete")  # the label that a new project has
        person.sees("removed: label")
        person.adds("arrange", "arranged")
        person.adds("field counts in °F", "added: field counts in °F")
        project = person.saves()
        items = project["faces"]["first"]["items"]  # type: ignore[index]
        assert [(item["row"], item.get("unit", "°C")) for item in items] == [(0, "°C"), (1, "°F")]
        assert project["channels"]["counts"]["law"][2]["kind"] == "thermistor by beta"  # type: ignore[index]
        person.within("b")


@pytest.mark.long
def test_c_segments_pixels_and_a_refit(folder: Path) -> None:
    """The same reading on four digits and on pixels, then the face of one on the other."""
    with thermometer(folder) as person:
        start = person.count
        person.keys("7")
        person.adds("four scanned digits", "added: digits")
        person.adds("128x64 pixels on two wires oled", "added: oled")
        person.keys("g", "g", "7")  # the panels stand on a page of their own here
        person.adds("refit oled", "refitted")
        project = person.saves()
        assert {face["panel"] for face in project["faces"].values()} == {"glass", "digits", "oled"}  # type: ignore[attr-defined]
        person.within("c", start)


@pytest.mark.long
def test_d_three_references(folder: Path) -> None:
    """Typed in one line; the fit is in use at once."""
    with thermometer(folder) as person:
        start = person.count
        person.keys("4")
        person.adds("0=0.8; 21.5=21.9; 60=58.7", "added: 0 °C where 0.8 °C was indicated")
        person.sees("─ fit")
        person.within("d", start)


@pytest.mark.long
def test_e_a_hookup_that_is_right_and_one_that_is_not(folder: Path) -> None:
    """Sensor, resistor and display on a board, one wire moved to a wrong pin, and mended."""
    with Person(folder, "lesart new probe.csv --open", SIZES[1]) as person:
        person.sees("516 ct")
        person.adds("a thermistor half", "values are assumed")
        person.keys("7")
        person.adds("16x2 characters on two wires", "with its part")
        person.keys("1")
        person.sees("board.a1")
        project = person.saves()
        joins = project["wire"]["joins"]  # type: ignore[index]
        assert {join["pin"].partition(".")[0] for join in joins} >= {"probe", "glass"}
        person.keys("Tab", "Down", "Down", "Enter")
        person.types("p3")
        person.keys("Enter")
        person.keys("n")
        person.sees("does not work with")
        person.keys("m")
        person.sees("mended")
        person.within("e")


@pytest.mark.long
def test_f_scanned_digits_in_a_project_of_ones_own(folder: Path) -> None:
    """They flicker at a longer on-time, Pace says so with its figure, and the remedy mends it."""
    with thermometer(folder) as person:
        start = person.count
        person.keys("7")
        person.adds("four scanned digits", "added: digits")
        person.keys("8", "l", "l")
        person.sees("on-time")
        person.keys("Tab", "Enter")
        person.types("8 ms")
        person.keys("Enter")
        person.sees("30.9 Hz")
        person.keys("n")
        person.sees("flicker; 50 Hz")
        person.keys("m")
        person.sees("mended")
        person.sees(lambda screen: "flicker; 50 Hz" not in screen)
        person.within("f", start)


def test_the_walk_from_the_shell(tmp_path: Path, yard_once: Path) -> None:
    """Its first stops by the keys that it names, then left; the next time it goes on there."""
    shutil.copytree(yard_once, tmp_path / "linden-yard")
    with Terminal([LESART, "demo", "--walk"], tmp_path) as terminal:
        terminal.until("walk 1 of 12", "m mends it")
        terminal.keys(">")
        terminal.until("walk 2 of 12", STOPS[0].notice[:40])
        terminal.keys("3")
        terminal.until("walk 3 of 12")
        terminal.keys("Escape")
        terminal.until(lambda screen: "walk 3 of 12" not in screen)
        terminal.keys("C-q")
        terminal.exit_code()
    with Terminal([LESART], tmp_path) as terminal:
        terminal.until("walk through the demo", "opened before", "linden-yard")
        terminal.keys("w")
        terminal.until("walk 3 of 12")
