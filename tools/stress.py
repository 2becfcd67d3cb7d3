"""Random keys, typed texts and sizes of window in a real terminal, for a bounded time: the program must go on.

Run by ``make stress``. Each run of the program is driven by the seed and its number alone, so that what was done can be
had again, though not at which moment. A finding is an end that was not asked for, a traceback on the screen, or a
screen that no key changes any more.
"""

from __future__ import annotations

import argparse
import os
import random
import shutil
import signal
import string
import sys
import tempfile
import time
from collections import deque
from collections.abc import Callable, Sequence
from pathlib import Path

from tools.fuzz.absurd import text
from tools.terminal import Terminal

LESART = Path(sys.executable).with_name("lesart")
LETTERS = [*string.ascii_letters, *string.digits, *"+-,.<>[]=?/"]
OTHERS = [
    "Up",
    "Down",
    "Left",
    "Right",
    "S-Up",
    "S-Down",
    "S-Left",
    "S-Right",
    "PPage",
    "NPage",
    "Home",
    "End",
    "Tab",
    "BTab",
    "Enter",
    "Space",
    "BSpace",
    "DC",
    "Escape",
    "F1",
    "F5",
    "C-s",
    "C-z",
    "C-y",
    "C-a",
    "C-e",
    "C-r",
    "C-l",
    "M-x",
]
"""All but the two that leave or put to sleep."""
TYPED = (
    "5",
    "12 kg",
    "3.3 V",
    "label hive",
    "field lid air",
    "bar hive 2 mass",
    "mean 8",
    "median 9",
    "x = lamp",
    "thermistor by beta",
    "16x2 characters shed",
    "log every 5 s",
    "36 °C ± 0.2 °C",
    "two-wire module",
    "leaf.pbm",
    "hello",
)
SIZES = [(160, 47), (80, 24), (200, 60), (120, 35), (40, 12), (20, 5), (320, 100), (1, 1), (100, 3)]
LOOKS_S = 60.0
"""How long it may take to come to the end of the keys that wait, and to show what is asked for then."""
APART_S = 0.2
"""Between keys that must not be taken for one."""
KEYS_IN_A_RUN = 400


class Driver:
    """One run of the program, and what was done to it last."""

    def __init__(self, terminal: Terminal, chance: random.Random) -> None:
        self.terminal, self.chance = terminal, chance
        self.done: deque[str] = deque(maxlen=60)
        self.count = 0

    def step(self) -> None:
        """One thing at random; most of them keys, some of them at once."""
        how, weight = zip(*self._ways(), strict=True)
        self.chance.choices(how, weight)[0]()
        self.count += 1

    def _ways(self) -> list[tuple[Callable[[], None], int]]:
        return [(self._key, 60), (self._burst, 10), (self._typed, 12), (self._pasted, 6), (self._resize, 4)]

    def _press(self, *names: str) -> None:
        self.done.append(" ".join(names))
        self.terminal.keys_at_once(*names)

    def _key(self) -> None:
        self._press(self.chance.choice(LETTERS if self.chance.random() < 0.6 else OTHERS))

    def _burst(self) -> None:
        self._press(*(self.chance.choice(LETTERS + OTHERS) for _ in range(self.chance.randint(2, 30))))

    def _typed(self) -> None:
        """As a person adds something: the key that asks, a text, Enter."""
        self._press(self.chance.choice(("+", "Enter", "h", "/", "e", "v")))
        written = self.chance.choice(TYPED)
        self.done.append(repr(written))
        self.terminal.typed(written)
        self._press("Enter")

    def _pasted(self) -> None:
        self._press(self.chance.choice(("+", "Enter", "h", "/")))
        # What a terminal pastes holds no control sequences; no argument of a command holds more letters than these.
        written = "".join(letter for letter in text(self.chance)[:30_000] if letter.isprintable())
        self.done.append(f"pasted {written[:60]!r}")
        if written:
            self.terminal.pasted(written)
        self._press("Enter")

    def _resize(self) -> None:
        size = self.chance.choice(SIZES)
        self.done.append(f"size {size[0]}×{size[1]}")
        self.terminal.resize(*size)

    def answers(self) -> str:
        """What is wrong with the program; empty where it goes on and a key still changes what it shows."""
        self.terminal.resize(160, 47)
        ends = time.monotonic() + LOOKS_S
        while not self.terminal.has_ended:
            # A key that follows the escape key at once is another key to a terminal: it is pressed until it is heard.
            for name in ("Escape", "Escape", "9", "0"):
                self.terminal.keys(name)
                time.sleep(APART_S)
            screen = self.terminal.screen()
            if "Traceback" in screen:
                return "a traceback is on the screen"
            if "every channel and panel at once" in screen:
                return ""
            if time.monotonic() > ends:
                return f"it does not answer:\n{screen}"
        return f"it ended with code {self.terminal.exit_code()}:\n{self.terminal.screen()}"


def run(folder: Path, chance: random.Random, ends: float) -> tuple[int, str, Sequence[str]]:
    """Steps done, what was wrong, and the last things done before it."""
    with Terminal([LESART, "open", folder], folder.parent) as terminal:
        terminal.until("m mends it")
        driver = Driver(terminal, chance)
        while driver.count < KEYS_IN_A_RUN and time.monotonic() < ends and not terminal.has_ended:
            driver.step()
            if driver.count % 50 == 0 and (wrong := driver.answers()):
                return driver.count, wrong, list(driver.done)
        return driver.count, driver.answers(), list(driver.done)


def main(arguments: Sequence[str] | None = None) -> int:
    """1 where something was found."""
    parser = argparse.ArgumentParser(prog="python -m tools.stress", description=(__doc__ or "").splitlines()[0])
    parser.add_argument("--for", dest="seconds", type=float, default=600.0, metavar="S", help="in all; default: 600")
    parser.add_argument("--seed", type=int, default=int(time.time()), help="default: the time")
    parser.add_argument("--run", type=int, default=0, metavar="N", help="begin with this run, to have it again")
    options = parser.parse_args(arguments)
    # Ended from outside it takes its terminals with it, or what plays in them would keep a processor busy.
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(1))
    ends, number, steps, found = time.monotonic() + options.seconds, options.run, 0, 0
    with tempfile.TemporaryDirectory() as work:
        # What it opens is not what a person opened before.
        os.environ["XDG_STATE_HOME"] = work
        made = Path(work) / "made"
        with Terminal([LESART, "demo", "--make", made], Path(work)) as terminal:
            terminal.exit_code()
        while time.monotonic() < ends:
            folder = Path(work) / f"run-{number}"
            shutil.copytree(made, folder)
            count, wrong, done = run(folder, random.Random(f"{options.seed} {number}"), ends)
            steps += count
            if wrong:
                found += 1
                print(f"† run {number} of seed {options.seed}, step {count}: {wrong}", file=sys.stderr)
                print("  done before: " + " · ".join(done), file=sys.stderr)
                for report in folder.rglob("report.txt"):
                    print(report.read_text(encoding="utf-8"), file=sys.stderr)
            shutil.rmtree(folder, ignore_errors=True)
            number += 1
    print(f"seed {options.seed}: {number - options.run} runs, {steps} steps, {found or 'nothing'} found")
    return int(bool(found))


if __name__ == "__main__":
    sys.exit(main())
