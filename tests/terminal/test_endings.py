"""However the full screen ends or is put to sleep, the terminal is as it was, the work is kept, and the code says
why."""

from __future__ import annotations

import fcntl
import os
import pty
import re
import select
import shutil
import signal
import struct
import subprocess
import sys
import termios
import time
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path

import psutil
import pytest
from tools.terminal import Terminal

from lesart.desk.opening import open_desk

LESART = Path(sys.executable).with_name("lesart")
LEFT, MOUSE_OFF = b"\x1b[?1049l", b"\x1b[?1003l"
LONGEST_S = 60.0
AT_REST_S = 4.0


class Bare:
    """A pseudo-terminal whose bytes are looked at: what a terminal was told, and not what it made of it."""

    def __init__(self, arguments: list[str], folder: Path, more: Mapping[str, str]) -> None:
        self.written = b""
        self._code: int | None = None
        self.pid, self.handle = pty.fork()
        if self.pid == 0:
            fcntl.ioctl(0, termios.TIOCSWINSZ, struct.pack("HHHH", 47, 160, 0, 0))
            os.chdir(folder)
            environment = {**os.environ, "TERM": "xterm-256color", "COLUMNS": "160", "LINES": "47", **more}
            os.execve(LESART, [str(LESART), *arguments], environment)

    def until(self, holds: Callable[[], object], what: str) -> None:
        """Read what is written until it is so."""
        ends = time.monotonic() + LONGEST_S
        while not holds():
            assert time.monotonic() < ends, f"{what} did not come; the last bytes were {self.written[-500:]!r}"
            if select.select([self.handle], [], [], 0.02)[0]:
                try:
                    self.written += os.read(self.handle, 65536)
                except OSError:  # the other end is closed
                    time.sleep(0.02)

    def seen(self, words: str) -> None:
        """Until some words stand there; styles may lie between letters of different kinds, not within a word."""
        self.until(lambda: words.encode() in self.written, words)

    def signal(self, number: int) -> None:
        os.kill(self.pid, number)

    def is_asleep(self) -> bool:
        """Is the process stopped?"""
        return Path(f"/proc/{self.pid}/stat").read_text().rpartition(")")[2].split()[0] == "T"

    def ended(self) -> int:
        """Its exit code, once it has ended; below 0 where a signal did it."""

        def is_over() -> bool:
            if self._code is None:
                pid, status = os.waitpid(self.pid, os.WNOHANG)
                self._code = os.waitstatus_to_exitcode(status) if pid else None
            return self._code is not None

        self.until(is_over, "the end")
        assert self._code is not None
        return self._code

    def close(self) -> None:
        if self._code is None:
            os.kill(self.pid, signal.SIGKILL)
            os.waitpid(self.pid, 0)
        os.close(self.handle)


@pytest.fixture
def bare(yard: Path) -> Iterator[Callable[..., Bare]]:
    """Opens the yard on a pseudo-terminal, its notes on the screen."""
    opened: list[Bare] = []

    def open_it(**more: str) -> Bare:
        opened.append(Bare(["open", str(yard)], yard.parent, more))
        opened[-1].seen("mends")
        return opened[-1]

    yield open_it
    for each in opened:
        each.close()


@pytest.mark.parametrize("number", [signal.SIGTERM, pytest.param(signal.SIGHUP, marks=pytest.mark.long)])
def test_ended_by_a_signal(bare: Callable[..., Bare], yard: Path, number: signal.Signals) -> None:
    """The alternate screen is left, the mouse is let go, the code is the shell's for the signal, unsaved work is
    back."""
    terminal = bare()
    os.write(terminal.handle, b"8ll\t\x1b[C")
    terminal.seen("unsaved")
    terminal.signal(number)
    assert terminal.ended() == 128 + number
    last = terminal.written[-600:]
    assert LEFT in last
    assert MOUSE_OFF in last
    assert b"Traceback" not in terminal.written
    assert "Unsaved work of the last run is back" in open_desk(yard).state.message


def test_the_window_is_closed(bare: Callable[..., Bare], yard: Path) -> None:
    """Nothing is left to read from or to write to: it ends, and unsaved work is back."""
    terminal = bare()
    os.write(terminal.handle, b"8ll\t\x1b[C")
    terminal.seen("unsaved")
    handle, terminal.handle = terminal.handle, os.open(os.devnull, os.O_RDONLY)
    os.close(handle)
    assert terminal.ended() == 128 + signal.SIGHUP
    assert "Unsaved work of the last run is back" in open_desk(yard).state.message


@pytest.mark.long
def test_put_to_sleep_and_woken(bare: Callable[..., Bare]) -> None:
    """Asleep the terminal is the shell's; awake the whole screen is drawn again without a key."""
    terminal = bare()
    terminal.signal(signal.SIGTSTP)
    terminal.until(terminal.is_asleep, "sleep")
    terminal.until(lambda: not select.select([terminal.handle], [], [], 0.2)[0], "rest")
    assert LEFT in terminal.written[-600:]
    terminal.written = b""
    terminal.signal(signal.SIGCONT)
    terminal.until(lambda: len(set(re.findall(rb"\x1b\[(\d+);\d+H", terminal.written))) >= 47, "all 47 lines")
    terminal.seen("mends")
    terminal.signal(signal.SIGTERM)
    assert terminal.ended() == 128 + signal.SIGTERM


@pytest.mark.long
def test_no_colours_are_wanted(bare: Callable[..., Bare]) -> None:
    """Every step is drawn in greys, and no colour is sent."""
    terminal = bare(NO_COLOR="1", COLORTERM="truecolor")
    for step, seen in ((b"2", "bridge_ct"), (b"7", "scanned"), (b"8", "loop"), (b"4", "references"), (b"0", "panel")):
        os.write(terminal.handle, step)
        terminal.seen(seen)
    colours = {tuple(found.split(b";")) for found in re.findall(rb"[34]8;2;(\d+;\d+;\d+)", terminal.written)}
    assert colours
    assert all(len(set(colour)) == 1 for colour in colours)
    terminal.signal(signal.SIGTERM)
    assert terminal.ended() == 128 + signal.SIGTERM


@pytest.mark.long
def test_an_empty_no_color_is_none(bare: Callable[..., Bare]) -> None:
    terminal = bare(NO_COLOR="", COLORTERM="truecolor")
    assert any(len(set(found.split(b";"))) > 1 for found in re.findall(rb"[34]8;2;(\d+;\d+;\d+)", terminal.written))


@pytest.mark.long
def test_a_library_that_prints_past_python(tmp_path: Path, yard_once: Path) -> None:
    """What it writes to standard error, as a foreign backtrace, never lies over the screen; before and after it
    does."""
    shutil.copytree(yard_once, tmp_path / "linden-yard")
    script = tmp_path / "loud.py"
    script.write_text(
        "import os, sys\nfrom lesart.cli.main import main\nfrom lesart.desk import desk\n"
        "step = desk.Desk.open_step\n"
        "def loud(self, number):\n    os.write(2, b'panicked at nowhere')\n    step(self, number)\n"
        "desk.Desk.open_step = loud\ncode = main(['open', 'linden-yard'])\nos.write(2, b'and now it is heard\\n')\nsys.exit(code)\n"
    )
    with Terminal([sys.executable, script], tmp_path) as terminal:
        terminal.until("m mends it")
        terminal.keys("6")
        assert "panicked" not in terminal.until("film strip")
        terminal.keys("C-q")
        assert terminal.exit_code() == 0
        terminal.until("and now it is heard")


def test_a_mistake_while_opening_ends_with_a_report(tmp_path: Path, yard_once: Path) -> None:
    """No dead screen: a sentence, a file, and the code of a mistake. What is raised need not be an ``Exception``."""
    shutil.copytree(yard_once, tmp_path / "linden-yard")
    for kind in ("Exception", "BaseException"):
        script = tmp_path / "broken.py"
        script.write_text(
            f"import sys\nfrom lesart.cli.main import main\nfrom lesart.desk import opening\n"
            f"class Foreign({kind}): pass\n"
            f"def wrong(*_, **__):\n    raise Foreign('out of nowhere')\n"
            f"opening.project_folder = wrong\nsys.exit(main(['open', 'linden-yard']))\n"
        )
        with Terminal([sys.executable, script], tmp_path) as terminal:
            assert terminal.exit_code() == 3
            screen = " ".join(terminal.until("happened.").split())
            report = re.search(r"Lesart made a mistake of its own; (\S+) says what happened\.", screen)
            assert report is not None
            assert "Foreign: out of nowhere" in Path(report[1]).read_text()
            Path(report[1]).unlink()


@pytest.mark.long
def test_nothing_is_left_behind_in_the_temporary_folder(tmp_path: Path, yard_once: Path) -> None:
    """A run that ends well leaves no file of its own anywhere."""
    environment = {**os.environ, "TMPDIR": str(tmp_path)}
    subprocess.run([LESART, "check", yard_once], env=environment, capture_output=True, check=False, timeout=60)
    assert list(tmp_path.iterdir()) == []


@pytest.mark.long
def test_a_window_closed_under_another_program_that_leads_it(tmp_path: Path, yard_once: Path) -> None:
    """As under make: the hang-up goes to who leads the session, which waits for Lesart, and Lesart ends by itself."""
    shutil.copytree(yard_once, tmp_path / "yard")
    leader, window = pty.fork()
    if leader == 0:
        # ``true`` after it, or the shell would become Lesart and lead the session itself.
        script = f"trap '' HUP; {LESART} open {tmp_path / 'yard'}; true"
        environment = {**os.environ, "TERM": "xterm-256color", "COLUMNS": "160", "LINES": "47"}
        os.execve("/bin/sh", ["sh", "-c", script], environment)
    written, ends = b"", time.monotonic() + LONGEST_S
    while b"24-bit" not in written and time.monotonic() < ends:
        if select.select([window], [], [], 0.1)[0]:
            written += os.read(window, 65536)
    assert b"24-bit" in written
    # At rest it writes nothing, so that no failing write tells it either.
    while select.select([window], [], [], AT_REST_S)[0]:
        os.read(window, 65536)
    (lesart,) = psutil.Process(leader).children()
    os.close(window)
    _, alive = psutil.wait_procs([lesart], timeout=20)
    for process in alive:
        process.kill()
    os.waitpid(leader, 0)
    assert alive == []
